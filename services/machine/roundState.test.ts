/** Whatever is answered, no step of any round asks for a machine in another state than it is in, and no cleaner meets what was not rinsed off. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { agents, matrix } from "#catalog/agents";
import { layouts } from "#catalog/layouts";
import { scopes } from "#catalog/procedures";
import { mayFollow } from "#core/agents";
import { BEARINGS, BEDS, COOLINGS, EXTRAS, type Fittings, LIDS, MOUNTS, type PathStation, SCHOOLS } from "#core/machine";
import {
  after,
  contradictions,
  heldBack,
  isApart,
  isGuard,
  type MachineNow,
  NOT_SEEN,
  type RoundAnswer,
  roundRecords,
  type Step,
  WHOLE,
  walkOf,
} from "#core/rounds";
import { type PlanWishes, partsOfScope, planOf } from "./plans";
import { type Trade, tradeOf } from "./trade";

const ids = Object.keys(layouts);

/** Any machine that can be built: its fittings, how its mirrors and its lens are held, what is on the shelf. */
const anyShape = fc.record({
  layout: fc.constantFrom(...ids),
  kinds: fc.record({
    bearing: fc.constantFrom(...BEARINGS),
    cooling: fc.constantFrom(...COOLINGS),
    lid: fc.constantFrom(...LIDS),
    bed: fc.constantFrom(...BEDS),
    school: fc.constantFrom(...SCHOOLS),
    extras: fc.subarray([...EXTRAS]),
  }),
  mirrors: fc.option(fc.constantFrom(...MOUNTS), { nil: undefined }),
  lens: fc.option(fc.constantFrom(...MOUNTS), { nil: undefined }),
  shelf: fc.option(fc.subarray(agents.map((a) => a.id)), { nil: undefined }),
});
type Shape = typeof anyShape extends fc.Arbitrary<infer S> ? S : never;

function machineOf({ layout, kinds, mirrors, lens, shelf }: Shape): Trade {
  const start = layouts[layout] as (typeof layouts)[string];
  const path = start.path.map((s): PathStation => {
    const mount = s.role === "mirror" ? mirrors : s.role === "lens" ? lens : undefined;
    return mount ? { ...s, mount } : s;
  });
  const fittings: Fittings = { ...start.fittings, ...kinds, ...(shelf ? { agents: shelf } : {}) };
  return tradeOf({ layout, path, fittings });
}

const anyRound = fc.record({
  shape: anyShape,
  /** A scope with all that may be due, or some parts by their place in the list. */
  parts: fc.oneof(fc.constantFrom(...scopes.map((s) => s.id)), fc.array(fc.nat(80), { minLength: 1, maxLength: 12 })),
  direction: fc.constantFrom("head-first" as const, "tube-first" as const),
  lensOut: fc.boolean(),
  draws: fc.array(fc.nat(11), { minLength: 4, maxLength: 40 }),
});
type AnyRound = typeof anyRound extends fc.Arbitrary<infer R> ? R : never;

function partsOf(trade: Trade, parts: AnyRound["parts"]): string[] {
  const scope = scopes.find((s) => s.id === parts);
  if (scope) return partsOfScope(trade, scope, new Set(trade.tasks.map((t) => t.id)));
  const all = [...trade.procedures.keys(), "lens+", "nozzle+"];
  return [...new Set((parts as number[]).map((i) => all[i % all.length] as string))];
}

function answerTo(step: Step, draw: number, atMs: number): RoundAnswer {
  if (step.kind === "grade" && step.unseen && draw === 11) return { done: true, choice: NOT_SEEN, atMs };
  if (step.kind === "grade") return { done: true, grade: draw % 5, atMs };
  if (step.seen) return { done: true, choice: step.seen[draw % step.seen.length]?.id ?? "", atMs };
  // Nothing that protects can be skipped; all else may be.
  return draw === 10 && !isGuard(step) && !step.leaves ? { skipped: "no time", atMs } : { done: true, atMs };
}

/** Walks a round as it is walked at the machine: one step after the other, each answer deciding what comes next. */
function walked(steps: readonly Step[], draws: readonly number[]): { answers: Map<string, RoundAnswer>; order: Step[] } {
  const answers = new Map<string, RoundAnswer>();
  const order: Step[] = [];
  for (let i = 0; ; i++) {
    const next = walkOf(steps, answers).find((s) => !answers.has(s.id) && s.kind !== "proof");
    if (!next) return { answers, order };
    answers.set(next.id, answerTo(next, draws[i % draws.length] ?? 0, i + 1));
    order.push(next);
  }
}

function planned({ shape, parts, direction, lensOut }: AnyRound) {
  const trade = machineOf(shape);
  const wishes: PlanWishes = { direction, ...(lensOut ? { out: new Map([["lens", 1]]) } : {}) };
  return planOf(trade, partsOf(trade, parts), wishes);
}

describe("any round on any machine, however it is answered", () => {
  it("asks nothing that the state of the machine contradicts, and ends whole or apart and says so", () => {
    fc.assert(
      fc.property(anyRound, (round) => {
        const { steps } = planned(round);
        const { answers, order } = walked(steps, round.draws);
        let now: MachineNow = round.lensOut ? { ...WHOLE, out: new Set(["lens", "head"]) } : WHOLE;
        const wrong: string[] = [];
        for (const step of order) {
          if (answers.get(step.id)?.skipped === undefined) wrong.push(...contradictions(now, step).map((words) => `${step.id} ${words}`));
          now = after(
            now,
            step,
            step.seen?.find((o) => o.id === answers.get(step.id)?.choice),
          );
        }
        const held = heldBack(steps, answers);
        const last = walkOf(steps, answers).at(-1) as Step;
        const isStopped = held.out.size + held.broken.size + held.stops.length > 0 || (round.lensOut && now.out.has("lens"));
        if (!isStopped) wrong.push(...contradictions(now, last).map((words) => `at its end it ${words}`));
        expect(wrong, order.map((s) => s.id).join(" ")).toEqual([]);
        // What was taken apart and not put together again is apart, and nothing of it was powered.
        if (held.out.size + held.broken.size > 0 && order.some((s) => s.id === "make-safe")) expect(isApart(steps, answers)).toBe(true);
        for (const station of held.out)
          expect(
            roundRecords(steps, answers).some(
              (r) => r.kind === "service" && r.payload.what === "taken-out" && r.payload.station === station,
            ),
          ).toBe(true);
      }),
      { numRuns: 400 },
    );
  });

  it("puts no cleaner onto a surface on which another was not rinsed off, and fetches what protects from it", () => {
    const ON: Readonly<Record<string, string>> = { "bed-resin": "honeycomb", "bed-gum": "honeycomb", slats: "slats" };
    fc.assert(
      fc.property(anyShape, fc.array(fc.nat(11), { minLength: 4, maxLength: 30 }), (shape, draws) => {
        const trade = machineOf(shape);
        for (const parts of [["bed"], ["bed", "slats-wipe", "tray"], [...trade.procedures.keys()]]) {
          const { steps, fetch } = planOf(trade, parts);
          const lingering = new Map<string, Set<string>>();
          for (const step of walked(steps, draws).order) {
            const place = ON[step.surface ?? ""] ?? `${step.surface} at ${step.station}`;
            const on = lingering.get(place) ?? new Set<string>();
            for (const { id } of step.agents ?? []) {
              for (const before of on) expect(mayFollow(matrix, before, id).verdict, `${step.id}: ${id} after ${before}`).not.toBe("never");
              on.add(id);
            }
            lingering.set(place, step.rinses ? new Set() : on);
          }
          const fetched = new Set([...(fetch.gear ?? []), ...(fetch.maybe ?? []).map((m) => m.name)]);
          for (const step of steps)
            for (const { id } of step.agents ?? [])
              for (const gear of agents.find((a) => a.id === id)?.gear ?? []) expect(fetched.has(gear), `${step.id}: ${gear}`).toBe(true);
        }
      }),
      { numRuns: 60 },
    );
  });

  it("has its steps in one order wherever a unit appears: reader off, strip, slot, reader back; the inner face through the open seat", () => {
    fc.assert(
      fc.property(anyRound, (round) => {
        const order = planned(round).steps.map((s) => s.id);
        const at = (id: string) => order.indexOf(id);
        if (at("encoder-reader.slot") >= 0) {
          const unit = ["encoder.reader-off", "encoder.strip", "encoder-reader.slot", "encoder.back"].map(at);
          expect(unit.every((i) => i >= 0)).toBe(true);
          expect(unit).toEqual([...unit].sort((a, b) => a - b));
        }
        const inner = at("side-window.inner-clean");
        if (inner >= 0) {
          const steps = planned(round).steps;
          const open = steps.filter((s, i) => i < inner && s.leaves?.out?.startsWith("mirror-")).map((s) => s.leaves?.out);
          const back = (mirror: string | undefined) => steps.findIndex((s) => s.leaves?.back === mirror);
          expect(open.some((mirror) => back(mirror) > inner)).toBe(true);
        }
      }),
      { numRuns: 200 },
    );
  });
});
