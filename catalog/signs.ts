/** What an owner notices, in the trade's words, and the findings it amounts to. The first step of a trace. */
import type { Symptom } from "#core/trace";

export interface Sign {
  readonly id: string;
  readonly name: string;
  readonly title: string;
  readonly symptom: Symptom;
  readonly findings: readonly { readonly check: string; readonly outcome: string }[];
}

export const signs: readonly Sign[] = [
  {
    id: "slowly-weaker",
    name: "No longer cuts through, slowly worse",
    title: "Slowly weaker",
    symptom: "power",
    findings: [
      { check: "known-cut", outcome: "hangs" },
      { check: "onset", outcome: "gradual" },
    ],
  },
  {
    id: "suddenly-weaker",
    name: "No longer cuts through, all at once",
    title: "Suddenly weaker",
    symptom: "power",
    findings: [
      { check: "known-cut", outcome: "part-through" },
      { check: "onset", outcome: "sudden" },
    ],
  },
  {
    id: "after-cleaning",
    name: "Weak right after cleaning",
    title: "Weak after cleaning",
    symptom: "power",
    findings: [
      { check: "known-cut", outcome: "part-through" },
      { check: "onset", outcome: "sudden" },
      { check: "last-touched", outcome: "seat-opened" },
    ],
  },
  {
    id: "far-corner",
    name: "Weaker far from the tube, or in one corner",
    title: "Weak at the far corner",
    symptom: "power",
    findings: [
      { check: "known-cut", outcome: "hangs" },
      { check: "bed-map", outcome: "falls-with-distance" },
    ],
  },
  {
    id: "random-patches",
    name: "Weaker in random patches",
    title: "Weak in patches",
    symptom: "power",
    findings: [
      { check: "known-cut", outcome: "hangs" },
      { check: "bed-map", outcome: "patchy" },
    ],
  },
  {
    id: "fades",
    name: "Fades in a long run, recovers after a rest",
    title: "Fades in long runs",
    symptom: "power",
    findings: [{ check: "in-run", outcome: "fades" }],
  },
  {
    id: "flame",
    name: "More flame and soot, or char",
    title: "More flame at the cut",
    symptom: "cut-quality",
    findings: [{ check: "flame", outcome: "more" }],
  },
  {
    id: "nozzle-warm",
    name: "Nozzle warm after a cut",
    title: "Warm nozzle",
    symptom: "power",
    findings: [{ check: "nozzle-touch", outcome: "warm" }],
  },
  {
    id: "odd-mark",
    name: "Mark not round: crescent or double",
    title: "Odd mark",
    symptom: "power",
    findings: [{ check: "nozzle-mark", outcome: "crescent" }],
  },
  {
    id: "blurred",
    name: "Wide kerf, blurred engraving",
    title: "Wide and blurred",
    symptom: "cut-quality",
    findings: [
      { check: "kerf", outcome: "wide" },
      { check: "engraving", outcome: "blurred" },
    ],
  },
  {
    id: "current-low",
    name: "Tube current below its usual",
    title: "Tube current low",
    symptom: "power",
    findings: [{ check: "tube-current", outcome: "low" }],
  },
  {
    id: "tube-weak",
    name: "Current as usual, but weak at the tube",
    title: "Weak at the tube",
    symptom: "power",
    findings: [
      { check: "tube-current", outcome: "normal" },
      { check: "tube-mark", outcome: "weak" },
    ],
  },
  {
    id: "raster-waves",
    name: "Engraved edges wave, lines shift",
    title: "Wavy engraving",
    symptom: "motion",
    findings: [{ check: "raster-edge", outcome: "wavy" }],
  },
  {
    id: "jerky",
    name: "Jerky travel, gaps in an engraved face",
    title: "Jerky travel",
    symptom: "motion",
    findings: [{ check: "bearing-push", outcome: "drags" }],
  },
  {
    id: "pauses",
    name: "Stops to cool down",
    title: "Stops to cool down",
    symptom: "cooling",
    findings: [{ check: "pauses", outcome: "cools-down" }],
  },
  {
    id: "smoke",
    name: "Smoke swirls or lingers",
    title: "Smoke lingers",
    symptom: "smoke",
    findings: [{ check: "smoke", outcome: "lingers" }],
  },
  {
    id: "list-full",
    name: "Controller says no space",
    title: "Controller full",
    symptom: "housekeeping",
    findings: [{ check: "job-list", outcome: "full" }],
  },
  {
    id: "water",
    name: "Water cloudy or coloured",
    title: "Cloudy water",
    symptom: "cooling",
    findings: [{ check: "water-look", outcome: "cloudy" }],
  },
  {
    id: "bubbles",
    name: "Bubbles in the tube",
    title: "Bubbles in the tube",
    symptom: "cooling",
    findings: [{ check: "bubbles", outcome: "yes" }],
  },
  {
    id: "cloudy-camera",
    name: "Camera picture cloudy, homing hunts",
    title: "Cloudy camera",
    symptom: "sensing",
    findings: [{ check: "camera-picture", outcome: "cloudy" }],
  },
  {
    id: "height-wrong",
    name: "Thickness measured wrong",
    title: "Height read wrong",
    symptom: "sensing",
    findings: [{ check: "height-sense", outcome: "wrong" }],
  },
];
