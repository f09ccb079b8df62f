/** Trace: report what is weak in the trade's words; this opens a case. Past cases are listed with how they ended. */
import dayjs from "dayjs";
import { data, Form, Link, redirect, useNavigation } from "react-router";
import { signs } from "#catalog/signs";
import { openCase } from "#store/cases";
import { once, rowKey } from "#store/sent";
import { trouble } from "../server/forms";
import { saving, sentAs } from "../server/saving";
import { MachineRail } from "../shell/route";
import { Choices, FormProblem, RequestKey } from "../ui/fields";
import { keyAfter, sendKept } from "../ui/sending";
import { findMachine, gatherOnce } from "../workshop/gather";
import { tradeOf } from "../workshop/trade";
import { shortDay } from "../workshop/words";
import type { Route } from "./+types/route";
import { faultName } from "./words";

const SINCE = [
  { value: "0", label: "today" },
  { value: "1", label: "yesterday" },
  { value: "3", label: "a few days" },
  { value: "10", label: "a week or two" },
  { value: "30", label: "longer" },
] as const;

export async function loader({ params, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const checks = new Set(g.trade.model.checks.map((c) => c.id));
  return {
    slug: g.machine.slug,
    open: g.openCase && { id: g.openCase.id, title: g.openCase.title },
    signs: signs.filter((s) => s.findings.every((f) => checks.has(f.check))).map((s) => ({ value: s.id, label: s.name })),
    past: g.cases
      .filter((c) => c.closedMs !== undefined)
      .map((c) => ({
        id: c.id,
        number: c.number,
        title: c.title,
        day: shortDay(c.openedMs),
        was: c.closing?.faults.map((f) => faultName(g.trade, f)).join(", ") || "left open-ended",
      })),
    key: context.freshKey(),
  };
}

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const { machine } = await findMachine(context, params.machine);
  const sign = signs.find((s) => s.id === reader.text("sign"));
  const days = Number(reader.text("since") ?? 0);
  if (!sign) return data(trouble(reader, { sign: "Choose what you noticed." }), { status: 400 });
  if (!SINCE.some((s) => s.value === String(days))) return data(trouble(reader, { since: "Choose since when." }), { status: 400 });
  const known = new Set(tradeOf(machine).model.checks.map((c) => c.id));
  const nowMs = context.nowMs();
  const sent = sentAs(`trace ${machine.id}`, reader);
  const opened = {
    title: sign.title,
    sign: sign.id,
    symptom: sign.symptom,
    onsetMs: dayjs(nowMs).startOf("day").subtract(days, "day").valueOf(),
    requestKey: rowKey(sent),
    findings: sign.findings.filter((f) => known.has(f.check)),
  };
  const id = await once(context.store, sent, nowMs, (tx) => openCase(tx, machine.id, opened, nowMs));
  return redirect(`/${params.machine}/trace/${id}`);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

export default function Cases({ loaderData, actionData }: Route.ComponentProps) {
  const { slug } = loaderData;
  const errors: Readonly<Record<string, string>> = actionData?.errors ?? {};
  const busy = useNavigation().state !== "idle";
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        {loaderData.open ? (
          <div className="stack">
            <h1 className="verdict">“{loaderData.open.title}” is being traced.</h1>
            <p>
              <Link className="button primary tall" to={`/${slug}/trace/${loaderData.open.id}`}>
                Go on tracing
              </Link>
            </p>
          </div>
        ) : (
          <Form method="post" className="stack loose">
            <div>
              <h1 className="verdict">What did you notice?</h1>
              <p className="lead">Pick the nearest. The next questions make it exact, cheapest first.</p>
            </div>
            <FormProblem errors={errors} />
            <RequestKey value={keyAfter(actionData, loaderData.key)} />
            <Choices
              name="sign"
              label="Sign"
              hideLabel
              options={loaderData.signs}
              error={errors.sign}
              defaultValue={actionData?.typed.sign}
            />
            <Choices name="since" label="Since when?" options={SINCE} error={errors.since} defaultValue={actionData?.typed.since ?? "0"} />
            <button type="submit" className="button primary tall" style={{ width: "fit-content" }} disabled={busy}>
              Start tracing
            </button>
          </Form>
        )}
        {loaderData.past.length > 0 ? (
          <section>
            <h2 className="card-title">Cases closed here</h2>
            <table className="plain" style={{ marginTop: 8 }}>
              <thead>
                <tr>
                  <th scope="col">Case</th>
                  <th scope="col">Opened</th>
                  <th scope="col">Noticed</th>
                  <th scope="col">It was</th>
                </tr>
              </thead>
              <tbody>
                {loaderData.past.map((c) => (
                  <tr key={c.id}>
                    <td>
                      <Link to={`/${slug}/trace/${c.id}`}>Case {c.number}</Link>
                    </td>
                    <td className="nowrap">{c.day}</td>
                    <td>{c.title}</td>
                    <td>{c.was}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        ) : null}
      </main>
    </div>
  );
}
