/** Outlook: how strong the beam is and will be, dirt against tube, speeds to use today, what it costs, the bed. */

import "./outlook.css";
import { Descriptions, Table } from "antd";
import { Suspense } from "react";
import { Link, useSearchParams } from "react-router";
import { gatherOnce } from "#services/machine/gather";
import { bookView } from "#services/outlook/book";
import { outlookView } from "#services/outlook/outlookView";
import { reading } from "../server/reading";
import { Block } from "../ui/Block";
import { fetched } from "../ui/fetched";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { More } from "../ui/More";
import { unbroken } from "../ui/unbroken";
import { useSeen } from "../ui/useSeen";
import { Worded } from "../ui/Worded";
import type { Route } from "./+types/route";
import { Bed } from "./Bed";
import { Book } from "./Book";
import { Costs } from "./Costs";

const OutlookChart = fetched(() => import("./OutlookChart").then((m) => m.OutlookChart));

const TABS = [
  { id: "beam", name: "The beam" },
  { id: "book", name: "Speeds to use" },
  { id: "costs", name: "Tube, lenses, costs" },
  { id: "bed", name: "The bed" },
] as const;

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => {
  const g = await gatherOnce(context, params.machine);
  return { ...(await outlookView(context, g)), book: bookView(g) };
});

type Loaded = Route.ComponentProps["loaderData"];

export default function Outlook({ loaderData: d }: Route.ComponentProps) {
  const [search] = useSearchParams();
  const tab = TABS.find((t) => t.id === search.get("tab"))?.id ?? "beam";
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <div>
          <h1 className="verdict">{unbroken(d.ready?.headline ?? "No baseline yet: nothing to look ahead from.")}</h1>
          <p className="lead">
            <Worded>
              {unbroken(d.ready?.lead ?? "Cut a ladder while the machine is good. Every later one then says how much is left, and why.")}
            </Worded>
          </p>
        </div>
        <nav className="row tight tabs no-print" aria-label="Outlook">
          {TABS.map((t) => (
            <LinkButton key={t.id} to={`?tab=${t.id}`} aria-current={tab === t.id ? "page" : undefined}>
              {t.name}
            </LinkButton>
          ))}
        </nav>
        {tab === "beam" ? (
          <Beam d={d} />
        ) : tab === "book" ? (
          <Book book={d.book} />
        ) : tab === "costs" ? (
          <Costs d={d} />
        ) : (
          <Bed bed={d.bed} slug={d.slug} />
        )}
      </main>
    </div>
  );
}

function Beam({ d }: { d: Loaded }) {
  const [place, seen] = useSeen<HTMLDivElement>();
  if (!d.ready) {
    return (
      <Block strong>
        <LinkButton type="primary" to={`/${d.slug}/log?kind=ladder&baseline=1`}>
          Cut a ladder now
        </LinkButton>
      </Block>
    );
  }
  const { ready } = d;
  return (
    <>
      <section className="stack">
        <div ref={place} className="curve tall">
          {seen ? (
            <Suspense>
              <OutlookChart series={ready.series} ahead={ready.ahead} parts={ready.parts} />
            </Suspense>
          ) : null}
        </div>
      </section>
      <section className="stack">
        <h2 className="card-title">The sum behind it</h2>
        <Descriptions column={1} size="small" items={ready.sum.map((s) => ({ key: s.term, label: s.term, children: s.text }))} />
      </section>
      <section className="stack">
        <h2 className="card-title">Until when does it drop, at your speed?</h2>
        <Table<(typeof ready.materials)[number]>
          size="small"
          pagination={false}
          rowKey="id"
          dataSource={[...ready.materials]}
          columns={[
            { title: "Material", render: (_, m) => <b>{m.name}</b> },
            { title: "Your cut", dataIndex: "setting" },
            { title: "Drops today", dataIndex: "today", align: "right" },
            { title: "Stops, if nothing is cleaned", dataIndex: "uncleaned" },
            { title: "Stops, kept clean", dataIndex: "kept" },
          ]}
        />
      </section>
      <section className="stack">
        <h2 className="card-title">What the last rounds gained</h2>
        <Table<(typeof ready.bought)[number]>
          size="small"
          pagination={false}
          rowKey="id"
          dataSource={[...ready.bought]}
          columns={[
            {
              title: "Round",
              render: (_, r) => <Link to={`/${d.slug}/round/${r.id}`}>{r.day}</Link>,
            },
            { title: "Optics", dataIndex: "parts" },
            { title: "Brought back", dataIndex: "gain", align: "right" },
            { title: "Somewhere in", dataIndex: "range" },
          ]}
        />
      </section>
      <More label="How fast each optic fouls here">
        <div className="stack">
          <Table<(typeof ready.rates.optics)[number]>
            size="small"
            pagination={false}
            rowKey="id"
            dataSource={[...ready.rates.optics]}
            columns={[
              { title: "Optic", dataIndex: "name" },
              { title: "Takes", dataIndex: "perInterval", align: "right" },
              { title: "Somewhere in", dataIndex: "range" },
              { title: "per", dataIndex: "interval" },
            ]}
          />
          <p className="soft small">
            From {ready.rates.readings} readings: ladders, cuts, watts and looks. Every rate begins at a usual one, 2 % per interval, and is
            bent by what was read.{" "}
            {ready.rates.tangled.length > 0
              ? `Not to be told apart yet: ${ready.rates.tangled.join("; ")}.`
              : "No two of them are so tangled that only their sum is known."}
          </p>
        </div>
      </More>
    </>
  );
}
