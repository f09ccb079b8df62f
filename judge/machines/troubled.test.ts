import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Layout, layouts } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { traceSpec } from "#core/machine";
import { seededRandom } from "#core/random";
import { expandModel } from "#core/trace";
import { BED, effectiveLn, MIDDLE, offsetAt, soundBody } from "./body";
import { oddsOf } from "./faults";
import { answerFrom, reportOf } from "./reports";
import { drawTroubled, mainFaults, mended, soundStrength, strength } from "./troubled";

const specOf = (id: string) => traceSpec(layouts[id] as Layout, INTERVAL_PLY_HOURS);
const three = specOf("three-mirror");
const seeds = fc.integer({ min: 1, max: 1e6 });
const presets = fc.constantFrom(...Object.keys(layouts));

describe("a practice machine in trouble", () => {
  it("is the same for the same seed, fails its usual cut, and has a fault that takes most", () => {
    fc.assert(
      fc.property(seeds, presets, (seed, preset) => {
        const m = drawTroubled(specOf(preset), seededRandom(seed));
        expect(drawTroubled(specOf(preset), seededRandom(seed)).faults.map((f) => f.id)).toEqual(m.faults.map((f) => f.id));
        expect(strength(m)).toBeLessThan(m.needLn);
        expect(mainFaults(m).length).toBeGreaterThan(0);
        expect(m.faults.length).toBeLessThanOrEqual(3);
      }),
      { numRuns: 40 },
    );
  });

  it("passes its usual cut nineteen times in twenty when nothing is wrong, on every layout, and still at the end of its intervals", () => {
    for (const preset of Object.keys(layouts)) {
      const random = seededRandom(17);
      const passes = Array.from({ length: 60 }, () => {
        const m = drawTroubled(specOf(preset), random);
        const film = Object.fromEntries(Object.keys(m.film).map((station) => [station, 0.018]));
        const through = (film: typeof m.film) => reportOf({ ...m, film, faults: [] }, "known-cut", {})?.outcomes?.through ?? 0;
        expect(through(film)).toBeGreaterThan(0.85);
        return through(m.film);
      });
      expect(passes.reduce((a, b) => a + b, 0) / passes.length).toBeGreaterThan(0.95);
    }
  });

  it("is as good as sound once every fault is mended, and never better for a fault", () => {
    fc.assert(
      fc.property(seeds, presets, (seed, preset) => {
        const m = drawTroubled(specOf(preset), seededRandom(seed));
        expect(soundStrength(m)).toBeGreaterThan(strength(m));
        let left = m;
        for (let n = 0; n < 20 && left.faults.length > 0; n++)
          left = mended(left, new Set(left.faults.map((f) => f.id)), [], seededRandom(seed + n));
        expect(strength(left)).toBeCloseTo(soundStrength(m), 9);
      }),
      { numRuns: 40 },
    );
  });

  it("has the faults, and answers to the checks, that its layout has in the catalog", () => {
    for (const preset of Object.keys(layouts)) {
      const spec = specOf(preset);
      const model = expandModel(spec, faultTemplates, checkTemplates, repairTemplates);
      const m = drawTroubled(spec, seededRandom(3));
      const known = new Set(model.faults.map((f) => f.id));
      for (const { id } of oddsOf(spec, m.usage)) expect(known).toContain(id);
      const watts = Object.fromEntries(spec.stations.map((s) => [s.id, 60]));
      for (const check of model.checks) {
        const report = reportOf(m, check.id, watts);
        if (!report?.outcomes) continue;
        expect(Object.keys(report.outcomes).sort()).toEqual([...check.outcomes].sort());
        expect(Object.values(report.outcomes).reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
      }
    }
  });

  it("answers as often as its report says", () => {
    const m = drawTroubled(three, seededRandom(11));
    const report = reportOf(m, "lens-look", {});
    const random = seededRandom(5);
    const counts = new Map<string, number>();
    for (let i = 0; i < 4000; i++) {
      const { outcome = "" } = answerFrom(report ?? {}, false, random);
      counts.set(outcome, (counts.get(outcome) ?? 0) + 1);
    }
    for (const [outcome, p] of Object.entries(report?.outcomes ?? {})) expect((counts.get(outcome) ?? 0) / 4000).toBeCloseTo(p, 1);
  });
});

describe("its physics", () => {
  it("carries a tilt of 5 mrad at M1 by its way: 0.75 mm at M2 near, 3.75 mm far, more at M3", () => {
    const body = soundBody(three);
    body.tilt["mirror-1"] = [5, 0];
    const at = (id: string) => three.stations.findIndex((s) => s.id === id);
    expect(offsetAt(three, body, at("mirror-2"), BED.near.travel)[0]).toBeCloseTo(0.75, 6);
    expect(offsetAt(three, body, at("mirror-2"), BED.far.travel)[0]).toBeCloseTo(3.75, 6);
    expect(offsetAt(three, body, at("mirror-3"), BED.far.travel)[0]).toBeCloseTo(3.75 + 5, 6);
  });

  it("maps a tilt of M1 as falling with the way, one of M2 as one side, a level and even bed as even", () => {
    const map = (act: (body: ReturnType<typeof soundBody>) => void) => {
      const m = drawTroubled(three, seededRandom(3));
      const outcomes = reportOf(
        { ...m, faults: [{ id: "", act, story: { sudden: 0, newMaterial: 0, cleaned: 0, opened: 0 } }] },
        "bed-map",
        {},
      )?.outcomes;
      return Object.entries(outcomes ?? {}).sort((a, b) => b[1] - a[1])[0]?.[0];
    };
    const tilted = (mirror: string, mrad: number) => (body: ReturnType<typeof soundBody>) => {
      body.tilt[mirror] = [mrad, 0];
    };
    expect(map(tilted("mirror-1", 2))).toBe("falls-with-distance");
    expect(map(tilted("mirror-2", 4))).toBe("one-side");
    expect(map(() => undefined)).toBe("even");
  });

  it("weakens the far corner by a tilt and every place alike by dirt", () => {
    const tilted = soundBody(three);
    tilted.tilt["mirror-1"] = [6, 0];
    expect(effectiveLn(three, tilted, BED.far)).toBeLessThan(effectiveLn(three, tilted, BED.near) - 0.1);
    const dirty = soundBody(three);
    dirty.dirt.lens = 0.2;
    expect(effectiveLn(three, dirty, BED.far)).toBeCloseTo(effectiveLn(three, dirty, BED.near), 9);
    expect(effectiveLn(three, dirty, MIDDLE)).toBeLessThan(-0.19);
  });

  it("loses to a lens turned over what focus and blur make of it, and nothing of its watts", () => {
    const body = soundBody(three);
    body.lensFlipped = true;
    body.lensShiftMm = 1.4;
    const cut = effectiveLn(three, body, MIDDLE) - effectiveLn(three, soundBody(three), MIDDLE);
    expect(cut).toBeLessThan(-0.25);
    expect(cut).toBeGreaterThan(-0.6);
  });
});
