/** What the owner came with against what was answered, and what a cut sees against what watts see. */
import { describe, expect, it } from "vitest";
import { layouts, threeMirror } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates, signList } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { traceSpec } from "#core/machine";
import { expandModel, type TraceFinding, trace } from "#core/trace";

const modelOf = (layout: typeof threeMirror) =>
  expandModel(traceSpec(layout, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates);
const model = modelOf(threeMirror);

/** What those who know the trade look at first, sign by sign; how fast it came alone points to nothing. */
const LOOKED_AT_FIRST: Readonly<Record<string, RegExp>> = {
  "slowly-weaker": /-dirty|^nozzle|^tube-aged/,
  "after-cleaning": /^lens-(flipped|seat|loose)|^mirror-seat|^focus-off|^power-left-low/,
  "far-corner": /^aim-off|^mirror-seat|^bed-uneven/,
  "random-patches": /^material-varies|^bed-uneven/,
  fades: /^coolant|^fins|^lens-(dirty|damaged)/,
  "odd-mark": /^nozzle|^aim-off|^tube-mode|-damaged/,
  "current-low": /^supply-weak|^power-left-low/,
  "tube-weak": /^tube|^coolant|^window/,
  blurred: /^focus-off|^lens-(flipped|seat)/,
  "nozzle-warm": /^aim-off|^nozzle|^lens-dirty/,
  flame: /^air-weak|^nozzle-blocked/,
  smoke: /^exhaust-weak|^prefilter|^fan-reversed/,
  pauses: /^fan-clogged|^coolant|^fins/,
  water: /^coolant-foul/,
  bubbles: /^tube-air/,
  "raster-waves": /^encoder|^belt|^rails|^bearing/,
  jerky: /^rails|^bearing/,
  "cloudy-camera": /^camera|^homing/,
  "height-wrong": /^sensor-window/,
  "list-full": /^job-list/,
};

describe("a loss at a place", () => {
  it("that only a cut sees is none of its light: a lens upside down lets the watts through", () => {
    const found = [
      { check: "lens-side", outcome: "flipped" },
      { check: "known-cut", outcome: "part-through" },
    ];
    const lens = trace(model, { findings: found }).stations.find((s) => s.id === "lens");
    expect(lens?.lossPercent.mid).toBeGreaterThan(15);
    expect(lens?.lightPercent.mid).toBeLessThan(5);
    const dirty = trace(model, { findings: [{ check: "lens-look", outcome: "spots" }, found[1] as TraceFinding] });
    const light = dirty.stations.find((s) => s.id === "lens");
    expect(light?.lightPercent.mid).toBeGreaterThan(8);
    for (const s of dirty.stations) expect(s.lightPercent.mid).toBeLessThanOrEqual(s.lossPercent.mid + 1e-6);
  });
});

describe("a complaint", () => {
  const water = { check: "water-look", outcome: "cloudy" };
  const foul = (findings: readonly TraceFinding[]) => {
    const { faults, nothingWrong } = trace(model, { findings, symptom: "cooling" });
    return { foul: faults.find((f) => f.id === "coolant-foul")?.probability ?? 0, nothingWrong };
  };

  it("is seldom made of nothing: cloudy water that was come with is foul water, the same answer to a question may be a slip", () => {
    const [asked, came] = [foul([water]), foul([{ ...water, complaint: true }])];
    expect(came.foul).toBeGreaterThan(0.5);
    expect(came.foul).toBeGreaterThan(2 * asked.foul);
    expect(came.nothingWrong).toBeLessThan(asked.nothingWrong / 2);
  });

  it("is not a look for its cause: a head that drags is asked about before its rails are wiped, and the round still holds what was seen", () => {
    const drags: TraceFinding = { check: "bearing-push", outcome: "drags" };
    const came = trace(model, { findings: [{ ...drags, complaint: true }], symptom: "motion" });
    expect(came.repair).toBeNull();
    expect(came.nextChecks.find((c) => c.helps)?.check).toBe("rail-touch");
    expect(came.plan[0]).toBe("clean-rails");
    const gritty = trace(model, {
      findings: [
        { ...drags, complaint: true },
        { check: "rail-touch", outcome: "gritty" },
      ],
      symptom: "motion",
    });
    expect(gritty.repair).toBe("clean-rails");
  });

  it("of any sign leads to what is looked at first for it, on every layout that can show it", () => {
    for (const layout of Object.values(layouts)) {
      const own = modelOf(layout);
      for (const { id, symptom, findings } of signList.filter((s) => LOOKED_AT_FIRST[s.id])) {
        const told = findings.filter((f) => own.checks.some((c) => c.id === f.check)).map((f) => ({ ...f, complaint: true }));
        const [first] = told.length > 0 ? trace(own, { findings: told, symptom }, "next").faults : [];
        if (first) expect([layout.id, id, first.id]).toEqual([layout.id, id, expect.stringMatching(LOOKED_AT_FIRST[id] as RegExp)]);
      }
    }
  });

  it("of nothing odd, and how it came, say what they always do", () => {
    for (const plain of [
      { check: "water-look", outcome: "clear" },
      { check: "onset", outcome: "sudden" },
    ])
      expect(foul([{ ...plain, complaint: true }])).toEqual(foul([plain]));
  });
});
