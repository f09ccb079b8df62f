/** The round that is open on a machine, and what of the machine it leaves out or turned down. */
import type { EventLog } from "#core/events";
import { isApart, roundRecords } from "#core/rounds";
import { outSinceMs } from "#core/schedule";
import { openSittingOf } from "#store/aim";
import type { Machine } from "#store/machines";
import { findRound, openRoundOf } from "#store/rounds";
import type { Services } from "../context";
import type { OpenRound } from "./gathered";
import { planOfRound } from "./plans";
import { type Trade, tradeOf } from "./trade";

export async function openRound(services: Services, machine: Machine): Promise<OpenRound | undefined> {
  const line = await openRoundOf(services.store, machine.id);
  const round = line && (await findRound(services.store, machine.id, line.id));
  if (!round) return undefined;
  const { steps } = planOfRound(tradeOf(machine), round);
  const limits = steps.flatMap((s) => (s.leaves?.limit && round.answers.get(s.id)?.done ? [s.leaves.limit] : []));
  return {
    id: round.id,
    title: round.title,
    startedMs: round.startedMs,
    apart: isApart(steps, round.answers),
    isTurnedDown: limits.at(-1) === "low",
    records: roundRecords(steps, round.answers),
  };
}

/** What is out of the machine, by the log and by the round that is open. */
export function outOf(log: EventLog, trade: Trade, open: OpenRound | undefined): Map<string, number> {
  const out = new Map<string, number>();
  for (const { id } of trade.layout.stations) {
    const sinceMs = outSinceMs(log, id);
    if (sinceMs !== undefined) out.set(id, sinceMs);
  }
  for (const record of open?.records ?? []) {
    if (record.kind !== "service") continue;
    if (record.payload.what === "taken-out") out.set(record.payload.station, record.atMs);
    if (record.payload.what === "put-back" || record.payload.what === "replaced") out.delete(record.payload.station);
  }
  return out;
}

/** Since when the power is turned down: for marks that are being made, or by a step of the open round. */
export async function turnedDownMs(services: Services, machine: Machine, open: OpenRound | undefined): Promise<number | undefined> {
  const sitting = await openSittingOf(services.store, machine.id);
  return sitting?.startedMs ?? (open?.isTurnedDown ? open.startedMs : undefined);
}
