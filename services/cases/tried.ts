/** What was tried in a case and brought it back: another sheet that cuts is taken already, a spare lens is in; its cut is the proof. */
import type { TraceAnswer } from "#core/trace";
import type { Gathered } from "../machine/gathered";
import type { SourcedFinding } from "./caseInput";
import { creditedWith } from "./credit";
import { faultSays, findingWords, repairName } from "./words";

export interface Tried {
  readonly headline: string;
  readonly name: string;
  /** Faults that it is taken to have mended. */
  readonly faults: readonly string[];
  /** What was found, what that says, and what is to be done about it still. */
  readonly proof: string;
  readonly says: string;
  readonly after: string;
  /** Station whose spare went in for it. */
  readonly fitted: string | undefined;
}

/** The repair that the newest answer to a check has carried out; undefined where none did, or the machine was mended since. */
export function triedIn(
  g: Gathered,
  findings: readonly SourcedFinding[],
  { faults: likely }: Pick<TraceAnswer, "faults">,
): Tried | undefined {
  for (const check of g.trade.model.checks) {
    const last = findings.filter((f) => f.check === check.id).at(-1);
    if (check.tries === undefined || last?.outcome !== check.tries.outcome) continue;
    const { repair } = check.tries;
    const faults = creditedWith(g.trade.model, [repair], likely);
    return {
      headline: "Tried, and it cuts through.",
      name: repairName(g.trade, repair),
      faults,
      proof: findingWords(g.trade, last),
      says: faults.map((f) => faultSays(g.trade, f)).join(", or "),
      after:
        check.needsSpare === undefined
          ? "What failed passes now, with nothing opened."
          : "What failed passes now, and the spare stays in: closing writes it into the log. The old one goes by its edge into a bag of its own; clean it and look at it before it is a spare again.",
      fitted: check.needsSpare,
    };
  }
  return undefined;
}
