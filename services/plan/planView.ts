/** View model of Plan: the rounds of the next sixty days on a calendar, why each is then, and what they take beside other ways. */
import dayjs from "dayjs";
import type { Plan } from "#core/plan";
import { DAY_MS } from "#core/time";
import type { Machine } from "#store/machines";
import type { Services } from "../context";
import { gather } from "../machine/gather";
import type { Gathered } from "../machine/gathered";
import { unmendedOf } from "../machine/unmended";
import { habitsOf } from "../upkeep/habits";
import { lowerFirst, moneyWords, shortDay } from "../words";
import { comparedOf } from "./compared";
import { closedDays, PLAN_DAYS, wantedNow } from "./instance";
import { costWords, moveCost, refusedDay } from "./move";
import { planned } from "./planned";
import { dayWords, nameOf, type RoundView, roundViews } from "./rounds";
import { taskCard, taskLines } from "./taskView";

/** A round on the calendar: this machine's own, or another's. */
export interface OnDay {
  readonly slug: string;
  readonly machine: string;
  readonly minutes: number;
  readonly opens: boolean;
  readonly isOwn: boolean;
  readonly isMoved: boolean;
}

export interface Day {
  readonly date: string;
  readonly name: string;
  readonly isToday: boolean;
  readonly isOver: boolean;
  readonly isClosed: boolean;
  readonly minutes: number | undefined;
  readonly rounds: readonly OnDay[];
}

export interface Week {
  readonly name: string;
  readonly days: readonly Day[];
}

export async function planView(services: Services, g: Gathered, search: URLSearchParams) {
  const state = planned(services, g);
  const rounds = roundViews(g);
  const compared = comparedOf(g);
  const total = rounds.reduce((sum, r) => sum + r.minutes, 0);
  const isCalendar = (search.get("tab") ?? "calendar") === "calendar";
  const others = isCalendar ? await Promise.all(g.machines.filter((m) => m.id !== g.machine.id).map((m) => otherRounds(services, m))) : [];
  const chosen = rounds.find((r) => r.date === search.get("round")) ?? rounds[0];
  const isOfTasks = search.get("tab") === "tasks" || search.has("task");
  const task = isOfTasks ? (taskCard(g, search.get("task") ?? "") ?? taskCard(g, g.tasks[0]?.id ?? "")) : undefined;
  return {
    slug: g.machine.slug,
    machine: g.machine.name,
    isSettled: state.isLeast || services.planner === undefined,
    hasPace: g.usage.hoursPerDay > 0,
    ...headlines(g, rounds, total, compared.alone.minutes),
    total,
    compared,
    weeks: weeksOf(g, [...rounds.map((r) => ({ date: r.date, round: ownOf(g, r) })), ...others.flat()]),
    rounds: rounds.map((r) => ({ date: r.date, day: r.day, minutes: r.minutes })),
    chosen: chosen && { ...chosen, doToday: todayInstead(g, chosen) },
    /** Days a round may be put on. */
    open: openDays(g),
    late: lateOf(g, state.plan),
    byOthers: g.due
      .filter((d) => d.byOthers && d.dueMs !== undefined && d.dueMs < g.nowMs + PLAN_DAYS * DAY_MS)
      .map((d) => ({
        id: d.id,
        name: nameOf(g, d.id),
        day: shortDay(Math.max(g.nowMs, d.dueMs ?? 0), g.nowMs),
        cost: d.id === "visit" ? visitCost(g) : undefined,
        list: d.id === "visit" ? visitList(g) : [],
      })),
    /** A task was asked for, and its card is what is wanted. */
    isChosen: search.has("task"),
    tasks: taskLines(g),
    habits: habitsOf(g),
    task,
    days: daysOf(g),
  };
}

function visitCost(g: Gathered): string | undefined {
  const cost = g.upkeep.upkeep?.visitCost;
  return cost === undefined ? undefined : moneyWords(cost, g.currency);
}

/** What whoever comes should be shown: what was seen bad, what lies behind panels not meant for owners, and what only they may open. */
function visitList(g: Gathered): string[] {
  const bad = unmendedOf(g).map((u) => `${u.name}, ${u.word}`);
  const closed = [
    ...new Set(g.trade.layout.path.filter((s) => s.warranty && !s.hidden).map((s) => `${s.name} behind ${s.panel ?? "its panel"}`)),
  ];
  return [...bad, ...closed, "dust in the power supply", ...(g.openCase ? [`the open case: ${lowerFirst(g.openCase.title)}`] : [])];
}

const ownOf = (g: Gathered, r: RoundView): OnDay => ({
  slug: g.machine.slug,
  machine: g.machine.name,
  minutes: r.minutes,
  opens: r.opens,
  isOwn: true,
  isMoved: r.isMoved,
});

/** Another machine's rounds; what cannot be read of one keeps nobody from this one's. */
async function otherRounds(services: Services, m: Machine): Promise<{ date: string; round: OnDay }[]> {
  try {
    const g = await gather(services, m.slug);
    return roundViews(g).map((r) => ({ date: r.date, round: { ...ownOf(g, r), isOwn: false } }));
  } catch {
    return [];
  }
}

const longDay = (date: string): string => dayjs(date).format("dddd D MMMM");

function headlines(
  g: Gathered,
  rounds: readonly RoundView[],
  total: number,
  alone: number,
): { headline: string; next: string; lead: string } {
  const [first, second] = rounds;
  if (!first && g.plan.late.length > 0)
    return {
      headline: "No round can be planned.",
      next: "",
      lead: "Every day of the next sixty is closed, or has too few minutes for any task. Open one under Days and minutes.",
    };
  if (!first)
    return {
      headline: "Nothing falls due in the next sixty days.",
      next: "",
      lead:
        g.usage.hoursPerDay > 0
          ? "Everything lasts longer than that at your pace."
          : "No use was logged lately, and nothing is due by its days. Log hours or jobs, and the plan follows.",
    };
  const isToday = first.day === "Today";
  return {
    headline: isToday ? `Today, ${first.minutes} minutes.` : `${longDay(first.date)}, ${first.minutes} minutes.`,
    next: isToday
      ? second
        ? `Then nothing until ${longDay(second.date)}.`
        : "Then nothing for sixty days."
      : "Until then only the daily round.",
    lead: `${total} minutes in sixty days, in ${rounds.length} ${rounds.length === 1 ? "round" : "rounds"}; each task by itself would take ${alone}.`,
  };
}

function todayInstead(g: Gathered, round: RoundView): { date: string; words: string } | undefined {
  const date = dayjs(g.nowMs).format("YYYY-MM-DD");
  if (round.date === date || refusedDay(g, round.date, date) !== undefined) return undefined;
  return { date, words: costWords(moveCost(g, round.date, date)) };
}

function openDays(g: Gathered): { value: string; label: string }[] {
  const closed = new Set(closedDays(g.upkeep.upkeep, g.nowMs));
  return Array.from({ length: PLAN_DAYS }, (_, d) => dayjs(g.nowMs).add(d, "day").format("YYYY-MM-DD"))
    .filter((date) => !closed.has(date))
    .map((date) => ({ value: date, label: dayWords(date, g) }));
}

/** What is past its interval, and until when. */
function lateOf(g: Gathered, plan: Plan): { id: string; name: string; from: string; until: string | undefined }[] {
  const isWanted = (id: string) => wantedNow(g).has(id) && g.due.find((d) => d.id === id)?.state !== "due";
  return plan.late
    .filter((l) => !(isWanted(l.task) && dayWords(l.from, g) === "Today"))
    .map((l) => {
      const until = plan.rounds.find((r) => r.tasks.includes(l.task) && r.date >= l.from)?.date;
      return { id: l.task, name: nameOf(g, l.task), from: dayWords(l.from, g), until: until && dayWords(until, g) };
    });
}

/** Whole weeks, Monday first, from this one to the end of the plan. */
function weeksOf(g: Gathered, placed: readonly { readonly date: string; readonly round: OnDay }[]): Week[] {
  const today = dayjs(g.nowMs).startOf("day");
  const monday = today.subtract((today.day() + 6) % 7, "day");
  const closed = new Set(closedDays(g.upkeep.upkeep, g.nowMs));
  const weeks = Math.ceil((today.diff(monday, "day") + PLAN_DAYS) / 7);
  const byDate = new Map<string, OnDay[]>();
  for (const { date, round } of placed) byDate.set(date, [...(byDate.get(date) ?? []), round]);
  return Array.from({ length: weeks }, (_, w) => ({
    name: monday.add(7 * w, "day").format("D MMM"),
    days: Array.from({ length: 7 }, (_, d): Day => {
      const day = monday.add(7 * w + d, "day");
      const date = day.format("YYYY-MM-DD");
      const ahead = day.diff(today, "day");
      return {
        date,
        name: day.format("ddd D MMM"),
        isToday: ahead === 0,
        isOver: ahead < 0 || ahead >= PLAN_DAYS,
        isClosed: closed.has(date),
        minutes: g.upkeep.upkeep?.minutes?.[d],
        rounds: byDate.get(date) ?? [],
      };
    }),
  }));
}

/** The days' form as it stands. */
function daysOf(g: Gathered) {
  const { minutes, closed, target, hourValue, serviceHour, visitCost } = g.upkeep.upkeep ?? {};
  return {
    minutes: Array.from({ length: 7 }, (_, d) => (minutes?.[d] === undefined || minutes[d] === 1440 ? "" : String(minutes[d]))),
    closed: (closed ?? []).map((c) => (c.from === c.to ? c.from : `${c.from} to ${c.to}`)).join("\n"),
    target: target === undefined ? "" : String(Math.round(100 * target)),
    hourValue: hourValue === undefined ? "" : String(hourValue),
    visitCost: visitCost === undefined ? "" : String(visitCost),
    serviceHour: serviceHour === undefined ? "" : String(serviceHour),
    currency: g.currency,
    hasOthers: g.machines.length > 1,
    words: daysWords(minutes, closed),
  };
}

const SHORT = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"] as const;

/** "Fri up to 60 min, else 10 · closed 24 Dec to 1 Jan". */
function daysWords(minutes: readonly number[] | undefined, closed: readonly { from: string; to: string }[] | undefined): string {
  const day = (d: string) => dayjs(d).format("D MMM");
  const shut = (closed ?? []).map((c) => (c.from === c.to ? day(c.from) : `${day(c.from)} to ${day(c.to)}`));
  const byLength = new Map<number, string[]>();
  for (const [d, m] of (minutes ?? []).entries()) byLength.set(m, [...(byLength.get(m) ?? []), SHORT[d] as string]);
  const held = [...byLength].map(([m, days]) =>
    m === 0 ? `no round on ${days.join(", ")}` : `${days.join(", ")} ${m === 1440 ? "any length" : `up to ${m} min`}`,
  );
  return [held.length > 0 ? held.join("; ") : "any day, any length", shut.length > 0 ? `closed ${shut.join(", ")}` : ""]
    .filter(Boolean)
    .join(" · ");
}
