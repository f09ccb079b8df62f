import type { MachineEvent } from "./schemas";

/**
 * The log as it stands after corrections, by time and then by id. The last correction of a record wins, whatever order they were
 * written in; a voided record is gone, and a later correction brings it back. The id stays that of the first record.
 */
export function currentEvents(events: readonly MachineEvent[]): readonly MachineEvent[] {
  const byId = new Map(events.map((e) => [e.id, e]));
  const rootOf = (event: MachineEvent): number => {
    let at = event;
    const seen = new Set<number>();
    while (at.corrects !== undefined && byId.has(at.corrects) && !seen.has(at.id)) {
      seen.add(at.id);
      at = byId.get(at.corrects) as MachineEvent;
    }
    return at.id;
  };
  const latest = new Map<number, MachineEvent>();
  for (const event of [...events].sort((a, b) => a.id - b.id)) latest.set(rootOf(event), event);
  return [...latest]
    .filter(([, event]) => !event.voids)
    .map(([id, event]) => ({ ...event, id, corrects: undefined }))
    .sort((a, b) => a.atMs - b.atMs || a.id - b.id);
}
