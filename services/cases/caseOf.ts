import { findCase, type TraceCase } from "#store/cases";
import type { Services } from "../context";
import type { Gathered } from "../machine/gathered";
import { NotHere } from "../refusal";

/** A case of a machine. Throws NotHere. */
export async function caseOf(services: Services, g: Gathered, caseId: number | undefined): Promise<TraceCase> {
  const found = caseId === undefined ? undefined : await findCase(services.store, g.machine.id, caseId);
  if (!found) throw new NotHere("There is no such case on this machine.");
  return found;
}
