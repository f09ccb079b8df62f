import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { normalCdf } from "#core/normal";
import { seededRandom } from "#core/random";
import {
  AGEING_PER_HOUR,
  estimateCondition,
  fallingFit,
  foulingAfter,
  foulingOf,
  lossPoints,
  type Moment,
  readingNow,
  type WearBound,
  type WearEvidence,
  type WearReading,
  wordsOf,
} from "#core/wear";
import { Field, observe } from "./gaussian";

const at = (day: number, dirt = 0, hours = 2 * day): Moment => ({ day, hours, fouling: [dirt] });
const read = (day: number, lnRatio: number, se = 0.05, dirt = 0.02): WearReading => ({ lnRatio, se, at: at(day, dirt), sheet: "1" });
/** A ladder every fortnight that wears a little. */
const steady = (count: number): WearReading[] => Array.from({ length: count }, (_, i) => read(14 * (i + 1), -0.006 * (i + 1) - 0.02));
const width = (c: { low: number; high: number }) => Math.log(c.high / c.low);

describe("condition", () => {
  it("is the default rates alone when no ladder was cut, with a wide range", () => {
    const c = estimateCondition({ readings: [], optics: 1 }, { day: 250, hours: 500, fouling: [0.06] });
    expect(c.ratio).toBeLessThan(Math.exp(-500 * AGEING_PER_HOUR.mean));
    expect(c.ratio).toBeGreaterThan(0.75);
    expect(c.high - c.low).toBeGreaterThan(0.2);
    expect(c.readings).toBe(0);
  });

  it("never claims more than one sheet can tell, however sharp a ladder is", () => {
    const c = estimateCondition({ readings: [read(1, -0.1, 0, 0)], baselineSe: 0.005, optics: 1 }, at(1));
    // Sheet and batch, at 90 %: at least 3 points either way even where the ladder itself has no error.
    expect(c.ratio - c.low).toBeGreaterThan(0.025);
  });

  it("grows fouling with the dose, a haze's worth per interval, of which a clean leaves a part", () => {
    expect(foulingOf(8, 8)).toBeCloseTo(0.02, 9);
    expect(foulingOf(-3, 8)).toBe(0);
    expect(foulingAfter([8, 0], 8)).toBeGreaterThan(0);
    expect(foulingAfter([8, 8], 8)).toBeLessThan(0.025);
  });

  it("gives a sudden drop to what neither hours nor smoke explain, at the first ladder that shows it", () => {
    const before = estimateCondition({ readings: steady(10), optics: 1 }, at(140, 0.02));
    const after = estimateCondition({ readings: [...steady(10), read(141, -0.45)], optics: 1 }, at(141, 0.02));
    expect(Math.abs(before.parts.other.mean)).toBeLessThan(0.05);
    expect(after.parts.other.mean).toBeGreaterThan(0.15);
    expect(after.leads).toBe("other");
    expect(after.ratio).toBeLessThan(before.ratio - 0.15);
  });

  it("is weak where the last ladders read 39, 41 and 33 %, whatever was served or closed meanwhile", () => {
    const weak = [39, 41, 33].map((p, i) => read(150 + 3 * i, Math.log(p / 100), 0.06));
    for (const more of [
      {},
      { changes: [{ day: 157, sd: 0.08 }] },
      { faults: [{ from: 145, to: 158 }] },
      { faults: [{ from: 145, to: 1e9 }] },
    ]) {
      const evidence: WearEvidence = { readings: [...steady(10), ...weak], optics: 1, ...more };
      const c = estimateCondition(evidence, at(157, 0.02));
      expect(c.high).toBeLessThan(0.6);
      expect(wordsOf(c)).toEqual(["weak"]);
    }
  });

  it("goes back to what it was once a fault that a case found is mended, and to no reading's forgetting", () => {
    const faults = [{ from: 145, to: 158 }];
    const weak = [150, 153].map((day) => read(day, -0.6));
    const c = estimateCondition({ readings: [...steady(10), ...weak], faults, optics: 1 }, at(159, 0.02));
    expect(c.ratio).toBeGreaterThan(0.85);
  });

  it("grows less sure with the days since the last reading", () => {
    const evidence = { readings: steady(6), optics: 1 };
    const widths = [0, 10, 30, 60, 120].map((d) => width(estimateCondition(evidence, at(84 + d, 0.02))));
    expect([...widths].sort((a, b) => a - b)).toEqual(widths);
    expect(widths[4]).toBeGreaterThan(1.5 * (widths[0] as number));
  });

  it("is never made wider by a reading that agrees, nor narrower by one that scatters more", () => {
    const one = fc.record({ day: fc.integer({ min: 1, max: 100 }), off: fc.double({ min: -0.06, max: 0.06, noNaN: true }) });
    fc.assert(
      fc.property(fc.array(one, { minLength: 3, maxLength: 8 }), fc.double({ min: 0.03, max: 0.1, noNaN: true }), (list, se) => {
        const readings = list.map((r) => read(r.day, -0.0005 * r.day + r.off, se));
        const without = estimateCondition({ readings: readings.slice(1), optics: 1 }, at(100, 0.02));
        const c = estimateCondition({ readings, optics: 1 }, at(100, 0.02));
        // What is learned of the walk's own scale may widen it a little, as a slip would.
        expect(width(c)).toBeLessThan(1.35 * width(without));
        const blurred = readings.map((r) => ({ ...r, se: 2 * se }));
        expect(width(estimateCondition({ readings: blurred, optics: 1 }, at(100, 0.02)))).toBeGreaterThan(0.95 * width(c));
      }),
      { numRuns: 12 },
    );
  });
});

describe("bounds", () => {
  const bound = (side: WearBound["side"], ratio: number, day = 90): WearBound => ({
    side,
    lnRatio: Math.log(ratio),
    sd: 0.05,
    at: at(day, 0.02),
    sheet: "1",
  });

  it("leave what sampling from the prior and weighing by every bound leaves", () => {
    const bounds = ([1, -1, -1] as const).map((side, i) => ({
      row: { at: [0, 1], value: [1, 0.5] },
      side,
      threshold: [-0.3, -0.1, -0.15][i] as number,
      variance: 0.003,
      wrong: 0.02,
    }));
    const field = new Field(2, Field.readingsOf(2));
    field.expect(0, 0, 0.12);
    field.expect(1, -0.1, 0.2);
    const told = field.withBounds(bounds);
    const random = seededRandom(5);
    let [weights, first, second] = [0, 0, 0];
    for (let i = 0; i < 300_000; i++) {
      const [a, b] = [0.12 * random.normal(), -0.1 + 0.2 * random.normal()];
      const sum = a + 0.5 * b;
      const weight = bounds.reduce((w, k) => w * (0.02 + 0.96 * normalCdf((k.side * (sum - k.threshold)) / Math.sqrt(0.003))), 1);
      weights += weight;
      first += weight * sum;
      second += weight * sum * sum;
    }
    const mean = first / weights;
    const variance = told.covariance[0]! + told.covariance[1]! + 0.25 * told.covariance[3]!;
    expect(told.mean[0]! + 0.5 * told.mean[1]!).toBeCloseTo(mean, 2);
    expect(Math.sqrt(variance)).toBeCloseTo(Math.sqrt(second / weights - mean * mean), 2);
  });

  it("weigh readings as their likelihood does", () => {
    const likely = (sd: number) => {
      const readings = Field.readingsOf(1);
      for (const x of [0.5, -0.6, 0.55]) observe(readings, 1, { at: [0], value: [1] }, x, 0.01);
      const f = new Field(1, readings);
      f.expect(0, 0, sd);
      return f.logEvidence();
    };
    // Scattered readings of one figure: a prior of their size is likelier than one that is far too narrow.
    expect(likely(0.3)).toBeGreaterThan(likely(0.01));
  });

  it("never raise the estimate where a cut failed, nor lower it where one dropped", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 120 }), fc.double({ min: 0.5, max: 1.1, noNaN: true }), (day, ratio) => {
        const evidence = { readings: steady(8), optics: 1 };
        const now = at(120, 0.02);
        const without = estimateCondition(evidence, now).ratio;
        expect(estimateCondition({ ...evidence, bounds: [bound("below", ratio, day)] }, now).ratio).toBeLessThan(without + 0.012);
        expect(estimateCondition({ ...evidence, bounds: [bound("above", ratio, day)] }, now).ratio).toBeGreaterThan(without - 0.012);
      }),
      { numRuns: 16 },
    );
  });

  it("of many cuts that dropped lately hold what is read of the usual cut up, and of many that failed hold it down", () => {
    const now = at(120, 0.02);
    const told = { sheet: "1" };
    const of = (bounds: WearBound[]) => readingNow(estimateCondition({ readings: steady(4), bounds, optics: 1 }, now).fit, now, told).mean;
    const plain = of([]);
    const days = [112, 114, 116, 118, 119];
    expect(of(days.map((d) => bound("above", 0.98, d)))).toBeGreaterThan(plain + 0.02);
    expect(of(days.map((d) => bound("below", 0.85, d)))).toBeLessThan(plain - 0.05);
  });
});

describe("words of a share of best", () => {
  it("follow the range and not its middle", () => {
    const said = (ratio: number, half: number) => wordsOf({ ratio, low: ratio - half, high: ratio + half });
    expect(said(0.97, 0.03)).toEqual(["strong"]);
    expect(said(0.91, 0.06)).toEqual(["strong", "weaker"]);
    expect(said(0.85, 0.03)).toEqual(["weaker"]);
    expect(said(0.79, 0.08)).toEqual(["weaker", "weak"]);
    expect(said(0.6, 0.1)).toEqual(["weak"]);
  });
});

describe("what is shown", () => {
  it("adds up: the parts are the whole, in whole points", () => {
    const part = fc.double({ min: 0, max: 0.6, noNaN: true });
    fc.assert(
      fc.property(part, part, part, (dirt, tube, other) => {
        const c = { ratio: Math.exp(-(dirt + tube + other)), dirt, tube, other };
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
