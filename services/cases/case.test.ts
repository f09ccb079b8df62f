import { describe, expect, it } from "vitest";
import type { RoundAnswer } from "#core/rounds";
import { type TraceAnswer, trace } from "#core/trace";
import { addFinding, listFindings, type NewCase, openCase } from "#store/cases";
import { saveAnswers, startRound } from "#store/rounds";
import { readSetting } from "#store/settings";
import { FormReader } from "../forms/fields";
import { declinedSetting } from "../machine/settingNames";
import { TestWorkshop, WEAK_CASE } from "../testWorkshop";
import { actByForm } from "./act";
import { answerView, rightWords } from "./answerView";
import { caseFindings, traceInput } from "./caseInput";
import { caseView } from "./caseView";
import { expectedAfterRepair } from "./expected";
import { headline } from "./headline";
import { cardText } from "./nextChecks";
import { checkText, faultName, faultSays, findingWords, repairName } from "./words";

/** A workshop on day 21 with a baseline, a case whose onset was day 20, and a few findings. */
async function withCase(findings: { check: string; outcome?: string; value?: number }[] = [], more: Partial<NewCase> = {}) {
  const w = await TestWorkshop.open();
  w.day(1);
  await w.ladder(15, true);
  await w.log("power", {
    setPercent: 100,
    baseline: true,
    readings: [
      { station: "tube", powerW: 79 },
      { station: "lens", powerW: 72 },
    ],
  });
  w.day(21);
  const id = await openCase(w.store, 1, { ...WEAK_CASE, ...more }, w.nowMs);
  for (const [i, f] of findings.entries()) await addFinding(w.store, id, f, `f${i}`, w.nowMs + i + 1);
  const view = async () => {
    const g = await w.look();
    const found = g.openCase?.id === id ? g.openCase : undefined;
    if (!found) throw new Error("no case");
    const stored = await listFindings(w.store, id);
    const all = caseFindings(g, found, stored);
    return { g, found, all, findings: all.now, view: await answerView({}, g, found, stored) };
  };
  return { w, view };
}

function formOf(fields: Readonly<Record<string, string>>): FormReader {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.set(name, value);
  return new FormReader(form);
}

describe("what a case reads from the log", () => {
  it("takes what the open round has found at once, and it speaks of the machine as it was until the round is ended", async () => {
    const { w, view } = await withCase();
    const looks = async () => (await view()).findings.map((f) => [f.check, f.outcome]);
    const roundId = await startRound(w.store, 1, { title: "Clean the lens", parts: ["lens"], requestKey: "r" }, w.nowMs);
    const answer = async (stepId: string, given: Omit<RoundAnswer, "atMs">) => {
      w.nowMs += 60_000;
      await saveAnswers(w.store, roundId, [{ stepId, answer: { ...given, atMs: w.nowMs }, requestKey: stepId }], w.nowMs);
    };
    await answer("lens.found", { done: true, grade: 2 });
    expect(await looks()).toContainEqual(["lens-look", "film"]);
    const before = (await view()).view.faults.find((f) => f.id === "lens-dirty");
    expect(before?.evidence.map((e) => e.check)).toContain("lens-look");
    await answer("lens.clean", { done: true });
    expect(await looks()).toContainEqual(["lens-look", "film"]);
  });

  it("takes readings since the onset, not the older ones and not baselines", async () => {
    const { w, view } = await withCase();
    await w.log("power", { setPercent: 100, readings: [{ station: "tube", powerW: 50 }] }, 5);
    await w.log(
      "power",
      {
        setPercent: 100,
        readings: [
          { station: "tube", powerW: 78 },
          { station: "lens", powerW: 60 },
        ],
      },
      20.5,
    );
    await w.ladder(11);
    const { findings } = await view();
    expect(findings.map((f) => [f.check, f.value === undefined ? f.outcome : Number(f.value.toFixed(2))])).toEqual([
      ["power@tube", 78],
      ["power@lens", 60],
      ["ladder", 0.74],
      ["known-cut", "part-through"],
    ]);
    expect(findings[2]?.sd).toBeGreaterThan(0.04);
  });

  it("takes of a station only what came after its last service", async () => {
    const { w, view } = await withCase();
    await w.log("grade", { station: "lens", phase: "as-found", grade: 3 }, 20.2);
    await w.log("grade", { station: "mirror-1", phase: "as-found", grade: 2 }, 20.2);
    await w.log("service", { station: "lens", what: "cleaned" }, 20.3);
    await w.log("grade", { station: "lens", phase: "as-left", grade: 0 }, 20.4);
    const looks = (await view()).findings.filter((f) => f.check.includes("look"));
    expect(looks.map((f) => `${f.check} ${f.outcome}`)).toEqual(["mirror-look@1 film", "lens-look clear"]);
  });

  it("passes over watts after a station that was serviced since, and keeps those after the others", async () => {
    const { w, view } = await withCase();
    const readings = [
      { station: "mirror-1", powerW: 74 },
      { station: "lens", powerW: 50 },
    ];
    await w.log("power", { setPercent: 100, readings }, 20.2);
    await w.log("service", { station: "lens", what: "cleaned" }, 20.3);
    const watts = (await view()).findings.map((f) => f.check).filter((c) => c.startsWith("power@"));
    expect(watts).toEqual(["power@mirror-1"]);
  });

  it("weighs a logged cut by what its speed and power asked of the beam", async () => {
    const nothingWrong = async (speedMmPerS: number) => {
      const { w, view } = await withCase();
      w.day(22);
      await w.log("cut", { materialId: 1, speedMmPerS, setPercent: 60, result: "hangs" });
      const { g, found, all, findings } = await view();
      expect(findings.at(-1)).toMatchObject({ check: "known-cut", neededLnRatio: expect.closeTo(Math.log(speedMmPerS / 15.49), 2) });
      return trace(g.trade.model, traceInput(g, found, all)).nothingWrong;
    };
    // A cut at the very edge may hang on a good machine; a slow one may not.
    const edge = await nothingWrong(15);
    expect(await nothingWrong(9)).toBeLessThan(edge / 3);
  });

  it("without a baseline takes only cuts at the usual setting", async () => {
    const w = await TestWorkshop.open();
    w.day(21);
    const id = await openCase(w.store, 1, { ...WEAK_CASE, findings: [] }, w.nowMs);
    await w.log("cut", { materialId: 1, speedMmPerS: 8, setPercent: 60, result: "through" }, 20.5);
    await w.log("cut", { materialId: 1, speedMmPerS: 14, setPercent: 60, result: "hangs" }, 20.6);
    const g = await w.look();
    const found = g.openCase?.id === id ? g.openCase : undefined;
    expect(found && caseFindings(g, found, []).now.map((f) => f.outcome)).toEqual(["hangs"]);
  });

  it("hands the engine use, opened seats and the baseline", async () => {
    const { w, view } = await withCase();
    await w.log("service", { station: "lens", what: "seat-opened" }, 19);
    await w.log("service", { station: "coolant", what: "replaced" }, 11);
    await w.log("hours", { counterHours: 912 }, 21);
    const { g, found, all } = await view();
    const input = traceInput(g, found, all);
    expect(input.usage?.seatsOpened).toEqual([{ station: "lens", daysAgo: expect.closeTo(2, 3) }]);
    expect(input.usage).toMatchObject({ tubeHours: 912, ratedTubeHours: 3000, daysSinceCoolantChange: expect.closeTo(10, 3) });
    expect(input.baseline).toEqual({ powerW: { tube: 79, lens: 72 }, setPercent: 100 });
  });
});

describe("what a case says", () => {
  it("says no more of a second fault, nor of the right repair, than what leads lets it", async () => {
    const w = await TestWorkshop.open();
    const g = await w.look();
    const chances = (lens: number) => [
      { id: "nozzle-blocked", probability: 0.97, heavy: 1 },
      { id: "lens-dirty", probability: lens, heavy: 1 },
    ];
    const answer = (lens: number, plan: string[]) =>
      ({
        ...{ none: 0.01, nothingWrong: 0, symptom: "power", bySize: [0.3, 0.7], repair: "clean-nozzle", plan },
        ...{ faults: chances(lens), repairs: [{ id: "clean-nozzle", probability: 0.61 }] },
        sets: [{ faults: ["nozzle-blocked", "lens-dirty"], probability: lens }],
      }) as unknown as TraceAnswer;
    const says = (lens: number, plan: string[]) => headline(g, answer(lens, plan), chances(lens));
    expect(says(0.35, ["clean-nozzle"])).toBe("Almost certainly the nozzle is narrowed, and possibly the lens is dirty as well.");
    for (const sure of [says(0.6, ["clean-nozzle"]), says(0.35, ["clean-nozzle", "clean-lens"])])
      expect(sure).toBe("Almost certainly the nozzle is narrowed, and the lens is dirty as well.");
    expect(rightWords(g, answer(0.35, []))).toMatch(/there with 97\s%, and probably takes the most$/);
    const plain = { ...answer(0.35, []), repairs: [{ id: "clean-nozzle", probability: 0.94 }] };
    expect(rightWords(g, plain)).toMatch(/there with 97\s%$/);
    // The figure is that of the fault in the list beside it, whatever it takes.
    const little = { ...answer(0.35, []), repairs: [{ id: "clean-nozzle", probability: 0.3 }] };
    expect(rightWords(g, little)).toMatch(/there with 97\s%, though more may be missing elsewhere$/);
  });

  it("answers first, and shows reasons with their sign", async () => {
    const { view } = await withCase([
      { check: "bed-map", outcome: "falls-with-distance" },
      { check: "onset", outcome: "sudden" },
      { check: "mirror-look@2", outcome: "spots" },
      { check: "lens-look", outcome: "clear" },
      { check: "tape@2", outcome: "off" },
      { check: "mirror-seat@1", outcome: "right" },
      { check: "known-cut", outcome: "surface-only" },
    ]);
    const { view: v } = await view();
    expect(v.headline).toMatch(/M1 is a little out of alignment/);
    expect(v.faults[0]?.name).toBe("M1 out of alignment");
    expect(v.faults.map((f) => f.name)).toContain("Dirt on M2");
    const film = v.faults.find((f) => f.id === "mirror-dirty@2")?.evidence.find((e) => e.check === "mirror-look@2");
    expect(film).toMatchObject({ words: "M2 showed spots", weight: "strongly" });
    // A mark or a reading settles it first.
    expect(v.next.length).toBeGreaterThan(0);
  });

  it("says in its first sentence of two things what its second says: both, either, or one", async () => {
    const told = async (...more: { check: string; outcome: string }[]) => {
      const { view } = await withCase([
        { check: "bed-map", outcome: "falls-with-distance" },
        { check: "mirror-look@2", outcome: "spots" },
        { check: "lens-look", outcome: "clear" },
        ...more,
      ]);
      return (await view()).view;
    };
    const seen: string[] = [];
    for (const more of [
      [],
      [{ check: "onset", outcome: "sudden" }],
      [{ check: "onset", outcome: "gradual" }],
      [{ check: "known-cut", outcome: "surface-only" }],
      [
        { check: "tape@2", outcome: "clipped" },
        { check: "known-cut", outcome: "surface-only" },
      ],
    ]) {
      const { headline, lead } = await told(...more);
      const explain = /Two faults are likelier/.test(lead) ? "two" : /about as well/.test(lead) ? "alike" : "one";
      seen.push(explain);
      if (/ as well\.$/.test(headline)) expect([explain, headline]).toEqual(["two", headline]);
      if (/, or both\.$/.test(headline)) expect(explain).not.toBe("one");
      if (explain === "one") expect(headline).not.toMatch(/ as well\.$|both/);
    }
    expect(new Set(seen).size).toBeGreaterThan(1);
  });

  it("offers the repair with its minutes and its reason once it is sure", async () => {
    const { view } = await withCase([
      { check: "last-touched", outcome: "seat-opened" },
      { check: "lens-side", outcome: "flipped" },
      { check: "focus-ramp", value: 1.5 },
    ]);
    const { view: v } = await view();
    expect(v.headline).toBe("Almost certainly the lens is upside down.");
    expect(v.repair).toMatchObject({ id: "turn-lens", name: "Turn the lens bulge up", parts: ["turn-lens"] });
    expect(v.repair?.because).toMatch(/^Seen: lens upside down\. It explains/);
    expect(Number(v.repair?.minutes)).toBeGreaterThan(10);
  });

  it("asks nothing that was declined, of a meter none of its places, and remembers it with the machine", async () => {
    const { w, view } = await withCase();
    const decline = (intent: string, check: string) => actByForm(w.services, "larkspur", 1, formOf({ intent, check }));
    await decline("decline", "power@lens");
    await decline("decline", "air-feel");
    const { g, found, all } = await view();
    const asked = trace(g.trade.model, traceInput(g, found, all)).nextChecks.map((c) => c.check);
    expect(asked.filter((c) => c.startsWith("power@") || c === "air-feel")).toEqual([]);
    // What nobody remembers is unknown in this case, and asked in the next.
    await decline("decline", "onset");
    expect((await view()).g.openCase?.unknown).toContain("onset");
    expect(await readSetting(w.store, declinedSetting(1))).not.toContain("onset");
    await decline("ask-again", "onset");
    await decline("ask-again", "power@lens");
    expect((await view()).g.declined).toEqual(["air-feel"]);
  });

  it("asks for nothing that fires while an optic is broken, but to try its spare, until another is in", async () => {
    const { w, view } = await withCase();
    const asked = async () => {
      const { g, found, all } = await view();
      const ids = trace(g.trade.model, traceInput(g, found, all)).nextChecks.map((c) => c.check);
      return ids.filter((id) => g.trade.model.checks.some((c) => c.id === id && c.fires));
    };
    expect(await asked()).toEqual(expect.arrayContaining(["ladder", "kerf", "tape@2", "power@lens", "material-swap"]));
    w.day(22);
    await w.log("grade", { station: "lens", phase: "as-found", grade: 4 });
    expect((await asked()).filter((id) => id !== "lens-swap")).toEqual([]);
    w.day(23);
    await w.log("service", { station: "lens", what: "replaced" });
    expect(await asked()).toContain("kerf");
    // What protects was seen to fail: not even a spare is tried.
    w.day(24);
    const air = { station: "air", phase: "as-found", step: "air-feel.feel" } as const;
    await w.log("grade", { ...air, grade: 3, seen: "none", choice: "none", stops: true });
    expect(await asked()).toEqual([]);
    w.day(25);
    await w.log("grade", { ...air, grade: 0, seen: "firm", choice: "firm" });
    expect(await asked()).toContain("kerf");
  });

  it("keeps what a case was when it closed, whatever is learned later", async () => {
    const { w, view } = await withCase([{ check: "lens-look", outcome: "film" }]);
    const before = await view();
    await actByForm(w.services, "larkspur", 1, formOf({ intent: "close", why: "enough" }));
    w.day(25);
    await w.log("hours", { counterHours: 940 });
    await w.log("service", { station: "mirror-1", what: "seat-opened" });
    const later = await caseView(w.services, await w.look(), 1, null);
    expect(later.view.headline).toBe(before.view.headline);
    expect(later.view.faults).toEqual(JSON.parse(JSON.stringify(before.view.faults)));
  });

  it("calls out watts that rise along the path, by the stations' names", async () => {
    const { w, view } = await withCase();
    await w.log(
      "power",
      {
        setPercent: 100,
        readings: [
          { station: "tube", powerW: 50 },
          { station: "lens", powerW: 70 },
        ],
      },
      20.5,
    );
    const { view: v } = await view();
    expect(v.suspect[0]?.text).toMatch(/after Lens than after Exit window/);
  });

  it("says so when nothing seems wrong", async () => {
    const { view } = await withCase([
      { check: "ladder", value: 1 },
      { check: "known-cut", outcome: "through" },
    ]);
    const { view: v } = await view();
    expect(v.headline).toMatch(/Possibly nothing is wrong/);
    expect(v.nothingWrong).toBeDefined();
  });

  it("keeps to faults that can cause what was reported", async () => {
    const { view } = await withCase([{ check: "raster-edge", outcome: "wavy" }], { symptom: "motion", findings: [] });
    const { view: v } = await view();
    expect(v.headline).toMatch(/the rails are dirty/);
    expect(v.faults.map((f) => f.id)).not.toContain("lens-dirty");
    // What may be wrong besides is no suspicion of it: the lens is always a little.
    expect(v.suspicion.lens?.probability).toBe(0);
    expect(v.suspicion.motion?.probability).toBeGreaterThan(0.3);
    expect(v.lead).not.toMatch(/lens|mirror|M\d/);
  });

  it("expects after the repair what wear alone would leave", async () => {
    const { w, view } = await withCase();
    await w.ladder(9);
    const { g, found } = await view();
    const expected = expectedAfterRepair(g, found.onsetMs) as number;
    expect(expected).toBeGreaterThan(0.95);
    expect(g.condition?.ratio).toBeLessThan(expected - 0.1);
  });
});

describe("a card", () => {
  it("asks for a figure only where there is something to compare it with", async () => {
    const w = await TestWorkshop.open();
    const unitOf = async (check: string) => cardText(await w.look(), check).value?.unit;
    expect([await unitOf("tube-current"), await unitOf("coolant-flow"), await unitOf("coolant-temp")]).toEqual([undefined, "L/min", "°C"]);
    await w.log("current", { currentMa: 22, setPercent: 100, baseline: true });
    expect(await unitOf("tube-current")).toBe("mA");
  });
});

describe("the trade's words", () => {
  it("name parts by what the owner calls them", async () => {
    const { trade } = await (await TestWorkshop.open()).look();
    expect(faultName(trade, "mirror-dirty@3")).toBe("Dirt on M3");
    expect(faultName(trade, "aim-off@0")).toBe("The tube out of alignment");
    expect(faultSays(trade, "mirror-seat@1")).toBe("M1 sits wrong in its seat");
    expect(repairName(trade, "aim@2")).toBe("Align M2");
    expect(checkText(trade, "power@mirror-2")).toMatchObject({ title: "Watts after M2", value: { unit: "W" } });
    expect(checkText(trade, "power@lens").title).toBe("Watts after the lens");
    expect(findingWords(trade, { check: "power@lens", value: 45.25 })).toBe("45.3 W after the lens");
    expect(findingWords(trade, { check: "ladder", value: 0.743 })).toBe("ladder at 74 %");
    expect(findingWords(trade, { check: "tape@2", outcome: "clipped" })).toBe("mark on M2 clipped");
  });
});
