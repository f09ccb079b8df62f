/** One form of the Workshop: what it is made from, what another device changed meanwhile, and its button. */
import type { ReactNode } from "react";
import { Form } from "react-router";
import { Submit } from "../ui/form/Posted";
import { Fields, type FormState } from "../ui/form/state";
import { Notice } from "../ui/Notice";

/** How a form stands: the state it is made from, and what came of it when it was sent. */
export interface EditState {
  readonly madeFrom: string;
  /** What another device changed since the form was made, in words; undefined when nothing was. */
  readonly changed: readonly string[] | undefined;
  readonly answer: FormState | undefined;
}

export function EditForm({
  intent,
  state,
  save,
  primary = true,
  children,
}: {
  intent: string;
  state: EditState;
  /** The words of its button; a form that brings its own has none. */
  save?: string;
  primary?: boolean;
  children: ReactNode;
}) {
  return (
    <Form method="post" className="stack" preventScrollReset>
      <input type="hidden" name="intent" value={intent} />
      <input type="hidden" name="madeFrom" value={state.madeFrom} />
      <Fields state={state.answer}>
        {children}
        {state.changed ? <Changed changed={state.changed} /> : null}
      </Fields>
      {save ? <Submit type={primary ? "primary" : "default"}>{save}</Submit> : null}
    </Form>
  );
}

function Changed({ changed }: { changed: readonly string[] }) {
  return (
    <Notice kind="caution" role="alert">
      <b>Changed on another device since this form was opened.</b> Nothing was saved. Your entries are still here: save again to put them
      over it.
      <ul>
        {changed.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ul>
    </Notice>
  );
}
