/** Airflow: what the duct carries against clean and against the need, drawn, and what each service gained. */

import { Suspense } from "react";
import { Form } from "react-router";
import { AirChoices } from "../ui/AirChoices";
import { Block } from "../ui/Block";
import { fetched } from "../ui/fetched";
import { Tick } from "../ui/form/Choices";
import { NumberField } from "../ui/form/NumberField";
import { RequestKey, Submit } from "../ui/form/Posted";
import { Fields, type FormState } from "../ui/form/state";
import { unbroken } from "../ui/unbroken";
import { useSeen } from "../ui/useSeen";
import type { Route } from "./+types/route";
import { Lines, SumForm } from "./SumForm";

type Loaded = Route.ComponentProps["loaderData"];

type View = NonNullable<Loaded["air"]>;
const AirChart = fetched(() => import("./AirChart").then((m) => m.AirChart));

export function Airflow({ view, state, requestKey, times }: { view: View; state: FormState; requestKey: string; times: number }) {
  const [place, seen] = useSeen<HTMLDivElement>();
  return (
    <>
      <div>
        <h1 className="verdict">
          {unbroken(view.headline)}
          {view.next ? (
            <>
              <br />
              {unbroken(view.next)}
            </>
          ) : null}
        </h1>
        <p className="lead">{unbroken(view.lead)}</p>
      </div>
      <div className="columns wide-side">
        <div className="stack loose">
          {view.lines.length > 0 ? <Lines lines={view.lines} /> : null}
          {view.series.length > 1 ? (
            <div ref={place} className="curve">
              {seen ? (
                <Suspense>
                  <AirChart view={view} />
                </Suspense>
              ) : null}
            </div>
          ) : null}
          <section>
            <h2 className="small-title">What each service gained</h2>
            {view.gains.length > 0 ? (
              <Lines lines={view.gains} />
            ) : (
              <p className="soft">Write down a reading before and one after work on fan, duct or filter: then this says what it gained.</p>
            )}
          </section>
          <Block label="Duct and cabinet">
            <h2 className="card-title">Duct and cabinet</h2>
            <SumForm
              state={state}
              save="Save duct and cabinet"
              figures={[
                { name: "ductMm", label: "Duct, inside", unit: "mm", value: view.typed.ductMm },
                { name: "openCm2", label: "Open area of the cabinet", unit: "cm²", value: view.typed.openCm2, hint: "gaps and inlets" },
                { name: "cabinetL", label: "The cabinet holds", unit: "L", value: view.typed.cabinetL },
                { name: "makerM3h", label: "Its maker asks for", unit: "m³/h", value: view.typed.makerM3h },
              ]}
            />
          </Block>
        </div>
        <Block strong label="A reading">
          <h2 className="card-title larger">A reading</h2>
          <p className="soft">Fan on, lid shut. Keep hair and sleeves away from an open fan.</p>
          <Form key={times} method="post" className="stack" preventScrollReset noValidate>
            <RequestKey value={requestKey} />
            <input type="hidden" name="kind" value="airflow" />
            <Fields state={state}>
              <div className="fields">
                <NumberField name="ductSpeedMps" label="Air speed" unit="m/s" />
                <NumberField name="pressurePa" label="Suction at the fan" unit="Pa" hint="if you have a gauge" />
              </div>
              <AirChoices />
              <Tick name="baseline" label="Clean all the way: later readings are set against it" />
            </Fields>
            <div>
              <Submit type="primary">Save in the log</Submit>
            </div>
          </Form>
        </Block>
      </div>
    </>
  );
}
