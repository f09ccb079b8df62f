/** The judged cases as tables. */
import type { Judged, PolicyRun } from "./run";
import { OUTSIDE } from "./world";

const percent = (n: number, of: number) => (of === 0 ? "   -" : `${((100 * n) / of).toFixed(0)} %`);
const mean = (xs: readonly number[]) => xs.reduce((a, b) => a + b, 0) / Math.max(1, xs.length);
const quantile = (xs: readonly number[], q: number) =>
  [...xs].sort((a, b) => a - b)[Math.min(xs.length - 1, Math.floor(q * xs.length))] ?? 0;

const NAMES = { head: "clean all, head first", walk: "walk from the tube", own: "Clenor", known: "who knows every fault" } as const;

function policyLine(name: string, runs: readonly PolicyRun[]): string {
  const minutes = runs.map((r) => r.minutes);
  const share = (of: (r: PolicyRun) => boolean) => percent(runs.filter(of).length, runs.length).padStart(7);
  return `  ${name.padEnd(24)}${share((r) => r.first)}${share((r) => r.oneRound)}${share((r) => r.twoRounds)}${mean(minutes).toFixed(0).padStart(8)}${quantile(minutes, 0.5).toFixed(0).padStart(8)}${quantile(minutes, 0.9).toFixed(0).padStart(8)}${share((r) => r.gaveUp)}${mean(
    runs.map((r) => r.needless),
  )
    .toFixed(1)
    .padStart(9)}${`${runs.reduce((n, r) => n + r.dear.inVain, 0)} of ${runs.reduce((n, r) => n + r.dear.done, 0)}`.padStart(14)}`;
}

/** Stated against found in ten bins of equal count, with Brier's score. */
function calibration(all: readonly Judged[]): string {
  const firsts = all.flatMap((j) => j.first ?? []).sort((a, b) => a.stated - b.stated);
  const bins = Array.from({ length: 10 }, (_, i) =>
    firsts.slice(Math.floor((i * firsts.length) / 10), Math.floor(((i + 1) * firsts.length) / 10)),
  );
  const lines = bins
    .filter((b) => b.length > 0)
    .map((b) => ({ said: mean(b.map((f) => f.stated)), found: mean(b.map((f) => Number(f.right))), n: b.length }));
  const error = lines.reduce((s, l) => s + (l.n * Math.abs(l.said - l.found)) / firsts.length, 0);
  const brier = mean(firsts.map((f) => (f.stated - Number(f.right)) ** 2));
  return `  calibration of the first repair: said ${lines.map((l) => (100 * l.said).toFixed(0)).join(" ")}; found ${lines.map((l) => (100 * l.found).toFixed(0)).join(" ")}; mean error ${(100 * error).toFixed(1)} points (wanted: 4), Brier ${brier.toFixed(3)}`;
}

/** Minutes of what takes a tube or a supply, long by itself and asked about longest, and of all else. */
function byDearness(all: readonly Judged[]): string {
  const isDear = (j: Judged) => j.mains.some((id) => /^(tube|supply)-|^window-damaged/.test(id));
  const words = (js: readonly Judged[]) => {
    const [own, known] = (["own", "known"] as const).map((p) => js.map((j) => j.policies[p].minutes)) as [number[], number[]];
    return `${js.length} machines ${mean(own).toFixed(0)} minutes, p90 ${quantile(own, 0.9).toFixed(0)} (who knows every fault ${mean(known).toFixed(0)}, p90 ${quantile(known, 0.9).toFixed(0)})`;
  };
  return `  where it is the tube or the supply: ${words(all.filter(isDear))}; where not: ${words(all.filter((j) => !isDear(j)))}`;
}

const spent = (js: readonly Judged[], on: keyof Judged["spent"]) => mean(js.map((j) => j.spent[on])).toFixed(0);

/** Causes that stand in no list: what is done in vain, and how often the first repair was named all the same with what certainty. */
function outsideLine(some: readonly Judged[]): string {
  const named = some.flatMap((j) => j.first?.stated ?? []);
  const dear = some.reduce((n, j) => n + j.policies.own.dear.done, 0);
  const rounds = mean(some.map((j) => j.policies.own.minutes)).toFixed(0);
  return `\ncauses that stand in no list: ${some.length} machines, ${dear} dear repairs in vain, first repair named with ${(100 * mean(named)).toFixed(0)} % in the mean, ${rounds} minutes`;
}

export function tables(judged: readonly Judged[]): string {
  const out: string[] = [];
  const all = judged.filter((j) => !j.faults.includes(OUTSIDE));
  const outside = judged.filter((j) => j.faults.includes(OUTSIDE));
  if (outside.length > 0) out.push(outsideLine(outside));
  for (const layout of [...new Set(all.map((j) => j.layout)), "all"]) {
    const some = layout === "all" ? all : all.filter((j) => j.layout === layout);
    out.push(
      `\n${layout}: ${some.length} machines${" ".repeat(Math.max(1, 14 - layout.length))}   first  1 round 2 rounds minutes  median    p90  given up  needless  dear in vain`,
    );
    for (const p of ["head", "walk", "own", "known"] as const)
      out.push(
        policyLine(
          NAMES[p],
          some.map((j) => j.policies[p]),
        ),
      );
    const both = some.filter((j) => j.oracle);
    if (both.length > 0)
      out.push(
        `  of ${both.length} of them`,
        policyLine(
          "Clenor",
          both.map((j) => j.policies.own),
        ),
        policyLine(
          "who knows the simulator",
          both.flatMap((j) => j.oracle ?? []),
        ),
      );
    const firsts = some.flatMap((j) => j.first ?? []);
    const with_ = firsts.filter((f) => f.oracleSame !== undefined);
    const right = percent(with_.filter((f) => f.right).length, with_.length);
    if (with_.length > 0)
      out.push(
        `  first repair right, of ${with_.length} of them: Clenor ${right}, an oracle with the same answers ${percent(with_.filter((f) => f.oracleSame).length, with_.length)}, with every answer ${percent(with_.filter((f) => f.oracleAll).length, with_.length)}`,
      );
    const better = Math.min(mean(some.map((j) => j.policies.head.minutes)), mean(some.map((j) => j.policies.walk.minutes)));
    const betterP90 = Math.min(
      quantile(
        some.map((j) => j.policies.head.minutes),
        0.9,
      ),
      quantile(
        some.map((j) => j.policies.walk.minutes),
        0.9,
      ),
    );
    out.push(
      `  minutes against the better routine: mean ${(mean(some.map((j) => j.policies.own.minutes)) / better).toFixed(2)} (wanted: 0.6), p90 ${(
        quantile(
          some.map((j) => j.policies.own.minutes),
          0.9,
        ) / betterP90
      ).toFixed(
        2,
      )} (wanted: 0.6); spent on asking ${spent(some, "asked")}, mending ${spent(some, "mended")}, proofs ${spent(some, "proven")}`,
      `  asked before the first repair: median ${quantile(
        firsts.map((f) => f.asked),
        0.5,
      )}, mean ${mean(firsts.map((f) => f.asked)).toFixed(1)} (wanted: 6); repairs in the first round ${mean(firsts.map((f) => f.plan.length)).toFixed(1)}; same repair named again ${some.reduce((s, j) => s + j.again, 0)}; a free question after a timed one ${percent(some.filter((j) => j.freeAfterTimed).length, some.length)}; watts asked without a meter ${some.reduce((s, j) => s + j.wattsAsked, 0)}`,
      byDearness(some),
      calibration(some),
    );
  }
  out.push(
    "",
    byKey("by main fault, the most often missed first", all, (j) => j.mains[0] ?? "", 18),
    "",
    byKey("by number of faults", all, (j) => String(j.faults.length), 3),
  );
  return out.join("\n");
}

function byKey(title: string, all: readonly Judged[], key: (j: Judged) => string, most: number): string {
  const groups = grouped(all, (j) => key(j).replace(/@[1-9]/, "@k"));
  const rows = [...groups].map(([k, js]) => ({
    k,
    n: js.length,
    missed: js.filter((j) => !j.policies.own.first).length,
    line: `  ${k.padEnd(22)}${String(js.length).padStart(5)}  first ${percent(js.filter((j) => j.policies.own.first).length, js.length).padStart(5)}  one round ${percent(js.filter((j) => j.policies.own.oneRound).length, js.length).padStart(5)}  two ${percent(js.filter((j) => j.policies.own.twoRounds).length, js.length).padStart(5)}  minutes ${mean(
      js.map((j) => j.policies.own.minutes),
    )
      .toFixed(0)
      .padStart(4)}  took instead ${instead(js)}`,
  }));
  return [
    title,
    ...rows
      .sort((a, b) => b.missed - a.missed)
      .slice(0, most)
      .map((r) => r.line),
  ].join("\n");
}

function grouped<T>(items: readonly T[], key: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of items) groups.set(key(item), [...(groups.get(key(item)) ?? []), item]);
  return groups;
}

function instead(js: readonly Judged[]): string {
  const wrong = js.flatMap((j) => (j.first && !j.first.right ? [j.first.repair] : []));
  const counts = [...grouped(wrong, (r) => r)].map(([r, list]) => [r, list.length] as const).sort((a, b) => b[1] - a[1]);
  return counts
    .slice(0, 4)
    .map(([r, n]) => `${r} ${n}`)
    .join(", ");
}
