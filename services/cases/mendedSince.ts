/** What was mended in the course of a case, and whether the test that failed has been made again since: its own rounds, and any other hands. */
import type { TraceAnswer, TraceInput } from "#core/trace";
import type { TraceCase } from "#store/cases";
import type { Services } from "../context";
import type { Gathered } from "../machine/gathered";
import { answered } from "./answered";
import { type CaseFindings, plainly, type SourcedFinding } from "./caseInput";
import { creditedWith } from "./credit";
import { expectedAfterRepair } from "./expected";
import type { Tried } from "./tried";
import { faultSays, findingWords, repairName } from "./words";

/** So many repairs are named; more are counted. */
const NAMED = 3;

/** A cut is as hard as the usual one to within this, ln effective power. */
const AS_HARD = 0.03;

/** The repairs that were done last, as a list in words. */
function mendedWords(g: Gathered, { before }: CaseFindings): string {
  const names = (before.at(-1)?.done.repairs ?? []).map((r) => repairName(g.trade, r));
  return names.length > NAMED ? `${names.slice(0, NAMED - 1).join(", ")} and ${names.length - NAMED + 1} more` : names.join(", ");
}

/** What brought it back: the last mending, where all that was tested since has passed; undefined where nothing was, or something failed. */
export async function broughtBack(
  services: Pick<Services, "tracer">,
  g: Gathered,
  openCase: TraceCase,
  found: CaseFindings,
  input: TraceInput,
  { stop }: Pick<TraceAnswer, "stop">,
): Promise<Tried | undefined> {
  const { now, before } = found;
  const last = before.at(-1);
  const past = input.before?.at(-1);
  // Another test that failed waits to be made again.
  if (!last || !past || stop.reason === "proof") return undefined;
  const failed = failedIn(g, found);
  if (failed === undefined) return undefined;
  const isTest = (f: SourcedFinding) => f.check === failed || (isOfLight(g, failed) && isOfLight(g, f.check));
  const tests = now.filter((f) => f.atMs >= last.done.endedMs && isTest(f) && !isEasy(g, f));
  const proof = tests.at(-1);
  if (proof === undefined || !tests.every((f) => passes(g, openCase, found, f))) return undefined;
  // What it had most likely been is what was believed before the mending.
  const then = await answered(services, g.trade.model, {
    ...input,
    usage: past.usage ?? input.usage,
    findings: [...past.findings, ...now.filter((f) => f.atMs < last.done.startedMs).map(plainly)],
    before: input.before?.slice(0, -1),
    mended: input.before?.slice(0, -1).flatMap((b) => b.repairs),
  });
  const faults = creditedWith(g.trade.model, last.done.repairs, then.faults);
  const repairs = [...new Set(faults.flatMap((id) => g.trade.model.faults.find((f) => f.id === id)?.repair ?? []))];
  return {
    headline: "Mended: what failed passes now.",
    name: repairs.map((r) => repairName(g.trade, r)).join(", "),
    faults,
    proof: findingWords(g.trade, proof),
    says: faults.map((f) => faultSays(g.trade, f)).join(" and "),
    after: "It was done before the test that passed.",
    fitted: undefined,
  };
}

const specOf = (g: Gathered, check: string) => g.trade.model.checks.find((c) => c.id === check);
const isOfLight = (g: Gathered, check: string) => ["cut", "ladder"].includes(specOf(g, check)?.measures?.kind ?? "");

/** The test that failed, where one did: what was complained of, and not how it came. */
const failedIn = (g: Gathered, { now, before, longAgo }: CaseFindings): string | undefined =>
  [...longAgo, ...before.flatMap((b) => b.findings), ...now].find((f) => f.complaint === true && specOf(g, f.check)?.speaksOf !== "history")
    ?.check;

/** A cut that drops and asks less than the usual one proves nothing of it. */
const isEasy = (g: Gathered, { outcome, neededLnRatio = 0 }: SourcedFinding): boolean =>
  outcome === "through" && neededLnRatio < g.trade.model.usualNeedLn - AS_HARD;

function passes(g: Gathered, openCase: TraceCase, found: CaseFindings, f: SourcedFinding): boolean {
  const spec = specOf(g, f.check);
  if (spec?.measures?.kind !== "ladder") return f.outcome !== undefined && f.outcome === spec?.outcomes[0];
  const expected = expectedAfterRepair(g, openCase.onsetMs);
  if (expected === undefined || (f.value ?? 0) + 1.64 * (f.sd ?? 0) < expected) return false;
  // That much dirt and wear would explain it is no repair: what failed must have the power it needs.
  const failed = [...found.longAgo, ...found.before.flatMap((b) => b.findings), ...found.now].flatMap((c) =>
    c.neededLnRatio !== undefined && c.outcome !== "through" && specOf(g, c.check)?.measures?.kind === "cut" ? [c.neededLnRatio] : [],
  );
  const need = failed.length > 0 ? Math.min(...failed) : g.trade.model.usualNeedLn;
  return Math.log(Math.max(1e-6, f.value ?? 0)) >= need - AS_HARD;
}

/** What is said while the test that failed waits to be made again. */
export function proofDueWords(g: Gathered, found: CaseFindings, { stop }: Pick<TraceAnswer, "stop">): string | undefined {
  return stop.reason === "proof" ? `Done since it failed: ${mendedWords(g, found)}.` : undefined;
}
