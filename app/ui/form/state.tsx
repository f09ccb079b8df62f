/** What the fields of a form know of it: what was typed and what was wrong when it was sent and not taken. */
import { Form } from "antd";
import { createContext, type ReactNode, useContext, useRef } from "react";
import { type Draft, useDraft } from "./draft";

export interface FormState {
  /** Messages by field name; "" is for the form as a whole. */
  readonly errors: Readonly<Record<string, string>>;
  readonly typed: Readonly<Record<string, string>>;
}

interface Known extends FormState {
  /** What stood in it when it was left. */
  readonly draft?: Draft | undefined;
}

const NOTHING: Known = { errors: {}, typed: {} };
const State = createContext<Known>(NOTHING);

/** Stands inside a form and around its fields. `state` is the answer of an action that did not save; `typed` fills a form that was not sent yet. */
export function Fields({
  state,
  typed,
  children,
}: {
  state?: Partial<FormState> | undefined;
  typed?: FormState["typed"] | undefined;
  children: ReactNode;
}) {
  const mark = useRef<HTMLElement>(null);
  const draft = useDraft(mark, state !== undefined);
  const isDraft = draft !== undefined && state === undefined;
  const left = isDraft ? Object.fromEntries(Object.entries(draft).map(([name, values]) => [name, values[0] ?? ""])) : typed;
  return (
    <State value={{ errors: state?.errors ?? {}, typed: state?.typed ?? left ?? {}, ...(isDraft ? { draft } : {}) }}>
      <i ref={mark} hidden />
      <Form component={false} layout="vertical" requiredMark={false} key={isDraft ? "draft" : "new"}>
        {children}
      </Form>
    </State>
  );
}

export const useFormState = (): FormState => useContext(State);

/** Whether a box was ticked when its form was left; undefined where that is not known. */
export function useLeft(name: string, value: string): boolean | undefined {
  const { draft } = useContext(State);
  return draft && draft[name]?.includes(value) === true;
}

/** What was typed into a field, and what was wrong with it. */
export function useField(name: string): { readonly typed: string | undefined; readonly error: string | undefined } {
  const { errors, typed } = useFormState();
  return { typed: typed[name], error: errors[name] };
}
