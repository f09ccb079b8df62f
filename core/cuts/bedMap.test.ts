import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { seededRandom } from "#core/random";
import { type BedPattern, readBedMap } from ".";

const PLACES = [
  [0, 0],
  [1, 0],
  [0.5, 0.5],
  [0, 1],
  [1, 1],
] as const;
const SPEEDS = [8, 9, 10, 11, 12, 13, 14, 15];

/** A map whose ln v50 lie at 12 mm/s times what each place has left, cut with the noise of real squares. */
function cut(left: (across: number, down: number) => number, seed: number) {
  const random = seededRandom(seed);
  return PLACES.map(([across, down]) => ({
    across,
    down,
    rungs: SPEEDS.map((speedMmPerS) => ({
      speedMmPerS,
      end: Math.log(13 * left(across, down)) + 0.05 * random.normal() > Math.log(speedMmPerS) ? ("dropped" as const) : ("stays" as const),
    })),
  }));
}

/** How often each pattern leads over many maps of one truth. */
function leads(left: (across: number, down: number) => number): Partial<Record<BedPattern, number>> {
  const counts: Partial<Record<BedPattern, number>> = {};
  for (let seed = 1; seed <= 50; seed++) {
    const read = readBedMap(cut(left, seed));
    if (read.kind === "map") counts[read.leading] = (counts[read.leading] ?? 0) + 1 / 50;
  }
  return counts;
}

describe("a bed map", () => {
  it("tells an even bed from one that falls away, leans to a side, loses a corner or is patchy", () => {
    expect(leads(() => 0.95).even).toBeGreaterThan(0.85);
    expect(leads((x, y) => 1 - 0.17 * (x + y))["falls-with-distance"]).toBeGreaterThan(0.85);
    expect(leads((x) => 1 - 0.35 * x)["one-side"]).toBeGreaterThan(0.85);
    expect(leads((x, y) => (x === 1 && y === 0 ? 0.68 : 1))["one-corner"]).toBeGreaterThan(0.85);
    const holes = new Map([
      ["0,0", 0.7],
      ["1,0", 1],
      ["0.5,0.5", 0.72],
      ["0,1", 1.05],
      ["1,1", 0.95],
    ]);
    expect(leads((x, y) => holes.get(`${x},${y}`) ?? 1).patchy).toBeGreaterThan(0.6);
  });

  it("measures the way from the corner the beam comes in at", () => {
    const map = cut((x, y) => 1 - 0.17 * (1 - x + (1 - y)), 3);
    const from = (corner: "back-left" | "front-right") => {
      const read = readBedMap(map, corner);
      return read.kind === "map" ? read.weights["falls-with-distance"] : Number.NaN;
    };
    expect(from("front-right")).toBeGreaterThan(10 * from("back-left"));
  });

  it("has weights that sum to one, whatever fell, and asks for another cut where it shows nothing", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 8 }), { minLength: 5, maxLength: 5 }), (dropped) => {
        const ladders = PLACES.map(([across, down], i) => ({
          across,
          down,
          rungs: SPEEDS.map((speedMmPerS, k) => ({
            speedMmPerS,
            end: k < (dropped[i] as number) ? ("dropped" as const) : ("stays" as const),
          })),
        }));
        const read = readBedMap(ladders);
        if (dropped.every((d) => d === 0 || d === 8))
          expect(read).toMatchObject({ kind: "none", reason: expect.stringContaining("once more") });
        else if (read.kind === "map") {
          expect(Object.values(read.weights).reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
          expect(read.weakest).toBeGreaterThan(0);
          expect(read.weakest).toBeLessThanOrEqual(1);
        } else throw new Error(read.reason);
      }),
    );
    expect(readBedMap([])).toMatchObject({ kind: "none" });
  });
});
