/** How long the tube lasts, what each lens lived, what an hour of firing costs. */
import { Table } from "antd";
import { LinkButton } from "../ui/LinkButton";
import type { Route } from "./+types/route";

type Loaded = Route.ComponentProps["loaderData"];

export function Costs({ d }: { d: Loaded }) {
  const { costs, lenses, ready } = d;
  return (
    <>
      <section className="stack">
        <h2 className="card-title">The tube</h2>
        <p>{ready?.tube.words ?? "A baseline ladder first; then the tube is told from the dirt."}</p>
        {ready?.tube.ratedWords ? <p className="soft">By its maker's word: {ready.tube.ratedWords}.</p> : null}
      </section>
      <section className="stack">
        <h2 className="card-title">Lenses</h2>
        <Table<Loaded["lenses"][number]>
          size="small"
          pagination={false}
          rowKey="atMs"
          dataSource={[...lenses]}
          columns={[
            { title: "In since", render: (_, l) => <b>{l.since}</b> },
            { title: "From", render: (_, l) => [l.source, l.focal].filter(Boolean).join(", ") || <span className="soft">not noted</span> },
            { title: "Hours", dataIndex: "hours", align: "right" },
            { title: "Cleans", dataIndex: "cleans", align: "right", responsive: ["sm"] },
            { title: "Best ladder", dataIndex: "best", align: "right" },
            { title: "Price", dataIndex: "price", align: "right", responsive: ["sm"] },
            { title: "An hour", dataIndex: "perHour", align: "right" },
          ]}
        />
      </section>
      <section className="stack">
        <h2 className="card-title">
          {costs.perHour ? `${costs.perHour} an hour of firing` : "No costs noted yet"}
          {costs.lost ? `, ${costs.lost} lost` : ""}
        </h2>
        {costs.lines.length > 0 ? (
          <>
            <Table<Loaded["costs"]["lines"][number]>
              size="small"
              pagination={false}
              rowKey="what"
              dataSource={[...costs.lines]}
              columns={[
                { title: "For", dataIndex: "what" },
                { title: "Money", dataIndex: "money", align: "right" },
                { title: "Lost", dataIndex: "minutes", align: "right" },
              ]}
            />
            <p className="soft small">
              {costs.total ? `${costs.total} in all` : "No money"} over {costs.hours} h of firing since the log begins. Parts count with the
              price they were put in with.
            </p>
          </>
        ) : null}
        <LinkButton to={`/${d.slug}/log?kind=cost&more=1`}>Note a cost</LinkButton>
      </section>
    </>
  );
}
