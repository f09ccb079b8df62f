/** Dry and dirty first: crumbs, soot, bed. What is raised here lands on optics, so it comes before them. */
import type { ProcedureSpec, StepSpec } from "#core/rounds";

const CHEMICALS = "Read the label. Chemical gloves and goggles, outdoors or in a draught, nothing else in the bucket.";

export const tray: ProcedureSpec = {
  id: "tray",
  name: "Tray and floor",
  area: "dirt",
  station: "tray",
  steps: [
    {
      id: "embers",
      kind: "confirm",
      minutes: 0.5,
      title: "Look for embers first.",
      text: "Torch into the tray and under the bed. Anything that glows or is warm goes into water before a vacuum comes near: a vacuum fans an ember into a fire.",
      caution: "Extinguisher at hand. Mask on: soot is fine dust.",
      tick: "Cold, nothing glows",
      tools: ["torch"],
      supplies: ["dust mask"],
    },
    {
      id: "vacuum",
      minutes: 3,
      title: "Tray out: crumbs, vacuum, then wipe the floor.",
      text: "Bed lifted or tray pulled. Crumbs out, vacuum top to bottom with the brush in front, then the floor under the bed wiped: soap after wood. Small parts that fell through go into a dish, not into the hose. Under the bed is where fires start.",
      surface: "painted-cabinet",
      agents: [["vacuum"], ["soft-brush"], ["soapy-water", "damp-cloth"]],
      service: "cleaned",
    },
  ],
};

/** Weekly, in the machine; what stays sticky waits for the deep clean. */
export const slatsWipe: ProcedureSpec = {
  id: "slats-wipe",
  name: "Slats, a wipe",
  area: "bed",
  station: "bed",
  when: { bed: ["slats"] },
  steps: [
    {
      id: "wipe",
      minutes: 2,
      title: "Wipe the slats, one by one.",
      text: "An alcohol cloth for light dirt, along each slat and its edge. Still sticky after that: the deep clean, not more alcohol.",
      surface: "slats",
      agents: [["isopropyl"], ["dry-cloth"]],
      caution: "Alcohol on the cloth; edges cut: gloves. It must dry before power.",
      service: "cleaned",
    },
  ],
};

const side = (n: number, name: string): StepSpec => ({
  id: `side-${n}`,
  minutes: 4.5,
  when: { bed: ["honeycomb"] },
  title: `Soak on the ${name} side.`,
  text: "Stand it on this side, wet it well, a quarter of the time. Fifteen to twenty minutes in all, so that each of the four sides has its share.",
  timer: { seconds: 270, name: `${name} side` },
  drawing: "bed-sides",
});

export const bed: ProcedureSpec = {
  id: "bed",
  name: "Bed, deep clean",
  area: "bed",
  station: "bed",
  steps: [
    {
      id: "found",
      kind: "grade",
      phase: "as-found",
      minutes: 0.5,
      title: "How dirty is the bed?",
      text: "Hold the honeycomb against the light: are cells closed? A honeycomb is a consumable: keep an old one for dirty jobs.",
    },
    {
      id: "out",
      minutes: 1.5,
      title: "Bed out of the machine.",
      text: "Both hands, level. No liquid and no spray inside the machine. Foil edges cut: gloves.",
      caution: "Water near mains: the bed is washed elsewhere.",
    },
    {
      id: "patch",
      kind: "choice",
      minutes: 1,
      when: { bed: ["honeycomb"] },
      title: "Two corners: what did your agent do?",
      text: "Water only on one corner, as a control; the strong agent you think of, if any, on another. Foil that turns grey or fizzes is being etched.",
      surface: "bed-resin",
      agents: [["tap-water"]],
      caution: CHEMICALS,
      seen: [
        { id: "soap", label: "I use soap only" },
        { id: "stood", label: "stood it" },
        { id: "etched", label: "grey or fizzing", leads: "Refused for this bed: dish soap only. Rinse that corner fully now." },
      ],
    },
    {
      id: "resin",
      minutes: 3,
      when: { bed: ["honeycomb"] },
      title: "Wood resin: hot water, much dish soap.",
      text: "Wet it well, cells too. It softens while the sides soak.",
      surface: "bed-resin",
      agents: [["dish-soap", "wheel-cleaner"]],
      caution: CHEMICALS,
    },
    {
      id: "strong",
      minutes: 3,
      when: { bed: ["honeycomb"] },
      asked: [{ step: "patch", said: ["stood"] }],
      title: "The strong agent that the patch stood.",
      text: "Oven cleaner or diluted bleach, never both, never one after the other without a full rinse between. Upwind, the shortest time that works, then a full rinse. The milder-smelling diluted one costs less by volume; the spray needs no mixing.",
      surface: "bed-resin",
      agents: [["oven-cleaner", "hypochlorite"]],
      meets: ["patch-tested"],
      caution: `${CHEMICALS} Caustic gives off hydrogen in thin foil: no flame near.`,
    },
    {
      id: "gum",
      minutes: 2,
      when: { bed: ["honeycomb"] },
      title: "Acrylic, glue, plastic: soap first, solvent seldom.",
      text: "What soap leaves can take solvent sprayed on outdoors, respirator on, for a short time: a long soak loosens the foil's glue and dulls its dye. No such residue: go straight on.",
      surface: "bed-gum",
      agents: [["dish-soap"]],
      caution: CHEMICALS,
    },
    side(1, "first"),
    side(2, "second"),
    side(3, "third"),
    side(4, "fourth"),
    {
      id: "slats",
      minutes: 8,
      when: { bed: ["slats"] },
      title: "Slats: degreasing dish spray, rinse, dry.",
      text: "Spray on, five to ten minutes, rinse, dry at once. Lay them down in their order.",
      surface: "slats",
      agents: [["degreasing-dish-spray", "dish-soap", "isopropyl"]],
      timer: { seconds: 420, name: "slats" },
    },
    {
      id: "rinse",
      minutes: 6,
      title: "Rinse, turn it over: the back the same, rinse again.",
      text: "Agent on the back for the same time; before the second rinse look for patches you missed. A jet for resin that holds, low pressure where the foil is thin; without a washer a pipe cleaner per cell. Repeat for stains. Stains that stay are fine.",
      surface: "bed-resin",
      agents: [["tap-water"]],
      service: "cleaned",
    },
    {
      id: "left",
      kind: "grade",
      phase: "as-left",
      minutes: 0.5,
      title: "And now? Grade the bed as you leave it.",
      text: "Dry, cells open, lies flat. Then back into the machine; what you cut next is focused on it.",
    },
  ],
};
