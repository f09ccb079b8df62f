/** Random workshops to be planned: tasks as owners have them, weeks as they work, days off, and now and then a limit of minutes. */
import type { PlanInstance } from "#core/plan";
import { seededRandom } from "#core/random";

const PANELS = [
  { id: "rear", minutes: 6 },
  { id: "head", minutes: 2 },
  { id: "front", minutes: 3 },
] as const;

export function randomWorkshop(seed: number): PlanInstance {
  const random = seededRandom(seed);
  const between = (a: number, b: number) => a + (b - a) * random.uniform();
  const ply = between(0.8, 4);
  const week = (mean: number) =>
    [0, 1, 2, 3, 4, 5, 6].map((d) => (d > 4 && random.uniform() < 0.8 ? 0 : Math.round(100 * mean * between(0.5, 1.5)) / 100));
  const start = Date.parse("2026-12-01T00:00:00Z");
  const date = (d: number) => new Date(start + d * 86_400_000).toISOString().slice(0, 10);
  const task = (id: string, coordinate: string, interval: number, minutes: number, panels: readonly string[]) => ({
    id,
    minutes: Math.round(minutes * between(0.7, 1.4)),
    panels: [...panels],
    interval: { [coordinate]: Math.round(10 * interval * between(0.6, 1.6)) / 10 },
    used: { [coordinate]: Math.round(10 * interval * between(0, 0.6)) / 10 },
  });
  const tasks = [
    task("lens", "ply", 8, 5, ["head"]),
    task("nozzle", "ply", 10, 2, []),
    task("mirror-3", "ply", 11, 3, ["head"]),
    task("mirror-2", "ply", 38, 4, []),
    task("mirror-1", "ply", 42, 4, ["rear"]),
    task("window", "ply", 140, 4, ["rear"]),
    task("rails", "days", 14, 8, []),
    task("grease", "hours", 90, 10, []),
    task("tray", "days", 4, 3, ["front"]),
    task("belts", "days", 30, 6, ["rear"]),
    task("fan", "days", 45, 12, ["rear"]),
    task("filter", "ply", 60, 5, []),
    task("coolant", "days", 120, 20, ["rear"]),
    task("aim-check", "days", 28, 10, []),
  ].filter(() => random.uniform() < 0.9);
  return {
    days: 60,
    start: date(0),
    frameMinutes: Math.round(between(4, 18)),
    panels: PANELS.map((p) => ({ ...p })),
    closed: Array.from({ length: 60 }, (_, d) => d)
      .filter(() => random.uniform() < 0.05)
      .map(date),
    pace: { ply: week(ply), hours: week(ply * 0.9) },
    tasks,
  };
}
