import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { threeMirror } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { clipLogLoss, offsetForLogLoss } from "#core/beam";
import { traceSpec } from "#core/machine";
import { expandModel } from "#core/trace";
import { enumerateSets } from "../belief/sets";
import { predictiveMoments } from "./cutReading";
import { lossModel } from "./losses";
import { type LossReading, logAgainstBaseline } from "./readings";

const model = expandModel(traceSpec(threeMirror, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates);
const stateOf = (fault: string, heavy: boolean) => 2 * model.faults.findIndex((f) => f.id === fault) + (heavy ? 1 : 0);
const power = (at: number, y: number): LossReading => ({ check: `power@${at}`, kind: "power", at, y, sd: 0.03, floating: false, time: 0 });
const ladder = (y: number): LossReading => ({ check: "ladder", kind: "ladder", at: 6, y, sd: 0.07, floating: false, time: 0 });

describe("the sets", () => {
  it("are every combination once, never two severities of one fault", () => {
    for (const maxFaults of [1, 2, 3]) {
      const n = 7;
      const sets = enumerateSets(n, maxFaults);
      const seen = new Set<string>();
      for (let i = 0; i < sets.count; i++) {
        const states = [sets.first[i], sets.second[i], sets.third[i]].filter((s): s is number => s !== undefined && s >= 0);
        const faults = states.map((s) => s >> 1);
        expect(new Set(faults).size).toBe(faults.length);
        seen.add([...states].sort((a, b) => a - b).join());
      }
      expect(seen.size).toBe(sets.count);
      const pairs = (n * (n - 1)) / 2;
      const triples = (n * (n - 1) * (n - 2)) / 6;
      expect(sets.count).toBe(1 + 2 * n + (maxFaults > 1 ? 4 * pairs : 0) + (maxFaults > 2 ? 8 * triples : 0));
    }
  });
});

describe("loss readings", () => {
  const someState = fc.integer({ min: 0, max: model.faults.length * 2 - 1 });
  const someSet = fc.uniqueArray(someState, { maxLength: 3, selector: (s) => s >> 1 }).map((s) => [...s].sort((a, b) => a - b));

  it("obey the chain rule: two together are the first, then the second given the first", () => {
    const reading = fc.double({ min: -0.5, max: -0.08, noNaN: true });
    fc.assert(
      fc.property(someSet, reading, reading, (set, y1, y2) => {
        const [a = -1, b = -1, c = -1] = set;
        const one = lossModel(model, [{}], [power(3, y1)]);
        const both = lossModel(model, [{}], [power(3, y1), ladder(y2)]);
        const p1 = one.newPosterior();
        const p12 = both.newPosterior();
        one.evaluate(a, b, c, p1);
        both.evaluate(a, b, c, p12);
        const moments = { mean: 0, variance: 0 };
        predictiveMoments(one.predict({ kind: "ladder", at: 6, time: 0 }), p1, a, b, c, moments);
        const variance = moments.variance + 0.07 ** 2;
        const expected = -0.5 * ((y2 - moments.mean) ** 2 / variance + Math.log(variance));
        // Densities are kept up to a constant that no set changes; the empty set's shows what it is.
        const empty1 = one.newPosterior();
        const empty12 = both.newPosterior();
        one.evaluate(-1, -1, -1, empty1);
        both.evaluate(-1, -1, -1, empty12);
        predictiveMoments(one.predict({ kind: "ladder", at: 6, time: 0 }), empty1, -1, -1, -1, moments);
        const v0 = moments.variance + 0.07 ** 2;
        const expected0 = -0.5 * ((y2 - moments.mean) ** 2 / v0 + Math.log(v0));
        const constant = empty12.logLikelihood - empty1.logLikelihood - expected0;
        expect(p12.logLikelihood - p1.logLikelihood - constant).toBeCloseTo(expected, 6);
      }),
    );
  });

  it("move a fault's loss towards what they show, and make it surer", () => {
    const dirty = stateOf("mirror-dirty@2", true);
    const prior = lossModel(model, [{}], []);
    const seen = lossModel(model, [{}], [power(3, -0.4)]);
    const before = prior.newPosterior();
    const after = seen.newPosterior();
    prior.evaluate(dirty, -1, -1, before);
    seen.evaluate(dirty, -1, -1, after);
    expect(before.mean[0]).toBeCloseTo(0.22, 9);
    expect(after.mean[0]).toBeGreaterThan(0.27);
    expect(after.cov[0]).toBeLessThan(before.cov[0]!);
  });

  it("before a station say nothing of it", () => {
    const lens = stateOf("lens-dirty", true);
    const seen = lossModel(model, [{}], [power(3, -0.4)]);
    const post = seen.newPosterior();
    const empty = seen.newPosterior();
    seen.evaluate(lens, -1, -1, post);
    seen.evaluate(-1, -1, -1, empty);
    expect(post.mean[0]).toBeCloseTo(0.22, 9);
    expect(post.logLikelihood).toBeCloseTo(empty.logLikelihood, 9);
  });

  it("see two pushed beams as vectors: more together than each alone, by the clipping of their joint offset", () => {
    const [a, b] = [stateOf("aim-off@1", true), stateOf("aim-off@2", true)].sort((x, y) => x - y) as [number, number];
    const losses = lossModel(model, [{}], []);
    const post = losses.newPosterior();
    losses.evaluate(a, b, -1, post);
    const taken = [losses.priorMean[a] as number, losses.priorMean[b] as number] as const;
    const offsets = taken.map((loss) => offsetForLogLoss(10, 3.5, loss));
    expect(post.extra).toBeCloseTo(clipLogLoss(10, 3.5, Math.hypot(...offsets)) - taken[0] - taken[1], 6);
    expect(post.extra).toBeGreaterThan(0);
    losses.evaluate(stateOf("aim-off@1", true), stateOf("lens-dirty", true), -1, post);
    expect(post.extra).toBe(0);
  });

  it("are compared at full set power, over the nearest baseline", () => {
    const base = { powerW: { tube: 80, lens: 70 }, setPercent: 100 };
    expect(logAgainstBaseline(model, "lens", 35, 50, base)).toEqual({ y: expect.closeTo(0, 9), floating: false });
    expect(logAgainstBaseline(model, "window", 80, undefined, base).y).toBeCloseTo(0, 9);
    expect(logAgainstBaseline(model, "mirror-1", 80 * 0.985, 100, { powerW: { tube: 80 } }).y).toBeCloseTo(0, 9);
    expect(logAgainstBaseline(model, "mirror-1", 60, 100, undefined).floating).toBe(true);
  });
});
