/** Time of a full trace against a plain enumeration of the same sets, both in this run. Prints ratios. */

import { threeMirror } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { traceSpec } from "#core/machine";
import { seededRandom } from "#core/random";
import { expandModel, type TraceDepth, type TraceFinding, trace } from "#core/trace";
import { plainPosterior } from "../trace/plainPosterior";

const ROUNDS = 25;
const model = expandModel(traceSpec(threeMirror, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates);
const usage = { tubeHours: 1500, ratedTubeHours: 3000, smokeDoseSinceClean: { lens: 6, "mirror-3": 9, "mirror-2": 25, "mirror-1": 20 } };
const random = seededRandom(7);
const baseW: Readonly<Record<string, number>> = { tube: 62, "mirror-1": 61, "mirror-2": 60, "mirror-3": 59, lens: 57 };

/** Ten findings: six answers and a walk of four readings. */
function tenFindings(): { outcomes: { check: string; outcome: string }[]; readings: { station: string; value: number }[] } {
  const checks = ["onset", "bed-map", "lens-look", "mirror-look@2", "nozzle-touch", "in-run"];
  return {
    outcomes: checks.map((check) => ({ check, outcome: random.pick(model.checks.find((c) => c.id === check)?.outcomes ?? []) })),
    readings: ["tube", "mirror-1", "mirror-2", "lens"].map((station) => ({
      station,
      value: (baseW[station] as number) * (0.75 + 0.25 * random.uniform()),
    })),
  };
}

const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] as number;
function timed(work: () => unknown): number {
  const start = performance.now();
  work();
  return performance.now() - start;
}

const cases = Array.from({ length: ROUNDS }, tenFindings);
const findingsOf = (c: (typeof cases)[number]): TraceFinding[] => [
  ...c.outcomes,
  ...c.readings.map((r) => ({ check: `power@${r.station}`, value: r.value })),
];
const full = (c: (typeof cases)[number], maxFaults: 2 | 3, more: readonly TraceFinding[] = [], depth?: TraceDepth) =>
  trace(model, { usage, baseline: { powerW: baseW }, findings: [...findingsOf(c), ...more], maxFaults }, depth);
const answered: readonly TraceFinding[] = [{ check: "air-feel", outcome: "weak" }];
/** Medians of an answer from nothing, and of one more answer to a question of the same case. */
function anew(depth: TraceDepth) {
  const times = cases.slice(0, 9).map((c) => [timed(() => full(c, 3, [], depth)), timed(() => full(c, 3, answered, depth))] as const);
  return { first: median(times.map(([t]) => t)), more: median(times.map(([, t]) => t)) };
}
const ratio = ({ first, more }: ReturnType<typeof anew>) =>
  `median ${first.toFixed(0)} ms from nothing, ${more.toFixed(0)} ms after one more answer, ratio ${(first / more).toFixed(1)}`;
const plain = (c: (typeof cases)[number]) =>
  plainPosterior(model, usage, {
    outcomes: c.outcomes,
    readings: c.readings.map((r) => ({
      at: r.station === "tube" ? 1 : model.stations.findIndex((s) => s.id === r.station),
      y: Math.log(r.value / (baseW[r.station] as number)),
      sd: 0.03,
    })),
  });

for (const c of cases.slice(0, 6)) full(c, 2);
const two = median(cases.map((c) => timed(() => full(c, 2))));
const naive = median(cases.slice(0, 9).map((c) => timed(() => plain(c))));
for (const c of cases.slice(0, 6)) full(c, 3);
const whole = anew("whole");
const next = anew("next");
const faults = model.faults.length;
const setsOfTwo = 1 + 2 * faults + 2 * faults * (faults - 1);
process.stdout.write(
  [
    `three-mirror machine, ${faults} faults, ten findings, warm`,
    `full answer (posterior, evidence, ranked checks, stop rule), up to two faults, ${setsOfTwo} sets: median ${two.toFixed(1)} ms`,
    `plain enumeration, posterior alone, the same sets:                                        median ${naive.toFixed(1)} ms`,
    `ratio plain / full: ${(naive / two).toFixed(2)}`,
    // The plain one has no evidence: leaving each finding out in turn would cost it one more pass per finding.
    `ratio for the same evidence (plain once more per finding): ${((naive * 11) / two).toFixed(1)}`,
    `full answer, up to three faults:             ${ratio(whole)}; ${(whole.first / two).toFixed(1)} times the answer for two`,
    `what to do next alone, up to three faults:   ${ratio(next)}`,
    "",
  ].join("\n"),
);
