/** Whatever is answered in a case, its page leads on, and no part of it contradicts another. */

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { signList } from "#catalog/subjects/index";
import type { EventPayload } from "#core/events";
import { LAYOUT_IDS, type LayoutId } from "#core/machine";
import { DAY_MS } from "#core/time";
import type { CheckSpec } from "#core/trace";
import { addFinding, listFindings, openCase } from "#store/cases";
import { appendEvents } from "#store/events";
import { gather } from "../machine/gather";
import { tradeOf } from "../machine/trade";
import { broken, rungs, START, TestWorkshop } from "../testWorkshop";
import { type AnswerView, answerView } from "./answerView";
import { signsOf } from "./words";

const NOW = START + 40 * DAY_MS;

interface Answer {
  readonly check: string;
  readonly outcome?: string;
  readonly value?: number;
}

/** An answer to a check: one of its outcomes, as often that of a sound machine as any, or a figure. */
function answerTo({ id, outcomes, value, kind, measures }: CheckSpec): fc.Arbitrary<Answer> {
  if (outcomes.length > 0)
    return fc.oneof(fc.constant(outcomes[0] as string), fc.constantFrom(...outcomes)).map((outcome) => ({ check: id, outcome }));
  const { min, max } = value ?? { min: 10, max: 90 };
  const figure = fc.double({ min, max: Math.min(max, min + 60), noNaN: true });
  return figure.map((v) => ({ check: id, value: kind === "loss" && measures?.kind === "ladder" ? v / 90 : v }));
}

/** What somebody did to the machine meanwhile and told the log. */
type Service = Pick<EventPayload["service"], "station" | "what">;

interface AnyCase {
  readonly layout: LayoutId;
  readonly sign: (typeof signList)[number];
  readonly steps: readonly (Answer | Service)[];
  readonly hasWatts: boolean;
}
const WHAT = ["cleaned", "replaced", "seat-opened", "aimed", "adjusted", "checked"] as const;
const placesOf = (layout: LayoutId) => {
  const { layout: own, model } = tradeOf({ layout });
  return [...own.stations.map((s) => s.id), ...model.systems];
};
const anyCase = fc.constantFrom(...LAYOUT_IDS).chain(
  (layout): fc.Arbitrary<AnyCase> =>
    fc.record({
      layout: fc.constant(layout),
      sign: fc.constantFrom(...signsOf(tradeOf({ layout }))),
      steps: fc.array(
        fc.oneof(
          { weight: 6, arbitrary: fc.constantFrom(...tradeOf({ layout }).model.checks).chain(answerTo) },
          { weight: 1, arbitrary: fc.record({ station: fc.constantFrom(...placesOf(layout)), what: fc.constantFrom(...WHAT) }) },
        ),
        { maxLength: 14 },
      ),
      hasWatts: fc.boolean(),
    }),
);

/** A workshop with such a case, and what its page says after each answer. */
async function caseOf({ layout, sign, hasWatts }: Omit<AnyCase, "steps">) {
  const w = await TestWorkshop.open(layout);
  w.day(40);
  const { services, store } = w;
  const ladder = { materialId: 1, setPercent: 60, rungs: rungs(12), baseline: true };
  const walk = { setPercent: 100, baseline: true, readings: [{ station: "tube", powerW: 62 }] };
  const atMs = START + DAY_MS;
  await appendEvents(store, 1, [{ kind: "ladder", atMs, payload: ladder, requestKey: "l" }], NOW);
  if (hasWatts) await appendEvents(store, 1, [{ kind: "power", atMs, payload: walk, requestKey: "w" }], NOW);
  const known = new Set(tradeOf({ layout }).model.checks.map((c) => c.id));
  const findings = sign.findings.filter((f) => known.has(f.check));
  const opened = { title: sign.title, sign: sign.id, symptom: sign.symptom, onsetMs: NOW - DAY_MS, requestKey: "c", findings };
  const id = await openCase(store, 1, opened, NOW - DAY_MS / 2);
  // What was asked since anything was mended.
  const given = new Set<string>(findings.map((f) => f.check));
  let told = 0;
  const tell = async (steps: readonly (Answer | Service)[]) => {
    for (const step of steps) {
      told += 1;
      const at = NOW - 60_000 * (60 - told);
      if ("check" in step) {
        await addFinding(store, id, step, `a${told}`, at);
        given.add(step.check);
        continue;
      }
      await appendEvents(store, 1, [{ kind: "service", atMs: at, payload: step, requestKey: `s${told}` }], at);
      if (step.what !== "checked" && step.what !== "seat-opened") given.clear();
    }
  };
  const look = async () => {
    const g = await gather(services, "larkspur");
    const open = g.openCases.find((c) => c.id === id);
    if (!open) throw new Error("the case is not open");
    return answerView({}, g, open, await listFindings(store, id));
  };
  return { tell, look, given };
}

const NO_REPAIR = /^Possibly nothing is wrong|^Only normal dirt/;
const IS_SAID = /^None of the known|^Nothing|^Only normal dirt/;
const percentOf = (chance: string) => (/^(\d+)\s?%$/.test(chance) ? Number.parseInt(chance, 10) : undefined);

function expectAtOne(view: AnswerView, given: ReadonlySet<string>): void {
  expect(broken(view)).toEqual([]);
  // Never a promise of a check that there is none of, nor a repair beside words that nothing is wrong.
  if (/one more check will show/.test(view.headline)) expect(view.next.length).toBeGreaterThan(0);
  if (view.repair && !view.tried) expect(view.headline).not.toMatch(NO_REPAIR);
  const leadsOn = view.tried !== undefined || view.repair !== undefined || view.next.length > 0;
  expect(leadsOn || view.straight !== undefined || IS_SAID.test(view.headline)).toBe(true);
  // Nothing is asked twice.
  for (const next of view.next) expect(given.has(next.id)).toBe(false);
  // The list falls, and so does the light along the path.
  const chances = view.faults.map((f) => percentOf(f.chance));
  for (const [i, c] of chances.entries()) if (i > 0 && c !== undefined) expect(c).toBeLessThanOrEqual(chances[i - 1] ?? 100);
  const light = view.budget?.map((line) => line.now) ?? [];
  for (const [i, now] of light.entries()) if (i > 0) expect(now).toBeLessThanOrEqual((light[i - 1] ?? 0) + 1e-9);
  // Before the test that failed is made again nothing is done, unless it was seen.
  if (view.isProofDue) expect([view.headline, view.repair]).toEqual(["First repeat the test that failed.", undefined]);
  // A round does no part twice, and names its main repair once.
  const { parts = [], alongWith = [], name } = view.repair ?? {};
  expect(new Set(parts).size).toBe(parts.length);
  expect(new Set([name, ...alongWith]).size).toBe(alongWith.length + 1);
}

describe("a case", () => {
  it("leads on and is at one with itself, whatever is answered", async () => {
    await fc.assert(
      fc.asyncProperty(anyCase, async (of) => {
        const { tell, look, given } = await caseOf(of);
        await tell(of.steps);
        expectAtOne(await look(), given);
      }),
      { numRuns: 6 },
    );
  });

  it("comes to a repair or says that there is none, for one who answers what it asks", async () => {
    const drawn = fc.array(fc.nat(1000), { minLength: 40, maxLength: 40 });
    await fc.assert(
      fc.asyncProperty(anyCase, drawn, async (of, draws) => {
        const { tell, look, given } = await caseOf(of);
        const checks = new Map(tradeOf({ layout: of.layout }).model.checks.map((c) => [c.id, c]));
        let view = await look();
        let asked = 0;
        for (; view.repair === undefined && view.tried === undefined && view.next[0] !== undefined && asked < 40; asked++) {
          expectAtOne(view, given);
          const { id, outcomes } = checks.get(view.next[0].id) as CheckSpec;
          const draw = draws[asked] as number;
          // As on a sound machine three times of four.
          const outcome = outcomes[draw % 4 === 0 ? (draw >> 2) % outcomes.length : 0];
          await tell([outcome === undefined ? { check: id, value: 20 + (draw % 50) } : { check: id, outcome }]);
          view = await look();
        }
        expectAtOne(view, given);
        expect(asked).toBeLessThan(40);
      }),
      { numRuns: 2 },
    );
  });
});
