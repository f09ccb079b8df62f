/** What the fields of a form know of it: what was typed and what was wrong when it was sent and not taken. */
import { Form } from "antd";
import { createContext, type ReactNode, useContext } from "react";

export interface FormState {
  /** Messages by field name; "" is for the form as a whole. */
  readonly errors: Readonly<Record<string, string>>;
  readonly typed: Readonly<Record<string, string>>;
}

const NOTHING: FormState = { errors: {}, typed: {} };
const State = createContext<FormState>(NOTHING);

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
  const value = { errors: state?.errors ?? {}, typed: state?.typed ?? typed ?? {} };
  return (
    <State value={value}>
      <Form component={false} layout="vertical" requiredMark={false}>
        {children}
      </Form>
    </State>
  );
}

export const useFormState = (): FormState => useContext(State);

/** What was typed into a field, and what was wrong with it. */
export function useField(name: string): { readonly typed: string | undefined; readonly error: string | undefined } {
  const { errors, typed } = useFormState();
  return { typed: typed[name], error: errors[name] };
}
