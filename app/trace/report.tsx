/** A case on paper: sign, path with its losses, what was found, why, what was done, the proof, and what it took. */

import "./trace.css";
import { Button, Table, Typography } from "antd";
import { reportView } from "#services/cases/reportView";
import { recordId } from "#services/forms/fields";
import { gatherOnce } from "#services/machine/gather";
import { reading } from "../server/reading";
import { LinkButton } from "../ui/LinkButton";
import type { Route } from "./+types/report";
import { Budget } from "./Budget";

export const loader = reading(async ({ params, context }: Route.LoaderArgs) =>
  reportView(context, await gatherOnce(context, params.machine), recordId(params.caseId)),
);

export default function Report({ loaderData: d }: Route.ComponentProps) {
  const here = `/${d.slug}/trace/${d.id}`;
  return (
    <main className="page sheet stack loose">
      <div className="row no-print">
        <Button type="primary" onClick={() => window.print()}>
          Print
        </Button>
        <Button href={`${here}/case.json`} download>
          As a file
        </Button>
        <LinkButton to={here}>Back</LinkButton>
      </div>
      <div>
        <p className="soft">{d.title}</p>
        <h1 className="verdict">{d.outcome}</h1>
        <p className="soft">
          {d.sign} It {d.closed ? "took" : "has taken"} {d.minutes} minutes of checks and rounds{d.money ? ` and ${d.money} of parts` : ""}
          {d.closed ? "" : " so far"}.
        </p>
      </div>
      {d.budget.length > 0 ? (
        <section className="stack">
          <h2 className="card-title">Power along the path</h2>
          <Budget lines={d.budget} />
        </section>
      ) : null}
      <section className="stack">
        <h2 className="card-title">What was found, in its order</h2>
        <Table
          size="small"
          pagination={false}
          rowKey="key"
          dataSource={d.findings}
          columns={[
            { title: "When", dataIndex: "day", width: 190 },
            {
              title: "Found",
              render: (_, f) =>
                f.struck ? (
                  <>
                    <Typography.Text delete>{f.words}</Typography.Text> <span className="soft">taken back</span>
                  </>
                ) : (
                  f.words
                ),
            },
          ]}
        />
      </section>
      <section className="stack">
        <h2 className="card-title">What it could be, and why</h2>
        <Table
          size="small"
          pagination={false}
          rowKey="id"
          dataSource={d.faults}
          columns={[
            { title: "Fault", dataIndex: "name", width: 190 },
            { title: "Likely", dataIndex: "chance", width: 90 },
            { title: "Because", dataIndex: "reasons" },
          ]}
        />
        <p className="soft">None of these: {d.none}.</p>
      </section>
      <section className="stack">
        <h2 className="card-title">What was done</h2>
        {d.rounds.length === 0 ? (
          <p>{d.closed?.repair ? `${d.closed.repair}: tried, and what had failed passed.` : "No round was walked for it."}</p>
        ) : null}
        <ul className="lines">
          {d.rounds.map((r) => (
            <li key={r.id} className="between">
              <span>{r.words}</span>
              <span className="soft">{r.day}</span>
            </li>
          ))}
          {d.parts.map((p) => (
            <li key={p}>New part: {p}</li>
          ))}
        </ul>
        {d.closed ? (
          <p>
            Closed {d.closed.at}. Proof: {d.closed.proof}.
          </p>
        ) : (
          <p>Still open.</p>
        )}
      </section>
    </main>
  );
}
