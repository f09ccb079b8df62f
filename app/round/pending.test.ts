/** No answer that was given is ever in no page and in no store until the server has it. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Pending, type PendingAnswers, pendingAnswers } from "./pending";

const answerOf = (n: number): Pending => ({ stepId: `step-${n}`, answer: { atMs: n, note: "as found" }, requestKey: `key-${n}` });

function browser() {
  const kept = new Map<string, string>();
  const room = { full: false };
  return {
    kept,
    room,
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => {
      if (room.full) throw new DOMException("full", "QuotaExceededError");
      kept.set(key, value);
    },
  };
}
const KEY = "clenor-answers:larkspur/4";
const keysOf = (list: readonly Pending[]) => list.map((p) => p.requestKey);

describe("answers that wait", () => {
  const step = fc.oneof(
    fc.record({ does: fc.constant("answer" as const), page: fc.integer({ min: 0, max: 1 }) }),
    fc.record({ does: fc.constant("send" as const), page: fc.integer({ min: 0, max: 1 }), upTo: fc.integer({ min: 1, max: 3 }) }),
    fc.record({ does: fc.constant("reload" as const), page: fc.integer({ min: 0, max: 1 }) }),
    fc.record({ does: fc.constant("room" as const), full: fc.boolean() }),
  );

  it("outlive their page, whatever a second page of the round does beside it", () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
        const store = browser();
        const pages = [0, 1].map(() => pendingAnswers(() => store, KEY));
        const given = new Set<string>();
        const arrived = new Set<string>();
        let n = 0;
        for (const s of steps) {
          if (s.does === "room") {
            store.room.full = s.full;
            continue;
          }
          const page = pages[s.page] as PendingAnswers;
          if (s.does === "answer") {
            const answer = answerOf(n++);
            given.add(answer.requestKey);
            page.add(answer);
          } else if (s.does === "send") {
            const batch = new Set(keysOf(page.list().slice(0, s.upTo)));
            for (const key of batch) arrived.add(key);
            page.settle(batch);
          } else if (page.isKept()) {
            // What could not be kept is said to live as long as its page.
            pages[s.page] = pendingAnswers(() => store, KEY);
            pages[s.page]?.takeOver();
          }
        }
        const somewhere = new Set([...arrived, ...pages.flatMap((p) => keysOf(p.list()))]);
        const fresh = pendingAnswers(() => store, KEY);
        for (const key of keysOf(fresh.takeOver())) somewhere.add(key);
        expect([...given].filter((key) => !somewhere.has(key))).toEqual([]);
        for (const page of pages) expect(new Set(keysOf(page.list())).size).toBe(page.list().length);
      }),
      { numRuns: 2000 },
    );
  });

  it("are kept in the order they were given, and gone once the server has them", () => {
    const store = browser();
    const page = pendingAnswers(() => store, KEY);
    for (const n of [1, 2, 3]) page.add(answerOf(n));
    page.settle(new Set(["key-1"]));
    const next = pendingAnswers(() => store, KEY);
    expect(keysOf(next.takeOver())).toEqual(["key-2", "key-3"]);
    next.settle(new Set(["key-2", "key-3"]));
    expect(pendingAnswers(() => store, KEY).takeOver()).toEqual([]);
  });

  it("are sent all the same where the browser keeps nothing, which is said; and kept as soon as it does", () => {
    const store = browser();
    store.room.full = true;
    const page = pendingAnswers(() => store, KEY);
    page.add(answerOf(1));
    expect(keysOf(page.list())).toEqual(["key-1"]);
    expect(page.isKept()).toBe(false);
    store.room.full = false;
    page.add(answerOf(2));
    expect(page.isKept()).toBe(true);
    expect(keysOf(pendingAnswers(() => store, KEY).takeOver())).toEqual(["key-1", "key-2"]);
    const shut = pendingAnswers(() => {
      throw new DOMException("shut", "SecurityError");
    }, KEY);
    shut.add(answerOf(3));
    expect(keysOf(shut.list())).toEqual(["key-3"]);
    expect(shut.isKept()).toBe(false);
  });

  it("are none where something else lies in their place", () => {
    const store = browser();
    for (const other of ["{}", "[1, null]", "not even this", '[{"stepId":"a"}]']) {
      store.kept.set(KEY, other);
      expect(pendingAnswers(() => store, KEY).takeOver()).toEqual([]);
    }
  });
});
