/** Ends a round by a posted form: with a ladder, a test piece, the failed test once more, or without proof and a reason. */
import type { EventPayload } from "#core/events";
import { heldBy } from "#core/rounds";
import { findCase, listFindings } from "#store/cases";
import type { FieldErrors } from "#store/check";
import { everFound } from "../cases/caseInput";
import type { Services } from "../context";
import { type FormReader, sentAs } from "../forms/fields";
import { readEntry } from "../log/entries";
import { CUT_WORDS } from "../log/words";
import { gather } from "../machine/gather";
import type { Gathered } from "../machine/gathered";
import { planOfRound } from "../machine/plans";
import { stopBesidesRound } from "../machine/stop";
import { usualCut } from "../machine/usual";
import { closeRound, endWithoutProof, failedCheck, type RoundProof } from "./close";
import { roundOf } from "./roundView";

/** `logged`: another device had closed it before, so the proof became an entry of the log. */
export type Ended =
  | { readonly ended: "closed" | "abandoned"; readonly roundId: number }
  | { readonly ended: "logged"; readonly roundId: number; readonly proof: RoundProof["kind"] }
  | { readonly ended: undefined; readonly errors: FieldErrors };

const refuse = (errors: FieldErrors): Ended => ({ ended: undefined, errors });

export async function endByForm(services: Services, slug: string, roundId: number | undefined, reader: FormReader): Promise<Ended> {
  const g = await gather(services, slug);
  const round = await roundOf(services, g.machine.id, roundId);
  const intent = reader.text("intent");
  if (intent === "ladder" || intent === "piece" || intent === "repeat") {
    const missing = heldBy(planOfRound(g.trade, round).steps, round.answers);
    if (round.status === "open" && missing.length > 0)
      return refuse({ "": `Before the final test, tick these: ${missing.map((s) => s.title).join(" ")}` });
    // Not for the round itself: its own ticks were looked at already.
    const stop = round.status === "open" ? stopBesidesRound(g) : undefined;
    if (stop) return refuse({ "": `Do not fire: ${stop.what}. ${stop.until} End this round without a final test.` });
    const read =
      intent === "ladder"
        ? ladderProof(reader, g)
        : intent === "piece"
          ? pieceProof(reader, g)
          : await repeatProof(services, reader, g, round.caseId);
    if ("errors" in read) return refuse(read.errors);
    const ended = await closeRound(services, slug, round, read.proof, sentAs(`round end ${round.id}`, reader));
    return ended === "closed" ? { ended, roundId: round.id } : { ended, roundId: round.id, proof: read.proof.kind };
  }
  if (intent === "apart" && reader.text("leftSafe") === undefined)
    return refuse({ leftSafe: "Unplug it and put the note on the lid, then tick it." });
  const why = reader.text("why");
  if (!why) return refuse({ why: "Say why in a few words: the log keeps it." });
  await endWithoutProof(services, slug, round, why);
  return { ended: "abandoned", roundId: round.id };
}

type ReadProof = { readonly proof: RoundProof } | { readonly errors: FieldErrors };

function ladderProof(reader: FormReader, g: Gathered): ReadProof {
  const entry = readEntry("ladder", reader, g, g.nowMs);
  return entry.ok ? { proof: { kind: "ladder", ladder: entry.payload as EventPayload["ladder"] } } : { errors: entry.errors };
}

function pieceProof(reader: FormReader, g: Gathered): ReadProof {
  const material = g.materials.find((m) => String(m.id) === reader.text("pieceMaterialId"));
  const result = reader.text("pieceResult");
  const cut = material && isCutResult(result) ? usualCut(material, result, "small circle and square, proof of a round") : undefined;
  return cut ? { proof: { kind: "piece", cut } } : { errors: { piece: "Say in which material, and how it went." } };
}

const isCutResult = (text: string | undefined): text is keyof typeof CUT_WORDS => text !== undefined && Object.hasOwn(CUT_WORDS, text);

async function repeatProof(services: Services, reader: FormReader, g: Gathered, caseId: number | undefined): Promise<ReadProof> {
  const outcome = reader.text("outcome");
  const roundCase = caseId === undefined ? undefined : await findCase(services.store, g.machine.id, caseId);
  const failed = roundCase && failedCheck(g, everFound(g, roundCase, await listFindings(services.store, roundCase.id)));
  const spec = g.trade.model.checks.find((c) => c.id === failed);
  if (!spec || spec.id !== reader.text("check"))
    return { errors: { "": "That is not the test that failed. Close the round with a ladder or a test piece." } };
  if (!outcome || !spec.outcomes.includes(outcome)) return { errors: { outcome: "Say how it went this time." } };
  return { proof: { kind: "repeat", check: spec.id, outcome } };
}
