import { Select } from "antd";
import { useState } from "react";
import { Field, type Named } from "./Field";
import { useField } from "./state";

/** A list to choose from, posted with the form. */
export function SelectField({
  name,
  label,
  hint,
  options,
  defaultValue,
  onChange,
  search,
}: Named & {
  options: readonly { value: string; label: string }[];
  defaultValue?: string | undefined;
  onChange?: (value: string) => void;
  /** A long list: typing narrows it. */
  search?: boolean;
}) {
  const { typed } = useField(name);
  const [value, setValue] = useState(typed ?? defaultValue ?? options[0]?.value ?? "");
  return (
    <Field name={name} label={label} hint={hint}>
      {({ id, aria }) => (
        <>
          <Select
            id={id}
            value={value}
            options={[...options]}
            {...(search ? { showSearch: { optionFilterProp: "label" } } : {})}
            onChange={(next: string) => {
              setValue(next);
              onChange?.(next);
            }}
            aria-label={label}
            {...aria}
          />
          <input type="hidden" name={name} value={value} />
        </>
      )}
    </Field>
  );
}
