/** The shelf at the planned rounds: what is left, what runs low when, what to buy; and the spares. */
import { App, Button, Table } from "antd";
import { useState } from "react";
import { Form } from "react-router";
import { Block } from "../ui/Block";
import { NumberField } from "../ui/form/NumberField";
import { Submit } from "../ui/form/Posted";
import { SelectField } from "../ui/form/SelectField";
import { Fields, type FormState } from "../ui/form/state";
import { LinkButton } from "../ui/LinkButton";
import type { Route } from "./+types/route";

type Loaded = Route.ComponentProps["loaderData"];

type View = NonNullable<Loaded["supplies"]>;

export function Supplies({ supplies, slug, state }: { supplies: View; slug: string; state: FormState }) {
  return (
    <div className="columns wide-side">
      <div className="stack loose">
        <Table<View["lines"][number]>
          size="small"
          pagination={false}
          rowKey="id"
          dataSource={supplies.lines}
          columns={[
            { title: "Supply", dataIndex: "name", render: (name) => <b>{name}</b> },
            { title: "On the shelf", render: (_, l) => <span className={l.isCounted ? "" : "soft"}>{l.left}</span> },
            { title: "Used a month", dataIndex: "perMonth" },
            { title: "At the planned rounds", render: (_, l) => <span className={l.isLow ? "hot" : "soft"}>{l.low}</span> },
            { title: "Buy", dataIndex: "buy" },
          ]}
        />
        <p>{supplies.money}</p>
        <section>
          <h2 className="small-title">Spares</h2>
          <ul className="lines">
            {supplies.spares.map((s) => (
              <li key={s.id} className="between">
                <b>{s.name}</b>
                <span className={s.isMissing ? "hot" : "soft"}>{s.words}</span>
              </li>
            ))}
          </ul>
          <LinkButton type="link" to={`/${slug}/workshop?tab=path`}>
            Count spares at each part
          </LinkButton>
        </section>
      </div>
      <div className="stack loose">
        <Shopping list={supplies.list} isCounted={supplies.isCounted} slug={slug} />
        <Count known={supplies.known} state={state} />
      </div>
    </div>
  );
}

function Shopping({ list, isCounted, slug }: { list: readonly string[]; isCounted: boolean; slug: string }) {
  const { message } = App.useApp();
  const copy = () =>
    void navigator.clipboard
      .writeText(list.map((l) => `- ${l}`).join("\n"))
      .then(() => message.success("Copied."))
      .catch(() => message.error("This browser does not let it be copied. Use the text."));
  return (
    <Block strong label="Shopping list">
      <h2 className="card-title larger">
        {!isCounted ? "What is on your shelf?" : list.length === 0 ? "Nothing to buy" : `To buy: ${list.length}`}
      </h2>
      {list.length === 0 ? (
        <p className="soft">
          {isCounted
            ? "Of what was counted everything lasts these sixty days."
            : "Count what you have below. Rounds count it down, and this list then says what to buy and when."}
        </p>
      ) : (
        <ul className="lines">
          {list.map((l) => (
            <li key={l}>{l}</li>
          ))}
        </ul>
      )}
      <div className="row">
        {list.length > 0 ? <Button onClick={copy}>Copy</Button> : null}
        {list.length > 0 ? (
          <LinkButton to={`/${slug}/plan/shopping`} target="_blank">
            As text, to print
          </LinkButton>
        ) : null}
      </div>
    </Block>
  );
}

function Count({ known, state }: { known: View["known"]; state: FormState }) {
  const [id, setId] = useState(state.typed.supply ?? known[0]?.value ?? "");
  const one = known.find((k) => k.value === id);
  return (
    <Block label="Count a supply">
      <h2 className="card-title">Count a supply</h2>
      <Form method="post" className="stack" preventScrollReset noValidate>
        <input type="hidden" name="intent" value="count" />
        <Fields state={state}>
          <SelectField name="supply" label="What" options={known} defaultValue={id} onChange={setId} />
          <div className="fields" key={id}>
            <NumberField name="amount" label="On the shelf" unit={one?.unit ?? ""} />
            <NumberField name="least" label="Buy again at" unit={one?.unit ?? ""} defaultValue={one?.least} />
            <NumberField name="pack" label="A pack holds" unit={one?.unit ?? ""} defaultValue={one?.pack} />
            <NumberField name="price" label="A pack costs" unit="money" />
          </div>
        </Fields>
        <div>
          <Submit type="primary">Save the count</Submit>
        </div>
      </Form>
    </Block>
  );
}
