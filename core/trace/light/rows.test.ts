/** Sets in rows: what a row says of its sets is what each of them says by itself. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { threeMirror } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { traceSpec } from "#core/machine";
import { expandModel, type TraceFinding, trace } from "#core/trace";
import { factorsOf } from "../belief/factors";
import { enumerateSets } from "../belief/sets";
import { cutLikelihood, predictiveMoments } from "./cutReading";
import { sortFindings } from "./findings";
import { lightRow } from "./lightRow";
import { lossModel } from "./losses";
import type { LossReading } from "./readings";

const model = expandModel(traceSpec(threeMirror, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates);
const states = model.faults.length * 2;
const reading = fc.record({
  kind: fc.constantFrom("power" as const, "ladder" as const),
  at: fc.integer({ min: 1, max: model.stations.length - 1 }),
  y: fc.double({ min: -0.6, max: 0, noNaN: true }),
});
const readings = fc
  .array(reading, { maxLength: 5 })
  .map((rs): LossReading[] =>
    rs.map(({ kind, at, y }) =>
      kind === "power"
        ? { check: `power@${at}`, kind, at, y, sd: 0.03, floating: false, time: 0 }
        : { check: "ladder", kind, at: model.stations.length - 1, y, sd: 0.07, floating: false, time: 0 },
    ),
  );
const someSet = fc
  .uniqueArray(fc.integer({ min: 0, max: states - 1 }), { minLength: 1, maxLength: 3, selector: (s) => s >> 1 })
  .map((set) => [...set].sort((a, b) => a - b));

describe("a row of sets", () => {
  it("weighs a state added to two as the three of them together, losses and cuts included", () => {
    fc.assert(
      fc.property(readings, someSet, fc.integer({ min: 0, max: 3 }), (rs, set, outcome) => {
        const losses = lossModel(model, [{}], rs);
        const light = losses.predict({ kind: "ladder", at: model.stations.length - 1, time: 0 });
        const likelihood = (mean: number, variance: number) => cutLikelihood(mean, variance, outcome, model.usualNeedLn);
        const row = lightRow(losses, [{ light, likelihood }]);
        const [a = -1, b = -1, c = -1] = set;
        const added = set.at(-1) as number;
        const [x = -1, y = -1] = set.slice(0, -1);
        const whole = losses.newPosterior();
        losses.evaluate(a, b, c, whole);
        const moments = { mean: 0, variance: 0 };
        predictiveMoments(light, whole, a, b, c, moments);
        const best = whole.logLikelihood;
        row.begin(x, y, best);
        const out = losses.newPosterior();
        const seen = row.extend(added, out);
        expect(seen / likelihood(moments.mean, moments.variance)).toBeCloseTo(1, 5);
        for (let i = 0; i < set.length; i++) {
          expect(out.mean[i]).toBeCloseTo(whole.mean[i]!, 6);
          for (let k = 0; k < set.length; k++) expect(out.cov[3 * i + k]).toBeCloseTo(whole.cov[3 * i + k]!, 8);
        }
      }),
      { numRuns: 200 },
    );
  });

  it("says by its findings what each set by itself does", () => {
    const findings = model.checks.flatMap(({ id, outcomes, kind, value }): TraceFinding[] =>
      kind === "loss"
        ? []
        : outcomes.length > 0
          ? [{ check: id, outcome: outcomes.at(-1) as string }]
          : value
            ? [{ check: id, value: value.max }]
            : [],
    );
    const found = sortFindings(model, { findings });
    const order = Int16Array.from({ length: states }, (_, k) => (k * 2 + (k < states / 2 ? 1 : 0)) % states);
    const factors = factorsOf(model, found.outcomes, found.values, order);
    const row = factors.newRow();
    const plain = new Float64Array(factors.checks.length);
    fc.assert(
      fc.property(someSet, fc.integer({ min: 0, max: states - 1 }), ([a = -1, b = -1], k) => {
        factors.fillRow(a, b, 0, row);
        factors.fill(a, b, order[k]!, plain);
        for (const [f, of] of plain.entries()) {
          const at = factors.places[f]!.indexOf(k);
          expect(at < 0 ? row.alone[f] : row.showing[f]![at]).toBeCloseTo(of, 12);
        }
      }),
    );
  });

  it("is every set that differs by its last state alone, dark ones last", () => {
    const isDark = (f: number) => f % 3 === 0;
    const { order, dark, rows, count, first, second, third } = enumerateSets(7, 3, isDark);
    expect([...order].map((s, k) => isDark(s >> 1) === k >= dark)).not.toContain(false);
    let sets = 1;
    for (const { i, j, from, at } of rows)
      for (let k = from; k < order.length; k++, sets++) {
        const of = [first, second, third].map((column) => column[at + k - from]!).filter((s) => s >= 0);
        expect(of).toEqual([i, j, k].filter((place) => place >= 0).map((place) => order[place]));
      }
    expect(sets).toBe(count);
  });
});

describe("evidence over sets of three", () => {
  it("is what the answer without the finding says, near enough where a fault matters", () => {
    const findings: TraceFinding[] = [
      { check: "known-cut", outcome: "part-through" },
      { check: "lens-look", outcome: "film" },
      { check: "power@tube", value: 58 },
      { check: "power@mirror-2", value: 49 },
      { check: "air-feel", outcome: "weak" },
    ];
    const baseline = { powerW: { tube: 62, "mirror-1": 61, "mirror-2": 60, lens: 57 } };
    const of = (some: TraceFinding[]) => trace(model, { findings: some, baseline, maxFaults: 3 });
    const answer = of(findings);
    const isCause = (id: string) => (model.faults.find((f) => f.id === id)?.symptoms.power ?? 0) > 0;
    const db = (p: number) => 10 * Math.log10(p / (1 - p));
    for (const left of findings) {
      const without = of(findings.filter((f) => f !== left));
      for (const { id, probability } of answer.faults.filter((f) => f.probability > 0.03 && isCause(f.id))) {
        const said = answer.evidence.find((e) => e.check === left.check && e.fault === id)?.decibans ?? 0;
        const really = db(probability) - db(without.faults.find((f) => f.id === id)?.probability ?? 0);
        expect(Math.abs(said - really), `${left.check} for ${id}`).toBeLessThan(1.2);
      }
    }
  });
});
