/** What every import needs: how it is counted, when it is refused, and rows written many at a time. */
import type { Insertable } from "kysely";
import type { Store } from "../database";
import type { Tables } from "../tables";

/** What an import did, or would do. */
export interface ImportCounts {
  readonly machines: number;
  readonly materials: number;
  readonly cases: number;
  readonly rounds: number;
  readonly events: number;
  /** Records that are here already. */
  readonly known: number;
  /** Of those, records that say something else here; they are left as they are here. */
  readonly differ: number;
}

/** What is in the file cannot stand beside what is here; nothing was written. */
export class CannotMerge extends Error {
  override readonly name = "CannotMerge";
}

export type Count = { -readonly [K in keyof ImportCounts]: number };

/** A key that stands for something else already is a refusal, not a failure. The transaction it happened in is undone. */
export async function unlessKeyTaken<T>(work: Promise<T>): Promise<T> {
  try {
    return await work;
  } catch (error) {
    if (error instanceof Error && /UNIQUE constraint failed/.test(error.message))
      throw new CannotMerge("A record in it has the key of another one, in the file or of another machine here. Nothing was taken in.");
    throw error;
  }
}

/** Rows of one statement: many enough to be fast, few enough for its parameters. */
const TOGETHER = 250;
export function* parts<T>(rows: readonly T[]): Generator<T[]> {
  for (let i = 0; i < rows.length; i += TOGETHER) yield rows.slice(i, i + TOGETHER);
}

/** Work that tells how far it is, and can be told to stop. */
export interface Course {
  /** Told the rows written so far. */
  readonly wrote: (rows: number) => void;
  readonly isStopped: () => boolean;
}

/** Told to stop before it was done: nothing of it was kept. */
export class Stopped extends Error {
  override readonly name = "Stopped";
}

/** Nobody asks and nobody stops it. */
export const STRAIGHT_ON: Course = { wrote: () => undefined, isStopped: () => false };

/** Writes checked rows, many at a time. Throws Stopped between two lots. */
export async function insertEvents(tx: Store, rows: readonly Insertable<Tables["event"]>[], course: Course): Promise<void> {
  for (const part of parts(rows)) {
    if (course.isStopped()) throw new Stopped("stopped");
    await tx.insertInto("event").values(part).execute();
    course.wrote(part.length);
  }
}

/** Whether a kept payload says what another one says, in whatever order. */
export function saysTheSame(kept: string, payload: object): boolean {
  const sorted = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(sorted)
      : value !== null && typeof value === "object"
        ? Object.fromEntries(
            Object.entries(value)
              .sort(([a], [b]) => (a < b ? -1 : 1))
              .map(([k, v]) => [k, sorted(v)]),
          )
        : value;
  return JSON.stringify(sorted(JSON.parse(kept))) === JSON.stringify(sorted(payload));
}
