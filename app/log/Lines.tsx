/** The log read back: a line each, newest first, with what can still be corrected. */
import { Empty, Input, Select, Table } from "antd";
import { Link, useNavigate } from "react-router";
import { counted } from "../ui/counted";
import { LinkButton } from "../ui/LinkButton";
import type { Route } from "./+types/route";

type Loaded = Route.ComponentProps["loaderData"];
type Line = Loaded["lines"][number];

export function Lines({ data, kind }: { data: Loaded; kind: string }) {
  const navigate = useNavigate();
  const link = (change: Readonly<Record<string, string>>) => {
    const all = { kind, show: data.show, at: data.part, find: data.find, ...change };
    return `/${data.slug}/log?${new URLSearchParams(Object.entries(all).filter(([, v]) => v !== ""))}`;
  };
  const isNarrowed = data.show !== "" || data.part !== "" || data.find !== "";
  return (
    <section className="stack">
      <h2 className="card-title">
        {isNarrowed ? "Of the log" : "The log so far"}: {counted(data.total, "entry", "entries")}
        {isNarrowed ? " in all" : ""}
      </h2>
      <search className="fields">
        <Narrow
          label="Show"
          value={data.show}
          options={data.filters}
          onChange={(show) => navigate(link({ show }), { preventScrollReset: true })}
        />
        <Narrow label="Of" value={data.part} options={data.parts} onChange={(at) => navigate(link({ at }), { preventScrollReset: true })} />
        <Input.Search
          key={data.find}
          aria-label="Find in the log"
          placeholder="find words or a day"
          defaultValue={data.find}
          allowClear
          onSearch={(find) => navigate(link({ find: find.trim() }), { preventScrollReset: true })}
        />
      </search>
      <Table<Line>
        className="log-lines"
        size="small"
        pagination={false}
        rowKey="id"
        dataSource={[...data.lines]}
        locale={{
          emptyText: (
            <Empty
              image={null}
              description={isNarrowed ? "Nothing like it in the log." : "Nothing yet. Hours first: they date everything else."}
            />
          ),
        }}
        columns={[
          { title: "Day", dataIndex: "day", render: (day: string) => <span className="nowrap soft">{day}</span>, width: 110 },
          { title: "Kind", dataIndex: "what", render: (what: string) => <b>{what}</b>, width: 90 },
          { title: "What", render: (_, line) => <What line={line} slug={data.slug} /> },
          { title: "Change", align: "right", width: 90, render: (_, line) => <Change line={line} slug={data.slug} /> },
        ]}
      />
      <nav className="row" aria-label="Pages of the log">
        {data.isOlder ? <LinkButton to={link({})}>Newest entries</LinkButton> : null}
        {data.older ? <LinkButton to={link({ before: data.older })}>Older entries</LinkButton> : null}
      </nav>
    </section>
  );
}

function What({ line, slug }: { line: Line; slug: string }) {
  return (
    <>
      {line.text}
      {line.corrected > 0 ? <span className="soft"> · corrected</span> : null}
      {line.roundId === undefined ? null : (
        <>
          {" · "}
          <Link className="soft" to={`/${slug}/round/${line.roundId}`}>
            in a round
          </Link>
        </>
      )}
      {line.photos.length > 0 ? (
        <div className="row tight photos">
          {line.photos.map((hash) => (
            <a key={hash} href={`/photos/${hash}`} target="_blank" rel="noreferrer" className="thumb">
              <img src={`/photos/${hash}`} alt={line.text} />
            </a>
          ))}
        </div>
      ) : null}
    </>
  );
}

function Change({ line, slug }: { line: Line; slug: string }) {
  if (!line.editable) return null;
  return (
    <LinkButton type="text" to={`/${slug}/log?edit=${line.id}`} aria-label={`Correct ${line.what} of ${line.day}`}>
      Correct
    </LinkButton>
  );
}

function Narrow({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly { readonly value: string; readonly label: string }[];
  onChange: (value: string) => void;
}) {
  return (
    <Select aria-label={label} prefix={<span className="soft">{label}</span>} value={value} options={[...options]} onChange={onChange} />
  );
}
