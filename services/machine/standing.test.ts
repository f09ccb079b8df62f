/** What was seen bad of one thing of a system is taken back by nothing that is about another: every pair of looks, and every service. */
import { describe, expect, it } from "vitest";
import { layouts } from "#catalog/layouts";
import { EXTRAS } from "#core/machine";
import { isServed, type RoundAnswer, roundRecords, type Step } from "#core/rounds";
import { TestWorkshop } from "../testWorkshop";
import { stopOf } from "./stop";
import { tradeOf } from "./trade";
import { unmendedOf } from "./unmended";

type Answer = Omit<RoundAnswer, "atMs">;

/** A machine that was told one answer after the other, as rounds leave them in the log. */
async function told(layout: string, answers: readonly (readonly [Step, Answer])[]) {
  const w = await TestWorkshop.open(layout);
  w.day(21);
  for (const [step, answer] of answers) {
    w.nowMs += 60_000;
    for (const r of roundRecords([step], new Map([[step.id, { ...answer, atMs: w.nowMs }]])))
      if (r.kind !== "note") await w.log(r.kind, r.payload);
  }
  return w.look();
}

const bad = (step: Step): Answer[] =>
  step.kind === "grade"
    ? [{ done: true, grade: 3 }]
    : (step.seen ?? []).flatMap((o) => ((o.grade ?? 0) >= 2 ? [{ done: true, choice: o.id }] : []));
const good = (step: Step): Answer[] =>
  step.kind === "grade"
    ? [{ done: true, grade: 0 }]
    : (step.seen ?? []).flatMap((o) => (o.grade === 0 ? [{ done: true, choice: o.id }] : []));
const checksOf = (step: Step) => (step.seen ?? []).flatMap((o) => (o.trace ? [o.trace.check] : []));

describe.each(Object.keys(layouts))("what was seen bad of a system of %s", (layout) => {
  const { steps } = tradeOf({ layout });
  // Only looked at: what is wiped on the way is the next test.
  const looks = steps
    .map(({ service: _, ...s }): Step => s)
    .filter((s) => s.thing !== undefined && s.phase !== "as-left" && bad(s).length > 0);

  it("stays when another of its things is seen to be good", async () => {
    let pairs = 0;
    for (const one of looks)
      for (const other of looks) {
        if (one.station !== other.station || one.thing === other.thing) continue;
        for (const said of bad(one)) {
          pairs += 1;
          const asked = one.seen?.find((o) => o.id === said.choice)?.trace?.check;
          const g = await told(layout, [
            [one, said],
            ...good(other)
              .slice(0, 1)
              .map((a) => [other, a] as const),
          ]);
          const stays = unmendedOf(g).some((u) => u.id === one.id);
          expect(stays, `${one.id} ${JSON.stringify(said)}, then ${other.id}`).toBe(
            asked === undefined || !checksOf(other).includes(asked),
          );
          // Both bad: both stand.
          const both = await told(layout, [
            [one, said],
            ...bad(other)
              .slice(0, 1)
              .map((a) => [other, a] as const),
          ]);
          const kept = unmendedOf(both).map((u) => u.id);
          expect(kept).toContain(other.id);
          if (asked === undefined || !checksOf(other).includes(asked)) expect(kept).toContain(one.id);
        }
      }
    expect(pairs).toBeGreaterThan(3);
  });

  it("stays when another of its things is worked on, stops the beam until it is seen to be good, and goes with what mends it", async () => {
    for (const one of looks)
      for (const said of bad(one)) {
        const works = steps.filter(
          (s) => s.station === one.station && s.thing !== one.thing && s.service && isServed(s, { done: true, atMs: 0 }),
        );
        const stops = one.seen?.find((o) => o.id === said.choice)?.stops === "machine";
        for (const work of works) {
          const g = await told(layout, [
            [one, said],
            [work, { done: true }],
          ]);
          const stays = unmendedOf(g).some((u) => u.id === one.id);
          const mayMend = one.mendedBy === undefined || one.mendedBy.includes(work.service?.task ?? "");
          if (stops || !mayMend) expect(stays, `${one.id} ${JSON.stringify(said)}, then ${work.id}`).toBe(true);
          if (stops) expect(stopOf(g)?.because).toMatch(/unsafe|broken/);
        }
        const again = await told(layout, [
          [one, said],
          [one, good(one)[0] as Answer],
        ]);
        expect(unmendedOf(again).some((u) => u.id === one.id)).toBe(false);
        expect(stopOf(again)).toBeUndefined();
      }
  });
});

it("is a machine with every extra, too", () => {
  for (const { id, fittings } of Object.values(layouts)) {
    const { steps } = tradeOf({ layout: id, fittings: { ...fittings, extras: [...EXTRAS] } });
    for (const s of steps)
      if (s.mendedBy)
        expect(
          s.mendedBy.every((task) => steps.some((x) => x.service?.task === task)),
          s.id,
        ).toBe(true);
  }
});
