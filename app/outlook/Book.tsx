/** The settings book: what works, and what to use today, a line for each material and purpose. */
import { Button, Table } from "antd";
import { Fragment } from "react";
import type { bookView } from "#services/outlook/book";
import { textHere, unitHere } from "#services/units";
import { LinkButton } from "../ui/LinkButton";

type BookData = ReturnType<typeof bookView>;

export function Book({ book }: { book: BookData }) {
  const rows = book.lines
    .flatMap((l) => l.purposes.map((p) => ({ ...p, key: `${l.id} ${p.purpose}`, material: l.name, behind: l.behind })))
    .filter((r) => r.purpose === "cut" || r.own);
  return (
    <section className="stack">
      <p className="only-print">
        {book.machine}, {book.day}
        {book.power ? `. ${book.power}` : ""}
      </p>
      <Table
        className="book"
        size="small"
        pagination={false}
        dataSource={rows}
        columns={[
          {
            title: "What",
            render: (_, r) => (
              <>
                <b>{r.material}</b>, {r.name}
                <br />
                <span className="soft small">{r.behind}</span>
              </>
            ),
          },
          {
            title: "Yours",
            render: (_, r) =>
              r.own ? (
                <>
                  {textHere(r.own.speed, "mm/s")} {unitHere("mm/s")}, {r.own.power} %{r.own.more ? `, ${r.own.more}` : ""}
                  <br />
                  <span className="soft small">{r.own.since}</span>
                </>
              ) : (
                <span className="soft">nothing noted</span>
              ),
          },
          {
            title: "Use today",
            render: (_, r) => (
              <Fragment>
                <b className="nowrap">{r.now}</b>
                {r.later && r.later !== r.now ? <span className="soft"> · {r.later} until the next clean</span> : null}
                <br />
                <span className="soft small">{r.why}</span>
              </Fragment>
            ),
          },
        ]}
      />
      <div className="row no-print">
        <LinkButton type="primary" to={`/${book.slug}/log?kind=setting&more=1`}>
          Note a setting that works
        </LinkButton>
        <Button onClick={() => window.print()}>Print the book</Button>
        <LinkButton type="link" to={`/${book.slug}/gate`}>
          Will it cut through?
        </LinkButton>
      </div>
    </section>
  );
}
