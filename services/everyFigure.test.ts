import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { gateView } from "./gate/gateView";
import { brokenOf } from "./machine/stop";
import { outlookView } from "./outlook/outlookView";
import { histories, lived } from "./testHistories";
import { verdict } from "./today/verdict";

const ask = (speedMmPerS: number, passes = 1) =>
  new URLSearchParams({ materialId: "1", speedMmPerS: String(speedMmPerS), setPercent: "60", passes: String(passes), lostMoney: "10" });
const numbers = (text: string) => [...text.matchAll(/\d+(?:\.\d+)?/g)].map(([n]) => Number(n));

describe("a machine's strength", () => {
  it("is one figure with one range in Today, in Outlook and at the gate, and its parts are the whole", async () => {
    await fc.assert(
      fc.asyncProperty(histories(10), async (steps) => {
        const { w, stops } = await lived(steps);
        const g = await w.look();
        expect(brokenOf(g) !== undefined).toBe(stops);
        const today = verdict(g, undefined);
        const { ready } = await outlookView(w.services, g);
        const sum = new Map((ready?.sum ?? []).map((s) => [s.term, numbers(s.text)[0] as number]));
        const [percent, low, high] = numbers(ready?.sum.find((s) => s.term === "Left")?.text ?? "") as [number, number, number];
        const of = (term: string) => sum.get(term) ?? 0;
        const lost = of("Comes back with a clean") + of("Gone for good") + of("Neither");
        expect(100 - lost + of("More than best")).toBe(percent);
        expect(ready?.ahead[0]?.dirty).toBeCloseTo(percent, -0.5);
        for (const p of ready?.ahead ?? []) {
          expect(p.low).toBeLessThanOrEqual(p.dirty);
          expect(p.high).toBeGreaterThanOrEqual(p.dirty);
          expect(p.kept).toBeGreaterThanOrEqual(p.dirty - 1e-9);
        }
        const headline = ready?.headline ?? "";
        // "14 of the 21 % that is lost": never more than there is.
        const [some, all] = numbers(/(\d+ of the \d+)/.exec(headline)?.[1] ?? "") as [number?, number?];
        if (some !== undefined) expect([some <= lost, all]).toEqual([true, lost]);
        const gate = gateView(g, ask(12));
        if (stops) {
          expect(headline).toMatch(/^Do not fire/);
          expect(today.headline).toMatch(/^Do not fire/);
          expect([gate.stop !== undefined, gate.answer]).toEqual([true, undefined]);
          return;
        }
        expect(numbers(today.headline)[0]).toBe(percent);
        expect(numbers(today.lead).slice(0, 2)).toEqual([low, high]);
        // An optic is named for the dirt only where some is told.
        if (today.lead.includes("Most of the dirt")) expect(today.lead).toContain("is dirt and comes back");
        const said = /about (\d+) % \(between (\d+) and (\d+) %\)/.exec(gate.answer?.lead ?? "");
        expect(said?.slice(1).map(Number)).toEqual([percent, low, high]);
      }),
      { numRuns: 20 },
    );
  });

  it("makes a slower cut and one more pass no less likely to drop, and the first way on is the cheapest", async () => {
    await fc.assert(
      fc.asyncProperty(histories(6), fc.double({ min: 6.5, max: 30, noNaN: true }), async (steps, speed) => {
        const { w, stops } = await lived(steps);
        if (stops) return;
        const g = await w.look();
        const asked = gateView(g, ask(speed)).answer;
        expect(gateView(g, ask(0.8 * speed)).answer?.through).toBeGreaterThanOrEqual(asked?.through ?? 1);
        expect(gateView(g, ask(speed, 2)).answer?.through).toBeGreaterThanOrEqual(asked?.through ?? 1);
        // Money weighs with minutes, at what an hour is worth; minutes are said in whole ones.
        const said = (words: string | undefined) => Number(numbers(words ?? "0")[0] ?? 0);
        const costs = (asked?.ways ?? []).map((way) => said(way.minutes) + (60 / 30) * said(way.money));
        for (const cost of costs) expect(cost).toBeGreaterThanOrEqual((costs[0] ?? 0) - 1.2);
        expect(asked?.ways.filter((way) => way.first)).toHaveLength(1);
      }),
      { numRuns: 15 },
    );
  });
});
