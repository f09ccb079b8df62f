import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { gradeAdvice, mergeAnswer, mergeAnswers, nextStep, type RoundAnswer, roundRecords, type Step } from "#core/rounds";

const step = (id: string, more: Partial<Step> = {}): Step => ({
  id,
  part: "Lens",
  kind: "do",
  title: id,
  text: id,
  minutes: 1,
  station: "lens",
  ...more,
});
const steps = [
  step("make-safe", { kind: "confirm" }),
  step("lens.found", { kind: "grade", phase: "as-found" }),
  step("lens.clean", { service: { what: "cleaned" } }),
  step("rails.wipe", { station: "motion", service: { what: "cleaned", task: "rails" } }),
  step("rails.grade", { station: "motion", kind: "grade", phase: "as-left" }),
  step("rails.oil", { station: "motion", service: { what: "adjusted", task: "lubricate" } }),
];

describe("answers", () => {
  it("go on at the first step without one, and a grade, a photo or a timer alone is not one", () => {
    const answers = new Map<string, RoundAnswer>([
      ["make-safe", { skipped: "unplugged already", atMs: 1 }],
      ["lens.found", { grade: 1, photos: ["a".repeat(64)], timerEndsMs: 9, atMs: 3 }],
    ]);
    expect(nextStep(steps, answers)).toBe(1);
    expect(nextStep(steps, new Map(steps.map((s) => [s.id, { done: true, atMs: 1 } as const])))).toBe(steps.length);
  });

  it("come in parts: what is said anew counts, what is not stays, done and skipped exclude each other, photos gather", () => {
    expect(mergeAnswer({ done: true, grade: 2, atMs: 5 }, { grade: 1, atMs: 6 })).toMatchObject({ done: true, grade: 1 });
    expect(mergeAnswer({ done: true, grade: 2, atMs: 5 }, { skipped: "cap stuck", atMs: 6 })).toEqual({
      skipped: "cap stuck",
      grade: 2,
      atMs: 6,
    });
    expect(mergeAnswer({ skipped: "cap stuck", atMs: 6 }, { done: true, atMs: 7 })).toEqual({ done: true, atMs: 7 });
    const [a, b] = ["a".repeat(64), "b".repeat(64)];
    expect(mergeAnswer({ photos: [a], atMs: 1 }, { photos: [b], atMs: 2 }).photos).toEqual([a, b]);
  });

  it("of two devices merge to the same whatever order they arrive in, and a late one undoes nothing said after it", () => {
    const given = fc.record({
      stepId: fc.constantFrom("a", "b"),
      answer: fc.record({ grade: fc.integer({ min: 0, max: 4 }), note: fc.constantFrom("x", "y", "z") }),
    });
    fc.assert(
      fc.property(fc.array(given, { maxLength: 8 }), fc.nat(), (list, turn) => {
        const all = list.map((g, i) => ({ ...g, answer: { ...g.answer, atMs: 100 + i } }));
        const arrived = [...all.slice(turn % (all.length || 1)), ...all.slice(0, turn % (all.length || 1))];
        const merged = mergeAnswers(arrived);
        expect([...merged].sort()).toEqual([...mergeAnswers(all)].sort());
        for (const id of ["a", "b"]) {
          const last = all.filter((g) => g.stepId === id).at(-1);
          expect(merged.get(id)?.grade).toBe(last?.answer.grade);
        }
      }),
    );
  });
});

describe("what a round leaves in the log", () => {
  it("is every grade and service done, with its task, who and photos; of what was skipped only the grade that was given; a note is never lost", () => {
    const hash = "c".repeat(64);
    const answers = new Map<string, RoundAnswer>([
      ["lens.found", { done: true, grade: 2, photos: [hash], by: "JK", atMs: 5 }],
      ["lens.clean", { skipped: "no swabs", atMs: 6 }],
      ["rails.wipe", { done: true, note: "gritty", atMs: 7 }],
      ["rails.grade", { skipped: "no torch", grade: 1, atMs: 8 }],
      ["rails.oil", { note: "not yet", atMs: 9 }],
    ]);
    expect(roundRecords(steps, answers).map((r) => [r.kind, r.payload])).toEqual([
      ["grade", { station: "lens", phase: "as-found", grade: 2, note: "by JK", photos: [hash] }],
      ["service", { station: "motion", what: "cleaned", task: "rails", note: "gritty" }],
      ["grade", { station: "motion", phase: "as-left", grade: 1 }],
      ["note", { note: expect.stringMatching(/not yet$/) }],
    ]);
  });
});

describe("a grade", () => {
  it("stops the beam at a broken optic and at burnt-in spots on the exit window, not at a worn rail", () => {
    expect(gradeAdvice("lens", "as-found", 4)).toMatchObject({ stop: true });
    expect(gradeAdvice("lens", "as-found", 3)).toMatchObject({ stop: false });
    expect(gradeAdvice("lens", "as-left", 3)?.text).toContain("spare");
    expect(gradeAdvice("window", "as-left", 3)).toMatchObject({ stop: true });
    expect(gradeAdvice("mirror-2", "as-left", 3)?.text).toContain("every round");
    expect(gradeAdvice("motion", "as-found", 4)).toMatchObject({ stop: false, text: expect.stringContaining("order the part") });
    expect(gradeAdvice("lens", "as-left", 1)).toBeUndefined();
  });
});
