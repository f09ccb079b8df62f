/** Fields shared by all forms: number with its unit inside, material, choices in glove size. Work without a mouse. */
import { Input, Select } from "antd";
import { type ReactNode, useId, useState } from "react";
import { useFetcher } from "react-router";

interface Named {
  readonly name: string;
  readonly label: string;
  readonly error?: string | undefined;
  readonly hint?: ReactNode;
}

export function Field({
  label,
  error,
  hint,
  id,
  children,
}: {
  label: string;
  error?: string | undefined;
  hint?: ReactNode;
  id: string;
  children: ReactNode;
}) {
  return (
    <div className="field">
      <label htmlFor={id}>{label}</label>
      {children}
      {error ? (
        <span className="error" id={`${id}-error`} role="alert">
          {error}
        </span>
      ) : hint ? (
        <span className="hint">{hint}</span>
      ) : null}
    </div>
  );
}

/** A number with its unit in the field. Keeps what was typed; the server reads and checks it. */
export function NumberField({
  name,
  label,
  unit,
  error,
  hint,
  defaultValue,
  autoFocus,
  width,
}: Named & { unit: string; defaultValue?: string | undefined; autoFocus?: boolean; width?: number }) {
  const id = useId();
  return (
    <Field label={label} error={error} hint={hint} id={id}>
      <Input
        id={id}
        name={name}
        suffix={<span className="soft">{unit}</span>}
        inputMode="decimal"
        autoComplete="off"
        defaultValue={defaultValue}
        autoFocus={autoFocus}
        style={width ? { width } : undefined}
        {...(error ? { status: "error" as const, "aria-invalid": true, "aria-describedby": `${id}-error` } : {})}
      />
    </Field>
  );
}

export function TextField({
  name,
  label,
  error,
  hint,
  defaultValue,
  placeholder,
  autoFocus,
  password,
}: Named & { defaultValue?: string | undefined; placeholder?: string; autoFocus?: boolean; password?: boolean }) {
  const id = useId();
  return (
    <Field label={label} error={error} hint={hint} id={id}>
      <Input
        id={id}
        name={name}
        defaultValue={defaultValue}
        placeholder={placeholder}
        type={password ? "password" : "text"}
        autoComplete={password ? "current-password" : "off"}
        autoFocus={autoFocus}
        {...(error ? { status: "error" as const, "aria-invalid": true, "aria-describedby": `${id}-error` } : {})}
      />
    </Field>
  );
}

/** A list to choose from, posted with the form. */
export function SelectField({
  name,
  label,
  error,
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
  const id = useId();
  const [value, setValue] = useState(defaultValue ?? options[0]?.value ?? "");
  return (
    <Field label={label} error={error} hint={hint} id={id}>
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
      />
      <input type="hidden" name={name} value={value} />
    </Field>
  );
}

/** One of a few, as large buttons. */
export function Choices({
  name,
  label,
  options,
  defaultValue,
  error,
  onChange,
  hideLabel,
}: Named & {
  options: readonly { value: string; label: string }[];
  defaultValue?: string | undefined;
  onChange?: (value: string) => void;
  hideLabel?: boolean;
}) {
  return (
    <fieldset className="field" style={{ border: 0, margin: 0, padding: 0 }}>
      <legend className={hideLabel ? "sr" : "label"} style={{ padding: 0, fontWeight: 620, fontSize: 14 }}>
        {label}
      </legend>
      <div className="choices">
        {options.map((option) => (
          <label className="choice" key={option.value}>
            <input
              type="radio"
              name={name}
              value={option.value}
              defaultChecked={option.value === defaultValue}
              onChange={() => onChange?.(option.value)}
            />
            <span>{option.label}</span>
          </label>
        ))}
      </div>
      {error ? (
        <span className="error" role="alert">
          {error}
        </span>
      ) : null}
    </fieldset>
  );
}

/** What is wrong with a form as a whole. */
export function FormProblem({ errors }: { errors: Readonly<Record<string, string>> | undefined }) {
  return errors?.[""] ? (
    <p className="form-error" role="alert">
      {errors[""]}
    </p>
  ) : null;
}

/** A form that is carried out by another place and, done, leads there. Where it cannot be sent, this page stays. */
export function Posted({ action, children, className }: { action: string; children: ReactNode; className?: string }) {
  const fetcher = useFetcher();
  return (
    <fetcher.Form method="post" action={action} className={className}>
      {children}
    </fetcher.Form>
  );
}

/** The one-time key that makes a re-sent form one record. */
export function RequestKey({ value }: { value: string }) {
  return <input type="hidden" name="requestKey" value={value} />;
}

/** Yes or no, posted as "1" when ticked. */
export function Tick({
  name,
  label,
  value = "1",
  defaultChecked,
}: {
  name: string;
  label: ReactNode;
  value?: string;
  defaultChecked?: boolean;
}) {
  return (
    <label className="part plain">
      <input type="checkbox" name={name} value={value} defaultChecked={defaultChecked} />
      <span>{label}</span>
    </label>
  );
}
