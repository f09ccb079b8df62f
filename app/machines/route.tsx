/** All machines in a row, for who keeps several: how each stands, what comes first on it, and how long that takes. */
import { Table } from "antd";
import { Link } from "react-router";
import { gatherOnce } from "#services/machine/gather";
import { machinesView } from "#services/today/machinesView";
import { reading } from "../server/reading";
import { unbroken } from "../ui/unbroken";
import type { Route } from "./+types/route";

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => {
  const { machines } = await gatherOnce(context, params.machine);
  return { machines: await machinesView(context, machines) };
});

export function meta() {
  return [{ title: "All machines · Clenor" }];
}

type Row = Route.ComponentProps["loaderData"]["machines"][number];

export default function Machines({ loaderData }: Route.ComponentProps) {
  return (
    <main className="page stack loose">
      <h1 className="verdict">All machines.</h1>
      <Table<Row>
        pagination={false}
        rowKey="slug"
        scroll={{ x: "max-content" }}
        dataSource={[...loaderData.machines]}
        columns={[
          {
            title: "Machine",
            render: (_, m) => (
              <Link to={`/${m.slug}/today`}>
                <b>{m.name}</b>
              </Link>
            ),
          },
          { title: "How it stands", render: (_, m) => unbroken(m.verdict) },
          { title: "First", dataIndex: "first" },
          { title: "Minutes", dataIndex: "minutes", align: "right" },
        ]}
      />
    </main>
  );
}
