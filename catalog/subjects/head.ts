/** Head and nozzle: where the beam leaves. */

import { INSIDE } from "./asking";
import type { Checks, Faults, Repairs, Signs } from "./definition";
import { BUILDS_UP, DRIFTS, POWER, shows } from "./showing";

export const headChecks = {
  "nozzle-mark": {
    fires: true,
    speaksOf: "beam",
    title: "Mark under the nozzle",
    how: "Tape over the nozzle's end, short pulse at 15 to 20 %.",
    caution: INSIDE,
    tools: "packing tape",
    drawing: "tape",
    needs: "nozzle",
    kind: "nominal",
    leakWeight: 0.02,
    minutes: 4,
    symptom: "power",
    outcomes: {
      centred: { leak: 0.91, label: "centred", short: "nozzle mark centred" },
      off: { leak: 0.06, label: "off centre", short: "nozzle mark off" },
      crescent: { leak: 0.02, label: "crescent", short: "nozzle mark a crescent" },
      double: { leak: 0.01, label: "double", short: "nozzle mark double" },
    },
  },
  "nozzle-touch": {
    fires: true,
    title: "Is the nozzle warm after a cut?",
    how: "Beam off. Hover a finger first, then touch.",
    caution: "Beam off and lid interlock open before your hand goes in.",
    needs: "nozzle",
    kind: "ordinal",
    minutes: 0.5,
    symptom: "power",
    outcomes: {
      cool: { leak: 0.9, label: "cool", short: "nozzle cool" },
      warm: { leak: 0.09, label: "warm", short: "nozzle warm" },
      hot: { leak: 0.01, label: "hot", short: "nozzle hot" },
    },
  },
  "nozzle-bore": {
    title: "Look through the nozzle",
    how: "Unplug the machine. Take the nozzle off, look through it at a light, and turn a drill of its size through by hand.",
    needs: "nozzle",
    kind: "ordinal",
    sight: true,
    minutes: 2,
    outcomes: {
      clear: { leak: 0.93, label: "clear", short: "nozzle clear" },
      narrowed: { leak: 0.06, label: "narrowed", short: "nozzle narrowed" },
      blocked: { leak: 0.01, label: "blocked", short: "nozzle blocked" },
    },
  },
} as const satisfies Checks;

export const headRepairs = {
  "centre-nozzle": { movesBeam: true, name: "Centre the nozzle", minutes: 12 },
  "clean-nozzle": { movesBeam: true, name: "Clear the nozzle", minutes: 6, parts: ["nozzle"] },
} as const satisfies Repairs;

export const headFaults = {
  "nozzle-clip": {
    name: "Nozzle off axis",
    says: "lens or nozzle sits off the axis",
    station: "nozzle",
    lossAt: "nozzle",
    loss: [0.08, 0.4],
    lossSd: [0.05, 0.25],
    movesBeam: true,
    heavyShare: 0.5,
    baseRate: 0.03,
    usage: "seat",
    repair: "centre-nozzle",
    reason: "Lens or nozzle sits off the axis although the aim is good.",
    symptoms: POWER,
    effects: {
      ...DRIFTS,
      "bed-map": shows([0.82, 0.05, 0.05, 0.04, 0.04], [0.82, 0.05, 0.05, 0.04, 0.04]),
      "nozzle-mark": shows([0.06, 0.3, 0.62, 0.02], [0.02, 0.08, 0.88, 0.02]),
      "nozzle-touch": shows([0.18, 0.5, 0.32], [0.05, 0.25, 0.7]),
    },
  },
  "nozzle-blocked": {
    name: "Nozzle narrowed",
    says: "the nozzle is narrowed",
    station: "nozzle",
    lossAt: "nozzle",
    loss: [0.08, 0.3],
    lossSd: [0.04, 0.16],
    heavyShare: 0.65,
    baseRate: 0.06,
    usage: "dose",
    repair: "clean-nozzle",
    reason: "Gum and crumbs narrow the bore; acrylic does it fast.",
    symptoms: { power: 0.8, "cut-quality": 0.9 },
    effects: {
      ...BUILDS_UP,
      "nozzle-bore": shows([0.08, 0.85, 0.07], [0.03, 0.45, 0.52]),
      "air-feel": shows([0.4, 0.55, 0.05], [0.12, 0.6, 0.28]),
      flame: shows([0.6, 0.4], [0.3, 0.7]),
      "nozzle-mark": shows([0.45, 0.04, 0.49, 0.02], [0.09, 0.03, 0.86, 0.02]),
      "nozzle-touch": shows([0.45, 0.43, 0.12], [0.1, 0.4, 0.5]),
    },
  },
} satisfies Faults;

export const headSigns = {
  "nozzle-warm": {
    name: "Nozzle warm after a cut",
    title: "Warm nozzle",
    symptom: "power",
    findings: [{ check: "nozzle-touch", outcome: "warm" }],
  },
} satisfies Signs;
