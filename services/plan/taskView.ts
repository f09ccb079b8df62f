/** One task of the plan: what it follows and why, what its history and its cost say, and the figures to choose from. */
import type { Task } from "#catalog/tasks";
import { FOLLOWS, type Follows, type OwnEvery, SCHOOLS } from "#core/machine";
import { costPerPlyHour, type Every } from "#core/schedule";
import type { Gathered } from "../machine/gathered";
import { choiceFor, countedIn, everyOf, type Learning, learningOf } from "../upkeep/inForce";
import { amountWords, COUNTED_WORDS, everyWords, FOLLOWS_WORDS } from "../upkeep/words";
import { leftWords, moneyWords, number, onDay, percentOf, shortDay, wholeMinutes } from "../words";
import { type Costs, costsOf, monthOf } from "./costs";

export interface TaskLine {
  readonly id: string;
  readonly name: string;
  readonly does: string;
  readonly follows: string;
  readonly every: string;
  readonly due: string;
  readonly late: boolean;
}

/** Every task of the machine in a line. */
export function taskLines(g: Gathered): TaskLine[] {
  return g.tasks.map((t) => {
    const due = g.due.find((d) => d.id === t.id);
    return {
      id: t.id,
      name: t.name,
      does: t.does,
      follows: FOLLOWS_WORDS[t.follows],
      every: everyWords(t.every),
      due: due ? leftWords(due) : "not asked for",
      late: due?.state === "due",
    };
  });
}

export interface FollowChoice {
  readonly id: Follows;
  readonly name: string;
  readonly every: string;
  /** Why it cannot be chosen now; undefined where it can. */
  readonly not?: string | undefined;
}

export interface Curve {
  readonly x: number;
  readonly y: number;
}

export interface TaskCard extends TaskLine {
  readonly reason: string;
  readonly chosen: Follows;
  readonly choices: readonly FollowChoice[];
  readonly own: Readonly<Record<keyof OwnEvery, string>>;
  readonly learned: LearnedView | undefined;
  readonly cost: CostView | undefined;
  /** Why there is no cost curve, where there is none. */
  readonly noCost: string | undefined;
}

export interface LearnedView {
  readonly sentence: string;
  readonly unit: string;
  readonly chance: readonly Curve[];
  readonly target: number;
  readonly caps: readonly [number, number];
  readonly school: number;
  readonly learned: number;
  readonly found: readonly { readonly day: string; readonly dose: number; readonly isBad: boolean; readonly said: string }[];
}

export interface CostView {
  readonly sentence: string;
  readonly curve: readonly Curve[];
  readonly low: readonly Curve[];
  readonly high: readonly Curve[];
  readonly marks: readonly {
    readonly name: string;
    readonly dose: number;
    readonly y: number;
    readonly said: string;
    readonly month: string;
  }[];
  readonly sum: readonly { readonly term: string; readonly text: string }[];
}

const POINTS = 60;

/** Undefined for a task that the machine does not have. */
export function taskCard(g: Gathered, id: string): TaskCard | undefined {
  const task = g.tasks.find((t) => t.id === id);
  const line = taskLines(g).find((l) => l.id === id);
  if (!task || !line) return undefined;
  const learning = learningOf(g.upkeep, task);
  const costs = learning && costsOf(g, task, learning);
  const own = choiceFor(g.upkeep.upkeep, id)?.every;
  const typed = (v: number | undefined) => (v === undefined ? "" : number(v));
  return {
    ...line,
    reason: task.reason,
    chosen: task.follows,
    choices: FOLLOWS.map((f) => choiceOf(g, task, f, learning, costs)),
    own: { days: typed(own?.days), firingHours: typed(own?.firingHours), plyHours: typed(own?.plyHours), jobs: typed(own?.jobs) },
    learned: learning && learnedView(g, learning),
    cost: costs && learning && costView(g, task, learning, costs),
    noCost: costs ? undefined : noCostWords(g, task),
  };
}

function choiceOf(g: Gathered, task: Task, f: Follows, learning: Learning | undefined, costs: Costs | undefined): FollowChoice {
  const name = FOLLOWS_WORDS[f];
  if (f === "learned")
    return learning
      ? { id: f, name, every: everyWords(everyOf(g.upkeep, task, f)) }
      : { id: f, name, every: "", not: "It goes by nothing that could be counted." };
  if (f === "cheapest") {
    if (costs?.cheapest) return { id: f, name, every: everyWords(cheapestEvery(g, task, costs)) };
    return { id: f, name, every: "", not: costs ? "How fast it fouls here is hardly known yet." : noCostWords(g, task) };
  }
  if (f === "own") {
    const every = everyOf(g.upkeep, task, f);
    return { id: f, name, every: everyWords(every) };
  }
  return { id: f, name, every: everyWords(task.schools[f]) };
}

/** The cheapest interval as a rule, within the caps of what anybody does. */
export function cheapestEvery(g: Gathered, task: Task, costs: Costs): Every {
  const learning = learningOf(g.upkeep, task);
  const dose = costs.cheapest?.dose ?? learning?.school ?? 0;
  const capped = learning ? Math.min(Math.max(dose, learning.least), learning.most) : dose;
  return { plyHours: Math.round(10 * capped) / 10 };
}

function noCostWords(g: Gathered, task: Task): string {
  if (countedIn(task) !== "plyHours" || task.id !== task.station) return "Only what stands in the light costs power when it is dirty.";
  if (task.station === "nozzle") return "The nozzle takes no light: it has no cost curve.";
  return g.baseline ? "Its dirt costs no light that could be read." : "Without a baseline ladder nobody knows what its dirt costs.";
}

/** What moved an interval, in one sentence. */
export function learnedSentence(g: Gathered, l: Learning): string {
  const [interval, school] = [amountWords(l.interval, l.by), amountWords(l.school, l.by)];
  const since = l.shop ? ` Counted ${onDay(l.shop.sinceMs, g.nowMs).replace(/^on /, "since ")} only: ${l.shop.words}.` : "";
  const { found, runs } = l.history;
  if (runs.length === 0)
    return `Not learned yet: it takes an inspection after a clean, and none is in the log.${since} Until then the school's ${school} stands.`;
  const bad = found.filter((f) => f.isBad).length;
  const seen =
    bad === 0
      ? `${found.length === 1 ? "The one inspection" : `All ${found.length} inspections`} found it good`
      : `${bad} of ${found.length} inspections found it bad`;
  const change =
    Math.abs(l.interval / l.school - 1) < 0.03
      ? `so the school's ${school} fits`
      : l.interval > l.school
        ? `so it may wait ${interval} instead of ${school}`
        : `so it should come after ${interval} instead of ${school}`;
  const cap =
    l.interval >= l.most - 1e-9 && l.uncapped > l.most
      ? " That is the most: twice what anybody leaves it."
      : l.interval <= l.least + 1e-9 && l.uncapped < l.least
        ? " That is the least: a quarter of what the most careful do."
        : "";
  return `${seen}, ${change} (at most ${percentOf(l.target)} found bad).${cap}${since}`;
}

function learnedView(g: Gathered, l: Learning): LearnedView {
  const to = 1.25 * Math.max(l.interval, l.school, ...l.history.found.map((f) => f.dose));
  return {
    sentence: learnedSentence(g, l),
    unit: COUNTED_WORDS[l.by],
    chance: Array.from({ length: POINTS + 1 }, (_, i) => {
      const x = (to * i) / POINTS;
      return { x, y: 100 * l.chanceBad(x) };
    }),
    target: 100 * l.target,
    caps: [l.least, l.most],
    school: l.school,
    learned: l.interval,
    found: l.history.found.map((f) => ({
      day: shortDay(f.atMs, g.nowMs),
      dose: f.dose,
      isBad: f.isBad,
      said: `${shortDay(f.atMs, g.nowMs)}: found ${f.isBad ? "bad" : "good"} after ${amountWords(f.dose, l.by)}`,
    })),
  };
}

function costView(g: Gathered, task: Task, l: Learning, costs: Costs): CostView {
  const inForce = everyOf(g.upkeep, task, g.tasks.find((t) => t.id === task.id)?.follows ?? "by-use").plyHours;
  const named = [
    ...SCHOOLS.flatMap((s) => {
      const dose = task.schools[s]?.plyHours;
      return dose === undefined ? [] : [{ name: FOLLOWS_WORDS[s], dose }];
    }),
    { name: "learned", dose: l.interval },
    ...(costs.cheapest ? [{ name: "cheapest", dose: costs.cheapest.dose }] : []),
    ...(inForce !== undefined && g.tasks.find((t) => t.id === task.id)?.follows === "own" ? [{ name: "your own", dose: inForce }] : []),
  ];
  const marks = named.map(({ name, dose }) => {
    const month = monthOf(costs, dose);
    return {
      name,
      dose,
      y: costPerPlyHour(costs.cost, dose),
      said: amountWords(dose, "plyHours"),
      month: `${wholeMinutes(month.minutes)} min a month${month.money === undefined ? "" : `, ${moneyWords(month.money, g.currency)}`}`,
    };
  });
  const [from, to] = [Math.min(...named.map((n) => n.dose)) / 2, 1.6 * Math.max(...named.map((n) => n.dose))];
  const along = (c: Costs["cost"]) =>
    Array.from({ length: POINTS + 1 }, (_, i) => {
      const x = from * (to / from) ** (i / POINTS);
      return { x, y: costPerPlyHour(c, x) };
    });
  return {
    sentence: costSentence(costs, l, task),
    curve: along(costs.cost),
    low: along(costs.band[0]),
    high: along(costs.band[1]),
    marks,
    sum: [
      { term: "One clean adds to its round", text: `${number(costs.cost.minutes)} min` },
      { term: "Found bad it takes longer by", text: `${number(costs.cost.badMinutes)} min, its risk for the optic included` },
      {
        term: "Its dirt takes",
        text: `${number(100 * costs.cost.lossPerPlyHour, 2)} % of the light per smoke hour, so every cut is slower by that`,
      },
      { term: "Smoke", text: `${number(costs.plyHoursAMonth)} smoke hours a month` },
      { term: "Minutes per smoke hour", text: "(clean + chance bad × longer) ÷ interval + 60 × loss × interval ÷ 2" },
    ],
  };
}

function costSentence(costs: Costs, l: Learning, task: Task): string {
  if (!costs.cheapest)
    return "How fast this part fouls here is hardly known yet, so no point is named: a ladder before and one after a clean would tell.";
  const { dose } = costs.cheapest;
  const school = task.schools["by-use"]?.plyHours ?? l.school;
  const saved = monthOf(costs, school).minutes - monthOf(costs, dose).minutes;
  const words = amountWords(dose, "plyHours");
  if (saved < 1) return `Cleaning every ${words} costs least, and hardly less than every ${amountWords(school, "plyHours")}.`;
  const why = dose < school ? "dirt slows every cut before it is seen" : "the clean itself is what costs";
  return `Cleaning every ${words} costs least: ${wholeMinutes(saved)} min a month less than every ${amountWords(school, "plyHours")}, since ${why}.`;
}
