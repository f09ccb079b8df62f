/** What one kind of record is to the log: its name, how it reads as a line, and how an owner enters it where that can be done by hand. */
import type { EventKind, EventOf, EventPayload } from "#core/events";
import type { FieldErrors } from "#store/check";
import type { FormReader } from "../../forms/fields";
import type { Gathered } from "../../machine/gathered";

export interface EventKindDefinition<K extends EventKind> {
  /** Name of a line of this kind: "Ladder". */
  readonly name: string;
  /** What a record says, in words, without its note. */
  readonly says: (event: EventOf<K>, g: Gathered) => string;
  /** What of a record can be drawn over time; the same name is the same line. */
  readonly figures?: (event: EventOf<K>, g: Gathered) => readonly Figure[];
  /** Form of an entry by hand; without it the kind comes from rounds alone. */
  readonly entry?: EntryForm<K>;
}

/** A measured value of a record. */
export interface Figure {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
}

/** Why an entry that has the right shape is still not taken, and what to ask then. */
export interface EntryProblem {
  readonly errors: FieldErrors;
  readonly ask?: string;
}

export interface EntryForm<K extends EventKind> {
  /** Raw payload as the fields give it, gaps as undefined; the event's schema has the last word. */
  readonly read: (reader: FormReader, g: Gathered) => Record<string, unknown>;
  /** The fields filled again from a stored record, beyond plain values under their own names. */
  readonly typed?: (payload: EventPayload[K]) => Readonly<Record<string, string>>;
  /** The field and words for an error of the schema that is about a part of a field. */
  readonly errorAt?: (path: string, message: string, raw: Readonly<Record<string, unknown>>) => readonly [string, string] | undefined;
  /** What the shape cannot tell: hours that run backwards. `replaces` is the record an entry corrects. */
  readonly problem?: (payload: EventPayload[K], g: Gathered, atMs: number, replaces: number | undefined) => EntryProblem | undefined;
}

/** The one photo a form carries, as a record keeps photos. */
export const photosOf = (reader: FormReader): string[] | undefined => {
  const hash = reader.text("photo");
  return hash === undefined ? undefined : [hash];
};
export const photoTyped = (photos: readonly string[] | undefined): Record<string, string> => (photos?.[0] ? { photo: photos[0] } : {});

/** An id as a form carries it; undefined where the field is empty. */
export const idOf = (text: string | undefined): number | undefined => (text === undefined ? undefined : Number.parseInt(text, 10));
