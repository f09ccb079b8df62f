/** Forms of what is told less often than hours, jobs and cuts; fetched by whoever tells it. */
import type { ReactNode } from "react";
import type { BedMapStart } from "#services/log/options";
import { COST_WORDS } from "#services/log/words";
import { UNIT_BESIDE } from "#services/units";
import { AirChoices } from "./AirChoices";
import { BedMapEntry } from "./BedMapEntry";
import { BenchRead } from "./BenchRead";
import { Choices, Tick } from "./form/Choices";
import { NumberField } from "./form/NumberField";
import { PhotoField } from "./form/PhotoField";
import { SelectField } from "./form/SelectField";
import { useField, useFormState } from "./form/state";
import { TextField } from "./form/TextField";
import { More } from "./More";
import { Notice } from "./Notice";
import { ProbeForm } from "./ProbeForm";

export type LessOften =
  | "probe"
  | "current"
  | "coolant"
  | "airflow"
  | "engraving"
  | "focus"
  | "tape"
  | "setting"
  | "cost"
  | "bed-map"
  | "coupon";

export interface LessOftenProps {
  readonly materials: readonly { readonly value: string; readonly label: string }[];
  readonly stations: readonly { readonly value: string; readonly label: string }[];
  /** Stations watts can be read after. */
  readonly metered: readonly { readonly value: string; readonly label: string }[];
  readonly bedMap: BedMapStart | undefined;
  readonly currency: string;
  readonly hasBench: boolean;
}

const list = (values: readonly string[]) => values.map((value) => ({ value, label: value }));

const FORMS: { readonly [K in LessOften]: (props: LessOftenProps) => ReactNode } = {
  probe: ({ metered, hasBench }) => <ProbeForm stations={metered} hasBench={hasBench} />,
  current: ({ hasBench }) => (
    <>
      <Notice kind="caution">Only by the machine's own meter. The supply kills: nothing is opened or clamped for this.</Notice>
      <div className="fields">
        <NumberField name="currentMa" label="Tube current" unit="mA" autoFocus />
        <NumberField name="setPercent" label="At power" unit="%" defaultValue="100" />
      </div>
      {hasBench ? <BenchRead device="current" /> : null}
      <Good label="As it should be: later readings are set against it" />
    </>
  ),
  coolant: ({ hasBench }) => (
    <>
      {hasBench ? <BenchRead device="coolant" /> : null}
      <div className="fields">
        <NumberField name="temperatureC" label="Temperature" unit="°C" />
        <NumberField name="flowLpm" label="Flow" unit="L/min" hint="at the return, a jug and a watch" />
        <NumberField name="toppedUpL" label="Topped up" unit="L" />
        <NumberField name="returnC" label="Out of the tube" unit="°C" hint="firing at full power" />
        <NumberField name="filledL" label="Filled anew" unit="L" />
        <NumberField name="glycolPercent" label="Glycol in it" unit="%" />
        <NumberField name="freezingC" label="or it freezes at" unit="°C" />
      </div>
      <Choices name="lost" label="What was topped up had" options={list(["evaporated", "leaked"])} />
      <Choices name="look" label="It looks" options={list(["clear", "cloudy", "coloured"])} />
      <Good label="As it should be: later readings are set against it" />
      <p className="soft small">Changed? Log it under “Done”, so that its interval begins anew.</p>
    </>
  ),
  airflow: () => (
    <>
      <div className="fields">
        <NumberField name="ductSpeedMps" label="Speed in the duct" unit="m/s" autoFocus />
        <NumberField name="pressurePa" label="Suction at the fan" unit="Pa" />
      </div>
      <AirChoices />
      <Good label="Clean all the way: later readings are set against it" />
    </>
  ),
  engraving: ({ materials }) => (
    <>
      <div className="fields">
        <SelectField name="materialId" label="Material" options={materials} />
        <NumberField name="speedMmPerS" label="Speed" unit="mm/s" />
        <NumberField name="setPercent" label="Power" unit="%" />
      </div>
      <Choices name="look" label="Its face is" options={list(["crisp", "blurred", "faint"])} />
      <Choices name="edges" label="Its two sides are" options={list(["straight", "wavy", "stepped"])} />
      <PhotoField name="photo" label="Add a photo" alt="The engraving" />
    </>
  ),
  focus: () => (
    <div className="fields">
      <NumberField
        name="offsetMm"
        label="The finest line was cut with the sheet this much higher than the gauge sets it"
        unit="mm"
        hint="lower: with a minus"
        autoFocus
      />
    </div>
  ),
  tape: ({ stations }) => (
    <>
      <SelectField name="station" label="Tape on" options={stations} />
      <Choices name="travel" label="Gantry or head" options={list(["near", "far"])} />
      <div className="fields">
        <NumberField name="rightMm" label="Right of its middle, seen along the beam" unit="mm" hint="left: with a minus" />
        <NumberField name="upMm" label="Up" unit="mm" hint="down: with a minus" />
      </div>
      <Choices name="mark" label="The mark is" options={list(["round", "crescent", "double"])} />
      <PhotoField name="photo" label="Add a photo" alt="The mark" />
    </>
  ),
  setting: ({ materials }) => (
    <>
      <div className="fields">
        <SelectField name="materialId" label="Material" options={materials} />
        <NumberField name="speedMmPerS" label="Speed" unit="mm/s" />
        <NumberField name="setPercent" label="Power" unit="%" />
      </div>
      <Choices name="purpose" label="To" options={list(["cut", "score", "engrave"])} />
      <More label="Passes, air, focus, lines">
        <div className="stack">
          <Choices name="air" label="Assist air" options={list(["full", "low", "off"])} />
          <div className="fields">
            <NumberField name="passes" label="Passes" unit="times" hint="one where left empty" />
            <NumberField name="focusMm" label="Focus below the face" unit="mm" hint="above: with a minus" />
            <NumberField name="lineMm" label="From line to line" unit="mm" />
          </div>
        </div>
      </More>
    </>
  ),
  cost: ({ currency }) => (
    <>
      <Choices name="what" label="For" options={Object.entries(COST_WORDS).map(([value, label]) => ({ value, label }))} />
      <div className="fields">
        <NumberField name="money" label="Money" unit={currency || "of your currency"} />
        <NumberField name="minutes" label="Lost" unit="min" />
      </div>
    </>
  ),
  "bed-map": ({ bedMap, materials }) =>
    bedMap ? (
      <>
        <div className="fields">
          <SelectField name="materialId" label="Material" options={materials} />
          <NumberField name="setPercent" label="Power, the same on every square" unit="%" />
        </div>
        <BedMapEntry map={bedMap} />
      </>
    ) : (
      <p>A bed map is told on its own drawing: make its file under Coupons first.</p>
    ),
  coupon: Coupon,
};

/** A file that was made with other figures than it was cut with. Its form cannot change; another one is another file. */
function Coupon() {
  const { typed } = useFormState();
  const kept = ["sizeMm", "marginMm", "bedWidthMm", "bedDepthMm", "lengthMm", "riseMm", "lineMm", "materialId"] as const;
  return (
    <>
      <input type="hidden" name="form" value={typed.form ?? "ladder"} />
      {kept.map((name) => (typed[name] === undefined ? null : <input key={name} type="hidden" name={name} value={typed[name]} />))}
      <div className="fields">
        <TextField name="speedsMmPerS" label="Speeds, mm/s" />
        <input type="hidden" name={`speedsMmPerS${UNIT_BESIDE}`} value="mm/s" />
        <NumberField name="setPercent" label="Power" unit="%" />
      </div>
    </>
  );
}

/** A reading that others are measured by. */
function Good({ label }: { label: string }) {
  const { typed } = useField("baseline");
  return (
    <More label="Is this how it should be?" open={typed === "1"}>
      <Tick name="baseline" label={label} defaultChecked={typed === "1"} />
    </More>
  );
}

export function MoreForms({ kind, ...props }: LessOftenProps & { kind: LessOften }) {
  const Form = FORMS[kind];
  return <Form {...props} />;
}
