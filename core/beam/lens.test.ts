import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { curvatureMm, flipShiftMm, focusOf, sagMm, spotOnSheet, traceRay } from "#core/beam";

const lens = (beamDiameterMm: number, flipped = false) => ({ focalMm: 50.8, thicknessMm: 3, beamDiameterMm, flipped });

describe("a plano-convex lens of 2 inch", () => {
  it("focuses to the published figures", () => {
    const f = focusOf(lens(8));
    expect(1000 * f.d0Mm).toBeCloseTo(103, 0);
    expect(f.rayleighMm).toBeCloseTo(0.65, 2);
    expect(focusOf(lens(12)).paraxialFocusMm).toBeCloseTo(49.55, 2);
    expect(focusOf(lens(12, true)).paraxialFocusMm).toBeCloseTo(50.8, 2);
  });

  it("blurs 3.3 times as much upside down", () => {
    const right = focusOf(lens(12));
    const flipped = focusOf(lens(12, true));
    expect(1000 * right.blurMm).toBeCloseTo(27.8, 0);
    expect(1000 * flipped.blurMm).toBeCloseTo(92.1, 0);
    expect(flipped.blurMm / right.blurMm).toBeCloseTo(3.3, 1);
    expect(1000 * right.spotMm).toBeCloseTo(79, 0);
    expect(1000 * flipped.spotMm).toBeCloseTo(147, 0);
  });

  it("moves its focus down when it lies on its rim upside down", () => {
    expect(sagMm(curvatureMm(50.8), 9)).toBeCloseTo(0.57, 2);
    const { flipped: _, ...setup } = lens(8);
    expect(flipShiftMm(setup, 9)).toBeCloseTo(1.53, 2);
    expect(flipShiftMm({ ...setup, beamDiameterMm: 12 }, 9)).toBeCloseTo(1.17, 2);
  });

  it("bends every ray towards the axis, the outer ones to a nearer focus", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 8, noNaN: true }), fc.boolean(), (h, flipped) => {
        const crossing = (height: number) => {
          const ray = traceRay(lens(8, flipped), height);
          if (!ray) throw new Error("no ray");
          expect(ray.slope * height).toBeLessThan(0);
          return ray.zMm - ray.heightMm / ray.slope;
        };
        expect(crossing(h)).toBeLessThanOrEqual(focusOf(lens(8, flipped)).paraxialFocusMm + 1e-9);
        expect(crossing(h + 0.5)).toBeLessThan(crossing(h));
        expect(crossing(-h)).toBeCloseTo(crossing(h), 9);
      }),
    );
  });

  it("has no sharper spot than at its best focus, and its rays never cross in one point nearer than that blur says", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 4, max: 14, noNaN: true }),
        fc.boolean(),
        (off, d, flipped) => {
          const here = spotOnSheet(lens(d, flipped), off, 9);
          expect(here.spotMm).toBeGreaterThanOrEqual(focusOf(lens(d, flipped)).spotMm - 1e-9);
          expect(here.densityShare).toBeGreaterThan(0);
          expect(here.densityShare).toBeLessThanOrEqual(1);
        },
      ),
    );
    expect(spotOnSheet(lens(8), 0, 9).densityShare).toBe(1);
    // Far from focus the spot is the beam's cone: D · off / f.
    expect(spotOnSheet(lens(8), 5, 9).spotMm / ((8 * 5) / 50.8)).toBeCloseTo(1, 1);
  });

  it("refuses what is no lens", () => {
    expect(() => focusOf({ ...lens(8), focalMm: 0 })).toThrow(RangeError);
    expect(() => sagMm(10, 11)).toThrow(RangeError);
    expect(traceRay(lens(8), 80)).toBeUndefined();
  });
});
