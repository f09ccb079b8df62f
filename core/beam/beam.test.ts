import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  beamRadiusMm,
  centredShare,
  clipLogLoss,
  GRADE_LOSS,
  gradeLogLoss,
  lossFromGrades,
  mirrorShare,
  nominalLogTransmission,
  offsetForLogLoss,
  offsetShare,
  powerAlong,
  type Station,
} from "#core/beam";

const path: Station[] = [
  { id: "tube", role: "tube", apertureMm: 20, distanceMm: 0, travelMm: 0 },
  { id: "window", role: "window", apertureMm: 20, distanceMm: 150, travelMm: 0 },
  { id: "mirror-1", role: "mirror", apertureMm: 20, distanceMm: 150, travelMm: 600 },
  { id: "lens", role: "lens", apertureMm: 18, distanceMm: 50, travelMm: 0 },
];

describe("clipping", () => {
  it("matches the reference shares of an off-centre beam", () => {
    expect(offsetShare(9, 3.5, 4)).toBeCloseTo(0.9967, 4);
    expect(offsetShare(9, 3.5, 7)).toBeCloseTo(0.849, 4);
    expect(offsetShare(1.25, 0.9, 0.5)).toBeCloseTo(0.9155, 4);
    expect(offsetShare(1.25, 0.9, 1)).toBeCloseTo(0.6364, 4);
  });

  it("sees a mirror at 45° as an ellipse, narrow in its plane of incidence", () => {
    expect(mirrorShare(10, 3.5, 4, 0)).toBeCloseTo(0.954, 3);
    expect(mirrorShare(10, 3.5, 0, 4)).toBeGreaterThan(mirrorShare(10, 3.5, 4, 0));
  });

  it("agrees with the closed form on the axis", () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 15, noNaN: true }), fc.double({ min: 0.5, max: 6, noNaN: true }), (a, w) => {
        expect(offsetShare(a, w, 0)).toBeCloseTo(centredShare(a, w), 5);
      }),
    );
  });

  it("never passes more light further off the axis", () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 10, noNaN: true }), fc.double({ min: 0, max: 3, noNaN: true }), (offset, more) => {
        expect(offsetShare(9, 3.5, offset + more)).toBeLessThanOrEqual(offsetShare(9, 3.5, offset) + 1e-9);
      }),
    );
  });

  it("finds the offset that loses a given share", () => {
    expect(clipLogLoss(10, 3.5, offsetForLogLoss(10, 3.5, 0.22))).toBeCloseTo(0.22, 6);
  });

  it("spreads a beam by its own diffraction", () => {
    expect(beamRadiusMm(3.5, 0)).toBe(3.5);
    expect(beamRadiusMm(2.5, 2000)).toBeGreaterThan(beamRadiusMm(3.5, 2000) - 1);
    expect(beamRadiusMm(3.5, 2000)).toBeCloseTo(3.5 * Math.hypot(1, (2000 * 1.2 * 10.6e-3) / (Math.PI * 3.5 ** 2)), 9);
  });
});

describe("power budget", () => {
  it("gives tube and window one number on a clean machine, and less after every mirror and lens", () => {
    const watts = powerAlong(path, 80).map((p) => p.powerW);
    expect(watts[0]).toBeCloseTo(80, 9);
    expect(watts[1]).toBeCloseTo(80, 9);
    expect(watts[2]).toBeCloseTo(80 * 0.985, 9);
    expect(watts[3]).toBeCloseTo(80 * 0.985 * 0.975, 9);
  });

  it("counts the fouling of the window, though not its nominal loss", () => {
    const [tube, window] = powerAlong(path, 80, lossFromGrades(new Map([["window", 2]])));
    expect(tube?.powerW).toBeCloseTo(80, 9);
    expect(window?.powerW).toBeCloseTo(80 * (1 - GRADE_LOSS.film), 9);
  });

  it("turns a worse grade into a larger loss, its spread about a third of it", () => {
    const losses = (["clear", "haze", "film", "spots", "damaged"] as const).map((g) => gradeLogLoss(g));
    for (let i = 1; i < losses.length; i++) {
      expect(losses[i]?.mean).toBeGreaterThan(losses[i - 1]?.mean as number);
      expect(losses[i]?.sd).toBeLessThanOrEqual((losses[i]?.mean as number) / 2 + 0.005);
    }
  });

  it("adds nominal losses along the way and refuses a station that is not there", () => {
    expect(nominalLogTransmission(path, "tube", "lens")).toBeCloseTo(Math.log(0.985 * 0.975), 9);
    expect(() => nominalLogTransmission(path, "tube", "mirror-9")).toThrow(/mirror-9/);
  });
});
