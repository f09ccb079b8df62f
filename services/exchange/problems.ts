/** What is wrong in a file, and where. */
export interface FileProblem {
  readonly line: number;
  readonly column: number;
  readonly words: string;
}

/** Line and column, both from one, of an offset in a text. */
export function placeOf(text: string, offset: number): { line: number; column: number } {
  const before = text.slice(0, offset);
  const line = before.split("\n").length;
  return { line, column: offset - before.lastIndexOf("\n") };
}
