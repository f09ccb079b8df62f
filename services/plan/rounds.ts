/** The planned rounds in words: what each takes, what is in it, and why it is then. */
import dayjs from "dayjs";
import { nextDue, type PlannedRound } from "#core/plan";
import { isSure } from "#core/rounds";
import type { Gathered } from "../machine/gathered";
import { paceOf } from "../machine/pace";
import { leftWords, shortDay } from "../words";
import { instanceOf, neverLooked, standingMoves, wantedNow } from "./instance";
import { roundMinutes, roundOf, savedBy } from "./minutes";

export interface RoundView {
  readonly date: string;
  /** "Today", "Fri 11 Dec". */
  readonly day: string;
  /** In whole minutes: its lines and what stands around them. */
  readonly minutes: number;
  readonly aroundMinutes: number;
  /** A panel or a cover comes off. */
  readonly opens: boolean;
  readonly isMoved: boolean;
  readonly tasks: readonly {
    readonly id: string;
    readonly name: string;
    readonly does: string;
    readonly why: string;
    readonly minutes: number;
  }[];
}

export const nameOf = (g: Gathered, id: string): string =>
  g.trade.tasks.find((t) => t.id === id)?.name ?? g.trade.procedures.get(id)?.name ?? id;
export const dayWords = (date: string, g: Gathered): string =>
  dayjs(date).isSame(dayjs(g.nowMs), "day") ? "Today" : shortDay(dayjs(date).valueOf(), g.nowMs);

/** Four in five times the use lies within so many of its errors. */
const Z80 = 1.2816;

/** First and last day on which each task's next service may fall due at the pace there may be; undefined beyond the plan. */
export function dueRanges(g: Gathered): ReadonlyMap<string, { readonly from: string | undefined; readonly to: string | undefined }> {
  const instance = instanceOf(g);
  const { spread } = paceOf(g);
  const early = nextDue(instance, 1 + Z80 * spread);
  const late = nextDue(instance, Math.max(0.05, 1 - Z80 * spread));
  return new Map(instance.tasks.map((t) => [t.id, { from: early.get(t.id), to: late.get(t.id) }]));
}

export function roundViews(g: Gathered): RoundView[] {
  const ranges = dueRanges(g);
  const moved = standingMoves(g);
  const seen = new Set<string>();
  return g.plan.rounds.map((round) => {
    const view = roundView(g, round, (id) => (seen.has(id) ? undefined : ranges.get(id)), moved);
    for (const id of round.tasks) seen.add(id);
    return view;
  });
}

type RangeOf = (id: string) => { readonly from: string | undefined; readonly to: string | undefined } | undefined;

function roundView(
  g: Gathered,
  round: PlannedRound,
  rangeOf: RangeOf,
  moved: readonly { readonly task: string; readonly to: string }[],
): RoundView {
  const plan = roundOf(g, round.tasks);
  const sure = plan.steps.filter(isSure);
  const minutesOf = (id: string) => sure.filter((s) => s.id.startsWith(`${id}.`)).reduce((sum, s) => sum + s.minutes, 0);
  const order = g.trade.tasks.map((t) => t.id);
  const tasks = [...round.tasks]
    .sort((a, b) => order.indexOf(a) - order.indexOf(b))
    .map((id) => ({
      id,
      name: nameOf(g, id),
      does: g.trade.tasks.find((t) => t.id === id)?.does ?? "clean it",
      why: whyThen(g, round, id, rangeOf(id), moved),
      minutes: Math.round(minutesOf(id)),
    }));
  const minutes = Math.round(plan.minutes);
  return {
    date: round.date,
    day: dayWords(round.date, g),
    minutes,
    aroundMinutes: Math.max(0, minutes - tasks.reduce((sum, t) => sum + t.minutes, 0)),
    opens: sure.some((s) => s.leaves?.out !== undefined && s.id.startsWith("open-")),
    isMoved: tasks.some((t) => moved.some((m) => m.task === t.id && m.to === round.date)),
    tasks,
  };
}

/** Why a task is in a round of a day. */
function whyThen(
  g: Gathered,
  round: PlannedRound,
  id: string,
  range: ReturnType<RangeOf>,
  moved: readonly { readonly task: string; readonly to: string }[],
): string {
  if (moved.some((m) => m.task === id && m.to === round.date)) return "you moved it here";
  const task = g.due.find((d) => d.id === id);
  if (range && wantedNow(g).has(id) && task?.state !== "due") return neverLooked(g) ? "not inspected yet" : "still needs work";
  if (range && task?.state === "due") return leftWords(task);
  const latest = round.latest[round.tasks.indexOf(id)];
  const ahead = latest === undefined ? undefined : dayjs(latest).diff(dayjs(round.date), "day");
  if (ahead !== undefined && ahead <= 0) return range ? dueWords(range, g) : "due that day";
  const saved = Math.round(savedBy(g, round.tasks, id));
  const early = ahead === undefined ? "early" : `${ahead} ${ahead === 1 ? "day" : "days"} early`;
  if (saved < 1) return early;
  return `${early}: ${sharedWith(g, round, id)}, which saves ${saved} min`;
}

/** What is open or under way anyway. */
function sharedWith(g: Gathered, round: PlannedRound, id: string): string {
  const accessOf = (task: string) => g.trade.tasks.find((t) => t.id === task)?.access;
  const own = accessOf(id);
  const panel = g.trade.layout.path.find((s) => s.id === id)?.panel;
  const shares = round.tasks.some((t) => t !== id && accessOf(t) === own);
  if (shares && panel) return `${panel.charAt(0).toLowerCase()}${panel.slice(1)} is open anyway`;
  return shares ? "you are at it anyway" : "a round is on anyway";
}

/** "due Thu 3 to Mon 7 Dec"; the day alone where the pace leaves no doubt. */
export function dueWords({ from, to }: { readonly from: string | undefined; readonly to: string | undefined }, g: Gathered): string {
  if (from === undefined) return "not due in these days";
  const day = (date: string) => shortDay(dayjs(date).valueOf(), g.nowMs);
  if (to === undefined) return `due from ${day(from)} on`;
  if (from === to) return `due ${day(from)}`;
  const [a, b] = [dayjs(from), dayjs(to)];
  return `due ${a.month() === b.month() ? a.format("ddd D") : day(from)} to ${day(to)}`;
}

/** Minutes of all planned rounds, as they are shown. */
export const totalMinutes = (g: Gathered, rounds: readonly PlannedRound[] = g.plan.rounds): number =>
  rounds.reduce((sum, r) => sum + Math.round(roundMinutes(g, r.tasks)), 0);
