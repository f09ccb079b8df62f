import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { roundRecords, type Step } from "#core/rounds";
import { openCase } from "#store/cases";
import { caseView } from "./cases/caseView";
import { reportView } from "./cases/reportView";
import { gateView } from "./gate/gateView";
import { beamLine } from "./machine/beamLine";
import { brokenOf } from "./machine/stop";
import { unmendedOf } from "./machine/unmended";
import { outlookView } from "./outlook/outlookView";
import { choiceView } from "./rounds/choiceView";
import { sheetView } from "./rounds/sheetView";
import { histories, lived } from "./testHistories";
import { WEAK_CASE } from "./testWorkshop";
import { todayView } from "./today/todayView";
import { verdict } from "./today/verdict";
import { wholeMinutes } from "./words";

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
        expect(numbers(today.lead.slice(today.lead.search(/About \d+ % of best/))).slice(0, 3)).toEqual([percent, low, high]);
        // Outlook says the same of the usual cut.
        expect(ready?.lead).toContain(today.headline);
        // An optic is named for the dirt only where some is told.
        if (today.lead.includes("Most of the dirt")) expect(today.lead).toContain("is dirt and comes back");
        // The gate never thinks better of the usual cut than the verdict on it.
        const through = gateView(g, ask(14)).answer?.through ?? 0;
        if (/^Weak/.test(today.headline)) expect(through).toBeLessThan(0.55);
        if (/^Fit/.test(today.headline)) expect(through).toBeGreaterThan(0.75);
      }),
      { numRuns: 10 },
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
      { numRuns: 8 },
    );
  });
});

describe("what was seen and what a round takes", () => {
  it("is the same in Today, on the beam line, in Trace, in every round, on its sheet and on the case's report", async () => {
    await fc.assert(
      fc.asyncProperty(
        histories(8),
        fc.array(fc.record({ at: fc.nat(200), what: fc.nat(20) }), { maxLength: 4 }),
        fc.boolean(),
        async (steps, looks, asks) => {
          const { w } = await lived(steps);
          const asked = (await w.look()).trade.steps.filter((s) => s.thing !== undefined && s.seen?.some((o) => (o.grade ?? 0) > 0));
          for (const { at, what } of looks) {
            const step = asked[at % asked.length] as Step;
            const choice = step.seen?.[what % step.seen.length]?.id as string;
            w.nowMs += 60_000;
            for (const r of roundRecords([step], new Map([[step.id, { done: true, choice, atMs: w.nowMs }]])))
              if (r.kind === "grade") await w.log(r.kind, r.payload);
          }
          if (asks) await openCase(w.store, 1, { ...WEAK_CASE, onsetMs: w.nowMs }, w.nowMs);
          const g = await w.look();
          const seen = unmendedOf(g);
          const today = await todayView(w.services, g);
          expect(today.bad).toEqual(seen);
          // The beam line shows each, on the path or off it, in the same words.
          const line = beamLine(g, "k");
          for (const u of seen) {
            const station = line.stations.find((s) => s.id === u.station);
            if (station) expect(station.status[0]).toBe(u.word);
            else expect(line.branches).toContainEqual({ id: u.id, name: u.name, text: u.word, isBad: true });
          }
          expect(line.stations.filter((s) => ["clean it", "past cleaning"].includes(s.status[1] ?? ""))).toHaveLength(
            seen.filter((u) => u.station !== "tube" && line.stations.some((s) => s.id === u.station)).length,
          );
          // Every round takes along what can be cleaned, and takes as long in every place.
          const clean = seen.flatMap((u) => u.clean ?? []);
          const { choices } = await choiceView(w.services, g, new URLSearchParams());
          for (const scope of choices) {
            expect(scope.parts).toEqual(expect.arrayContaining(clean));
            const { plan, chosen } = await choiceView(w.services, g, new URLSearchParams({ scope: scope.id }));
            const sheet = await sheetView(w.services, g, new URLSearchParams(chosen?.sheet));
            expect([plan?.minutes, sheet.minutes]).toEqual([scope.minutes, scope.minutes]);
          }
          const due = choices.find((c) => c.id === "due");
          if (due) expect(due.minutes).toBe(wholeMinutes(today.offer.minutes));
          expect(today.offer.lines.reduce((sum, l) => sum + Math.round(l.minutes), today.offer.frameMinutes)).toBe(
            Math.round(today.offer.minutes),
          );
          if (!asks) return;
          const shown = await caseView(w.services, g, g.openCase?.id, null);
          const paper = await reportView(w.services, g, g.openCase?.id);
          expect(paper.outcome).toBe(shown.view.headline);
          expect(paper.faults.map((f) => [f.name, f.chance])).toEqual(shown.view.faults.map((f) => [f.name, f.chance]));
          const [first] = shown.view.faults;
          if (first) expect(today.openCases.at(-1)?.words).toContain(`${first.name} ${first.chance}`);
          if (shown.view.repair) expect(shown.view.repair.parts).toEqual(expect.arrayContaining(clean));
          if (brokenOf(g)) expect(shown.view.headline).toMatch(/^Do not fire/);
          // A place is at least as suspect as each fault there.
          for (const f of shown.view.faults) {
            const at = g.trade.model.faults.find((x) => x.id === f.id)?.station ?? "";
            const place = shown.view.suspicion[at];
            if (place) expect(numbers(place.chance)[0] ?? 0).toBeGreaterThanOrEqual(numbers(f.chance)[0] ?? 0);
          }
        },
      ),
      { numRuns: 8 },
    );
  });
});
