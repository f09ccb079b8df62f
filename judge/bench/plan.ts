/**
 * `npm run bench -- plan`: random workshops planned at once, by the long search of our own and by HiGHS given twenty seconds, beside each task
 * by itself and the habits of three schools. The least of them stands for the optimum. `-- --machines=50` fewer.
 */
import { alonePlan, firstPlan, longPlan, type Plan, type PlanInstance, solvedPlan } from "#core/plan";
import { highsSolver } from "#services/plan/highs";
import { randomWorkshop } from "../plan/workshops";

const FIRST_SEED = 60_001;
const workshops = Number(process.argv.find((a) => a.startsWith("--machines="))?.split("=")[1] ?? 200);
const SECONDS = 20;
/** How often the three schools do what is due by use, as shares of the by-use interval. */
const SCHOOLS = { careful: 0.4, "by use": 1, minimal: 2 } as const;
type School = keyof typeof SCHOOLS;

const scaled = (i: PlanInstance, share: number): PlanInstance => ({
  ...i,
  tasks: i.tasks.map((t) => ({
    ...t,
    interval: Object.fromEntries(Object.entries(t.interval).map(([c, v]) => [c, Math.max(c === "days" ? 1 : 0.5, (v as number) * share)])),
    used: Object.fromEntries(Object.entries(t.used ?? {}).map(([c, v]) => [c, (v as number) * share])),
  })),
});

const timed = async (plan: () => Plan | Promise<Plan>): Promise<[Plan, number]> => {
  const t0 = performance.now();
  return [await plan(), performance.now() - t0];
};

const solver = await highsSolver(SECONDS);
const rows: { [K in "first" | "long" | "solver" | "least" | "alone" | School | "firstMs" | "longMs" | "solverMs"]: number }[] = [];
for (let k = 0; k < workshops; k++) {
  const i = randomWorkshop(FIRST_SEED + k);
  const [first, firstMs] = await timed(() => firstPlan(i));
  const [long, longMs] = await timed(() => longPlan(i));
  const [solved, solverMs] = await timed(async () => (await solvedPlan(i, solver)) ?? first);
  const school = (s: School) => firstPlan(scaled(i, SCHOOLS[s])).totalMinutes;
  const inTime = [first, long, solved].filter((p) => p.missed === Math.min(first.missed, long.missed, solved.missed));
  rows.push({
    first: first.totalMinutes,
    long: long.totalMinutes,
    solver: solved.totalMinutes,
    least: Math.min(...inTime.map((p) => p.totalMinutes)),
    alone: alonePlan(i).totalMinutes,
    careful: school("careful"),
    "by use": school("by use"),
    minimal: school("minimal"),
    firstMs,
    longMs,
    solverMs,
  });
}
const mean = (of: (r: (typeof rows)[number]) => number) => rows.reduce((s, r) => s + of(r), 0) / rows.length;
const at = (of: (r: (typeof rows)[number]) => number, q: number) =>
  rows.map(of).sort((a, b) => a - b)[Math.floor(q * (rows.length - 1))] ?? 0;
const line = (of: (r: (typeof rows)[number]) => number) => ({
  minutes: mean(of).toFixed(0),
  "of the least": mean((r) => of(r) / r.least).toFixed(3),
  "within 2 %": `${((100 * rows.filter((r) => of(r) <= 1.02 * r.least).length) / rows.length).toFixed(0)} %`,
});
console.table({
  "each task alone": line((r) => r.alone),
  "careful school": line((r) => r.careful),
  "by-use school": line((r) => r["by use"]),
  "minimal school": line((r) => r.minimal),
  "at once": line((r) => r.first),
  "long search": line((r) => r.long),
  [`HiGHS, ${SECONDS} s`]: line((r) => r.solver),
});
const ms = (of: (r: (typeof rows)[number]) => number) => `${at(of, 0.5).toFixed(0)} ms at the median, ${at(of, 1).toFixed(0)} at most`;
console.log(
  `${workshops} workshops, 60 days. At once: ${ms((r) => r.firstMs)}. Long search: ${ms((r) => r.longMs)}. HiGHS: ${ms((r) => r.solverMs)}.`,
);
