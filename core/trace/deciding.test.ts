/** When an answer leads to a repair, and when one more question comes first. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { layouts } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { traceSpec } from "#core/machine";
import { isDear, planner } from "./asking/plan";
import { clearedFaults, repairPlan } from "./asking/seen";
import { setPrior } from "./belief/prior";
import { afterRepair, expandModel, type TraceFinding, trace } from "./index";

const modelOf = (id: "three-mirror" | "periscope" | "moving-head") =>
  expandModel(traceSpec(layouts[id] as never, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates);
const model = modelOf("three-mirror");
const said = (check: string, outcome: string): TraceFinding => ({ check, outcome });

describe("a repair", () => {
  it("is not named where the look for it has just shown nothing, unless all else speaks for it or what would be done instead is dear", () => {
    const sights = model.checks.filter((c) => c.sight && c.outcomes.length > 0);
    const answers = fc.uniqueArray(
      fc.constantFrom(...sights).chain((c) => fc.constantFrom(0, 0, c.outcomes.length - 1).map((i) => said(c.id, c.outcomes[i] as string))),
      { maxLength: 9, selector: (f) => f.check },
    );
    const dear = model.repairs.filter(isDear).map((r) => r.id);
    fc.assert(
      fc.property(answers, (findings) => {
        const { plan, repairs } = trace(model, { symptom: "power", findings: [said("known-cut", "part-through"), ...findings] });
        const cleared = clearedFaults(model, findings);
        const isCleared = (id: string) => model.faults.every((f) => f.repair !== id || cleared.has(f.id));
        const instead = repairs.find((r) => !isCleared(r.id))?.id ?? "";
        for (const id of plan.filter(isCleared))
          if (!dear.includes(instead)) expect(repairs.find((r) => r.id === id)?.probability, id).toBeGreaterThan(0.59);
      }),
      { numRuns: 60 },
    );

    // The limit is looked at once more before anybody opens the supply.
    const told = [said("known-cut", "part-through"), said("onset", "sudden"), said("last-touched", "seat-opened")];
    const low = [said("focus-gauge", "right"), { check: "tube-current", value: 15.5 }];
    const left = (outcome: string) =>
      trace(model, { symptom: "power", baseline: { tubeCurrentMa: 22 }, findings: [...told, ...low, said("power-limit", outcome)] });
    expect(left("left-low").repair).toBe("power-back");
    expect(left("usual").repairs[0]?.id).toBe("supply-qualified");
    expect(left("usual").plan).toEqual(["power-back"]);
  });

  it("that is dear where it is wrong waits for the cheap questions that would show it", () => {
    const answer = trace(modelOf("periscope"), {
      usage: { tubeHours: 2900, ratedTubeHours: 3000 },
      symptom: "power",
      findings: [
        said("known-cut", "surface-only"),
        said("onset", "gradual"),
        said("last-touched", "cleaned"),
        said("nozzle-touch", "cool"),
        { check: "tape-travel@4", value: 0.9 },
      ],
    });
    expect(answer.repair).toBeNull();
    const asked = answer.nextChecks.filter((c) => c.helps);
    expect(asked.length).toBeGreaterThan(3);
    expect(asked.every((c) => c.minutes <= 8)).toBe(true);
  });

  it("that takes a new tube waits for the lens, however old the tube and clear the rest", () => {
    const answer = trace(modelOf("moving-head"), {
      usage: { tubeHours: 2700, ratedTubeHours: 3000 },
      symptom: "power",
      findings: [
        { ...said("known-cut", "part-through"), complaint: true },
        said("onset", "gradual"),
        said("flame", "normal"),
        said("nozzle-touch", "cool"),
        said("mirror-look@1", "clear"),
        said("in-run", "steady"),
        said("focus-gauge", "right"),
        said("side-window-look", "haze"),
      ],
    });
    expect(answer.repair).toBeNull();
    expect(answer.nextChecks.filter((c) => c.helps).map((c) => c.check)).toContain("lens-look");
  });

  it("that takes a new tube waits for the half minute that would show that there is no air, long as the trace was", () => {
    const looks = ["mirror-look@3", "mirror-look@1", "mirror-look@2"].map((id) => said(id, "clear"));
    const answer = trace(model, {
      usage: { tubeHours: 2700, ratedTubeHours: 3000 },
      symptom: "power",
      findings: [
        { ...said("known-cut", "hangs"), complaint: true },
        said("onset", "gradual"),
        said("in-run", "steady"),
        said("flame", "normal"),
        said("nozzle-touch", "cool"),
        said("focus-gauge", "right"),
        said("power-limit", "usual"),
        said("water-look", "clear"),
        said("lens-look", "haze"),
        said("settings", "usual"),
        said("bed-level", "level"),
        ...looks,
        said("tape-travel@3", "together"),
        said("material-swap", "same"),
      ],
    });
    expect(answer.repairs[0]?.id).toBe("tube-supplier");
    expect(answer.repair).toBeNull();
    expect(answer.nextChecks.filter((c) => c.helps).map((c) => c.check)).toContain("air-feel");
  });

  it("that takes a new tube stays out of the round of a lens that was seen dirty: its proof comes first", () => {
    const chances = { fault: model.faults.map(() => 0), decided: new Float64Array(model.repairs.length) };
    const [tube, lens] = ["tube-supplier", "clean-lens"].map((id) => model.repairs.findIndex((r) => r.id === id)) as [number, number];
    expect(repairPlan(model, [tube, lens], lens, new Set(["lens-dirty"]), "power", chances, () => false)).toEqual([lens]);
    const ways = { first: Int16Array.from([lens, tube, -1]), second: Int16Array.from([-1, lens, -1]) };
    expect(planner(model, ways).firstRound([0.3, 0.7, 0], 1)).toEqual([lens]);
    expect(planner(model, ways).firstRound([0.02, 0.98, 0], 1).sort()).toEqual([tube, lens].sort());
  });

  it("that takes a new tube waits for a mirror that was seen with film, little as it explains, and comes once that was cleaned in vain", () => {
    const told = (film: string): TraceFinding[] => [
      { ...said("known-cut", "part-through"), complaint: true },
      said("onset", "gradual"),
      { check: "power@tube", value: 38 },
      said("tube-current", "normal"),
      said("power-limit", "usual"),
      { check: "coolant-temp", value: 20 },
      said("bubbles", "no"),
      said("window-look", film === "window" ? "damaged" : "clear"),
      said("mirror-look@1", "film"),
    ];
    const usual = {
      usage: { tubeHours: 2900, ratedTubeHours: 3000 },
      symptom: "power" as const,
      baseline: { powerW: { tube: 77 }, setPercent: 100 },
    };
    const first = trace(model, { ...usual, findings: told("mirror") });
    expect(first.repairs[0]).toMatchObject({ id: "tube-supplier", probability: expect.closeTo(0.9, 0) });
    expect([first.repair, first.plan, first.stop.reason]).toEqual(["clean-mirror@1", ["clean-mirror@1"], "before"]);
    const { still, before } = afterRepair(model, told("mirror"), ["clean-mirror@1"]);
    const failed = { before: [{ repairs: ["clean-mirror@1"], findings: before }], mended: ["clean-mirror@1"] };
    const since = [...still, said("mirror-look@1", "clear"), said("known-cut", "part-through")];
    // What takes next to no time, and what may be seen, is asked before.
    let again = trace(model, { ...usual, ...failed, findings: since });
    while (again.repair === null && again.nextChecks[0]?.helps && since.length < 40) {
      const { check } = again.nextChecks[0];
      const [outcome] = model.checks.find((c) => c.id === check)?.outcomes ?? [];
      since.push(outcome === undefined ? { check, value: 0 } : said(check, outcome));
      again = trace(model, { ...usual, ...failed, findings: since });
    }
    expect(again.repair).toBe("tube-supplier");
    // Nothing is cut to prove a mirror while the window is damaged.
    expect(trace(model, { ...usual, findings: told("window") }).plan[0]).toBe("tube-supplier");
  });

  it("that puts another right on the way stands in the round without it, the first aside: no mirror is cleaned that a spare takes the place of", () => {
    const chances = { fault: model.faults.map(() => 0), decided: new Float64Array(model.repairs.length) };
    const planOf = (...round: string[]) => {
      const places = round.map((id) => model.repairs.findIndex((r) => r.id === id));
      return repairPlan(model, places, undefined, new Set(), "power", chances, () => false).map((r) => model.repairs[r]?.id);
    };
    expect(planOf("replace-mirror@2", "clean-mirror@2", "set-focus")).toEqual(["replace-mirror@2", "set-focus"]);
    expect(planOf("clean-lens", "turn-lens", "seat-lens")).toEqual(["clean-lens", "seat-lens"]);
    // What leads is named, whatever else would mend it.
    expect(planOf("turn-lens", "clean-lens")).toEqual(["turn-lens", "clean-lens"]);
    expect(planOf("replace-mirror@2", "clean-mirror@1")).toEqual(["replace-mirror@2", "clean-mirror@1"]);
  });

  it("of either of two that look alike may be right to do first, and both are in the round", () => {
    const answer = trace(model, {
      symptom: "power",
      findings: [
        said("known-cut", "part-through"),
        said("onset", "gradual"),
        said("lens-look", "clear"),
        said("mirror-look@1", "spots"),
        said("mirror-look@2", "spots"),
        said("mirror-look@3", "clear"),
      ],
    });
    const p = (id: string) => answer.repairs.find((r) => r.id === id)?.probability ?? 0;
    expect(Math.abs(p("clean-mirror@1") - p("clean-mirror@2"))).toBeLessThan(0.1);
    expect(p("clean-mirror@1") + p("clean-mirror@2")).toBeGreaterThan(0.8);
    expect(answer.plan).toEqual(expect.arrayContaining(["clean-mirror@1", "clean-mirror@2"]));
  });

  it("that mends both of two faults is right whichever of them takes more", () => {
    const answer = trace(model, {
      symptom: "power",
      findings: [said("known-cut", "surface-only"), said("window-look", "damaged"), said("tube-mark", "weak")],
    });
    const his = model.faults.filter((f) => f.repair === "tube-supplier").map((f) => f.id);
    const theirs = answer.sets.filter((s) => s.faults.length > 0 && s.faults.every((f) => his.includes(f)));
    expect(theirs.some((s) => s.faults.length > 1)).toBe(true);
    const supplier = answer.repairs.find((r) => r.id === "tube-supplier")?.probability ?? 0;
    expect(supplier).toBeGreaterThanOrEqual(theirs.reduce((sum, s) => sum + s.probability, 0));
  });

  it("that a check carries out and proves makes the check worth more", () => {
    const findings = [said("known-cut", "part-through"), said("onset", "new-material"), said("last-touched", "nothing")];
    const saved = (m: typeof model) =>
      trace(m, { findings, symptom: "power" }).nextChecks.find((c) => c.check === "material-swap")?.savedMinutes ?? 0;
    const plain = { ...model, checks: model.checks.map((c) => (c.tries ? { ...c, tries: { ...c.tries, repair: "nothing" } } : c)) };
    expect(saved(model)).toBeGreaterThan(saved(plain) + 3);
  });
});

describe("what was done in vain", () => {
  /** A case in which a repair was done, its part looks good since, and the cut fails as before. */
  const inVain = (repair: string, more: readonly TraceFinding[]) =>
    trace(model, {
      symptom: "power",
      before: [{ repairs: [repair], findings: [said("known-cut", "part-through")] }],
      mended: [repair],
      findings: [said("known-cut", "part-through"), ...more],
    });

  it("and leads all the same, is told from the rest before anything that hardly anything speaks for", () => {
    const repairs = model.repairs.filter((r) => !isDear(r) && r.minutes > 0).map((r) => r.id);
    const leaves = fc.uniqueArray(
      fc
        .constantFrom(...model.checks.filter((c) => c.outcomes.length > 1 && c.kind !== "loss"))
        .map((c) => said(c.id, c.outcomes[0] as string)),
      { minLength: 3, maxLength: 24, selector: (f) => f.check },
    );
    fc.assert(
      fc.property(fc.constantFrom(...repairs), leaves, (repair, more) => {
        const { repairs: named, plan, stop, nextChecks } = inVain(repair, more);
        if (stop.reason !== "idle" || named[0]?.id !== repair || plan.includes(repair)) return;
        expect(nextChecks.filter((c) => c.bits >= 0.03 && c.minutes <= 8)).toEqual([]);
      }),
      { numRuns: 80 },
    );
  });

  it("where all else looks as it should, leaves more for a cause in no list with every look", () => {
    const looks = model.checks.filter((c) => c.sight).map((c) => said(c.id, c.outcomes[0] as string));
    const left = [0, 4, looks.length].map((n) => inVain("clean-lens", looks.slice(0, n)).none);
    expect(left[1]).toBeGreaterThan(left[0] as number);
    expect(left[2]).toBeGreaterThan(1.5 * (left[1] as number));
    expect(left[2]).toBeGreaterThan(0.1);
  });
});

describe("two causes at once", () => {
  const [flipped, loose, focus, film, rails] = ["lens-flipped", "settings-wrong", "focus-off", "mirror-dirty@2", "rails-dirty"].map(
    (id) => 2 * model.faults.findIndex((f) => f.id === id),
  ) as [number, number, number, number, number];

  it("are rarer than their rates' product, less so where one is dirt, and not at all where one is no cause of what was reported", () => {
    const weigh = setPrior(model, {}, "power");
    const rarer = (...states: [number, number]) => weigh(...states, -1) / (weigh(states[0], -1, -1) * weigh(states[1], -1, -1));
    const [both, withDirt] = [rarer(focus, loose), rarer(focus, film)];
    expect(both).toBeLessThan(withDirt);
    expect(withDirt).toBeLessThan(0.6);
    expect(rarer(focus, rails)).toBeCloseTo(1, 9);
    const three = (a: number, b: number, c: number) => weigh(a, b, c) / (weigh(a, -1, -1) * weigh(b, -1, -1) * weigh(c, -1, -1));
    expect(three(flipped, loose, focus)).toBeCloseTo(both * both, 9);
    expect(three(flipped, film, focus)).toBeCloseTo(both * withDirt, 9);
    expect(three(flipped, rails, focus)).toBeCloseTo(both, 9);
  });
});

describe("a grade", () => {
  it("says how much its optic's dirt takes: spots explain a weak cut better than film does", () => {
    const left = (grade: string) =>
      trace(model, { symptom: "power", findings: [said("known-cut", "part-through"), said("mirror-look@1", grade)] });
    const loss = (grade: string) => left(grade).stations.find((s) => s.id === "mirror-1")?.lossPercent.mid ?? 0;
    expect(loss("clear")).toBeLessThan(2);
    expect(loss("film")).toBeGreaterThan(loss("haze") + 1);
    expect(loss("spots")).toBeGreaterThan(loss("film") + 4);
  });
});
