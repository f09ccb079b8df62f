import type { EventKind, EventOf, MachineEvent } from "./schemas";

/**
 * The log as it stands after corrections, by time and then by id. The last correction of a record wins, whatever order they were
 * written in; a voided record is gone, and a later correction brings it back. The id stays that of the first record.
 */
export function currentEvents(events: readonly MachineEvent[]): readonly MachineEvent[] {
  const known = corrected.get(events);
  if (known) return known;
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
  const current = [...latest]
    .filter(([, event]) => !event.voids)
    .map(([id, event]) => ({ ...event, id, corrects: undefined }))
    .sort((a, b) => a.atMs - b.atMs || a.id - b.id);
  corrected.set(events, current);
  return current;
}

const corrected = new WeakMap<readonly MachineEvent[], readonly MachineEvent[]>();

/** A log is sorted into its kinds once, however often it is asked. */
const sorted = new WeakMap<readonly MachineEvent[], Map<EventKind, MachineEvent[]>>();

/** Records of one kind, in the order given. The log must not change afterwards. */
export function eventsOf<K extends EventKind>(events: readonly MachineEvent[], kind: K): readonly EventOf<K>[] {
  let byKind = sorted.get(events);
  if (!byKind) {
    byKind = new Map();
    for (const e of events) {
      const list = byKind.get(e.kind);
      if (list) list.push(e);
      else byKind.set(e.kind, [e]);
    }
    sorted.set(events, byKind);
  }
  return (byKind.get(kind) ?? []) as unknown as readonly EventOf<K>[];
}
