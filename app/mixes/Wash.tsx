/** Bed wash: how much of which cleaner, how it is mixed, and what a wash takes with each, side by side. */
import { Table } from "antd";
import { Form } from "react-router";
import { Block } from "../ui/Block";
import { Choices } from "../ui/form/Choices";
import { NumberField } from "../ui/form/NumberField";
import { PhotoField } from "../ui/form/PhotoField";
import { RequestKey, Submit } from "../ui/form/Posted";
import { Fields, type FormState } from "../ui/form/state";
import { More } from "../ui/More";
import { Notice } from "../ui/Notice";
import { unbroken } from "../ui/unbroken";
import type { Route } from "./+types/route";
import { Lines, SumForm } from "./SumForm";

type Loaded = Route.ComponentProps["loaderData"];

type View = NonNullable<Loaded["wash"]>;
const VERDICTS = { allowed: "Yes", "only-if": "Only if", never: "Never", unknown: "Ask its maker" } as const;

export function Wash({ view, state, requestKey, times }: { view: View; state: FormState; requestKey: string; times: number }) {
  return (
    <>
      <div>
        <h1 className="verdict">{unbroken(view.headline)}</h1>
        <p className="lead">{unbroken(view.lead)}</p>
      </div>
      <Notice kind="caution">
        Chemical gloves and goggles; outdoors for anything that smells, with a respirator for solvent. Never bleach on an acid, ammonia or
        alcohol. The label and the bed's maker come first.
      </Notice>
      <div className="wash-ways">
        <Table<View["ways"][number]>
          size="small"
          pagination={false}
          rowKey="id"
          dataSource={view.ways}
          columns={[
            {
              title: "Cleaner",
              render: (_, w) => (
                <>
                  <b>{w.name}</b>
                  <br />
                  <span className={w.verdict === "never" ? "hot" : "soft"}>{VERDICTS[w.verdict]}</span>
                </>
              ),
            },
            { title: "Mix", dataIndex: "mix" },
            { title: "Soak", dataIndex: "soak" },
            { title: "Work", align: "right", render: (_, w) => `${w.minutes} min` },
            { title: "A wash costs", align: "right", dataIndex: "cost" },
            {
              title: "Fumes, gear, preparation",
              render: (_, w) => (
                <>
                  Fumes: {w.fumes}; {w.gear}; <span className="soft">{w.preparation}</span>
                </>
              ),
            },
          ]}
        />
      </div>
      <p className="soft small">Soak, minutes and prices are starting values; the label comes first.</p>
      <ul className="lines">
        {view.ways
          .filter((w) => w.verdict !== "allowed")
          .map((w) => (
            <li key={w.id}>
              <b>{w.name}</b>, {VERDICTS[w.verdict].toLowerCase()}: <span className="soft">{w.reason}</span>
            </li>
          ))}
      </ul>
      <div className="columns wide-side">
        <Block label="The bed">
          <h2 className="card-title">This bed, this dirt</h2>
          <Form method="get" className="stack" preventScrollReset noValidate>
            <input type="hidden" name="tab" value="wash" />
            <Fields state={{ errors: view.errors, typed: {} }}>
              <Choices
                name="residue"
                label="Left by"
                options={[
                  { value: "resin", label: "wood: resin" },
                  { value: "acrylic", label: "acrylic, glue, plastic" },
                ]}
                defaultValue={view.residue}
              />
              <div className="fields">
                <NumberField name="widthMm" label="Wide" unit="mm" defaultValue={view.bed.widthMm} />
                <NumberField name="depthMm" label="Deep" unit="mm" defaultValue={view.bed.depthMm} />
                <NumberField name="coats" label="Coats" unit="times" defaultValue={view.bed.coats} />
                <NumberField name="strength-oven-cleaner" label="Oven cleaner's strength" unit="g/L" />
                <NumberField name="strength-hypochlorite" label="Hypochlorite's strength" unit="g/L" />
              </div>
            </Fields>
            <div>
              <Submit type="primary">Work it out</Submit>
            </div>
          </Form>
          <More label="Show the sum">
            <Lines lines={view.sum} />
          </More>
        </Block>
        {view.washed ? <Washed washed={view.washed} state={state} requestKey={requestKey} times={times} /> : null}
        <Block label="Kept for this machine">
          <h2 className="card-title">Said once</h2>
          <SumForm
            state={state}
            save="Save the bed"
            figures={[
              { name: "cellMm", label: "A cell is wide", unit: "mm", value: view.bed.cellMm },
              { name: "bedHeightMm", label: "The bed is high", unit: "mm", value: view.bed.heightMm },
              { name: "sprayerL", label: "The sprayer holds", unit: "L", value: view.bed.sprayerL },
            ]}
          />
        </Block>
      </div>
    </>
  );
}

/** A wash that was done, with a photo of before and one of after: what the last one bought is seen beside it. */
function Washed({
  washed: { part, last },
  state,
  requestKey,
  times,
}: {
  washed: NonNullable<View["washed"]>;
  state: FormState;
  requestKey: string;
  times: number;
}) {
  const shown = [
    { words: "before", hash: last?.before },
    { words: "after", hash: last?.after },
  ].flatMap(({ words, hash }) => (hash === undefined ? [] : [{ words, hash }]));
  return (
    <Block label="A wash, done">
      <h2 className="card-title">{last ? `Washed ${last.day}` : "No wash is in the log yet."}</h2>
      {shown.length > 0 ? (
        <div className="row top">
          {shown.map(({ words, hash }) => (
            <figure key={words} className="wash-photo">
              <img src={`/photos/${hash}`} alt={`The bed ${words} the wash`} />
              <figcaption className="soft small">{words}</figcaption>
            </figure>
          ))}
        </div>
      ) : null}
      <Form key={times} method="post" className="stack" preventScrollReset noValidate>
        <RequestKey value={requestKey} />
        <input type="hidden" name="kind" value="service" />
        <input type="hidden" name="part" value={part} />
        <input type="hidden" name="what" value="cleaned" />
        <Fields state={state}>
          <PhotoField name="photo" label="Photo before" alt="The bed before the wash" />
          <PhotoField name="photoAfter" label="Photo after" alt="The bed after the wash" />
        </Fields>
        <div>
          <Submit>Washed: save in the log</Submit>
        </div>
      </Form>
    </Block>
  );
}
