import { Input } from "antd";
import { Field, type Named } from "./Field";
import { TypedEarly } from "./TypedEarly";

/** A number with its unit in the field. Keeps what was typed; the server reads and checks it. */
export function NumberField({
  name,
  label,
  hint,
  unit,
  defaultValue,
  value,
  autoFocus,
  onChange,
}: Named & {
  unit: string;
  defaultValue?: string | undefined;
  /** Held by whoever shows the field, where something else sets it as well. */
  value?: string | undefined;
  autoFocus?: boolean;
  onChange?: (text: string) => void;
}) {
  return (
    <Field name={name} label={label} hint={hint}>
      {({ id, typed, aria }) => (
        <>
          {onChange ? <TypedEarly id={id} known={value ?? typed ?? defaultValue ?? ""} tell={onChange} /> : null}
          <Input
            id={id}
            name={name}
            suffix={<span className="soft">{unit}</span>}
            inputMode="decimal"
            autoComplete="off"
            {...(value === undefined ? { defaultValue: typed ?? defaultValue } : { value })}
            autoFocus={autoFocus}
            {...(onChange ? { onChange: (e) => onChange(e.target.value) } : {})}
            {...aria}
          />
        </>
      )}
    </Field>
  );
}
