/** Starts a round by a posted form: its parts are the machine's, its case is open. */
import { openCasesOf } from "#store/cases";
import { startRound } from "#store/rounds";
import { once, rowKey } from "#store/sent";
import type { Services } from "../context";
import { type FormReader, recordId, sentAs } from "../forms/fields";
import { gatherOnce } from "../machine/gather";
import { planOf, titleOf } from "../machine/plans";
import { validParts } from "./scopes";

export type Started = { readonly roundId: number } | { readonly problem: string };

export async function startByForm(services: Services, slug: string, reader: FormReader): Promise<Started> {
  const { machine, trade, grades, out } = await gatherOnce(services, slug);
  const parts = validParts(trade, reader.all("part"));
  if (!parts) return { problem: "This round names a part the machine does not have. Go back and choose again." };
  const caseId = recordId(reader.text("caseId"));
  const isOpen = caseId !== undefined && (await openCasesOf(services.store, machine.id)).some((c) => c.id === caseId);
  if (reader.text("caseId") !== undefined && !isOpen)
    return { problem: "This case has been closed, so no round was started. Reopen the case or start from Today." };
  const sent = sentAs(`round ${machine.id}`, reader);
  const direction = reader.text("order") === "tube-first" ? "tube-first" : "head-first";
  const title = (reader.text("title") ?? titleOf(trade, parts)).slice(0, 80);
  const nowMs = services.nowMs();
  const plan = planOf(trade, parts, { direction, isRepair: caseId !== undefined, grades, out });
  const round = { title, parts, plan, caseId, requestKey: rowKey(sent) };
  return { roundId: await once(services.store, sent, nowMs, (tx) => startRound(tx, machine.id, round, nowMs)) };
}
