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
  /** `also` holds other words that find an option. */
  options: readonly { value: string; label: string; also?: string | undefined }[];
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
            {...(search
              ? {
                  showSearch: {
                    filterOption: (typed: string, option?: { label: string; also?: string | undefined }) =>
                      `${option?.label} ${option?.also ?? ""}`.toLowerCase().includes(typed.trim().toLowerCase()),
                  },
                  optionRender: ({ data }: { data: { label: string; also?: string | undefined } }) => (
                    <>
                      {data.label}
                      {data.also ? <small className="soft"> {data.also}</small> : null}
                    </>
                  ),
                }
              : {})}
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
