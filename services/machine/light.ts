/** Light along the path as every place shows it: what each optic takes, and watts that never rise from one station to the next. */
import { GRADES, gradeLogLoss, ROLE_TRAITS, type Station } from "#core/beam";
import { fallingFit, foulingOf } from "#core/wear";
import type { Gathered } from "./gather";

/** Loss of a station in ln power: of the grade it was seen with, else what the smoke since its last clean should have left. */
export function lossOf(g: Pick<Gathered, "trade" | "grades" | "doses">, station: Station): number {
  const interval = g.trade.layout.intervalPlyHours[station.id];
  if (interval === undefined || !ROLE_TRAITS[station.role].isOptic) return 0;
  const smoke = foulingOf(g.doses.get(station.id) ?? 0, interval);
  const grade = g.grades.get(station.id)?.grade ?? 0;
  return grade === 0 ? smoke : Math.max(smoke, gradeLogLoss(GRADES[grade]).mean);
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
