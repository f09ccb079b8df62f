/** A trade word that opens its sentence, and a picture where one helps, at the place where it stands. */
import { Button, Popover } from "antd";
import type { ReactNode } from "react";
import { type GlossaryTerm, glossary, type TermId } from "#catalog/glossary";
import { Drawing } from "./Drawing";

export function Term({ id, children }: { id: TermId; children?: ReactNode }) {
  const term: GlossaryTerm = glossary[id];
  return (
    <Popover trigger={["click", "focus"]} content={<TermSays term={term} />}>
      <Button type="text" className="term">
        {children ?? term.word}
      </Button>
    </Popover>
  );
}

export function TermSays({ term }: { term: GlossaryTerm }) {
  return (
    <div className="term-says">
      <p>{term.says}</p>
      {term.drawing ? <Drawing id={term.drawing} /> : null}
    </div>
  );
}
