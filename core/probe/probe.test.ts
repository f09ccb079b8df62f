import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { seededRandom } from "#core/random";
import { fitProbe, type ProbeRun, slugTemperature } from ".";

const slug = { heatS: 30, ambientC: 22, massG: 100 } as const;

/** A run as a thermometer with a jitter would give it, by stepping the heat balance itself, not by the fit's own curve. */
function measured(powerW: number, tau: number, seed: number, { heatS = 30, endS = 90, noise = 0.05, startC = 22 } = {}): ProbeRun {
  const random = seededRandom(seed);
  const capacity = 0.1 * 897;
  let c = startC;
  const samples: { s: number; c: number }[] = [];
  const dt = 0.01;
  for (let step = 0; step <= endS / dt; step++) {
    if (step % 100 === 0) samples.push({ s: step * dt, c: c + noise * random.normal() });
    const source = step * dt < heatS ? 0.95 * powerW : 0;
    c += (dt * (source - (capacity / tau) * (c - 22))) / capacity;
  }
  return { ...slug, heatS, samples };
}

describe("the probe", () => {
  it("gives the reference values: 40.518 °C after 30 s of 62 W, and the naive sum falls short", () => {
    expect(slugTemperature(slug, 62, 240, 30)).toBeCloseTo(40.518, 3);
    const read = fitProbe(measured(62, 240, 1, { noise: 0 }));
    if (read.kind !== "power") throw new Error(read.reason);
    expect(read.powerW).toBeCloseTo(62, 0);
    expect(read.naiveW).toBeCloseTo(58.28, 1);
    expect(read.timeConstantS).toBeCloseTo(240, -1);
  });

  it("covers the truth with its error, noise and an unknown time constant in it, a warm slug too", () => {
    let inside = 0;
    for (let seed = 1; seed <= 60; seed++) {
      const random = seededRandom(1000 + seed);
      const [power, tau] = [20 + 60 * random.uniform(), 150 + 200 * random.uniform()];
      const read = fitProbe(measured(power, tau, seed, { noise: 0.1, startC: 22 + 6 * random.uniform() }));
      if (read.kind !== "power") throw new Error(read.reason);
      // Its absorptivity is exact here, so its error must hold with room.
      if (Math.abs(read.powerW - power) < 1.645 * read.seW) inside++;
      expect(read.seW / read.powerW).toBeLessThan(0.08);
    }
    expect(inside).toBeGreaterThanOrEqual(54);
  });

  it("is the same whatever order the samples come in, and grows with the power", () => {
    fc.assert(
      fc.property(fc.integer({ min: 15, max: 90 }), fc.integer({ min: 1, max: 50 }), (power, seed) => {
        const run = measured(power, 240, seed);
        const [plain, turned, more] = [
          fitProbe(run),
          fitProbe({ ...run, samples: [...run.samples].reverse() }),
          fitProbe(measured(power + 10, 240, seed)),
        ];
        if (plain.kind !== "power" || turned.kind !== "power" || more.kind !== "power") throw new Error("no power");
        expect(turned.powerW).toBeCloseTo(plain.powerW, 9);
        expect(more.powerW).toBeGreaterThan(plain.powerW);
      }),
      { numRuns: 15 },
    );
  });

  it("rejects what cannot be read, and says why", () => {
    const run = measured(60, 240, 3);
    expect(fitProbe({ ...run, samples: run.samples.slice(0, 4) })).toMatchObject({
      kind: "none",
      reason: expect.stringContaining("too short"),
    });
    expect(fitProbe({ ...run, saturatesC: 38 })).toMatchObject({ reason: expect.stringContaining("saturated") });
    expect(fitProbe({ ...run, samples: run.samples.map((x) => (x.s === 15 ? { ...x, c: 24 } : x)) })).toMatchObject({
      reason: expect.stringContaining("not rising"),
    });
    expect(fitProbe(measured(0.5, 240, 3))).toMatchObject({ reason: expect.stringContaining("hardly warmed") });
    const heatOnly = { ...run, samples: run.samples.filter((x) => x.s <= 30) };
    expect(fitProbe(heatOnly)).toMatchObject({ reason: expect.stringContaining("time constant") });
    const given = fitProbe({ ...heatOnly, timeConstantS: 240 });
    expect(given.kind === "power" && given.powerW).toBeCloseTo(60, -0.5);
  });

  it("reads a thermometer of one degree, each second, with some jitter: hardly any run is refused, and the power is in its range", () => {
    let [refused, inside] = [0, 0];
    const runs = 400;
    for (let seed = 1; seed <= runs; seed++) {
      const random = seededRandom(seed);
      const powerW = 30 + 50 * random.uniform();
      const slug = { heatS: 30, ambientC: 18 + 8 * random.uniform(), massG: 100 };
      const samples = Array.from({ length: 91 }, (_, s) => ({
        s,
        c: Math.round(slugTemperature(slug, powerW, 240, s) + 0.4 * random.normal()),
      }));
      const said = fitProbe({ ...slug, samples });
      if (said.kind === "none") refused += 1;
      else if (Math.abs(said.powerW - powerW) < 1.645 * said.seW) inside += 1;
    }
    expect(refused / runs).toBeLessThan(0.02);
    expect(inside / (runs - refused)).toBeGreaterThan(0.85);
  });

  it("refuses a run whose beam went off for a while, whatever its thermometer", () => {
    const cooled = (c: (s: number) => number) =>
      fitProbe({ heatS: 30, ambientC: 20, massG: 100, samples: Array.from({ length: 61 }, (_, s) => ({ s, c: Math.round(c(s)) })) });
    expect(cooled((s) => 20 + (s < 15 ? s : Math.max(0, 30 - s)))).toMatchObject({ reason: expect.stringContaining("not rising") });
  });
});
