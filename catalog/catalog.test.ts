import { describe, expect, it } from "vitest";
import { layouts } from "#catalog/layouts";
import { repairSpecs } from "#catalog/procedures";
import {
  checkOf,
  checks,
  checkTemplates,
  faults,
  faultTemplates,
  repairs,
  repairTemplates,
  signList,
  signs,
} from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { EXTRAS, traceSpec } from "#core/machine";
import { expandModel } from "#core/trace";
import { tradeOf } from "../services/machine/trade";

const sumsToOne = (values: readonly number[]) => expect(values.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 6);
const models = Object.values(layouts).map((l) =>
  expandModel(traceSpec(l, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates),
);

describe("the trade's data", () => {
  it("gives every check probabilities on a sound machine that sum to one", () => {
    for (const check of checkTemplates) if (check.outcomes.length > 0) sumsToOne(check.leak);
  });

  it("gives every fault effects that sum to one over the answers of their check", () => {
    for (const fault of faultTemplates) {
      for (const [key, effect] of Object.entries(fault.effects)) {
        const answers = Object.keys(checkOf(key.replace(/@.*$/, ""))?.outcomes ?? {}).length;
        for (const e of "kind" in effect ? [effect] : effect) {
          if (e.kind !== "outcomes") continue;
          for (const p of [e.light, e.heavy]) {
            sumsToOne(p as readonly number[]);
            expect(p, `${fault.id} on ${key}`).toHaveLength(answers);
          }
        }
      }
    }
  });

  it("loses no definition: none where two subjects would use one id, none of a subject that the index forgot", () => {
    const files = import.meta.glob<Readonly<Record<string, object>>>("./subjects/*.ts", { eager: true });
    const all = { Checks: checks, Repairs: repairs, Faults: faults, Signs: signs };
    for (const [kind, merged] of Object.entries(all)) {
      const defined = Object.values(files).flatMap((file) =>
        Object.entries(file).flatMap(([name, definitions]) => (name.endsWith(kind) ? Object.keys(definitions) : [])),
      );
      expect(Object.keys(merged).sort(), kind).toEqual(defined.sort());
    }
  });

  it("has a machine for every fault, check and sign, on which they can be asked and mended", () => {
    const faultIds = new Set(models.flatMap((m) => m.faults.map((f) => f.id.replace(/@\d+$/, "@k"))));
    const checkIds = new Set(models.flatMap((m) => m.checks.map((c) => c.id)));
    expect(Object.keys(faults).filter((id) => !faultIds.has(id))).toEqual([]);
    for (const sign of signList) for (const f of sign.findings) expect(checkIds.has(f.check), f.check).toBe(true);
  });

  it("carries out every repair by a procedure of its own or by parts that some machine has", () => {
    const own = new Set(repairSpecs.map((s) => s.id));
    const equipped = Object.values(layouts).map((l) => tradeOf({ layout: l.id, fittings: { ...l.fittings, extras: [...EXTRAS] } }));
    const parts = new Set(equipped.flatMap((trade) => [...trade.procedures.keys()].map((p) => p.replace(/^(mirror-)\d+$/, "$1@k"))));
    for (const [id, repair] of Object.entries(repairs)) {
      if (!("parts" in repair)) expect(own.has(id), id).toBe(true);
      else for (const part of repair.parts) expect(parts.has(part), `${id}: ${part}`).toBe(true);
    }
  });
});
