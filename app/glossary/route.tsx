/** All trade words in a row, each with its sentence: the same that opens where a word stands. */
import { Descriptions } from "antd";
import { glossary } from "#catalog/glossary";
import { MachineRail } from "../ui/MachineRail";
import { TermSays } from "../ui/Term";

export function meta() {
  return [{ title: "Words · Clenor" }];
}

export default function Glossary() {
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <h1 className="verdict">Words.</h1>
        <Descriptions
          className="words"
          column={1}
          colon={false}
          items={Object.entries(glossary).map(([key, term]) => ({ key, label: term.word, children: <TermSays term={term} /> }))}
        />
      </main>
    </div>
  );
}
