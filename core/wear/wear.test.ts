import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { normalCdf } from "#core/normal";
import { seededRandom } from "#core/random";
import {
  AGEING_PER_HOUR,
  estimateCondition,
  fallingFit,
  foulingOf,
  lossPoints,
  tubeAlone,
  type WearBound,
  type WearReading,
} from "#core/wear";

describe("condition", () => {
  it("is the default rates alone when no ladder was cut, with a wide range", () => {
    const c = estimateCondition({ readings: [], optics: 1 }, 500, [0.06]);
    expect(c.ratio).toBeCloseTo(Math.exp(-(500 * AGEING_PER_HOUR.mean + 0.06)), 2);
    expect(c.high - c.low).toBeGreaterThan(0.2);
    expect(c.readings).toBe(0);
  });

  it("never claims more than one sheet can tell, however sharp a ladder is", () => {
    const sharp: WearReading = { lnRatio: -0.1, se: 0, hoursSinceBaseline: 0, fouling: [0], sinceService: true };
    const c = estimateCondition({ readings: [sharp], baselineSe: 0.005, optics: 1 }, 0, [0]);
    // 2.5 % from sheet to sheet, at 90 %: at least 3 points either way even where the ladder itself has no error.
    expect(c.ratio - c.low).toBeGreaterThan(0.03);
    expect(c.ratio).toBeCloseTo(Math.exp(-0.1), 1);
  });

  it("grows fouling with the dose, a haze's worth per interval", () => {
    expect(foulingOf(8, 8)).toBeCloseTo(0.02, 9);
    expect(foulingOf(-3, 8)).toBe(0);
    expect(tubeAlone(1e-4, 1000)).toBeCloseTo(Math.exp(-0.1), 9);
  });

  it("gives a sudden drop to what neither hours nor smoke explain", () => {
    const steady: WearReading[] = Array.from({ length: 10 }, (_, i) => ({
      lnRatio: -0.012 * (i + 1) - 0.02,
      se: 0.05,
      hoursSinceBaseline: 100 * (i + 1),
      fouling: [0.02],
      sinceService: false,
    }));
    const before = estimateCondition({ readings: steady, optics: 1 }, 1000, [0.02]);
    const after = estimateCondition(
      { readings: [...steady, { lnRatio: -0.45, se: 0.05, hoursSinceBaseline: 1000, fouling: [0.02], sinceService: true }], optics: 1 },
      1000,
      [0.02],
    );
    expect(before.other).toBeLessThan(0.01);
    expect(after.other).toBeGreaterThan(0.15);
    expect(after.ratio).toBeLessThan(before.ratio - 0.15);
  });

  it("covers the truth of simulated histories with its 90 % range, and is not fooled by a lucky baseline", () => {
    let inside = 0;
    let bias = 0;
    const runs = 300;
    for (let seed = 1; seed <= runs; seed++) {
      const random = seededRandom(seed);
      const ageing = Math.max(2e-5, AGEING_PER_HOUR.mean + AGEING_PER_HOUR.sd * random.normal());
      const factor = Math.max(0.1, 1 + 0.5 * random.normal());
      const baselineError = 0.05 * random.normal();
      const readings: WearReading[] = Array.from({ length: 20 }, (_, i) => {
        const hours = 40 * (i + 1);
        const fouling = 0.08 * random.uniform();
        const truth = -(ageing * hours + factor * fouling);
        return {
          lnRatio: truth - baselineError + Math.hypot(0.05, 0.025) * random.normal(),
          se: 0.05,
          hoursSinceBaseline: hours,
          fouling: [fouling],
          sinceService: false,
        };
      });
      const c = estimateCondition({ readings, baselineSe: 0.05, optics: 1 }, 800, [0.05]);
      const truth = Math.exp(-(ageing * 800 + factor * 0.05));
      if (truth >= c.low && truth <= c.high) inside++;
      bias += (c.ratio - truth) / runs;
    }
    // The unexplained loss has no reading to pin it down here, so the range is wider than 90 % needs; it must not be narrower.
    expect(inside / runs).toBeGreaterThan(0.88);
    expect(Math.abs(bias)).toBeLessThan(0.01);
  });
});

describe("bounds", () => {
  const bound = (side: WearBound["side"], ratio: number, isLast = false): WearBound => ({
    side,
    lnRatio: Math.log(ratio),
    sd: 0.05,
    hoursSinceBaseline: 400,
    fouling: [0.03],
    sinceService: true,
    isLast,
  });

  it("leave the estimate that sampling from the prior and weighing by every bound leaves", () => {
    const random = seededRandom(5);
    const bounds = [bound("below", 0.85), bound("above", 0.7), bound("below", 0.8)];
    let [weights, first, second] = [0, 0, 0];
    for (let i = 0; i < 400_000; i++) {
      const [ageing, factor] = [1.2e-4 + 0.6e-4 * random.normal(), 1 + 0.5 * random.normal()];
      // Nothing grows younger, and no optic cleans itself.
      if (ageing < 0 || factor < 0) continue;
      const loss = ageing * 400 + factor * 0.03 + 0.12 * random.normal();
      const read = loss + 0.05 * random.normal();
      // The baseline's error bends all readings alike, and is no loss.
      const weight = bounds.reduce(
        (w, b) => w * normalCdf(((b.side === "above" ? 1 : -1) * (-read - b.lnRatio)) / Math.hypot(0.05, 0.025)),
        1,
      );
      weights += weight;
      first += weight * loss;
      second += weight * loss * loss;
    }
    const mean = first / weights;
    const c = estimateCondition({ readings: [], bounds, optics: 1 }, 400, [0.03]);
    expect(-Math.log(c.ratio)).toBeCloseTo(mean, 2);
    expect(Math.log(c.high / c.low) / 2 / 1.6449).toBeCloseTo(Math.sqrt(second / weights - mean * mean), 2);
  });

  it("are never contradicted when they are the last word: what dropped just now still would", () => {
    const weak: WearReading = { lnRatio: -0.15, se: 0.05, hoursSinceBaseline: 300, fouling: [0.03], sinceService: true };
    const c = estimateCondition({ readings: [weak, weak], bounds: [bound("above", 0.98, true)], optics: 1 }, 400, [0.03]);
    expect(c.ratio).toBeGreaterThanOrEqual(0.98 - 1e-9);
    expect(estimateCondition({ readings: [], bounds: [bound("below", 0.6, true)], optics: 1 }, 400, [0.03]).ratio).toBeLessThanOrEqual(
      0.6 + 1e-9,
    );
  });
});

describe("what is shown", () => {
  it("adds up: the parts are the whole, in whole points", () => {
    const part = fc.double({ min: 0, max: 0.6, noNaN: true });
    fc.assert(
      fc.property(part, part, part, (dirt, tube, other) => {
        const c = { ...estimateCondition({ readings: [], optics: 1 }, 0, [0]), ratio: Math.exp(-(dirt + tube + other)), dirt, tube, other };
        const shown = lossPoints(c);
        expect(shown.dirt + shown.tube + shown.other).toBe(100 - shown.percent);
        for (const points of [shown.dirt, shown.tube, shown.other]) expect(points).toBeGreaterThanOrEqual(0);
      }),
    );
  });

  it("never rises along the path, keeps the mean, and leaves alone what falls already", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { maxLength: 10 }), (values) => {
        const fit = fallingFit(values);
        const sum = (list: readonly number[]) => list.reduce((a, b) => a + b, 0);
        expect(sum(fit)).toBeCloseTo(sum(values), 9);
        for (let i = 1; i < fit.length; i++) expect(fit[i] as number).toBeLessThanOrEqual((fit[i - 1] as number) + 1e-12);
        const falling = [...values].sort((a, b) => b - a);
        expect(fallingFit(falling)).toEqual(falling);
      }),
    );
  });
});
