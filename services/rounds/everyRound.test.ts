/** Whatever is answered in a round, nothing that protects people is jumped, nothing seen is lost, and it ends once. */

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { allEvents } from "#core/events";
import { LAYOUT_IDS, type LayoutId } from "#core/machine";
import { heldBack, heldBy, isApart, isGuard, type RoundAnswer, type Step, walkOf } from "#core/rounds";
import { findRound, type Round } from "#store/rounds";
import { FormReader } from "../forms/fields";
import { gather } from "../machine/gather";
import { planOfRound } from "../machine/plans";
import { stopOf } from "../machine/stop";
import { tradeOf } from "../machine/trade";
import { unmendedOf } from "../machine/unmended";
import { broken, TestWorkshop } from "../testWorkshop";
import { todayView } from "../today/todayView";
import { keepAnswers } from "./answers";
import { endByForm } from "./endByForm";
import { roundView } from "./roundView";
import { scopeChoices } from "./scopes";
import { sheetView } from "./sheetView";
import { startByForm } from "./start";

function formOf(fields: Readonly<Record<string, string | readonly string[]>>): FormReader {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) for (const v of [value].flat()) form.append(name, v);
  return new FormReader(form);
}

/** A workshop with a round of one scope, and the hands that walk it. */
async function roundOf(layout: LayoutId, scope: number) {
  const w = await TestWorkshop.open(layout);
  const { services, store } = w;
  const look = () => gather(services, "larkspur");
  const scopes = scopeChoices(await look()).filter((s) => s.parts.length > 0);
  const { parts } = scopes[scope % scopes.length] as (typeof scopes)[number];
  const started = await startByForm(services, "larkspur", formOf({ part: parts, requestKey: "start-0001" }));
  if (!("roundId" in started)) throw new Error("the round did not start");
  const round = async () => (await findRound(store, 1, started.roundId)) as Round;
  const trade = tradeOf({ layout });
  const steps = planOfRound(trade, await round()).steps;
  let n = 0;
  const say = async (step: Step, answer: Omit<RoundAnswer, "atMs">) => {
    n += 1;
    w.nowMs += 60_000;
    const item = { stepId: step.id, answer: { ...answer, atMs: w.nowMs }, requestKey: `answer-${String(n).padStart(4, "0")}` };
    return keepAnswers(services, "larkspur", started.roundId, [item]);
  };
  const end = (fields: Readonly<Record<string, string>>) => {
    n += 1;
    w.nowMs += 60_000;
    return endByForm(services, "larkspur", started.roundId, formOf({ ...fields, requestKey: `end-${String(n).padStart(4, "0")}` }));
  };
  return { services, look, round, steps, say, end, trade, roundId: started.roundId };
}

/** What a step is answered with: how it was left, and by a number which grade or word. */
const anyAnswer = fc.record({ at: fc.nat(400), how: fc.constantFrom("done", "done", "done", "skipped", "only said"), what: fc.nat(40) });

function answerOf(step: Step, { how, what }: { how: string; what: number }): Omit<RoundAnswer, "atMs"> {
  const said = step.seen?.[what % Math.max(1, step.seen.length)];
  return {
    ...(step.kind === "grade" ? { grade: what % 5 } : {}),
    ...(said ? { choice: said.id } : {}),
    ...(how === "done" ? { done: true as const } : how === "skipped" ? { skipped: "no time for it" } : {}),
  };
}

const PROOF = { intent: "piece", pieceMaterialId: "1", pieceResult: "through" };

describe("a round", () => {
  it("is not proven before its ticks, keeps all that was seen, stands nowhere as apart after it, and ends once", async () => {
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...LAYOUT_IDS), fc.nat(20), fc.array(anyAnswer, { maxLength: 25 }), async (layout, scope, drawn) => {
        const { services, look, round, steps, say, end, trade, roundId } = await roundOf(layout, scope);
        for (const draw of drawn) {
          const walk = walkOf(steps, (await round()).answers);
          const step = walk[draw.at % walk.length] as Step;
          const kept = await say(step, answerOf(step, draw));
          expect(kept.refused.length).toBe(draw.how === "skipped" && isGuard(step) ? 1 : 0);
        }
        expect(
          broken([
            await roundView(services, await look(), roundId, null),
            await sheetView(services, await look(), new URLSearchParams({ round: String(roundId) })),
          ]),
        ).toEqual([]);
        // While it is open, whatever is apart is said.
        const open = (await round()).answers;
        expect(/apart: do not fire/.test((await todayView(services, await look())).verdict.headline)).toBe(isApart(steps, open));

        const had = allEvents((await look()).log).length;
        const missing = heldBy(steps, open);
        const refused = await end(PROOF);
        if (missing.length > 0) {
          expect(refused).toMatchObject({ ended: undefined, errors: { "": expect.stringContaining(missing[0]?.title ?? "") } });
          expect(allEvents((await look()).log).length).toBe(had);
          expect((await round()).status).toBe("open");
        }
        // A tick may ask for another: until none is missing.
        for (let left = heldBy(steps, (await round()).answers); left.length > 0; left = heldBy(steps, (await round()).answers)) {
          const [step] = left as [Step];
          // What was seen there already is not unsaid by its tick.
          const said = (await round()).answers.get(step.id)?.choice ?? step.seen?.[0]?.id;
          await say(step, { done: true, ...(said ? { choice: said } : {}) });
        }
        // And until nothing that was seen speaks against a cut, which then proves nothing.
        const held = heldBack(steps, (await round()).answers);
        if (held.out.size + held.broken.size > 0 || stopOf({ ...(await look()), openRound: undefined })) {
          const stopped = missing.length > 0 ? await end(PROOF) : refused;
          expect(stopped).toMatchObject({ ended: undefined, errors: { "": expect.stringMatching(/^Do not fire: /) } });
          expect(allEvents((await look()).log).length).toBe(had);
          expect((await todayView(services, await look())).verdict.headline).toMatch(/do not fire/i);
          expect(await end({ intent: "abandon", why: "broken" })).toMatchObject({ ended: "abandoned" });
        } else if (missing.length > 0) expect(await end(PROOF)).toMatchObject({ ended: "closed" });

        const g = await look();
        const graded = steps.flatMap((s) => {
          const answer = open.get(s.id);
          const grade = s.kind === "grade" ? answer?.grade : s.seen?.find((o) => o.id === answer?.choice)?.grade;
          return s.station && grade !== undefined ? [{ step: s, station: s.station, phase: s.phase ?? "as-found", grade }] : [];
        });
        const logged = [...g.log.kinds.grade].map(({ payload: { station, phase, grade } }) => ({ station, phase, grade }));
        for (const { step: _, ...seen } of graded) expect(logged).toContainEqual(seen);
        expect(logged.length).toBeGreaterThanOrEqual(graded.length);
        // What was seen bad, and is not said to be good since, is not forgotten.
        const known = new Set([...trade.layout.stations.map((s) => s.id), ...trade.layout.systems, ...trade.procedures.keys()]);
        const standing = unmendedOf(g);
        const bad = [...g.grades].filter(([station, { grade }]) => grade >= 2 && known.has(station)).map(([station]) => station);
        expect([...new Set(standing.map((u) => u.station))].sort()).toEqual(bad.sort());
        const mended = new Set([...g.log.kinds.service].filter((e) => e.payload.what !== "checked").map((e) => e.payload.station));
        const ticked = steps.filter((s) => s.tick && !open.get(s.id)?.done).flatMap((s) => (s.seen ?? []).map((o) => o.trace?.check));
        for (const { step, station, grade } of graded) {
          const asked = step.seen?.find((o) => o.id === open.get(step.id)?.choice)?.trace?.check;
          if (grade < 2 || !known.has(station) || mended.has(station) || (asked !== undefined && ticked.includes(asked))) continue;
          const isSame = (other: Step | undefined) => other?.thing === step.thing;
          if (!graded.every((x) => x.station !== station || !isSame(x.step) || x.grade >= 2)) continue;
          expect(standing.some((u) => u.station === station && isSame(trade.stepOf(u.id)))).toBe(true);
        }
        expect((await todayView(services, g)).verdict.headline).not.toMatch(/apart/);
        // Ended once: from another device it is an entry, and nothing is logged twice.
        const before = allEvents(g.log).length;
        expect(await end(PROOF)).toMatchObject({ ended: "logged" });
        expect(allEvents((await look()).log).length).toBe(before + 1);
      }),
      { numRuns: 8 },
    );
  });
});
