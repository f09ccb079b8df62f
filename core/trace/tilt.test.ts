import { describe, expect, it } from "vitest";
import { layouts, threeMirror } from "#catalog/layouts";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { clipLogLoss } from "#core/beam";
import { traceSpec } from "#core/machine";
import { offsetAt, soundBody } from "../practice/trouble/body";
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

  it("that is heavy takes more than half of the far corner's light at the tightest place, never more than was said", () => {
    const [, heavy] = tilt("mirror-2").markMm("mirror-3");
    const far = (heavy * 1000) / 550;
    expect(clipLogLoss(10 * 0.84, 3.5, far)).toBeGreaterThan(0.25);
    expect(clipLogLoss(10 * 0.84, 3.5, far)).toBeLessThanOrEqual(0.5 + 1e-6);
  });

  it("is told by outcomes that sum to one and grow worse with its way", () => {
    const rows = [
      { mm: 1, outcomes: [0.9, 0.1] },
      { mm: 4, outcomes: [0.1, 0.9] },
    ];
    const far: number[] = [];
    for (const id of ["mirror-2", "mirror-3"]) {
      const [shown] = markShown({ kind: "mark", of: "mark", rows }, tilt("mirror-1"), id);
      if (shown?.kind !== "outcomes") throw new Error("a mark has outcomes");
      for (const p of [shown.light, shown.heavy]) expect(p.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
      far.push(shown.light[1] as number, shown.heavy[1] as number);
    }
    expect(far).toEqual([...far].sort((a, b) => a - b));
  });
});
