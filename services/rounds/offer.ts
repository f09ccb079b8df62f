/** The one round worth offering now: the planned one, with its lines in the words of the tasks. */
import dayjs from "dayjs";
import { isSure, type RoundPlan } from "#core/rounds";
import type { DueTask } from "#core/schedule";
import type { Gathered } from "../machine/gathered";
import { headParts } from "../machine/plans";
import { unmendedOf } from "../machine/unmended";
import { neverLooked } from "../plan/instance";
import { roundOf } from "../plan/minutes";
import { leftWords, shortDay } from "../words";

export interface OfferLine {
  readonly id: string;
  readonly name: string;
  readonly does: string;
  readonly due: string;
  readonly late: boolean;
  readonly minutes: number;
}

export interface Offer {
  /** With everything clear, and with all that a grade may ask for. */
  readonly minutes: number;
  readonly minutesMost: number;
  /** Whole minutes of what stands around the parts (safe, covers, power, final test): with the lines' whole ones they are the whole. */
  readonly frameMinutes: number;
  readonly proof: string;
  readonly anyDue: boolean;
  /** Due, or seen bad. */
  readonly urged: boolean;
  /** Nobody ever graded anything on this machine. */
  readonly neverGraded: boolean;
  /** The day it is planned for, where that is not today; undefined where nothing is planned. */
  readonly plannedFor: string | undefined;
  readonly parts: readonly string[];
  readonly lines: readonly OfferLine[];
}

/** The next planned round, or the head where nothing is planned: it is the round that is never wrong. */
export function offerOf(g: Gathered): Offer {
  const anyDue = g.due.some((d) => !d.byOthers && d.state === "due");
  const bad = unmendedOf(g).filter((u) => u.clean !== undefined);
  const badParts = new Set(bad.map((u) => u.clean as string));
  const next = g.plan.rounds[0];
  const order = g.trade.tasks.map((t) => t.id);
  const chosen = next?.tasks ?? headParts(g.trade);
  const rest = chosen.filter((id) => !badParts.has(id)).sort((a, b) => order.indexOf(a) - order.indexOf(b));
  const inIt = [...badParts].filter((id) => chosen.includes(id));
  const parts = [...inIt, ...rest];
  const plan = roundOf(g, parts);
  const minutes = minutesByPart(plan, parts);
  const lines = [
    ...inIt.map((part) => {
      const seen = bad.filter((u) => u.clean === part);
      return {
        id: part,
        name: seen[0]?.name ?? part,
        does: "clean it",
        due: seen.map((u) => `${u.word}, ${u.since}`).join("; "),
        late: true,
        minutes: minutes.of(part),
      };
    }),
    ...rest.map((id) =>
      lineOf(
        g,
        id,
        g.due.find((d) => d.id === id),
        minutes.of(id),
      ),
    ),
    ...minutes.brought.map((id) => ({
      id,
      name: g.trade.procedures.get(id)?.name ?? id,
      does: "comes out with it",
      due: "",
      late: false,
      minutes: minutes.of(id),
    })),
  ];
  const isToday = next === undefined || next.date === dayjs(g.nowMs).format("YYYY-MM-DD");
  return {
    minutes: plan.minutes,
    minutesMost: plan.minutesMost ?? plan.minutes,
    frameMinutes: Math.max(0, Math.round(plan.minutes) - lines.reduce((sum, l) => sum + Math.round(l.minutes), 0)),
    proof: plan.steps.at(-1)?.id === "piece" ? "first cut" : "speed ladder",
    anyDue,
    urged: (anyDue || bad.length > 0) && isToday,
    neverGraded: neverLooked(g),
    plannedFor: isToday ? undefined : shortDay(dayjs(next.date).valueOf(), g.nowMs),
    parts,
    lines,
  };
}

/** How a plan's minutes fall to its parts and to parts that come along. */
function minutesByPart(plan: RoundPlan, parts: readonly string[]) {
  const asked = plan.steps.filter(isSure);
  const partOf = (id: string) => (id.includes(".") ? id.slice(0, id.indexOf(".")) : undefined);
  const sums = new Map<string, number>();
  for (const s of asked) {
    const part = partOf(s.id);
    if (part !== undefined) sums.set(part, (sums.get(part) ?? 0) + s.minutes);
  }
  return {
    of: (part: string) => sums.get(part) ?? 0,
    brought: [...sums.keys()].filter((p) => !parts.includes(p)),
  };
}

function lineOf(g: Gathered, id: string, task: DueTask | undefined, minutes: number): OfferLine {
  const rule = g.trade.tasks.find((t) => t.id === id);
  return {
    id,
    name: rule?.name ?? g.trade.procedures.get(id)?.name ?? id,
    does: rule?.does ?? "",
    due: task ? leftWords(task) : "",
    late: task?.state === "due",
    minutes,
  };
}
