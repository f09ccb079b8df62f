import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { simulateWear } from "../../judge/power/histories";
import {
  ageingOf,
  daysUntil,
  factorOf,
  fitWear,
  isTooEarly,
  lossOf,
  powerIn,
  readingNow,
  tangledRates,
  tubeHoursLeft,
  type WearReading,
} from ".";

const history = simulateWear(3, 60, 1500);
const fit = fitWear(history.evidence);
const { now } = history;
const pace = { hoursPerDay: 2, foulingPerDay: now.fouling.map(() => 0.003), kept: now.fouling.map(() => 0.012), spread: 0.2 };

describe("the fit on machines drawn from what it supposes", () => {
  it("finds ageing, fouling and today's loss with intervals that cover them, though their seeds were never seen", () => {
    const machines = Array.from({ length: 80 }, (_, i) => simulateWear(90_000 + i, 30, 800)).map((m) => ({ m, fit: fitWear(m.evidence) }));
    const covered = (inside: (x: (typeof machines)[number]) => boolean) => machines.filter(inside).length / machines.length;
    const within = (truth: number, { mean, sd }: { mean: number; sd: number }) => Math.abs(truth - mean) <= 1.645 * sd;
    for (const share of [
      covered(({ m, fit: f }) => within(m.truth.ageingPerHour, ageingOf(f))),
      covered(({ m, fit: f }) => within(m.truth.lossToday, lossOf(f, m.now))),
      covered(({ m, fit: f }) => within(m.truth.factors[0] as number, factorOf(f, 0))),
    ]) {
      expect(share).toBeGreaterThan(0.77);
      expect(share).toBeLessThan(0.99);
    }
  });

  it("learns that nothing walks where nothing does: then many ladders tell the tube's rate", () => {
    const still = Array.from({ length: 12 }, (_, i) => fitWear(simulateWear(70_000 + i, 60, 1500, 0).evidence));
    const moving = Array.from({ length: 12 }, (_, i) => fitWear(simulateWear(70_000 + i, 60, 1500, 2).evidence));
    const scale = (list: typeof still) => list.reduce((sum, f) => sum + f.scale.walk, 0) / list.length;
    expect(scale(still)).toBeLessThan(0.8 * scale(moving));
  });

  it("says that it is too early where little was read, and never lets a rate fall below nought", () => {
    const short = simulateWear(5, 5, 60);
    const early = fitWear(short.evidence);
    expect(isTooEarly(early, tubeHoursLeft(early, short.now, 0.8))).toBe(true);
    for (const f of [early, fit]) {
      expect(ageingOf(f).mean).toBeGreaterThanOrEqual(0);
      for (let k = 0; k < f.optics; k++) expect(factorOf(f, k).mean).toBeGreaterThanOrEqual(0);
    }
    expect(isTooEarly(fit, { mid: 500, low: 300, high: 900 })).toBe(false);
    expect(isTooEarly(fit, { mid: 500, low: 100, high: 900 })).toBe(true);
    // Two optics that foul in step cannot be told apart.
    const inStep = Array.from(
      { length: 40 },
      (_, i): WearReading => ({
        lnRatio: -0.004 * (i % 20),
        se: 0.01,
        at: { day: i, hours: i / 100, fouling: [0.002 * (i % 20), 0.002 * (i % 20)] },
      }),
    );
    expect(tangledRates(fitWear({ readings: inStep, optics: 2, baselineSe: 0.01 }))).toEqual([[1, 2]]);
  });
});

describe("days to come", () => {
  it("fall, faster where nothing is cleaned, ever less surely, and begin at today's figure", () => {
    expect(powerIn(fit, now, pace, 0).mean).toBeCloseTo(-lossOf(fit, now).mean, 12);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 1, max: 200 }), (days, more) => {
        const [a, b, kept] = [
          powerIn(fit, now, pace, days),
          powerIn(fit, now, pace, days + more),
          powerIn(fit, now, pace, days + more, true),
        ];
        expect(b.mean).toBeLessThan(a.mean);
        expect(b.sd).toBeGreaterThan(a.sd);
        expect(b.mean).toBeLessThanOrEqual(kept.mean);
      }),
    );
  });

  it("name the day a cut stops: the day before it still dropped", () => {
    // The mean of many days, bursts and all.
    const grows = 0.003 * Math.exp(0.08);
    const reads = (days: number, kept: boolean) => {
      const moment = { ...now, day: now.day + days, hours: now.hours + 2 * days };
      const grown = now.fouling.map((f, i) => f + grows * days * Number(!kept || f + grows * days < (pace.kept[i] ?? 0)));
      return readingNow(
        fit,
        { ...moment, fouling: kept ? now.fouling.map((f, i) => Math.min(f + grows * days, pace.kept[i] as number)) : grown },
        {},
      ).mean;
    };
    fc.assert(
      fc.property(fc.double({ min: 0.02, max: 0.4, noNaN: true }), fc.boolean(), (margin, kept) => {
        const need = reads(0, kept) - margin;
        const days = daysUntil(fit, now, pace, need, kept);
        if (days === undefined) expect(reads(1500, kept)).toBeGreaterThanOrEqual(need);
        else {
          expect(reads(days, kept)).toBeLessThan(need);
          expect(reads(days - 1, kept)).toBeGreaterThanOrEqual(need);
        }
      }),
    );
    expect(daysUntil(fit, now, pace, reads(0, false) + 0.01, false)).toBe(0);
  });

  it("give the tube hours in order, fewer the more is asked of it, the same whenever they are asked", () => {
    const [spent, worn] = [tubeHoursLeft(fit, now, 0.7), tubeHoursLeft(fit, now, 0.8)];
    expect(worn.low).toBeLessThanOrEqual(worn.mid);
    expect(worn.mid).toBeLessThanOrEqual(worn.high);
    expect(spent.mid).toBeGreaterThan(worn.mid);
    expect(tubeHoursLeft(fit, now, 0.8)).toEqual(worn);
    expect(tubeHoursLeft(fit, { ...now, hours: 1e6 }, 0.8)).toEqual({ mid: 0, low: 0, high: 0 });
  });
});
