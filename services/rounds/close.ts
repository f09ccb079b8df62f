/** Ends a round: writes its grades and services to the log, judges the proof, and closes the case it was a repair for. */

import { type EffectiveRatio, effectiveRatio, readLadder } from "#core/cuts";
import type { EventOf, EventPayload } from "#core/events";
import { roundRecords } from "#core/rounds";
import type { TraceAnswer } from "#core/trace";
import { addFinding, closeCase, listFindings, openCasesOf, type TraceCase } from "#store/cases";
import { atOnce, type Store } from "#store/database";
import { appendEvents, type NewEvent } from "#store/events";
import { endRound, findRound, type Round } from "#store/rounds";
import { once, rowKey, type SentForm } from "#store/sent";
import { dropSetting, settingsFrom, writeSettings } from "#store/settings";
import { answered } from "../cases/answered";
import { type AnswerView, answerView } from "../cases/answerView";
import { caseFindings, everFound, traceInput } from "../cases/caseInput";
import { creditedWith } from "../cases/credit";
import { expectedAfterRepair } from "../cases/expected";
import type { Services } from "../context";
import { gather } from "../machine/gather";
import type { Gathered } from "../machine/gathered";
import { planOfRound } from "../machine/plans";
import { repairsDone } from "../machine/repairsDone";
import type { Trade } from "../machine/trade";
import { usualSetPercent } from "../machine/usual";
import { figureHere, withUnit } from "../units";
import { percentOf } from "../words";
import { fromShelf, takeSpares } from "../workshop/spares";

/** Records of a round as events, keyed so that ending it twice writes nothing twice. */
export function eventsOfRound(trade: Trade, round: Round): (NewEvent & { readonly stepId: string })[] {
  return roundRecords(planOfRound(trade, round).steps, round.answers).map((r) => ({
    kind: r.kind,
    atMs: r.atMs,
    payload: r.payload,
    requestKey: `round-${round.id}:${r.key}`,
    stepId: r.stepId,
  }));
}

/** The newest ladder of the same material before a time, and what one bought against the other. */
export function bought(
  g: Gathered,
  ladder: EventPayload["ladder"],
  beforeMs: number,
): { effective: EffectiveRatio; atMs: number } | undefined {
  const before = g.log.kinds.ladder.findLast((e) => e.payload.materialId === ladder.materialId && e.atMs < beforeMs);
  if (!before) return undefined;
  const beta = g.materials.find((m) => m.id === ladder.materialId)?.beta ?? 1;
  const point = (p: EventPayload["ladder"]) => ({ result: readLadder(p.rungs), setPercent: p.setPercent });
  return { effective: effectiveRatio(point(ladder), point(before.payload), beta), atMs: before.atMs };
}

/** How a round is proven: by a ladder, by a test piece, or by the failed test once more. */
export type RoundProof =
  | { readonly kind: "ladder"; readonly ladder: EventPayload["ladder"] }
  | { readonly kind: "piece"; readonly cut: EventPayload["cut"] }
  | { readonly kind: "repeat"; readonly check: string; readonly outcome: string };

/** The record a proof leaves in the log; the failed test once more is a finding of its case instead. */
function proofEvent(proof: RoundProof, requestKey: string, atMs: number, caseId: number | undefined): NewEvent[] {
  if (proof.kind === "ladder") return [{ kind: "ladder", atMs, payload: proof.ladder, requestKey, caseId }];
  return proof.kind === "piece" ? [{ kind: "cut", atMs, payload: proof.cut, requestKey, caseId }] : [];
}

/**
 * Closes a round with its proof: what it found and did, the proof, and where the proof holds the case it was a repair for, all at once
 * or not at all. "logged" when the round had ended before, on another device: then the proof is an entry like any other, so that
 * nothing measured is lost.
 */
export async function closeRound(
  services: Services,
  slug: string,
  round: Round,
  proof: RoundProof,
  sent: SentForm,
): Promise<"closed" | "logged"> {
  const nowMs = services.nowMs();
  let judging: Unjudged | undefined;
  const basis = await basisOf({ ...services, nowMs: () => nowMs }, slug, round.caseId);
  const ended = await once(services.store, sent, nowMs, async (tx) => {
    const inside: Services = { ...services, store: tx, nowMs: () => nowMs };
    const before = await gather(inside, slug);
    const openCase = before.openCases.find((c) => c.id === round.caseId);
    const found = await recordsNow(tx, before, round);
    const events = [...found, ...proofEvent(proof, `round-${round.id}:proof`, nowMs, round.caseId)];
    const ended = await endRound(tx, before.machine.id, round.id, "closed", events, nowMs);
    if (ended) await takeSpares(tx, before.machine.id, events);
    else await appendEvents(tx, before.machine.id, proofEvent(proof, rowKey(sent), nowMs, round.caseId), nowMs);
    if (openCase && proof.kind === "repeat")
      await addFinding(tx, openCase.id, { check: proof.check, outcome: proof.outcome }, rowKey(sent), nowMs);
    if (openCase && ended && basis) {
      judging = { slug, caseId: openCase.id, roundId: round.id, nowMs, basis };
      await writeSettings(tx, { [`${JUDGING}${openCase.id}`]: judging });
    }
    return ended ? "closed" : "logged";
  });
  if (judging) await judge(services, judging);
  return ended;
}

/** A round that was ended and whose proof is still to be weighed: kept until it was, so that a server that is stopped in between does it at its next start. */
interface Unjudged {
  readonly slug: string;
  readonly caseId: number;
  readonly roundId: number;
  readonly nowMs: number;
  readonly basis: Basis;
}
const JUDGING = "judging-case-";

/** What a case stood at before its round ended: what it is closed with, if the proof holds. */
interface Basis {
  readonly faults: TraceAnswer["faults"];
  readonly report: AnswerView;
}

async function basisOf(services: Services, slug: string, caseId: number | undefined): Promise<Basis | undefined> {
  if (caseId === undefined) return undefined;
  const g = await gather(services, slug);
  const openCase = g.openCases.find((c) => c.id === caseId);
  if (!openCase) return undefined;
  const stored = await listFindings(services.store, caseId);
  const { faults } = await answered(services, g.trade.model, traceInput(g, openCase, caseFindings(g, openCase, stored)));
  return { faults, report: await answerView(services, g, openCase, stored) };
}

/**
 * Weighs the proof of a round and closes its case where it holds. Weighing takes the thread some tenths of a second, so it is done after the
 * round is kept and while nobody is kept from writing.
 */
async function judge(asked: Services, { slug, caseId, roundId, nowMs, basis }: Unjudged): Promise<boolean> {
  const services: Services = { ...asked, nowMs: () => nowMs };
  const g = await gather(services, slug);
  const openCase = g.openCases.find((c) => c.id === caseId);
  // As it was answered in the end, on whichever device.
  const walked = await findRound(services.store, g.machine.id, roundId);
  const proof = openCase && walked && (await provenBy(services, g, openCase, walked, nowMs));
  return atOnce(services.store, async (tx) => {
    await dropSetting(tx, `${JUDGING}${caseId}`);
    if (proof === undefined || !walked || !(await openCasesOf(tx, g.machine.id)).some((c) => c.id === caseId)) return false;
    await closeCase(tx, g.machine.id, caseId, closingOf(g.trade, walked, proof, basis), nowMs);
    return true;
  });
}

/** Ends a round without a proof, for a reason that the log keeps. Does nothing where it had ended before. */
export async function endWithoutProof(services: Services, slug: string, round: Round, why: string): Promise<void> {
  const nowMs = services.nowMs();
  await atOnce(services.store, async (tx) => {
    const g = await gather({ ...services, store: tx }, slug);
    const reason: NewEvent = {
      kind: "note",
      atMs: nowMs,
      payload: { note: `“${round.title}” ended without proof: ${why}`.slice(0, 500) },
      requestKey: `round-${round.id}:why`,
    };
    const records = await recordsNow(tx, g, round);
    const ended = await endRound(tx, g.machine.id, round.id, "abandoned", [...records, reason], nowMs);
    if (ended) await takeSpares(tx, g.machine.id, records);
  });
}

/** Records of a round by the answers it has at this moment: another device may have given one since the form was read. */
async function recordsNow(tx: Store, g: Gathered, round: Round): Promise<readonly NewEvent[]> {
  return fromShelf(tx, g.machine.id, eventsOfRound(g.trade, (await findRound(tx, g.machine.id, round.id)) ?? round));
}

/** What proves the repair of a case in a round that was just closed at `endedMs`; undefined when nothing does. */
async function provenBy(
  services: Services,
  after: Gathered,
  openCase: TraceCase,
  round: Round,
  endedMs: number,
): Promise<string | undefined> {
  const cutLadder = after.log.kinds.ladder.findLast((e) => e.roundId === round.id);
  if (cutLadder) {
    // A round that mended nothing proves no repair, whatever its ladder says.
    if (repairsDone(after.trade, round).length === 0) return undefined;
    // What had failed drops again: that is the test made again, whether there is a baseline or not.
    const again = openCase.symptom === "power" ? meetsFailedCut(after, openCase, cutLadder) : undefined;
    const ladder = after.ladders.findLast((l) => l.event.id === cutLadder.id)?.effective;
    if (!ladder) return again;
    const expected = expectedAfterRepair(after, openCase.onsetMs);
    if (expected === undefined || ladder.kind === "none" || ladder.kind === "at-most") return again;
    // The proof holds when the expected power lies within its 90 % range, or it came out better still.
    const reached = ladder.kind === "ratio" ? ladder.high : ladder.ratio;
    // What it failed at must drop again: that much dirt and wear would explain it is no repair.
    const stillFails = openCase.symptom === "power" && again === undefined && testsOf(after, openCase, cutLadder).length > 0;
    return reached >= expected && !stillFails ? `ladder at ${percentOf(ladder.ratio)} of best, ${percentOf(expected)} expected` : again;
  }
  const findings = everFound(after, openCase, await listFindings(services.store, openCase.id));
  const failed = failedCheck(after, findings);
  const cut = after.log.kinds.cut.findLast((e) => e.roundId === round.id);
  // The cut is in the log and speaks there; it closes the case only where it was a cut that failed.
  if (cut) return failed === "known-cut" && cut.payload.result === "through" ? "the usual cut drops through again" : undefined;
  const passes = after.trade.model.checks.find((c) => c.id === failed)?.outcomes[0];
  const repeated = findings.some((f) => f.check === failed && f.atMs === endedMs && f.outcome === passes && f.source.kind === "answer");
  return failed !== undefined && repeated ? `${failed}: ${passes}, where it failed before` : undefined;
}

/** Speed (mm/s) up to which a ladder dropped without a gap; undefined where nothing did. */
function droppedTo({ payload: { rungs } }: EventOf<"ladder">): number | undefined {
  const rising = [...rungs].sort((a, b) => a.speedMmPerS - b.speedMmPerS);
  const gap = rising.findIndex((r) => r.end !== "dropped");
  return rising[(gap < 0 ? rising.length : gap) - 1]?.speedMmPerS;
}

/**
 * Whether a ladder dropped what a case began with: the cuts of its material that failed since the onset, at no more power and at least as
 * fast; where none was told, the usual setting. The proof in words; undefined where it did not.
 */
function meetsFailedCut(g: Gathered, { onsetMs }: TraceCase, ladder: EventOf<"ladder">): string | undefined {
  const dropped = droppedTo(ladder);
  const tests = testsOf(g, { onsetMs }, ladder);
  if (dropped === undefined || tests.length === 0) return undefined;
  const { setPercent } = ladder.payload;
  const isMet = tests.every((t) => dropped >= t.speedMmPerS - 1e-9 && setPercent <= t.setPercent + 1e-9);
  const [first] = tests;
  return isMet && first
    ? `ladder dropped to ${withUnit(dropped, "mm/s")}, where ${figureHere(first.speedMmPerS, "mm/s")} had failed`
    : undefined;
}

/** What a case began with, in a ladder's material: the cuts that failed since its onset; where none was told, the usual setting. */
function testsOf(
  g: Gathered,
  { onsetMs }: Pick<TraceCase, "onsetMs">,
  ladder: EventOf<"ladder">,
): readonly { speedMmPerS: number; setPercent: number }[] {
  const { materialId } = ladder.payload;
  const failed = g.log.kinds.cut
    .slice(g.log.kinds.cut.firstIndex((e) => e.atMs >= onsetMs))
    .filter((e) => e.atMs < ladder.atMs && e.payload.materialId === materialId && e.payload.result !== "through")
    .map((e) => ({ speedMmPerS: e.payload.speedMmPerS, setPercent: e.payload.setPercent }));
  if (failed.length > 0) return failed;
  const material = g.materials.find((m) => m.id === materialId);
  return material?.usualSpeedMmPerS === undefined
    ? []
    : [{ speedMmPerS: material.usualSpeedMmPerS, setPercent: usualSetPercent(material) }];
}

/** What a case is closed with: the faults its round mended, likeliest first. What was passed over ended nothing. */
const closingOf = (trade: Trade, round: Round, proof: string, { faults, report }: Basis) => ({
  repair: round.title,
  faults: creditedWith(trade.model, repairsDone(trade, round), faults),
  proof,
  report,
});

/** Closes cases whose repair round was closed with its proof by a server that was stopped before it had weighed it. Returns how many there were. */
export async function finishJudging(services: Services): Promise<number> {
  let finished = 0;
  for (const unjudged of (await settingsFrom<Unjudged>(services.store, JUDGING)).values())
    if (await judge(services, unjudged)) finished += 1;
  return finished;
}

/** The check that failed first in a case, to be repeated as its proof. */
export function failedCheck(g: Gathered, findings: readonly { check: string; outcome?: string | undefined }[]): string | undefined {
  return findings.find((f) => {
    const spec = g.trade.model.checks.find((c) => c.id === f.check);
    return spec?.symptom !== undefined && f.outcome !== undefined && spec.outcomes.length > 0 && spec.outcomes[0] !== f.outcome;
  })?.check;
}
