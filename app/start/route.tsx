/** First start: name the machine, hours and rated power, one material; then a ladder, or what is weak. */

import { useState } from "react";
import { data, Form, Link, redirect, useNavigation } from "react-router";
import { lostCopies } from "#services/exchange/files";
import { trouble } from "#services/forms/fields";
import { startByForm, startView } from "#services/start/start";
import { saving } from "../server/saving";
import { Block } from "../ui/Block";
import { Choices, Tick } from "../ui/form/Choices";
import { NumberField } from "../ui/form/NumberField";
import { FormProblem, RequestKey, Submit } from "../ui/form/Posted";
import { SelectField } from "../ui/form/SelectField";
import { Fields } from "../ui/form/state";
import { TextField } from "../ui/form/TextField";
import { More } from "../ui/More";
import { Notice } from "../ui/Notice";
import { keyAfter, sendKept } from "../ui/sending";
import { TakeIn } from "../ui/TakeIn";
import { Worded } from "../ui/Worded";
import type { Route } from "./+types/route";

export const loader = async ({ context }: Route.LoaderArgs) => {
  // Copies lie beside the database: it does not tell when there is another one.
  context.personal();
  return { ...startView(), copies: await lostCopies(context), key: context.freshKey() };
};

export function meta() {
  return [{ title: "Your machine · Clenor" }];
}

const AFTER = { ladder: "log?kind=ladder&baseline=1", weak: "trace", today: "today" } as const;

export const action = saving(async (reader, { context }: Route.ActionArgs) => {
  const start = await startByForm(context, reader);
  if ("errors" in start) return data(trouble(reader, start.errors), { status: 400 });
  return redirect(`/${start.slug}/${AFTER[start.next]}`);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

export default function Start({ loaderData, actionData }: Route.ComponentProps) {
  const typed: Readonly<Record<string, string>> = actionData?.typed ?? {};
  const [layout, setLayout] = useState(typed.layout ?? loaderData.layouts[0]?.id);
  const [ownTube, setOwnTube] = useState({ layout: typed.layout, value: typed.tube });
  const usual = loaderData.layouts.find((l) => l.id === layout)?.tube;
  const tube = (ownTube.layout === layout ? ownTube.value : undefined) ?? usual;
  const [noCounter, setNoCounter] = useState(typed.noCounter !== undefined);
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
        <p className="lead">
          <Worded>
            Two minutes. Then either it cuts well and one ladder becomes your baseline, or something is weak and we find the cause.
          </Worded>
        </p>
        {loaderData.copies > 0 ? (
          <Notice kind="caution">
            <b>No machine is in the data folder, though copies of a workshop lie in it.</b> <Link to="/copies">Go back to one of them</Link>
            , or set up a new machine below.
          </Notice>
        ) : null}
        <Form method="post" className="stack loose" noValidate>
          <RequestKey value={keyAfter(actionData, loaderData.key)} />
          <Fields state={actionData}>
            <FormProblem />
            <Block>
              <TextField name="name" label="What do you call it?" placeholder="Larkspur" autoFocus />
              <Choices
                name="layout"
                label="How does the beam run? You can change every part of it later."
                options={loaderData.layouts.map((l) => ({
                  value: l.id,
                  label: (
                    <span className="stack close layout-choice">
                      <b>{l.name}</b>
                      <small className="soft">{l.describe}</small>
                    </span>
                  ),
                }))}
                defaultValue={layout}
                onChange={setLayout}
              />
              <div className="fields">
                <SelectField
                  key={`tube-${layout}`}
                  name="tube"
                  label="Kind of tube"
                  options={loaderData.tubes}
                  defaultValue={tube}
                  onChange={(value) => setOwnTube({ layout, value })}
                />
                <NumberField
                  key={`life-${tube}`}
                  name="ratedTubeHours"
                  label="Rated life"
                  unit="h"
                  defaultValue={String(loaderData.tubes.find((t) => t.value === tube)?.ratedTubeHours ?? 3000)}
                  hint="usual value; see the tube's data sheet"
                />
              </div>
              <div className="fields">
                <NumberField
                  name="ratedPowerW"
                  label="Rated power of the tube"
                  unit="W"
                  key={layout}
                  defaultValue={String(loaderData.layouts.find((l) => l.id === layout)?.ratedPowerW ?? 80)}
                />
                <NumberField
                  name="tubeHours"
                  label={noCounter ? "Hours it has run, roughly" : "Hours on the counter"}
                  unit="h"
                  hint={noCounter ? "empty if nobody knows" : "0 if it is new"}
                />
              </div>
              <Tick name="noCounter" label="It has no hour counter: its hours come from the jobs I log" onChange={setNoCounter} />
            </Block>
            <Block>
              <h2 className="card-title">One material you cut often</h2>
              <div className="fields">
                <SelectField name="materialKind" label="What is it?" options={loaderData.kinds} defaultValue="birch-ply" />
                <NumberField name="thicknessMm" label="Thickness" unit="mm" defaultValue="3" />
              </div>
              <TextField name="materialName" label="Your own name for it, if any" />
              <div className="fields">
                <NumberField name="usualSpeedMmPerS" label="Speed that usually cuts it" unit="mm/s" hint="leave empty if unsure" />
                <NumberField name="usualSetPercent" label="at power" unit="%" />
              </div>
            </Block>
          </Fields>
          <div className="row">
            <Submit type="primary" size="large" name="next" value="ladder" disabled={busy}>
              It cuts well: cut a ladder now
            </Submit>
            <Submit size="large" name="next" value="weak" disabled={busy}>
              Something is weak
            </Submit>
          </div>
        </Form>
        <More label="I have a workshop's file, from another computer">
          <TakeIn slug="start" then="/" />
        </More>
      </main>
    </>
  );
}
