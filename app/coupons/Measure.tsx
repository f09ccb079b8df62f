/** One figure of a test file, drawn anew as it is typed. */
import { Input } from "antd";
import { type CouponForm, type CouponSpec, readSpeeds } from "#core/coupon";
import { keptHere, textHere, unitHere } from "#services/units";
import { Field } from "../ui/form/Field";
import { TypedEarly } from "../ui/form/TypedEarly";
import { UnitBeside } from "../ui/form/UnitBeside";

type Name = keyof CouponSpec;

const LABELS: Readonly<Partial<Record<Name, { readonly label: string; readonly unit: string; readonly hint?: string }>>> = {
  setPercent: { label: "Power", unit: "%" },
  speedsMmPerS: { label: "Speeds, slowest first", unit: "mm/s", hint: "numbers with spaces between" },
  sizeMm: { label: "Side of a square", unit: "mm" },
  marginMm: { label: "Margin", unit: "mm" },
  bedWidthMm: { label: "Width of the bed", unit: "mm" },
  bedDepthMm: { label: "Depth of the bed", unit: "mm" },
  lengthMm: { label: "Length of the slope", unit: "mm" },
  riseMm: { label: "Its far end is higher by", unit: "mm" },
  lineMm: { label: "From line to line", unit: "mm" },
};

/** Where a form means something else by a field. */
const OWN: Readonly<Partial<Record<CouponForm, Readonly<Partial<Record<Name, string>>>>>> = {
  shapes: { sizeMm: "Square and circle", speedsMmPerS: "Speed" },
  ramp: { speedsMmPerS: "Speed" },
  block: { sizeMm: "Side of the block", speedsMmPerS: "Speed" },
  rings: { sizeMm: "Opening of the part" },
  "bed-map": { marginMm: "From the edge of the bed" },
};

/** A starting figure, or a list of them, as it stands in its field here. */
export const shownStart = (field: string, kept: string): string => {
  const unit = LABELS[field as Name]?.unit;
  return unit === undefined
    ? kept
    : kept
        .split(" ")
        .map((figure) => textHere(figure, unit))
        .join(" ");
};

/** What a field says as it is kept; its starting figures to the last digit. */
export function keptMeasure(field: Name, text: string, start: string | undefined): readonly number[] | undefined {
  const unit = LABELS[field]?.unit ?? "";
  const words = start !== undefined && text.trim() === shownStart(field, start) ? start : undefined;
  const { speeds, bad } = readSpeeds(words ?? text);
  if (bad !== undefined) return [Number.NaN];
  if (speeds.length === 0) return undefined;
  return words === undefined ? speeds.map((v) => keptHere(String(v), unit) ?? Number.NaN) : speeds;
}

export function Measure({
  field,
  form,
  value,
  start,
  onChange,
}: {
  field: Name;
  form: CouponForm;
  value: string;
  /** What it was filled with, as it is kept. */
  start: string | undefined;
  onChange: (value: string) => void;
}) {
  const words = LABELS[field];
  if (!words) return null;
  const label = OWN[form]?.[field] ?? words.label;
  return (
    <Field name={field} label={label} hint={OWN[form]?.[field] ? undefined : words.hint}>
      {({ id, aria }) => (
        <>
          <TypedEarly id={id} known={value} tell={onChange} />
          <Input
            id={id}
            name={field}
            suffix={<span className="soft">{unitHere(words.unit)}</span>}
            inputMode={field === "speedsMmPerS" ? "text" : "decimal"}
            autoComplete="off"
            value={value}
            onChange={(e) => onChange(e.target.value)}
            {...aria}
          />
          <UnitBeside name={field} unit={words.unit} shown={start && shownStart(field, start)} kept={start} />
        </>
      )}
    </Field>
  );
}
