/** The one round worth offering now, with its lines in the words of the tasks. */
import { type DueTask, offerRound } from "#core/schedule";
import type { Gathered } from "../workshop/gather";
import { headParts, planOf } from "../workshop/trade";
import { leftWords } from "../workshop/words";

export interface OfferLine {
  readonly id: string;
  readonly name: string;
  readonly does: string;
  readonly due: string;
  readonly late: boolean;
  readonly minutes: number;
}

export interface Offer {
  readonly minutes: number;
  readonly anyDue: boolean;
  readonly parts: readonly string[];
  readonly lines: readonly OfferLine[];
}

export function offerOf(g: Gathered): Offer {
  // With nothing due the head is offered: it is the round that is never wrong.
  const head = new Set(headParts(g.trade));
  const anyDue = g.due.some((d) => d.state === "due");
  const chosen = anyDue ? offerRound(g.due, 0).tasks : g.due.filter((d) => head.has(d.id));
  const order = g.trade.tasks.map((t) => t.id);
  const tasks = [...chosen].sort((a, b) => order.indexOf(a.id) - order.indexOf(b.id));
  const parts = tasks.map((t) => t.id);
  return { minutes: planOf(g.trade, parts).minutes, anyDue, parts, lines: tasks.map((t) => lineOf(g, t)) };
}

function lineOf(g: Gathered, task: DueTask): OfferLine {
  const rule = g.trade.tasks.find((t) => t.id === task.id);
  const late = task.state === "due";
  return {
    id: task.id,
    name: rule?.name ?? task.id,
    does: rule?.does ?? "",
    due: !late && task.state === "soon" ? `${Math.round(100 * task.used)} % used` : leftWords(task),
    late,
    minutes: task.minutes,
  };
}
