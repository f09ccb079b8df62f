/** Simulated machines for `bench:wear`: rates drawn from the prior, ladders cut square by square. Shares no likelihood with the fit. */
import { effectiveRatio, readLadder } from "#core/cuts";
import { type Random, seededRandom } from "#core/random";
import { AGEING_PER_HOUR, FOULING_FACTOR, foulingOf, type WearBound, type WearEvidence, type WearReading } from "#core/wear";

/** Smoke after which each optic is due, and cleaned, in ply-hours: lens, head mirror, M2, M1, exit window. */
const INTERVALS = [8, 11, 38, 42, 140] as const;
const PLY_HOURS_PER_HOUR = 0.95;
const V50 = 15;

export interface WearHistory {
  readonly evidence: WearEvidence;
  readonly truth: { readonly ageingPerHour: number; readonly factors: readonly number[]; readonly lossToday: number };
  readonly hours: number;
  readonly fouling: readonly number[];
}

const above0 = (random: Random, { mean, sd }: { readonly mean: number; readonly sd: number }): number => {
  for (;;) {
    const x = mean + sd * random.normal();
    if (x > 0) return x;
  }
};

/** Squares of rising speed around where it should drop; each falls or stays by its own luck, the sheet by its. */
function cutLadder(random: Random, lnRatio: number) {
  const expected = V50 * Math.exp(lnRatio + 0.03 * random.normal());
  const sheet = 0.025 * random.normal();
  const rungs = Array.from({ length: 8 }, (_, i) => {
    const speedMmPerS = Math.round(expected) - 4 + i;
    const falls = Math.log(V50) + lnRatio + sheet + 0.05 * random.normal() > Math.log(speedMmPerS);
    return { speedMmPerS, end: falls ? ("dropped" as const) : ("stays" as const) };
  });
  return { result: readLadder(rungs), setPercent: 60 };
}

/** One machine: ladders at even distances over some firing hours, optics cleaned when their smoke is up, more or less. */
export function simulateWear(seed: number, ladders: number, hours: number): WearHistory {
  const random = seededRandom(seed);
  const ageing = above0(random, AGEING_PER_HOUR);
  const factors = INTERVALS.map(() => above0(random, FOULING_FACTOR));
  const doses = INTERVALS.map(() => 0);
  const limits = INTERVALS.map((i) => i * (0.7 + 0.8 * random.uniform()));
  const expected = () => doses.map((d, k) => foulingOf(d, INTERVALS[k] as number));
  const loss = (t: number) => ageing * t + expected().reduce((sum, f, k) => sum + f * (factors[k] as number), 0);
  const base = cutLadder(random, 0);
  const readings: WearReading[] = [];
  const bounds: WearBound[] = [];
  const step = hours / ladders;
  for (let i = 1; i <= ladders; i++) {
    const worked = step * (0.8 + 0.4 * random.uniform());
    for (let k = 0; k < doses.length; k++) {
      doses[k] = (doses[k] as number) + worked * PLY_HOURS_PER_HOUR;
      const limit = limits[k] as number;
      // Cleaned on the way, some work since.
      if ((doses[k] as number) > limit) {
        doses[k] = ((doses[k] as number) % limit) * random.uniform();
        limits[k] = (INTERVALS[k] as number) * (0.7 + 0.8 * random.uniform());
      }
    }
    const cut = cutLadder(random, -loss(i * step));
    const ratio = effectiveRatio(cut, base);
    const use = { hoursSinceBaseline: i * step, fouling: expected(), sinceService: false };
    if (ratio.kind === "ratio" && cut.result.kind === "estimate")
      readings.push({ ...use, lnRatio: Math.log(ratio.ratio), se: cut.result.seLn });
    else if (ratio.kind === "at-least" || ratio.kind === "at-most")
      bounds.push({ ...use, side: ratio.kind === "at-least" ? "above" : "below", lnRatio: Math.log(ratio.ratio), sd: 0.05 });
  }
  const se = base.result.kind === "estimate" ? base.result.seLn : 0.05;
  return {
    evidence: { readings, bounds, optics: INTERVALS.length, baselineSe: Math.hypot(se, 0.025) },
    truth: { ageingPerHour: ageing, factors, lossToday: loss(hours) },
    hours,
    fouling: expected(),
  };
}
