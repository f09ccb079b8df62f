/**
 * What can be wrong with a practice machine: how often, how badly, and what it does to the body. Rates and severities are the simulator's
 * own, drawn anew for every machine; none of them is the engine's.
 */
import type { Random } from "#core/random";
import type { Body, TroubleSpec } from "./body";

/** A fault as it was drawn: its public id and what it does. */
export interface DrawnFault {
  readonly id: string;
  readonly act: (body: Body) => void;
  /** How it came, and what was done before it: shares of sudden, with a new material; of cleaned, seat opened. */
  readonly story: { readonly sudden: number; readonly newMaterial: number; readonly cleaned: number; readonly opened: number };
}

/** How a machine has been used: what moves the odds. */
export interface TroubleUsage {
  readonly tubeHours: number;
  readonly ratedTubeHours: number;
  /** Smoke since the last clean, in ply-hours. */
  readonly dose: Readonly<Record<string, number>>;
  readonly seatsOpened: readonly { readonly station: string; readonly daysAgo: number }[];
  readonly daysSinceCoolantChange: number;
}

interface Kind {
  readonly id: string;
  readonly rate: number;
  /** Factor on the rate from how the machine was used. */
  readonly by?: (usage: TroubleUsage, spec: TroubleSpec) => number;
  readonly draw: (random: Random) => (body: Body) => void;
  readonly story: DrawnFault["story"];
}

const DIRT = { sudden: 0.12, newMaterial: 0.05, cleaned: 0.1, opened: 0.06 };
const HARM = { sudden: 0.68, newMaterial: 0.02, cleaned: 0.33, opened: 0.14 };
const WRONG_BACK = { sudden: 0.93, newMaterial: 0.02, cleaned: 0.33, opened: 0.6 };
const DRIFT = { sudden: 0.68, newMaterial: 0.03, cleaned: 0.2, opened: 0.3 };
const AGE = { sudden: 0.06, newMaterial: 0.02, cleaned: 0.3, opened: 0.08 };
const HEAT = { sudden: 0.45, newMaterial: 0.04, cleaned: 0.15, opened: 0.08 };

const between = (random: Random, low: number, high: number) => low + (high - low) * random.uniform();
/** Skewed to the small: most trouble is slight. */
const skewed = (random: Random, low: number, high: number) => low + (high - low) * random.uniform() ** 1.7;
const wear = (share: number) => 0.18 + 0.9 * share * share;

const dirtOf =
  (station: string) =>
  (random: Random): ((body: Body) => void) => {
    const loss = skewed(random, 0.045, 0.42);
    return (body) => {
      body.dirt[station] = (body.dirt[station] ?? 0) + loss;
    };
  };
const harmOf =
  (station: string) =>
  (random: Random): ((body: Body) => void) => {
    const loss = skewed(random, 0.06, 0.5);
    return (body) => {
      body.harm[station] = (body.harm[station] ?? 0) + loss;
    };
  };
const tiltOf =
  (station: string, turned: boolean) =>
  (random: Random): ((body: Body) => void) => {
    const mrad = turned ? skewed(random, 4, 26) : skewed(random, 2.5, 16);
    const angle = 2 * Math.PI * random.uniform();
    return (body) => {
      const [x, y] = body.tilt[station] ?? [0, 0];
      body.tilt[station] = [x + mrad * Math.cos(angle), y + mrad * Math.sin(angle)];
      if (turned) body.turned[station] = true;
    };
  };
const doses =
  (station: string) =>
  (usage: TroubleUsage, spec: TroubleSpec): number =>
    wear((usage.dose[station] ?? 0) / (spec.intervalPlyHours[station] ?? 40));
const seat =
  (station: string) =>
  (usage: TroubleUsage): number =>
    usage.seatsOpened.reduce((sum, s) => (s.station === station ? sum + 6 * Math.exp(-s.daysAgo / 8) : sum), 0.8);

const LENS: readonly Kind[] = [
  { id: "lens-dirty", rate: 0.22, by: doses("lens"), draw: dirtOf("lens"), story: DIRT },
  { id: "lens-damaged", rate: 0.022, draw: harmOf("lens"), story: HARM },
  {
    id: "lens-flipped",
    rate: 0.013,
    by: seat("lens"),
    draw: (random) => {
      const shift = between(random, 1.1, 1.7);
      return (body) => {
        body.lensFlipped = true;
        body.lensShiftMm += shift;
      };
    },
    story: { ...WRONG_BACK, cleaned: 0.55, opened: 0.4 },
  },
  {
    id: "lens-loose",
    rate: 0.012,
    by: seat("lens"),
    draw: (random) => {
      const loose = between(random, 0.25, 1);
      return (body) => {
        body.lensLoose = loose;
      };
    },
    story: { ...WRONG_BACK, cleaned: 0.5, opened: 0.42 },
  },
  {
    id: "lens-seat",
    rate: 0.005,
    by: seat("lens"),
    draw: (random) => {
      const shift = between(random, 2.5, 8);
      return (body) => {
        body.lensShiftMm += shift;
      };
    },
    story: { ...WRONG_BACK, cleaned: 0.5, opened: 0.45 },
  },
];

const EVERYWHERE: readonly Kind[] = [
  {
    id: "focus-off",
    rate: 0.08,
    draw: (random) => {
      const off = skewed(random, 0.9, 5) * (random.uniform() < 0.5 ? -1 : 1);
      return (body) => {
        body.focusMm += off;
      };
    },
    story: { sudden: 0.74, newMaterial: 0.15, cleaned: 0.22, opened: 0.28 },
  },
  {
    id: "bed-uneven",
    rate: 0.045,
    draw: (random) => {
      const off = skewed(random, 1.4, 6);
      const worst = random.uniform() < 0.5 ? "side" : "corner";
      return (body) => {
        body.bedMm = off;
        body.bedWorst = worst;
      };
    },
    story: { sudden: 0.6, newMaterial: 0.1, cleaned: 0.45, opened: 0.06 },
  },
  {
    id: "material-varies",
    rate: 0.06,
    draw: (random) => {
      const hard = skewed(random, 0.06, 0.36);
      const patches = between(random, 0.2, 1);
      return (body) => {
        body.sheetLn += hard;
        body.sheetPatches = hard * patches;
      };
    },
    story: { sudden: 0.25, newMaterial: 0.66, cleaned: 0.1, opened: 0.03 },
  },
  {
    id: "settings-wrong",
    rate: 0.045,
    draw: (random) => {
      const ln = skewed(random, 0.09, 0.5);
      return (body) => {
        body.settingsLn += ln;
      };
    },
    story: { sudden: 0.78, newMaterial: 0.18, cleaned: 0.18, opened: 0.08 },
  },
  {
    id: "power-left-low",
    rate: 0.02,
    draw: (random) => {
      const ln = Math.log(between(random, 0.55, 0.92));
      return (body) => {
        body.limitLn += ln;
      };
    },
    story: { sudden: 0.95, newMaterial: 0.02, cleaned: 0.25, opened: 0.62 },
  },
  {
    id: "air-weak",
    rate: 0.05,
    draw: (random) => {
      const share = between(random, 0.02, 0.6);
      return (body) => {
        body.air = share;
      };
    },
    story: { sudden: 0.5, newMaterial: 0.05, cleaned: 0.28, opened: 0.15 },
  },
  {
    id: "nozzle-blocked",
    rate: 0.06,
    by: doses("nozzle"),
    draw: (random) => {
      const free = between(random, 0.2, 0.75);
      return (body) => {
        body.bore = free;
      };
    },
    story: DIRT,
  },
  {
    id: "nozzle-clip",
    rate: 0.03,
    by: seat("nozzle"),
    draw: (random) => {
      const off = between(random, 0.4, 1.4);
      return (body) => {
        body.boreOffMm = off;
      };
    },
    story: DRIFT,
  },
  {
    id: "tube-aged",
    rate: 0.2,
    by: ({ tubeHours, ratedTubeHours }) => Math.min(3, (tubeHours / ratedTubeHours) ** 3),
    draw: (random) => {
      const loss = skewed(random, 0.06, 0.55);
      return (body) => {
        body.tubeLn += loss;
      };
    },
    story: AGE,
  },
  {
    id: "tube-mode",
    rate: 0.01,
    draw: (random) => {
      const loss = skewed(random, 0.06, 0.3);
      return (body) => {
        body.modeLn += loss;
      };
    },
    story: HARM,
  },
  {
    id: "supply-weak",
    rate: 0.013,
    draw: (random) => {
      const share = between(random, 0.65, 0.94);
      const unsteady = random.uniform() < 0.35;
      return (body) => {
        body.currentShare = share;
        body.isUnsteady = unsteady;
      };
    },
    story: HARM,
  },
];

const COOLANT: readonly Kind[] = [
  {
    id: "tube-air",
    rate: 0.015,
    draw: (random) => {
      const share = between(random, 0.2, 0.9);
      return (body) => {
        body.airInTube = share;
      };
    },
    story: HARM,
  },
  {
    id: "coolant-warm",
    rate: 0.04,
    draw: (random) => {
      const above = between(random, 5, 16);
      return (body) => {
        body.coolantC += above;
      };
    },
    story: HEAT,
  },
  {
    id: "coolant-flow",
    rate: 0.02,
    draw: (random) => {
      const share = between(random, 0.15, 0.7);
      return (body) => {
        body.flowShare = share;
        body.coolantC += 6 * (1 - share);
      };
    },
    story: { ...HARM, sudden: 0.55 },
  },
  {
    id: "coolant-foul",
    rate: 0.025,
    by: ({ daysSinceCoolantChange }) => wear(daysSinceCoolantChange / 180),
    draw: (random) => {
      const loss = skewed(random, 0.03, 0.14);
      return (body) => {
        body.foulLn += loss;
      };
    },
    story: AGE,
  },
];
const FINS: readonly Kind[] = [
  {
    id: "fins-dirty",
    rate: 0.055,
    draw: (random) => {
      const loss = skewed(random, 0.04, 0.2);
      return (body) => {
        body.finsLn += loss;
      };
    },
    story: DIRT,
  },
];

/** Every kind of trouble a machine of this build can have. */
function kindsOf(spec: TroubleSpec): Kind[] {
  const mirrors = spec.stations.filter((s) => s.role === "mirror");
  const head = mirrors.at(-1)?.id;
  const mirrorKinds = mirrors.flatMap(({ id }): Kind[] => {
    const k = id.replace("mirror-", "");
    return [
      { id: `mirror-dirty@${k}`, rate: id === head ? 0.14 : 0.075, by: doses(id), draw: dirtOf(id), story: DIRT },
      { id: `mirror-damaged@${k}`, rate: id === head ? 0.013 : 0.007, draw: harmOf(id), story: HARM },
      { id: `mirror-seat@${k}`, rate: 0.012, by: seat(id), draw: tiltOf(id, true), story: WRONG_BACK },
      { id: `aim-off@${k}`, rate: id === head ? 0.015 : 0.045, by: seat(id), draw: tiltOf(id, false), story: DRIFT },
    ];
  });
  const windowKinds = spec.stations
    .filter((s) => s.id === "window" || s.id === "side-window")
    .flatMap(({ id }): Kind[] => [
      { id: `${id}-dirty`, rate: id === "window" ? 0.03 : 0.06, by: doses(id), draw: dirtOf(id), story: DIRT },
      { id: `${id}-damaged`, rate: id === "window" ? 0.006 : 0.01, draw: harmOf(id), story: HARM },
    ]);
  return [
    ...mirrorKinds,
    ...windowKinds,
    { id: "aim-off@0", rate: 0.012, draw: tiltOf("tube", false), story: DRIFT },
    ...LENS,
    ...EVERYWHERE,
    ...(spec.systems.includes("coolant") ? COOLANT : []),
    ...(spec.systems.includes("fins") ? FINS : []),
  ];
}

/** Odds of each fault of a machine that was used so. */
export const oddsOf = (spec: TroubleSpec, usage: TroubleUsage): { readonly id: string; readonly odds: number }[] =>
  kindsOf(spec).map((k) => ({ id: k.id, odds: oddsOfKind(k, spec, usage) }));

const oddsOfKind = ({ id, rate, by }: Kind, spec: TroubleSpec, usage: TroubleUsage): number =>
  rate * (by?.(usage, spec) ?? 1) * (spec.rateFactor?.(id) ?? 1);

/** Draws so many different faults by their odds. */
export function drawFaults(spec: TroubleSpec, usage: TroubleUsage, count: number, random: Random): DrawnFault[] {
  const left = kindsOf(spec).map((kind) => ({ kind, odds: oddsOfKind(kind, spec, usage) }));
  const drawn: DrawnFault[] = [];
  while (drawn.length < count && left.length > 0) {
    let u = random.uniform() * left.reduce((sum, l) => sum + l.odds, 0);
    const at = left.findIndex((l) => {
      u -= l.odds;
      return u <= 0;
    });
    const [picked] = left.splice(at < 0 ? left.length - 1 : at, 1);
    if (picked) drawn.push({ id: picked.kind.id, act: picked.kind.draw(random), story: picked.kind.story });
  }
  return drawn;
}
