/** A plan is walked day by day, as an owner would, and set against every other that a small workshop could have. */

import fc from "fast-check";
import highs from "highs";
import { describe, expect, it } from "vitest";
import { alonePlan, firstPlan, leastPlan, type Plan, type PlanInstance, type Solver } from ".";

const solver: Solver = async (program) => {
  if (program === "") return new Map();
  const engine = await highs();
  const { Columns } = engine.solve(program, { output_flag: false });
  return new Map(Object.entries(Columns).map(([name, c]) => [name, "Primal" in c ? (c.Primal as number) : 0]));
};

/** Walks the horizon: the use of each task's coordinates since its last service, and what each round takes. Gives what went past its interval. */
function walked(i: PlanInstance, plan: Plan): { readonly over: Set<string>; readonly minutes: number } {
  const over = new Set<string>();
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
        if ((use[c] as number) > (interval as number) + 1e-6) over.add(t.id);
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
        const least = await leastPlan(i, solver);
        for (const plan of [first, least]) {
          const { over, minutes } = walked(i, plan);
          expect(plan.totalMinutes).toBeCloseTo(minutes, 6);
          expect([...over].sort()).toEqual(plan.late.map((l) => l.task).sort());
        }
        expect(least.totalMinutes).toBeLessThanOrEqual(first.totalMinutes + 1e-6);
        expect(least.totalMinutes).toBeLessThanOrEqual(alonePlan(i).totalMinutes + 1e-6);
      }),
      { numRuns: 30 },
    );
  });

  it("is the least there is, by trying every choice of days of a small workshop", async () => {
    await fc.assert(
      fc.asyncProperty(instances(2, 6), async (i) => {
        const least = await leastPlan(i, solver);
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
          if (walked(i, { rounds: rounds.map((r) => ({ ...r, latest: [] })), totalMinutes: total, late: [] }).over.size === 0) best = total;
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
    const plan = await leastPlan(i, solver);
    walked(i, plan);
    expect(plan.rounds[0]).toMatchObject({ date: "2026-12-02", tasks: ["over"] });
    expect(plan.late.map((l) => l.task).sort()).toEqual(["long", "over"]);
    expect(plan.late.find((l) => l.task === "over")?.from).toBe("2026-12-01");
    // The long one waits for Friday.
    expect(plan.rounds.filter((r) => r.tasks.includes("long")).map((r) => r.date)).toEqual(["2026-12-04", "2026-12-11"]);
  });

  it("refuses a task that opens a panel nobody named", () => {
    expect(() =>
      firstPlan({ days: 5, start: "2026-12-01", frameMinutes: 5, tasks: [{ id: "a", minutes: 1, panels: ["x"], interval: { days: 2 } }] }),
    ).toThrow(/task "a" opens panel "x"/);
  });
});
