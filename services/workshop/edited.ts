/** What came of a form of the Workshop. */
import type { FieldErrors } from "#store/check";

/** `stale`: another device changed the same thing after the form was made; what it changed in words, and what the form is made from now. */
export type Edited =
  | { readonly said: string /** Station that was added, to be described next. */; readonly added?: string }
  | { readonly errors: FieldErrors; readonly stale?: { readonly changed: readonly string[]; readonly madeFrom: string } };

/** Fields of a form that are left out of a record when they are empty. */
export function given<T extends object>(fields: T): Partial<T> {
  return Object.fromEntries(Object.entries(fields).filter(([, v]) => v !== undefined)) as Partial<T>;
}
