/** What can be kept as text, told in one place for forms, answers and files. */

/** Control characters, but for the ends of lines and tabs. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is looked for
const UNKEEPABLE = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/;

/** Whether a text comes back from the database and from a file as it went in. */
export const isKeepable = (text: string): boolean => !UNKEEPABLE.test(text) && Buffer.from(text).toString() === text;

/** Where in a value a text stands that cannot be kept, as the path to it; names of fields count as well. */
export function* unkeepableIn(value: unknown, path: readonly string[] = []): Generator<readonly string[]> {
  if (typeof value === "string" && !isKeepable(value)) yield path;
  if (value === null || typeof value !== "object") return;
  for (const [key, of] of Object.entries(value)) {
    if (!isKeepable(key)) yield path;
    yield* unkeepableIn(of, [...path, key]);
  }
}
