/** The cases that are open on a machine, with what their rounds mended and what nobody knows in them. */
import { openCasesOf, type TraceCase } from "#store/cases";
import type { Machine } from "#store/machines";
import { findRound, roundsOfCase } from "#store/rounds";
import { readSetting } from "#store/settings";
import type { Services } from "../context";
import type { MendedRound, OpenCase } from "./gathered";
import { repairsDone } from "./repairsDone";
import { unknownSetting } from "./settingNames";
import { tradeOf } from "./trade";

export const openCases = async (services: Services, machine: Machine): Promise<OpenCase[]> =>
  Promise.all(
    (await openCasesOf(services.store, machine.id)).map(async (c) => ({
      ...c,
      mended: await mendedIn(services, machine, c),
      unknown: (await readSetting<string[]>(services.store, unknownSetting(c.id))) ?? [],
    })),
  );

/** Rounds of a case that ended while the case went on. */
async function mendedIn(services: Services, machine: Machine, openCase: TraceCase): Promise<MendedRound[]> {
  const trade = tradeOf(machine);
  const ended = (await roundsOfCase(services.store, machine.id, openCase)).filter((r) => r.status !== "open");
  const rounds = await Promise.all(ended.map((r) => findRound(services.store, machine.id, r.id)));
  return rounds
    .flatMap((round) =>
      round?.endedMs === undefined
        ? []
        : [{ roundId: round.id, startedMs: round.startedMs, endedMs: round.endedMs, repairs: repairsDone(trade, round) }],
    )
    .filter((r) => r.repairs.length > 0)
    .sort((a, b) => a.endedMs - b.endedMs);
}
