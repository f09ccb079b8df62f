/** What cleaning an optic costs by how often, on this machine: its minutes in the planned rounds, the risk, and what its dirt slows (M5). */
import type { Task } from "#catalog/tasks";
import { type CleaningCost, cheapestInterval, costPerPlyHour } from "#core/schedule";
import { DAY_MS } from "#core/time";
import { factorOf, foulingOf } from "#core/wear";
import { opticsOf } from "../machine/condition";
import type { Gathered } from "../machine/gathered";
import type { Learning } from "../upkeep/inForce";
import { roundMinutes } from "./minutes";

/** Extra minutes of a part found bad: a soak, a second pass, and what the risk for it is worth. */
const BAD_MINUTES: Readonly<Record<string, number>> = { lens: 25 };
const OTHER_BAD_MINUTES = 10;
/** Known no better than this share of itself, a loss names no cheapest point. */
const KNOWN_SD = 0.45;
const Z90 = 1.645;
const PACE_MS = 56 * DAY_MS;
const MONTH_DAYS = 30.44;

export interface Costs {
  readonly cost: CleaningCost;
  /** The same with as little and as much loss as there may be. */
  readonly band: readonly [CleaningCost, CleaningCost];
  readonly isKnown: boolean;
  readonly cheapest: { readonly dose: number; readonly minutesPerPlyHour: number } | undefined;
  readonly plyHoursAMonth: number;
  readonly hourValue: number | undefined;
}

/** Minutes a task adds to the rounds it is planned in; alone with its opening where it is planned in none. */
function marginalMinutes(g: Gathered, id: string): number {
  const added = g.plan.rounds
    .filter((r) => r.tasks.includes(id))
    .map(
      (r) =>
        roundMinutes(g, r.tasks) -
        roundMinutes(
          g,
          r.tasks.filter((t) => t !== id),
        ),
    );
  if (added.length === 0) return roundMinutes(g, [id]) / 2;
  return Math.max(0.5, added.reduce((a, b) => a + b, 0) / added.length);
}

/** Undefined for what takes no light, and without a baseline to know dirt by. */
export function costsOf(g: Gathered, task: Task, learning: Learning): Costs | undefined {
  const optic = opticsOf(g.trade).findIndex((s) => s.id === task.station);
  const interval = g.trade.layout.intervalPlyHours[task.station];
  if (task.id !== task.station || optic < 0 || interval === undefined || !g.condition || learning.by !== "plyHours") return undefined;
  const factor = factorOf(g.condition.fit, optic);
  const perHour = foulingOf(1, interval);
  const minutes = marginalMinutes(g, task.id);
  const at = (f: number): CleaningCost => ({
    minutes,
    badMinutes: BAD_MINUTES[task.station] ?? OTHER_BAD_MINUTES,
    lossPerPlyHour: Math.max(1e-6, f * perHour),
    chanceBad: learning.chanceBad,
  });
  const cost = at(factor.mean);
  const isKnown = factor.sd <= KNOWN_SD * factor.mean;
  const [least, most] = [learning.school / 20, learning.school * 20];
  return {
    cost,
    band: [at(Math.max(0.02, factor.mean - Z90 * factor.sd)), at(factor.mean + Z90 * factor.sd)],
    isKnown,
    cheapest: isKnown ? cheapestInterval(cost, least, most) : undefined,
    plyHoursAMonth: (g.usage.smokeDose(g.nowMs - PACE_MS, g.nowMs) / (PACE_MS / DAY_MS)) * MONTH_DAYS,
    hourValue: g.upkeep.upkeep?.hourValue,
  };
}

/** Minutes a month of cleaning every so many ply-hours, and in money where an hour's value is known. */
export function monthOf(costs: Costs, dose: number): { readonly minutes: number; readonly money: number | undefined } {
  const minutes = costPerPlyHour(costs.cost, dose) * costs.plyHoursAMonth;
  return { minutes, money: costs.hourValue === undefined ? undefined : (minutes / 60) * costs.hourValue };
}
