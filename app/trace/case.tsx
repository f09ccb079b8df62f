/** An open case: what is most likely, the next check as one card, the reasons, and at the end the repair. Closed, it is a report. */
import { randomUUID } from "node:crypto";
import { useState } from "react";
import { data, Form, Link, redirect, useNavigation } from "react-router";
import { addFinding, closeCase, listFindings, restoreFinding, withdrawFinding } from "#store/cases";
import { FormReader, trouble } from "../server/forms";
import { MachineRail } from "../shell/route";
import { Drawing } from "../ui/Drawing";
import { NumberField, RequestKey, SelectField } from "../ui/fields";
import { gather, gatherOnce } from "../workshop/gather";
import { dayAndTime, sinceDay } from "../workshop/words";
import type { Route } from "./+types/case";
import { caseView } from "./view";
import { checkText, faultName } from "./words";

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const found = g.cases.find((c) => c.id === Number(params.caseId));
  if (!found) throw data("There is no such case on this machine.", { status: 404 });
  const view = caseView(g, found, await listFindings(context.store, found.id));
  const asked = new URL(request.url).searchParams.get("check");
  const chosen = asked && g.trade.model.checks.some((c) => c.id === asked) ? checkText(g.trade, asked) : undefined;
  return {
    slug: g.machine.slug,
    machine: g.machine.name,
    id: found.id,
    number: found.number,
    title: found.title,
    since: sinceDay(found.onsetMs, g.nowMs),
    opened: dayAndTime(found.openedMs),
    closed:
      found.closedMs === undefined
        ? undefined
        : {
            at: dayAndTime(found.closedMs),
            faults: (found.closing?.faults ?? []).map((f) => faultName(g.trade, f)),
            repair: found.closing?.repair ?? undefined,
            proof: found.closing?.proof ?? "",
          },
    openRound: g.openRound && { id: g.openRound.id, title: g.openRound.title },
    chosen: chosen && {
      ...chosen,
      minutes: String(view.next.find((n) => n.id === chosen.id)?.minutes ?? view.others.find((n) => n.id === chosen.id)?.minutes ?? ""),
    },
    view,
    keys: { answer: randomUUID(), repair: randomUUID(), straight: randomUUID() },
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const reader = new FormReader(await request.formData());
  const g = await gather(context, params.machine);
  const found = g.cases.find((c) => c.id === Number(params.caseId));
  if (!found) throw data("There is no such case on this machine.", { status: 404 });
  const here = `/${params.machine}/trace/${found.id}`;
  if (found.closedMs !== undefined) return redirect(here);
  const intent = reader.text("intent");
  if (intent === "undo") {
    await withdrawFinding(context.store, found.id, Number(reader.text("finding")), g.nowMs);
    return redirect(here);
  }
  if (intent === "redo") {
    await restoreFinding(context.store, found.id, Number(reader.text("finding")));
    return redirect(here);
  }
  if (intent === "close") {
    const why = reader.text("why");
    if (!why) return data(trouble(reader, { why: "Say in a few words how it ended." }), { status: 400 });
    await closeCase(context.store, g.machine.id, found.id, { repair: null, faults: [], proof: `closed by hand: ${why}` }, g.nowMs);
    return redirect(here);
  }
  const spec = g.trade.model.checks.find((c) => c.id === reader.text("check"));
  if (!spec) return data(trouble(reader, { "": "This check does not exist on this machine." }), { status: 400 });
  const outcome = reader.text("outcome");
  if (outcome !== undefined && outcome !== "value") {
    if (!spec.outcomes.includes(outcome))
      return data(trouble(reader, { "": "This answer does not belong to the check." }), { status: 400 });
    await addFinding(context.store, found.id, { check: spec.id, outcome }, reader.requestKey, g.nowMs);
    return redirect(here);
  }
  const text = checkText(g.trade, spec.id);
  const value = reader.number("value", text.value?.unit ?? "", text.value?.example ?? "1");
  const isPower = spec.measures?.kind === "power";
  const setPercent = isPower ? reader.optionalNumber("setPercent", "%", "100") : undefined;
  const [min, max] = isPower ? [0.1, 2000] : [spec.value?.min ?? 0, spec.value?.max ?? 1000];
  if (value !== undefined && (value < min || value > max))
    reader.errors.value = `Between ${min} and ${max} ${text.value?.unit ?? ""} is possible here.`;
  if (setPercent !== undefined && (setPercent <= 0 || setPercent > 100)) reader.errors.setPercent = "Between 1 and 100 %.";
  if (value === undefined || Object.keys(reader.errors).length > 0) return data(trouble(reader), { status: 400 });
  await addFinding(context.store, found.id, { check: spec.id, value, setPercent }, reader.requestKey, g.nowMs);
  return redirect(here);
}

type Loaded = Route.ComponentProps["loaderData"];
type Card = Loaded["view"]["next"][number] | (NonNullable<Loaded["chosen"]> & { meanings?: undefined; gated?: undefined });

function CheckCard({
  card,
  loaded,
  errors,
  typed,
  busy,
  first,
}: {
  card: Card;
  loaded: Loaded;
  errors: Readonly<Record<string, string>>;
  typed: Readonly<Record<string, string>>;
  busy: boolean;
  first: boolean;
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
          <RequestKey value={loaded.keys.answer} />
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

const BAR_DECIBANS = 14;

function Reasons({ loaded }: { loaded: Loaded }) {
  const { view } = loaded;
  return (
    <section aria-label="What it could be, and why">
      <h2 className="small-title" style={{ margin: 0 }}>
        What it could be, and why
      </h2>
      <p className="small soft" style={{ margin: "6px 0 10px" }}>
        Each bar: how far one answer speaks for (filled) or against (hollow), in decibans. Ten make it ten times likelier.
      </p>
      {view.faults.map((f) => (
        <div className="why" key={f.id}>
          <div className="between">
            <b style={{ fontSize: 17 }}>{f.name}</b>
            <b style={{ fontSize: 17 }} className="nowrap">
              {f.chance}
            </b>
          </div>
          {f.evidence.length === 0 ? <p className="small soft">{f.reason}</p> : null}
          {f.evidence.map((e) => {
            const width = `${Math.min(50, (50 * Math.abs(e.decibans)) / BAR_DECIBANS)}%`;
            return (
              <div className="why-line" key={e.check}>
                <span>{e.words}</span>
                <span className="why-bar" aria-hidden="true">
                  <i className={e.decibans > 0 ? "for" : "against"} style={{ width }} />
                </span>
                <span className="right">
                  <span className="sr">{e.decibans > 0 ? "for, " : "against, "}</span>
                  {e.shown}
                </span>
              </div>
            );
          })}
        </div>
      ))}
      <div className="why soft">
        None of these {view.none}
        {view.nothingWrong ? <>; nothing wrong {view.nothingWrong}</> : null}
      </div>
      {view.losses.length > 0 ? (
        <details>
          <summary className="small">Light lost per station, against the baseline</summary>
          <table className="plain small">
            <tbody>
              {view.losses.map((l) => (
                <tr key={l.id}>
                  <th scope="row">{l.name}</th>
                  <td>about {l.mid} %</td>
                  <td>
                    somewhere in {l.low} to {l.high}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      ) : null}
    </section>
  );
}

function RepairStart({
  loaded,
  parts,
  title,
  label,
  requestKey,
  primary,
}: {
  loaded: Loaded;
  parts: readonly string[];
  title: string;
  label: string;
  requestKey: string;
  primary?: boolean;
}) {
  return (
    <form method="post" action={`/${loaded.slug}/round`}>
      <RequestKey value={requestKey} />
      <input type="hidden" name="title" value={title} />
      <input type="hidden" name="caseId" value={loaded.id} />
      {parts.map((p) => (
        <input key={p} type="hidden" name="part" value={p} />
      ))}
      <button type="submit" className={primary ? "button primary tall" : "button"}>
        {label}
      </button>
    </form>
  );
}

export default function Case({ loaderData: loaded, actionData }: Route.ComponentProps) {
  const { view } = loaded;
  const busy = useNavigation().state !== "idle";
  const errors: Readonly<Record<string, string>> = actionData?.errors ?? {};
  const typed: Readonly<Record<string, string>> = actionData?.typed ?? {};
  const card = loaded.chosen ?? view.next[0];
  return (
    <div className="place">
      <MachineRail suspicion={view.suspicion} />
      <main className="page columns wide-side">
        <div className="stack" style={{ gap: 16 }}>
          <div>
            <div className="soft row" style={{ gap: 6 }}>
              Case {loaded.number}, {loaded.machine} · {loaded.title.toLowerCase()}, since {loaded.since} · {view.answered}{" "}
              {view.answered === 1 ? "answer" : "answers"}
              {view.lastAnswerId !== undefined && !loaded.closed ? (
                <Form method="post" style={{ display: "inline" }}>
                  <input type="hidden" name="intent" value="undo" />
                  <input type="hidden" name="finding" value={view.lastAnswerId} />
                  <button type="submit" className="button quiet" style={{ minHeight: 32, padding: "0 6px" }} disabled={busy}>
                    undo last
                  </button>
                </Form>
              ) : null}
            </div>
            {loaded.closed ? (
              <>
                <h1 className="verdict">
                  It was:{" "}
                  {loaded.closed.faults.length > 0
                    ? loaded.closed.faults
                        .join(" and ")
                        .toLowerCase()
                        .replace(/\bm(\d)/g, "M$1")
                    : "closed by hand"}
                  .
                </h1>
                <p className="lead">
                  Closed {loaded.closed.at}. {loaded.closed.repair ? `Repair: ${loaded.closed.repair}. ` : ""}Proof: {loaded.closed.proof}.
                </p>
              </>
            ) : (
              <>
                <h1 className="verdict">{view.headline}</h1>
                <p className="lead">{view.lead}</p>
              </>
            )}
          </div>
          {view.suspect.length > 0 ? (
            <div className="form-error" role="status">
              <b>Doubtful readings</b>
              <ul className="small" style={{ margin: "4px 0 0", paddingLeft: 18, fontWeight: 400 }}>
                {view.suspect.map((s) => (
                  <li key={s.text}>{s.text}</li>
                ))}
              </ul>
            </div>
          ) : null}
          {errors[""] ? (
            <p className="form-error" role="alert">
              {errors[""]}
            </p>
          ) : null}
          {!loaded.closed && loaded.openRound ? (
            <section className="card strong stack">
              <h2 className="card-title">The round “{loaded.openRound.title}” is open.</h2>
              <p>Finish it first; its proof comes back here.</p>
              <p>
                <Link className="button primary" to={`/${loaded.slug}/round/${loaded.openRound.id}`}>
                  Go on with it
                </Link>
              </p>
            </section>
          ) : null}
          {!loaded.closed && view.repair && !loaded.openRound ? (
            <section className="card strong stack" aria-label="Repair">
              <p className="soft">Time to repair · {view.repair.minutes} minutes with its proof</p>
              <h2 className="card-title" style={{ fontSize: 25 }}>
                {view.repair.name}
              </h2>
              <p>{view.repair.because}</p>
              <RepairStart
                loaded={loaded}
                parts={view.repair.parts}
                title={view.repair.name}
                label="Start the repair round"
                requestKey={loaded.keys.repair}
                primary
              />
            </section>
          ) : null}
          {!loaded.closed && card ? (
            <CheckCard
              key={card.id}
              card={card}
              loaded={loaded}
              errors={errors}
              typed={typed}
              busy={busy}
              first={loaded.chosen === undefined && view.repair === undefined}
            />
          ) : null}
          {!loaded.closed ? (
            <div className="two">
              {view.next
                .filter((n) => n.id !== card?.id)
                .slice(0, 2)
                .map((n) => (
                  <Link
                    key={n.id}
                    className="card"
                    style={{ textDecoration: "none" }}
                    to={`/${loaded.slug}/trace/${loaded.id}?check=${encodeURIComponent(n.id)}`}
                    preventScrollReset
                  >
                    <b>{n.title}</b>
                    <br />
                    <span className="soft">
                      {n.minutes === "0" ? "no time" : `${n.minutes} min`} · {n.perMinute.toFixed(2)} bit a minute
                    </span>
                  </Link>
                ))}
            </div>
          ) : null}
          {!loaded.closed ? (
            <details>
              <summary>Another check, another repair, or close</summary>
              <div className="stack" style={{ marginTop: 10 }}>
                <Form method="get" className="row" style={{ alignItems: "end" }}>
                  <div style={{ minWidth: 300 }}>
                    <SelectField
                      name="check"
                      label="I can tell something else"
                      options={[...view.next, ...view.others].map((o) => ({ value: o.id, label: `${o.title} (${o.minutes} min)` }))}
                    />
                  </div>
                  <button className="button" type="submit">
                    Ask me that
                  </button>
                </Form>
                {view.straight && !loaded.openRound && view.straight.id !== view.repair?.id ? <RepairDirect loaded={loaded} /> : null}
                <Form method="post" className="row" style={{ alignItems: "end" }}>
                  <input type="hidden" name="intent" value="close" />
                  <label className="field grow">
                    <span className="label">Close the case without a proof, because</span>
                    <input
                      name="why"
                      maxLength={200}
                      style={{ minHeight: 44, font: "inherit", padding: "4px 12px", border: "1px solid var(--line)", borderRadius: 4 }}
                    />
                  </label>
                  <button className="button" type="submit">
                    Close it
                  </button>
                </Form>
                {errors.why ? <p className="hot">{errors.why}</p> : null}
              </div>
            </details>
          ) : null}
          <section>
            <h2 className="small-title">Answers so far</h2>
            <ul className="lines small">
              {view.history.map((h) => (
                <li key={h.key} className="between">
                  <span className="grow">{h.words}</span>
                  <span className="soft">{h.day}</span>
                  {h.findingId !== undefined && !loaded.closed ? (
                    <Form method="post">
                      <input type="hidden" name="intent" value="undo" />
                      <input type="hidden" name="finding" value={h.findingId} />
                      <button
                        type="submit"
                        className="button quiet"
                        style={{ minHeight: 32, padding: "0 6px" }}
                        aria-label={`Take back: ${h.words}`}
                      >
                        take back
                      </button>
                    </Form>
                  ) : (
                    <span className="soft">{h.findingId === undefined ? "from the log" : ""}</span>
                  )}
                </li>
              ))}
              {view.withdrawn.map((w) => (
                <li key={w.id} className="between">
                  <span className="struck grow">{w.words}</span>
                  {loaded.closed ? null : (
                    <Form method="post">
                      <input type="hidden" name="intent" value="redo" />
                      <input type="hidden" name="finding" value={w.id} />
                      <button type="submit" className="button quiet" style={{ minHeight: 32, padding: "0 6px" }}>
                        bring back
                      </button>
                    </Form>
                  )}
                </li>
              ))}
            </ul>
          </section>
        </div>
        <Reasons loaded={loaded} />
      </main>
    </div>
  );
}

function RepairDirect({ loaded }: { loaded: Loaded }) {
  const straight = loaded.view.straight;
  if (!straight) return null;
  return (
    <div className="row">
      <RepairStart
        loaded={loaded}
        parts={loaded.view.straightParts}
        title={straight.name}
        label={`Repair anyway: ${straight.name} (${straight.chance})`}
        requestKey={loaded.keys.straight}
      />
    </div>
  );
}
