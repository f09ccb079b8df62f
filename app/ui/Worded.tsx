/** A sentence whose trade words open what they mean: each at its first place, none in the middle of another word. */
import { Fragment, type ReactNode } from "react";
import type { TermId } from "#catalog/glossary";
import { Term } from "./Term";

/** Words that a text may hold and that a new owner may not know; the others stand in plain English. */
const MARKED: readonly (readonly [TermId, RegExp])[] = [
  ["exit-window", /\bexit windows?\b/i],
  ["bulging-side", /\bbulging side\b/i],
  ["interlock", /\binterlocks?\b/i],
  ["mount", /\bmounts?\b/i],
  ["smoke-hours", /\bsmoke hours\b/i],
  ["baseline", /\bbaseline\b/i],
  ["ladder", /\b(?:speed |baseline )?ladders?\b/i],
];

export function Worded({ children }: { children: string }) {
  return <>{marked(children, MARKED)}</>;
}

function marked(text: string, words: typeof MARKED): ReactNode {
  const hits = words.flatMap(([id, word]) => {
    const hit = word.exec(text);
    return hit ? [{ id, at: hit.index, word: hit[0] }] : [];
  });
  const [first] = hits.sort((a, b) => a.at - b.at || b.word.length - a.word.length);
  if (!first) return text;
  return (
    <Fragment>
      {text.slice(0, first.at)}
      <Term id={first.id}>{first.word}</Term>
      {marked(
        text.slice(first.at + first.word.length),
        words.filter(([id]) => id !== first.id),
      )}
    </Fragment>
  );
}
