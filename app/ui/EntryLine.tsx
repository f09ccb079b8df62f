/** One line that understands what happened, and says how it understood it before anything is kept. */
import { AutoComplete, Input } from "antd";
import { useEffect, useState } from "react";
import { Form, useNavigation } from "react-router";
import { completions, understand, type Vocabulary } from "#core/entry";
import { RequestKey, Submit } from "./form/Posted";

interface Props {
  readonly vocabulary: Vocabulary;
  readonly requestKey: string;
  /** The log of the machine, from another place. */
  readonly action?: string;
}

export function EntryLine({ vocabulary, requestKey, action }: Props) {
  const [text, setText] = useState("");
  const [open, setOpen] = useState(false);
  const busy = useNavigation().state !== "idle";
  // Typed before the page had woken up: not lost.
  useEffect(() => {
    const typed = (document.getElementById("entry-line") as HTMLInputElement | null)?.value;
    if (typed) setText((now) => (now === "" ? typed : now));
  }, []);
  const found = understand(text, vocabulary);
  const isEmpty = text.trim() === "";
  const isReady = found !== undefined && found.missing.length === 0;
  // What is not clear is kept as it was typed, or not at all.
  const fields = found && !found.unclear ? { kind: found.kind, ...found.fields } : { kind: "note", note: text.trim() };
  return (
    <Form method="post" {...(action ? { action } : {})} className="stack entry-line" noValidate>
      <RequestKey value={`${requestKey}-line`} />
      <input type="hidden" name="here" value="1" />
      {Object.entries(fields).map(([name, value]) => (
        <input key={name} type="hidden" name={name} value={value} />
      ))}
      <label htmlFor="entry-line" className="label-line">
        In one line
      </label>
      <div className="row nowrap-row">
        <AutoComplete
          id="entry-line"
          className="grow"
          value={text}
          open={open && text !== ""}
          onOpenChange={setOpen}
          options={completions(text, vocabulary).map((value) => ({ value }))}
          onChange={(next: string) => setText(next)}
          defaultActiveFirstOption={false}
        >
          <Input
            size="large"
            autoComplete="off"
            placeholder={completions("", vocabulary).slice(0, 3).join("   ·   ")}
            aria-describedby="entry-understood"
            onKeyDown={(e) => {
              // Enter keeps the line, unless a completion is being picked.
              if (e.key === "Enter" && !isReady) e.preventDefault();
            }}
          />
        </AutoComplete>
        {isReady || isEmpty ? (
          <Submit type="primary" size="large" disabled={busy || isEmpty}>
            Save line
          </Submit>
        ) : null}
      </div>
      <div id="entry-understood" aria-live="polite" className="entry-understood">
        {isEmpty ? (
          <span className="soft small">
            A cut, hours, coolant, watts, an inspection, a part, a cost, a note. Add a unit only if it could be misread. A line that could
            mean something else is not saved: it asks first.
          </span>
        ) : found ? (
          <>
            <b>{found.says}</b>
            {found.missing.length > 0 ? (
              <span className="row">
                <span className="soft">
                  {found.unclear ? "Not saved yet. Say" : "Still missing:"} {found.missing.join("; ")}.
                </span>
                {found.unclear ? <Submit disabled={busy}>Save all of it as a note</Submit> : null}
              </span>
            ) : null}
          </>
        ) : (
          <span className="row">
            <span className="soft">Not understood as an entry.</span>
            <Submit disabled={busy}>Save it as a note</Submit>
          </span>
        )}
      </div>
    </Form>
  );
}
