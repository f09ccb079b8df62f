/** On which days there is time for rounds, when the workshop is closed, and what the plan reckons with. */
import { Input } from "antd";
import { Form } from "react-router";
import { Block } from "../ui/Block";
import { Tick } from "../ui/form/Choices";
import { Field } from "../ui/form/Field";
import { NumberField } from "../ui/form/NumberField";
import { Submit } from "../ui/form/Posted";
import { Fields, type FormState } from "../ui/form/state";
import type { Route } from "./+types/route";

type Loaded = Route.ComponentProps["loaderData"];

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"] as const;

export function Days({ days, state }: { days: Loaded["days"]; state: FormState }) {
  return (
    <Form method="post" className="stack loose" preventScrollReset noValidate>
      <input type="hidden" name="intent" value="days" />
      <Fields state={state}>
        <Block label="Minutes a day">
          <h2 className="card-title">Minutes for a round</h2>
          <p className="soft">Empty: any length. 0: no round on that day. A round you move yourself may be longer.</p>
          <div className="fields plan-days">
            {WEEKDAYS.map((w, i) => (
              <NumberField key={w} name={`minutes${i}`} label={w} unit="min" defaultValue={days.minutes[i]} />
            ))}
          </div>
        </Block>
        <Block label="Closed days">
          <h2 className="card-title">Closed</h2>
          <Field name="closed" label="Days without rounds and without work" hint="A line each: 2026-12-24 to 2027-01-01, or one day.">
            {({ id, typed, aria }) => (
              <Input.TextArea id={id} name="closed" autoSize={{ minRows: 2, maxRows: 8 }} defaultValue={typed ?? days.closed} {...aria} />
            )}
          </Field>
        </Block>
        <Block label="What the plan reckons with">
          <h2 className="card-title">What it reckons with</h2>
          <div className="fields">
            <NumberField
              name="target"
              label="Found bad, at most"
              unit="%"
              hint="of inspections: what a learned interval aims at; 10 unless you say otherwise"
              defaultValue={days.target}
            />
            <NumberField name="hourValue" label="An hour is worth" unit={days.currency || "money"} defaultValue={days.hourValue} />
            <NumberField name="visitCost" label="A visit costs" unit={days.currency || "money"} defaultValue={days.visitCost} />
            <NumberField
              name="serviceHour"
              label="Rounds begin at"
              unit="o'clock"
              hint="in your calendar; empty for a whole day"
              defaultValue={days.serviceHour}
            />
          </div>
        </Block>
        {days.hasOthers ? <Tick name="all" label="For all machines of the workshop" defaultChecked /> : null}
        <div>
          <Submit type="primary">Save</Submit>
        </div>
      </Fields>
    </Form>
  );
}
