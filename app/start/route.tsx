/** First start: name the machine, hours and rated power, one material; then a ladder, or what is weak. */
import { useState } from "react";
import { data, Form, redirect, useNavigation } from "react-router";
import { layouts, threeMirror } from "#catalog/layouts";
import { materialKinds } from "#catalog/materials";
import { addMachine } from "#store/machines";
import { once, rowKey } from "#store/sent";
import { check, trouble } from "../server/forms";
import { saving, sentAs } from "../server/saving";
import { FormProblem, NumberField, RequestKey, SelectField, TextField } from "../ui/fields";
import { keyAfter, sendKept } from "../ui/sending";
import { refusalOf } from "../workshop/place/edit";
import type { Route } from "./+types/route";
import { type FirstMachine, firstMachineSchema } from "./schema";

export function loader({ context }: Route.LoaderArgs) {
  return {
    key: context.freshKey(),
    layouts: Object.values(layouts).map(({ id, name, describe, ratedPowerW }) => ({ id, name, describe, ratedPowerW })),
    kinds: materialKinds.map((k) => ({ value: k.id, label: k.name })),
  };
}

export function meta() {
  return [{ title: "Your machine · Clenor" }];
}

export const action = saving(async (reader, { context }: Route.ActionArgs) => {
  const input = {
    name: reader.text("name"),
    layout: reader.text("layout"),
    ratedPowerW: reader.number("ratedPowerW", "W", "80"),
    tubeHours: reader.number("tubeHours", "h", "1060"),
    ratedTubeHours: reader.number("ratedTubeHours", "h", "3000"),
    materialName: materialKinds.find((k) => k.id === reader.text("materialKind"))?.name,
    materialKind: reader.text("materialKind"),
    thicknessMm: reader.number("thicknessMm", "mm", "3"),
    usualSpeedMmPerS: reader.optionalNumber("usualSpeedMmPerS", "mm/s", "14"),
    usualSetPercent: reader.optionalNumber("usualSetPercent", "%", "60"),
    next: reader.text("next"),
  };
  const own = reader.text("materialName");
  const name = own ?? input.materialName;
  const refused = refusalOf(name);
  if (refused) reader.errors.materialName = refused;
  const plain = Object.fromEntries(Object.entries({ ...input, materialName: name }).filter(([, v]) => v !== undefined));
  const checked = check<FirstMachine>(firstMachineSchema, plain);
  if (!checked.ok || Object.keys(reader.errors).length > 0) return data(trouble(reader, checked.ok ? {} : checked.errors), { status: 400 });
  const m = checked.value;
  const machine = {
    name: m.name,
    layout: m.layout,
    ratedPowerW: m.ratedPowerW,
    ratedTubeHours: m.ratedTubeHours,
    tubeHours: m.tubeHours,
    material: {
      name: m.materialName,
      kind: m.materialKind,
      thicknessMm: m.thicknessMm,
      usualSpeedMmPerS: m.usualSpeedMmPerS,
      usualSetPercent: m.usualSetPercent,
    },
  };
  const sent = sentAs("start", reader);
  const nowMs = context.nowMs();
  const slug = await once(context.store, sent, nowMs, (tx) => addMachine(tx, machine, rowKey(sent), nowMs));
  return redirect(m.next === "ladder" ? `/${slug}/log?kind=ladder&baseline=1` : m.next === "weak" ? `/${slug}/trace` : `/${slug}/today`);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

export default function Start({ loaderData, actionData }: Route.ComponentProps) {
  const errors: Readonly<Record<string, string>> = actionData?.errors ?? {};
  const typed: Readonly<Record<string, string>> = actionData?.typed ?? {};
  const [layout, setLayout] = useState(typed.layout ?? threeMirror.id);
  const busy = useNavigation().state !== "idle";
  return (
    <>
      <header className="bar">
        <span className="wordmark">
          clenor<i>.</i>
        </span>
      </header>
      <main className="lone">
        <h1 className="verdict">Tell me about your machine.</h1>
        <p className="lead" style={{ margin: 0 }}>
          Two minutes. Then either it is good and one ladder becomes the mark everything is measured against, or something is weak and we
          trace it.
        </p>
        <Form method="post" className="stack loose" noValidate>
          <FormProblem errors={errors} />
          <RequestKey value={keyAfter(actionData, loaderData.key)} />
          <section className="card stack">
            <TextField
              name="name"
              label="What do you call it?"
              placeholder="Larkspur"
              defaultValue={typed.name}
              error={errors.name}
              autoFocus
            />
            <fieldset className="layouts">
              <legend className="label-line">How does the beam run? You can change every part of it later.</legend>
              {loaderData.layouts.map((l) => (
                <label className="choice" key={l.id}>
                  <input type="radio" name="layout" value={l.id} checked={layout === l.id} onChange={() => setLayout(l.id)} />
                  <span>
                    <b>{l.name}</b>
                    <small className="soft">{l.describe}</small>
                  </span>
                </label>
              ))}
            </fieldset>
            <div className="fields">
              <NumberField
                name="ratedPowerW"
                label="Rated power of the tube"
                unit="W"
                key={layout}
                defaultValue={typed.ratedPowerW ?? String(loaderData.layouts.find((l) => l.id === layout)?.ratedPowerW ?? 80)}
                error={errors.ratedPowerW}
              />
              <NumberField
                name="tubeHours"
                label="Hours on the counter"
                unit="h"
                defaultValue={typed.tubeHours}
                error={errors.tubeHours}
                hint="0 if it is new"
              />
              <NumberField
                name="ratedTubeHours"
                label="Rated life"
                unit="h"
                defaultValue={typed.ratedTubeHours ?? "3000"}
                error={errors.ratedTubeHours}
                hint="from its papers"
              />
            </div>
          </section>
          <section className="card stack">
            <h2 className="card-title">One material you cut often</h2>
            <div className="fields">
              <SelectField
                name="materialKind"
                label="What is it?"
                options={loaderData.kinds}
                defaultValue={typed.materialKind ?? "birch-ply"}
                error={errors.materialKind}
              />
              <NumberField
                name="thicknessMm"
                label="Thickness"
                unit="mm"
                defaultValue={typed.thicknessMm ?? "3"}
                error={errors.thicknessMm}
              />
            </div>
            <TextField
              name="materialName"
              label="Your own name for it, if any"
              defaultValue={typed.materialName}
              error={errors.materialName}
            />
            <div className="fields">
              <NumberField
                name="usualSpeedMmPerS"
                label="Speed that usually cuts it"
                unit="mm/s"
                defaultValue={typed.usualSpeedMmPerS}
                error={errors.usualSpeedMmPerS}
                hint="leave empty if unsure"
              />
              <NumberField
                name="usualSetPercent"
                label="at power"
                unit="%"
                defaultValue={typed.usualSetPercent}
                error={errors.usualSetPercent}
              />
            </div>
          </section>
          <div className="row">
            <button className="button primary tall" type="submit" name="next" value="ladder" disabled={busy}>
              It cuts well: cut a ladder now
            </button>
            <button className="button tall" type="submit" name="next" value="weak" disabled={busy}>
              Something is weak
            </button>
          </div>
        </Form>
      </main>
    </>
  );
}
