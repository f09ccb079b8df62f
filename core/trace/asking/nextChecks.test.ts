import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { threeMirror } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { traceSpec } from "#core/machine";
import { expandModel, type TraceFinding, trace } from "#core/trace";
import { entropyBits } from "../belief/decision";
import { heaviest } from "../belief/sets";
import { coversOf } from "../model/mending";
import { planner, roundMinutes } from "./plan";

const model = expandModel(traceSpec(threeMirror, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates);
const findings: TraceFinding[] = [
  { check: "known-cut", outcome: "hangs", complaint: true },
  { check: "onset", outcome: "sudden" },
  { check: "last-touched", outcome: "cleaned" },
];

/** Decision probabilities of single faults, where which takes most is no question; with "nothing" and "none of these" as the catalog's answer leaves them. */
function decisionOf(input: readonly TraceFinding[]): number[] {
  const answer = trace(model, { findings: input, maxFaults: 1 });
  const repairs = model.repairs.map((r) => answer.repairs.find((x) => x.id === r.id)?.probability ?? 0);
  const nothing = 1 - answer.none - repairs.reduce((a, b) => a + b, 0);
  return [...repairs, Math.max(0, nothing), answer.none];
}

/** Ways that need one repair each, then what none mends. */
const each = [...model.repairs.keys()];
const alone = planner(model, { first: Int16Array.from([...each, -1, -1]), second: new Int16Array(each.length + 2).fill(-1) });

describe("what asking is worth", () => {
  it.each(["lens-side", "lens-look", "mirror-look@3", "bed-map", "focus-ramp", "air-feel"])(
    "of %s is the bits and the minutes that asking and answering it would bring on average",
    (check) => {
      const spec = model.checks.find((c) => c.id === check);
      const now = trace(model, { findings, maxFaults: 1 });
      const shown = now.nextChecks.find((c) => c.check === check);
      const before = entropyBits(decisionOf(findings), 1);
      // The chance of each outcome follows from what it does to the odds of one fault: P(o) = [p - p(not o)] by total probability
      // over all outcomes, solved here by weighing each outcome's posterior so that they average to the present one.
      const after = (spec?.outcomes ?? []).map((outcome) => decisionOf([...findings, { check, outcome }]));
      const present = decisionOf(findings);
      const weights = mixtureWeights(after, present);
      const expected = before - after.reduce((sum, d, i) => sum + weights[i]! * entropyBits(d, 1), 0);
      expect(shown?.bits).toBeGreaterThan(0);
      // The ranking takes a grade by its table; how much it then says of the light's losses, and against "none of these", is left to the answer.
      expect(Math.abs((shown?.bits ?? 0) - expected)).toBeLessThan((spec?.grades ? 0.08 : 0.03) + 0.1 * expected);
      // What was opened for the look is open for the repair.
      const then = after.reduce((sum, d, i) => sum + weights[i]! * alone.minutes(d, 1, spec?.needsOpen), 0);
      const saved = alone.minutes(present, 1) - then;
      // The ranking looks at the heaviest sets alone, and the plan goes down to the rarest.
      expect(Math.abs((shown?.savedMinutes ?? 0) - saved)).toBeLessThan((spec?.grades ? 0.04 : 0.02) * alone.minutes(present, 1));
      if (shown?.helps) expect(shown.savedMinutes > shown.minutes + 3 || shown.bits > 0.02).toBe(true);
    },
  );

  it("is nothing for a check that no suspect can show in", () => {
    const sure = trace(model, { findings: [{ check: "raster-edge", outcome: "wavy", complaint: true }] });
    expect(sure.nextChecks.find((c) => c.check === "window-look")?.bits).toBeLessThan(0.01);
    expect(sure.nextChecks[0]?.check).toMatch(/rail-touch|bearing-push|belt/);
  });
});

/** Non-negative weights, summing to 1, with which the outcomes' posteriors average to the present one (least squares). */
function mixtureWeights(after: readonly number[][], present: readonly number[]): number[] {
  let w = after.map(() => 1 / after.length);
  for (let step = 0; step < 20_000; step++) {
    const mean = present.map((_, k) => after.reduce((s, d, i) => s + w[i]! * d[k]!, 0));
    // Expectation-maximisation for mixture weights: exact when the posteriors do average to the present.
    w = w.map((wi, i) => wi * present.reduce((s, p, k) => s + (mean[k]! > 1e-15 ? (p * (after[i] as number[])[k]!) / mean[k]! : 0), 0));
    const total = w.reduce((a, b) => a + b, 0);
    w = w.map((wi) => wi / total);
  }
  return w;
}

describe("going on by repairs", () => {
  const index = (id: string) => model.repairs.findIndex((r) => r.id === id);
  const own = (id: string) => model.repairs[index(id)]?.minutes ?? Number.NaN;
  /** What it costs where it was not needed. */
  const waste = (id: string) => model.repairs[index(id)]?.needlessMinutes ?? Number.NaN;
  const weights = (given: Record<string, number>) => [...model.repairs.map((r) => given[r.id] ?? 0), 0, 0];
  const overhead = roundMinutes(model);
  const unsafe = roundMinutes(model, false);

  it("takes one round of the right repair when it is certain", () => {
    expect(alone.minutes(weights({ "clean-lens": 1 }), 1)).toBeCloseTo(overhead + own("clean-lens"), 9);
  });

  it("does in one round what spares more by not coming back than it takes, and else comes back", () => {
    const together = weights({ "power-back": 0.5, "set-focus": 0.5 });
    // Neither has to be made safe.
    expect(alone.minutes(together, 1)).toBeCloseTo(
      unsafe + own("power-back") + own("set-focus") + 0.5 * (waste("power-back") + waste("set-focus")),
      9,
    );
    expect(alone.firstRound(together, 1)).toHaveLength(2);
    const apart = weights({ "clean-lens": 0.9, "tube-supplier": 0.1 });
    expect(alone.minutes(apart, 1)).toBeCloseTo(
      overhead + own("clean-lens") + 0.1 * waste("clean-lens") + 0.1 * (unsafe + own("tube-supplier")),
      9,
    );
    expect(alone.firstRound(apart, 1)).toEqual([index("clean-lens")]);
  });

  it("does both in one round where both are needed, dear as they are, and where only one is, that one", () => {
    const [lens, tube] = [index("clean-lens"), index("tube-supplier")];
    const pair = planner(model, { first: Int16Array.from([lens, lens, -1]), second: Int16Array.from([tube, -1, -1]) });
    expect(pair.firstRound([1, 0, 0], 1).sort()).toEqual([lens, tube].sort());
    expect(pair.minutes([1, 0, 0], 1)).toBeCloseTo(overhead + own("clean-lens") + own("tube-supplier"), 9);
    expect(pair.firstRound([0.05, 0.95, 0], 1)).toEqual([lens]);
  });

  it("is never shorter than for one who knows what is needed, and a round holds nothing that nobody needs, nor anything twice", () => {
    const some = each.slice(0, 12);
    const way = fc.record({
      first: fc.constantFrom(...some),
      second: fc.constantFrom(-1, ...some),
      weight: fc.double({ min: 0.01, max: 1, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.array(way, { minLength: 1, maxLength: 8 }), (drawn) => {
        const ways = drawn.map((w) => ({ ...w, second: w.second === w.first ? -1 : w.second }));
        const plans = planner(model, { first: Int16Array.from(ways, (w) => w.first), second: Int16Array.from(ways, (w) => w.second) });
        const total = ways.reduce((sum, w) => sum + w.weight, 0);
        const needs = (w: (typeof ways)[0]) => [w.first, w.second].filter((r) => r >= 0);
        const covers = coversOf(model);
        const knowing = (given: readonly (typeof model.repairs)[0][]) => {
          // What another puts right on the way is none of its own.
          const repairs = given.filter((r) => !given.some((o) => o !== r && covers[index(o.id)]?.includes(index(r.id))));
          const shared = repairs.length === 2 && repairs[0]?.opens !== undefined && repairs[0].opens === repairs[1]?.opens;
          const safe = repairs.some((r) => r.madeSafe);
          return (safe ? overhead : unsafe) + repairs.reduce((m, r) => m + r.minutes, 0) - (shared ? (repairs[0]?.openingMinutes ?? 0) : 0);
        };
        const known = ways.reduce(
          (sum, w) => sum + (w.weight / total) * knowing(needs(w).map((r) => model.repairs[r] as (typeof model.repairs)[0])),
          0,
        );
        const weights = ways.map((w) => w.weight);
        expect(plans.minutes(weights, total)).toBeGreaterThanOrEqual(known - 1e-9);
        const round = plans.firstRound(weights, total);
        expect(round.length).toBeGreaterThan(0);
        expect(new Set(round).size).toBe(round.length);
        for (const r of round) expect(ways.some((w) => needs(w).includes(r))).toBe(true);
      }),
    );
  });

  it("opens a station once: what is open already, or was opened for a look, takes so much less", () => {
    const lens = weights({ "clean-lens": 1 });
    const opening = model.repairs[index("clean-lens")]?.openingMinutes ?? 0;
    expect(opening).toBe(3);
    const open = planner(model, { first: Int16Array.from([...each, -1, -1]), second: new Int16Array(each.length + 2).fill(-1) }, ["lens"]);
    expect(open.minutes(lens, 1)).toBeCloseTo(alone.minutes(lens, 1) - opening, 9);
    expect(alone.minutes(lens, 1, "lens")).toBeCloseTo(alone.minutes(lens, 1) - opening, 9);
    expect(alone.minutes(lens, 1, "mirror-1")).toBeCloseTo(alone.minutes(lens, 1), 9);
    const [clean, seat] = [index("clean-lens"), index("seat-lens")];
    const both = planner(model, { first: Int16Array.from([clean, -1]), second: Int16Array.from([seat, -1]) });
    expect(both.minutes([1, 0], 1)).toBeCloseTo(overhead + own("clean-lens") + own("seat-lens") - opening, 9);
  });

  it("counts on what a repair puts right on the way: who cleans the lens puts it back the right way up, who replaces it need not clean it", () => {
    const covered: readonly (readonly [string, string])[] = [
      ["clean-lens", "turn-lens"],
      ["replace-lens", "clean-lens"],
      ["replace-mirror@2", "clean-mirror@2"],
    ];
    for (const [does, on] of covered) {
      const [r, q] = [index(does), index(on)];
      const both = planner(model, { first: Int16Array.from([r, -1]), second: Int16Array.from([q, -1]) });
      expect(both.minutes([1, 0], 1)).toBeCloseTo(alone.minutes(weights({ [does]: 1 }), 1), 9);
      const either = planner(model, { first: Int16Array.from([r, q, -1]), second: Int16Array.from([-1, -1, -1]) });
      expect(either.firstRound([0.8, 0.2, 0], 1)[0]).toBe(r);
      expect(either.minutes([0.8, 0.2, 0], 1)).toBeCloseTo(alone.minutes(weights({ [does]: 1 }), 1) + 0.2 * waste(does), 9);
    }
  });

  it("names the likeliest of a round first, charges for what no repair mends, and asks nothing of the weights but their shares", () => {
    const round = alone.firstRound(weights({ "power-back": 0.4, "set-focus": 0.6 }), 1);
    expect(round).toHaveLength(2);
    expect(round[0]).toBe(index("set-focus"));
    const half = weights({ "clean-lens": 0.5 });
    expect(alone.minutes([...half.slice(0, -1), 0.5], 1)).toBeGreaterThan(30);
    expect(alone.minutes(weights({ "clean-lens": 5, "set-focus": 5 }), 10)).toBeCloseTo(
      alone.minutes(weights({ "clean-lens": 0.5, "set-focus": 0.5 }), 1),
      9,
    );
  });

  it("looks at the heaviest sets, heaviest first", () => {
    const w = Float64Array.from({ length: 9000 }, (_, i) => ((i * 7919) % 9000) / 9000 ** 2);
    const top = heaviest(w, 100);
    expect(top).toHaveLength(100);
    const best = [...w].sort((a, b) => b - a).slice(0, 100);
    expect([...top].map((n) => w[n])).toEqual(best);
  });
});
