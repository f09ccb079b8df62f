import { Chain } from "./chain";
import { EVENT_KINDS, type EventKind, type EventOf, type MachineEvent } from "./schemas";

type Kinds = { readonly [K in EventKind]: Chain<EventOf<K>> };

/**
 * A machine's log as it stands after corrections, sorted into its kinds. It never changes: records that come make another log of it,
 * which shares every list they did not touch, so that what was worked out from a list holds as long as the list is the same.
 */
export interface EventLog {
  /** Records that stand, by kind, each by time and then by id. */
  readonly kinds: Kinds;
  /** Records that stand. */
  readonly size: number;
  /** Highest record id it was made from, corrections included; 0 of an empty one. */
  readonly lastId: number;
  /** How often each corrected record was corrected, by the id of its first version. */
  readonly corrections: ReadonlyMap<number, number>;
  /** Records that were struck, by the id of their first version. */
  readonly struck: ReadonlySet<number>;
  /** The first version that a correction is about, by the correction's id. */
  readonly roots: ReadonlyMap<number, number>;
}

export const EMPTY_LOG: EventLog = {
  kinds: Object.fromEntries(EVENT_KINDS.map((kind) => [kind, Chain.from([])])) as unknown as Kinds,
  size: 0,
  lastId: 0,
  corrections: new Map(),
  struck: new Set(),
  roots: new Map(),
};

const inOrder = (a: MachineEvent, b: MachineEvent) => a.atMs - b.atMs || a.id - b.id;

/**
 * The log with more records, given by rising id and all of them newer than what it was made from. The last correction of a record
 * wins; a struck record is gone, and a later correction brings it back. The id stays that of the first version.
 *
 * @example const log = advance(EMPTY_LOG, records); // equals currentEvents(records), kind by kind
 */
export function advance(log: EventLog, records: readonly MachineEvent[]): EventLog {
  if (records.length === 0) return log;
  const grown = new Growth(log);
  for (const record of records) {
    if (record.corrects === undefined) grown.insert(record);
    else grown.correct(record, record.corrects);
  }
  return grown.done(records.at(-1)?.id ?? log.lastId);
}

/** A log while records are added to it. */
class Growth {
  private readonly kinds: Record<EventKind, Chain<MachineEvent>>;
  /** In order behind the last of their kind, to be added at once. */
  private readonly tails = new Map<EventKind, MachineEvent[]>();
  /** Of before the last of their kind, in any order, to be put in at once: one by one each would move all that follows. */
  private readonly late = new Map<EventKind, MachineEvent[]>();
  private corrections: Map<number, number> | undefined;
  private struck: Set<number> | undefined;
  private roots: Map<number, number> | undefined;

  constructor(private readonly log: EventLog) {
    this.kinds = { ...log.kinds } as unknown as Record<EventKind, Chain<MachineEvent>>;
  }

  /** Puts a record where it belongs in time; nearly always that is the end. */
  insert(record: MachineEvent): void {
    const tail = this.tails.get(record.kind) ?? [];
    const last = tail.at(-1) ?? this.kinds[record.kind].at(-1);
    if (last === undefined || inOrder(last, record) < 0) {
      this.tails.set(record.kind, tail);
      tail.push(record);
      return;
    }
    const late = this.late.get(record.kind) ?? [];
    this.late.set(record.kind, late);
    late.push(record);
  }

  correct(record: MachineEvent, corrects: number): void {
    this.corrections ??= new Map(this.log.corrections);
    this.struck ??= new Set(this.log.struck);
    this.roots ??= new Map(this.log.roots);
    const root = this.roots.get(corrects) ?? corrects;
    this.roots.set(record.id, root);
    this.corrections.set(root, (this.corrections.get(root) ?? 0) + 1);
    this.remove(root);
    if (record.voids) this.struck.add(root);
    else {
      this.struck.delete(root);
      this.insert({ ...record, id: root, corrects: undefined });
    }
  }

  done(lastId: number): EventLog {
    const kinds = Object.fromEntries(EVENT_KINDS.map((kind) => [kind, this.settled(kind)])) as unknown as Kinds;
    return {
      kinds,
      size: sizeOf(kinds),
      lastId,
      corrections: this.corrections ?? this.log.corrections,
      struck: this.struck ?? this.log.struck,
      roots: this.roots ?? this.log.roots,
    };
  }

  private settled(kind: EventKind): Chain<MachineEvent> {
    const list = merged(this.kinds[kind].append(this.tails.get(kind) ?? []), this.late.get(kind) ?? []);
    this.kinds[kind] = list;
    this.tails.delete(kind);
    this.late.delete(kind);
    return list;
  }

  private remove(id: number): void {
    for (const kind of EVENT_KINDS) {
      const at = this.settled(kind).findIndex((e) => e.id === id);
      if (at >= 0) this.kinds[kind] = this.kinds[kind].without(at);
    }
  }
}

/** A list in order with more records put where they belong in time. */
function merged(list: Chain<MachineEvent>, more: readonly MachineEvent[]): Chain<MachineEvent> {
  const [first, ...others] = [...more].sort(inOrder);
  if (first === undefined) return list;
  const from = list.firstIndex((e) => inOrder(e, first) > 0);
  const after: MachineEvent[] = [first];
  let next = 0;
  for (const e of list.slice(from)) {
    for (let m = others[next]; m !== undefined && inOrder(m, e) < 0; m = others[next]) {
      after.push(m);
      next += 1;
    }
    after.push(e);
  }
  for (; next < others.length; next++) after.push(others[next] as MachineEvent);
  return list.take(from).append(after);
}

const sizeOf = (kinds: Kinds) => EVENT_KINDS.reduce((sum, kind) => sum + kinds[kind].length, 0);

/** A whole log at once, from records in any order. */
export function logOf(records: readonly MachineEvent[]): EventLog {
  return advance(
    EMPTY_LOG,
    [...records].sort((a, b) => a.id - b.id),
  );
}

const listOf = (log: EventLog, kind: EventKind) => log.kinds[kind] as Chain<MachineEvent>;

/** A standing record by its id; undefined where there is none, or it was struck. */
export function findEvent(log: EventLog, id: number): MachineEvent | undefined {
  for (const kind of EVENT_KINDS) {
    const list = listOf(log, kind);
    const at = list.findIndex((e) => e.id === id);
    if (at >= 0) return list.at(at);
  }
  return undefined;
}

/** Index of the first record of a list at or after a time. */
export const firstAt = (list: Chain<{ readonly atMs: number }>, atMs: number): number => list.firstIndex((e) => e.atMs >= atMs);
const firstAfter = (list: Chain<{ readonly atMs: number }>, atMs: number): number => list.firstIndex((e) => e.atMs > atMs);

/** Records of some kinds from one time to another, both included, by time and then by id. */
export function eventsBetween<K extends EventKind>(log: EventLog, kinds: readonly K[], fromMs: number, toMs: number): EventOf<K>[] {
  return kinds
    .flatMap((kind) => {
      const list = listOf(log, kind);
      return list.slice(firstAt(list, fromMs), firstAfter(list, toMs));
    })
    .sort(inOrder) as EventOf<K>[];
}

/** Every record that stands, by time and then by id. */
export const allEvents = (log: EventLog): MachineEvent[] =>
  eventsBetween(log, EVENT_KINDS, Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY);

/** Where a page of the log begins or ends: a record's time and id. */
export interface LogPlace {
  readonly atMs: number;
  readonly id: number;
}

/** The newest records of some kinds before a place, newest first, at most `count`; the newest of all without a place. */
export function newestBefore<K extends EventKind>(
  log: EventLog,
  kinds: readonly K[],
  count: number,
  before: LogPlace = { atMs: Number.POSITIVE_INFINITY, id: Number.POSITIVE_INFINITY },
): EventOf<K>[] {
  return kinds
    .flatMap((kind) => {
      const list = listOf(log, kind);
      const end = list.firstIndex((e) => (e.atMs - before.atMs || e.id - before.id) >= 0);
      return list.slice(Math.max(0, end - count), end);
    })
    .sort((a, b) => inOrder(b, a))
    .slice(0, count) as EventOf<K>[];
}

/** Takes the log as far as a time: what an earlier moment knew of times up to it, with all corrections made since. */
export function logUpTo(log: EventLog, atMs: number): EventLog {
  const kinds = Object.fromEntries(
    EVENT_KINDS.map((kind) => {
      const list = listOf(log, kind);
      return [kind, list.take(firstAfter(list, atMs))];
    }),
  ) as unknown as Kinds;
  return { ...log, kinds, size: sizeOf(kinds) };
}
