/** One answer: may this agent touch this surface, or meet that agent; with its reason, and everything else the surface takes. */

import { Button } from "antd";
import { useState } from "react";
import { matrix } from "#catalog/agents";
import { mayMix, mayUse, type Ruling } from "#core/agents";
import { Block } from "../ui/Block";
import { ChoiceButtons } from "../ui/form/Choices";
import { SelectField } from "../ui/form/SelectField";
import { Fields } from "../ui/form/state";
import { Notice } from "../ui/Notice";

const NAMES = new Map(matrix.agents.map((a) => [a.id, a.name]));
const byName = (a: { label: string }, b: { label: string }) => a.label.localeCompare(b.label);
const AGENTS = matrix.agents.map((a) => ({ value: a.id, label: a.name, also: a.aliases?.join(", ") })).sort(byName);
const SURFACES = matrix.surfaces.map((s) => ({ value: s.id, label: s.name.replace(/^(the|a|an) /, "") })).sort(byName);

const VERDICTS = {
  allowed: { word: "Yes", mark: "✓" },
  "only-if": { word: "Only if", mark: "!" },
  never: { word: "Never", mark: "✕" },
  unknown: { word: "Not known: ask its maker", mark: "?" },
} as const;

/** What must be so, in words, where the matrix allows something on a condition. */
const NEEDS: Readonly<Record<string, string>> = {
  "lens-out": "the lens is out and away",
  "patch-tested": "a corner was tried first",
  outdoors: "you are outdoors",
  "dry-before-power": "it dries before power",
  "maker-allows": "the maker allows it",
  "new-cloth": "the cloth is new",
  "over-swab": "it is laid over a swab",
  "oiled-school": "you keep your rails oiled",
  "outside-only": "it stays on the outside",
};

function Verdict({ question, ruling, care }: { question: string; ruling: Ruling; care: readonly string[] }) {
  const { word, mark } = VERDICTS[ruling.verdict];
  return (
    <section className={`stack answer ${ruling.verdict}`} aria-live="polite">
      <p className="soft">{question}</p>
      <h1 className="verdict">
        <span aria-hidden="true">{mark} </span>
        {word}
        {ruling.needs ? ` ${NEEDS[ruling.needs] ?? ruling.needs}` : ""}.
      </h1>
      <p className="big">{ruling.reason}</p>
      {care.map((c) => (
        <Notice kind="caution" key={c}>
          {c}
        </Notice>
      ))}
    </section>
  );
}

/** The agents of one ruling on a surface, each with its reason; picked, it is asked about. */
function Rules({
  title,
  mark,
  kind,
  entries,
  owned,
  onPick,
}: {
  title: string;
  mark: string;
  kind: string;
  entries: readonly (readonly [id: string, why: string])[];
  owned: readonly string[] | undefined;
  onPick: (agent: string) => void;
}) {
  if (entries.length === 0) return null;
  return (
    <section>
      <h2 className="small-title">{title}</h2>
      <ul className="stack close">
        {entries.map(([id, why]) => (
          <li key={id} className={`agent ${kind}`}>
            <Button type="text" size="small" className="agent-pick" onClick={() => onPick(id)}>
              <span aria-hidden="true">{mark} </span>
              {NAMES.get(id)}
            </Button>
            {owned?.includes(id) ? <span className="small soft"> on your shelf</span> : null}
            <span className="small"> {why}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

export function MayUse({ owned }: { owned: readonly string[] | undefined }) {
  const [agent, setAgent] = useState("acetone");
  const [on, setOn] = useState<"surface" | "agent">("surface");
  const [surface, setSurface] = useState("znse-lens");
  const [other, setOther] = useState("vinegar");
  const rules = matrix.surfaces.find((s) => s.id === surface);
  const ruling = on === "surface" ? mayUse(matrix, surface, agent) : mayMix(matrix, agent, other);
  const careOf = (id: string) => matrix.agents.find((a) => a.id === id)?.care;
  const care = (on === "surface" ? [careOf(agent)] : [careOf(agent), careOf(other)]).filter((c): c is string => c !== undefined);
  return (
    <div className="stack loose">
      <Verdict
        question={
          on === "surface"
            ? `${capital(NAMES.get(agent) ?? "")} on ${rules?.name ?? ""}?`
            : `${capital(NAMES.get(agent) ?? "")} together with ${NAMES.get(other) ?? ""}?`
        }
        ruling={ruling}
        care={ruling.verdict === "never" || ruling.verdict === "unknown" ? [] : care}
      />
      <Block>
        <Fields>
          <div className="fields">
            <SelectField key={agent} name="agent" label="May I use" options={AGENTS} defaultValue={agent} onChange={setAgent} search />
            {on === "surface" ? (
              <SelectField name="surface" label="on" options={SURFACES} defaultValue={surface} onChange={setSurface} search />
            ) : (
              <SelectField name="other" label="together with, or after" options={AGENTS} defaultValue={other} onChange={setOther} search />
            )}
          </div>
        </Fields>
        <ChoiceButtons
          name="on"
          label="What it meets"
          options={[
            { value: "surface", label: "On a part" },
            { value: "agent", label: "With another agent" },
          ]}
          defaultValue={on}
          onChange={(value) => setOn(value === "agent" ? "agent" : "surface")}
        />
      </Block>
      {on === "surface" && rules ? (
        <div className="rules">
          <Rules title="Yes" mark="✓" kind="yes" entries={Object.entries(rules.allowed)} owned={owned} onPick={setAgent} />
          <Rules
            title="Only if"
            mark="!"
            kind="cond"
            entries={Object.entries(rules.onlyIf).map(([id, c]) => [id, c.because] as const)}
            owned={owned}
            onPick={setAgent}
          />
          <Rules title="Never" mark="✕" kind="no" entries={Object.entries(rules.never)} owned={owned} onPick={setAgent} />
        </div>
      ) : null}
      <p className="soft small">The maker's manual comes first. What is not named here is not known: Not listed does not mean allowed.</p>
    </div>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
