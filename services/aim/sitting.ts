/** The sitting at the mirrors that is open on a machine, with what earlier ones taught about its screws. */
import {
  type AimEvent,
  type AimPath,
  type AimSession,
  aimPathOf,
  isOnPath,
  NoAimPath,
  remembered,
  type ScrewMemory,
  sessionOf,
} from "#core/aim";
import { type EventPayload, eventsBetween } from "#core/events";
import { entriesOf, type KeptEntry, type Sitting, sittingsOf } from "#store/aim";
import type { Services } from "../context";
import type { Gathered, OpenCase } from "../machine/gathered";
import type { Trade } from "../machine/trade";

export interface Aiming {
  readonly path: AimPath;
  readonly sitting: Sitting | undefined;
  readonly last: Sitting | undefined;
  /** Entries of the open sitting that stand. */
  readonly entries: readonly KeptEntry[];
  readonly session: AimSession;
}

/** The machine's path as it is aimed, or why it cannot be. */
export function pathToAim(trade: Trade): AimPath | { readonly problem: string } {
  try {
    return aimPathOf(trade.layout.path, { corner: trade.layout.fittings.beamCorner });
  } catch (error) {
    if (error instanceof NoAimPath) return { problem: error.message };
    throw error;
  }
}

/** The open case a sitting is for: the one it was begun from; where none is named the newest that a beam off its middle can be the cause of. */
export const caseFor = (g: Gathered, caseId: number | undefined): OpenCase | undefined =>
  caseId === undefined ? g.openCases.findLast((c) => c.symptom === "power") : g.openCases.find((c) => c.id === caseId);

/** A sitting as far as the path still has its places: a mirror taken off takes its marks along. */
function replayed(path: AimPath, entries: readonly AimEvent[], memory: ScrewMemory): AimSession {
  return sessionOf(
    path,
    entries.filter((e) => isOnPath(path, e)),
    memory,
  );
}

/** A mirror that was cleaned stays where it is; one that was out, changed or set by hand sends the beam elsewhere. */
export const MOVES: readonly string[] = ["seat-opened", "replaced", "aimed"];

/** The entries of an open sitting in their time, with what was done to its mirrors besides: told to the log, or in the round that is open. */
function withOpened(g: Gathered, { startedMs }: Sitting, entries: readonly KeptEntry[]): AimEvent[] {
  // Who turns screws here and tells the log that it was aimed has told it already.
  const turned = new Set(entries.flatMap(({ entry }) => (entry.kind === "turn" ? [entry.element] : [])));
  const moves = ({ station, what }: EventPayload["service"]) => MOVES.includes(what) && !(what === "aimed" && turned.has(station));
  const logged = eventsBetween(g.log, ["service"], startedMs, g.nowMs);
  const opened = [...logged, ...(g.openRound?.records ?? [])].flatMap((r) =>
    r.kind === "service" && r.atMs >= startedMs && moves(r.payload)
      ? [{ atMs: r.atMs, entry: { kind: "opened" as const, element: r.payload.station } }]
      : [],
  );
  return [...entries, ...opened].sort((a, b) => a.atMs - b.atMs).map((e) => e.entry);
}

/** Screws that were not turned in a sitting are remembered as they were before it. */
export async function aimingOf(services: Services, g: Gathered): Promise<Aiming | { readonly problem: string }> {
  const path = pathToAim(g.trade);
  if ("problem" in path) return path;
  const [sittings, all] = await Promise.all([sittingsOf(services.store, g.machine.id), entriesOf(services.store, g.machine.id)]);
  const standing = (id: number) => all.filter((e) => e.sittingId === id && !e.withdrawn);
  let memory: ScrewMemory = {};
  for (const s of sittings) {
    if (s.endedMs === undefined) continue;
    memory = remembered(
      replayed(
        path,
        standing(s.id).map((e) => e.entry),
        memory,
      ).state,
    );
  }
  const sitting = sittings.find((s) => s.endedMs === undefined);
  const entries = sitting ? standing(sitting.id) : [];
  return {
    path,
    sitting,
    last: sittings.findLast((s) => s.endedMs !== undefined),
    entries,
    session: replayed(path, sitting ? withOpened(g, sitting, entries) : [], memory),
  };
}
