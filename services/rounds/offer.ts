/** The one round worth offering now, with its lines in the words of the tasks. */

import { isSure, type RoundPlan } from "#core/rounds";
import { type DueTask, offerRound } from "#core/schedule";
import type { Gathered } from "../machine/gather";
import { headParts, planOf } from "../machine/plans";
import { unmendedOf } from "../machine/unmended";
import { leftWords } from "../words";

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
  readonly parts: readonly string[];
  readonly lines: readonly OfferLine[];
}

export function offerOf(g: Gathered): Offer {
  // With nothing due the head is offered: it is the round that is never wrong.
  const head = new Set(headParts(g.trade));
  const own = g.due.filter((d) => !d.byOthers);
  const anyDue = own.some((d) => d.state === "due");
  const bad = unmendedOf(g).filter((u) => u.clean !== undefined);
  const badParts = new Set(bad.map((u) => u.clean as string));
  const neverGraded = g.log.kinds.grade.length === 0 && g.grades.size === 0;
  const onPath = new Set(g.trade.layout.stations.map((s) => s.id));
  // A first round looks at every optic there is: nobody knows any of them yet.
  const standing = (id: string) => (neverGraded ? onPath.has(id) : head.has(id));
  const due = anyDue ? offerRound(own, 0).tasks : [];
  const chosen = neverGraded
    ? [...new Map([...due, ...own.filter((d) => standing(d.id))].map((d) => [d.id, d])).values()]
    : anyDue || bad.length > 0
      ? due
      : own.filter((d) => standing(d.id));
  const order = g.trade.tasks.map((t) => t.id);
  const tasks = [...chosen].filter((t) => !badParts.has(t.id)).sort((a, b) => order.indexOf(a.id) - order.indexOf(b.id));
  const parts = [...badParts, ...tasks.map((t) => t.id)];
  const plan = planOf(g.trade, parts, { grades: g.grades, out: g.out });
  const minutes = minutesByPart(plan, parts);
  const lines = [
    ...[...badParts].map((part) => {
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
    ...tasks.map((t) => lineOf(g, t, minutes.of(t.id))),
    ...minutes.brought.map((id) => ({
      id,
      name: g.trade.procedures.get(id)?.name ?? id,
      does: "comes out with it",
      due: "",
      late: false,
      minutes: minutes.of(id),
    })),
  ];
  return {
    minutes: plan.minutes,
    minutesMost: plan.minutesMost ?? plan.minutes,
    frameMinutes: Math.max(0, Math.round(plan.minutes) - lines.reduce((sum, l) => sum + Math.round(l.minutes), 0)),
    proof: plan.steps.at(-1)?.id === "piece" ? "first cut" : "speed ladder",
    anyDue,
    urged: anyDue || bad.length > 0,
    neverGraded,
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

function lineOf(g: Gathered, task: DueTask, minutes: number): OfferLine {
  const rule = g.trade.tasks.find((t) => t.id === task.id);
  const late = task.state === "due";
  return {
    id: task.id,
    name: rule?.name ?? task.id,
    does: rule?.does ?? "",
    due: leftWords(task),
    late,
    minutes,
  };
}
