/** A plan is walked day by day, as an owner would, and set against every other that a small workshop could have. */

import fc from "fast-check";
import highs from "highs";
import { describe, expect, it } from "vitest";
import { alonePlan, asBefore, betterOf, firstPlan, leastPlan, nextDue, type Plan, type PlanInstance, type Solver } from ".";

/** Enough for so small a workshop. */
const TRIES = 30;

const solver: Solver = async (program) => {
  if (program === "") return new Map();
  const engine = await highs();
  const { Columns } = engine.solve(program, { output_flag: false });
  return new Map(Object.entries(Columns).map(([name, c]) => [name, "Primal" in c ? (c.Primal as number) : 0]));
};

/** Walks the horizon: the use of each task's coordinates since its last service, and what each round takes. Gives what went past its interval. */
function walked(i: PlanInstance, plan: Plan): { readonly over: Map<string, string>; readonly minutes: number } {
  // Of each task the first day whose use goes past an interval.
  const over = new Map<string, string>();
  const since = new Map(
    i.tasks.map((t) => [t.id, Object.fromEntries(Object.keys(t.interval).map((c) => [c, (t.used?.[c] as number) ?? 0]))]),
  );
  let minutes = 0;
  for (let d = 0; d < i.days; d++) {
    const day = new Date(Date.parse(i.start) + d * 86_400_000);
    const date = day.toISOString().slice(0, 10);
    const weekday = (day.getUTCDay() + 6) % 7;
    const isClosed = i.closed?.includes(date) === true;
    const round = plan.rounds.filter((r) => r.date === date);
    expect(round.length).toBeLessThanOrEqual(isClosed ? 0 : 1);
    for (const r of round) {
      const done = i.tasks.filter((t) => r.tasks.includes(t.id));
      expect(done).toHaveLength(r.tasks.length);
      const panels = new Set(done.flatMap((t) => t.panels ?? []));
      const takes =
        i.frameMinutes +
        done.reduce((s, t) => s + t.minutes, 0) +
        (i.panels ?? []).reduce((s, p) => s + (panels.has(p.id) ? p.minutes : 0), 0);
      expect(r.minutes).toBeCloseTo(takes, 6);
      if (i.limits) expect(takes).toBeLessThanOrEqual(((i.limits[String(weekday)] as number | undefined) ?? 0) + 1e-6);
      minutes += takes;
      for (const t of done) since.set(t.id, Object.fromEntries(Object.keys(t.interval).map((c) => [c, 0])));
    }
    for (const t of i.tasks)
      for (const [c, interval] of Object.entries(t.interval)) {
        const use = since.get(t.id) as Record<string, number>;
        use[c] = (use[c] ?? 0) + (c === "days" ? 1 : isClosed ? 0 : ((i.pace?.[c] as number[] | undefined)?.[weekday] ?? 0));
        if ((use[c] as number) > (interval as number) + 1e-6 && !over.has(t.id)) over.set(t.id, date);
      }
  }
  return { over, minutes };
}

const task = fc.record({
  minutes: fc.integer({ min: 1, max: 20 }),
  panels: fc.subarray(["rear", "head"]),
  ply: fc.integer({ min: 4, max: 40 }),
  days: fc.option(fc.integer({ min: 3, max: 40 }), { nil: undefined }),
  used: fc.integer({ min: 0, max: 12 }),
});
const instances = (most: number, days: number): fc.Arbitrary<PlanInstance> =>
  fc
    .record({
      tasks: fc.array(task, { minLength: 1, maxLength: most }),
      pace: fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 7, maxLength: 7 }),
      closed: fc.uniqueArray(fc.integer({ min: 0, max: days - 1 }), { maxLength: 4 }),
      frame: fc.integer({ min: 0, max: 20 }),
    })
    .map(({ tasks, pace, closed, frame }) => ({
      days,
      start: "2026-12-01",
      frameMinutes: frame,
      panels: [
        { id: "rear", minutes: 6 },
        { id: "head", minutes: 2 },
      ],
      closed: closed.map((d) => new Date(Date.parse("2026-12-01") + d * 86_400_000).toISOString().slice(0, 10)),
      pace: { ply: pace },
      tasks: tasks.map((t, k) => ({
        id: `t${k}`,
        minutes: t.minutes,
        panels: t.panels,
        interval: { ply: t.ply, ...(t.days === undefined ? {} : { days: t.days }) },
        used: { ply: Math.min(t.used, t.ply) },
      })),
    }));

describe("a plan", () => {
  it("walked day by day takes the minutes it says, and nothing goes past its interval but what it calls late", async () => {
    await fc.assert(
      fc.asyncProperty(instances(6, 30), async (i) => {
        const first = firstPlan(i);
        const least = await leastPlan(i, solver, TRIES);
        for (const plan of [first, least]) {
          const { over, minutes } = walked(i, plan);
          expect(plan.totalMinutes).toBeCloseTo(minutes, 6);
          expect([...over].sort()).toEqual(plan.late.map((l) => [l.task, l.from]).sort());
        }
        expect(least.totalMinutes).toBeLessThanOrEqual(first.totalMinutes + 1e-6);
        expect(least.totalMinutes).toBeLessThanOrEqual(alonePlan(i).totalMinutes + 1e-6);
      }),
      { numRuns: 12 },
    );
  });

  it("is the least there is, by trying every choice of days of a small workshop", async () => {
    await fc.assert(
      fc.asyncProperty(instances(2, 6), async (i) => {
        const least = await leastPlan(i, solver, TRIES);
        fc.pre(least.late.length === 0);
        let best = Number.POSITIVE_INFINITY;
        for (let mask = 0; mask < 2 ** (i.days * i.tasks.length); mask++) {
          const rounds = Array.from({ length: i.days }, (_, d) => {
            const tasks = i.tasks.filter((_, k) => (mask >> (k * i.days + d)) & 1);
            const panels = new Set(tasks.flatMap((t) => t.panels ?? []));
            const minutes =
              i.frameMinutes + tasks.reduce((s, t) => s + t.minutes, 0) + (panels.has("rear") ? 6 : 0) + (panels.has("head") ? 2 : 0);
            return {
              date: new Date(Date.parse(i.start) + d * 86_400_000).toISOString().slice(0, 10),
              minutes,
              tasks: tasks.map((t) => t.id),
            };
          }).filter((r) => r.tasks.length > 0);
          if (rounds.some((r) => i.closed?.includes(r.date))) continue;
          const total = rounds.reduce((s, r) => s + r.minutes, 0);
          if (total >= best) continue;
          if (walked(i, { rounds: rounds.map((r) => ({ ...r, latest: [] })), totalMinutes: total, missed: 0, late: [] }).over.size === 0)
            best = total;
        }
        expect(least.totalMinutes).toBeCloseTo(best, 6);
      }),
      { numRuns: 8 },
    );
  }, 30_000);

  it("does what is over on the first day there can be a round, keeps within the minutes of a day, and says what does not fit", async () => {
    const i: PlanInstance = {
      days: 14,
      start: "2026-12-01",
      frameMinutes: 5,
      closed: ["2026-12-01"],
      limits: { 0: 10, 1: 10, 2: 10, 3: 10, 4: 60, 5: 0, 6: 0 },
      tasks: [
        { id: "over", minutes: 4, interval: { days: 10 }, used: { days: 15 } },
        { id: "long", minutes: 40, interval: { days: 3 }, used: { days: 1 } },
      ],
    };
    const plan = await leastPlan(i, solver, TRIES);
    walked(i, plan);
    expect(plan.rounds[0]).toMatchObject({ date: "2026-12-02", tasks: ["over"] });
    expect(plan.late.map((l) => l.task).sort()).toEqual(["long", "over"]);
    expect(plan.late.find((l) => l.task === "over")?.from).toBe("2026-12-01");
    // The long one waits for Friday.
    expect(plan.rounds.filter((r) => r.tasks.includes("long")).map((r) => r.date)).toEqual(["2026-12-04", "2026-12-11"]);
  });

  const dayOf = (i: PlanInstance, d: number) => new Date(Date.parse(i.start) + d * 86_400_000).toISOString().slice(0, 10);
  /** The next morning: what today's round did, and what the day used. */
  function nextDay(i: PlanInstance, plan: Plan): PlanInstance {
    const done = new Set(plan.rounds.filter((r) => r.date === i.start).flatMap((r) => r.tasks));
    const weekday = (new Date(Date.parse(i.start)).getUTCDay() + 6) % 7;
    const isClosed = i.closed?.includes(i.start) === true;
    const use = (c: string) => (c === "days" ? 1 : isClosed ? 0 : ((i.pace?.[c] as number[] | undefined)?.[weekday] ?? 0));
    return {
      ...i,
      start: dayOf(i, 1),
      days: i.days - 1,
      tasks: i.tasks.map((t) => ({
        ...t,
        used: Object.fromEntries(Object.keys(t.interval).map((c) => [c, (done.has(t.id) ? 0 : ((t.used?.[c] as number) ?? 0)) + use(c)])),
      })),
    };
  }

  it("that is done as planned makes nothing later than planned, day after day", () => {
    fc.assert(
      fc.property(instances(5, 24), (start) => {
        let [i, plan] = [start, firstPlan(start)];
        for (let day = 0; day < 8; day++) {
          const tomorrow = nextDay(i, plan);
          const kept = asBefore(tomorrow, plan);
          expect(kept.rounds).toEqual(
            plan.rounds.filter((r) => r.date > i.start).map((r) => expect.objectContaining({ date: r.date, tasks: r.tasks })),
          );
          expect(kept.late.length).toBeLessThanOrEqual(plan.late.length);
          const next = betterOf(kept, firstPlan(tomorrow));
          expect(next.missed).toBeLessThanOrEqual(kept.missed);
          expect(next.totalMinutes).toBeLessThanOrEqual(next.missed === kept.missed ? kept.totalMinutes + 1e-6 : Number.POSITIVE_INFINITY);
          [i, plan] = [tomorrow, next];
        }
      }),
      { numRuns: 12 },
    );
  });

  it("never leaves more undone for more minutes a day", async () => {
    await fc.assert(
      fc.asyncProperty(instances(4, 14), fc.integer({ min: 10, max: 40 }), async (i, minutes) => {
        const limited = (m: number) => ({ ...i, limits: Object.fromEntries(Array.from({ length: 7 }, (_, d) => [String(d), m])) });
        const [less, more] = [await leastPlan(limited(minutes), solver, TRIES), await leastPlan(limited(minutes + 12), solver, TRIES)];
        expect(more.missed).toBeLessThanOrEqual(less.missed);
      }),
      { numRuns: 12 },
    );
  }, 30_000);

  it("does a task on the day its owner puts it, not on the days he forbids, and says what that makes late", async () => {
    await fc.assert(
      fc.asyncProperty(instances(5, 24), fc.nat(20), fc.nat(6), async (i, at, span) => {
        const [first] = i.tasks;
        if (!first) return;
        const on = dayOf(i, at);
        const notOn = [{ from: dayOf(i, Math.max(0, at - span)), to: dayOf(i, at - 1) }];
        const moved = { ...i, tasks: i.tasks.map((t, k) => (k === 0 ? { ...t, on: [on], notOn: span > 0 && at > 0 ? notOn : [] } : t)) };
        fc.pre(!i.closed?.includes(on));
        for (const plan of [firstPlan(moved), await leastPlan(moved, solver, TRIES)]) {
          const days = plan.rounds.filter((r) => r.tasks.includes(first.id)).map((r) => r.date);
          expect(days).toContain(on);
          if (span > 0 && at > 0) expect(days.filter((d) => d >= (notOn[0]?.from ?? "") && d < on)).toEqual([]);
          expect([...walked(moved, plan).over].sort()).toEqual(plan.late.map((l) => [l.task, l.from]).sort());
        }
      }),
      { numRuns: 10 },
    );
  }, 30_000);

  it("says when a task falls due at another pace: never later for more use", () => {
    fc.assert(
      fc.property(instances(5, 30), (i) => {
        const [slow, mid, fast] = [nextDue(i, 0.7), nextDue(i), nextDue(i, 1.4)];
        for (const t of i.tasks) {
          const at = (due: ReadonlyMap<string, string | undefined>) => due.get(t.id) ?? "9999";
          expect(at(fast) <= at(mid) && at(mid) <= at(slow)).toBe(true);
        }
      }),
      { numRuns: 20 },
    );
  });

  it("refuses a task that opens a panel nobody named", () => {
    expect(() =>
      firstPlan({ days: 5, start: "2026-12-01", frameMinutes: 5, tasks: [{ id: "a", minutes: 1, panels: ["x"], interval: { days: 2 } }] }),
    ).toThrow(/task "a" opens panel "x"/);
  });
});
