/** Figures of the machine that its sums need, said once; and the lines of a sum. */
import { Descriptions } from "antd";
import type { ReactNode } from "react";
import { Form } from "react-router";
import { NumberField } from "../ui/form/NumberField";
import { Submit } from "../ui/form/Posted";
import { Fields, type FormState } from "../ui/form/state";

export interface Figure {
  readonly name: string;
  readonly label: string;
  readonly unit: string;
  readonly value: string | undefined;
  readonly hint?: string;
}

export function SumForm({ figures, state, save }: { figures: readonly Figure[]; state: FormState; save: string }) {
  return (
    <Form method="post" className="stack" preventScrollReset noValidate>
      <input type="hidden" name="intent" value="sums" />
      <Fields state={state}>
        <div className="fields">
          {figures.map((f) => (
            <div key={f.name}>
              <input type="hidden" name="figure" value={f.name} />
              <NumberField name={f.name} label={f.label} unit={f.unit} defaultValue={f.value ?? ""} {...(f.hint ? { hint: f.hint } : {})} />
            </div>
          ))}
        </div>
      </Fields>
      <div>
        <Submit>{save}</Submit>
      </div>
    </Form>
  );
}

export function Lines({ lines }: { lines: readonly { readonly term: string; readonly text: ReactNode }[] }) {
  return (
    <Descriptions column={1} size="small" colon={false} items={lines.map((l) => ({ key: l.term, label: l.term, children: l.text }))} />
  );
}
