/** The result of a test file, told on its drawing; each form becomes a record of the log. */
import { Radio } from "antd";
import { useState } from "react";
import { kerfOf } from "#core/coupon";
import type { madeView } from "#services/coupons/couponsView";
import { CUT_CHOICES } from "#services/log/words";
import { keptHere, withUnit } from "#services/units";
import { BedMapEntry } from "../ui/BedMapEntry";
import { CouponResult, squareOf } from "../ui/CouponResult";
import { Choices, Tick } from "../ui/form/Choices";
import { NumberField } from "../ui/form/NumberField";
import { useFormState } from "../ui/form/state";
import { MoreForms } from "../ui/MoreForms";
import { Notice } from "../ui/Notice";

type Made = ReturnType<typeof madeView>;

export function Result({ d }: { d: Made }) {
  const { errors } = useFormState();
  switch (d.form) {
    case "ladder":
      return (
        <>
          <Setting d={d} />
          <CouponResult label="The coupon, slowest square first" squares={d.speeds.map((kept, i) => squareOf(String(i), kept))} />
          {errors.rungs ? <Notice kind="problem">{errors.rungs}</Notice> : null}
          <Tick name="baseline" label="Known good: make this the baseline" defaultChecked={!d.hasBaseline} />
        </>
      );
    case "bed-map":
      return d.bedMap ? (
        <>
          <Setting d={d} />
          <BedMapEntry map={d.bedMap} />
        </>
      ) : null;
    case "shapes":
      return <Shapes d={d} />;
    case "ramp":
      return <Ramp d={d} />;
    case "block":
      return (
        <>
          <Setting d={d} />
          <input type="hidden" name="speedMmPerS" value={d.speeds[0]} />
          <Choices name="edges" label="Its two sides are" options={words(["straight", "wavy", "stepped"])} />
          <Choices name="look" label="Its face is" options={words(["crisp", "blurred", "faint"])} />
        </>
      );
    case "rings":
      return <MoreForms kind="tape" materials={[]} stations={d.stations} metered={[]} bedMap={undefined} currency="" hasBench={false} />;
    default:
      return d.form satisfies never;
  }
}

const words = (list: readonly string[]) => list.map((value) => ({ value, label: value }));

/** What it was cut with, as the file says. */
const Setting = ({ d }: { d: Made }) => (
  <>
    <input type="hidden" name="materialId" value={d.materialId} />
    <input type="hidden" name="setPercent" value={d.setPercent} />
  </>
);

/** A square and a circle: one result for both, and the width of the cut from what the square measures. */
function Shapes({ d }: { d: Made }) {
  const [side, setSide] = useState("");
  const measured = keptHere(side, "mm");
  const kerf = measured === undefined || d.size === undefined ? undefined : kerfOf(d.size, measured);
  return (
    <>
      <Setting d={d} />
      <input type="hidden" name="speedMmPerS" value={d.speeds[0]} />
      <Choices name="result" label="Square and circle went" options={CUT_CHOICES} />
      <div className="fields">
        <NumberField
          name="side"
          label="Width of the dropped square"
          unit="mm"
          hint={d.size === undefined ? undefined : `drawn: ${withUnit(d.size, "mm", 2)}`}
          onChange={setSide}
        />
      </div>
      {kerf !== undefined ? (
        <p>
          The cut is <b>{withUnit(kerf, "mm", 2)}</b> wide.
          <input type="hidden" name="kerfMm" value={kerf} />
        </p>
      ) : null}
    </>
  );
}

/** The finest line of a ramp, picked where it stands. */
function Ramp({ d }: { d: Made }) {
  const { typed, errors } = useFormState();
  const [offset, setOffset] = useState(typed.offsetMm);
  return (
    <>
      <fieldset className="ramp">
        <legend>Which line is finest? Heights are of the sheet over the middle line.</legend>
        <Radio.Group
          className="choices"
          role="radiogroup"
          aria-label="The finest line"
          optionType="button"
          value={offset}
          onChange={(e) => setOffset(String(e.target.value))}
        >
          {d.coupon.targets.map((t) => (
            <Radio.Button key={t.id} value={String(t.heightMm)}>
              {t.label}
            </Radio.Button>
          ))}
        </Radio.Group>
      </fieldset>
      {offset === undefined ? null : <input type="hidden" name="offsetMm" value={offset} />}
      {errors.offsetMm ? <Notice kind="problem">Say which line is finest.</Notice> : null}
    </>
  );
}
