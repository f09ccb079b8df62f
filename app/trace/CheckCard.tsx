/** The next check as one large card: how to do it safely, what can be answered, and what each answer would mean. */
import { Button, Descriptions } from "antd";
import { useState } from "react";
import { Form, useNavigation } from "react-router";
import { unitHere } from "#services/units";
import { Block } from "../ui/Block";
import { counted } from "../ui/counted";
import { Drawing } from "../ui/Drawing";
import { NumberField } from "../ui/form/NumberField";
import { RequestKey, Submit } from "../ui/form/Posted";
import { Fields, type FormState } from "../ui/form/state";
import { LinkButton } from "../ui/LinkButton";
import { Notice } from "../ui/Notice";
import type { Route } from "./+types/case";

type Loaded = Route.ComponentProps["loaderData"];
type Card =
  | Loaded["view"]["next"][number]
  | (NonNullable<Loaded["chosen"]> & { meanings?: undefined; gated?: undefined; anyway?: undefined });

interface Props {
  readonly card: Card;
  readonly loaded: Loaded;
  readonly failed: Partial<FormState> | undefined;
  /** The best next check, rather than one the owner asked for. */
  readonly first: boolean;
  /** Where it is what to do now it is the page's heading. */
  readonly heading: 1 | 2;
  readonly answerKey: string;
}

/** Checks that are cut from a test file, and its form; its result, told on the drawing, comes back into the case. */
const FILES: Readonly<Record<string, string>> = {
  ladder: "ladder",
  "bed-map": "bed-map",
  "focus-ramp": "ramp",
  "raster-edge": "block",
  engraving: "block",
  tape: "rings",
};

export function CheckCard(props: Props) {
  const { card, loaded, first, heading } = props;
  return (
    <Block strong label="Next check">
      <p className="soft">
        {first ? "Next check" : card.id === loaded.chosen?.id ? "Your choice" : "Or go on asking"}
        {card.minutes ? ` · ${minutesWords(card.minutes)}` : ""}
        {first ? (loaded.view.isProofDue ? " · the test that failed" : card.anyway ? "" : " · saves the most time") : ""}
        {card.tools ? ` · fetch: ${card.tools}` : ""}
      </p>
      <Title level={heading}>{card.title}</Title>
      <div className="picture">
        {card.drawing ? <Drawing id={card.drawing} /> : null}
        <div className="stack">
          <p className="card-lead">{card.question}</p>
          {card.caution ? <Notice kind="caution">{card.caution}</Notice> : null}
        </div>
      </div>
      {FILES[card.id.replace(/@.*/, "")] ? (
        <LinkButton to={`/${loaded.slug}/coupons?form=${FILES[card.id.replace(/@.*/, "")]}`}>Make the file</LinkButton>
      ) : null}
      {card.id === "ladder" ? (
        <LinkButton color="default" variant="solid" to={`/${loaded.slug}/log?kind=ladder`}>
          Cut it, then enter it in the log
        </LinkButton>
      ) : (
        <Answers {...props} />
      )}
      {card.anyway ? (
        <p>
          <b>Whatever the answer, the same follows:</b> {card.anyway}. You can start that round now, below.
        </p>
      ) : null}
      {card.meanings && card.meanings.length > 0 ? (
        <Descriptions
          column={1}
          size="small"
          colon={false}
          items={card.meanings.map((m) => ({ key: m.outcome, label: m.outcome, children: `next: ${m.means}` }))}
        />
      ) : null}
    </Block>
  );
}

/** The title of a card: that of the page where it is what to do now. */
export function Title({ level, children }: { level: 1 | 2; children: string }) {
  return level === 1 ? <h1 className="verdict">{children}</h1> : <h2 className="card-title larger">{children}</h2>;
}

/** What one says instead of an answer: who has no meter has none tomorrow; who does not remember may next time. */
function declineWords({ id, minutes, isWatts }: Card): string {
  if (isWatts) return "I have no meter";
  if (id === "focus-gauge") return "I have no gauge";
  return minutes === "0" ? "I do not know" : "cannot do that now";
}

function minutesWords(minutes: string): string {
  if (minutes === "0") return "no time at all";
  return counted(minutes, "minute");
}

/** What can be answered: one of a few, or a number. */
function Answers({ card, loaded, failed, answerKey }: Props) {
  const busy = useNavigation().state !== "idle";
  const [asNumber, setAsNumber] = useState(card.outcomes.length === 0 || failed?.errors?.value !== undefined);
  return (
    <Form method="post" className="stack" key={loaded.keys.answer} noValidate>
      <RequestKey value={answerKey} />
      <input type="hidden" name="check" value={card.id} />
      <div className="row">
        {card.outcomes.map((o) => (
          <Submit key={o.id} color="default" variant="solid" name="outcome" value={o.id} disabled={busy}>
            {o.label}
          </Submit>
        ))}
        {card.value && !asNumber ? <Button onClick={() => setAsNumber(true)}>a number in {unitHere(card.value.unit)}…</Button> : null}
        <Submit type="link" name="intent" value="decline" disabled={busy}>
          {declineWords(card)}
        </Submit>
      </div>
      {card.value && asNumber ? (
        <Fields state={failed}>
          <div className="row top">
            <NumberField name="value" label={card.value.label} unit={card.value.unit} />
            {card.value.unit === "W" ? <NumberField name="setPercent" label="at power" unit="%" defaultValue="100" /> : null}
            <Submit color="default" variant="solid" name="outcome" value="value" className="beside-field" disabled={busy}>
              Enter
            </Submit>
          </div>
        </Fields>
      ) : null}
    </Form>
  );
}
