/** What is mended in the course of a case by other hands than its own round: the log, another round, one that was given up. */

import { describe, expect, it } from "vitest";
import { LAYOUT_IDS } from "#core/machine";
import type { RoundAnswer } from "#core/rounds";
import { addFinding, closedCases, listFindings, openCase } from "#store/cases";
import { findRound, saveAnswers, startRound } from "#store/rounds";
import { FormReader } from "../forms/fields";
import { repairsOfService } from "../machine/repairsDone";
import { closeRound, endWithoutProof } from "../rounds/close";
import { rungs, TestWorkshop, WEAK_CASE } from "../testWorkshop";
import { actByForm } from "./act";
import { answered } from "./answered";
import { answerView } from "./answerView";
import { caseFindings, traceInput } from "./caseInput";
import { reportView } from "./reportView";

/** Weak since day 20, and film seen on the lens on day 21; the clock stands at day 22. */
async function filmOnTheLens() {
  const w = await TestWorkshop.worked();
  const id = await openCase(w.store, 1, { ...WEAK_CASE, findings: [{ check: "known-cut", outcome: "hangs" }] }, w.nowMs);
  await addFinding(w.store, id, { check: "lens-look", outcome: "film" }, "film", w.nowMs + 1);
  w.day(22);
  const view = async () => {
    const g = await w.look();
    const [found] = g.openCases;
    if (!found) throw new Error("closed");
    const stored = await listFindings(w.store, id);
    const all = caseFindings(g, found, stored);
    const input = traceInput(g, found, all);
    const { faults } = await answered({}, g.trade.model, input);
    const chances = new Map(faults.map((f) => [f.id, f.probability]));
    return { all, input, chances, ...(await answerView(w.services, g, found, stored)) };
  };
  /** A round with some of its steps answered, one after the other. */
  const round = async (steps: readonly (readonly [string, Omit<RoundAnswer, "atMs">])[], caseId?: number) => {
    const about = { title: "Only the lens", parts: ["lens"], requestKey: "r", ...(caseId === undefined ? {} : { caseId }) };
    const roundId = await startRound(w.store, 1, about, w.nowMs);
    for (const [stepId, answer] of steps) {
      w.nowMs += 60_000;
      await saveAnswers(w.store, roundId, [{ stepId, answer: { ...answer, atMs: w.nowMs }, requestKey: stepId }], w.nowMs);
    }
    w.nowMs += 60_000;
    const started = await findRound(w.store, 1, roundId);
    if (!started) throw new Error("no round");
    return started;
  };
  return { w, id, view, round };
}

describe("a clean that was told to the log while a case was open", () => {
  it("is an event of the case: the film was before it, and the test that failed is to be made first", async () => {
    const { w, view } = await filmOnTheLens();
    expect((await view()).headline).toMatch(/lens is dirty/);
    await w.log("service", { station: "lens", what: "cleaned" });
    w.nowMs += 60_000;
    const since = await view();
    expect(since.all.now.map((f) => f.check)).toEqual([]);
    expect(since.input.mended).toEqual(["clean-lens"]);
    expect(since.headline).toBe("First repeat the test that failed.");
    expect(since.lead).toMatch(/^Done since it failed: Clean the lens\. If it still fails: /);
    expect(since.next[0]?.id).toBe("known-cut");
    expect(since.repair).toBeUndefined();
    expect(since.straight?.id).not.toBe("clean-lens");
  });

  it("ends the case where that test passes, as what it had most likely been", async () => {
    const { w, id, view } = await filmOnTheLens();
    await w.log("service", { station: "lens", what: "cleaned" });
    await w.log("service", { station: "mirror-1", what: "cleaned" });
    w.nowMs += 60_000;
    await addFinding(w.store, id, { check: "known-cut", outcome: "through" }, "again", w.nowMs);
    const { tried, headline } = await view();
    expect(headline).toBe("Mended: what failed passes now.");
    expect([tried?.faults, tried?.name]).toEqual([["lens-dirty"], "Clean the lens"]);
    const form = new FormData();
    form.set("intent", "tried");
    expect(await actByForm(w.services, "larkspur", id, new FormReader(form))).toEqual({ done: true });
    const [closed] = await closedCases(w.store, 1, 5);
    expect(closed?.closing).toMatchObject({ repair: "Clean the lens", faults: ["lens-dirty"], proof: "usual cut drops" });
    const { rounds } = await reportView(w.services, await w.look(), id);
    expect(rounds).toEqual([expect.objectContaining({ words: "Clean the lens, Clean M1", day: expect.stringMatching(/^in the log, /) })]);
  });

  it("ends it only when all that failed was made again: after the cut the ladder, and no easier cut in its place", async () => {
    const { w, id, view } = await filmOnTheLens();
    await w.ladder(11);
    w.nowMs += 60_000;
    await w.log("service", { station: "lens", what: "cleaned" });
    w.nowMs += 60_000;
    expect((await view()).next[0]?.id).toBe("known-cut");
    await w.log("cut", { materialId: 1, speedMmPerS: 8, setPercent: 60, result: "through" });
    w.nowMs += 60_000;
    const easy = await view();
    expect([easy.tried, easy.next[0]?.id]).toEqual([undefined, "ladder"]);
    await addFinding(w.store, id, { check: "known-cut", outcome: "through" }, "again", w.nowMs);
    w.nowMs += 60_000;
    const cut = await view();
    expect([cut.tried, cut.next[0]?.id]).toEqual([undefined, "ladder"]);
    await w.ladder(15);
    w.nowMs += 60_000;
    expect((await view()).tried).toMatchObject({ faults: ["lens-dirty"], proof: expect.stringContaining("ladder") });
  });

  it("is believed no more and no less than the same clean in the case's own round, once a ladder is as weak as before", async () => {
    const byHand = await filmOnTheLens();
    await byHand.w.log("service", { station: "lens", what: "cleaned" });
    byHand.w.nowMs += 60_000;
    await byHand.w.ladder(11);
    byHand.w.nowMs += 60_000;
    const own = await filmOnTheLens();
    const round = await own.round([["lens.clean", { done: true }]], own.id);
    await closeRound(
      own.w.services,
      "larkspur",
      round,
      { kind: "ladder", ladder: { materialId: 1, setPercent: 60, rungs: rungs(11) } },
      own.w.sent("end"),
    );
    own.w.nowMs += 60_000;
    const [one, other] = [await byHand.view(), await own.view()];
    expect(one.tried).toBeUndefined();
    expect(one.faults[0]?.id).not.toBe("lens-dirty");
    for (const [id, chance] of one.chances) expect([id, Math.abs(chance - (other.chances.get(id) ?? 0)) < 0.05]).toEqual([id, true]);
    expect(one.input.before?.[0]?.findings.map((f) => f.check)).toEqual(other.input.before?.[0]?.findings.map((f) => f.check));
  });
});

describe("a round that is not the case's own", () => {
  it("mends what it cleaned, and what it found was before that", async () => {
    const { w, view, round } = await filmOnTheLens();
    const only = await round([
      ["lens.found", { done: true, grade: 2 }],
      ["lens.clean", { done: true }],
      ["lens.left", { done: true, grade: 0 }],
    ]);
    await closeRound(
      w.services,
      "larkspur",
      only,
      { kind: "ladder", ladder: { materialId: 1, setPercent: 60, rungs: rungs(15) } },
      w.sent("end"),
    );
    w.nowMs += 60_000;
    const { all, tried } = await view();
    expect(all.before.map((b) => b.findings.map((f) => `${f.check} ${f.outcome}`))).toEqual([
      ["known-cut hangs", "lens-look film", "lens-look film"],
    ]);
    expect(all.now.map((f) => f.check)).toEqual(["lens-look", "ladder"]);
    expect(tried?.faults).toEqual(["lens-dirty"]);
  });

  it("given up half way counts for what was done of it, and for nothing else", async () => {
    const { w, id, view, round } = await filmOnTheLens();
    const begun = await round([["lens.found", { done: true, grade: 2 }]], id);
    await endWithoutProof(w.services, "larkspur", begun, "called away");
    expect((await view()).input.mended).toEqual([]);
    const again = await filmOnTheLens();
    const cleaned = await again.round(
      [
        ["lens.out", { done: true }],
        ["lens.found", { done: true, grade: 2 }],
        ["lens.clean", { done: true }],
        ["lens.left", { done: true, grade: 0 }],
        ["lens.seat", { done: true }],
        ["lens.in", { done: true }],
      ],
      again.id,
    );
    await endWithoutProof(again.w.services, "larkspur", cleaned, "no ply left");
    const after = await again.view();
    expect(after.input.mended).toContain("clean-lens");
    expect(after.headline).toBe("First repeat the test that failed.");
  });
});

describe("a case left open for months", () => {
  it("is answered as fast as ever, of what was found since the last of many weekly cleans", async () => {
    const { w, view } = await filmOnTheLens();
    const { stations } = (await w.look()).trade.layout;
    for (let week = 0; week < 12; week++) {
      for (const { id } of stations.filter((s) => s.role !== "tube")) await w.log("service", { station: id, what: "cleaned" });
      w.nowMs += 3_600_000;
      await w.ladder(11);
      w.nowMs += 7 * 86_400_000;
    }
    const { all, input, history } = await view();
    expect(all.longAgo.length).toBeGreaterThan(5);
    expect([1, 2, 3]).toContain(input.before?.length);
    expect(history.some((h) => h.words === "lens showed film, before the repair")).toBe(true);
    expect(input.mended).toEqual(expect.arrayContaining(["clean-lens", "clean-mirror@1"]));
  });
});

describe("a service in the log", () => {
  it("is the repair of each optic and of what was changed; what says nothing for certain is none", async () => {
    for (const layout of LAYOUT_IDS) {
      const w = await TestWorkshop.open(layout);
      const { trade } = await w.look();
      for (const { id, role } of trade.layout.stations.filter((s) => s.role !== "tube")) {
        for (const what of ["cleaned", "replaced"] as const)
          expect([id, repairsOfService(trade, { station: id, what })]).not.toEqual([id, []]);
        expect(repairsOfService(trade, { station: id, what: "checked" })).toEqual([]);
        if (role === "mirror") expect(repairsOfService(trade, { station: id, what: "cleaned" })).toEqual([`clean-mirror@${id.slice(7)}`]);
      }
      expect(repairsOfService(trade, { station: "settings", what: "adjusted" })).toEqual([]);
    }
  });
});

describe("a new tube that was told with its counter", () => {
  it("ends what its predecessor showed in an open case, as one told as a part does", async () => {
    for (const how of ["hours", "service"] as const) {
      const { w, view } = await filmOnTheLens();
      await w.log("current", { currentMa: 12, setPercent: 100 });
      w.nowMs += 60_000;
      if (how === "hours") await w.log("hours", { counterHours: 0, because: "tube-changed" });
      else await w.log("service", { station: "tube", what: "replaced" });
      w.nowMs += 60_000;
      const { input } = await view();
      expect(input.mended).toContain("tube-supplier");
    }
  });
});

describe("an answer to a case that was closed meanwhile", () => {
  it("is refused in words and not in it; one that was sent before the end is told again that it was kept", async () => {
    const { w, id } = await filmOnTheLens();
    const send = (fields: Readonly<Record<string, string>>) => {
      const form = new FormData();
      for (const [k, value] of Object.entries(fields)) form.set(k, value);
      return actByForm(w.services, "larkspur", id, new FormReader(form));
    };
    const kept = { check: "onset", outcome: "sudden", requestKey: "answer-1" };
    expect(await send(kept)).toEqual({ done: true });
    await send({ intent: "close", why: "sold" });
    const before = (await listFindings(w.store, id)).length;
    for (const late of [
      { check: "lens-look", outcome: "clear", requestKey: "answer-2" },
      { intent: "also", sign: "fades", requestKey: "answer-3" },
      { intent: "undo", finding: "1" },
      { intent: "decline", check: "onset" },
    ])
      expect(await send(late), JSON.stringify(late)).toMatchObject({
        errors: { "": expect.stringMatching(/closed meanwhile.*not saved/) },
      });
    expect(await send(kept)).toEqual({ done: true });
    expect(await listFindings(w.store, id)).toHaveLength(before);
  });
});

describe("a case", () => {
  it("asks nothing more once a part was seen that must not be fired through: the spare comes first", async () => {
    const { w, view } = await filmOnTheLens();
    await w.log("grade", { station: "mirror-2", phase: "as-found", grade: 4 });
    const seen = await view();
    expect(seen.broken).toMatchObject({ part: "replace-mirror@2" });
    expect(seen.headline).toMatch(/^Do not fire: M2 is damaged/);
  });

  it("offers the round first to who has not known three times", async () => {
    const { w, id, view } = await filmOnTheLens();
    expect((await view()).isTired).toBe(false);
    for (const check of ["onset", "last-touched", "in-run"]) {
      const form = new FormData();
      for (const [k, value] of Object.entries({ intent: "decline", check })) form.set(k, value);
      await actByForm(w.services, "larkspur", id, new FormReader(form));
    }
    const { isTired, straight, repair } = await view();
    expect(isTired).toBe(true);
    expect(straight ?? repair).toBeDefined();
  });
});
