import { Input } from "antd";
import { textHere, UNIT_BESIDE, unitHere, WAS_BESIDE } from "#services/units";
import { Field, type Named } from "./Field";
import { useFormState } from "./state";
import { TypedEarly } from "./TypedEarly";
import { UnitBeside } from "./UnitBeside";

/**
 * A number with its unit in the field. Keeps what was typed; the server reads and checks it. `unit` is the one it is kept in: where the
 * workshop reads another the field shows that one, and says so to whoever reads the form.
 */
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
  /** In the kept unit. */
  defaultValue?: string | undefined;
  /** Held by whoever shows the field, where something else sets it as well: as it stands in the field. */
  value?: string | undefined;
  autoFocus?: boolean;
  onChange?: (text: string) => void;
}) {
  const { typed: all } = useFormState();
  const shown = unitHere(unit);
  const isOther = shown !== unit;
  const isAsTyped = !isOther || all[name + UNIT_BESIDE] !== undefined;
  return (
    <Field name={name} label={label} hint={hint}>
      {({ id, typed, aria }) => {
        const kept = isAsTyped ? defaultValue : (typed ?? defaultValue);
        const filled = kept && textHere(kept, unit);
        const [wasShown, wasKept] = (isAsTyped ? all[name + WAS_BESIDE] : undefined)?.split("=") ?? [filled, kept];
        const text = isAsTyped ? (typed ?? filled) : filled;
        return (
          <>
            <TypedEarly id={id} known={value ?? text ?? ""} tell={onChange} />
            <Input
              id={id}
              name={name}
              suffix={<span className="soft">{shown}</span>}
              inputMode="decimal"
              autoComplete="off"
              {...(value === undefined ? { defaultValue: text } : { value })}
              autoFocus={autoFocus}
              {...(onChange ? { onChange: (e) => onChange(e.target.value) } : {})}
              {...aria}
            />
            <UnitBeside name={name} unit={unit} shown={wasShown} kept={value === undefined ? wasKept : undefined} />
          </>
        );
      }}
    </Field>
  );
}
