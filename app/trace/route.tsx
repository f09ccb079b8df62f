/** Trace: report what is weak in the trade's words; this opens a case. Past cases are listed with how they ended. */

import { Table } from "antd";
import { data, Form, Link, redirect, useNavigation } from "react-router";
import { casesView } from "#services/cases/casesView";
import { openByForm } from "#services/cases/open";
import { trouble } from "#services/forms/fields";
import { gatherOnce } from "#services/machine/gather";
import { reading } from "../server/reading";
import { saving } from "../server/saving";
import { Choices, Several } from "../ui/form/Choices";
import { FormProblem, RequestKey, Submit } from "../ui/form/Posted";
import { Fields } from "../ui/form/state";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { keyAfter, sendKept } from "../ui/sending";
import type { Route } from "./+types/route";

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => ({
  ...(await casesView(context, await gatherOnce(context, params.machine))),
  key: context.freshKey(),
}));

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const opened = await openByForm(context, params.machine, reader);
  if ("errors" in opened) return data(trouble(reader, opened.errors), { status: 400 });
  return redirect(`/${params.machine}/trace/${opened.caseId}`);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

export default function Cases({ loaderData, actionData }: Route.ComponentProps) {
  const { slug } = loaderData;
  const busy = useNavigation().state !== "idle";
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        {loaderData.open.length > 0 ? (
          <div className="stack">
            <h1 className="verdict">{openWords(loaderData.open)}</h1>
            {loaderData.open.map((c, i) => (
              <div key={c.id} className="row">
                <LinkButton type={i === 0 ? "primary" : "default"} size="large" to={`/${slug}/trace/${c.id}`}>
                  {loaderData.open.length === 1 ? "Go on with the case" : `Go on with case ${c.number}`}
                </LinkButton>
                <span>
                  {c.title} <span className="soft">since {c.since}</span>
                </span>
              </div>
            ))}
          </div>
        ) : null}
        <Form method="post" className="stack loose">
          <div>
            {loaderData.open.length === 0 ? (
              <h1 className="verdict">What did you notice?</h1>
            ) : (
              <h2 className="card-title">Something else as well?</h2>
            )}
            <p className="lead">
              Tick all that belong together; what has nothing to do with it is a case of its own. The next questions make it exact, cheapest
              first.
            </p>
          </div>
          <RequestKey value={keyAfter(actionData, loaderData.key)} />
          <Fields state={actionData}>
            <FormProblem />
            <Several name="sign" label="Signs" hideLabel options={loaderData.signs} />
            <Choices name="since" label="Since when?" options={loaderData.since} defaultValue="0" />
          </Fields>
          <Submit type={loaderData.open.length === 0 ? "primary" : "default"} size="large" disabled={busy}>
            Start tracing
          </Submit>
        </Form>
        {loaderData.past.length > 0 ? (
          <section className="stack">
            <h2 className="card-title">Cases closed here</h2>
            <Table
              size="small"
              pagination={false}
              rowKey="id"
              dataSource={[...loaderData.past]}
              columns={[
                { title: "Case", render: (_, c) => <Link to={`/${slug}/trace/${c.id}`}>Case {c.number}</Link>, width: 90 },
                { title: "Opened", dataIndex: "day", width: 120 },
                { title: "Noticed", dataIndex: "title" },
                { title: "It was", dataIndex: "was" },
                { title: "It took", dataIndex: "cost", width: 120 },
                { title: "Seen before", dataIndex: "before" },
              ]}
            />
          </section>
        ) : null}
      </main>
    </div>
  );
}

function openWords(open: readonly { readonly title: string }[]): string {
  const [first] = open;
  return open.length === 1 && first ? `“${first.title}” is being traced.` : `${open.length} cases are being traced.`;
}
