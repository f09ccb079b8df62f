/** What the machine sees by: encoder strip, camera, homing mark, sensor windows. */
import type { Checks, Faults, Repairs, Signs } from "./definition";
import { shows } from "./showing";

export const sensingChecks = {
  "strip-look": {
    title: "Look at the encoder strip",
    how: "Unplugged, torch, both faces. Dust on a fingertip means dust on the strip.",
    needs: "encoder",
    kind: "ordinal",
    sight: true,
    minutes: 6,
    symptom: "motion",
    outcomes: { clean: { leak: 0.9, label: "clean", short: "strip clean" }, dirty: { leak: 0.1, label: "dirty", short: "strip dirty" } },
  },
  "reader-look": {
    title: "Torch through the reader's slot",
    how: "Unplugged, the reader lifted clear of the strip: dust or a veil in the slot? A clean strip does not clear the reader.",
    needs: "encoder",
    kind: "ordinal",
    sight: true,
    minutes: 4,
    symptom: "motion",
    outcomes: {
      clear: { leak: 0.94, label: "clear", short: "reader clear" },
      dusty: { leak: 0.06, label: "dusty", short: "reader dusty" },
    },
  },
  homing: {
    title: "Does it go back and forth to find home?",
    how: "Watch it when it starts.",
    needs: "camera",
    kind: "ordinal",
    minutes: 0,
    symptom: "sensing",
    outcomes: { fine: { leak: 0.98, label: "fine", short: "homing fine" }, hunts: { leak: 0.02, label: "hunts", short: "homing hunts" } },
  },
  "camera-picture": {
    title: "Look at the camera picture",
    how: "Lid closed, light on.",
    needs: "camera",
    kind: "ordinal",
    sight: true,
    minutes: 0.5,
    symptom: "sensing",
    outcomes: {
      clear: { leak: 0.96, label: "clear", short: "camera clear" },
      cloudy: { leak: 0.04, label: "cloudy", short: "camera cloudy" },
    },
  },
  "height-sense": {
    title: "Measure a known sheet",
    how: "Does the machine read its thickness right?",
    needs: "camera",
    kind: "ordinal",
    minutes: 1,
    symptom: "sensing",
    outcomes: {
      right: { leak: 0.97, label: "right", short: "height read right" },
      wrong: { leak: 0.03, label: "wrong", short: "height read wrong" },
    },
  },
} as const satisfies Checks;

export const sensingRepairs = {
  "clean-encoder": { name: "Wipe the encoder strip", minutes: 12, parts: ["encoder"] },
  "clean-reader": { name: "Pull a soaked strip through the encoder's reader", minutes: 10, parts: ["encoder-reader"] },
  "clean-camera": { name: "Wipe camera and mark", minutes: 5, parts: ["camera"] },
} as const satisfies Repairs;

export const sensingFaults = {
  "encoder-dirty": {
    name: "Encoder strip dirty",
    says: "the encoder strip is dirty",
    station: "encoder",
    loss: [0, 0],
    baseRate: 0.05,
    usage: "dose",
    repair: "clean-encoder",
    reason: "The strip times the firing; a blotch across it shifts lines.",
    symptoms: { motion: 1 },
    effects: { "strip-look": shows([0.1, 0.9], [0.03, 0.97]), "raster-edge": shows([0.3, 0.35, 0.35], [0.08, 0.3, 0.62]) },
  },
  "reader-dirty": {
    name: "Encoder reader dirty",
    says: "the encoder's reader is dirty",
    station: "encoder",
    loss: [0, 0],
    baseRate: 0.02,
    usage: "dose",
    repair: "clean-reader",
    reason: "Dust in the reader's slot drops counts however clean the strip is.",
    symptoms: { motion: 1 },
    effects: { "reader-look": shows([0.12, 0.88], [0.04, 0.96]), "raster-edge": shows([0.35, 0.3, 0.35], [0.1, 0.25, 0.65]) },
  },
  "camera-dirty": {
    name: "Camera dirty",
    says: "the camera is dirty",
    station: "camera",
    loss: [0, 0],
    baseRate: 0.04,
    usage: "dose",
    repair: "clean-camera",
    reason: "Smoke settles on the lid camera.",
    symptoms: { sensing: 1 },
    effects: { "camera-picture": shows([0.15, 0.85], [0.04, 0.96]), homing: shows([0.7, 0.3], [0.4, 0.6]) },
  },
  "homing-mark-dirty": {
    name: "Homing mark dirty",
    says: "the homing mark is dirty",
    station: "camera",
    loss: [0, 0],
    baseRate: 0.03,
    usage: "dose",
    repair: "clean-camera",
    reason: "A stained mark is not found at start-up.",
    symptoms: { sensing: 1 },
    effects: { homing: shows([0.2, 0.8], [0.05, 0.95]) },
  },
  "sensor-window-dirty": {
    name: "Sensor windows dirty",
    says: "the sensor windows are dirty",
    station: "camera",
    loss: [0, 0],
    baseRate: 0.03,
    usage: "dose",
    repair: "clean-camera",
    reason: "The two small windows under the head fog up and the height reads wrong.",
    symptoms: { sensing: 1 },
    effects: { "height-sense": shows([0.15, 0.85], [0.04, 0.96]), "focus-gauge": shows([0.6, 0.4], [0.35, 0.65]) },
  },
} satisfies Faults;

export const sensingSigns = {
  "cloudy-camera": {
    name: "Camera picture cloudy, homing hunts",
    title: "Cloudy camera",
    symptom: "sensing",
    findings: [{ check: "camera-picture", outcome: "cloudy" }],
  },
  "height-wrong": {
    name: "Thickness measured wrong",
    title: "Height read wrong",
    symptom: "sensing",
    findings: [{ check: "height-sense", outcome: "wrong" }],
  },
} satisfies Signs;
