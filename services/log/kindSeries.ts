/** The figures of one kind of record over time, as lines of a chart. */
import { type EventKind, type MachineEvent, newestBefore } from "#core/events";
import { shownFigure } from "#core/units";
import type { Gathered } from "../machine/gathered";
import { unitHere, unitsInForce, withUnit } from "../units";
import { shortDay } from "../words";
import { definitionOf } from "./describeEvent";

export interface FigureLine {
  readonly name: string;
  readonly unit: string;
  readonly points: readonly { readonly atMs: number; readonly day: string; readonly value: number; readonly said: string }[];
}

/** Records drawn at most: more would be a smear. */
const MOST = 200;

/** Lines of a kind with two points at least, by unit and name, oldest point first. */
export function kindSeries(g: Gathered, kind: EventKind): FigureLine[] {
  const lines = new Map<string, { name: string; unit: string; points: FigureLine["points"][number][] }>();
  for (const event of newestBefore(g.log, [kind], MOST).reverse() as MachineEvent[]) {
    for (const { name, value, unit } of definitionOf(event).figures?.(event, g) ?? []) {
      const read = unitHere(unit);
      const key = `${read} ${name}`;
      const line = lines.get(key) ?? { name, unit: read, points: [] };
      lines.set(key, line);
      line.points.push({
        atMs: event.atMs,
        day: shortDay(event.atMs, g.nowMs),
        value: Number(shownFigure(value, unit, unitsInForce(), 2)),
        said: withUnit(value, unit),
      });
    }
  }
  return [...lines.values()].filter((l) => l.points.length > 1);
}
