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
      title: "Vacuum cabinet, tray and the floor under the bed.",
      text: "Top to bottom, brush in front. Small parts that fell through go into a dish, not into the hose. Under the bed is where fires start.",
      surface: "painted-cabinet",
      agents: [["vacuum"], ["soft-brush"]],
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
      minutes: 1,
      when: { bed: ["honeycomb"] },
      title: "Two corners: one with water only.",
      text: "Water alone on one corner as a control, your agent on another. Foil that turns grey or fizzes is being etched: stay with dish soap.",
      surface: "bed-resin",
      agents: [["tap-water"]],
    },
    {
      id: "resin",
      minutes: 3,
      when: { bed: ["honeycomb"] },
      title: "Wood resin: hot water, much dish soap.",
      text: "Caustic and bleach both etch thin foil: only if the patch stood it, and then the shortest time that works. Never one after the other without a full rinse between.",
      surface: "bed-resin",
      agents: [["dish-soap", "wheel-cleaner"]],
      caution: CHEMICALS,
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
      minutes: 4,
      title: "Rinse, turn it over, rinse again.",
      text: "A jet for resin that holds, low pressure where the foil is thin; without a washer a pipe cleaner per cell. Repeat for stains. Stains that stay are fine.",
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
