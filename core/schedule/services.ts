import { type Chain, countUpTo, type EventLog, type EventOf, type EventPayload } from "#core/events";

/** Times (ms, rising) at which a station was serviced. */
interface StationServices {
  /** Cleaned or replaced, with and without named tasks. */
  readonly cleaned: number[];
  readonly plain: number[];
  readonly replaced: number[];
  /** When it was left out of the machine, and when one was put in or back. */
  readonly takenOut: number[];
  readonly putIn: number[];
  /** Any service that names a task, by task. */
  readonly byTask: Map<string, number[]>;
}

const NONE: StationServices = { cleaned: [], plain: [], replaced: [], takenOut: [], putIn: [], byTask: new Map() };
const sorted = new WeakMap<Chain<EventOf<"service">>, ReadonlyMap<string, StationServices>>();

/** Whether a service may have mended something: all but a look. */
export const mends = (what: EventPayload["service"]["what"]): boolean =>
  what === "cleaned" || what === "replaced" || what === "aimed" || what === "adjusted";

/** Services by station, sorted once for a list of them. */
export function servicesAt(log: EventLog, station: string): StationServices {
  const services = log.kinds.service;
  let known = sorted.get(services);
  if (!known) {
    known = sortByStation(services);
    sorted.set(services, known);
  }
  const own = known.get(station) ?? NONE;
  return station === "window" ? withNewTubes(log, own, known.get("tube")?.replaced ?? []) : own;
}

const noted = new WeakMap<Chain<EventOf<"hours">>, readonly number[]>();

/** A new tube has a window of its own, whether it is logged as a part or noted with its counter. */
function withNewTubes({ kinds: { hours } }: EventLog, own: StationServices, replaced: readonly number[]): StationServices {
  const counted = noted.get(hours) ?? Array.from(hours).flatMap((e) => (e.payload.because === "tube-changed" ? e.atMs : []));
  noted.set(hours, counted);
  if (replaced.length + counted.length === 0) return own;
  const and = (times: readonly number[]) => [...times, ...replaced, ...counted].sort((x, y) => x - y);
  return { ...own, cleaned: and(own.cleaned), plain: and(own.plain), replaced: and(own.replaced) };
}

function sortByStation(services: Chain<EventOf<"service">>): ReadonlyMap<string, StationServices> {
  const stations = new Map<string, StationServices>();
  for (const { atMs, payload } of services) {
    let own = stations.get(payload.station);
    if (!own) {
      own = { cleaned: [], plain: [], replaced: [], takenOut: [], putIn: [], byTask: new Map() };
      stations.set(payload.station, own);
    }
    if (payload.task !== undefined) {
      const times = own.byTask.get(payload.task);
      if (times) times.push(atMs);
      else own.byTask.set(payload.task, [atMs]);
    }
    if (payload.what === "taken-out") own.takenOut.push(atMs);
    if (payload.what === "put-back" || payload.what === "replaced") own.putIn.push(atMs);
    if (payload.what !== "cleaned" && payload.what !== "replaced") continue;
    own.cleaned.push(atMs);
    if (payload.task === undefined) own.plain.push(atMs);
    if (payload.what === "replaced") own.replaced.push(atMs);
  }
  return stations;
}

/** When a station was last cleaned or replaced, up to a time, in ms; undefined when the log does not say. `plainOnly` passes over named tasks. */
export function lastServiceMs(
  log: EventLog,
  station: string,
  { untilMs = Number.POSITIVE_INFINITY, plainOnly = false }: { readonly untilMs?: number; readonly plainOnly?: boolean } = {},
): number | undefined {
  const { cleaned, plain } = servicesAt(log, station);
  const times = plainOnly ? plain : cleaned;
  return times[countUpTo(times, untilMs) - 1];
}

/** When a station was last replaced, in ms; undefined when the log does not say. */
export const lastReplacedMs = (log: EventLog, station: string, untilMs = Number.POSITIVE_INFINITY): number | undefined =>
  servicesAt(log, station).replaced.findLast((ms) => ms <= untilMs);

/** Since when a station is out of the machine, in ms; undefined while it is in. */
export function outSinceMs(log: EventLog, station: string): number | undefined {
  const { takenOut, putIn } = servicesAt(log, station);
  const outMs = takenOut.at(-1);
  return outMs !== undefined && outMs > (putIn.at(-1) ?? Number.NEGATIVE_INFINITY) ? outMs : undefined;
}

/** When a task was last done, in ms; undefined when the log does not say. */
export function lastDoneMs(
  log: EventLog,
  rule: { readonly station: string; readonly tasks?: readonly string[]; readonly plain?: boolean },
): number | undefined {
  if (!rule.tasks) return lastServiceMs(log, rule.station);
  const { byTask, plain } = servicesAt(log, rule.station);
  const times = rule.tasks.flatMap((task) => byTask.get(task)?.at(-1) ?? []);
  const last = Math.max(...times, rule.plain ? (plain.at(-1) ?? Number.NEGATIVE_INFINITY) : Number.NEGATIVE_INFINITY);
  return last === Number.NEGATIVE_INFINITY ? undefined : last;
}

const looks = new WeakMap<Chain<EventOf<"grade">>, ReadonlyMap<string, EventOf<"grade">>>();

/** When a station was last looked at, where that look found it clear; undefined where it did not, or came after a time (ms). */
export function clearLookMs(log: EventLog, station: string, untilMs: number): number | undefined {
  const grades = log.kinds.grade;
  const known = looks.get(grades) ?? new Map(Array.from(grades, (e) => [e.payload.station, e]));
  looks.set(grades, known);
  const last = known.get(station);
  return last?.payload.grade === 0 && last.atMs <= untilMs ? last.atMs : undefined;
}

/** How often a task was done at a station after a time (ms) and up to another. */
export function timesDone(log: EventLog, { station, task }: { station: string; task: string }, afterMs: number, untilMs: number): number {
  const times = servicesAt(log, station).byTask.get(task) ?? [];
  return countUpTo(times, untilMs) - countUpTo(times, afterMs);
}

/** When a task was done, in ms, rising, up to a time. */
export function doneTimes(
  log: EventLog,
  rule: { readonly station: string; readonly tasks?: readonly string[]; readonly plain?: boolean },
): number[] {
  const own = servicesAt(log, rule.station);
  if (!rule.tasks) return own.cleaned;
  return [...rule.tasks.flatMap((t) => own.byTask.get(t) ?? []), ...(rule.plain ? own.plain : [])].sort((a, b) => a - b);
}
