import { sql } from "kysely";
import { describe, expect, it } from "vitest";
import { allEvents } from "#core/events";
import type { TraceFinding } from "#core/trace";
import { listFindings, openCase } from "#store/cases";
import { findRound, type Round, saveAnswers, startRound } from "#store/rounds";
import { listCases } from "#store/testLists";
import { everFound } from "../cases/caseInput";
import type { OpenCase } from "../machine/gathered";
import { planOfRound } from "../machine/plans";
import { DAY, rungs, START, TestWorkshop, WEAK_CASE } from "../testWorkshop";
import { bought, closeRound, failedCheck, finishJudging, type RoundProof } from "./close";
import { offerOf } from "./offer";

/** A workshop with a baseline, a case open since day 20, and a repair round for it. */
async function repairRound(
  parts: string[],
  findings: readonly TraceFinding[] = [],
): Promise<{ w: TestWorkshop; round: () => Promise<Round>; caseId: number }> {
  const w = await TestWorkshop.open();
  w.day(1);
  await w.ladder(15, true);
  w.day(21);
  await w.ladder(11);
  const caseId = await openCase(
    w.store,
    1,
    {
      title: "Weak",
      sign: "x",
      symptom: "power",
      onsetMs: START + 20 * DAY,
      requestKey: "c",
      findings: [{ check: "known-cut", outcome: "hangs" }, ...findings],
    },
    w.nowMs,
  );
  w.day(22);
  const id = await startRound(w.store, 1, { title: "Clean the lens", parts, caseId, requestKey: "r" }, w.nowMs);
  const done = parts.map((p) => ({
    stepId: /^(lens|mirror)/.test(p) ? `${p}.clean` : `${p}.do`,
    answer: { done: true as const, atMs: w.nowMs },
    requestKey: `done-${p}`,
  }));
  await saveAnswers(w.store, id, done, w.nowMs);
  const round = async () => {
    const found = await findRound(w.store, 1, id);
    if (!found) throw new Error("no round");
    return found;
  };
  return { w, round, caseId };
}
const ladder = (droppedTo: number) => ({ materialId: 1, setPercent: 60, rungs: rungs(droppedTo) });
const byLadder = (droppedTo: number): RoundProof => ({ kind: "ladder", ladder: ladder(droppedTo) });
const close = (w: TestWorkshop, round: Round, proof: RoundProof, sent = w.sent("round end")) =>
  closeRound(w.services, "larkspur", round, proof, sent);

describe("closing a repair round", () => {
  it("with a ladder back at its expected height closes the case, and logs what was done", async () => {
    const { w, round } = await repairRound(["lens"]);
    const r = await round();
    const given = [
      { stepId: "lens.found", answer: { done: true, grade: 2, atMs: w.nowMs }, requestKey: "a" },
      { stepId: "lens.clean", answer: { done: true, atMs: w.nowMs }, requestKey: "b" },
    ] as const;
    await saveAnswers(w.store, r.id, given, w.nowMs);
    await close(w, await round(), byLadder(15));
    const [closed] = await listCases(w.store, 1);
    expect(closed?.closedMs).toBe(w.nowMs);
    expect(closed?.closing).toMatchObject({ repair: "Clean the lens", proof: expect.stringContaining("of best") });
    expect(closed?.closing?.faults).toContain("lens-dirty");
    const g = await w.look();
    expect(
      allEvents(g.log)
        .filter((e) => e.roundId === r.id)
        .map((e) => e.kind),
    ).toEqual(["grade", "service", "ladder"]);
    expect(g.openRound).toBeUndefined();
    expect(bought(g, ladder(15), w.nowMs)?.effective).toMatchObject({ kind: "ratio", ratio: expect.closeTo(15.49 / 11.49, 1) });
  });

  it("credits its end to what ended it: not to a mirror wiped in passing, but to a lens that its clean put back the right way up", async () => {
    const creditedBy = async (parts: string[], findings: readonly TraceFinding[]) => {
      const { w, round } = await repairRound(parts, findings);
      await close(w, await round(), byLadder(15));
      return (await listCases(w.store, 1))[0]?.closing?.faults;
    };
    const spots: TraceFinding = { check: "lens-look", outcome: "spots" };
    expect(await creditedBy(["lens", "mirror-3"], [spots, { check: "mirror-look@3", outcome: "haze" }])).toEqual(["lens-dirty"]);
    expect(await creditedBy(["lens", "mirror-3"], [spots, { check: "mirror-look@3", outcome: "spots" }])).toHaveLength(2);
    expect(await creditedBy(["lens"], [{ check: "lens-side", outcome: "flipped" }])).toEqual(["lens-flipped"]);
  });

  it("with a ladder as weak as before leaves the case open, the proof standing as a finding", async () => {
    const { w, round, caseId } = await repairRound(["lens"]);
    await close(w, await round(), byLadder(11));
    const [open] = await listCases(w.store, 1);
    expect(open).toMatchObject({ id: caseId, closedMs: undefined });
    const g = await w.look();
    expect(g.ladders.at(-1)?.event).toMatchObject({ caseId });
  });

  it("believes a ladder that drops what had failed, with or without a baseline, and names what was done", async () => {
    // Nothing says what best is: the usual cut failed, the lens was seated again, and the ladder drops at its speed.
    const w = await TestWorkshop.open();
    w.day(21);
    const failed = { materialId: 1, speedMmPerS: 14, setPercent: 60, result: "hangs" as const };
    await w.log("cut", failed);
    w.nowMs += 60_000;
    const caseId = await openCase(w.store, 1, { ...WEAK_CASE, requestKey: "c" }, w.nowMs);
    const id = await startRound(w.store, 1, { title: "Seat the lens", parts: ["seat-lens"], caseId, requestKey: "r" }, w.nowMs);
    const find = async () => (await findRound(w.store, 1, id)) as Round;
    const steps = planOfRound((await w.look()).trade, await find()).steps;
    for (const s of steps) {
      if (s.kind === "proof") continue;
      w.nowMs += 1000;
      const answer = { done: true as const, atMs: w.nowMs, ...(s.seen?.[0] ? { choice: s.seen[0].id } : {}) };
      await saveAnswers(w.store, id, [{ stepId: s.id, answer, requestKey: s.id }], w.nowMs);
    }
    w.nowMs += 60_000;
    await close(w, await find(), byLadder(15));
    const [closed] = await listCases(w.store, 1);
    expect(closed?.closedMs).toBe(w.nowMs);
    expect(closed?.closing).toMatchObject({
      repair: "Seat the lens",
      proof: expect.stringMatching(/dropped to 15 mm\/s, where 14 had failed/),
    });
  });

  it("is among the answers of a case, bound or new baseline, as far as the usual cut goes", async () => {
    for (const [droppedTo, baseline, outcome] of [
      [15, false, "through"],
      [11, false, "part-through"],
      [15, true, "through"],
    ] as const) {
      const w = await TestWorkshop.open();
      w.day(21);
      const caseId = await openCase(w.store, 1, { ...WEAK_CASE, requestKey: "c" }, w.nowMs);
      w.nowMs += 60_000;
      await w.ladder(droppedTo, baseline);
      const g = await w.look();
      const found = everFound(g, g.openCases.find((c) => c.id === caseId) as OpenCase, []);
      expect(found).toContainEqual(expect.objectContaining({ check: "known-cut", outcome }));
    }
  });

  it("with every rung dropped closes the case as well: a bound above what was expected", async () => {
    const { w, round } = await repairRound(["lens"]);
    await close(w, await round(), byLadder(17));
    expect((await listCases(w.store, 1))[0]?.closedMs).toBeDefined();
  });

  it("with the failed test repeated closes on a pass, and adds a finding on a fail", async () => {
    const failing = await repairRound(["set-focus"]);
    await close(failing.w, await failing.round(), { kind: "repeat", check: "known-cut", outcome: "hangs" });
    expect((await listCases(failing.w.store, 1))[0]?.closedMs).toBeUndefined();
    expect(await listFindings(failing.w.store, failing.caseId)).toHaveLength(2);
    const passing = await repairRound(["set-focus"]);
    await close(passing.w, await passing.round(), { kind: "repeat", check: "known-cut", outcome: "through" });
    expect((await listCases(passing.w.store, 1))[0]?.closing).toMatchObject({
      faults: ["focus-off"],
      proof: expect.stringContaining("known-cut"),
    });
  });

  it("sent twice writes once; a proof from another device after it is kept as an entry of its own", async () => {
    const { w, round } = await repairRound(["lens"]);
    const r = await round();
    const sent = w.sent("round end");
    expect(await close(w, r, byLadder(15), sent)).toBe("closed");
    expect(await close(w, r, byLadder(15), sent)).toBe("closed");
    const before = (await w.look()).ladders.length;
    expect(await close(w, r, byLadder(8))).toBe("logged");
    const g = await w.look();
    expect([...g.ladders].filter((l) => l.event.roundId === r.id)).toHaveLength(1);
    expect(g.ladders).toHaveLength(before + 1);
  });

  it("logs an answer that another device gave after the closing form was read", async () => {
    const { w, round } = await repairRound(["lens"]);
    const read = await round();
    const late = { stepId: "lens.found", answer: { done: true, grade: 4, atMs: w.nowMs }, requestKey: "late" } as const;
    await saveAnswers(w.store, read.id, [late], w.nowMs);
    await close(w, read, byLadder(15));
    expect(allEvents((await w.look()).log).flatMap((e) => (e.kind === "grade" ? [e.payload.grade] : []))).toEqual([4]);
  });

  it("is kept with its proof before that is weighed: what fails then leaves the case to the next start, and once", async () => {
    const { w, round } = await repairRound(["lens"]);
    await sql`CREATE TRIGGER stop BEFORE UPDATE ON trace_case BEGIN SELECT RAISE(ABORT, 'power cut'); END`.execute(w.store);
    await expect(close(w, await round(), byLadder(15))).rejects.toThrow("power cut");
    expect((await round()).status).toBe("closed");
    expect(allEvents((await w.look()).log).filter((e) => e.roundId !== undefined)).not.toEqual([]);
    expect((await listCases(w.store, 1))[0]?.closedMs).toBeUndefined();
    await sql`DROP TRIGGER stop`.execute(w.store);
    const keptMs = w.nowMs;
    w.day(90);
    expect(await finishJudging(w.services)).toBe(1);
    expect((await listCases(w.store, 1))[0]).toMatchObject({ closedMs: keptMs, closing: { repair: "Clean the lens" } });
    expect(await finishJudging(w.services)).toBe(0);
  });

  it("is all or nothing by itself: where the round cannot be ended nothing of it is in the log", async () => {
    const { w, round } = await repairRound(["lens"]);
    await sql`CREATE TRIGGER stop BEFORE UPDATE ON round BEGIN SELECT RAISE(ABORT, 'power cut'); END`.execute(w.store);
    await expect(close(w, await round(), byLadder(15))).rejects.toThrow("power cut");
    expect((await round()).status).toBe("open");
    expect(allEvents((await w.look()).log).filter((e) => e.roundId !== undefined)).toEqual([]);
  });
});

describe("the test that failed", () => {
  it("is the first finding that spoke of a symptom", async () => {
    const g = await (await TestWorkshop.open()).look();
    expect(
      failedCheck(g, [
        { check: "onset", outcome: "sudden" },
        { check: "known-cut", outcome: "through" },
        { check: "flame", outcome: "more" },
      ]),
    ).toBe("flame");
    expect(failedCheck(g, [{ check: "onset", outcome: "sudden" }])).toBeUndefined();
  });
});

describe("the round on offer", () => {
  it("is every optic's where nobody looked yet, then the next planned one", async () => {
    const w = await TestWorkshop.open();
    // What nobody ever inspected is all inspected first.
    expect(offerOf(await w.look())).toMatchObject({
      neverGraded: true,
      plannedFor: undefined,
      parts: expect.arrayContaining(["lens", "nozzle", "mirror-3", "mirror-2", "mirror-1", "window"]),
    });
    await w.log("grade", { station: "lens", phase: "as-found", grade: 0 });
    const g = await w.look();
    const offer = offerOf(g);
    expect(offer).toMatchObject({ anyDue: false, urged: false });
    expect(offer.plannedFor).toBeDefined();
    expect(offer.parts.toSorted()).toEqual(g.plan.rounds[0]?.tasks.toSorted());
  });

  it("pulls in what is worth it beside a due task, with the whole round's minutes", async () => {
    const w = await TestWorkshop.open();
    w.day(6);
    await w.log("hours", { counterHours: 911 });
    await w.log("grade", { station: "mirror-2", phase: "as-found", grade: 0 }, 0);
    const offer = offerOf(await w.look());
    expect(offer.anyDue).toBe(true);
    expect(offer.parts).toEqual(expect.arrayContaining(["lens", "nozzle", "mirror-3"]));
    expect(offer.lines.find((l) => l.id === "lens")).toMatchObject({ late: true, due: "3 smoke hours overdue" });
    expect(offer.lines.find((l) => l.id === "nozzle")?.due).toMatch(/^due in 5 smoke hours/);
    expect(offer.minutes).toBeGreaterThan(offer.lines.reduce((s, l) => s + l.minutes, 0));
  });
});
