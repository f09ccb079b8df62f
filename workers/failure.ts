/** Errors across threads: the classes a place knows them by are made anew on the other side. */
import { NotHere } from "#services/refusal";
import { isTrouble, StoreTrouble, type TroubleKind } from "#store/trouble";

/** What work came to, as something that can be sent: its value, or why it failed. */
export interface Answered<T> {
  readonly value?: T;
  readonly failed?: { readonly why: TroubleKind | "not-here" | "other"; readonly words: string };
}

export async function answered<T>(work: () => Promise<T>): Promise<Answered<T>> {
  try {
    return { value: await work() };
  } catch (error) {
    const words = error instanceof Error ? error.message : String(error);
    return { failed: { why: isTrouble(error) ? error.kind : error instanceof NotHere ? "not-here" : "other", words } };
  }
}

/** The value, or the error thrown here as it was thrown there. */
export function arrived<T>({ value, failed }: Answered<T>): T {
  if (failed === undefined) return value as T;
  if (failed.why === "not-here") throw new NotHere(failed.words);
  throw failed.why === "other" ? new Error(failed.words) : new StoreTrouble(failed.why, failed.words);
}
