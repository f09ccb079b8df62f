/** A case as the file that the trace command reads: the machine as it is, its use, and all that still speaks. */
import { type CaseFile, caseFileSchema } from "#core/trace";
import { listFindings } from "#store/cases";
import { check } from "#store/check";
import type { Services } from "../context";
import type { Gathered } from "../machine/gathered";
import { caseFindings, traceInput } from "./caseInput";
import { caseOf } from "./caseOf";

/** Throws NotHere. */
export async function caseFile(services: Services, g: Gathered, caseId: number | undefined): Promise<CaseFile> {
  const found = await caseOf(services, g, caseId);
  const findings = caseFindings(g, found, await listFindings(services.store, found.id));
  const { layout } = g.trade;
  const file = {
    machine: { preset: g.machine.layout, path: layout.path, fittings: layout.fittings },
    ...traceInput(g, found, findings),
  };
  // As it is written, so without what is not there.
  const written = JSON.parse(JSON.stringify(file)) as unknown;
  const checked = check<CaseFile>(caseFileSchema, written);
  if (!checked.ok) throw new Error(`a case came out as no case file: ${JSON.stringify(checked.errors)}`);
  return checked.value;
}
