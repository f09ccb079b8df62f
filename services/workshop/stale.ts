/** Forms made from a state that another device has changed since: refused in words, never saved over it unasked. */
import type { FormReader } from "../forms/fields";
import type { Edited } from "./edited";
import type { FieldWords } from "./fieldWords";

/** Thrown inside the transaction, so that nothing is saved over what another device saved. */
class Stale extends Error {
  constructor(
    readonly changed: readonly string[],
    readonly madeFrom: string,
  ) {
    super("changed meanwhile");
  }
}

/**
 * Refuses a form that was made from another state than the present one: nothing that another device saved is overwritten unasked. The
 * form carries what it was made from; sent once more with what it is made from now, it is taken.
 */
export function refuseStale(reader: FormReader, now: unknown, words: FieldWords): void {
  const madeFrom = versionText(now);
  const before = reader.text("madeFrom");
  if (before === madeFrom) return;
  if (before === undefined) throw new Stale(["This page is older than the form it shows."], madeFrom);
  throw new Stale(differences(before, now, words), madeFrom);
}

/** The state a form is made from, as text the form can carry. */
export function versionText(state: unknown): string {
  return JSON.stringify(state, (_key, value: unknown) =>
    value !== null && typeof value === "object" && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value,
  );
}

function differences(before: string, now: unknown, words: FieldWords): string[] {
  let read: unknown;
  try {
    read = JSON.parse(before);
  } catch {
    // Not one of ours; it is no less stale for that.
  }
  if (typeof read !== "object" || read === null) return ["It was changed."];
  const then = read as Record<string, unknown>;
  const present = now as Record<string, unknown>;
  const say = (field: string, value: unknown): string => {
    if (Array.isArray(value)) return value.map((v) => say(field, v)).join(", ") || "none";
    if (value === true) return "yes";
    return value === undefined ? "empty" : (words[field]?.values?.[String(value)] ?? String(value)).slice(0, 80);
  };
  return [...new Set([...Object.keys(then), ...Object.keys(present)])]
    .filter((field) => versionText(then[field] ?? null) !== versionText(present[field] ?? null))
    .map((field) => `${words[field]?.name ?? field}: now ${say(field, present[field])}, was ${say(field, then[field])}`);
}

/** Carries a form out, and says what changed meanwhile where it came too late. */
export async function unlessStale(work: () => Promise<Edited>): Promise<Edited> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof Stale)) throw error;
    return {
      errors: {},
      stale: { changed: error.changed, madeFrom: error.madeFrom },
    };
  }
}
