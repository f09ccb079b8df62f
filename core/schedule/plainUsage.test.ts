/** The counters against sums made the plain way, job by job for every reading, on random logs with corrections. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { advance, currentEvents, EMPTY_LOG, EVENT_KINDS, eventsBetween, logOf, type MachineEvent, newestBefore } from "#core/events";
import { doseSinceClean, lastServiceMs, type SmokeFactor, type UsageTable, usageAt, usageFrom, usageTable } from "#core/schedule";

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const RECENT = 30 * DAY;
const smoke = new Map<number, SmokeFactor>([
  [1, { optics: 1, nozzle: 1, filter: 1 }],
  [2, { optics: 0.8, nozzle: 2, filter: 0.8 }],
]);

/** Share of a span that lies before a time. */
const shareUpTo = (from: number, to: number, at: number) => (at >= to ? 1 : at <= from ? 0 : (at - from) / Math.max(1, to - from));

/** Ply-hours on optics up to a time. */
function plainDose(events: readonly MachineEvent[], nowMs: number, at: number): number {
  const jobs = events.flatMap((e) => (e.kind === "job" && e.atMs <= nowMs ? [e] : []));
  const readings = events.flatMap((e) => (e.kind === "hours" && e.atMs <= nowMs ? [e] : []));
  const hoursOf = (list: typeof jobs) => list.reduce((sum, j) => sum + j.payload.minutes / 60, 0);
  const smokeOf = (list: typeof jobs) =>
    list.reduce((sum, j) => sum + (j.payload.minutes / 60) * (smoke.get(j.payload.materialId)?.optics ?? 1), 0);
  let dose = 0;
  const rests: number[] = [];
  const addJobs = (list: typeof jobs, share: number) => {
    for (const j of list) {
      const length = (j.payload.minutes / 60) * HOUR;
      dose += smokeOf([j]) * share * shareUpTo(j.atMs - length, j.atMs, at);
    }
  };
  for (const [i, reading] of readings.entries()) {
    const before = readings[i - 1];
    const between = jobs.filter((j) => j.atMs > (before?.atMs ?? Number.NEGATIVE_INFINITY) && j.atMs <= reading.atMs);
    if (!before) {
      addJobs(between, 1);
      continue;
    }
    const logged = hoursOf(between);
    const ran = reading.payload.because ? logged : Math.max(0, reading.payload.counterHours - before.payload.counterHours);
    addJobs(between, logged > ran && logged > 0 ? ran / logged : 1);
    const recent = jobs.filter((j) => j.atMs <= reading.atMs && j.atMs >= reading.atMs - RECENT);
    const mix = hoursOf(recent) > 0 ? smokeOf(recent) / hoursOf(recent) : 1;
    rests.push(Math.max(0, ran - logged) * mix);
    dose += Math.max(0, ran - logged) * mix * shareUpTo(before.atMs, reading.atMs, at);
  }
  const last = readings.at(-1)?.atMs ?? Number.NEGATIVE_INFINITY;
  // What nobody logged goes on as it went over the last readings, of three weeks or more, and for four months at most.
  let from = readings.length - 2;
  while (from > 0 && last - (readings[from]?.atMs ?? 0) < 21 * DAY) from--;
  const span = last - (readings[from]?.atMs ?? last);
  if (at > last && span >= DAY) dose += (rests.slice(from).reduce((a, b) => a + b, 0) * Math.min(at - last, 120 * DAY)) / span;
  addJobs(
    jobs.filter((j) => j.atMs > last),
    1,
  );
  return dose;
}

const entry = fc.record({
  kind: fc.constantFrom("hours", "job", "job", "job", "service"),
  day: fc.integer({ min: 0, max: 120 }),
  amount: fc.integer({ min: 1, max: 400 }),
  materialId: fc.constantFrom(1, 2, 3),
  because: fc.constantFrom(undefined, undefined, "tube-changed" as const),
  task: fc.constantFrom(undefined, "wipe"),
  corrects: fc.option(fc.nat(30), { nil: undefined, freq: 8 }),
});

const logs = fc.array(entry, { maxLength: 60 }).map((entries): readonly MachineEvent[] =>
  entries.map((e, i): MachineEvent => {
    const more = {
      id: i + 1,
      atMs: e.day * DAY + i * 60_000,
      corrects: e.corrects !== undefined && e.corrects < i ? e.corrects + 1 : undefined,
      voids: e.corrects !== undefined && e.corrects < i && e.amount % 5 === 0,
    };
    if (e.kind === "hours")
      return { ...more, kind: "hours", payload: { counterHours: e.day * 3 + e.amount / 50, ...(e.because ? { because: e.because } : {}) } };
    if (e.kind === "job") return { ...more, kind: "job", payload: { materialId: e.materialId, minutes: e.amount } };
    return { ...more, kind: "service", payload: { station: "lens", what: "cleaned", ...(e.task ? { task: e.task } : {}) } };
  }),
);

/** A log as it grew: its records in batches, each brought forward from what the one before left. */
function broughtForward(records: readonly MachineEvent[], batch: number) {
  let log = EMPTY_LOG;
  let table: UsageTable | undefined;
  for (let i = 0; i < records.length; i += batch) {
    log = advance(log, records.slice(i, i + batch));
    table = usageTable(log, smoke, table);
  }
  return { log, table: table ?? usageTable(log, smoke) };
}

const day = fc.integer({ min: 0, max: 130 });

describe("counters on any log", () => {
  it("give the dose that plain sums give, at any time", () => {
    fc.assert(
      fc.property(logs, day, day, (records, a, b) => {
        const [nowMs, at] = [Math.max(a, b) * DAY, Math.min(a, b) * DAY];
        const usage = usageFrom(logOf(records), nowMs, smoke);
        expect(usage.smokeDose(Number.NEGATIVE_INFINITY, at)).toBeCloseTo(plainDose(currentEvents(records), nowMs, at), 6);
      }),
      { numRuns: 300 },
    );
  });

  it("find the last clean before a time as a walk through the log does", () => {
    fc.assert(
      fc.property(logs, day, fc.boolean(), (records, until, plainOnly) => {
        const log = logOf(records);
        const walked = currentEvents(records)
          .filter((e) => e.kind === "service" && e.atMs <= until * DAY && !(plainOnly && e.payload.task !== undefined))
          .at(-1)?.atMs;
        expect(lastServiceMs(log, "lens", { untilMs: until * DAY, plainOnly })).toBe(walked);
        expect(doseSinceClean(usageFrom(log, 130 * DAY, smoke), log, "lens", until * DAY)).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: 300 },
    );
  });
});

describe("a log brought forward, with late entries, corrections and records struck", () => {
  it("stands as the whole of it read at once, kind by kind", () => {
    fc.assert(
      fc.property(logs, fc.integer({ min: 1, max: 9 }), (records, batch) => {
        const { log } = broughtForward(records, batch);
        const whole = currentEvents(records);
        for (const kind of EVENT_KINDS) expect([...log.kinds[kind]]).toEqual(whole.filter((e) => e.kind === kind));
        expect(log.size).toBe(whole.length);
        expect(newestBefore(log, EVENT_KINDS, 1000)).toEqual([...whole].reverse());
        expect(eventsBetween(log, EVENT_KINDS, 20 * DAY, 90 * DAY)).toEqual(whole.filter((e) => e.atMs >= 20 * DAY && e.atMs <= 90 * DAY));
      }),
    );
  });

  it("counts what the whole of it counts, to the last bit, and says from when on it counts differently", () => {
    fc.assert(
      fc.property(logs, fc.integer({ min: 1, max: 9 }), day, (records, batch, at) => {
        const { table } = broughtForward(records, batch);
        const [brought, whole] = [usageAt(table, 200 * DAY), usageFrom(logOf(records), 200 * DAY, smoke)];
        for (const e of table.log.kinds.hours) expect(brought.stepOf(e)).toEqual(whole.stepOf(e));
        expect(brought.tubeHoursAt(at * DAY)).toBe(whole.tubeHoursAt(at * DAY));
        expect(brought.smokeDose(Number.NEGATIVE_INFINITY, at * DAY)).toBe(whole.smokeDose(Number.NEGATIVE_INFINITY, at * DAY));
        const before = broughtForward(records.slice(0, -1), batch).table;
        const after = usageTable(logOf(records), smoke, before);
        if (at * DAY < after.sameBeforeMs)
          expect(usageAt(after, 200 * DAY).firingHours(0, at * DAY)).toBe(usageAt(before, 200 * DAY).firingHours(0, at * DAY));
      }),
      { numRuns: 300 },
    );
  });
});
