/** Materials of a machine: their usual setting and the smoke they make; adding one, and not offering one any longer. */
import { Form } from "react-router";
import { NumberField, SelectField, TextField } from "../../ui/fields";
import { Changed, type Stale } from "./Changed";

export interface MaterialView {
  readonly id: number;
  readonly name: string;
  readonly thickness: string;
  readonly kind: string;
  readonly dirt: string;
  readonly speed: string;
  readonly power: string;
  /** The owner's own smoke factors; empty where the kind's hold. */
  readonly optics: string;
  readonly nozzle: string;
  readonly usualOptics: string;
  readonly usualNozzle: string;
  readonly hidden: boolean;
}

type Errors = Readonly<Record<string, string>>;

export function MaterialRow({
  material: m,
  madeFrom,
  stale,
  errors,
}: {
  material: MaterialView;
  madeFrom: string;
  stale: Stale | undefined;
  errors: Errors;
}) {
  return (
    <li>
      <details open={Object.keys(errors).length > 0 || stale !== undefined}>
        <summary className="between">
          <span>
            <b>
              {m.thickness} mm {m.name}
            </b>
            {m.hidden ? <span className="soft"> · no longer offered</span> : null}
          </span>
          <span className="soft">
            {m.kind}, {m.dirt} · {m.speed ? `${m.speed} mm/s at ${m.power || "?"} %` : "no usual setting yet"} · smoke{" "}
            {m.optics || m.usualOptics}, at the nozzle {m.nozzle || m.usualNozzle} · <u>change</u>
          </span>
        </summary>
        <Form method="post" className="stack" style={{ padding: "12px 0" }} preventScrollReset>
          <input type="hidden" name="intent" value="material" />
          <input type="hidden" name="madeFrom" value={madeFrom} />
          <input type="hidden" name="material" value={m.id} />
          <div className="fields">
            <NumberField name="usualSpeedMmPerS" label="Usual speed" unit="mm/s" defaultValue={m.speed} error={errors.usualSpeedMmPerS} />
            <NumberField name="usualSetPercent" label="at power" unit="%" defaultValue={m.power} error={errors.usualSetPercent} />
            <NumberField
              name="smokeOptics"
              label="Smoke per hour"
              unit="of ply"
              defaultValue={m.optics}
              error={errors.smokeOptics}
              hint={`empty: ${m.usualOptics}`}
            />
            <NumberField
              name="smokeNozzle"
              label="at the nozzle"
              unit="of ply"
              defaultValue={m.nozzle}
              error={errors.smokeNozzle}
              hint={`empty: ${m.usualNozzle}`}
            />
          </div>
          <Changed stale={stale} />
          <div className="row">
            <button type="submit" className="button">
              Save
            </button>
            <button type="submit" name="hide" value={m.hidden ? "0" : "1"} className="button quiet">
              {m.hidden ? "Offer it again" : "No longer offer it"}
            </button>
          </div>
        </Form>
      </details>
    </li>
  );
}

export function MaterialAdd({
  kinds,
  errors,
  typed,
  saved,
}: {
  kinds: readonly { value: string; label: string }[];
  errors: Errors;
  typed: Errors;
  /** Empties the form once it was saved. */
  saved: string | undefined;
}) {
  return (
    <Form method="post" className="card stack" key={saved} preventScrollReset>
      <input type="hidden" name="intent" value="new-material" />
      <h2 className="card-title">One more material</h2>
      <div className="fields">
        <SelectField name="kind" label="What is it?" options={kinds} defaultValue={typed.kind} />
        <TextField name="name" label="Your own name for it" defaultValue={typed.name} error={errors.name} hint="empty: as its kind" />
        <NumberField name="thicknessMm" label="Thickness" unit="mm" defaultValue={typed.thicknessMm} error={errors.thicknessMm} />
        <NumberField
          name="usualSpeedMmPerS"
          label="Usual speed"
          unit="mm/s"
          defaultValue={typed.usualSpeedMmPerS}
          error={errors.usualSpeedMmPerS}
        />
        <NumberField name="usualSetPercent" label="at power" unit="%" defaultValue={typed.usualSetPercent} error={errors.usualSetPercent} />
      </div>
      <p className="soft small">
        PVC and vinyl, chlorinated rubber, chrome-tanned leather and unknown plastics are refused: chlorine, chromium and worse.
      </p>
      <button type="submit" className="button" style={{ width: "fit-content" }}>
        Add it
      </button>
    </Form>
  );
}
