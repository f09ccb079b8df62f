/** Light along the path as every place shows it: what each optic takes, and watts that never rise from one station to the next. */
import { GRADES, lookLogLoss, ROLE_TRAITS, type Station } from "#core/beam";
import { doseSinceClean } from "#core/schedule";
import { FOULING_FACTOR, factorOf, fallingFit, foulingOf } from "#core/wear";
import { opticsOf } from "./condition";
import type { Gathered } from "./gathered";

/**
 * Loss of a station in ln power: what the smoke since its last clean leaves here, at the rate the readings of this machine say, and what it
 * was seen as, each by how surely it is known.
 */
export function lossOf(g: Pick<Gathered, "trade" | "grades" | "doses" | "usage" | "log" | "condition">, station: Station): number {
  const interval = g.trade.layout.intervalPlyHours[station.id];
  if (interval === undefined || !ROLE_TRAITS[station.role].isOptic) return 0;
  const optic = opticsOf(g.trade).findIndex((s) => s.id === station.id);
  const rate = g.condition ? factorOf(g.condition.fit, optic) : FOULING_FACTOR;
  const expected = foulingOf(g.doses.get(station.id) ?? 0, interval);
  const bySmoke = { mean: rate.mean * expected, sd: 0.003 + rate.sd * expected };
  const given = g.grades.get(station.id);
  if (!given) return bySmoke.mean;
  const seen = lookLogLoss(GRADES[given.grade]);
  // What came since the look comes on top of what was seen.
  const then = foulingOf(doseSinceClean(g.usage, g.log, station.id, given.atMs), interval);
  const bySight = { mean: seen.mean + rate.mean * Math.max(0, expected - then), sd: seen.sd };
  const [a, b] = [1 / bySmoke.sd ** 2, 1 / bySight.sd ** 2];
  const both = (a * bySmoke.mean + b * bySight.mean) / (a + b);
  // What was seen bad is no less bad for having been sudden: smoke alone does not explain it away.
  return given.grade >= 2 ? Math.max(both, bySight.mean) : both;
}

export interface Watts {
  /** As drawn: never more than at the station before. */
  readonly shown: number;
  /** As read. */
  readonly read: number;
}

/** How far apart two readings may be before the raw one is worth a word. */
const SAME = 0.005;

/** Watts of one walk at the stations that were read, in the order of the path. */
export function wattsAlong(path: readonly string[], read: ReadonlyMap<string, number>): Map<string, Watts> {
  const known = path.flatMap((id) => {
    const watts = read.get(id);
    return watts === undefined || watts <= 0 ? [] : [{ id, watts }];
  });
  const fit = fallingFit(known.map((k) => Math.log(k.watts)));
  return new Map(known.map((k, i) => [k.id, { read: k.watts, shown: Math.exp(fit[i] as number) }]));
}

export const isDoubtful = ({ shown, read }: Watts): boolean => Math.abs(read / shown - 1) > SAME;
