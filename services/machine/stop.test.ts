import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Grade } from "#core/beam";
import { heldBack, roundRecords, walkOf } from "#core/rounds";
import { endRound, findRound, type Round, saveAnswers, startRound } from "#store/rounds";
import { aimByForm } from "../aim/act";
import { FormReader } from "../forms/fields";
import { gateView } from "../gate/gateView";
import { keepEntry } from "../log/keepEntry";
import { outlookView } from "../outlook/outlookView";
import { endWithoutProof, eventsOfRound } from "../rounds/close";
import { endByForm } from "../rounds/endByForm";
import { TestWorkshop } from "../testWorkshop";
import { verdict } from "../today/verdict";
import { planOf, planOfRound } from "./plans";
import { repairsDone } from "./repairsDone";
import { brokenOf, cutStopOf, stopWords } from "./stop";
import { unmendedOf } from "./unmended";

/** A workshop with a baseline and an open round of parts. */
async function inRound(parts: readonly string[]) {
  const w = await TestWorkshop.open();
  await w.ladder(14, true);
  w.day(3);
  const id = await startRound(w.store, 1, { title: "Round", parts: [...parts], requestKey: "r" }, w.nowMs);
  const round = async () => {
    const found = await findRound(w.store, 1, id);
    if (!found) throw new Error("no round");
    return found;
  };
  const { steps } = planOfRound((await w.look()).trade, await round());
  let n = 0;
  const answer = (stepId: string, said: { grade?: Grade; choice?: string }) =>
    saveAnswers(w.store, id, [{ stepId, answer: { done: true, atMs: w.nowMs, ...said }, requestKey: `a${++n}` }], w.nowMs);
  return { w, id, round, steps, answer };
}

function formOf(fields: Readonly<Record<string, string>>): FormData {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.set(name, value);
  return form;
}

const cutThrough = new URLSearchParams({ materialId: "1", speedMmPerS: "10", setPercent: "60" });
/** What each place that leads to a cut says. */
async function everywhere(w: TestWorkshop) {
  const g = await w.look();
  const gate = gateView(g, cutThrough);
  const form = new FormData();
  for (const [name, value] of Object.entries({ intent: "start", safe: "1", requestKey: `k${w.nowMs}` })) form.set(name, value);
  const aim = await aimByForm(w.services, "larkspur", new FormReader(form));
  return {
    today: verdict(g, undefined).headline,
    gate: gate.stop?.what,
    ways: gate.answer?.ways.length ?? 0,
    outlook: (await outlookView(w.services, g)).ready?.headline ?? "",
    aim: "errors" in aim ? (aim.errors[""] ?? "") : "",
  };
}

describe("what speaks against firing", () => {
  it("is said in every place that leads to a cut, until another optic is in, and nothing is offered there meanwhile", async () => {
    const w = await TestWorkshop.open();
    await w.ladder(14, true);
    w.day(3);
    await w.log("grade", { station: "mirror-2", phase: "as-found", grade: 4 });
    const broken = await everywhere(w);
    for (const words of [broken.today, broken.gate, broken.outlook, broken.aim]) expect(words).toContain("M2 is damaged");
    expect(broken.ways).toBe(0);
    w.day(4);
    // A clean mends no damage.
    await w.log("service", { station: "mirror-2", what: "cleaned" });
    expect((await everywhere(w)).gate).toBe("M2 is damaged");
    w.day(5);
    await w.log("service", { station: "mirror-2", what: "replaced" });
    const whole = await everywhere(w);
    expect(whole).toMatchObject({ gate: undefined, aim: "" });
    for (const words of [whole.today, whole.outlook]) expect(words).not.toMatch(/fire|damaged/);
    expect(whole.ways).toBeGreaterThan(0);
  });

  it("counts what an open round has seen, before it is ended", async () => {
    const { w, steps, answer } = await inRound(["lens"]);
    const found = steps.find((s) => s.station === "lens" && s.kind === "grade" && s.phase === "as-found");
    await answer(found?.id ?? "", { grade: 4 });
    const g = await w.look();
    expect(brokenOf(g)?.words).toBe("the lens is damaged");
    expect(unmendedOf(g)).toMatchObject([{ station: "lens", isDone: true }]);
    expect(stopWords(g)).toMatch(/do not fire/i);
  });

  it("counts what an open round has put in, but not that a part was taken out", async () => {
    const { w, answer } = await inRound(["replace-lens"]);
    await w.log("grade", { station: "lens", phase: "as-found", grade: 4 }, 2);
    await answer("replace-lens.out", {});
    expect(brokenOf(await w.look())?.station).toBe("lens");
    await answer("replace-lens.do", { choice: "none" });
    expect((await w.look()).out.has("lens")).toBe(true);
    await answer("replace-lens.do", { choice: "fitted" });
    expect(brokenOf(await w.look())).toBeUndefined();
  });

  it("is a lens that was left out for want of a spare: in every place, after the round as in it, until one was put in", async () => {
    const { w, id, round, steps, answer } = await inRound(["lens"]);
    for (const step of ["make-safe", "fetch", "hands", "head-off", "lens.out"]) await answer(step, {});
    await answer("lens.found", { grade: 4 });
    await answer("lens.spare", { choice: "none" });
    const walk = walkOf(steps, (await round()).answers).map((s) => s.id);
    for (const gone of ["lens.seat", "lens.in", "head-together", "focus-gauge", "power-on", "flow-seen"]) expect(walk).not.toContain(gone);
    const end = (fields: Readonly<Record<string, string>>) => endByForm(w.services, "larkspur", id, new FormReader(formOf(fields)));
    expect(await end({ intent: "apart", why: "the lens is out", requestKey: "end-a" })).toMatchObject({
      errors: { leftSafe: expect.anything() },
    });
    await end({ intent: "apart", why: "the lens is out", leftSafe: "1", requestKey: "end-b" });
    const said = await everywhere(w);
    for (const words of [said.today, said.gate, said.aim]) expect(words).toMatch(/lens is out of the machine|lens is damaged/);
    expect(said.ways).toBe(0);
    const g = await w.look();
    expect(repairsDone(g.trade, await round())).toEqual([]);
    // Going on is a round that takes nothing out twice and puts the new one in.
    const next = planOf(g.trade, ["replace-lens"], { grades: g.grades, out: g.out }).steps.map((s) => s.id);
    expect(next).not.toContain("head-off");
    expect(next).not.toContain("replace-lens.out");
    expect(next).toEqual(expect.arrayContaining(["replace-lens.do", "replace-lens.in", "head-together", "power-on"]));
    // One that puts nothing in ends unpowered too.
    expect(planOf(g.trade, ["rails"], { out: g.out }).steps.map((s) => s.id)).not.toContain("power-on");
    w.nowMs += 60_000;
    await w.log("service", { station: "lens", what: "replaced" });
    expect(stopWords(await w.look())).toBeUndefined();
  });

  it("is what was seen to fail so that nobody may fire, until the same was looked at again: no clean lifts that", async () => {
    const { w, id, answer } = await inRound(["air-feel"]);
    await answer("air-feel.feel", { choice: "none" });
    expect(stopWords(await w.look())).toMatch(/^Do not fire: the assist air: none/);
    await endWithoutProof(w.services, "larkspur", (await findRound(w.store, 1, id)) as Round, "no air");
    for (const words of Object.values(await everywhere(w)).filter((x) => typeof x === "string" && x !== "")) expect(words).toMatch(/air/);
    w.nowMs += 60_000;
    await w.log("service", { station: "air", what: "cleaned" });
    const g = await w.look();
    expect(stopWords(g)).toMatch(/air/);
    expect(planOf(g.trade, ["air"], { grades: g.grades }).steps.map((s) => s.id)).toContain("air-feel.feel");
    w.nowMs += 60_000;
    await w.log("grade", { station: "air", phase: "as-found", grade: 0, seen: "firm", step: "air-feel.feel", choice: "firm" });
    expect(stopWords(await w.look())).toBeUndefined();
  });

  it("says of turned-down power that it may be fired but not cut with: the gate answers nothing, and no ladder becomes the baseline", async () => {
    const w = await TestWorkshop.open();
    await w.ladder(14, true);
    w.day(3);
    await aimByForm(w.services, "larkspur", new FormReader(formOf({ intent: "start", safe: "1", requestKey: "aim-1" })));
    const g = await w.look();
    expect(stopWords(g)).toBeUndefined();
    expect(cutStopOf(g)).toMatchObject({ because: "turned-down" });
    const gate = gateView(g, cutThrough);
    expect([gate.stop?.because, gate.answer]).toEqual(["turned-down", undefined]);
    const rungs = Object.fromEntries(
      [8, 9, 10].flatMap((v, i) => [
        [`speed-${i}`, `${v}`],
        [`end-${i}`, i === 0 ? "dropped" : "stays"],
      ]),
    );
    const ladder = { kind: "ladder", materialId: "1", setPercent: "60", ...rungs, baseline: "1", requestKey: "ladder-1" };
    expect(await keepEntry(w.services, "larkspur", new FormReader(formOf(ladder)))).toMatchObject({
      kept: undefined,
      errors: { baseline: expect.stringMatching(/turned down/) },
    });
  });

  it("goes with the tube for its window: a new tube has one of its own, by the round's step as by the counter's", async () => {
    for (const how of ["service", "counter", "round"] as const) {
      const { w, answer } = await inRound(how === "round" ? ["tube-supplier"] : ["lens"]);
      await w.log("grade", { station: "window", phase: "as-left", grade: 3 }, 2);
      expect(brokenOf(await w.look())?.words).toBe("the exit window is burnt");
      w.day(4);
      if (how === "service") await w.log("service", { station: "tube", what: "replaced" });
      else if (how === "counter") await w.log("hours", { counterHours: 0, because: "tube-changed" });
      else {
        // Who has only asked for it has none.
        for (const said of [{}, { choice: "asked" }]) {
          await answer("tube-supplier.do", said);
          expect(brokenOf(await w.look())?.station).toBe("window");
        }
        await answer("tube-supplier.do", { choice: "done" });
      }
      expect(brokenOf(await w.look())).toBeUndefined();
    }
  });

  it("lets no cut prove a round that has seen it, and the round end without", async () => {
    const { w, id, steps, answer } = await inRound(["lens"]);
    for (const s of steps.filter((s) => s.kind !== "proof" && s.service?.what !== "replaced"))
      await answer(s.id, s.kind === "grade" ? { grade: 4 } : {});
    const end = (fields: Readonly<Record<string, string>>) => {
      const form = new FormData();
      for (const [name, value] of Object.entries({ ...fields, requestKey: `end-${fields.intent}` })) form.set(name, value);
      return endByForm(w.services, "larkspur", id, new FormReader(form));
    };
    const piece = { intent: "piece", pieceMaterialId: "1", pieceResult: "through" };
    expect(await end(piece)).toMatchObject({
      ended: undefined,
      errors: { "": expect.stringMatching(/^Do not fire: the lens is damaged/) },
    });
    expect(await end({ intent: "abandon", why: "the lens is damaged" })).toMatchObject({ ended: "abandoned" });
    expect(unmendedOf(await w.look())).toMatchObject([{ station: "lens", replace: "replace-lens" }]);
  });

  it("is the same while a round is open and once its records are in the log", async () => {
    const told = fc.array(
      fc.record({ step: fc.nat(), grade: fc.constantFrom<Grade>(0, 1, 2, 3, 4), minutes: fc.integer({ min: 1, max: 9 }) }),
      {
        maxLength: 12,
      },
    );
    await fc.assert(
      fc.asyncProperty(told, async (answers) => {
        const { w, id, round, steps, answer } = await inRound(["lens", "mirror-2", "window"]);
        for (const { step, grade, minutes } of answers) {
          w.nowMs += minutes * 60_000;
          const s = steps[step % steps.length];
          await answer(s?.id ?? "", s?.kind === "grade" ? { grade } : {});
        }
        const open = await w.look();
        const r = await round();
        expect([...heldBack(steps, r.answers).broken.keys()].includes(brokenOf(open)?.station ?? "")).toBe(brokenOf(open) !== undefined);
        expect(open.openRound?.records).toEqual(roundRecords(steps, r.answers));
        await endRound(w.store, 1, id, "abandoned", eventsOfRound(open.trade, r), w.nowMs);
        const closed = await w.look();
        expect(closed.openRound).toBeUndefined();
        const kept = (g: typeof open) => unmendedOf(g).map((u) => [u.station, u.word, u.isDone]);
        expect(kept(open)).toEqual(kept(closed));
        expect(brokenOf(open)).toEqual(brokenOf(closed));
      }),
      { numRuns: 20 },
    );
  });
});
