/** Entry of a speed ladder: one row per rung, speed and how it ended, in glove size. */
import { Input } from "antd";
import { useState } from "react";
import { NumberField, SelectField } from "./fields";

const ENDS = [
  { value: "dropped", label: "dropped" },
  { value: "hangs", label: "hangs" },
  { value: "stays", label: "stays" },
] as const;

export interface LadderMaterial {
  readonly id: number;
  readonly label: string;
  readonly setPercent: string;
  /** Speeds to try, mm/s. */
  readonly rungs: readonly string[];
}

export function LadderEntry({
  materials,
  errors,
  typed,
}: {
  materials: readonly LadderMaterial[];
  errors: Readonly<Record<string, string>>;
  typed: Readonly<Record<string, string>>;
}) {
  const [materialId, setMaterialId] = useState(typed.materialId ?? String(materials[0]?.id ?? ""));
  const material = materials.find((m) => String(m.id) === materialId) ?? materials[0];
  const [speeds, setSpeeds] = useState<readonly string[]>(() => {
    const kept = Object.keys(typed)
      .filter((k) => /^speed-\d+$/.test(k))
      .map((k) => typed[k] as string);
    return kept.length > 0 ? kept : (material?.rungs ?? []);
  });
  return (
    <div className="stack">
      <div className="fields">
        <SelectField
          name="materialId"
          label="Material"
          options={materials.map((m) => ({ value: String(m.id), label: m.label }))}
          defaultValue={materialId}
          error={errors.materialId}
          onChange={(id) => {
            setMaterialId(id);
            setSpeeds(materials.find((m) => String(m.id) === id)?.rungs ?? []);
          }}
        />
        <NumberField
          key={materialId}
          name="setPercent"
          label="Power, the same on every rung"
          unit="%"
          defaultValue={typed.setPercent ?? material?.setPercent}
          error={errors.setPercent}
        />
      </div>
      <fieldset className="rungs" aria-label="Rungs, slowest first">
        {speeds.map((speed, i) => (
          // Rungs have no identity of their own but their place.
          // biome-ignore lint/suspicious/noArrayIndexKey: the place is the identity
          <div className="rung" key={i}>
            <Input
              name={`speed-${i}`}
              aria-label={`Speed of rung ${i + 1} in mm/s`}
              value={speed}
              inputMode="decimal"
              suffix={<span className="soft">mm/s</span>}
              onChange={(e) => setSpeeds(speeds.map((s, k) => (k === i ? e.target.value : s)))}
              {...(errors[`speed-${i}`] ? { status: "error" as const } : {})}
            />
            <fieldset className="choices" style={{ border: 0, margin: 0, padding: 0 }}>
              <legend className="sr">How rung {i + 1} ended</legend>
              {ENDS.map((end) => (
                <label className="choice" key={end.value}>
                  <input type="radio" name={`end-${i}`} value={end.value} defaultChecked={typed[`end-${i}`] === end.value} />
                  <span>{end.label}</span>
                </label>
              ))}
            </fieldset>
            {errors[`speed-${i}`] ? (
              <span className="error hot" role="alert" style={{ gridColumn: "1 / -1" }}>
                {errors[`speed-${i}`]}
              </span>
            ) : null}
          </div>
        ))}
      </fieldset>
      {errors.rungs ? (
        <p className="hot" role="alert">
          {errors.rungs}
        </p>
      ) : null}
      <div className="row">
        <button type="button" className="button quiet" onClick={() => setSpeeds([...speeds, nextSpeed(speeds)])}>
          One rung more
        </button>
        {speeds.length > 2 ? (
          <button type="button" className="button quiet" onClick={() => setSpeeds(speeds.slice(0, -1))}>
            One less
          </button>
        ) : null}
        <span className="soft small">Rungs you did not cut: leave them unanswered.</span>
      </div>
    </div>
  );
}

function nextSpeed(speeds: readonly string[]): string {
  const [a, b] = [Number(speeds.at(-2)), Number(speeds.at(-1))];
  return Number.isFinite(a + b) ? String(Number((b + (b - a || 1)).toFixed(2))) : "";
}
