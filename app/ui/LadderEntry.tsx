/** Entry of a speed ladder: one row per rung, speed and how it ended, in glove size. */
import { Button, Input } from "antd";
import { Suspense, useState } from "react";
import type { LadderMaterial } from "#services/log/options";
import { fetched } from "./fetched";
import { ChoiceButtons } from "./form/Choices";
import { NumberField } from "./form/NumberField";
import { SelectField } from "./form/SelectField";
import { useField, useFormState } from "./form/state";
import { More } from "./More";
import { Notice } from "./Notice";

const ENDS = [
  { value: "dropped", label: "dropped" },
  { value: "hangs", label: "hangs" },
  { value: "stays", label: "stays" },
] as const;

const FEWEST = 2;

/** Its drawing and words are not needed by whoever knows. */
const LadderHelp = fetched(() => import("./LadderHelp").then((m) => m.LadderHelp));

export function LadderEntry({ materials, first = false }: { materials: readonly LadderMaterial[]; first?: boolean }) {
  const { typed, errors } = useFormState();
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
      <More label="What is a ladder, and how is it cut?" open={first}>
        <Suspense>
          <LadderHelp />
        </Suspense>
      </More>
      <div className="fields">
        <SelectField
          name="materialId"
          label="Material"
          options={materials.map((m) => ({ value: String(m.id), label: m.label }))}
          defaultValue={materialId}
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
          defaultValue={material?.setPercent}
        />
      </div>
      <fieldset className="rungs" aria-label="Rungs, slowest first">
        {speeds.map((speed, i) => (
          // Rungs have no identity of their own but their place.
          // biome-ignore lint/suspicious/noArrayIndexKey: the place is the identity
          <RungEntry key={i} i={i} speed={speed} onChange={(next) => setSpeeds(speeds.map((s, k) => (k === i ? next : s)))} />
        ))}
      </fieldset>
      {errors.rungs ? <Notice kind="problem">{errors.rungs}</Notice> : null}
      <div className="row">
        <Button type="link" onClick={() => setSpeeds([...speeds, nextSpeed(speeds)])}>
          One rung more
        </Button>
        {speeds.length > FEWEST ? (
          <Button type="link" onClick={() => setSpeeds(speeds.slice(0, -1))}>
            One less
          </Button>
        ) : null}
        <span className="soft small">Rungs you did not cut: leave them unanswered.</span>
      </div>
    </div>
  );
}

function RungEntry({ i, speed, onChange }: { i: number; speed: string; onChange: (speed: string) => void }) {
  const { error } = useField(`speed-${i}`);
  const { typed } = useField(`end-${i}`);
  return (
    <div className="rung">
      <Input
        name={`speed-${i}`}
        aria-label={`Speed of rung ${i + 1} in mm/s`}
        value={speed}
        inputMode="decimal"
        suffix={<span className="soft">mm/s</span>}
        onChange={(e) => onChange(e.target.value)}
        {...(error ? { status: "error" as const, "aria-invalid": true } : {})}
      />
      <ChoiceButtons name={`end-${i}`} label={`How rung ${i + 1} ended`} options={ENDS} defaultValue={typed} />
      {error ? <Notice kind="problem">{error}</Notice> : null}
    </div>
  );
}

function nextSpeed(speeds: readonly string[]): string {
  const [a, b] = [Number(speeds.at(-2)), Number(speeds.at(-1))];
  return Number.isFinite(a + b) ? String(Number((b + (b - a || 1)).toFixed(2))) : "";
}
