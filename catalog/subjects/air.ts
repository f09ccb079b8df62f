/** Assist air: it keeps the flame out of the cut and smoke off the lens. */
import { tried } from "./asking";
import type { Checks, Faults, Repairs, Signs } from "./definition";
import { FAINT, shows } from "./showing";

export const airChecks = {
  "air-feel": {
    title: "Feel the assist air",
    how: "Air on, beam off, nothing queued. Hold a wetted fingertip a finger's width below the nozzle: is the stream firm?",
    caution:
      "Beam off and nothing queued before your hand goes in. If the nozzle has just cut, it may be hot: hover a finger near it first.",
    needs: "air",
    kind: "ordinal",
    sight: true,
    minutes: 0.5,
    outcomes: {
      strong: { leak: 0.93, label: "strong", short: "air strong" },
      weak: { leak: 0.06, label: "weak", short: "air weak" },
      none: { leak: 0.01, label: "none", short: "no air" },
    },
  },
  "air-line": {
    fires: true,
    title: "Blow the air line through and try",
    how: "Air off. Hose off at the head, no kink along it, blown through, pushed home until a tug holds. Then air on and the usual cut.",
    caution: "Beam and pump off before the hose comes off; exhaust on for the cut, stay with it.",
    tools: "rubber bulb, known sheet",
    needs: "air",
    kind: "ordinal",
    sight: true,
    tries: { outcome: "cuts-now", repair: "restore-air" },
    minutes: 6,
    outcomes: tried("air line blown through, the same", "cuts with the air line blown through"),
  },
  flame: {
    title: "More flame at the cut than usual?",
    how: "From your last cuts: flame, soot, char.",
    needs: "air",
    kind: "ordinal",
    minutes: 0,
    symptom: "cut-quality",
    outcomes: {
      normal: { leak: 0.92, label: "as usual", short: "flame as usual" },
      more: { leak: 0.08, label: "more", short: "more flame" },
    },
  },
} as const satisfies Checks;

export const airRepairs = {
  "restore-air": { name: "Get the air back", minutes: 8, parts: ["air", "air-feel"] },
} as const satisfies Repairs;

export const airFaults = {
  "air-weak": {
    name: "Assist air weak",
    says: "the assist air is weak",
    station: "air",
    loss: [0.08, 0.18],
    lossSd: [0.03, 0.06],
    heavyShare: 0.75,
    baseRate: 0.065,
    repair: "restore-air",
    reason: "A hose full of gum, a slipped collar or a tired pump; the cut chars and flares.",
    symptoms: { power: 0.7, "cut-quality": 1 },
    effects: {
      ...FAINT,
      onset: shows([0.45, 0.5, 0.05], [0.65, 0.3, 0.05]),
      "last-touched": shows([0.55, 0.28, 0.17], [0.5, 0.28, 0.22]),
      "bed-map": shows([0.72, 0.07, 0.05, 0.04, 0.12], [0.75, 0.06, 0.05, 0.04, 0.1]),
      "air-feel": shows([0.12, 0.83, 0.05], [0.03, 0.42, 0.55]),
      // A pump that is tired stays so.
      "air-line": shows([0.5, 0.5], [0.5, 0.5]),
      flame: shows([0.25, 0.75], [0.06, 0.94]),
    },
  },
} satisfies Faults;

export const airSigns = {
  flame: {
    name: "More flame and soot, or char",
    title: "More flame at the cut",
    symptom: "cut-quality",
    findings: [{ check: "flame", outcome: "more" }],
  },
} satisfies Signs;
