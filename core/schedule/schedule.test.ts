import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { currentEvents, type EventOf, logOf, type MachineEvent } from "#core/events";
import { doseSinceClean, dueTasks, lastDoneMs, lastServiceMs, offerRound, type TaskRule, usageFrom } from "#core/schedule";

const DAY = 86_400_000;
const HOUR = 3_600_000;
const smoke = new Map([
  [1, { optics: 1, nozzle: 1, filter: 1 }],
  [2, { optics: 0.8, nozzle: 2, filter: 0.8 }],
]);
let id = 0;
const hours = (day: number, counterHours: number, more: object = {}): MachineEvent => ({
  id: ++id,
  kind: "hours",
  atMs: day * DAY,
  payload: { counterHours, ...more },
});
const job = (day: number, materialId: number, minutes: number): MachineEvent => ({
  id: ++id,
  kind: "job",
  atMs: day * DAY,
  payload: { materialId, minutes },
});
const cleaned = (day: number, station: string): MachineEvent => ({
  id: ++id,
  kind: "service",
  atMs: day * DAY,
  payload: { station, what: "cleaned" },
});
const usage = (events: MachineEvent[], day: number) => usageFrom(logOf(events), day * DAY, smoke);

describe("counters", () => {
  it("take firing hours from the counter and let logged jobs divide them", () => {
    const u = usage([hours(0, 100), job(1, 2, 120), hours(2, 106)], 2);
    expect(u.tubeHours).toBeCloseTo(106, 9);
    expect(u.firingHours(0, 2 * DAY)).toBeCloseTo(6, 6);
    // Two hours of acrylic; the other four take the recent mix, which is acrylic as well.
    expect(u.smokeDose(0, 2 * DAY)).toBeCloseTo(6 * 0.8, 6);
    expect(u.smokeDose(0, 2 * DAY, "nozzle")).toBeCloseTo(12, 6);
  });

  it("count the unlogged rest as plain ply when no job ever told otherwise", () => {
    expect(usage([hours(0, 0), hours(1, 5)], 1).smokeDose(0, DAY)).toBeCloseTo(5, 9);
  });

  it("scale jobs that claim more than the counter ran", () => {
    const u = usage([hours(0, 0), job(0.5, 1, 240), hours(1, 2)], 1);
    expect(u.firingHours(0, DAY)).toBeCloseTo(2, 6);
  });

  it("count jobs after the last reading provisionally", () => {
    const u = usage([hours(0, 10), job(1, 1, 60)], 2);
    expect(u.tubeHours).toBeCloseTo(11, 6);
  });

  it("start a new count with a new tube, and keep the tube's hours through a new counter", () => {
    expect(usage([hours(0, 900), hours(1, 903), hours(2, 0, { because: "tube-changed" }), hours(3, 4)], 3).tubeHours).toBeCloseTo(4, 9);
    const kept = usage([hours(0, 900), hours(1, 903), hours(2, 0, { because: "counter-changed" }), hours(3, 4)], 3);
    expect(kept.tubeHours).toBeCloseTo(907, 9);
  });

  it("start a new count with a tube that was logged as fitted, though the counter runs on, and leave its old one as it was", () => {
    const fitted = (day: number): MachineEvent => ({
      ...cleaned(day, "tube"),
      kind: "service",
      payload: { station: "tube", what: "replaced" },
    });
    const u = usage([hours(0, 2900), hours(1, 2905), fitted(2), hours(3, 2908)], 3);
    expect([u.tubeHours, u.tubeHoursAt(DAY)]).toEqual([expect.closeTo(1.5, 6), expect.closeTo(2905, 6)]);
    expect([u.tubeHoursBetween(0, DAY), u.tubeHoursBetween(0, 3 * DAY), u.tubeHoursBetween(DAY, 0)]).toEqual([
      expect.closeTo(5, 6),
      expect.closeTo(1.5, 6),
      expect.closeTo(-5, 6),
    ]);
    // Where the counter was read with it, that says how old it is.
    const told = usage([hours(0, 2900), hours(2, 300, { because: "tube-changed" }), fitted(2.2), hours(3, 304)], 3);
    expect(told.tubeHours).toBeCloseTo(304, 6);
    expect(usage([fitted(1), job(2, 1, 60)], 2).tubeHours).toBeCloseTo(1, 6);
  });

  it("call out hours that run backwards without a reason, and count no firing for them", () => {
    const back = hours(1, 40) as EventOf<"hours">;
    expect(usage([hours(0, 50), back], 1).stepOf(back)).toMatchObject({ hours: 0, unexplained: true });
  });

  it("measure the dose since the last clean only, at the nozzle by its own factor", () => {
    const events = logOf([hours(0, 0), hours(1, 4), cleaned(1, "lens"), hours(2, 7)]);
    const u = usageFrom(events, 2 * DAY, smoke);
    expect(lastServiceMs(events, "lens")).toBe(DAY);
    expect(doseSinceClean(u, events, "lens", 2 * DAY)).toBeCloseTo(3, 6);
    expect(doseSinceClean(u, events, "mirror-1", 2 * DAY)).toBeCloseTo(7, 6);
  });

  it("measure the window's smoke since it came: a new tube brings one of its own, and nothing else does", () => {
    const window = (...events: MachineEvent[]) => {
      const all = [hours(0, 100), cleaned(1, "window"), hours(4, 120), ...events, hours(8, 140)].sort((a, b) => a.atMs - b.atMs);
      return ["window", "lens"].map((s) => Math.round(doseSinceClean(usage(all, 8), logOf(all), s, 8 * DAY)));
    };
    const part = (day: number, what: "replaced" | "checked"): MachineEvent => ({
      ...cleaned(day, "tube"),
      kind: "service",
      payload: { station: "tube", what },
    });
    const [since, lens] = window() as [number, number];
    expect([since, lens]).toEqual([35, 40]);
    expect(window(part(4, "checked"))).toEqual([since, lens]);
    expect(window(part(4, "replaced"))).toEqual([20, lens]);
    // By the counter alone, which starts anew with the tube.
    const noted = [hours(0, 100), cleaned(1, "window"), hours(4, 0, { because: "tube-changed" }), hours(8, 20)];
    expect(doseSinceClean(usage(noted, 8), logOf(noted), "window", 8 * DAY)).toBeCloseTo(20, 6);
    expect(lastServiceMs(logOf(noted), "window")).toBe(4 * DAY);
    expect(lastServiceMs(logOf(noted), "window", { untilMs: 3 * DAY })).toBe(DAY);
  });

  it("are never negative, and the same, under any order of corrections", () => {
    const entry = fc.record({ day: fc.integer({ min: 0, max: 30 }), value: fc.integer({ min: 0, max: 200 }), isJob: fc.boolean() });
    const correction = fc.record({ of: fc.nat(9), value: fc.integer({ min: 0, max: 200 }), voids: fc.boolean() });
    fc.assert(
      fc.property(
        fc.array(entry, { minLength: 2, maxLength: 10 }),
        fc.array(correction, { maxLength: 8 }),
        fc.nat(),
        (entries, corrections, turn) => {
          const log: MachineEvent[] = entries.map((e, i) =>
            e.isJob
              ? { id: i + 1, kind: "job", atMs: e.day * DAY, payload: { materialId: 1, minutes: e.value + 1 } }
              : { id: i + 1, kind: "hours", atMs: e.day * DAY, payload: { counterHours: e.value } },
          );
          corrections.forEach((c, i) => {
            const target = log[c.of % entries.length] as MachineEvent;
            const payload = target.kind === "job" ? { materialId: 1, minutes: c.value + 1 } : { counterHours: c.value };
            log.push({ ...target, id: 100 + i, payload, corrects: target.id, voids: c.voids } as MachineEvent);
          });
          const u = usageFrom(logOf(log), 31 * DAY, smoke);
          const turned = [...log.slice(turn % log.length), ...log.slice(0, turn % log.length)];
          const again = usageFrom(logOf(turned), 31 * DAY, smoke);
          let before = 0;
          for (let d = 0; d <= 31; d++) {
            const fired = u.firingHours(Number.NEGATIVE_INFINITY, d * DAY);
            expect(fired).toBeGreaterThanOrEqual(before - 1e-9);
            expect(u.smokeDose(Number.NEGATIVE_INFINITY, d * DAY)).toBeGreaterThanOrEqual(0);
            expect(again.firingHours(Number.NEGATIVE_INFINITY, d * DAY)).toBeCloseTo(fired, 9);
            before = fired;
          }
          for (const e of logOf(log).kinds.hours) expect(u.stepOf(e)?.hours).toBeGreaterThanOrEqual(0);
        },
      ),
    );
  });
});

describe("corrections", () => {
  it("keep the first record's id, take the last word, and drop what never happened", () => {
    const a = hours(1, 10);
    const b = { ...hours(1, 12), corrects: a.id } as MachineEvent;
    const c = { ...hours(1, 13), corrects: b.id } as MachineEvent;
    const d = hours(2, 20);
    const gone = { ...hours(2, 20), corrects: d.id, voids: true } as MachineEvent;
    const now = currentEvents([a, b, c, d, gone]);
    expect(now).toHaveLength(1);
    expect(now[0]).toMatchObject({ id: a.id, payload: { counterHours: 13 } });
  });
});

describe("several tasks at one station", () => {
  const served = (day: number, what: "cleaned" | "adjusted" | "checked", task?: string): MachineEvent => ({
    id: ++id,
    kind: "service",
    atMs: day * DAY,
    payload: { station: "motion", what, ...(task ? { task } : {}) },
  });
  const log = logOf([
    served(1, "cleaned"),
    served(3, "cleaned", "belts"),
    served(5, "adjusted", "lubricate"),
    served(6, "checked", "other"),
  ]);
  const rule = (task: string, plain = false) => ({ station: "motion", tasks: [task], plain });

  it("are told apart by their task; a bare clean is the plain one's", () => {
    expect(lastDoneMs(log, rule("rails", true))).toBe(DAY);
    expect(lastDoneMs(log, rule("belts"))).toBe(3 * DAY);
    expect(lastDoneMs(log, rule("lubricate"))).toBe(5 * DAY);
    expect(lastDoneMs(log, rule("bearings"))).toBeUndefined();
    expect(lastDoneMs(log, { station: "motion" })).toBe(3 * DAY);
    expect(lastServiceMs(log, "motion", { untilMs: 2 * DAY })).toBe(DAY);
  });
});

describe("running totals", () => {
  it("are the plain sum over jobs, however they overlap", () => {
    const entry = fc.record({
      hour: fc.integer({ min: 1, max: 400 }),
      minutes: fc.integer({ min: 1, max: 300 }),
      material: fc.constantFrom(1, 2),
    });
    fc.assert(
      fc.property(
        fc.array(entry, { maxLength: 12 }),
        fc.integer({ min: 0, max: 400 }),
        fc.integer({ min: 0, max: 200 }),
        (list, from, span) => {
          const jobs = list.map(
            (j): MachineEvent => ({ id: ++id, kind: "job", atMs: j.hour * HOUR, payload: { materialId: j.material, minutes: j.minutes } }),
          );
          const u = usageFrom(logOf(jobs), 500 * HOUR, smoke);
          const [a, b] = [from * HOUR, (from + span) * HOUR];
          const overlap = (j: (typeof list)[number]) =>
            Math.max(0, Math.min(b, j.hour * HOUR) - Math.max(a, j.hour * HOUR - j.minutes * 60_000)) / HOUR;
          const plain = list.reduce((sum, j) => sum + overlap(j), 0);
          const dose = list.reduce((sum, j) => sum + overlap(j) * (smoke.get(j.material)?.nozzle ?? 0), 0);
          expect(u.firingHours(a, b)).toBeCloseTo(plain, 6);
          expect(u.smokeDose(a, b, "nozzle")).toBeCloseTo(dose, 6);
        },
      ),
    );
  });
});

describe("what is due", () => {
  const rules: TaskRule[] = [
    { id: "lens", station: "lens", every: { plyHours: 8 }, minutes: 5, access: "head" },
    { id: "nozzle", station: "nozzle", every: { plyHours: 16 }, minutes: 2, access: "head" },
    { id: "mirror-1", station: "mirror-1", every: { plyHours: 40 }, minutes: 5, access: "rear" },
    { id: "coolant", station: "coolant", every: { days: 180 }, minutes: 30, access: "coolant" },
  ];
  const log = [hours(0, 0), hours(20, 12)];
  const tasks = dueTasks(rules, logOf(log), usage(log, 20), 0, 20 * DAY);

  it("follows use, most used up first", () => {
    expect(tasks.map((t) => t.id)).toEqual(["lens", "nozzle", "mirror-1", "coolant"]);
    expect(tasks[0]).toMatchObject({ state: "due", left: { unit: "ply-hours" } });
    expect(tasks[0]?.used).toBeCloseTo(1.5, 6);
    expect(tasks[1]).toMatchObject({ state: "soon" });
    expect(tasks[3]?.left).toEqual({ amount: 160, unit: "days" });
  });

  it("says on which day a task falls due at the present pace", () => {
    const m1 = tasks.find((t) => t.id === "mirror-1");
    const perDay = 12 / 28;
    expect(((m1?.dueMs as number) - 20 * DAY) / DAY).toBeCloseTo(28 / perDay, 3);
  });

  it("offers one round: what is due, and what shares its access and is well used up", () => {
    const offer = offerRound(tasks, 10);
    expect(offer.tasks.map((t) => t.id)).toEqual(["lens", "nozzle"]);
    expect(offer.minutes).toBe(17);
    expect(offer.anyDue).toBe(true);
  });

  it("names the next in turn when nothing is due", () => {
    const early = dueTasks(rules, logOf(log), usage(log, 20), 20 * DAY - HOUR, 20 * DAY);
    const offer = offerRound(early, 10);
    expect(offer.anyDue).toBe(false);
    expect(offer.tasks.length).toBeGreaterThan(0);
  });
});

describe("after a day of heavy smoke", () => {
  const rule: TaskRule = {
    id: "lens",
    station: "lens",
    every: { days: 30, smokyDay: 4 },
    minutes: 5,
    access: "head",
    clearLookLeaves: 0.75,
  };
  const look = (day: number): MachineEvent => ({
    id: ++id,
    kind: "grade",
    atMs: day * DAY,
    payload: { station: "lens", phase: "as-found", grade: 0 },
  });
  const on = (day: number, ...more: MachineEvent[]) => {
    // Five hours of ply on the tenth day, one on the twelfth.
    const events = [hours(9, 100), job(10.5, 1, 300), hours(11, 105), job(12.5, 1, 60), hours(13, 106), ...more];
    return dueTasks([rule], logOf(events.filter((e) => e.atMs <= day * DAY)), usage(events, day), 9 * DAY, day * DAY)[0];
  };

  it("a lens is due until somebody looked at it or cleaned it, and after a day of little smoke it is not", () => {
    expect(on(10.1)?.state).toBe("ahead");
    for (const day of [11, 14, 30]) {
      expect(on(day)).toMatchObject({ state: "due", left: { unit: "smoky-day" } });
      expect(on(day)?.left.amount).toBeCloseTo(-5, 1);
      expect(on(day)?.dueMs).toBe(day * DAY);
    }
    expect(on(14, look(11.2))?.left.unit).toBe("days");
    expect(on(14, cleaned(11.2, "lens"))?.left.unit).toBe("days");
    // What was looked at before the smoke says nothing of it.
    expect(on(14, look(10.1))?.left.unit).toBe("smoky-day");
  });
});

describe("before winter", () => {
  const at = (day: string) => Date.parse(`${day}T08:00:00Z`);
  const rule: TaskRule = {
    id: "antifreeze",
    station: "coolant",
    every: { beforeMonth: 11 },
    minutes: 3,
    access: "cooling",
    tasks: ["antifreeze"],
  };
  const on = (today: string, done?: string) => {
    const service: MachineEvent[] =
      done === undefined
        ? []
        : [{ id: 1, kind: "service", atMs: at(done), payload: { station: "coolant", what: "checked", task: "antifreeze" } }];
    return dueTasks([rule], logOf(service), usageFrom(logOf(service), at(today), smoke), at("2025-01-01"), at(today))[0];
  };
  it.each([
    ["2026-10-03", "2025-10-20", "soon", "four weeks before the month is not reached"],
    ["2026-10-04", "2025-10-20", "due", "four weeks before the first of the month"],
    ["2027-03-01", "2025-10-20", "due", "missed, and still missed in spring"],
    ["2026-11-20", "2026-10-20", "ahead", "done in its season"],
    ["2026-10-05", undefined, "due", "never done, and the season has begun"],
    ["2026-06-01", undefined, "ahead", "never done, but the season is past: the next one asks"],
  ] as [string, string | undefined, string, string][])("on %s, last done %s: %s, %s", (today, done, state) => {
    expect(on(today, done)?.state).toBe(state);
  });
  it("counts the days to the next season", () => {
    expect(on("2026-11-20", "2026-10-20")?.left).toEqual({
      amount: expect.closeTo((Date.UTC(2027, 9, 4) - at("2026-11-20")) / DAY, 6),
      unit: "days",
    });
  });
});
