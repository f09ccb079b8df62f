/** An open case: what is most likely, the next check as one card, the reasons, and at the end the repair. Closed, it is a report. */
import { data, Form, Link, redirect, useNavigation } from "react-router";
import { addFinding, closeCase, listFindings, restoreFinding, withdrawFinding } from "#store/cases";
import { once, rowKey } from "#store/sent";
import { trouble } from "../server/forms";
import { recordId, saving, sentAs } from "../server/saving";
import { MachineRail } from "../shell/route";
import { FormProblem, SelectField } from "../ui/fields";
import { keyAfter, sendKept } from "../ui/sending";
import { gather, gatherOnce } from "../workshop/gather";
import { dayAndTime, sinceDay } from "../workshop/words";
import type { Route } from "./+types/case";
import { CheckCard } from "./CheckCard";
import { Reasons } from "./Reasons";
import { RepairDirect, RepairStart } from "./RepairStart";
import { caseView } from "./view";
import { checkText, faultName } from "./words";

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const found = g.cases.find((c) => c.id === recordId(params.caseId));
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
    keys: { answer: context.freshKey(), repair: context.freshKey(), straight: context.freshKey() },
  };
}

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const g = await gather(context, params.machine);
  const found = g.cases.find((c) => c.id === recordId(params.caseId));
  if (!found) throw data("There is no such case on this machine.", { status: 404 });
  const here = `/${params.machine}/trace/${found.id}`;
  if (found.closedMs !== undefined) return redirect(here);
  const intent = reader.text("intent");
  if (intent === "undo") {
    await withdrawFinding(context.store, found.id, recordId(reader.text("finding")) ?? 0, g.nowMs);
    return redirect(here);
  }
  if (intent === "redo") {
    await restoreFinding(context.store, found.id, recordId(reader.text("finding")) ?? 0);
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
  const sent = sentAs(`case ${found.id}`, reader);
  const keep = (finding: Parameters<typeof addFinding>[2]) =>
    once(context.store, sent, g.nowMs, (tx) => addFinding(tx, found.id, finding, rowKey(sent), g.nowMs));
  const outcome = reader.text("outcome");
  if (outcome !== undefined && outcome !== "value") {
    if (!spec.outcomes.includes(outcome))
      return data(trouble(reader, { "": "This answer does not belong to the check." }), { status: 400 });
    await keep({ check: spec.id, outcome });
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
  await keep({ check: spec.id, value, setPercent });
  return redirect(here);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

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
          <FormProblem errors={errors} />
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
              answerKey={keyAfter(actionData, loaded.keys.answer)}
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
