/** A machine's projection as it grows with its log, against the one made of the whole log at once. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { advance, EMPTY_LOG, type EventLog, type MachineEvent } from "#core/events";
import { usageAt } from "#core/schedule";
import type { Material } from "#store/machines";
import { rungs } from "../testWorkshop";
import { conditionAt } from "./condition";
import { type Projection, project } from "./projection";
import { tradeOf } from "./trade";

const DAY = 86_400_000;
const NOW = 140 * DAY;
const trade = tradeOf({ layout: "three-mirror" });
const material = (id: number, kind: string) => ({ id, name: kind, kind, thicknessMm: 3, beta: 1, hidden: false }) as Material;
const materials = [material(1, "birch-ply"), material(2, "acrylic")];

const entry = fc.record({
  kind: fc.constantFrom("hours", "job", "job", "job", "service", "ladder", "ladder"),
  day: fc.integer({ min: 0, max: 120 }),
  amount: fc.integer({ min: 1, max: 300 }),
  materialId: fc.constantFrom(1, 2),
  corrects: fc.option(fc.nat(30), { nil: undefined, freq: 8 }),
});

const logs = fc.array(entry, { maxLength: 50 }).map((entries): MachineEvent[] =>
  entries.map((e, i): MachineEvent => {
    const corrects = e.corrects !== undefined && e.corrects < i ? e.corrects + 1 : undefined;
    const more = { id: i + 1, atMs: e.day * DAY + i * 60_000, corrects, voids: corrects !== undefined && e.amount % 4 === 0 };
    const { amount, materialId } = e;
    if (e.kind === "hours") return { ...more, kind: "hours", payload: { counterHours: e.day * 3 + amount / 50 } };
    if (e.kind === "job") return { ...more, kind: "job", payload: { materialId, minutes: amount } };
    if (e.kind === "service") return { ...more, kind: "service", payload: { station: amount % 2 ? "lens" : "mirror-2", what: "cleaned" } };
    const flag = amount % 3 === 0 ? { baseline: true } : {};
    return { ...more, kind: "ladder", payload: { materialId, setPercent: 60, rungs: rungs(8 + (amount % 8)), ...flag } };
  }),
);

/** What places ask of a projection. */
function figures(p: Projection) {
  const baseline = p.log.kinds.ladder.findLast((e) => e.payload.baseline === true);
  const evidence = {
    trade,
    log: p.log,
    usage: usageAt(p.usage, NOW),
    ladders: p.ladders.readings,
    nowMs: NOW,
    fouling: p.fouling,
    faulty: [],
    betaOf: () => 1,
  };
  return {
    tubeHours: evidence.usage.tubeHours,
    ladders: [...p.ladders.readings],
    condition: baseline && conditionAt(evidence, baseline, NOW, 60 * DAY),
  };
}

describe("a machine's projection", () => {
  it("brought forward batch by batch, and asked in between, says what the whole log says", () => {
    fc.assert(
      fc.property(logs, fc.integer({ min: 1, max: 9 }), (records, batch) => {
        let log: EventLog = EMPTY_LOG;
        let grown: Projection | undefined;
        for (let i = 0; i < records.length; i += batch) {
          log = advance(log, records.slice(i, i + batch));
          grown = project(log, trade, materials, grown);
          figures(grown);
        }
        const whole = project(advance(EMPTY_LOG, records), trade, materials);
        expect(figures(grown ?? whole)).toEqual(figures(whole));
      }),
      { numRuns: 60 },
    );
  });
});
