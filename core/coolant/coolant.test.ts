/** Coolant against the reference values of M8, and what no mixing may do. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  afterTopUp,
  coolantState,
  dewPoint,
  expectedRise,
  fill,
  flowByBucket,
  flowFromRise,
  freezingPoint,
  heatCarried,
  partDrain,
  shareForNight,
  shareFreezingAt,
  tubeHeat,
  warmLoss,
} from ".";

const share = fc.double({ min: 0, max: 0.5, noNaN: true });
const litres = fc.double({ min: 1, max: 60, noNaN: true });

describe("glycol and water", () => {
  it("meets the coldest night with five degrees to spare, or says water or drain", () => {
    expect(shareForNight(-9)).toMatchObject({ share: expect.closeTo(0.3, 9) });
    expect(shareForNight(-20)).toMatchObject({ share: expect.closeTo(0.425, 3) });
    expect(shareForNight(-29)).toMatchObject({ share: expect.closeTo(0.5, 9) });
    expect(shareForNight(-30)).toEqual({ kind: "drain" });
    expect(shareForNight(4)).toEqual({ kind: "water" });
    // Never less than what protects against corrosion.
    expect(shareForNight(-1)).toMatchObject({ share: 0.2 });
  });

  it("tells the share from a tester's freezing point and back", () => {
    fc.assert(
      fc.property(share, (s) => {
        expect(shareFreezingAt(freezingPoint(s))).toBeCloseTo(s, 9);
      }),
    );
    expect(freezingPoint(0.25)).toBeCloseTo(-11, 9);
    expect(() => freezingPoint(0.6)).toThrow(/50 %/);
    expect(() => shareFreezingAt(-40)).toThrow(/drain/);
  });

  it("part drain brings a loop to its share, and what was lost decides what water makes of it", () => {
    expect(partDrain(20, 0.1, 0.3, 1)).toBeCloseTo(4.44, 2);
    expect(afterTopUp(10, 0.3, { litres: 0.5, lost: "evaporated" })).toBeCloseTo(0.3, 9);
    expect(afterTopUp(10, 0.3, { litres: 0.5, lost: "leaked" })).toBeCloseTo(0.285, 9);
    const ten = Array.from({ length: 10 }).reduce<number>((s) => afterTopUp(10, s, { litres: 0.5, lost: "leaked" }), 0.3);
    expect(ten).toBeCloseTo(0.18, 3);
    expect(() => partDrain(10, 0.3, 0.1, 0.5)).toThrow(/no weaker/);
  });

  it("weakened and strengthened again comes back, and parts of a fill are the whole", () => {
    fc.assert(
      fc.property(litres, share, share, (loop, from, to) => {
        fc.pre(to > from + 0.01);
        const drained = partDrain(loop, from, to, 1);
        const there = (loop - drained) * from + drained;
        expect(there / loop).toBeCloseTo(to, 9);
        const back = partDrain(loop, to, from, 0);
        expect(((loop - back) * to) / loop).toBeCloseTo(from, 9);
        const { glycolL, waterL } = fill(loop, to);
        expect(glycolL + waterL).toBeCloseTo(loop, 9);
        expect(afterTopUp(loop, to, { litres: 0.1 * loop, lost: "leaked" })).toBeLessThan(to);
        expect(afterTopUp(loop, to, { litres: 0.1 * loop, lost: "evaporated" })).toBeCloseTo(to, 9);
      }),
    );
  });
});

describe("heat and flow", () => {
  it("carries what the handbook says", () => {
    expect(heatCarried(2, 3, 0)).toBeCloseTo(417, 6);
    expect(heatCarried(2, 3, 0.3)).toBeCloseTo(391, 6);
    expect(tubeHeat(80)).toBeCloseTo(364.4, 1);
    expect(expectedRise(tubeHeat(80), 2, 0.3)).toBeCloseTo(2.8, 2);
    expect(flowByBucket(1, 30)).toBeCloseTo(2, 9);
    expect(warmLoss(25)).toBeCloseTo(0.035, 9);
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 8, noNaN: true }), share, (flow, s) => {
        expect(flowFromRise(300, expectedRise(300, flow, s), s)).toBeCloseTo(flow, 6);
      }),
    );
  });

  it("sweats at the dew point, which lies below the room", () => {
    expect(dewPoint(25, 0.6)).toBeCloseTo(16.7, 1);
    expect(dewPoint(28, 0.75)).toBeCloseTo(23.2, 1);
    fc.assert(
      fc.property(fc.double({ min: 0, max: 40, noNaN: true }), fc.double({ min: 0.05, max: 0.99, noNaN: true }), (room, humidity) => {
        expect(dewPoint(room, humidity)).toBeLessThan(room);
      }),
    );
    expect([16, 8, 20, 26, 31].map((t) => coolantState(t, 16.7))).toEqual(["sweats", "sweats", "good", "warm", "stop"]);
    expect(coolantState(8, undefined)).toBe("cold");
  });
});
