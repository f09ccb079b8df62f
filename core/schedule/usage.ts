import { type EventLog, type EventOf, firstAt, logUpTo } from "#core/events";
import { DAY_MS, MINUTE_MS } from "#core/time";
import { Column, type ColumnWriter } from "./column";
import { lastReplacedMs } from "./services";

/** Smoke that an hour of a material makes, in ply-hours: on optics, at the nozzle, and in the pre-filter, where powder counts double. */
export interface SmokeFactor {
  readonly optics: number;
  readonly nozzle: number;
  readonly filter: number;
}

/** What smoke is counted for. */
export type SmokePart = keyof SmokeFactor;

/** Smoke factor of each material by id; plain ply for one that is missing. */
export type SmokeFactors = ReadonlyMap<number, SmokeFactor>;

/** What a counter reading added. */
export interface CounterStep {
  /** Firing hours this reading added; never negative. */
  readonly hours: number;
  /** True when the reading runs backwards and nothing explains it: counted as no firing. */
  readonly unexplained: boolean;
}

export interface Usage {
  /** Firing hours between two times (ms), >= 0. */
  readonly firingHours: (fromMs: number, toMs: number) => number;
  /** Ply-hours between two times (ms), >= 0. */
  readonly smokeDose: (fromMs: number, toMs: number, part?: SmokePart) => number;
  /** Hours on the tube now fitted, undefined while the counter was never read and no tube was logged as new. */
  readonly tubeHours: number | undefined;
  /** Of the firing hours and ply-hours up to a time, what is no more than the pace of the last readings carried on. */
  readonly guessed: (atMs: number) => { readonly hours: number; readonly smoke: number };
  /** Hours on the tube that was fitted at a time. */
  readonly tubeHoursAt: (atMs: number) => number | undefined;
  /** Hours that the tube fitted at `toMs` ran since `fromMs`, or since it was fitted; negative where `toMs` is the earlier. */
  readonly tubeHoursBetween: (fromMs: number, toMs: number) => number;
  readonly lastCounter: { readonly counterHours: number; readonly atMs: number; readonly eventId: number } | undefined;
  /** What a counter reading added; undefined for one of another log. */
  readonly stepOf: (reading: EventOf<"hours">) => CounterStep | undefined;
  /** Firing hours per day over the last four weeks before the present. */
  readonly hoursPerDay: number;
}

/** Jobs of this long before a reading tell what the unlogged rest was. */
const RECENT_MS = 30 * DAY_MS;
const PACE_DAYS = 28;
const PLAIN: SmokeFactor = { optics: 1, nozzle: 1, filter: 1 };

/** What is summed: firing hours, and ply-hours by what they are counted for. */
const COUNTS = ["hours", "optics", "nozzle", "filter"] as const;
type Count = (typeof COUNTS)[number];
/** Running sums by count: entry n is the sum of the first n + 1. */
type Sums = { readonly [C in Count]: Column };
type SumsWriter = { readonly [C in Count]: ColumnWriter };

/**
 * The counters of a log as running sums, so that any span is a few look-ups. Between two counter readings the firing hours are their
 * difference; logged jobs divide them (scaled down when they claim more), the rest is spread evenly and takes the mix of the jobs of
 * the last 30 days. Jobs after the last reading count provisionally, and what nobody logs goes on at the pace of the last readings. A
 * changed tube or counter starts a new count.
 */
export interface UsageTable {
  readonly log: EventLog;
  readonly smoke: SmokeFactors;
  readonly jobTimes: Column;
  /** Jobs as they were logged, one after the other. */
  readonly logged: Sums;
  readonly readingTimes: Column;
  /** Jobs at or before each reading. */
  readonly jobsUpTo: Column;
  /** Share of the logged jobs of the span that ends at each reading that the counter bears out, 0..1. */
  readonly share: Column;
  /** Jobs as the counter bears them out, up to each reading, and the unlogged rest up to it. */
  readonly fired: Sums;
  readonly rest: Sums;
  /** Index of the reading that the tube fitted at each reading began with. */
  readonly tubeSince: Column;
  /** Longest job there ever was: how far back before its end one may have begun. */
  readonly longestMs: number;
  /** Sums up to any time before this one are those of the table it was brought forward from. */
  readonly sameBeforeMs: number;
}

type Writing = { readonly [K in "jobTimes" | "readingTimes" | "jobsUpTo" | "share" | "tubeSince"]: ColumnWriter } & {
  readonly [K in "logged" | "fired" | "rest"]: SumsWriter;
};

const lengthMs = (job: EventOf<"job">) => job.payload.minutes * MINUTE_MS;
const NO_SUMS: Sums = { hours: Column.EMPTY, optics: Column.EMPTY, nozzle: Column.EMPTY, filter: Column.EMPTY };
const byCount = <T>(of: (count: Count) => T) => ({ hours: of("hours"), optics: of("optics"), nozzle: of("nozzle"), filter: of("filter") });

function add(sums: SumsWriter, hours: number, mix: SmokeFactor): void {
  sums.hours.add(sums.hours.last() + hours);
  sums.optics.add(sums.optics.last() + hours * mix.optics);
  sums.nozzle.add(sums.nozzle.last() + hours * mix.nozzle);
  sums.filter.add(sums.filter.last() + hours * mix.filter);
}

/** Sum of the first `n` of a column of running sums. */
const upTo = (sums: Column | ColumnWriter, n: number) => (n === 0 ? 0 : sums.at(n - 1));

/**
 * The table of a log. Given the table of an earlier log of the same machine it is brought forward: only what comes at or after the
 * first record that differs is summed anew, and the result is the same as without it.
 */
export function usageTable(log: EventLog, smoke: SmokeFactors, previous?: UsageTable): UsageTable {
  const { job: jobs, hours: readings } = log.kinds;
  const before = previous && sameSmoke(previous.smoke, smoke) ? previous : undefined;
  const sameJobs = before ? before.log.kinds.job.sharedWith(jobs) : 0;
  const sameReadings = before ? before.log.kinds.hours.sharedWith(readings) : 0;
  const changedMs = Math.min(
    jobs.at(sameJobs)?.atMs ?? Number.POSITIVE_INFINITY,
    before?.log.kinds.job.at(sameJobs)?.atMs ?? Number.POSITIVE_INFINITY,
  );
  // The first reading that a job that differs may have changed, or that differs itself.
  let from = sameReadings;
  while (from > 0 && (readings.at(from - 1)?.atMs as number) >= changedMs) from--;

  const column = (name: "jobTimes" | "readingTimes" | "jobsUpTo" | "share" | "tubeSince", keep: number) =>
    (before?.[name] ?? Column.EMPTY).from(keep);
  const sums = (name: "logged" | "fired" | "rest", keep: number): SumsWriter => byCount((c) => (before?.[name] ?? NO_SUMS)[c].from(keep));
  const writing: Writing = {
    jobTimes: column("jobTimes", sameJobs),
    logged: sums("logged", sameJobs),
    readingTimes: column("readingTimes", from),
    jobsUpTo: column("jobsUpTo", from),
    share: column("share", from),
    fired: sums("fired", from),
    rest: sums("rest", from),
    tubeSince: column("tubeSince", from),
  };
  let longestMs = before?.longestMs ?? 0;
  for (let i = sameJobs; i < jobs.length; i++) {
    const job = jobs.at(i) as EventOf<"job">;
    writing.jobTimes.add(job.atMs);
    add(writing.logged, job.payload.minutes / 60, smoke.get(job.payload.materialId) ?? PLAIN);
    longestMs = Math.max(longestMs, lengthMs(job));
  }
  const jobTimes = writing.jobTimes.done();
  for (let i = from; i < readings.length; i++) addReading(writing, jobTimes, readings.at(i - 1), readings.at(i) as EventOf<"hours">, i);
  const unchanged =
    before && changedMs === Number.POSITIVE_INFINITY && sameReadings === readings.length && sameReadings === before.readingTimes.length;
  const sinceMs = from > 0 ? (readings.at(from - 1)?.atMs as number) : Number.NEGATIVE_INFINITY;
  return {
    log,
    smoke,
    jobTimes,
    logged: byCount((c) => writing.logged[c].done()),
    readingTimes: writing.readingTimes.done(),
    jobsUpTo: writing.jobsUpTo.done(),
    share: writing.share.done(),
    fired: byCount((c) => writing.fired[c].done()),
    rest: byCount((c) => writing.rest[c].done()),
    tubeSince: writing.tubeSince.done(),
    longestMs,
    sameBeforeMs: unchanged ? Number.POSITIVE_INFINITY : before ? sinceMs - longestMs : Number.NEGATIVE_INFINITY,
  };
}

/** Adds the span that ends at a reading: its jobs, its rest, and what the counter ran. */
function addReading(table: Writing, jobTimes: Column, before: EventOf<"hours"> | undefined, reading: EventOf<"hours">, i: number): void {
  const isFirst = i === 0 || before === undefined;
  const start = i === 0 ? 0 : table.jobsUpTo.last();
  const end = jobTimes.countUpTo(reading.atMs);
  const jobsOf = (count: Count) => upTo(table.logged[count], end) - upTo(table.logged[count], start);
  const jobHours = jobsOf("hours");
  const hours = isFirst ? jobHours : ranBetween(before, reading, jobHours);
  const share = jobHours > hours && jobHours > 0 ? hours / jobHours : 1;
  table.readingTimes.add(reading.atMs);
  table.jobsUpTo.add(end);
  table.share.add(share);
  for (const count of COUNTS) table.fired[count].add(table.fired[count].last() + share * jobsOf(count));
  // The first reading dates nothing; jobs logged before it stand for themselves.
  add(table.rest, isFirst ? 0 : Math.max(0, hours - jobHours), isFirst ? PLAIN : mixBefore(table.logged, jobTimes, reading.atMs));
  const isNewTube = isFirst || reading.payload.because === "tube-changed";
  table.tubeSince.add(isNewTube ? i : table.tubeSince.last());
}

/** Firing hours between two readings. After a change of tube or counter only the jobs tell. */
function ranBetween(before: EventOf<"hours">, reading: EventOf<"hours">, jobHours: number): number {
  if (reading.payload.because !== undefined) return jobHours;
  return Math.max(0, reading.payload.counterHours - before.payload.counterHours);
}

/** Smoke per hour of the jobs logged in the 30 days before a time. */
function mixBefore(logged: SumsWriter, jobTimes: Column, atMs: number): SmokeFactor {
  const from = jobTimes.countUpTo(atMs - RECENT_MS - 1);
  const to = jobTimes.countUpTo(atMs);
  const sum = (count: Count) => upTo(logged[count], to) - upTo(logged[count], from);
  const hours = sum("hours");
  return to === from || hours <= 0
    ? PLAIN
    : { optics: sum("optics") / hours, nozzle: sum("nozzle") / hours, filter: sum("filter") / hours };
}

function sameSmoke(a: SmokeFactors, b: SmokeFactors): boolean {
  if (a === b) return true;
  if (a.size !== b.size) return false;
  return [...a].every(([id, f]) => b.get(id)?.optics === f.optics && b.get(id)?.nozzle === f.nozzle && b.get(id)?.filter === f.filter);
}

/** Share of a job that the counter bears out: that of the span it ended in; all of it after the last reading. */
function shareOf({ readingTimes, share }: UsageTable, endMs: number): number {
  // Times are whole: the readings before one are those up to half a moment earlier.
  const span = readingTimes.countUpTo(endMs - 0.5);
  return span < readingTimes.length ? share.at(span) : 1;
}

/** What has come together of a count up to a time. Even within a job and within the rest of a span; jobs may overlap. */
function totalAt(table: UsageTable, count: Count, atMs: number): number {
  const { jobTimes, readingTimes, logged, fired, rest } = table;
  const jobs = table.log.kinds.job;
  const read = readingTimes.countUpTo(atMs);
  const done = jobTimes.countUpTo(atMs);
  const settled = read === 0 ? 0 : table.jobsUpTo.at(read - 1);
  const share = read < readingTimes.length ? table.share.at(read) : 1;
  let total = upTo(fired[count], read) + share * (upTo(logged[count], done) - upTo(logged[count], settled));
  for (let i = done; i < jobTimes.length && jobTimes.at(i) - table.longestMs < atMs; i++) {
    const length = Math.max(1, lengthMs(jobs.at(i) as EventOf<"job">));
    const ran = atMs - (jobTimes.at(i) - length);
    if (ran > 0) total += shareOf(table, jobTimes.at(i)) * (upTo(logged[count], i + 1) - upTo(logged[count], i)) * (ran / length);
  }
  total += upTo(rest[count], read);
  if (read > 0 && read < readingTimes.length) {
    const start = readingTimes.at(read - 1);
    const part = (atMs - start) / Math.max(1, readingTimes.at(read) - start);
    total += (upTo(rest[count], read + 1) - upTo(rest[count], read)) * part;
  }
  return total + guessedAt(table, count, atMs);
}

/** The pace of what nobody logged is that of the last readings over at least so long. */
const REST_PACE_MS = 21 * DAY_MS;
/** For longer than this nobody's pace is carried on. */
const MOST_GUESSED_MS = 120 * DAY_MS;

/** Use after the last counter reading that no job accounts for: at the pace of such use before it, since a machine whose counter is not read is not at rest. */
function guessedAt({ readingTimes, rest }: UsageTable, count: Count, atMs: number): number {
  const last = readingTimes.length - 1;
  if (last < 1 || atMs <= readingTimes.at(last)) return 0;
  const lastMs = readingTimes.at(last);
  let from = last - 1;
  while (from > 0 && lastMs - readingTimes.at(from) < REST_PACE_MS) from--;
  const span = lastMs - readingTimes.at(from);
  if (span < DAY_MS) return 0;
  return ((upTo(rest[count], last + 1) - upTo(rest[count], from + 1)) * Math.min(atMs - lastMs, MOST_GUESSED_MS)) / span;
}

/** True where nothing in the table is later than a moment (ms). */
export const isKnownAt = ({ jobTimes, readingTimes }: UsageTable, nowMs: number): boolean =>
  Math.max(upTo(jobTimes, jobTimes.length), upTo(readingTimes, readingTimes.length)) <= nowMs;

/** The counters as they stand at a moment (ms): records of later times are left out. */
export function usageAt(table: UsageTable, nowMs: number): Usage {
  return usageOf(isKnownAt(table, nowMs) ? table : usageTable(logUpTo(table.log, nowMs), table.smoke), nowMs);
}

function usageOf(table: UsageTable, nowMs: number): Usage {
  const readings = table.log.kinds.hours;
  const between = (count: Count, fromMs: number, toMs: number) =>
    toMs <= fromMs ? 0 : Math.max(0, totalAt(table, count, toMs) - totalAt(table, count, fromMs));
  const firingHours = (fromMs: number, toMs: number) => between("hours", fromMs, toMs);
  const last = readings.at(-1);
  const tubeHoursAt = (atMs: number) => {
    const fitted = tubeFittedAt(table, atMs);
    return fitted && fitted.hours + firingHours(fitted.fromMs, atMs);
  };
  const tubeHoursBetween = (fromMs: number, toMs: number): number => {
    if (toMs < fromMs) return -tubeHoursBetween(toMs, fromMs);
    const fitted = tubeFittedAt(table, toMs);
    return fitted ? firingHours(Math.max(fromMs, fitted.fromMs), toMs) : 0;
  };
  return {
    firingHours,
    smokeDose: (fromMs, toMs, part = "optics") => between(part, fromMs, toMs),
    tubeHours: tubeHoursAt(nowMs),
    tubeHoursAt,
    guessed: (atMs) => ({ hours: guessedAt(table, "hours", atMs), smoke: guessedAt(table, "optics", atMs) }),
    tubeHoursBetween,
    lastCounter: last && { counterHours: last.payload.counterHours, atMs: last.atMs, eventId: last.id },
    stepOf: (event) => stepOf(table, event),
    hoursPerDay: firingHours(nowMs - PACE_DAYS * DAY_MS, nowMs) / PACE_DAYS,
  };
}

/**
 * Since when the tube of a time is counted, and from how many hours: since the counter was first read, or read with a new tube, or since a
 * tube was logged as fitted. A reading that was told with the new tube, on the day it was fitted, says its hours; else it begins at none.
 */
function tubeFittedAt(
  { log, readingTimes, tubeSince }: UsageTable,
  atMs: number,
): { readonly fromMs: number; readonly hours: number } | undefined {
  const readings = log.kinds.hours;
  const read = Math.max(1, readingTimes.countUpTo(atMs));
  const began = readings.length === 0 ? undefined : readings.at(tubeSince.at(read - 1));
  const fittedMs = lastReplacedMs(log, "tube", atMs);
  const isTold = began?.payload.because === "tube-changed" && fittedMs !== undefined && fittedMs - began.atMs < DAY_MS;
  if (fittedMs !== undefined && !isTold && (began === undefined || fittedMs > began.atMs)) return { fromMs: fittedMs, hours: 0 };
  return began && { fromMs: began.atMs, hours: began.payload.counterHours };
}

/** What a counter reading added; undefined for one that is not in the table. */
function stepOf(table: UsageTable, { id, atMs }: EventOf<"hours">): CounterStep | undefined {
  const readings = table.log.kinds.hours;
  for (let i = firstAt(readings, atMs); readings.at(i)?.atMs === atMs; i++) {
    const [before, reading] = [readings.at(i - 1), readings.at(i)];
    if (reading?.id !== id) continue;
    if (i === 0 || !before) return { hours: 0, unexplained: false };
    const jobHours = upTo(table.logged.hours, table.jobsUpTo.at(i)) - upTo(table.logged.hours, table.jobsUpTo.at(i - 1));
    const backwards = reading.payload.counterHours < before.payload.counterHours;
    return { hours: ranBetween(before, reading, jobHours), unexplained: reading.payload.because === undefined && backwards };
  }
  return undefined;
}

/** The counters of a log at a moment, from scratch. */
export const usageFrom = (log: EventLog, nowMs: number, smoke: SmokeFactors): Usage => usageAt(usageTable(log, smoke), nowMs);
