/** Before a long job: will it cut through, and the cheapest way on. */
import { Table } from "antd";
import { useState } from "react";
import { Form } from "react-router";
import { gateView } from "#services/gate/gateView";
import { gatherOnce } from "#services/machine/gather";
import { reading } from "../server/reading";
import { Block } from "../ui/Block";
import { NumberField } from "../ui/form/NumberField";
import { Submit } from "../ui/form/Posted";
import { SelectField } from "../ui/form/SelectField";
import { Fields } from "../ui/form/state";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { More } from "../ui/More";
import { unbroken } from "../ui/unbroken";
import type { Route } from "./+types/route";

export const loader = reading(async ({ params, request, context }: Route.LoaderArgs) =>
  gateView(await gatherOnce(context, params.machine), new URL(request.url).searchParams),
);

type Loaded = Route.ComponentProps["loaderData"];
type Answer = NonNullable<Loaded["answer"]>;

export default function Gate({ loaderData: d }: Route.ComponentProps) {
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <div>
          <h1 className="verdict">{d.stop ? `Not now: ${d.stop.what}.` : unbroken(d.answer?.headline ?? "Will it cut through?")}</h1>
          <p className="lead">
            {(d.stop ? `${d.stop.until} Then ask again.` : d.answer && unbroken(d.answer.lead)) ??
              "Before a long job: say what is cut and what is at stake. The answer comes from the power the machine has today."}
          </p>
        </div>
        {d.stop ? (
          <LinkButton type="primary" to={`/${d.slug}/today`}>
            What to do
          </LinkButton>
        ) : d.hasBaseline ? (
          <>
            {d.answer ? <Ways answer={d.answer} slug={d.slug} /> : null}
            <Ask key={JSON.stringify(d.typed)} d={d} />
          </>
        ) : (
          <Block strong>
            <p>Without a baseline there is nothing to compare with: cut a ladder while the machine is good.</p>
            <LinkButton type="primary" to={`/${d.slug}/log?kind=ladder&baseline=1`}>
              Cut a ladder now
            </LinkButton>
          </Block>
        )}
      </main>
    </div>
  );
}

function Ways({ answer, slug }: { answer: Answer; slug: string }) {
  const hasMoney = answer.ways.some((w) => w.money !== undefined);
  return (
    <section className="stack">
      <h2 className="card-title">Ways on, cheapest first</h2>
      <Table<Answer["ways"][number]>
        size="small"
        pagination={false}
        rowKey="id"
        dataSource={answer.ways}
        columns={[
          {
            title: "Way",
            render: (_, w) => (
              <>
                <b>{w.name}</b>{" "}
                {w.part ? (
                  <LinkButton type="link" to={`/${slug}/round?scope=own&part=${encodeURIComponent(w.part)}`}>
                    see the round
                  </LinkButton>
                ) : null}
              </>
            ),
          },
          { title: "It drops", dataIndex: "through", align: "right" },
          { title: "Costs on average", align: "right", render: (_, w) => `${w.minutes} min` },
          ...(hasMoney
            ? [{ title: "and, in money", align: "right" as const, render: (_: unknown, w: Answer["ways"][number]) => w.money }]
            : []),
        ]}
      />
      <p className="soft small">
        Each costs what it takes, and the chance that it fails times what the failed job loses. {answer.limits.join(" ")}
      </p>
    </section>
  );
}

function Ask({ d }: { d: Loaded }) {
  const [materialId, setMaterialId] = useState(d.typed.materialId ?? String(d.materials[0]?.id ?? ""));
  const material = d.materials.find((m) => String(m.id) === materialId);
  const usual = (name: string, fallback: string | undefined) => d.typed[name] ?? fallback;
  return (
    <Block strong>
      <Form method="get" className="stack" noValidate>
        <Fields state={{ errors: d.errors, typed: {} }}>
          <div className="fields">
            <SelectField
              name="materialId"
              label="What is cut"
              options={d.materials.map((m) => ({ value: String(m.id), label: m.label }))}
              defaultValue={materialId}
              onChange={setMaterialId}
            />
            <NumberField
              key={`v${materialId}`}
              name="speedMmPerS"
              label="Speed"
              unit="mm/s"
              defaultValue={usual("speedMmPerS", material?.speed)}
            />
            <NumberField
              key={`p${materialId}`}
              name="setPercent"
              label="Power"
              unit="%"
              defaultValue={usual("setPercent", material?.setPercent)}
            />
          </div>
          {d.places ? <SelectField name="place" label="Where on the bed" options={d.places} defaultValue={d.typed.place ?? ""} /> : null}
          <div className="fields">
            <NumberField
              name="lostMinutes"
              label="Lost if it fails"
              unit="min"
              hint="engraving done by then"
              defaultValue={usual("lostMinutes", "30")}
            />
            <NumberField
              name="lostMoney"
              label="and the sheet costs"
              unit={d.currency || "money"}
              defaultValue={usual("lostMoney", undefined)}
            />
          </div>
          <More label="Passes, cutting time, what an hour is worth">
            <div className="fields">
              <NumberField name="passes" label="Passes" unit="times" defaultValue={usual("passes", "1")} />
              <NumberField name="cutMinutes" label="The cut takes" unit="min" defaultValue={usual("cutMinutes", "5")} />
              <NumberField
                name="moneyPerHour"
                label="An hour is worth"
                unit={d.currency || "money"}
                defaultValue={usual("moneyPerHour", "30")}
              />
            </div>
          </More>
        </Fields>
        <div className="row">
          <Submit type="primary">Will it cut through?</Submit>
        </div>
      </Form>
    </Block>
  );
}
