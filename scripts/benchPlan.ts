/**
 * `npm run bench:plan`: 200 random workshops planned by the search at once and by the least plan, beside each task by itself and the fixed
 * habits of three owners. `-- --machines=50` fewer.
 */
import { alonePlan, firstPlan, leastPlan, type PlanInstance } from "#core/plan";
import { highsSolver } from "./highs";
import { randomWorkshop } from "./judge/plans";

const FIRST_SEED = 60_001;
const workshops = Number(process.argv.find((a) => a.startsWith("--machines="))?.split("=")[1] ?? 200);
const SECONDS = 20;

/** Everything that will be over within so many days is done in one round whenever something is. */
function everyDays(i: PlanInstance, days: number): number {
  return firstPlan({
    ...i,
    tasks: i.tasks.map((t) => ({
      ...t,
      interval: Object.fromEntries(
        Object.entries(t.interval).map(([c, v]) => [c, c === "days" ? Math.min(v as number, days) : (v as number)]),
      ),
    })),
  }).totalMinutes;
}

const solver = await highsSolver(SECONDS);
const rows: { first: number; least: number; alone: number; weekly: number; firstMs: number; leastMs: number; late: number }[] = [];
for (let k = 0; k < workshops; k++) {
  const i = randomWorkshop(FIRST_SEED + k);
  const t0 = performance.now();
  const first = firstPlan(i);
  const t1 = performance.now();
  const least = await leastPlan(i, solver);
  const t2 = performance.now();
  rows.push({
    first: first.totalMinutes,
    least: least.totalMinutes,
    alone: alonePlan(i).totalMinutes,
    weekly: everyDays(i, 7),
    firstMs: t1 - t0,
    leastMs: t2 - t1,
    late: least.late.length,
  });
}
const mean = (of: (r: (typeof rows)[number]) => number) => rows.reduce((s, r) => s + of(r), 0) / rows.length;
const at = (of: (r: (typeof rows)[number]) => number, q: number) =>
  rows.map(of).sort((a, b) => a - b)[Math.floor(q * (rows.length - 1))] ?? 0;
console.table({
  "each task alone": { minutes: mean((r) => r.alone).toFixed(0), "of the least": mean((r) => r.alone / r.least).toFixed(2) },
  "all weekly at the latest": { minutes: mean((r) => r.weekly).toFixed(0), "of the least": mean((r) => r.weekly / r.least).toFixed(2) },
  "at once": { minutes: mean((r) => r.first).toFixed(0), "of the least": mean((r) => r.first / r.least).toFixed(3) },
  least: { minutes: mean((r) => r.least).toFixed(0), "of the least": "1" },
});
console.log(
  `${workshops} workshops, 60 days. At once: ${at((r) => r.firstMs, 0.5).toFixed(0)} ms at the median, ${at((r) => r.firstMs, 1).toFixed(0)} at most. Least: ${at((r) => r.leastMs, 0.5).toFixed(0)} ms, ${at((r) => r.leastMs, 0.9).toFixed(0)} at 90 %, ${at((r) => r.leastMs, 1).toFixed(0)} at most (looks for ${SECONDS} s, to within 0.2 %). Late in ${rows.filter((r) => r.late > 0).length}.`,
);
