/** Entry of a speed ladder: the coupon as it was cut, square by square; its speeds can be changed, and its file made. */
import { Button, Input } from "antd";
import { Suspense, useState } from "react";
import { useParams } from "react-router";
import type { LadderMaterial } from "#services/log/options";
import { UNIT_BESIDE, unitHere, WAS_BESIDE } from "#services/units";
import { CouponResult, type Square, squareOf } from "./CouponResult";
import { fetched } from "./fetched";
import { NumberField } from "./form/NumberField";
import { SelectField } from "./form/SelectField";
import { useFormState } from "./form/state";
import { LinkButton } from "./LinkButton";
import { More } from "./More";
import { Notice } from "./Notice";

const FEWEST = 2;

/** Its drawing and words are not needed by whoever knows. */
const LadderHelp = fetched(() => import("./LadderHelp").then((m) => m.LadderHelp));

export function LadderEntry({ materials, first = false }: { materials: readonly LadderMaterial[]; first?: boolean }) {
  const { typed, errors } = useFormState();
  const { machine } = useParams();
  const [materialId, setMaterialId] = useState(typed.materialId ?? String(materials[0]?.id ?? ""));
  const material = materials.find((m) => String(m.id) === materialId) ?? materials[0];
  const [speeds, setSpeeds] = useState<readonly Speed[]>(() => {
    const before = Object.keys(typed)
      .filter((k) => /^speed-\d+$/.test(k))
      .map((k) => speedTyped(typed, k));
    return before.length > 0 ? before : (material?.rungs ?? []).map(speedKept);
  });
  const wrongSpeed = Object.keys(errors).some((k) => k.startsWith("speed-"));
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
            setSpeeds((materials.find((m) => String(m.id) === id)?.rungs ?? []).map(speedKept));
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
      <div className="row">
        <LinkButton to={`/${machine}/coupons?form=ladder&material=${materialId}`}>Make the file</LinkButton>
        <span className="soft small">
          {material?.file ? `The squares are those of the file made ${material.file.day}.` : "To cut, with these speeds, as SVG or DXF."}
        </span>
      </div>
      <CouponResult key={materialId} label="The coupon, slowest square first" squares={speeds.map((s, i) => ({ ...s, id: String(i) }))} />
      {errors.rungs ? <Notice kind="problem">{errors.rungs}</Notice> : null}
      <More label="I cut other speeds" open={wrongSpeed}>
        <div className="stack">
          <fieldset className="fields" aria-label="Speeds, slowest first">
            {speeds.map((speed, i) => (
              <Input
                // Rungs have no identity of their own but their place.
                // biome-ignore lint/suspicious/noArrayIndexKey: the place is the identity
                key={i}
                aria-label={`Speed of rung ${i + 1} in ${unitHere("mm/s")}`}
                value={speed.speed}
                inputMode="decimal"
                suffix={<span className="soft">{unitHere("mm/s")}</span>}
                onChange={(e) => setSpeeds(speeds.map((s, k) => (k === i ? { speed: e.target.value } : s)))}
                {...(errors[`speed-${i}`] ? { status: "error" as const, "aria-invalid": true } : {})}
              />
            ))}
          </fieldset>
          <div className="row">
            <Button type="link" onClick={() => setSpeeds([...speeds, nextSpeed(speeds)])}>
              One rung more
            </Button>
            {speeds.length > FEWEST ? (
              <Button type="link" onClick={() => setSpeeds(speeds.slice(0, -1))}>
                One less
              </Button>
            ) : null}
          </div>
        </div>
      </More>
    </div>
  );
}

type Speed = Pick<Square, "speed" | "kept">;
const speedKept = (kept: string): Speed => squareOf("", kept);

/** From a form that was sent, as it stood there; from one that was only filled, as it is kept. */
function speedTyped(typed: Readonly<Record<string, string>>, name: string): Speed {
  const text = typed[name] as string;
  return typed[name + UNIT_BESIDE] === undefined ? speedKept(text) : { speed: text, kept: typed[name + WAS_BESIDE]?.split("=")[1] };
}

function nextSpeed(speeds: readonly Speed[]): Speed {
  const [a, b] = [Number(speeds.at(-2)?.speed), Number(speeds.at(-1)?.speed)];
  return { speed: Number.isFinite(a + b) ? String(Number((b + (b - a || 1)).toFixed(2))) : "" };
}
