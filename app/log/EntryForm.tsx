/** The fields of one kind of log entry, new or corrected. */
import { type ReactNode, Suspense, useState } from "react";
import { GRADES } from "#core/beam";
import type { EntryKind } from "#services/log/kinds/index";
import type { EntryOptions } from "#services/log/options";
import { CUT_CHOICES, DONE_CHOICES } from "#services/log/words";
import { fetched } from "../ui/fetched";
import { Choices, Tick } from "../ui/form/Choices";
import { NumberField } from "../ui/form/NumberField";
import { SelectField } from "../ui/form/SelectField";
import { useField } from "../ui/form/state";
import { TextField } from "../ui/form/TextField";
import type { LessOften } from "../ui/MoreForms";
import { Notice } from "../ui/Notice";

const GRADE_CHOICES = GRADES.map((g, i) => ({ value: String(i), label: g }));

/** Fetched by the kinds that need them. */
const PhotoField = fetched(() => import("../ui/form/PhotoField").then((m) => m.PhotoField));
const LadderEntry = fetched(() => import("../ui/LadderEntry").then((m) => m.LadderEntry));
const BenchRead = fetched(() => import("../ui/BenchRead").then((m) => m.BenchRead));
const MoreForms = fetched(() => import("../ui/MoreForms").then((m) => m.MoreForms));
const FittedPart = fetched(() => import("./FittedPart").then((m) => m.FittedPart));
const CutExtras = fetched(() => import("./CutExtras").then((m) => m.CutExtras));

interface Props {
  readonly options: EntryOptions;
  /** What the server asks about the hours that were given. */
  readonly ask?: string | undefined;
  /** A ladder that is to be the baseline. */
  readonly baseline?: boolean;
  /** Station or part that a link asks about. */
  readonly asked?: { readonly station?: string | undefined; readonly part?: string | undefined };
  readonly kind: EntryKind;
  /** Not a correction: what is told beside it can be told too. */
  readonly isNew?: boolean;
}

const materialsOf = (options: EntryOptions) => options.materials.map((m) => ({ value: String(m.id), label: m.label }));

/** The form of each kind that is not told less often; one that the log gets has to be given its fields here or there. */
const FORMS: { readonly [K in Exclude<EntryKind, LessOften>]: (props: Props) => ReactNode } = {
  hours: Hours,
  job: Job,
  cut: ({ options }) => (
    <>
      <div className="fields">
        <SelectField name="materialId" label="Material" options={materialsOf(options)} />
        <NumberField name="speedMmPerS" label="Speed" unit="mm/s" defaultValue={options.speeds[String(options.materials[0]?.id)]} />
        <NumberField name="setPercent" label="Power" unit="%" defaultValue={options.materials[0]?.setPercent} />
      </div>
      <Choices name="result" label="It went" options={CUT_CHOICES} />
      <Suspense>
        <CutExtras />
      </Suspense>
    </>
  ),
  ladder: ({ options, baseline }) => (
    <>
      <Suspense>
        <LadderEntry materials={options.materials} first={options.firstLadder} />
      </Suspense>
      <Baseline label="Known good: make this the baseline" asked={baseline === true} />
    </>
  ),
  power: Power,
  grade: ({ options, asked }) => (
    <>
      <SelectField
        name="station"
        label="Where did you look?"
        options={options.stations.filter((s) => s.id !== "tube").map((s) => ({ value: s.id, label: s.name }))}
        defaultValue={asked?.station}
      />
      <Choices name="grade" label="What did you see?" options={GRADE_CHOICES} />
    </>
  ),
  service: Service,
  note: () => (
    <>
      <TextField name="note" label="Note" autoFocus />
      <Suspense>
        <PhotoField name="photo" label="Add a photo" alt="What the note is about" />
      </Suspense>
    </>
  ),
};

/** What was done; of a part that was put in, what it is and what it cost. */
function Service({ options, asked, isNew }: Props) {
  const { typed } = useField("what");
  const [what, setWhat] = useState(typed);
  return (
    <>
      <SelectField name="part" label="What was it done to?" options={options.done} defaultValue={asked?.part ?? "lens"} search />
      <Choices name="what" label="What was done?" options={DONE_CHOICES} onChange={setWhat} />
      {isNew && (what === "cleaned" || what === "replaced") ? (
        <Choices name="found" label="How did it look before, if it is an optic" options={GRADE_CHOICES} />
      ) : null}
      {what === "replaced" ? (
        <Suspense>
          <FittedPart currency={options.currency} />
        </Suspense>
      ) : null}
    </>
  );
}

const isOften = (kind: EntryKind): kind is keyof typeof FORMS => Object.hasOwn(FORMS, kind);

function LessOftenForm({ options, kind }: { readonly options: EntryOptions; readonly kind: LessOften }) {
  return (
    <Suspense>
      <MoreForms
        kind={kind}
        materials={materialsOf(options)}
        stations={options.stations.filter((s) => s.id !== "tube").map((s) => ({ value: s.id, label: s.name }))}
        bedMap={options.bedMap}
        currency={options.currency}
        hasBench={options.hasBench}
        metered={options.stations.filter((s) => s.powered).map((s) => ({ value: s.id, label: s.name }))}
      />
    </Suspense>
  );
}

/** After a job, on one screen: what it smoked, whether it dropped, the flame, a glance at the lens. */
function Job({ options, isNew }: Props) {
  return (
    <>
      <div className="fields">
        <SelectField name="materialId" label="Material" options={materialsOf(options)} />
        <NumberField name="minutes" label="Beam on for" unit="min" />
      </div>
      {isNew ? <Choices name="dropped" label="Did it drop, at your usual setting?" options={CUT_CHOICES} /> : null}
      <Choices
        name="flame"
        label="Flame at the cut"
        options={[
          { value: "usual", label: "as usual" },
          { value: "more", label: "more" },
        ]}
      />
      {isNew ? <Choices name="glance" label="A glance at the lens, beam off" options={GRADE_CHOICES} /> : null}
    </>
  );
}

export function EntryForm({ kind, ...props }: Omit<Props, "kind"> & { readonly kind: EntryKind }) {
  if (!isOften(kind)) return <LessOftenForm kind={kind} options={props.options} />;
  const Form = FORMS[kind];
  return <Form {...props} kind={kind} />;
}

function Hours({ ask, options }: Props) {
  const { typed } = useField("because");
  return (
    <>
      <NumberField name="counterHours" label="Hours on the counter" unit="h" autoFocus />
      {options.hasBench ? (
        <Suspense>
          <BenchRead device="hours" />
        </Suspense>
      ) : null}
      {ask || typed ? (
        <Choices
          name="because"
          label={ask ?? "Changed"}
          options={[
            { value: "tube-changed", label: "new tube" },
            { value: "counter-changed", label: "new or reset counter" },
          ]}
        />
      ) : null}
    </>
  );
}

function Power({ options }: Props) {
  const { error } = useField("readings");
  return (
    <>
      <Notice kind="caution">
        Only where the probe fits with every panel and interlock in place; otherwise leave that reading out, or to a qualified person. The
        maker's manual comes first.
      </Notice>
      <div className="fields">
        <NumberField name="setPercent" label="At power" unit="%" defaultValue="100" />
        {options.stations
          .filter((s) => s.powered)
          .map((s) => (
            <NumberField key={s.id} name={`power-${s.id}`} label={`After ${s.name}`} unit="W" />
          ))}
      </div>
      {error ? <Notice kind="problem">{error}</Notice> : null}
      <Baseline label="Known good: make this walk the baseline" asked={false} />
    </>
  );
}

function Baseline({ label, asked }: { label: string; asked: boolean }) {
  const { typed } = useField("baseline");
  return <Tick name="baseline" label={label} defaultChecked={asked || typed === "1"} />;
}
