import { describe, expect, it } from "vitest";
import { layouts, threeMirror } from "#catalog/layouts";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { clipLogLoss } from "#core/beam";
import { traceSpec } from "#core/machine";
import { offsetAt, soundBody } from "../../../judge/machines/body";
import { markShown, tiltsOn } from "./tilt";

const three = traceSpec(threeMirror, INTERVAL_PLY_HOURS).stations;
const tilt = (from: string) => {
  const found = tiltsOn(three, 3.5)(from);
  if (!found) throw new Error(`nothing behind ${from}`);
  return found;
};

describe("a tilt", () => {
  it("leaves marks in step with the way behind it: of M1 450 mm to M2 and 1,000 mm to M3 in the middle of the bed", () => {
    const of = tilt("mirror-1");
    const [, atM2] = of.markMm("mirror-2");
    const [, atM3] = of.markMm("mirror-3");
    expect(atM3 / atM2).toBeCloseTo(1000 / 450, 6);
    // Near and far lie apart by tilt times travel: 600 mm of the gantry, then 900 of the head as well.
    expect(of.apartMm("mirror-2")[1] / atM2).toBeCloseTo(600 / 450, 6);
    expect(of.apartMm("mirror-3")[1] / atM2).toBeCloseTo(1500 / 450, 6);
  });

  it("leaves them where the practice machine, which bends its own beam, finds them", () => {
    for (const layout of Object.values(layouts)) {
      const spec = traceSpec(layout, INTERVAL_PLY_HOURS);
      const mirrors = spec.stations.filter((s) => s.role === "mirror").map((s) => s.id);
      for (const [k, from] of ["tube", ...mirrors.slice(0, -1)].entries()) {
        const body = soundBody(spec);
        body.tilt[from] = [6, 0];
        const of = tiltsOn(spec.stations, spec.beamRadiusMm)(from);
        const found = mirrors.slice(k).map(
          (id) =>
            offsetAt(
              spec,
              body,
              spec.stations.findIndex((s) => s.id === id),
            )[0],
        );
        const said = mirrors.slice(k).map((id) => of?.markMm(id)[1] ?? 0);
        const scale = (found[0] as number) / (said[0] as number);
        found.forEach((mm, i) => {
          expect((said[i] as number) * scale).toBeCloseTo(mm, 6);
        });
      }
    }
  });

  it("is missed by watts in the middle of the bed where the legs behind it grow, and not behind the head's own mirror", () => {
    expect(tilt("mirror-1").cutGain).toBeGreaterThan(1.5);
    expect(tilt("mirror-3").cutGain).toBeCloseTo(1, 6);
    expect(tiltsOn(three, 3.5)("nozzle")).toBeUndefined();
  });

  it("that is heavy takes most of the far corner's light at the tightest place, the nozzle, never more than was said", () => {
    // Off at the lens and at an angle: the lens leaves a quarter of the one, the way to the tip adds to the other.
    const [, heavy] = tilt("mirror-2").markMm("lens");
    const [, tip] = tilt("mirror-2").tipMm;
    const rad = heavy / (550 + 60);
    const left = 0.9 / 3.5;
    expect(tip).toBeCloseTo(left * heavy + (1 - left) * 50.8 * rad, 6);
    const farTip = left * rad * (1000 + 60) + (1 - left) * 50.8 * rad;
    expect(clipLogLoss(1.25, 0.9, farTip)).toBeGreaterThan(0.8);
    expect(clipLogLoss(1.25, 0.9, farTip)).toBeLessThanOrEqual(1 + 1e-6);
  });

  it("is told by outcomes that sum to one and grow worse with its way", () => {
    const rows = [
      { mm: 1, outcomes: [0.9, 0.1] },
      { mm: 4, outcomes: [0.1, 0.9] },
    ];
    const far: { light: number; heavy: number }[] = [];
    for (const id of ["mirror-2", "mirror-3"]) {
      const [shown] = markShown({ kind: "mark", of: "mark", rows }, tilt("mirror-1"), id);
      if (shown?.kind !== "outcomes") throw new Error("a mark has outcomes");
      for (const p of [shown.light, shown.heavy]) expect(p.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
      far.push({ light: shown.light[1] as number, heavy: shown.heavy[1] as number });
      expect(shown.heavy[1]).toBeGreaterThan(shown.light[1] as number);
    }
    expect(far[1]?.light).toBeGreaterThanOrEqual(far[0]?.light as number);
    expect(far[1]?.heavy).toBeGreaterThan(far[0]?.heavy as number);
  });
});
