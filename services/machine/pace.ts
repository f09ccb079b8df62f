/** Use of the days to come, as the last weeks went: what every forecast goes by. */
import { DAY_MS } from "#core/time";
import { foulingAfter, foulingOf, type Pace } from "#core/wear";
import { foulingAt, opticsOf } from "./condition";
import type { Gathered } from "./gathered";

const WEEKS = 8;
const WEEK_MS = 7 * DAY_MS;
/** No pace is surer than this, nor is anything gained by calling it less sure than that. */
const SUREST = 0.1;
const LEAST_SURE = 0.6;

/** Hours and smoke a day over the last eight weeks, or since the log began, and how far that may be off. */
export function paceOf(g: Gathered): Pace {
  const fromMs = Math.max(Math.min(g.logStartMs, g.nowMs - WEEK_MS), g.nowMs - WEEKS * WEEK_MS);
  const days = (g.nowMs - fromMs) / DAY_MS;
  const dose = g.usage.smokeDose(fromMs, g.nowMs) / days;
  const interval = (id: string) => g.trade.layout.intervalPlyHours[id] ?? Number.POSITIVE_INFINITY;
  const then = g.baseline ? foulingAt(g, g.baseline.atMs) : [];
  return {
    hoursPerDay: g.usage.firingHours(fromMs, g.nowMs) / days,
    foulingPerDay: opticsOf(g.trade).map((s) => foulingOf(dose, interval(s.id))),
    kept: opticsOf(g.trade).map(
      (s, i) => foulingAfter([interval(s.id), interval(s.id) / 2].filter(Number.isFinite), interval(s.id)) - (then[i] ?? 0),
    ),
    spread: spreadOf(g),
  };
}

/** How far the weeks lie apart, as a share of their mean, and so how far their mean may be off. */
function spreadOf(g: Gathered): number {
  const weeks = Array.from({ length: WEEKS }, (_, i) => g.usage.firingHours(g.nowMs - (i + 1) * WEEK_MS, g.nowMs - i * WEEK_MS)).filter(
    (_, i) => g.nowMs - (i + 1) * WEEK_MS >= g.logStartMs,
  );
  const mean = weeks.reduce((a, b) => a + b, 0) / Math.max(1, weeks.length);
  if (weeks.length < 2 || !(mean > 0)) return LEAST_SURE;
  const sd = Math.sqrt(weeks.reduce((sum, w) => sum + (w - mean) ** 2, 0) / (weeks.length - 1));
  return Math.min(LEAST_SURE, SUREST + sd / mean / 2);
}
