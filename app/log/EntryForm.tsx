/** The form for one kind of log entry, new or corrected. */
import { GRADES } from "#core/beam";
import { Choices, NumberField, SelectField, TextField } from "../ui/fields";
import { LadderEntry, type LadderMaterial } from "../ui/LadderEntry";
import type { EntryKind } from "./entries";

export interface EntryOptions {
  readonly materials: readonly LadderMaterial[];
  readonly speeds: Readonly<Record<string, string>>;
  readonly stations: readonly { readonly id: string; readonly name: string; readonly powered: boolean }[];
}

interface Props {
  readonly kind: EntryKind;
  readonly options: EntryOptions;
  readonly errors: Readonly<Record<string, string>>;
  readonly typed: Readonly<Record<string, string>>;
  readonly ask?: string | undefined;
  readonly baseline?: boolean;
}

export function EntryForm({ kind, options, errors, typed, ask, baseline }: Props) {
  const materials = options.materials.map((m) => ({ value: String(m.id), label: m.label }));
  const material = (
    <SelectField name="materialId" label="Material" options={materials} defaultValue={typed.materialId} error={errors.materialId} />
  );
  const first = options.materials[0];
  switch (kind) {
    case "hours":
      return (
        <>
          <NumberField
            name="counterHours"
            label="Hours on the counter"
            unit="h"
            defaultValue={typed.counterHours}
            error={errors.counterHours}
            autoFocus
          />
          {ask || typed.because ? (
            <Choices
              name="because"
              label={ask ?? "Changed"}
              defaultValue={typed.because}
              options={[
                { value: "tube-changed", label: "new tube" },
                { value: "counter-changed", label: "new or reset counter" },
              ]}
            />
          ) : null}
        </>
      );
    case "job":
      return (
        <div className="fields">
          {material}
          <NumberField name="minutes" label="Beam on for" unit="min" defaultValue={typed.minutes} error={errors.minutes} />
        </div>
      );
    case "cut":
      return (
        <>
          <div className="fields">
            {material}
            <NumberField
              name="speedMmPerS"
              label="Speed"
              unit="mm/s"
              defaultValue={typed.speedMmPerS ?? options.speeds[String(first?.id)]}
              error={errors.speedMmPerS}
            />
            <NumberField
              name="setPercent"
              label="Power"
              unit="%"
              defaultValue={typed.setPercent ?? first?.setPercent}
              error={errors.setPercent}
            />
          </div>
          <Choices
            name="result"
            label="It went"
            defaultValue={typed.result}
            error={errors.result}
            options={[
              { value: "through", label: "through" },
              { value: "hangs", label: "hangs" },
              { value: "part-through", label: "part through" },
              { value: "surface-only", label: "surface only" },
            ]}
          />
        </>
      );
    case "ladder":
      return (
        <>
          <LadderEntry materials={options.materials} errors={errors} typed={typed} />
          <label className="tick" style={{ fontSize: 15, minHeight: 48 }}>
            <input type="checkbox" name="baseline" value="1" defaultChecked={baseline || typed.baseline === "1"} />
            Known good: make this the baseline
          </label>
        </>
      );
    case "power":
      return (
        <>
          <p className="caution">
            Only where the probe fits with every panel and interlock in place; otherwise leave that reading out, or to a qualified person.
            The maker's manual comes first.
          </p>
          <NumberField
            name="setPercent"
            label="At power"
            unit="%"
            defaultValue={typed.setPercent ?? "100"}
            error={errors.setPercent}
            width={160}
          />
          <div className="fields">
            {options.stations
              .filter((s) => s.powered)
              .map((s) => (
                <NumberField
                  key={s.id}
                  name={`power-${s.id}`}
                  label={`After ${s.name}`}
                  unit="W"
                  defaultValue={typed[`power-${s.id}`]}
                  error={errors[`power-${s.id}`]}
                />
              ))}
          </div>
          {errors.readings ? (
            <p className="hot" role="alert">
              {errors.readings}
            </p>
          ) : null}
          <label className="tick" style={{ fontSize: 15, minHeight: 48 }}>
            <input type="checkbox" name="baseline" value="1" defaultChecked={typed.baseline === "1"} />
            Known good: make this walk the baseline
          </label>
        </>
      );
    case "grade":
      return (
        <>
          <SelectField
            name="station"
            label="Where did you look?"
            options={options.stations.filter((s) => s.id !== "tube").map((s) => ({ value: s.id, label: s.name }))}
            defaultValue={typed.station}
            error={errors.station}
          />
          <Choices
            name="grade"
            label="What did you see?"
            error={errors.grade}
            defaultValue={typed.grade}
            options={GRADES.map((g, i) => ({ value: String(i), label: g }))}
          />
        </>
      );
    case "note":
      return <TextField name="note" label="Note" defaultValue={typed.note} error={errors.note} autoFocus />;
  }
}
