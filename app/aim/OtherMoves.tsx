/** What can be done besides the next step: take back, go back to the best state, note another turn, leave. */
import { Form, useNavigation } from "react-router";
import type { OpenAim } from "#services/aim/aimView";
import { ChoiceButtons, Tick } from "../ui/form/Choices";
import { RequestKey, Submit } from "../ui/form/Posted";
import { SelectField } from "../ui/form/SelectField";
import { Fields, type FormState } from "../ui/form/state";
import { TextField } from "../ui/form/TextField";
import { More } from "../ui/More";

const AMOUNTS = [
  ["0.0625", "1/16"],
  ["0.125", "1/8"],
  ["0.1875", "3/16"],
  ["0.25", "1/4"],
  ["0.375", "3/8"],
  ["0.5", "1/2"],
  ["0.75", "3/4"],
  ["1", "1"],
].map(([value, turn]) => ({ value: value as string, label: `${turn} turn` }));

export function OtherMoves({ open, failed, requestKey }: { open: OpenAim; failed: Partial<FormState> | undefined; requestKey: string }) {
  const busy = useNavigation().state !== "idle";
  const { step } = open;
  return (
    <div className="stack">
      <div className="row">
        {open.entries > 0 ? (
          <Form method="post">
            <input type="hidden" name="intent" value="undo" />
            <input type="hidden" name="entry" value={open.lastEntryId} />
            <Submit disabled={busy}>Take the last entry back</Submit>
          </Form>
        ) : null}
      </div>
      {open.back.length > 0 ? (
        <More label="Back to the last good state">
          <Form method="post" className="stack">
            <RequestKey value={`${requestKey}-b`} />
            <input type="hidden" name="intent" value="back" />
            <ul className="lines">
              {open.back.map((t) => (
                <li key={t.words}>{t.words}</li>
              ))}
            </ul>
            <div>
              <Submit disabled={busy}>Turned back</Submit>
            </div>
          </Form>
        </More>
      ) : null}
      {step.kind === "turn" ? (
        <More label="I turned something else" open={failed?.errors?.amount !== undefined}>
          <Form method="post" className="stack">
            <RequestKey value={`${requestKey}-t`} />
            <input type="hidden" name="intent" value="turn" />
            <input type="hidden" name="element" value={step.element} />
            <Fields state={failed}>
              <ChoiceButtons
                name="screw"
                label={`Screw of ${step.name}`}
                options={step.screws.map((s) => ({ value: s, label: `${step.name}, screw ${s}` }))}
                defaultValue={step.screw}
              />
              <div className="row top">
                <div className="wide-field">
                  <SelectField name="amount" label="How far" options={AMOUNTS} defaultValue="0.125" />
                </div>
              </div>
              <ChoiceButtons
                name="sense"
                label="Which way, facing the screw"
                options={[
                  { value: "clockwise", label: "clockwise" },
                  { value: "anticlockwise", label: "anticlockwise" },
                ]}
                defaultValue={step.turns < 0 ? "anticlockwise" : "clockwise"}
              />
            </Fields>
            <div>
              <Submit disabled={busy}>Note this turn</Submit>
            </div>
          </Form>
        </More>
      ) : null}
    </div>
  );
}

/** `isEnd`: there is nothing else to do. */
export function Leave({ failed, isEnd }: { failed: Partial<FormState> | undefined; isEnd: boolean }) {
  const busy = useNavigation().state !== "idle";
  return (
    <More label="Leave aiming" open={isEnd || failed?.typed?.intent === "leave"}>
      <Form method="post" className="stack">
        <input type="hidden" name="intent" value="leave" />
        <Fields state={failed}>
          <TextField name="why" label="Left because" maxLength={200} />
          <Tick name="power-back" label="The power limit is back where it was" />
        </Fields>
        <p className="soft">What the screws taught stays known.</p>
        <div>
          <Submit disabled={busy}>Leave</Submit>
        </div>
      </Form>
    </More>
  );
}
