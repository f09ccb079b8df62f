/** The log read back: a line each, newest first, with what can still be corrected. */
import { Empty, Table } from "antd";
import { Link } from "react-router";
import { LinkButton } from "../ui/LinkButton";
import type { Route } from "./+types/route";

type Loaded = Route.ComponentProps["loaderData"];
type Line = Loaded["lines"][number];

export function Lines({ data, kind }: { data: Loaded; kind: string }) {
  const showLink = (value: string) => `/${data.slug}/log?kind=${kind}${value ? `&show=${value}` : ""}`;
  return (
    <section className="stack">
      <div className="between wraps">
        <h2 className="card-title">
          The log so far: {data.total} {data.total === 1 ? "entry" : "entries"}
        </h2>
        <nav className="row small" aria-label="Show">
          {data.filters.map(({ value, label }) => (
            <Link key={value} to={showLink(value)} className="filter" aria-current={data.show === value ? "true" : undefined}>
              {label}
            </Link>
          ))}
        </nav>
      </div>
      <Table<Line>
        className="log-lines"
        size="small"
        pagination={false}
        rowKey="id"
        dataSource={[...data.lines]}
        locale={{ emptyText: <Empty image={null} description="Nothing yet. Hours first: they date everything else." /> }}
        columns={[
          { title: "Day", dataIndex: "day", render: (day: string, line) => <Day day={day} year={line.year} />, width: 110 },
          { title: "Kind", dataIndex: "what", render: (what: string) => <b>{what}</b>, width: 90 },
          { title: "What", render: (_, line) => <What line={line} slug={data.slug} /> },
          { title: "Change", align: "right", width: 90, render: (_, line) => <Change line={line} slug={data.slug} /> },
        ]}
      />
      <nav className="row" aria-label="Pages of the log">
        {data.isOlder ? <LinkButton to={showLink(data.show)}>Newest entries</LinkButton> : null}
        {data.older ? <LinkButton to={`${showLink(data.show)}&before=${data.older}`}>Older entries</LinkButton> : null}
      </nav>
    </section>
  );
}

const Day = ({ day, year }: { day: string; year: number }) => (
  <span className="nowrap soft" title={String(year)}>
    {day}
  </span>
);

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
        <div className="photos">
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
    <Link to={`/${slug}/log?edit=${line.id}`} aria-label={`Correct ${line.what} of ${line.day}`}>
      correct
    </Link>
  );
}
