/** Dry and dirty first: crumbs, soot, bed. What is raised here lands on optics, so it comes before them. */
import type { Need, ProcedureSpec, StepSpec } from "#core/rounds";

const CHEMICALS = "Read the label. Wear chemical gloves and goggles, work outdoors or in a draught, and put nothing else into the bucket.";

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
      text: "Shine the torch into the tray and under the bed. Put anything that glows or is warm into water before a vacuum comes near: a vacuum fans an ember into a fire.",
      caution: "Have the extinguisher at hand and a mask on: soot is fine dust.",
      tick: "Cold, and nothing glows",
      tools: ["torch"],
      gear: ["dust mask"],
    },
    {
      id: "vacuum",
      minutes: 3,
      title: "Empty the tray, vacuum, then wipe the floor.",
      text: "Lift the bed or pull the tray. Count its screws before you pull it. Take the crumbs out, vacuum from top to bottom with the brush in front, then wipe the floor under the bed; after wood use soap. Put small parts that fell through into a dish, not into the hose. Fires start under the bed.",
      surface: "painted-cabinet",
      agents: [["vacuum"], ["soft-brush"], ["soapy-water", "damp-cloth"]],
      service: "cleaned",
    },
  ],
};

/** Weekly, in the machine; what stays sticky waits for the deep clean. */
export const slatsWipe: ProcedureSpec = {
  id: "slats-wipe",
  name: "Slats, wiped",
  area: "bed",
  station: "bed",
  when: { bed: ["slats"] },
  steps: [
    {
      id: "wipe",
      minutes: 2,
      title: "Wipe the slats, one by one.",
      text: "For light dirt wipe along each slat and its edge with an alcohol cloth. If a slat is still sticky, it needs the deep clean, not more alcohol.",
      surface: "slats",
      agents: [["isopropyl"], ["dry-cloth"]],
      caution: "Put the alcohol on the cloth. The edges are sharp. Wear gloves.",
      service: "cleaned",
    },
  ],
};

const RINSED = "Rinsed until nothing foams, smells or feels slippery";

/** One wash of a honeycomb: the agent on, its soak by sides, and the rinse that has to be ticked before anything else may follow. */
function wash(id: string, asked: readonly Need[] | undefined, on: Omit<StepSpec, "id" | "kind">, soakSeconds: number): StepSpec[] {
  const when = { bed: ["honeycomb"] } as const;
  const common = { when, ...(asked ? { asked } : {}) };
  const side = (n: number, name: string): StepSpec => ({
    ...common,
    id: `${id}-side-${n}`,
    minutes: soakSeconds / 60,
    title: `Let it soak standing on its ${name} side.`,
    text: "Wet it once more and stand it on this side for a quarter of the time, so that each of the four sides has its share. Never let it dry on.",
    timer: { seconds: soakSeconds, name: `${name} side` },
    drawing: "bed-sides",
    ...(on.gear ? { gear: on.gear } : {}),
    ...(on.caution ? { caution: on.caution } : {}),
    needs: { out: ["bed"] },
  });
  return [
    { ...common, ...on, id, needs: { out: ["bed"] } },
    side(1, "first"),
    side(2, "second"),
    side(3, "third"),
    side(4, "fourth"),
    {
      ...common,
      id: `${id}-back`,
      minutes: (4 * soakSeconds) / 60 + 1,
      title: "Turn it over: rinse, then the same on the back.",
      text: "Rinse the front. Turn the bed over, wet the back with the same cleaner, and let it soak for as long, turned by quarters. Before you rinse it look for patches you missed.",
      timer: { seconds: 4 * soakSeconds, name: "back" },
      drawing: "bed-sides",
      ...(on.gear ? { gear: on.gear } : {}),
      ...(on.caution ? { caution: on.caution } : {}),
      needs: { out: ["bed"] },
    },
    rinse(`${id}-rinse`, common),
  ];
}

function rinse(id: string, common: Partial<StepSpec>): StepSpec {
  return {
    kind: "confirm",
    minutes: 3,
    surface: "bed-resin",
    agents: [["tap-water"]],
    needs: { out: ["bed"] },
    ...common,
    id,
    title: "Rinse it off completely.",
    text: "Use a jet for resin that holds, low pressure where the foil is thin. Without a washer use a pipe cleaner in each cell. Rinse both faces until the water runs clear.",
    caution:
      "What is left of one cleaner can react with the next and give off poisonous gas. Nothing else goes on before this rinse is done.",
    tick: RINSED,
    rinses: true,
  };
}

const HONEYCOMB = { bed: ["honeycomb"] } as const;
const OUT = { out: ["bed"] } as const;

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
      title: "Take the bed out of the machine.",
      text: "Use both hands and keep it level. Let no liquid and no spray into the machine.",
      caution: "The foil's edges are sharp. Wear gloves. Wash the bed somewhere else: water and mains do not go together.",
      leaves: { out: "bed" },
    },
    ...wash(
      "soap",
      undefined,
      {
        minutes: 3,
        title: "Wash it with hot water and much dish soap.",
        text: "Wet it well, the cells too. Soap loosens wood resin while the sides soak, and it harms nothing. It soaks fifteen to twenty minutes in all.",
        surface: "bed-resin",
        agents: [["dish-soap"]],
      },
      270,
    ),
    {
      id: "result",
      kind: "choice",
      minutes: 0.5,
      when: HONEYCOMB,
      title: "What does it look like after the soap?",
      text: "Hold it against the light. Stains that stay are fine: only closed cells and sticky foil matter.",
      seen: [
        { id: "clean", label: "cells open, stains at most" },
        { id: "resin", label: "wood resin is still on it" },
        { id: "gum", label: "acrylic, glue or plastic is still on it" },
      ],
      needs: OUT,
    },
    {
      id: "patch",
      kind: "choice",
      minutes: 3,
      when: HONEYCOMB,
      asked: [{ step: "result", said: ["resin"] }],
      title: "Try the strong cleaner on one corner first.",
      text: "Put the cleaner you would use on one corner, and water only on another to compare. Wait as long as its label says. If the foil turns grey or fizzes, it is being etched. Rinse both corners completely.",
      surface: "bed-resin",
      agents: [["tap-water"]],
      gear: ["chemical gloves", "goggles against splashes"],
      caution: CHEMICALS,
      needs: OUT,
      seen: [
        { id: "stood", label: "it stood the cleaner" },
        {
          id: "etched",
          label: "grey or fizzing",
          leads: "Do not use this cleaner on this bed. Rinse that corner completely now, and use dish soap once more.",
        },
        { id: "soap", label: "I stay with soap" },
      ],
    },
    ...wash(
      "strong",
      [{ step: "patch", said: ["stood"] }],
      {
        minutes: 2,
        title: "Put on the one cleaner that the corner stood.",
        text: "Oven cleaner, wheel cleaner or diluted bleach: only the one you tried, and never another after it on the same day. Stand upwind. Use the shortest time that works: rinse before the timers end if it is clean. The one you dilute smells less and goes further; the spray needs no mixing.",
        surface: "bed-resin",
        agents: [["oven-cleaner", "wheel-cleaner", "hypochlorite"]],
        meets: ["patch-tested"],
        gear: ["chemical gloves", "goggles against splashes"],
        caution: `${CHEMICALS} Caustic gives off hydrogen in thin foil: keep flames away. Never bleach after a wheel cleaner: an acid one gives off chlorine.`,
      },
      240,
    ),
    {
      id: "solvent",
      minutes: 3,
      when: HONEYCOMB,
      asked: [{ step: "result", said: ["gum"] }],
      title: "Spray solvent on, outdoors and for a short time.",
      text: "Only on dry foil from which every other cleaner was rinsed. Spray it on, wait a minute, wipe or brush the gum off. A long soak loosens the foil's glue and dulls its dye.",
      surface: "bed-gum",
      agents: [["solvent-spray", "acetone"]],
      meets: ["outdoors"],
      gear: ["chemical gloves", "goggles against splashes", "respirator for solvent vapour"],
      caution: "It burns and its vapour harms you. Work outdoors with the respirator on, away from flames and from the machine.",
      needs: OUT,
    },
    rinse("solvent-rinse", { when: HONEYCOMB, asked: [{ step: "result", said: ["gum"] }], surface: "bed-gum" }),
    {
      id: "slats",
      minutes: 8,
      when: { bed: ["slats"] },
      title: "Spray the slats with degreasing dish spray.",
      text: "Lay them side by side in their order. Spray it on and leave it five to ten minutes. Never let it dry on.",
      surface: "slats",
      agents: [["degreasing-dish-spray", "dish-soap"]],
      timer: { seconds: 420, name: "slats" },
      needs: OUT,
    },
    {
      ...rinse("slats-rinse", { when: { bed: ["slats"] }, surface: "slats" }),
      title: "Rinse the slats completely and dry them at once.",
      text: "Rinse both sides until nothing feels slippery, dry them with a cloth, and lay them down in their order.",
    },
    {
      id: "left",
      kind: "grade",
      phase: "as-left",
      minutes: 0.5,
      title: "Inspect the bed again, now that it is clean.",
      text: "It must be dry, its cells open, and lie flat.",
      needs: OUT,
      service: "cleaned",
    },
    {
      id: "back",
      minutes: 1,
      title: "Put the bed back into the machine.",
      text: "Dry and level, on its supports. Set the focus on the sheet you cut next.",
      leaves: { back: "bed" },
    },
  ],
};
