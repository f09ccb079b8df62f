import { Checkbox, Radio } from "antd";
import { type ReactNode, useId } from "react";
import { Field, type Named } from "./Field";
import { useField, useLeft } from "./state";

interface Choice {
  readonly value: string;
  readonly label: ReactNode;
}

/** One of a few, as large buttons. */
export function Choices({
  name,
  label,
  hint,
  options,
  defaultValue,
  hideLabel,
  onChange,
}: Named & {
  options: readonly Choice[];
  defaultValue?: string | undefined;
  hideLabel?: boolean;
  onChange?: (value: string) => void;
}) {
  return (
    <Field name={name} label={label} hint={hint} group {...(hideLabel ? { hideLabel } : {})}>
      {({ typed }) => (
        <ChoiceButtons
          name={name}
          label={label}
          options={options}
          defaultValue={typed ?? defaultValue}
          {...(onChange ? { onChange } : {})}
        />
      )}
    </Field>
  );
}

/** The buttons alone, where something else is their label. */
export function ChoiceButtons({
  name,
  label,
  options,
  defaultValue,
  onChange,
}: {
  name: string;
  label: string;
  options: readonly Choice[];
  defaultValue?: string | undefined;
  onChange?: (value: string) => void;
}) {
  return (
    <Radio.Group
      className="choices"
      role="radiogroup"
      aria-label={label}
      name={name}
      optionType="button"
      defaultValue={defaultValue}
      onChange={(e) => onChange?.(String(e.target.value))}
    >
      {options.map((o) => (
        <Radio.Button key={o.value} value={o.value}>
          {o.label}
        </Radio.Button>
      ))}
    </Radio.Group>
  );
}

/** Any of a few, each posted under the one name. */
export function Several({ name, label, options, hideLabel }: Named & { options: readonly Choice[]; hideLabel?: boolean }) {
  return (
    <Field name={name} label={label} group {...(hideLabel ? { hideLabel } : {})}>
      {() => (
        // biome-ignore lint/a11y/useSemanticElements: the library's frame around it is a field already.
        <div className="several" role="group" aria-label={label}>
          {options.map((o) => (
            <Checkbox key={o.value} name={name} value={o.value} className="tick-line">
              {o.label}
            </Checkbox>
          ))}
        </div>
      )}
    </Field>
  );
}

/** Yes or no, posted as "1" when ticked; below it what was wrong with it. */
export function Tick({
  name,
  label,
  value = "1",
  defaultChecked,
  onChange,
}: {
  name: string;
  label: ReactNode;
  value?: string;
  defaultChecked?: boolean;
  onChange?: (on: boolean) => void;
}) {
  const id = useId();
  const { error } = useField(name);
  const left = useLeft(name, value);
  return (
    <>
      <Checkbox
        name={name}
        value={value}
        defaultChecked={left ?? defaultChecked === true}
        className="tick-line"
        {...(onChange ? { onChange: (e: { target: { checked: boolean } }) => onChange(e.target.checked) } : {})}
        {...(error ? { "aria-invalid": true, "aria-describedby": id } : {})}
      >
        {label}
      </Checkbox>
      {error ? (
        <span className="error" id={id} role="alert">
          {error}
        </span>
      ) : null}
    </>
  );
}
