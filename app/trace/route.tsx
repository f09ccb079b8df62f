/** Trace: report what is weak in the trade's words; this opens a case. Past cases are listed with how they ended. */

import { Table } from "antd";
import { data, Form, Link, redirect, useNavigation } from "react-router";
import { casesView } from "#services/cases/casesView";
import { openByForm } from "#services/cases/open";
import { trouble } from "#services/forms/fields";
import { gatherOnce } from "#services/machine/gather";
import { reading } from "../server/reading";
import { saving } from "../server/saving";
import { Choices } from "../ui/form/Choices";
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
        {loaderData.open ? (
          <div className="stack">
            <h1 className="verdict">“{loaderData.open.title}” is being traced.</h1>
            <LinkButton type="primary" size="large" to={`/${slug}/trace/${loaderData.open.id}`}>
              Go on tracing
            </LinkButton>
          </div>
        ) : (
          <Form method="post" className="stack loose">
            <div>
              <h1 className="verdict">What did you notice?</h1>
              <p className="lead">Pick the nearest. The next questions make it exact, cheapest first.</p>
            </div>
            <RequestKey value={keyAfter(actionData, loaderData.key)} />
            <Fields state={actionData}>
              <FormProblem />
              <Choices name="sign" label="Sign" hideLabel options={loaderData.signs} />
              <Choices name="since" label="Since when?" options={loaderData.since} defaultValue="0" />
            </Fields>
            <Submit type="primary" size="large" disabled={busy}>
              Start tracing
            </Submit>
          </Form>
        )}
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
              ]}
            />
          </section>
        ) : null}
      </main>
    </div>
  );
}
