import { describe, expect, it } from "vitest";
import { scopes } from "#catalog/procedures";
import { LAYOUT_IDS } from "#core/machine";
import { type RoundAnswer, walkOf } from "#core/rounds";
import { findRound, saveAnswers, startRound } from "#store/rounds";
import { planOf } from "../machine/plans";
import { rungs, TestWorkshop } from "../testWorkshop";
import { verdict } from "../today/verdict";
import { wholeMinutes } from "../words";
import { choiceView } from "./choiceView";
import { closeRound } from "./close";
import { offerOf } from "./offer";
import { openAnyway, partChoices, scopeChoices, validParts } from "./scopes";
import { sheetView } from "./sheetView";

/** A workshop that has fired so many hours since everything was clean. */
async function fired(hours: number, days = 6) {
  const w = await TestWorkshop.open();
  w.day(days);
  await w.log("hours", { counterHours: 900 + hours });
  return w.look();
}

describe("the scopes on offer", () => {
  it("begin with what is due, and grow from a look to everything", async () => {
    const choices = scopeChoices(await fired(11));
    expect(choices.map((c) => c.id)).toEqual(["due", "daily", "weekly", "monthly", "full"]);
    const minutes = choices.slice(1).map((c) => Number(c.minutes));
    expect([...minutes].sort((a, b) => a - b)).toEqual(minutes);
    const parts = choices.slice(2).map((c) => new Set(c.parts));
    for (let i = 1; i < parts.length; i++)
      for (const p of parts[i - 1] ?? []) expect(parts[i]?.has(p), `${p} in ${choices[i + 2]?.id}`).toBe(true);
    expect(choices.map((c) => c.order).slice(1)).toEqual(["head-first", "head-first", "tube-first", "tube-first"]);
  });

  it("take as long as Today says they do", async () => {
    for (const hours of [8, 11, 40]) {
      const g = await fired(hours);
      expect(scopeChoices(g).find((c) => c.id === "due")?.minutes).toBe(wholeMinutes(offerOf(g).minutes));
    }
  });

  it("leave out what is due when nothing is, and the bed and the water until they are", async () => {
    const early = scopeChoices(await fired(0, 1));
    expect(early[0]?.id).toBe("daily");
    const full = (choices: typeof early) => choices.find((c) => c.id === "full")?.parts ?? [];
    expect(full(early)).not.toContain("bed");
    const late = full(scopeChoices(await fired(400, 200)));
    expect(late).toContain("bed");
    expect(late).toContain("coolant-change");
  });
});

describe("a round on paper", () => {
  it("has a sheet for every scope, with what each step asks in the words of what is graded, and when it is done at all", async () => {
    for (const layout of LAYOUT_IDS) {
      const w = await TestWorkshop.open(layout);
      for (const { id } of scopeChoices(await w.look())) {
        const g = await w.look();
        const { chosen } = await choiceView(w.services, g, new URLSearchParams({ scope: id }));
        const { steps } = await sheetView(w.services, g, new URLSearchParams(chosen?.sheet));
        const nozzle = steps.find((s) => s.id === "nozzle-look.look");
        expect(nozzle?.answers).toEqual(["clean", "dusty", "sticky", "caked", "worn or broken"]);
        expect(steps.find((s) => s.id === "lens-look.look")?.answers).toEqual([
          "clear",
          "haze",
          "film",
          "spots",
          "damaged",
          "Could not see it",
        ]);
        const planned = planOf(g.trade, chosen?.parts ?? [], { direction: chosen?.order ?? "head-first" }).steps;
        for (const s of planned) expect(steps.find((x) => x.id === s.id)?.onlyIf !== undefined, s.id).toBe(s.when !== undefined);
      }
    }
  });
});

describe("a choice of one's own", () => {
  it("offers every part but repairs, with what is due and what is chosen", async () => {
    const parts = partChoices(await fired(11), ["lens"]);
    expect(parts.find((p) => p.id === "lens")).toMatchObject({ chosen: true, due: "3 smoke hours overdue" });
    expect(parts.find((p) => p.id === "nozzle-look")).toMatchObject({ name: "Nozzle, a look", chosen: false });
    expect(parts.some((p) => p.id === "turn-lens" || p.id.includes("@"))).toBe(false);
    expect(new Set(parts.map((p) => p.name)).size).toBe(parts.length);
  });

  it("names what is well used up behind the same opening", async () => {
    const g = await fired(30, 10);
    expect(openAnyway(g, ["mirror-1"]).map((p) => p.id)).toEqual([]);
    expect(openAnyway(g, ["lens"]).map((p) => p.id)).toEqual(expect.arrayContaining(["nozzle", "mirror-3"]));
    expect(openAnyway(g, ["lens", "nozzle", "mirror-3"])).toEqual([]);
    expect(openAnyway(await fired(0, 1), ["lens"])).toEqual([]);
  });

  it("takes only parts the machine has, each once", async () => {
    const { trade } = await fired(0, 1);
    expect(validParts(trade, ["lens", "lens", "rails"])).toEqual(["lens", "rails"]);
    for (const bad of [[], ["fins"], ["lens", "mirror-7"], ["../etc"]]) expect(validParts(trade, bad)).toBeUndefined();
  });
});

describe("after a full round", () => {
  it("nothing is urged any more, whatever was due before and however bad it was found", async () => {
    const w = await TestWorkshop.open();
    await w.ladder(15, true);
    w.day(400);
    await w.log("hours", { counterHours: 1700 });
    const before = await w.look();
    expect(offerOf(before).urged).toBe(true);
    const full = scopeChoices(before).find((c) => c.id === "full");
    const parts = [...(full?.parts ?? [])];
    const plan = planOf(before.trade, parts, { direction: "tube-first" });
    const id = await startRound(w.store, 1, { title: "Full", parts, plan, requestKey: "full" }, w.nowMs);
    const answers = new Map<string, RoundAnswer>();
    const sent = [];
    for (const [i, s] of plan.steps.entries()) {
      if (s.kind === "proof" || !walkOf(plan.steps, answers).includes(s)) continue;
      const answer: RoundAnswer = {
        done: true,
        atMs: w.nowMs + i * 60_000,
        ...(s.kind === "grade" ? { grade: s.phase === "as-left" ? 0 : 2 } : {}),
        ...(s.seen?.[0] ? { choice: s.seen[0].id } : {}),
      };
      answers.set(s.id, answer);
      sent.push({ stepId: s.id, answer, requestKey: `a-${s.id}` });
    }
    w.nowMs += 4 * 3_600_000;
    await saveAnswers(w.store, id, sent, w.nowMs);
    const round = await findRound(w.store, 1, id);
    if (!round) throw new Error("no round");
    const proof = { kind: "ladder" as const, ladder: { materialId: 1, setPercent: 60, rungs: rungs(15) } };
    await closeRound(w.services, "larkspur", round, proof, w.sent("end"));
    const after = await w.look();
    // The visit of a qualified person is no part of a round.
    expect(after.due.filter((d) => d.state === "due").map((d) => d.id)).toEqual(["visit"]);
    expect(offerOf(after).parts).not.toContain("visit");
    expect(offerOf(after).urged).toBe(false);
    expect(verdict(after, undefined).next).toBe("Nothing is due before the first job.");
    expect(scopes.length).toBe(4);
  });
});
