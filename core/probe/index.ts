/**
 * # The calorimetric power probe (M3)
 * Answers: how many watts heated a blackened slug, from its temperature over time. Newton's law of cooling with a constant source,
 * C dT/dt = a P - h (T - T_ambient); for a time constant the curve is linear in the start and the power, so least squares gives both, and
 * the time constant itself is searched where the cooling was recorded (Incropera and DeWitt, "Fundamentals of Heat and Mass Transfer",
 * lumped capacitance).
 */

/** A moment of a run: seconds from beam on, °C. */
export interface ProbeSample {
  readonly s: number;
  readonly c: number;
}

/** The slug: aluminium, blackened. Mass in grams, the rest by default. */
export interface ProbeRun {
  readonly samples: readonly ProbeSample[];
  /** The beam was on from 0 s to here. */
  readonly heatS: number;
  readonly ambientC: number;
  readonly massG: number;
  /** J/(kg K). */
  readonly specificHeat?: number | undefined;
  /** Share of the light it takes, and how well that is known. */
  readonly absorptivity?: number | undefined;
  /** Time constant of its cooling, s; needed where no cooling was recorded. */
  readonly timeConstantS?: number | undefined;
  /** The thermometer's end of scale, °C. */
  readonly saturatesC?: number | undefined;
}

export type ProbeResult =
  | {
      readonly kind: "power";
      readonly powerW: number;
      /** Standard error, that of the absorptivity (3 %) included. */
      readonly seW: number;
      readonly timeConstantS: number;
      /** What m c ΔT / (a t) gives, which forgets the heat lost meanwhile. */
      readonly naiveW: number;
      /** The fitted curve at the samples, °C. */
      readonly fitted: readonly ProbeSample[];
    }
  | { readonly kind: "none"; readonly reason: string };

export const ALUMINIUM_J_PER_KG_K = 897;
export const ABSORPTIVITY = 0.95;
const ABSORPTIVITY_SE = 0.03;

const FEWEST_HEATING = 6;
const SHORTEST_S = 8;
/** A good thermometer's own jitter, °C. */
const JITTER_C = 0.15;
/** A fall of more than so many of its jitters below the warmest so far is no heating. */
const FALL_JITTERS = 4;
/** Cooling recorded for this long, and by this much, tells the time constant. */
const TAIL_S = 20;
const TAIL_SAMPLES = 5;

/**
 * A curve as it is pasted: seconds and °C on each line with whatever stands between them; lines without figures are passed over. `wrongLine`
 * is the first, from one, that has other than two figures.
 */
export function readCurve(text: string): { readonly samples: readonly ProbeSample[]; readonly wrongLine: number | undefined } {
  const samples: ProbeSample[] = [];
  let wrongLine: number | undefined;
  for (const [i, line] of text.split(/\r?\n/).entries()) {
    const [s, c, ...more] = line.match(/[+-]?\d+(?:[.,]\d+)?/g)?.map((f) => Number(f.replace(",", "."))) ?? [];
    if (s === undefined) continue;
    if (c === undefined || more.length > 0) wrongLine ??= i + 1;
    else samples.push({ s, c });
  }
  return { samples, wrongLine };
}

const none = (reason: string): ProbeResult => ({ kind: "none", reason });

/** Temperature of the slug at a time. Power in W, times in s. */
export function slugTemperature(run: Omit<ProbeRun, "samples">, powerW: number, timeConstantS: number, s: number): number {
  const heat = ((run.massG / 1000) * (run.specificHeat ?? ALUMINIUM_J_PER_KG_K)) / timeConstantS;
  const risen = (((run.absorptivity ?? ABSORPTIVITY) * powerW) / heat) * shape(s, run.heatS, timeConstantS);
  return run.ambientC + risen;
}

/** Share of the final rise reached at a time: up while the beam is on, decaying after. */
function shape(s: number, heatS: number, tau: number): number {
  if (s <= 0) return 0;
  if (s <= heatS) return 1 - Math.exp(-s / tau);
  return (1 - Math.exp(-heatS / tau)) * Math.exp(-(s - heatS) / tau);
}

/** Fits the power. Rejects runs that are too short, saturated or not rising, each with its reason. */
export function fitProbe(run: ProbeRun): ProbeResult {
  const samples = [...run.samples].sort((a, b) => a.s - b.s);
  const heating = samples.filter((x) => x.s >= 0 && x.s <= run.heatS);
  const objection = objectionTo(run, samples, heating);
  if (objection) return none(objection);
  const tail = samples.filter((x) => x.s > run.heatS);
  const hasTail = tail.length >= TAIL_SAMPLES && (tail.at(-1)?.s ?? 0) - run.heatS >= TAIL_S;
  if (!hasTail && run.timeConstantS === undefined)
    return none("no cooling was recorded: go on for half a minute after the beam, or give the slug's time constant");
  const tau = hasTail ? bestTau(run, samples) : (run.timeConstantS as number);
  const fit = linearFit(run, samples, tau);
  // What the tail leaves open of the time constant is part of the power's error.
  const openTau = hasTail ? tauError(run, samples, tau, fit.variance) : 0.05 * tau;
  const bend = Math.abs(linearFit(run, samples, tau * 1.02).powerW - fit.powerW) / (0.02 * tau);
  const peak = Math.max(...heating.map((x) => x.c));
  const heatJ = (run.massG / 1000) * (run.specificHeat ?? ALUMINIUM_J_PER_KG_K) * (peak - (heating[0]?.c ?? run.ambientC));
  return {
    kind: "power",
    powerW: fit.powerW,
    seW: Math.hypot(fit.seW, bend * openTau, ABSORPTIVITY_SE * fit.powerW),
    timeConstantS: tau,
    naiveW: heatJ / ((run.absorptivity ?? ABSORPTIVITY) * run.heatS),
    fitted: samples.map(({ s }) => ({ s, c: slugTemperature(run, fit.powerW, tau, s) + fit.startC * Math.exp(-Math.max(0, s) / tau) })),
  };
}

function objectionTo(run: ProbeRun, samples: readonly ProbeSample[], heating: readonly ProbeSample[]): string | undefined {
  if (!samples.every((x) => Number.isFinite(x.s) && Number.isFinite(x.c))) return "a sample is not a number";
  if (heating.length < FEWEST_HEATING || run.heatS < SHORTEST_S)
    return `too short: ${FEWEST_HEATING} samples over ${SHORTEST_S} s of heating are needed, ${heating.length} over ${run.heatS} s were found`;
  const top = run.saturatesC ?? Number.POSITIVE_INFINITY;
  if (samples.some((x) => x.c >= top - 0.5)) return `saturated: the thermometer ends at ${top} °C. Let it cool, and heat it for less time`;
  const fall = FALL_JITTERS * jitterOf(heating);
  let warmest = heating[0] as ProbeSample;
  for (const x of heating) {
    if (x.c < warmest.c - fall)
      return `not rising: it fell from ${warmest.c.toFixed(1)} to ${x.c.toFixed(1)} °C at ${x.s.toFixed(0)} s while the beam was on`;
    if (x.c > warmest.c) warmest = x;
  }
  if ((heating.at(-1)?.c ?? 0) - (heating[0]?.c ?? 0) < 1) return "it hardly warmed: was the beam on the slug?";
  return undefined;
}

/**
 * How much one reading of this thermometer jitters, °C: by how its second differences scatter, which a steady rise leaves out, and no less
 * than its steps explain.
 */
function jitterOf(heating: readonly ProbeSample[]): number {
  const values = [...new Set(heating.map((x) => x.c))].sort((a, b) => a - b);
  const steps = values.slice(1).map((v, i) => v - (values[i] as number));
  const step = steps.length > 0 ? Math.min(...steps) : 0;
  const bends = heating.slice(2).map((x, i) => x.c - 2 * (heating[i + 1] as ProbeSample).c + (heating[i] as ProbeSample).c);
  const scatter = Math.sqrt(bends.reduce((sum, b) => sum + b * b, 0) / Math.max(1, bends.length) / 6);
  return Math.max(JITTER_C, Math.min(MOST_STEP_C, step) / Math.sqrt(6), Math.min(MOST_STEP_C, scatter));
}
/** No thermometer is read more coarsely than this, °C. */
const MOST_STEP_C = 1;

interface Fit {
  readonly powerW: number;
  readonly seW: number;
  /** How much warmer than the room it began, °C. */
  readonly startC: number;
  readonly squares: number;
  readonly variance: number;
}

/** Least squares in the start and the power for one time constant. */
function linearFit(run: ProbeRun, samples: readonly ProbeSample[], tau: number): Fit {
  const perWatt = slugTemperature(run, 1, tau, tau) - run.ambientC;
  const scale = perWatt / shape(tau, run.heatS, tau);
  let [aa, ab, bb, ay, by, yy] = [0, 0, 0, 0, 0, 0];
  for (const { s, c } of samples) {
    const [a, b, y] = [Math.exp(-Math.max(0, s) / tau), scale * shape(s, run.heatS, tau), c - run.ambientC];
    aa += a * a;
    ab += a * b;
    bb += b * b;
    ay += a * y;
    by += b * y;
    yy += y * y;
  }
  const det = aa * bb - ab * ab;
  const startC = (ay * bb - by * ab) / det;
  const powerW = (aa * by - ab * ay) / det;
  const squares = Math.max(0, yy - startC * ay - powerW * by);
  const variance = Math.max(squares / Math.max(1, samples.length - 3), 0.02 ** 2);
  return { powerW, startC, squares, variance, seW: Math.sqrt((variance * aa) / det) };
}

const TAU_RANGE = [20, 2000] as const;
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** The time constant with the least squares, by golden search over its logarithm. */
function bestTau(run: ProbeRun, samples: readonly ProbeSample[]): number {
  let [a, b] = TAU_RANGE.map(Math.log) as [number, number];
  const at = (u: number) => linearFit(run, samples, Math.exp(u)).squares;
  for (let i = 0; i < 60; i++) {
    const [p, q] = [b - GOLDEN * (b - a), a + GOLDEN * (b - a)];
    if (at(p) < at(q)) b = q;
    else a = p;
  }
  return Math.exp((a + b) / 2);
}

/** Standard error of the time constant, from how fast the squares grow around it. */
function tauError(run: ProbeRun, samples: readonly ProbeSample[], tau: number, variance: number): number {
  const h = 0.05 * tau;
  const curve =
    (linearFit(run, samples, tau + h).squares + linearFit(run, samples, tau - h).squares - 2 * linearFit(run, samples, tau).squares) /
    h ** 2;
  return curve > 0 ? Math.min(tau, Math.sqrt((2 * variance) / curve)) : tau;
}
