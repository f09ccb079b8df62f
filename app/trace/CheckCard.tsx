/** The next check as one large card: how to do it safely, what can be answered, and what each answer would mean. */
import { useState } from "react";
import { Form, Link } from "react-router";
import { Drawing } from "../ui/Drawing";
import { NumberField, RequestKey } from "../ui/fields";
import type { Route } from "./+types/case";

type Loaded = Route.ComponentProps["loaderData"];
type Card = Loaded["view"]["next"][number] | (NonNullable<Loaded["chosen"]> & { meanings?: undefined; gated?: undefined });

export function CheckCard({
  card,
  loaded,
  errors,
  typed,
  busy,
  first,
  answerKey,
}: {
  card: Card;
  loaded: Loaded;
  errors: Readonly<Record<string, string>>;
  typed: Readonly<Record<string, string>>;
  busy: boolean;
  first: boolean;
  answerKey: string;
}) {
  const [asNumber, setAsNumber] = useState(card.outcomes.length === 0 || errors.value !== undefined);
  return (
    <section className="card strong stack" aria-label="Next check">
      <p className="soft">
        {first ? "Next check" : "Your choice"}
        {card.minutes
          ? ` · ${card.minutes === "0" ? "no time at all" : `${card.minutes} ${card.minutes === "1" ? "minute" : "minutes"}`}`
          : ""}
        {first ? " · tells most for the time" : ""}
        {card.tools ? ` · fetch: ${card.tools}` : ""}
      </p>
      <h2 className="card-title" style={{ fontSize: 25 }}>
        {card.title}
      </h2>
      <div className="picture">
        {card.drawing ? <Drawing id={card.drawing} /> : null}
        <div className="stack">
          <p style={{ fontSize: 16.5 }}>{card.question}</p>
          {card.caution ? <p className="caution">{card.caution}</p> : null}
        </div>
      </div>
      {card.id === "ladder" ? (
        <p>
          <Link className="button dark" to={`/${loaded.slug}/log?kind=ladder`}>
            Cut it, then enter it in the log
          </Link>
        </p>
      ) : (
        <Form method="post" className="stack" key={loaded.keys.answer} noValidate>
          <RequestKey value={answerKey} />
          <input type="hidden" name="check" value={card.id} />
          <div className="answers">
            {card.outcomes.map((o) => (
              <button key={o.id} type="submit" name="outcome" value={o.id} className="button dark" disabled={busy}>
                {o.label}
              </button>
            ))}
            {card.value && !asNumber ? (
              <button type="button" className="button" onClick={() => setAsNumber(true)}>
                a number in {card.value.unit}…
              </button>
            ) : null}
            {first && loaded.view.next[1] ? (
              <Link className="button quiet" to={`/${loaded.slug}/trace/${loaded.id}?check=${encodeURIComponent(loaded.view.next[1].id)}`}>
                cannot do that now
              </Link>
            ) : null}
          </div>
          {card.value && asNumber ? (
            <div className="row" style={{ alignItems: "start" }}>
              <NumberField
                name="value"
                label={card.value.label}
                unit={card.value.unit}
                error={errors.value}
                defaultValue={typed.value}
                width={170}
              />
              {card.value.unit === "W" ? (
                <NumberField
                  name="setPercent"
                  label="at power"
                  unit="%"
                  error={errors.setPercent}
                  defaultValue={typed.setPercent ?? "100"}
                  width={130}
                />
              ) : null}
              <button type="submit" name="outcome" value="value" className="button dark" style={{ marginTop: 25 }} disabled={busy}>
                Enter
              </button>
            </div>
          ) : null}
        </Form>
      )}
      {card.meanings && card.meanings.length > 0 ? (
        <dl className="meaning small">
          {card.meanings.map((m) => (
            <div key={m.outcome} style={{ display: "contents" }}>
              <dt>{m.outcome}</dt>
              <dd>then {m.means}</dd>
            </div>
          ))}
        </dl>
      ) : null}
    </section>
  );
}
