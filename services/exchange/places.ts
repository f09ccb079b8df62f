/** Where in a JSON text something stands: found in one pass that keeps nothing of the text, however large it is. */
import { visit } from "jsonc-parser";

export type Path = readonly (string | number)[];

/** Deepest that a file of ours nests, with room. */
const MOST_DEPTH = 64;

/** Whether a JSON text nests deeper than anything of ours: what reads it goes down a level for each. */
export function nestsTooDeep(text: string): boolean {
  let depth = 0;
  let inText = false;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (inText) {
      if (c === 92) i++;
      else if (c === 34) inText = false;
    } else if (c === 34) inText = true;
    else if (c === 91 || c === 123) {
      if (++depth > MOST_DEPTH) return true;
    } else if (c === 93 || c === 125) depth--;
  }
  return false;
}

const begins = (path: Path, wanted: Path): boolean => path.length <= wanted.length && path.every((segment, i) => segment === wanted[i]);

/** The offset of each path, or of as much of it as there is. */
export function offsetsOf(text: string, wanted: readonly Path[]): number[] {
  const found = wanted.map(() => ({ depth: -1, offset: 0 }));
  const deepest = Math.max(0, ...wanted.map((p) => p.length));
  const see = (path: Path, offset: number) => {
    if (path.length > deepest) return;
    for (const [i, p] of wanted.entries()) {
      const best = found[i];
      if (best && path.length > best.depth && begins(path, p)) Object.assign(best, { depth: path.length, offset });
    }
  };
  const here = (offset: number, _length: number, _line: number, _character: number, pathOf: () => Path) => see(pathOf(), offset);
  visit(text, {
    onObjectBegin: here,
    onArrayBegin: here,
    onLiteralValue: (_value, offset, _length, _line, _character, pathOf) => see(pathOf(), offset),
  });
  return found.map((f) => f.offset);
}
