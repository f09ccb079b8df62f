/** Effective power over time for the chart: every ladder since a day, what the tube alone would give, and the rounds. */
import { tubeAlone } from "#core/wear";
import { roundTimes } from "#store/rounds";
import type { Services } from "../context";
import { materialName, shortDay } from "../words";
import { momentAt } from "./condition";
import type { Gathered } from "./gathered";
import { wornBy } from "./known";
import { baselineFor, type LadderReading } from "./ladders";

export interface PowerPoint {
  readonly atMs: number;
  readonly day: string;
  readonly percent: number;
  readonly low: number;
  readonly high: number;
  readonly what: string;
}

export interface PowerSeries {
  readonly points: readonly PowerPoint[];
  /** Expected power if only the tube had aged, per point, in percent. */
  readonly tubeAlone: readonly number[];
  /** When rounds were done (ms). */
  readonly rounds: readonly number[];
}

/** Ladders a curve shows at most: more would be a smear. */
const MOST = 150;

export async function powerSeries(services: Services, g: Gathered, fromMs: number): Promise<PowerSeries> {
  const base = g.baseline;
  const points: PowerPoint[] = [];
  for (let i = g.ladders.length - 1; i >= 0 && points.length < MOST; i--) {
    const { event, effective, material } = g.ladders.at(i) as LadderReading;
    if (event.atMs < fromMs) break;
    if (effective.kind !== "ratio") continue;
    // Set against its own sheet's baseline, which may have been cut on a machine that had worn a little.
    const own = baselineFor(g.log, event.payload.materialId, event.atMs);
    const best = own === undefined || base === undefined || own.atMs < base.atMs ? 1 : Math.exp(-wornBy(g, own.atMs));
    points.unshift({
      atMs: event.atMs,
      day: shortDay(event.atMs, g.nowMs),
      percent: 100 * effective.ratio * best,
      low: 100 * effective.low * best,
      high: 100 * effective.high * best,
      what: `ladder in ${materialName(material)}`,
    });
  }
  const [first, last] = [points[0], points.at(-1)];
  return {
    points,
    tubeAlone: points.map((p) => 100 * (g.condition && base ? tubeAlone(g.condition.fit, momentAt(g, base, p.atMs)) : 1)),
    rounds: first && last ? await roundTimes(services.store, g.machine.id, points.length < MOST ? fromMs : first.atMs, last.atMs) : [],
  };
}
