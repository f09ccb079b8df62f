/**
 * `npm run bench:wear`: how well the fit recovers simulated machines, and what it takes. Seeds 1 to 200 are for tuning; reported are
 * others.
 */
import { Z90 } from "#core/normal";
import { ageingOf, factorOf, fitWear, isTooEarly, lossAt } from "#core/wear";
import { simulateWear, type WearHistory } from "./wearHistories";

const FIRST_SEED = 50_001;
const MACHINES = 200;

const within = (truth: number, { mean, sd }: { mean: number; sd: number }) =>
  truth >= Math.max(0, mean - Z90 * sd) && truth <= mean + Z90 * sd;
const median = (list: readonly number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? Number.NaN;
const percent = (share: number) => `${(100 * share).toFixed(0)} %`;

function recover(ladders: number, hours: number) {
  const machines: WearHistory[] = Array.from({ length: MACHINES }, (_, i) => simulateWear(FIRST_SEED + i, ladders, hours));
  const fits = machines.map((m) => ({ m, fit: fitWear(m.evidence) }));
  const optics = machines[0]?.truth.factors.length ?? 0;
  const covered = (inside: (f: (typeof fits)[number]) => boolean) => fits.filter(inside).length / fits.length;
  const factors = Array.from({ length: optics }, (_, k) => covered(({ m, fit }) => within(m.truth.factors[k] as number, factorOf(fit, k))));
  return {
    ladders,
    hours,
    "ageing covered": percent(covered(({ m, fit }) => within(m.truth.ageingPerHour, ageingOf(fit)))),
    "median error": percent(median(fits.map(({ m, fit }) => Math.abs(ageingOf(fit).mean / m.truth.ageingPerHour - 1)))),
    "loss today covered": percent(covered(({ m, fit }) => within(m.truth.lossToday, lossAt(fit, { hours: m.hours, fouling: m.fouling })))),
    "optics covered": factors.map(percent).join(" "),
    "too early to tell": percent(covered(({ fit }) => isTooEarly(fit))),
  };
}

console.log(
  `Recovery on ${MACHINES} machines each, rates from the prior, seeds ${FIRST_SEED} on. Wanted: 84 to 96 % covered; median error below 15 % with 60 ladders over 1,500 h.`,
);
console.table([recover(25, 400), recover(60, 1500), recover(120, 3000)]);

/** Ten years: five thousand readings, half of them no more than bounds. */
const long = simulateWear(7, 5000, 9000).evidence;
const half = long.readings.filter((_, i) => i % 2 === 0);
const bounds = long.readings
  .filter((_, i) => i % 2 === 1)
  .map((r) => ({ ...r, side: "above" as const, lnRatio: r.lnRatio - 0.05, sd: 0.05 }));
const times = Array.from({ length: 5 }, () => {
  const from = performance.now();
  fitWear({ ...long, readings: half, bounds: [...(long.bounds ?? []), ...bounds] });
  return performance.now() - from;
});
console.log(
  `A fit of ${half.length + bounds.length} readings, ${bounds.length} of them bounds: ${median(times).toFixed(0)} ms at the median (wanted: below 1000).`,
);
