/** A practice machine in trouble: drawn from a seed, mended part by part, proven by a cut. */
import type { Random } from "#core/random";
import { BED, type Body, effectiveLn, MIDDLE, soundBody, type TroubleSpec } from "./body";
import { type DrawnFault, drawFaults, type TroubleUsage } from "./faults";

export interface TroubledMachine {
  readonly spec: TroubleSpec;
  readonly usage: TroubleUsage;
  /** What is wrong still; a repair takes from it. */
  readonly faults: readonly DrawnFault[];
  /** What ordinary use has laid on each optic (ln). */
  readonly film: Readonly<Record<string, number>>;
  /** Ln effective power its owner's usual cut needs. */
  readonly needLn: number;
}

type Worn = Pick<TroubledMachine, "spec" | "film" | "faults">;

// A machine is never changed, and is asked many things: what they all go by is worked out once.
const bodies = new WeakMap<Worn, Body>();
const strengths = new WeakMap<Worn, number>();
const taken = new WeakMap<Worn, readonly Taken[]>();

/** A machine's body with all that is wrong with it. */
export function bodyOf(m: Worn): Readonly<Body> {
  const known = bodies.get(m);
  if (known) return known;
  const body = soundBody(m.spec);
  for (const [station, loss] of Object.entries(m.film)) body.dirt[station] = loss;
  for (const fault of m.faults) fault.act(body);
  bodies.set(m, body);
  return body;
}

/** Ln effective power where the owner cuts: over the whole bed, the far half counted most, since that is where it is missed. */
export const strength = (m: Worn): number => {
  const known = strengths.get(m);
  if (known !== undefined) return known;
  const body = bodyOf(m);
  const ln = 0.5 * effectiveLn(m.spec, body, MIDDLE) + 0.5 * effectiveLn(m.spec, body, BED.far);
  strengths.set(m, ln);
  return ln;
};

interface Taken {
  readonly fault: DrawnFault;
  /** What would be gained without it (ln). */
  readonly gain: number;
}

/** What each of its faults takes, in their order. */
export function takes(m: Worn): readonly Taken[] {
  const known = taken.get(m);
  if (known) return known;
  const now = strength(m);
  const gains = m.faults.map((fault) => ({ fault, gain: strength({ ...m, faults: m.faults.filter((x) => x !== fault) }) - now }));
  taken.set(m, gains);
  return gains;
}

/** Of its faults those that take most: the strongest, and what is within two points of it. Empty when nothing takes a point. */
export function mainFaults(m: TroubledMachine): string[] {
  const gains = takes(m);
  const most = Math.max(0, ...gains.map((g) => g.gain));
  return most < 0.01 ? [] : gains.filter((g) => g.gain > most - 0.02).map((g) => g.fault.id);
}

/** Strength of the machine with nothing wrong but ordinary film. */
export const soundStrength = (m: TroubledMachine): number => strength({ ...m, faults: [] });

/** Below this there is no weak cut to trace, but none at all. */
const NO_BEAM_LN = -1.2;

const FAULTS_AT_ONCE = [0.62, 0.28, 0.1] as const;

/** Ln power that the film of one interval takes at an optic, and the spread of that from machine to machine (ln). */
const FILM_LN = 0.018;
const FILM_SD = 0.4;
/** Ln effective power that the usual setting leaves, from and over, to what a machine has at the end of its intervals. */
const RESERVE_LN = 0.06;
const RESERVE_OVER = 0.05;

function drawUsage(spec: TroubleSpec, random: Random): TroubleUsage {
  const rated = spec.systems.includes("fins") ? 5000 : 3000;
  const worked = spec.stations.filter((s) => spec.intervalPlyHours[s.id] !== undefined);
  const seats = worked.filter((s) => s.role === "mirror" || s.role === "lens" || s.role === "nozzle");
  return {
    tubeHours: rated * (0.02 + 1.05 * random.uniform()),
    ratedTubeHours: rated,
    dose: Object.fromEntries(worked.map((s) => [s.id, (spec.intervalPlyHours[s.id] as number) * 1.7 * random.uniform() ** 1.3])),
    seatsOpened: seats.flatMap((s) => (random.uniform() < 0.14 ? [{ station: s.id, daysAgo: 30 * random.uniform() ** 2 }] : [])),
    daysSinceCoolantChange: 380 * random.uniform(),
  };
}

/** A machine whose usual cut fails, drawn from the generator. */
export function drawTroubled(spec: TroubleSpec, random: Random): TroubledMachine {
  // As often as they are in trouble together: drawn once, since of many faults more machines are weak.
  const u = random.uniform();
  const count = u < FAULTS_AT_ONCE[0] ? 1 : u < FAULTS_AT_ONCE[0] + FAULTS_AT_ONCE[1] ? 2 : 3;
  for (;;) {
    const usage = drawUsage(spec, random);
    const film = Object.fromEntries(
      Object.entries(usage.dose).map(([station, dose]) => [
        station,
        FILM_LN * Math.min(1, dose / (spec.intervalPlyHours[station] as number)) * Math.exp(FILM_SD * random.normal()),
      ]),
    );
    const filmed = Object.fromEntries(Object.keys(film).map((station) => [station, FILM_LN * Math.exp(FILM_SD ** 2 / 2)]));
    const needLn = strength({ spec, film: filmed, faults: [] }) - RESERVE_LN - RESERVE_OVER * random.uniform();
    const m: TroubledMachine = { spec, usage, film, needLn, faults: drawFaults(spec, usage, count, random) };
    if (strength(m) < needLn && strength(m) > NO_BEAM_LN && mainFaults(m).length > 0) return m;
  }
}

/** How often a repair that fits mends what it is for. */
const MENDS = 0.96;
/** The machine after repairs: what they are for is gone nearly always, and what was cleaned is clean. */
export function mended(
  m: TroubledMachine,
  faults: ReadonlySet<string>,
  cleaned: readonly string[],
  random: Pick<Random, "uniform">,
): TroubledMachine {
  const film = { ...m.film };
  const dose = { ...m.usage.dose };
  for (const station of cleaned) {
    if (film[station] === undefined) continue;
    film[station] = 0.001;
    dose[station] = 0;
  }
  return { ...m, film, usage: { ...m.usage, dose }, faults: m.faults.filter((f) => !faults.has(f.id) || random.uniform() >= MENDS) };
}
