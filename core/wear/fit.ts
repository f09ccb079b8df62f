/**
 * The fit behind every figure of wear: tube, dirt, a walk of what neither explains, faults of a while, the baseline's error, and what lies
 * between one way of measuring or one batch of sheets and another, as one Gaussian. How far walk and tube's rate wander is weighed by how
 * likely the readings are under it. Nothing that was read is forgotten.
 */

import type { Random } from "#core/random";
import { expectDirt, FOULING_FACTOR } from "./dirt";
import { type Bound, between, Field, observe, ofRow, type Posterior, type Row, sumOfRows } from "./gaussian";
import { expectTube, RATE_SCALE, rateRow, type TubeSpans, tubeRow, tubeSpans, wanderVariance } from "./tube";
import { burstShare, type Change, expectWalk, type Walk, walkOver, walkRow, widthCost, widthOf } from "./walk";

/** Use of a machine up to a moment, all of it counted from the baseline that best means. */
export interface Moment {
  readonly day: number;
  /** Firing hours of its tube. */
  readonly hours: number;
  /** Expected fouling of each optic at default rates, less what it was at the baseline, in ln power. */
  readonly fouling: readonly number[];
  /** Standard deviation of the hours and the smoke that nobody counted, as the loss they may have brought, in ln power. */
  readonly unsure?: number;
}

interface Told {
  readonly at: Moment;
  /** The baseline it is set against, where that is another than the first. */
  readonly base?: Moment | undefined;
  /** The way it was measured, where it is not the baseline's own; readings of one way share an offset. */
  readonly way?: string | undefined;
  /** What was cut: sheets of one kind and of about the same weeks share an offset. */
  readonly sheet?: string | undefined;
  /** It was read before the light came to what may be out of aim: the walk and faults are not in it. */
  readonly atSource?: boolean;
}

/** One effective-power reading with the use behind it: ln of effective power against its baseline, and its standard error. */
export interface WearReading extends Told {
  readonly lnRatio: number;
  readonly se: number;
}

/** A reading that says no more than that effective power lay above or below something; `sd` is that of the threshold, in ln power. */
export interface WearBound extends Told {
  readonly side: "above" | "below";
  readonly lnRatio: number;
  readonly sd: number;
}

/** A look at one optic: what its grade costs, and the fouling that default rates expected there then. */
export interface WearLook {
  readonly optic: number;
  readonly expected: number;
  readonly loss: number;
  readonly sd: number;
}

/** Days since the baseline in which something was wrong with the light that a case found, or has yet to find. */
export interface FaultSpan {
  readonly from: number;
  readonly to: number;
}

export interface WearEvidence {
  readonly readings: readonly WearReading[];
  readonly bounds?: readonly WearBound[];
  readonly looks?: readonly WearLook[];
  readonly changes?: readonly Change[];
  readonly faults?: readonly FaultSpan[];
  /** What the dirt of all optics grows by a day, in ln power. */
  readonly dirtPerDay?: number;
  /** Standard error of ln v50 of the baseline ladder, which all readings of its way share. */
  readonly baselineSe?: number;
  /** Optics, in the order of every `fouling`. */
  readonly optics: number;
}

/** How far a way of measuring, or another material's baseline, may lie off the baseline ladder, in ln power. */
const OFFSET_SD = 0.05;
/** Sheets of one batch lie off others by this, and one sheet of a batch off the next by that, in ln power. */
export const BATCH_SD = 0.04;
export const SHEET_SD = 0.02;
const BATCH_DAYS = 30;
/** What a fault that a case is about takes, in ln power. */
const FAULT = { mean: 0.1, sd: 0.2 } as const;
const MOST_FAULTS = 4;
/** One owner's looks share his own scale: however many there are, they say no more than so many. */
const SURE_LOOKS = 6;
/** Share of cuts that are told wrong. */
const WRONG = 0.02;

/** Walks and tubes that wander less or more than is usual, and how likely that is beforehand. */
const SCALES = [
  { walk: 0.15, tube: 0.3, share: 0.08 },
  { walk: 0.5, tube: 0.3, share: 0.12 },
  { walk: 0.5, tube: 1, share: 0.2 },
  { walk: 1, tube: 0.3, share: 0.12 },
  { walk: 1, tube: 1, share: 0.28 },
  { walk: 1.7, tube: 1, share: 0.12 },
  { walk: 1, tube: 2, share: 0.08 },
] as const;
/** Steps of the walk are taken to be this much wider than usual (variance) before the readings say how wide, in so many rounds. */
const FIRST_WIDTH = 25;
const ROUNDS = 4;
/** Scales less likely than this are left out. */
const NEGLIGIBLE = 0.03;

/** Where each thing lies among the parameters. */
interface Places {
  readonly tube: TubeSpans;
  readonly factors: number;
  readonly walk: Walk;
  readonly faults: number;
  readonly spans: readonly FaultSpan[];
  readonly base: number;
  readonly ways: ReadonlyMap<string, number>;
  readonly n: number;
}

export interface WearFit extends Posterior {
  readonly optics: number;
  readonly places: Places;
  /** How far walk and rate wander here, against what is usual. */
  readonly scale: { readonly walk: number; readonly tube: number };
  /** Day of the last reading. */
  readonly lastDay: number;
  /** Readings and bounds that went into it. */
  readonly count: number;
}

/** A sum of the parameters, and what they leave open of it. */
export interface Sum {
  readonly row: Row;
  readonly variance: number;
  /** What is to be expected besides the parameters. */
  readonly plus?: number;
}

const NONE: Row = { at: [], value: [] };

/** Batches of sheets are told apart by their weeks, counted back from the last reading. */
function batchOf(sheet: string, day: number, lastDay: number): string {
  const ago = Math.max(0, lastDay - day);
  const block = ago < 12 * BATCH_DAYS ? Math.floor(ago / BATCH_DAYS) : 12 + Math.floor(Math.log2(ago / (12 * BATCH_DAYS)));
  return `batch ${sheet} ${block}`;
}

function placesOf(evidence: WearEvidence, lastDay: number): Places {
  const { readings, bounds = [], changes = [], faults = [], optics, dirtPerDay = 0 } = evidence;
  const all = [...readings, ...bounds];
  const tube = tubeSpans(0, Math.max(0, ...all.map((r) => r.at.hours)));
  const factors = tube.from.length;
  const walk = walkOver(factors + optics, lastDay, changes, dirtPerDay);
  const spans = faults.slice(-MOST_FAULTS);
  const faultsAt = walk.at + walk.days.length;
  const base = faultsAt + spans.length;
  const ways = new Map<string, number>();
  let n = base + 1;
  for (const r of all)
    for (const name of [r.way, ...(r.sheet === undefined ? [] : [r.at.day, r.base?.day ?? 0].map((d) => batchOf(r.sheet!, d, lastDay)))])
      if (name !== undefined && !ways.has(name)) ways.set(name, n++);
  return { tube, factors, walk, faults: faultsAt, spans, base, ways, n };
}

/** Loss at a moment against the baseline, in ln power: tube, dirt, walk and faults. */
function lossAt(p: Places, optics: number, m: Moment, atSource = false): Sum {
  const dirt = {
    at: Array.from({ length: optics }, (_, k) => p.factors + k),
    value: Array.from({ length: optics }, (_, k) => m.fouling[k] ?? 0),
  };
  const walk = atSource ? { row: NONE, variance: 0 } : walkRow(p.walk, m.day);
  const faults = p.spans.flatMap((s, i) => (!atSource && m.day >= s.from && m.day < s.to ? [p.faults + i] : []));
  return {
    row: sumOfRows([tubeRow(p.tube, m.hours), 1], [dirt, 1], [walk.row, 1], [{ at: faults, value: faults.map(() => 1) }, 1]),
    variance: walk.variance + (m.unsure ?? 0) ** 2,
  };
}

/** The batch that was cut against the one its baseline was cut from: the same, and nothing of it is left. */
function batchRow(p: Places, told: Pick<Told, "sheet" | "base">, lastDay: number, day: number): Row {
  if (told.sheet === undefined) return NONE;
  const at = (d: number) => p.ways.get(batchOf(told.sheet!, d, lastDay));
  const [now, then] = [at(day), at(told.base?.day ?? 0)];
  return sumOfRows([now === undefined ? NONE : { at: [now], value: [1] }, 1], [then === undefined ? NONE : { at: [then], value: [1] }, -1]);
}

/** What a reading says: minus the loss since its own baseline, with the errors it shares with others. */
function ratioOf(p: Places, optics: number, told: Told, lastDay: number): Sum {
  const now = lossAt(p, optics, told.at, told.atSource);
  const then = told.base ? lossAt(p, optics, told.base, told.atSource) : { row: NONE, variance: 0 };
  const own = told.way === undefined ? p.base : p.ways.get(told.way)!;
  return {
    row: sumOfRows([now.row, -1], [then.row, 1], [{ at: [own], value: [1] }, 1], [batchRow(p, told, lastDay, told.at.day), 1]),
    variance: now.variance + then.variance,
  };
}

/** Fits the wear of one machine. Works with no reading at all: then it is the default rates alone. */
export function fitWear(evidence: WearEvidence): WearFit {
  const { readings, bounds = [], looks = [], baselineSe = 0.05, optics } = evidence;
  const lastDay = Math.max(0, ...[...readings, ...bounds].map((r) => r.at.day));
  const p = placesOf(evidence, lastDay);
  const { n } = p;
  const read = Field.readingsOf(n);
  for (const r of readings) {
    const { row, variance } = ratioOf(p, optics, r, lastDay);
    observe(read, n, row, r.lnRatio, r.se ** 2 + SHEET_SD ** 2 + variance);
  }
  for (const look of looks) {
    if (look.expected <= 0) continue;
    observe(
      read,
      n,
      { at: [p.factors + look.optic], value: [look.expected] },
      look.loss,
      look.sd ** 2 * Math.max(1, looks.length / SURE_LOOKS),
    );
  }
  const field = (scale: (typeof SCALES)[number], wide: readonly number[]) => {
    const f = new Field(n, read);
    expectTube(f, p.tube, scale.tube);
    expectDirt(f, p.factors, optics);
    expectWalk(f, p.walk, scale.walk, wide);
    for (const i of p.spans.keys()) f.expect(p.faults + i, FAULT.mean, FAULT.sd);
    f.expect(p.base, 0, Math.hypot(Math.max(0.005, baselineSe), SHEET_SD));
    for (const [name, i] of p.ways) f.expect(i, 0, name.startsWith("batch ") ? BATCH_SD : OFFSET_SD);
    return f;
  };
  const sites: Bound[] = [
    // Nothing grows younger, and no optic cleans itself.
    ...[...p.tube.from.keys(), ...Array.from({ length: optics }, (_, k) => p.factors + k)].map((i) => above({ at: [i], value: [1] })),
    ...bounds.map((b): Bound => {
      const { row, variance } = ratioOf(p, optics, b, lastDay);
      return { row, side: b.side === "above" ? 1 : -1, threshold: b.lnRatio, variance: b.sd ** 2 + SHEET_SD ** 2 + variance, wrong: WRONG };
    }),
  ];
  const weighed = SCALES.map((scale) => {
    // Begun wide: something sudden is looked for before it is laid to the baseline's error.
    let wide: number[] = p.walk.days.map(() => FIRST_WIDTH);
    for (let round = 0; round < ROUNDS; round++) wide = widthOf(p.walk, field(scale, wide).posterior(), scale.walk);
    const f = field(scale, wide);
    return { scale, f, log: f.logEvidence() + widthCost(wide) + Math.log(scale.share) };
  });
  const best = Math.max(...weighed.map((w) => w.log));
  const sum = weighed.reduce((s, w) => s + Math.exp(w.log - best), 0);
  const kept = weighed.map((w) => ({ ...w, share: Math.exp(w.log - best) / sum })).filter((w) => w.share > NEGLIGIBLE);
  const posterior = mixed(
    n,
    kept.map((k) => ({ share: k.share, ...k.f.withBounds(sites) })),
  );
  const mean = (of: (s: (typeof SCALES)[number]) => number) =>
    Math.sqrt(kept.reduce((s, k) => s + k.share * of(k.scale) ** 2, 0) / kept.reduce((s, k) => s + k.share, 0));
  return {
    ...posterior,
    optics,
    places: p,
    scale: { walk: mean((s) => s.walk), tube: mean((s) => s.tube) },
    lastDay,
    count: readings.length + bounds.length,
  };
}

const above = (row: Row): Bound => ({ row, side: 1, threshold: 0, variance: 0, wrong: 0 });

/** The Gaussian with the mean and spread of a mixture. */
function mixed(n: number, parts: readonly (Posterior & { readonly share: number })[]): Posterior {
  const total = parts.reduce((s, p) => s + p.share, 0);
  const mean = new Float64Array(n);
  for (const p of parts) for (let i = 0; i < n; i++) mean[i] = mean[i]! + (p.share / total) * p.mean[i]!;
  const covariance = new Float64Array(n * n);
  for (const p of parts)
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++)
        covariance[i * n + j] =
          covariance[i * n + j]! + (p.share / total) * (p.covariance[i * n + j]! + (p.mean[i]! - mean[i]!) * (p.mean[j]! - mean[j]!));
  return { n, mean, covariance };
}

/** A figure with its standard deviation. */
export interface Estimate {
  readonly mean: number;
  readonly sd: number;
}

const estimate = (fit: WearFit, { row, variance, plus = 0 }: Sum): Estimate => {
  const told = ofRow(fit, row);
  return { mean: told.mean + plus, sd: Math.sqrt(told.variance + variance) };
};

/** Loss since the baseline at a moment, in ln power; what is to come of the tube's wandering is in it. */
export function lossOf(fit: WearFit, moment: Moment): Estimate {
  return estimate(fit, lossSum(fit, moment));
}

function lossSum(fit: WearFit, moment: Moment): Sum {
  const { row, variance } = lossAt(fit.places, fit.optics, moment);
  const { tube } = fit.places;
  const beyond = moment.hours - tube.from.at(-1)!;
  return {
    row,
    variance: fit.scale.walk ** 2 * variance + wanderVariance(Math.max(0, beyond), fit.scale.tube),
    plus: creepSince(fit, moment),
  };
}

/** Nothing comes into aim by itself: what creeps or is knocked takes so much a day (ln power) until somebody reads it, for so many days. */
const CREEP_PER_DAY = 0.0004;
const MOST_CREEP_DAYS = 90;
const creepSince = (fit: WearFit, moment: Moment): number =>
  CREEP_PER_DAY * Math.min(MOST_CREEP_DAYS, Math.max(0, moment.day - fit.lastDay));

/** Of what the walk holds, at most this much is dirt: what cleans take off does not pile up. */
const MOST_DIRT = 0.5;

/** What a clean of every optic would bring back, what the tube has lost, and what neither explains, at a moment: mean and covariance. */
export function partsOf(
  fit: WearFit,
  moment: Moment,
): { readonly mean: readonly [number, number, number]; readonly covariance: readonly (readonly number[])[] } {
  const { places: p, optics } = fit;
  const dirt = {
    at: Array.from({ length: optics }, (_, k) => p.factors + k),
    value: Array.from({ length: optics }, (_, k) => moment.fouling[k] ?? 0),
  };
  const tube = tubeRow(p.tube, moment.hours);
  const walk = walkRow(p.walk, moment.day);
  const faults = p.spans.flatMap((s, i) => (moment.day >= s.from && moment.day < s.to ? [p.faults + i] : []));
  const rest = sumOfRows([walk.row, 1], [{ at: faults, value: faults.map(() => 1) }, 1]);
  // Dirt that came in bursts is in the walk, and nobody can tell how much of it.
  const bursts = Math.min(MOST_DIRT, burstShare(p.walk));
  const rows = [sumOfRows([dirt, 1], [walk.row, bursts]), tube, sumOfRows([rest, 1], [walk.row, -bursts])] as const;
  const untold = bursts * (1 - bursts) * UNTOLD_DAYS * p.walk.perDay * fit.scale.walk ** 2;
  const open = [
    (moment.unsure ?? 0) ** 2 + untold,
    TUBE_OR_AIM_SD ** 2 + wanderVariance(Math.max(0, moment.hours - p.tube.from.at(-1)!), fit.scale.tube),
    TUBE_OR_AIM_SD ** 2 + fit.scale.walk ** 2 * walk.variance + untold,
  ];
  const [d, t, o] = rows.map((r) => ofRow(fit, r).mean) as [number, number, number];
  return {
    mean: [d, t, o + creepSince(fit, moment)],
    covariance: rows.map((a, k) => rows.map((b, l) => between(fit, a, b) + (k === l ? open[k]! : 0))),
  };
}
/** What a tube lost and what crept out of aim look alike over months: either may have taken this much of the other, in ln power. */
const TUBE_OR_AIM_SD = 0.02;
/** Days of the walk of which nobody can tell what was dirt. */
const UNTOLD_DAYS = 56;

/** Loss in ln power that some more fouling means, at the rates of this shop. */
export function dirtOf(fit: WearFit, fouling: readonly number[]): Estimate {
  return estimate(fit, {
    row: { at: fouling.map((_, k) => fit.places.factors + k), value: fouling },
    variance: 0,
  });
}

/** What another batch since the last reading would change, as a variance: one comes every six weeks or so. */
const newBatch = (days: number): number => 2 * BATCH_SD ** 2 * (1 - Math.exp(-Math.max(0, days) / (1.4 * BATCH_DAYS)));

/** ln ratio that a ladder would show now, against the baseline as it was read: its error drops out. One sheet's own luck is not in it. */
export function readingNow(fit: WearFit, moment: Moment, told: Pick<Told, "base" | "way" | "sheet">): Estimate {
  const { places: p } = fit;
  const loss = lossSum(fit, moment);
  const then = told.base ? lossAt(p, fit.optics, told.base) : { row: NONE, variance: 0 };
  const own = told.way === undefined ? p.base : p.ways.get(told.way);
  const open = (own === undefined ? OFFSET_SD ** 2 : 0) + (told.sheet === undefined ? 0 : newBatch(moment.day - fit.lastDay));
  return estimate(fit, {
    row: sumOfRows(
      [loss.row, -1],
      [then.row, 1],
      [own === undefined ? NONE : { at: [own], value: [1] }, 1],
      [batchRow(p, told, fit.lastDay, moment.day), 1],
    ),
    variance: loss.variance + then.variance + open,
    plus: -(loss.plus ?? 0),
  });
}

/** Ageing in ln power per firing hour now, and its standard deviation. */
export const ageingOf = (fit: WearFit): Estimate => {
  const { mean, sd } = estimate(fit, { row: rateRow(fit.places.tube), variance: 0 });
  return { mean: Math.max(0, mean / RATE_SCALE), sd: sd / RATE_SCALE };
};

/** Fouling factor of an optic, and its standard deviation. */
export function factorOf(fit: WearFit, optic: number): Estimate {
  const { mean, sd } = estimate(fit, { row: { at: [fit.places.factors + optic], value: [1] }, variance: 0 });
  return { mean: Math.max(0, mean), sd };
}

/** Correlation of two rates: near -1 the readings know their sum and not which of them it is. 0 is the tube's, 1 on are the optics'. */
export function correlationOf(fit: WearFit, i: number, j: number): number {
  const rowOf = (k: number): Row => (k === 0 ? rateRow(fit.places.tube) : { at: [fit.places.factors + k - 1], value: [1] });
  const [a, b] = [rowOf(i), rowOf(j)];
  return between(fit, a, b) / Math.sqrt(ofRow(fit, a).variance * ofRow(fit, b).variance);
}

export { FOULING_FACTOR };

/** Draws what the tube has lost at a moment and its rate then (per 1000 h), as they go together. */
export function tubeStart(fit: WearFit, moment: Moment): (random: Random) => { loss: number; rate: number } {
  const { tube } = fit.places;
  const [loss, rate] = [tubeRow(tube, moment.hours), rateRow(tube)];
  const [l, r] = [ofRow(fit, loss), ofRow(fit, rate)];
  const slope = between(fit, loss, rate) / Math.max(1e-12, r.variance);
  const left = Math.sqrt(Math.max(0, l.variance - slope ** 2 * r.variance));
  return (random) => {
    let drawn = -1;
    for (let tries = 0; drawn < 0 && tries < 20; tries++) drawn = r.mean + Math.sqrt(r.variance) * random.normal();
    return { loss: l.mean + slope * (Math.max(0, drawn) - r.mean) + left * random.normal(), rate: Math.max(0, drawn) };
  };
}

/** Mean loss in ln power by tube and dirt alone, of what comes after some firing hours. */
export function ofMoment(fit: WearFit, moment: Moment, sinceHours: number): number {
  const tube = ofRow(fit, tubeRow(fit.places.tube, moment.hours)).mean - ofRow(fit, tubeRow(fit.places.tube, sinceHours)).mean;
  return tube + dirtOf(fit, moment.fouling).mean;
}
