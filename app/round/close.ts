/** Ends a round: writes its grades and services to the log, judges the proof, and closes the case it was a repair for. */
import type { AppLoadContext } from "react-router";
import { type EffectiveRatio, effectiveRatio, readLadder } from "#core/cuts";
import { type EventPayload, eventsOf } from "#core/events";
import { roundRecords } from "#core/rounds";
import { trace } from "#core/trace";
import { addFinding, closeCase, listFindings, type TraceCase } from "#store/cases";
import type { NewEvent } from "#store/events";
import { endRound, type Round } from "#store/rounds";
import { caseFindings, traceInput } from "../trace/caseInput";
import { expectedAfterRepair } from "../trace/expected";
import { type Gathered, gather } from "../workshop/gather";
import { partsOfRepair, planOfRound } from "../workshop/trade";
import { percentOf } from "../workshop/words";

/** Records of a round as events, keyed so that ending it twice writes nothing twice. */
export function eventsOfRound(g: Gathered, round: Round): NewEvent[] {
  return roundRecords(planOfRound(g.trade, round).steps, round.answers).map((r) => ({
    kind: r.kind,
    atMs: r.atMs,
    payload: r.payload,
    requestKey: `round-${round.id}:${r.key}`,
  }));
}

/** The newest ladder of the same material before a time, and what one bought against the other. */
export function bought(
  g: Gathered,
  ladder: EventPayload["ladder"],
  beforeMs: number,
): { effective: EffectiveRatio; atMs: number } | undefined {
  const before = eventsOf(g.events, "ladder")
    .filter((e) => e.payload.materialId === ladder.materialId && e.atMs < beforeMs)
    .at(-1);
  if (!before) return undefined;
  const beta = g.materials.find((m) => m.id === ladder.materialId)?.beta ?? 1;
  const point = (p: EventPayload["ladder"]) => ({ result: readLadder(p.rungs), setPercent: p.setPercent });
  return { effective: effectiveRatio(point(ladder), point(before.payload), beta), atMs: before.atMs };
}

/** Closes a round with a ladder as its proof. In a repair round the proof closes the case, or goes in as a finding. */
export async function closeWithLadder(context: AppLoadContext, slug: string, round: Round, ladder: EventPayload["ladder"]): Promise<void> {
  const g = await gather(context, slug);
  const nowMs = context.nowMs();
  const events: NewEvent[] = [
    ...eventsOfRound(g, round),
    { kind: "ladder", atMs: nowMs, payload: ladder, requestKey: `round-${round.id}:proof`, caseId: round.caseId },
  ];
  await endRound(context.store, g.machine.id, round.id, "closed", events, nowMs);
  const openCase = g.cases.find((c) => c.id === round.caseId && c.closedMs === undefined);
  if (!openCase) return;
  const after = await gather(context, slug);
  const proof = after.ladders.find((l) => l.event.roundId === round.id)?.effective;
  const expected = expectedAfterRepair(after, openCase.onsetMs);
  // The proof holds when the expected power lies within its 90 % range, or it came out better still.
  const proven =
    proof?.kind === "ratio" && expected !== undefined
      ? proof.high >= expected
      : proof?.kind === "at-least" && expected !== undefined && proof.ratio >= expected;
  if (proven && proof && proof.kind !== "none") {
    await closeAs(context, g, openCase, round, `ladder at ${percentOf(proof.ratio)} of best, ${percentOf(expected as number)} expected`);
  }
}

/** Closes a repair round with the test that failed, repeated. The passing answer closes the case, another becomes a finding. */
export async function closeWithRepeat(
  context: AppLoadContext,
  slug: string,
  round: Round,
  checkId: string,
  outcome: string,
): Promise<void> {
  const g = await gather(context, slug);
  const nowMs = context.nowMs();
  await endRound(context.store, g.machine.id, round.id, "closed", eventsOfRound(g, round), nowMs);
  const openCase = g.cases.find((c) => c.id === round.caseId && c.closedMs === undefined);
  const spec = g.trade.model.checks.find((c) => c.id === checkId);
  if (!openCase || !spec) return;
  await addFinding(context.store, openCase.id, { check: checkId, outcome }, `round-${round.id}:repeat`, nowMs);
  if (spec.outcomes[0] === outcome) await closeAs(context, g, openCase, round, `${checkId}: ${outcome}, where it failed before`);
}

/** Closes a round with a test piece at the usual setting: weaker than a ladder, and said so. In a case it is its finding as well. */
export async function closeWithPiece(context: AppLoadContext, slug: string, round: Round, cut: EventPayload["cut"]): Promise<void> {
  const g = await gather(context, slug);
  const nowMs = context.nowMs();
  const events: NewEvent[] = [
    ...eventsOfRound(g, round),
    { kind: "cut", atMs: nowMs, payload: cut, requestKey: `round-${round.id}:piece`, caseId: round.caseId },
  ];
  await endRound(context.store, g.machine.id, round.id, "closed", events, nowMs);
  const openCase = g.cases.find((c) => c.id === round.caseId && c.closedMs === undefined);
  if (!openCase) return;
  const failed = failedCheck(g, caseFindings(g, openCase, await listFindings(context.store, openCase.id)));
  // The cut is in the log and speaks there; it closes the case only where it was a cut that failed.
  if (failed === "known-cut" && cut.result === "through") await closeAs(context, g, openCase, round, "the usual cut drops through again");
}

async function closeAs(context: AppLoadContext, g: Gathered, openCase: TraceCase, round: Round, proof: string): Promise<void> {
  const findings = caseFindings(g, openCase, await listFindings(context.store, openCase.id));
  const answer = trace(g.trade.model, traceInput(g, openCase, findings));
  const mended = g.trade.model.faults.filter((f) => partsOfRepair(g.trade, f.repair).some((p) => round.parts.includes(p))).map((f) => f.id);
  const faults = answer.faults.filter((f) => mended.includes(f.id)).slice(0, 2);
  await closeCase(
    context.store,
    g.machine.id,
    openCase.id,
    { repair: round.title, faults: faults.map((f) => f.id), proof },
    context.nowMs(),
  );
}

/** The check that failed first in a case, to be repeated as its proof. */
export function failedCheck(g: Gathered, findings: readonly { check: string; outcome?: string | undefined }[]): string | undefined {
  return findings.find((f) => {
    const spec = g.trade.model.checks.find((c) => c.id === f.check);
    return spec?.symptom !== undefined && f.outcome !== undefined && spec.outcomes.length > 0 && spec.outcomes[0] !== f.outcome;
  })?.check;
}
