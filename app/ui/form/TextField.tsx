import { Input } from "antd";
import { Field, type Named } from "./Field";
import { TypedEarly } from "./TypedEarly";

export function TextField({
  name,
  label,
  hint,
  defaultValue,
  placeholder,
  autoFocus,
  password,
  maxLength,
}: Named & {
  defaultValue?: string | undefined;
  placeholder?: string;
  autoFocus?: boolean;
  password?: boolean;
  maxLength?: number;
}) {
  return (
    <Field name={name} label={label} hint={hint}>
      {({ id, typed, aria }) => (
        <>
          <TypedEarly id={id} known={typed ?? defaultValue ?? ""} />
          <Input
            id={id}
            name={name}
            defaultValue={typed ?? defaultValue}
            placeholder={placeholder}
            type={password ? "password" : "text"}
            autoComplete={password ? "current-password" : "off"}
            autoFocus={autoFocus}
            maxLength={maxLength}
            {...aria}
          />
        </>
      )}
    </Field>
  );
}

/** A day and time, picked as the device does it and shown in its words; `latest` as the field carries it. */
export function MomentField({ name, label, hint, defaultValue, latest }: Named & { defaultValue: string; latest: string }) {
  return (
    <Field name={name} label={label} hint={hint}>
      {({ id, typed, aria }) => (
        <Input id={id} name={name} type="datetime-local" defaultValue={typed ?? defaultValue} max={latest} {...aria} />
      )}
    </Field>
  );
}
