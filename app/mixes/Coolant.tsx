/** Coolant: is it safe for the coldest night, what to measure out, what it carries, and when the tube sweats. */
import { Form } from "react-router";
import { Block } from "../ui/Block";
import { Choices } from "../ui/form/Choices";
import { NumberField } from "../ui/form/NumberField";
import { RequestKey, Submit } from "../ui/form/Posted";
import { Fields, type FormState } from "../ui/form/state";
import { More } from "../ui/More";
import { Notice } from "../ui/Notice";
import { unbroken } from "../ui/unbroken";
import type { Route } from "./+types/route";
import { Lines, SumForm } from "./SumForm";

type Loaded = Route.ComponentProps["loaderData"];

type View = NonNullable<Loaded["coolant"]>;

const typed = (v: number | undefined) => (v === undefined ? "" : String(v));

export function Coolant({ view, state, requestKey, times }: { view: View; state: FormState; requestKey: string; times: number }) {
  if (!view.isWet)
    return (
      <div>
        <h1 className="verdict">This tube is cooled by air.</h1>
        <p className="lead">It has no coolant. Keep its fins clean: a warm tube is weaker and ages faster.</p>
      </div>
    );
  return (
    <>
      <div>
        <h1 className="verdict">{unbroken(view.headline)}</h1>
        <p className="lead">{unbroken(view.lead)}</p>
        {view.steps.length > 0 ? (
          <More label="Show how it follows">
            <Lines lines={view.steps} />
          </More>
        ) : null}
      </div>
      <div className="columns wide-side">
        <div className="stack loose">
          <Block strong label="What to measure out">
            <h2 className="card-title larger">What to measure out</h2>
            {view.todo.length > 0 ? <Lines lines={view.todo} /> : <p className="soft">Say how cold the coldest night gets here.</p>}
            {view.changeDue ? <p className="soft">The next change is {view.changeDue}.</p> : null}
            <Notice kind="caution">
              Mains off at the wall and dry hands before a hose comes off. Propylene glycol only, never ethylene glycol. Used coolant goes
              by local rules.
            </Notice>
            <SumForm
              state={state}
              save="Save loop and night"
              figures={[
                { name: "loopL", label: "The loop holds", unit: "L", value: view.loopL, hint: "measured by what goes in at a fill" },
                { name: "nightC", label: "Coldest night in the room", unit: "°C", value: view.nightC },
              ]}
            />
          </Block>
          <Block label="Heat and flow">
            <h2 className="card-title">Heat and flow</h2>
            {view.flowProblem ? <Notice kind="problem">{view.flowProblem}</Notice> : null}
            <Lines
              lines={[
                ...(view.temperature ? [{ term: "Coolant", text: `${view.temperature.text}. ${view.temperature.state}` }] : []),
                ...view.heat,
                ...(view.dew ? [{ term: "Dew point", text: `${view.dew.text} ${view.dew.state}` }] : []),
              ]}
            />
            <Form method="get" className="stack" preventScrollReset noValidate>
              <input type="hidden" name="tab" value="coolant" />
              <Fields state={{ errors: view.errors, typed: {} }}>
                <div className="fields">
                  <NumberField name="flowLpm" label="Flow" unit="L/min" defaultValue={typed(view.typed.flowLpm)} />
                  <NumberField name="riseK" label="Return less supply" unit="K" defaultValue={typed(view.typed.riseK)} />
                  <NumberField name="roomC" label="The room" unit="°C" defaultValue={typed(view.typed.roomC)} />
                  <NumberField name="humidity" label="Its humidity" unit="%" defaultValue={typed(view.typed.humidity)} />
                </div>
              </Fields>
              <div>
                <Submit>Work it out</Submit>
              </div>
            </Form>
          </Block>
        </div>
        <Block label="Write down">
          <h2 className="card-title">Filled, tested or topped up</h2>
          <Form key={times} method="post" className="stack" preventScrollReset noValidate>
            <RequestKey value={requestKey} />
            <input type="hidden" name="kind" value="coolant" />
            <Fields state={state}>
              <div className="fields">
                <NumberField name="filledL" label="Filled anew" unit="L" />
                <NumberField name="glycolPercent" label="Glycol in it" unit="%" hint="as filled, or by a tester" />
                <NumberField name="freezingC" label="or it freezes at" unit="°C" hint="by a tester" />
                <NumberField name="toppedUpL" label="Topped up with water" unit="L" />
              </div>
              <Choices
                name="lost"
                label="What was gone had"
                options={[
                  { value: "evaporated", label: "evaporated" },
                  { value: "leaked", label: "leaked" },
                ]}
              />
              <div className="fields">
                <NumberField name="temperatureC" label="Temperature" unit="°C" />
                <NumberField name="flowLpm" label="Flow" unit="L/min" />
              </div>
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
