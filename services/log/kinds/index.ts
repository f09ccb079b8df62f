/** Every kind of record the log knows, one definition each. A kind of core/events that is missing here does not compile. */
import type { EventKind } from "#core/events";
import { cut } from "./cut";
import type { EventKindDefinition } from "./definition";
import { grade } from "./grade";
import { hours } from "./hours";
import { job } from "./job";
import { ladder } from "./ladder";
import { note } from "./note";
import { power } from "./power";
import { service } from "./service";

export const eventKinds = { hours, job, cut, ladder, power, grade, service, note } satisfies {
  readonly [K in EventKind]: EventKindDefinition<K>;
};

/** Kinds an owner enters by hand, in the order the log offers them. */
export const ENTRY_KINDS = ["hours", "job", "cut", "ladder", "power", "grade", "service", "note"] as const satisfies readonly EventKind[];
export type EntryKind = (typeof ENTRY_KINDS)[number];

export const isEntryKind = (kind: string | null | undefined): kind is EntryKind => ENTRY_KINDS.includes(kind as EntryKind);
