import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { simulateWear } from "../../scripts/wearHistories";
import { ageingOf, daysUntil, factorOf, fitWear, isTooEarly, lossAt, powerIn, tangledRates, tubeHoursLeft } from ".";

const history = simulateWear(3, 60, 1500);
const fit = fitWear(history.evidence);
const loss = lossAt(fit, { hours: history.hours, fouling: history.fouling, sudden: true });
const now = { hours: history.hours, fouling: history.fouling, lnRatio: -loss.mean };
const pace = { hoursPerDay: 2, foulingPerDay: history.fouling.map(() => 0.003) };

describe("the fit on simulated machines", () => {
  it("finds ageing, fouling and today's loss with intervals that cover them, though their seeds were never seen", () => {
    const machines = Array.from({ length: 80 }, (_, i) => simulateWear(90_000 + i, 60, 1500)).map((m) => ({ m, fit: fitWear(m.evidence) }));
    const covered = (inside: (x: (typeof machines)[number]) => boolean) => machines.filter(inside).length / machines.length;
    const within = (truth: number, { mean, sd }: { mean: number; sd: number }) => Math.abs(truth - mean) <= 1.645 * sd;
    for (const share of [
      covered(({ m, fit: f }) => within(m.truth.ageingPerHour, ageingOf(f))),
      covered(({ m, fit: f }) => within(m.truth.lossToday, lossAt(f, { hours: m.hours, fouling: m.fouling }))),
      covered(({ m, fit: f }) => within(m.truth.factors[0] as number, factorOf(f, 0))),
    ]) {
      expect(share).toBeGreaterThan(0.8);
      expect(share).toBeLessThan(0.99);
    }
    const errors = machines.map(({ m, fit: f }) => Math.abs(ageingOf(f).mean / m.truth.ageingPerHour - 1)).sort((a, b) => a - b);
    expect(errors[40]).toBeLessThan(0.15);
  });

  it("says that it is too early where little was read, and never lets a rate fall below nought", () => {
    const short = fitWear(simulateWear(5, 6, 60).evidence);
    expect(isTooEarly(short)).toBe(true);
    expect(isTooEarly(fit)).toBe(false);
    for (const f of [short, fit]) {
      expect(ageingOf(f).mean).toBeGreaterThanOrEqual(0);
      for (let k = 0; k < f.optics; k++) expect(factorOf(f, k).mean).toBeGreaterThanOrEqual(0);
    }
    // One optic that fouls in step with the hours cannot be told from the tube.
    const inStep = Array.from({ length: 40 }, (_, i) => ({
      lnRatio: -0.004 * i,
      se: 0.01,
      hoursSinceBaseline: 40 * i,
      fouling: [0.004 * i],
      sinceService: false,
    }));
    expect(tangledRates(fitWear({ readings: inStep, optics: 1, baselineSe: 0.01 }))).toEqual([[0, 1]]);
  });
});

describe("days to come", () => {
  it("fall, faster where nothing is cleaned, and begin at today's figure", () => {
    expect(powerIn(fit, now, pace, 0).mean).toBeCloseTo(now.lnRatio, 12);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 1, max: 200 }), (days, more) => {
        const [a, b, kept] = [
          powerIn(fit, now, pace, days),
          powerIn(fit, now, pace, days + more),
          powerIn(fit, now, pace, days + more, true),
        ];
        expect(b.mean).toBeLessThan(a.mean);
        expect(b.mean).toBeLessThan(kept.mean);
      }),
    );
  });

  it("name the day a cut stops: the day before it still dropped", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.001, max: 0.4, noNaN: true }), fc.boolean(), (margin, kept) => {
        const need = now.lnRatio - margin;
        const days = daysUntil(fit, now, pace, need, kept);
        if (days === undefined) expect(powerIn(fit, now, pace, 1500, kept).mean).toBeGreaterThanOrEqual(need);
        else {
          expect(powerIn(fit, now, pace, days, kept).mean).toBeLessThan(need);
          expect(powerIn(fit, now, pace, days - 1, kept).mean).toBeGreaterThanOrEqual(need);
        }
      }),
    );
    expect(daysUntil(fit, now, pace, now.lnRatio + 0.01, false)).toBe(0);
  });

  it("give the tube hours in order, fewer the more is asked of it", () => {
    const [spent, worn] = [tubeHoursLeft(fit, history.hours, 0.7), tubeHoursLeft(fit, history.hours, 0.8)];
    expect(worn.low).toBeLessThanOrEqual(worn.mid);
    expect(worn.mid).toBeLessThanOrEqual(worn.high);
    expect(spent.mid).toBeGreaterThan(worn.mid);
    expect(tubeHoursLeft(fit, 1e6, 0.8)).toEqual({ mid: 0, low: 0, high: 0 });
  });
});
