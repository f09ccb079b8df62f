/** Materials of a machine: their usual setting and the smoke they make; adding one, and not offering one any longer. */
import { Form } from "react-router";
import { textHere, unitHere } from "#services/units";
import { Block } from "../ui/Block";
import { NumberField } from "../ui/form/NumberField";
import { Submit } from "../ui/form/Posted";
import { SelectField } from "../ui/form/SelectField";
import { Fields, type FormState } from "../ui/form/state";
import { TextField } from "../ui/form/TextField";
import { More } from "../ui/More";
import type { Route } from "./+types/route";
import { EditForm, type EditState } from "./EditForm";

type Material = Route.ComponentProps["loaderData"]["materials"][number];

export function MaterialRow({ material: m, state }: { material: Material; state: EditState }) {
  const setting = m.speed ? `${textHere(m.speed, "mm/s")} ${unitHere("mm/s")} at ${m.power || "?"} %` : "no usual setting yet";
  return (
    <More
      open={state.changed !== undefined || Object.keys(state.answer?.errors ?? {}).length > 0}
      label={
        <span className="between wraps">
          <span>
            <b>
              {textHere(m.thickness, "mm")} {unitHere("mm")} {m.name}
            </b>
            {m.hidden && m.uncut ? (
              <span className="hot"> · never offered</span>
            ) : m.hidden ? (
              <span className="soft"> · no longer offered</span>
            ) : null}
          </span>
          <span className="soft">
            {m.kind}, {m.dirt} · {setting} · smoke {m.optics || m.usualOptics}, at the nozzle {m.nozzle || m.usualNozzle} · <u>change</u>
          </span>
        </span>
      }
    >
      <EditForm intent="material" state={state}>
        <input type="hidden" name="material" value={m.id} />
        <div className="fields">
          <NumberField name="usualSpeedMmPerS" label="Usual speed" unit="mm/s" defaultValue={m.speed} />
          <NumberField name="usualSetPercent" label="at power" unit="%" defaultValue={m.power} />
          <NumberField name="smokeOptics" label="Smoke per hour" unit="of ply" defaultValue={m.optics} hint={`empty: ${m.usualOptics}`} />
          <NumberField name="smokeNozzle" label="at the nozzle" unit="of ply" defaultValue={m.nozzle} hint={`empty: ${m.usualNozzle}`} />
        </div>
        <div className="row">
          <Submit>Save</Submit>
          {m.uncut ? null : (
            <Submit name="hide" value={m.hidden ? "0" : "1"} type="link">
              {m.hidden ? "Offer it again" : "No longer offer it"}
            </Submit>
          )}
        </div>
      </EditForm>
    </More>
  );
}

export function MaterialAdd({
  kinds,
  answer,
  saved,
}: {
  kinds: readonly { value: string; label: string }[];
  answer: FormState | undefined;
  /** Empties the form once it was saved. */
  saved: string | undefined;
}) {
  return (
    <Block>
      <Form method="post" className="stack" key={saved} preventScrollReset>
        <input type="hidden" name="intent" value="new-material" />
        <h2 className="card-title">One more material</h2>
        <Fields state={answer}>
          <div className="fields">
            <SelectField name="kind" label="What is it?" options={kinds} />
            <TextField name="name" label="Your own name for it" hint="empty: as its kind" />
            <NumberField name="thicknessMm" label="Thickness" unit="mm" />
            <NumberField name="usualSpeedMmPerS" label="Usual speed" unit="mm/s" />
            <NumberField name="usualSetPercent" label="at power" unit="%" />
          </div>
        </Fields>
        <p className="soft small">
          PVC and vinyl, chlorinated rubber and chrome-tanned leather are refused: they give off chlorine, chromium and worse. A plastic
          that nobody has named yet is entered as unknown and offered nowhere.
        </p>
        <Submit>Add it</Submit>
      </Form>
    </Block>
  );
}
