/** What was tried in a case and brought it back: another sheet that cuts is taken already, and has been proven by its cut. */
import type { Gathered } from "../machine/gather";
import type { SourcedFinding } from "./caseInput";
import { faultSays, findingWords, repairName } from "./words";

export interface Tried {
  readonly name: string;
  /** Faults that it mended. */
  readonly faults: readonly string[];
  /** What was found, and what that says. */
  readonly proof: string;
  readonly says: string;
}

/** The repair that the newest answer to a check has carried out; undefined where none did, or the machine was mended since. */
export function triedIn(g: Gathered, findings: readonly SourcedFinding[]): Tried | undefined {
  for (const check of g.trade.model.checks) {
    const last = findings.filter((f) => f.check === check.id).at(-1);
    if (check.tries === undefined || last?.outcome !== check.tries.outcome) continue;
    const { repair } = check.tries;
    const faults = g.trade.model.faults.filter((f) => f.repair === repair).map((f) => f.id);
    return {
      name: repairName(g.trade, repair),
      faults,
      proof: findingWords(g.trade, last),
      says: faults.map((f) => faultSays(g.trade, f)).join(", or "),
    };
  }
  return undefined;
}
