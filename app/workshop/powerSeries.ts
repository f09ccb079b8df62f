/** Effective power over time for the chart: every ladder since a day, what the tube alone would give, and the rounds. */
import { tubeAlone } from "#core/wear";
import type { PowerPoint, PowerSeries } from "../ui/PowerChart";
import type { Gathered } from "./gather";
import { materialName, shortDay } from "./words";

export function powerSeries(g: Gathered, fromMs: number): PowerSeries {
  const base = g.baseline;
  const baseHours = base ? (g.usage.tubeHoursAt(base.atMs) ?? 0) : 0;
  const points: PowerPoint[] = g.ladders.flatMap(({ event, effective, material }) =>
    effective.kind === "ratio" && event.atMs >= fromMs
      ? [
          {
            atMs: event.atMs,
            day: shortDay(event.atMs),
            percent: 100 * effective.ratio,
            low: 100 * effective.low,
            high: 100 * effective.high,
            what: `ladder in ${materialName(material)}`,
          },
        ]
      : [],
  );
  const lastMs = points.at(-1)?.atMs ?? 0;
  return {
    points,
    tubeAlone: points.map((p) => 100 * tubeAlone(g.condition?.ageingPerHour ?? 0, (g.usage.tubeHoursAt(p.atMs) ?? baseHours) - baseHours)),
    rounds: g.rounds.filter((r) => r.startedMs >= fromMs && r.startedMs <= lastMs).map((r) => r.startedMs),
  };
}
