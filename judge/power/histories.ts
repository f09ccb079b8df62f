/** Simulated machines for `bench -- wear`: drawn from what the fit supposes, ladders cut square by square. The control: here the fit must be right. */
import { effectiveRatio, readLadder } from "#core/cuts";
import { type Random, seededRandom } from "#core/random";
import { AGEING_PER_HOUR, FOULING_FACTOR, foulingOf, type Moment, type WearBound, type WearEvidence, type WearReading } from "#core/wear";

/** Smoke after which each optic is due, and cleaned, in ply-hours: lens, head mirror, M2, M1, exit window. */
const INTERVALS = [8, 11, 38, 42, 140] as const;
const PLY_HOURS_PER_HOUR = 0.95;
const V50 = 15;
const HOURS_PER_DAY = 2.2;
const BATCH_DAYS = 30;

export interface WearHistory {
  readonly evidence: WearEvidence;
  readonly truth: { readonly ageingPerHour: number; readonly factors: readonly number[]; readonly lossToday: number };
  readonly now: Moment;
}

const above0 = (random: Random, mean: number, sd: number): number => {
  for (;;) {
    const x = mean + sd * random.normal();
    if (x > 0) return x;
  }
};

/** Squares of rising speed around where it should drop; each falls or stays by its own luck, the sheet by its. */
function cutLadder(random: Random, lnRatio: number) {
  const expected = V50 * Math.exp(lnRatio + 0.03 * random.normal());
  const sheet = 0.02 * random.normal();
  const rungs = Array.from({ length: 8 }, (_, i) => {
    const speedMmPerS = Math.round(expected) - 4 + i;
    const falls = Math.log(V50) + lnRatio + sheet + 0.05 * random.normal() > Math.log(speedMmPerS);
    return { speedMmPerS, end: falls ? ("dropped" as const) : ("stays" as const) };
  });
  return { result: readLadder(rungs), setPercent: 60 };
}

/** One machine: ladders at even distances over some firing hours, optics cleaned when their smoke is up, more or less. `walks` how far what nothing explains goes, against what is usual. */
export function simulateWear(seed: number, ladders: number, hours: number, walks = 1): WearHistory {
  const random = seededRandom(seed);
  let rate = above0(random, AGEING_PER_HOUR.mean, AGEING_PER_HOUR.sd);
  const shop = 0.71 * random.normal();
  const factors = INTERVALS.map(() => above0(random, FOULING_FACTOR.mean + shop, 0.55));
  const doses = INTERVALS.map(() => 0);
  const limits = INTERVALS.map((i) => i * (0.7 + 0.8 * random.uniform()));
  const expected = () => doses.map((d, k) => foulingOf(d, INTERVALS[k] as number));
  let [tube, walk, batch, batchDay] = [0, 0, 0.04 * random.normal(), 0];
  const loss = () => tube + walk + expected().reduce((sum, f, k) => sum + f * (factors[k] as number), 0);
  const base = cutLadder(random, batch);
  const readings: WearReading[] = [];
  const bounds: WearBound[] = [];
  const step = hours / ladders;
  const dirtPerDay = INTERVALS.reduce((sum, i) => sum + foulingOf(HOURS_PER_DAY * PLY_HOURS_PER_HOUR, i), 0);
  const perDay = 0.03 ** 2 / 14 + 7 * (0.4 * dirtPerDay) ** 2;
  let now: Moment = { day: 0, hours: 0, fouling: expected() };
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
    rate = Math.abs(rate + 0.9e-4 * Math.sqrt(step / 1000) * random.normal());
    tube += rate * step;
    walk += walks * Math.sqrt((perDay * step) / HOURS_PER_DAY) * random.normal();
    now = { day: (i * step) / HOURS_PER_DAY, hours: i * step, fouling: expected() };
    if (now.day - batchDay > BATCH_DAYS) [batch, batchDay] = [0.04 * random.normal(), now.day];
    const cut = cutLadder(random, -loss() + batch);
    const ratio = effectiveRatio(cut, base);
    const use = { at: now, sheet: "1" };
    if (ratio.kind === "ratio" && cut.result.kind === "estimate")
      readings.push({ ...use, lnRatio: Math.log(ratio.ratio), se: cut.result.sdLn });
    else if (ratio.kind === "at-least" || ratio.kind === "at-most")
      bounds.push({ ...use, side: ratio.kind === "at-least" ? "above" : "below", lnRatio: Math.log(ratio.ratio), sd: 0.05 });
  }
  const baselineSe = base.result.kind === "estimate" ? base.result.sdLn : 0.05;
  return {
    evidence: { readings, bounds, optics: INTERVALS.length, baselineSe, dirtPerDay },
    truth: { ageingPerHour: rate, factors, lossToday: loss() },
    now,
  };
}
