import { countUpTo, type EventOf, eventsOf, type MachineEvent } from "#core/events";

/** Smoke that an hour of a material makes, in ply-hours: on optics and at the nozzle. */
export interface SmokeFactor {
  readonly optics: number;
  readonly nozzle: number;
}

export interface UsageOptions {
  /** Smoke factor of each material by id. */
  readonly smoke: ReadonlyMap<number, SmokeFactor>;
  /** Exhaust factor 1..3 and room factor 1..1.5. */
  readonly exhaustFactor?: number;
  readonly roomFactor?: number;
}

/** A span of firing: hours and smoke per hour are even within it. */
interface Segment {
  readonly fromMs: number;
  readonly toMs: number;
  readonly hours: number;
  readonly optics: number;
  readonly nozzle: number;
}

export interface CounterStep {
  readonly eventId: number;
  /** Firing hours this reading added; never negative. */
  readonly hours: number;
  /** True when the reading runs backwards and nothing explains it: counted as no firing. */
  readonly unexplained: boolean;
}

export interface Usage {
  /** Firing hours between two times (ms), >= 0. */
  readonly firingHours: (fromMs: number, toMs: number) => number;
  /** Ply-hours between two times (ms), >= 0. */
  readonly smokeDose: (fromMs: number, toMs: number, part?: "optics" | "nozzle") => number;
  /** Hours on the tube now fitted, undefined while the counter was never read. */
  readonly tubeHours: number | undefined;
  /** Hours on that tube at a past time. */
  readonly tubeHoursAt: (atMs: number) => number | undefined;
  readonly lastCounter: { readonly counterHours: number; readonly atMs: number; readonly eventId: number } | undefined;
  readonly steps: readonly CounterStep[];
  /** Firing hours per day over the last four weeks before `nowMs`. */
  readonly hoursPerDay: number;
}

const DAY_MS = 86_400_000;
const HOUR_MS = 3_600_000;
/** Jobs of this long before a reading tell what the unlogged rest was. */
const RECENT_MS = 30 * DAY_MS;
const PLAIN: SmokeFactor = { optics: 1, nozzle: 1 };

/**
 * Counters from a corrected log (see `currentEvents`). Between two counter readings the firing hours are their difference;
 * logged jobs divide them (scaled down when they claim more), the rest is spread evenly and takes the mix of the jobs of the last
 * 30 days. Jobs after the last reading count provisionally. A changed tube or counter starts a new count.
 */
export function usageFrom(events: readonly MachineEvent[], nowMs: number, options: UsageOptions): Usage {
  const readings = eventsOf(events, "hours").filter((e) => e.atMs <= nowMs);
  const jobs = eventsOf(events, "job").filter((e) => e.atMs <= nowMs);
  const factor = (options.exhaustFactor ?? 1) * (options.roomFactor ?? 1);
  const smokeOf = (materialId: number) => options.smoke.get(materialId) ?? PLAIN;

  const jobTimes = jobs.map((j) => j.atMs);
  const upTo = sumsOfJobs(jobs, smokeOf);
  const recentMix = (atMs: number): SmokeFactor => {
    const from = countUpTo(jobTimes, atMs - RECENT_MS - 1);
    const to = countUpTo(jobTimes, atMs);
    const sum = (of: readonly number[]) => (of[to] as number) - (of[from] as number);
    const hours = sum(upTo.hours);
    return to > from && hours > 0 ? { optics: sum(upTo.optics) / hours, nozzle: sum(upTo.nozzle) / hours } : PLAIN;
  };

  const segments: Segment[] = [];
  const steps: CounterStep[] = [];
  const addJobs = (list: typeof jobs, share: number) => {
    for (const job of list) {
      const hours = (job.payload.minutes / 60) * share;
      const smoke = smokeOf(job.payload.materialId);
      segments.push({
        fromMs: job.atMs - (job.payload.minutes / 60) * HOUR_MS,
        toMs: job.atMs,
        hours,
        optics: hours * smoke.optics * factor,
        nozzle: hours * smoke.nozzle * factor,
      });
    }
  };
  const inside = (fromMs: number, toMs: number) => jobs.slice(countUpTo(jobTimes, fromMs), countUpTo(jobTimes, toMs));

  let tubeStartMs = Number.NEGATIVE_INFINITY;
  let tubeHoursAtStart = 0;
  readings.forEach((reading, i) => {
    const before = readings[i - 1];
    if (!before) {
      // The first reading dates nothing; jobs logged before it stand for themselves.
      addJobs(inside(Number.NEGATIVE_INFINITY, reading.atMs), 1);
      tubeHoursAtStart = reading.payload.counterHours;
      tubeStartMs = reading.atMs;
      steps.push({ eventId: reading.id, hours: 0, unexplained: false });
      return;
    }
    const difference = reading.payload.counterHours - before.payload.counterHours;
    const newCount = reading.payload.because !== undefined;
    const between = inside(before.atMs, reading.atMs);
    const jobHours = between.reduce((sum, j) => sum + j.payload.minutes / 60, 0);
    // After a change of tube or counter only the jobs tell what was fired in between.
    const hours = newCount ? jobHours : Math.max(0, difference);
    addJobs(between, jobHours > hours && jobHours > 0 ? hours / jobHours : 1);
    const rest = Math.max(0, hours - jobHours);
    if (rest > 0) {
      const mix = recentMix(reading.atMs);
      segments.push({
        fromMs: before.atMs,
        toMs: reading.atMs,
        hours: rest,
        optics: rest * mix.optics * factor,
        nozzle: rest * mix.nozzle * factor,
      });
    }
    if (reading.payload.because === "tube-changed") {
      tubeStartMs = reading.atMs;
      tubeHoursAtStart = reading.payload.counterHours;
    }
    steps.push({ eventId: reading.id, hours, unexplained: !newCount && difference < 0 });
  });
  const last = readings.at(-1);
  addJobs(inside(last?.atMs ?? Number.NEGATIVE_INFINITY, nowMs), 1);

  const hours = runningTotal(segments, (s) => s.hours);
  const smoke = { optics: runningTotal(segments, (s) => s.optics), nozzle: runningTotal(segments, (s) => s.nozzle) };
  const between = (total: (atMs: number) => number, fromMs: number, toMs: number) =>
    toMs <= fromMs ? 0 : Math.max(0, total(toMs) - total(fromMs));
  const firingHours = (fromMs: number, toMs: number) => between(hours, fromMs, toMs);
  const tubeHoursAt = (atMs: number) => (readings.length === 0 ? undefined : tubeHoursAtStart + firingHours(tubeStartMs, atMs));

  return {
    firingHours,
    smokeDose: (fromMs, toMs, part = "optics") => between(smoke[part], fromMs, toMs),
    tubeHours: tubeHoursAt(nowMs),
    tubeHoursAt,
    lastCounter: last && { counterHours: last.payload.counterHours, atMs: last.atMs, eventId: last.id },
    steps,
    hoursPerDay: firingHours(nowMs - 28 * DAY_MS, nowMs) / 28,
  };
}

/** What the first n jobs sum up to, for every n: hours, and ply-hours on optics and at the nozzle. */
function sumsOfJobs(jobs: readonly EventOf<"job">[], smokeOf: (materialId: number) => SmokeFactor) {
  const sums = { hours: [0], optics: [0], nozzle: [0] };
  for (const [i, job] of jobs.entries()) {
    const hours = job.payload.minutes / 60;
    const smoke = smokeOf(job.payload.materialId);
    sums.hours.push((sums.hours[i] as number) + hours);
    sums.optics.push((sums.optics[i] as number) + hours * smoke.optics);
    sums.nozzle.push((sums.nozzle[i] as number) + hours * smoke.nozzle);
  }
  return sums;
}

/**
 * What has come together up to a time, as a function of it: even within a segment, segments may overlap. Sorted once, then each
 * question is one binary search, for a year of jobs is asked about thousands of times.
 */
function runningTotal(segments: readonly Segment[], pick: (s: Segment) => number): (atMs: number) => number {
  const bends = segments.flatMap((s) => {
    const rate = pick(s) / Math.max(1, s.toMs - s.fromMs);
    return [
      { atMs: s.fromMs, rate },
      { atMs: s.toMs, rate: -rate },
    ];
  });
  bends.sort((a, b) => a.atMs - b.atMs);
  const times: number[] = [];
  const totals: number[] = [];
  const rates: number[] = [];
  let total = 0;
  let rate = 0;
  for (const bend of bends) {
    total += rate * (bend.atMs - (times.at(-1) ?? bend.atMs));
    rate += bend.rate;
    times.push(bend.atMs);
    totals.push(total);
    rates.push(rate);
  }
  return (atMs) => {
    const n = countUpTo(times, atMs);
    if (n === 0) return 0;
    if (n === times.length) return totals[n - 1] as number;
    return (totals[n - 1] as number) + (rates[n - 1] as number) * (atMs - (times[n - 1] as number));
  };
}

/** Services of a station, and the times in order at which it was cleaned or replaced, with and without named tasks. */
interface StationServices {
  readonly all: EventOf<"service">[];
  readonly cleanedMs: number[];
  readonly plainMs: number[];
}

const byStation = new WeakMap<readonly MachineEvent[], Map<string, StationServices>>();
const NONE: StationServices = { all: [], cleanedMs: [], plainMs: [] };

/** Services of one station. A log is sorted once; it must not change afterwards. */
function servicesAt(events: readonly MachineEvent[], station: string): StationServices {
  let sorted = byStation.get(events);
  if (!sorted) {
    sorted = new Map();
    for (const e of [...eventsOf(events, "service")].sort((a, b) => a.atMs - b.atMs)) {
      const services = sorted.get(e.payload.station) ?? { all: [], cleanedMs: [], plainMs: [] };
      sorted.set(e.payload.station, services);
      services.all.push(e);
      if (e.payload.what !== "cleaned" && e.payload.what !== "replaced") continue;
      services.cleanedMs.push(e.atMs);
      if (e.payload.task === undefined) services.plainMs.push(e.atMs);
    }
    byStation.set(events, sorted);
  }
  return sorted.get(station) ?? NONE;
}

/** When a station was last cleaned or replaced, up to a time, in ms; undefined when the log does not say. `plainOnly` passes over named tasks. */
export function lastServiceMs(
  events: readonly MachineEvent[],
  station: string,
  { untilMs = Number.POSITIVE_INFINITY, plainOnly = false }: { readonly untilMs?: number; readonly plainOnly?: boolean } = {},
): number | undefined {
  const { cleanedMs, plainMs } = servicesAt(events, station);
  const times = plainOnly ? plainMs : cleanedMs;
  return times[countUpTo(times, untilMs) - 1];
}

/** When a task was last done, in ms; undefined when the log does not say. */
export function lastDoneMs(
  events: readonly MachineEvent[],
  rule: { readonly station: string; readonly tasks?: readonly string[]; readonly plain?: boolean },
): number | undefined {
  if (!rule.tasks) return lastServiceMs(events, rule.station);
  let last = rule.plain ? lastServiceMs(events, rule.station, { plainOnly: true }) : undefined;
  for (const event of servicesAt(events, rule.station).all) {
    const { task } = event.payload;
    if (task !== undefined && rule.tasks.includes(task)) last = Math.max(last ?? event.atMs, event.atMs);
  }
  return last;
}

/** Ply-hours a station has seen since its last clean (or since the log began), >= 0. */
export function doseSinceClean(usage: Usage, events: readonly MachineEvent[], station: string, nowMs: number): number {
  const since = lastServiceMs(events, station, { untilMs: nowMs }) ?? Number.NEGATIVE_INFINITY;
  return usage.smokeDose(since, nowMs, station === "nozzle" ? "nozzle" : "optics");
}
