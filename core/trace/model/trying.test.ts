import { describe, expect, it } from "vitest";
import { threeMirror } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { traceSpec } from "#core/machine";
import { expandModel, type TraceFinding, type TraceInput, trace } from "#core/trace";
import { outcomeTable } from "../belief/tables";

const model = expandModel(traceSpec(threeMirror, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates);
const [light, heavy] = [0, 1] as const;
const state = (fault: string, severity: 0 | 1) => 2 * model.faults.findIndex((f) => f.id === fault) + severity;

/** P(it cuts now) of a thing tried under a set, from its table. */
function cutsNow(check: string, ...set: readonly number[]): number {
  const spec = model.checks.find((c) => c.id === check);
  if (!spec) throw new Error(`no ${check}`);
  const out = new Float64Array(2);
  outcomeTable(model, spec).fill(set[0] ?? -1, set[1] ?? -1, set[2] ?? -1, out);
  expect((out[0] ?? 0) + (out[1] ?? 0)).toBeCloseTo(1, 12);
  return out[1] ?? Number.NaN;
}

const failing: TraceFinding[] = [
  { check: "known-cut", outcome: "part-through", complaint: true },
  { check: "onset", outcome: "sudden" },
];
const asks = (input: TraceInput) => trace(model, { symptom: "power", findings: failing, ...input }).nextChecks;

describe("a cut with something else in the place of one suspect", () => {
  it("drops where that was all, and the less the more is left", () => {
    const alone = cutsNow("lens-swap", state("lens-damaged", heavy));
    const withLittle = cutsNow("lens-swap", state("lens-damaged", heavy), state("mirror-dirty@2", light));
    const withMuch = cutsNow("lens-swap", state("lens-damaged", heavy), state("mirror-dirty@2", heavy));
    const withBoth = cutsNow("lens-swap", state("lens-damaged", heavy), state("mirror-dirty@2", heavy), state("tube-aged", heavy));
    expect(alone).toBeGreaterThan(0.8);
    expect(withLittle).toBeGreaterThan(0.5 * alone);
    expect(withLittle).toBeLessThan(0.85 * alone);
    expect(withMuch).toBeLessThan(0.3 * alone);
    expect(withBoth).toBeLessThan(withMuch);
  });

  it("hardly drops where it was something else, whatever that is", () => {
    for (const fault of ["mirror-dirty@2", "focus-off", "tube-aged", "settings-wrong"])
      for (const severity of [light, heavy]) expect(cutsNow("lens-swap", state(fault, severity))).toBeLessThan(0.05);
    // What takes no light keeps no cut from dropping.
    expect(cutsNow("lens-swap", state("lens-dirty", heavy), state("camera-dirty", heavy))).toBe(
      cutsNow("lens-swap", state("lens-dirty", heavy)),
    );
  });

  it("counts all that another lens puts right, and not the seat it goes into", () => {
    for (const fault of ["lens-dirty", "lens-damaged", "lens-flipped", "lens-loose"])
      expect(cutsNow("lens-swap", state(fault, heavy))).toBeGreaterThan(0.8);
    expect(cutsNow("lens-swap", state("lens-seat", heavy))).toBeLessThan(0.05);
  });

  it("speaks against what is left as well: it would not have dropped", () => {
    const before = trace(model, { symptom: "power", findings: [...failing, { check: "mirror-look@2", outcome: "film" }] });
    const after = trace(model, {
      symptom: "power",
      findings: [...failing, { check: "mirror-look@2", outcome: "film" }, { check: "lens-swap", outcome: "cuts-now" }],
    });
    const heavyOf = (answer: typeof before) => {
      const fault = answer.faults.find((f) => f.id === "mirror-dirty@2");
      return (fault?.probability ?? 0) * (fault?.heavy ?? 0);
    };
    expect(heavyOf(after)).toBeLessThan(0.4 * heavyOf(before));
    expect(after.repairs[0]?.id).toMatch(/lens/);
  });

  it("says little of a suspect where something else held the cut back at that time, though it was mended since", () => {
    const chance = (before: readonly TraceFinding[]) =>
      trace(model, {
        symptom: "power",
        findings: [{ check: "known-cut", outcome: "part-through" }],
        before: [{ repairs: ["clean-mirror@2"], findings: before }],
      }).faults.find((f) => f.id === "lens-damaged")?.probability ?? Number.NaN;
    const same: TraceFinding = { check: "lens-swap", outcome: "same" };
    const spots: TraceFinding = { check: "mirror-look@2", outcome: "spots" };
    const says = chance([...failing, same]) / chance(failing);
    expect(says).toBeLessThan(0.5);
    expect(chance([...failing, spots, same]) / chance([...failing, spots])).toBeGreaterThan(1.5 * says);
  });
});

describe("what was tried in vain", () => {
  it("is not named as the repair before something has spoken for it since", () => {
    const told: TraceFinding[] = [
      { check: "bed-map", outcome: "patchy", complaint: true },
      { check: "bed-level", outcome: "level" },
      { check: "focus-gauge", outcome: "right" },
      { check: "settings", outcome: "usual" },
      { check: "nozzle-touch", outcome: "cool" },
    ];
    const same: TraceFinding = { check: "material-swap", outcome: "same" };
    const planOf = (findings: TraceFinding[]) => trace(model, { symptom: "power", findings }).plan;
    expect(planOf(told)).toContain("other-sheet");
    const patchy: TraceFinding = { check: "bed-map", outcome: "patchy" };
    expect(planOf([...told, patchy, same])).not.toContain("other-sheet");
    expect(planOf([...told, same, patchy])).toContain("other-sheet");
    // The spare came out again: the lens that was seen damaged is in, and not forgotten.
    const cut: TraceFinding = { check: "known-cut", outcome: "part-through", complaint: true };
    const lens: TraceFinding[] = [cut, { check: "lens-look", outcome: "damaged" }, { check: "lens-swap", outcome: "same" }];
    expect(planOf(lens)).toContain("replace-lens");
    expect(planOf([...lens, { check: "mirror-look@2", outcome: "spots" }])).toEqual(["clean-mirror@2", "replace-lens"]);
    // A focus that was set anew is not what the gauge saw before, however clearly it saw it.
    const focus: TraceFinding[] = [
      cut,
      { check: "focus-gauge", outcome: "off" },
      { check: "focus-ramp", outcome: "shifted" },
      { check: "kerf", outcome: "wide" },
    ];
    expect(planOf(focus)[0]).toBe("set-focus");
    expect(planOf([...focus, { check: "focus-set", outcome: "same" }])).not.toContain("set-focus");
  });
});

describe("what is asked", () => {
  it("is to try the spare lens only where there is one", () => {
    const ids = (spares?: readonly string[]) => asks({ spares }).map((c) => c.check);
    expect(ids()).not.toContain("lens-swap");
    expect(ids(["mirror-2"])).not.toContain("lens-swap");
    expect(ids(["lens"])).toContain("lens-swap");
  });

  it("comes from memory first, three in a row, and from memory late once something was looked at", () => {
    const isFree = (check: string | undefined) => model.checks.find((c) => c.id === check)?.minutes === 0;
    expect(isFree(asks({})[0]?.check)).toBe(true);
    const told: TraceFinding[] = [...failing, { check: "in-run", outcome: "steady" }, { check: "flame", outcome: "normal" }];
    expect(isFree(asks({ findings: told })[0]?.check)).toBe(false);
    const looked = asks({ findings: [...failing, { check: "nozzle-touch", outcome: "cool" }] });
    const rank = (c: (typeof looked)[number]) => c.bits / (c.minutes === 0 ? 4 : Math.max(c.minutes, 0.5) + 1);
    const helpful = looked.filter((c) => c.helps);
    expect(helpful.some((c) => c.minutes === 0)).toBe(true);
    expect(helpful.map(rank)).toEqual(helpful.map(rank).sort((a, b) => b - a));
    // A reading from the log is nobody's hands at the machine.
    expect(isFree(asks({ findings: [...failing, { check: "ladder", value: 0.8 }] })[0]?.check)).toBe(true);
  });

  it("is all that would tell something, before it is said that nothing known explains it", () => {
    const answer = trace(model, {
      symptom: "cut-quality",
      maxFaults: 3,
      baseline: { powerW: { tube: 62 }, setPercent: 100 },
      findings: [
        { check: "flame", outcome: "more", complaint: true },
        { check: "tube-current", outcome: "normal" },
        { check: "last-touched", outcome: "nothing" },
        { check: "power@mirror-1", value: 12 },
        { check: "mirror-seat@3", outcome: "right" },
        { check: "raster-edge", outcome: "straight" },
      ],
    });
    expect(answer.none).toBeGreaterThan(answer.repairs[0]?.probability ?? 0);
    expect(answer.repair).toBeNull();
    const asked = answer.nextChecks.filter((c) => c.helps);
    expect(asked.map((c) => c.check)).toContain("air-feel");
    for (const c of asked) expect(c.bits > 0.02 && c.minutes <= 8).toBe(true);
    expect(answer.stop.reason).toBe("check");
  });
});
