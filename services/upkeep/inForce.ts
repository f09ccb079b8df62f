/** The tasks of a machine as they hold for it now: each by the school, the history, the cost or the figure its owner chose for it. */
import type { Task } from "#catalog/tasks";
import type { EventLog } from "#core/events";
import { type Fittings, FOLLOWS, type Follows, type OwnEvery, SCHOOLS, type School, type Upkeep } from "#core/machine";
import { type Every, type Learnt, learnedInterval, type Usage } from "#core/schedule";
import { DAY_MS } from "#core/time";
import type { Material } from "#store/machines";
import type { Trade } from "../machine/trade";
import { type Counted, type History, historyOf, type Look, usedBetween } from "./runs";
import { type ShopChange, shopChange } from "./shop";

export interface TaskInForce extends Task {
  readonly follows: Follows;
}

/** What intervals are worked out from. */
export interface UpkeepGround {
  readonly trade: Trade;
  readonly log: EventLog;
  readonly usage: Usage;
  readonly materials: readonly Material[];
  readonly nowMs: number;
  readonly upkeep: Upkeep | undefined;
  /** Looks that were taken for cases. */
  readonly looks: readonly Look[];
}

export const DEFAULT_TARGET = 0.1;
const PACE_MS = 56 * DAY_MS;

/** What a task's interval is learned in: the smoke or the hours of the by-use school where it goes by use, else days. */
export function countedIn(task: Pick<Task, "schools">): Counted | undefined {
  const every = task.schools["by-use"] ?? task.schools.careful ?? {};
  return every.plyHours !== undefined
    ? "plyHours"
    : every.firingHours !== undefined
      ? "firingHours"
      : every.days !== undefined
        ? "days"
        : undefined;
}

/** An interval in another count, at the machine's pace of the last eight weeks; undefined where it was hardly used. */
function converted({ usage, nowMs }: UpkeepGround, task: Task, every: Every | undefined, by: Counted): number | undefined {
  if (!every) return undefined;
  if (every[by] !== undefined) return every[by];
  const pace = (unit: Counted) => usedBetween(usage, task, unit, nowMs - PACE_MS, nowMs) / (PACE_MS / DAY_MS);
  const from = (["plyHours", "firingHours", "days"] as const).find((u) => every[u] !== undefined);
  const [own, other] = from ? [pace(from), pace(by)] : [0, 0];
  return from && own > 0 && other > 0 ? ((every[from] as number) * other) / own : undefined;
}

export interface Learning extends Learnt {
  readonly by: Counted;
  readonly school: number;
  readonly target: number;
  readonly least: number;
  readonly most: number;
  readonly history: History;
  readonly shop: ShopChange | undefined;
}

/** How far beyond the least often, and how short of the most often that anybody does it, a history may move an interval. */
const BEYOND = 2;
const SHORT_OF = 4;

const learned = new WeakMap<UpkeepGround, Map<string, Learning | undefined>>();

/** What a task's own history says of its interval, worked out once; undefined where it goes by nothing that is counted. */
export function learningOf(ground: UpkeepGround, task: Task): Learning | undefined {
  const own = learned.get(ground) ?? new Map<string, Learning | undefined>();
  learned.set(ground, own);
  if (!own.has(task.id)) own.set(task.id, learn(ground, task));
  return own.get(task.id);
}

function learn(ground: UpkeepGround, task: Task): Learning | undefined {
  const by = countedIn(task);
  const school = by && converted(ground, task, task.schools["by-use"] ?? task.schools.careful, by);
  if (by === undefined || school === undefined) return undefined;
  const shop = shopChange(ground.log, ground.materials, ground.upkeep);
  const history = historyOf(task, ground, by, shop?.sinceMs ?? Number.NEGATIVE_INFINITY);
  const [careful, minimal] = [converted(ground, task, task.schools.careful, by), converted(ground, task, task.schools.minimal, by)];
  const least = Math.min(school, careful ?? school) / SHORT_OF;
  const most = Math.max(school, minimal ?? school) * BEYOND;
  const target = ground.upkeep?.target ?? DEFAULT_TARGET;
  return { ...learnedInterval(history.runs, { school, target, least, most }), by, school, target, least, most, history, shop };
}

/** What an owner chose for a task; undefined where he left it to the machine's school. */
export const choiceFor = (upkeep: Upkeep | undefined, id: string): TaskChoice | undefined =>
  (upkeep?.tasks as Readonly<Record<string, TaskChoice>> | undefined)?.[id];

interface TaskChoice {
  readonly follows: Follows;
  readonly every?: OwnEvery;
}

/** What a task follows: as its owner chose for it, else the machine's school. */
export const followsOf = (upkeep: Upkeep | undefined, school: School, id: string): Follows => choiceFor(upkeep, id)?.follows ?? school;

const isSchool = (f: Follows): f is School => (SCHOOLS as readonly string[]).includes(f);

/** What of a rule happens rather than is counted: it holds whatever the interval. */
const events = ({ smokyDay, beforeMonth, airflowLoss, afterNew, afterOpened }: Every): Every => ({
  ...(smokyDay === undefined ? {} : { smokyDay }),
  ...(beforeMonth === undefined ? {} : { beforeMonth }),
  ...(airflowLoss === undefined ? {} : { airflowLoss }),
  ...(afterNew === undefined ? {} : { afterNew }),
  ...(afterOpened === undefined ? {} : { afterOpened }),
});

/** When a task falls due by what it follows. */
export function everyOf(ground: UpkeepGround, task: Task, follows: Follows): Every {
  const { school } = ground.trade.layout.fittings;
  if (isSchool(follows)) return task.schools[follows] ?? {};
  const base = task.schools[school] ?? task.schools["by-use"] ?? task.schools.careful ?? {};
  if (follows === "learned") {
    const learning = learningOf(ground, task);
    return learning ? { ...events(base), [learning.by]: learning.interval } : base;
  }
  const own = choiceFor(ground.upkeep, task.id)?.every;
  return own ? { ...events(base), ...own } : base;
}

/** Every task of a machine, as it holds; what falls due by nothing is in it with an empty rule. */
export function tasksInForce(ground: UpkeepGround): readonly TaskInForce[] {
  const { school } = ground.trade.layout.fittings as Fittings;
  return ground.trade.tasks.map((task) => {
    const follows = followsOf(ground.upkeep, school, task.id);
    return { ...task, follows, every: everyOf(ground, task, follows) };
  });
}

export const isFollowed = (value: string): value is Follows => (FOLLOWS as readonly string[]).includes(value);
