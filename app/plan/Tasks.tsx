/** Every task with what it follows; of one of them why, drawn: what its history says, what it costs by how often, and the choice. */
import { Descriptions, Table } from "antd";
import { type ReactNode, Suspense, useState } from "react";
import { Form, Link } from "react-router";
import { Block } from "../ui/Block";
import { fetched } from "../ui/fetched";
import { ChoiceButtons } from "../ui/form/Choices";
import { NumberField } from "../ui/form/NumberField";
import { Submit } from "../ui/form/Posted";
import { Fields, type FormState } from "../ui/form/state";
import { More } from "../ui/More";
import { Notice } from "../ui/Notice";
import { useSeen } from "../ui/useSeen";
import type { Route } from "./+types/route";

type Loaded = Route.ComponentProps["loaderData"];

type Card = NonNullable<Loaded["task"]>;

const LearnedChart = fetched(() => import("./charts").then((m) => m.LearnedChart));
const CostChart = fetched(() => import("./charts").then((m) => m.CostChart));

export function TaskList({ d, state }: { d: Loaded; state: FormState }) {
  return (
    <div className={d.isChosen ? "columns wide-side plan-card-first" : "columns wide-side"}>
      <section className="stack">
        {d.habits.map((h) => (
          <Form key={h.id} method="post" className="between" preventScrollReset>
            <input type="hidden" name="intent" value="follow" />
            <input type="hidden" name="task" value={h.id} />
            <span className="grow">
              <b>{h.name}</b>, {h.does}: {h.words}
              {h.isDone === undefined ? "" : h.isDone ? ", done" : ", not yet today"}. <span className="soft">{h.reason}</span>
            </span>
            <span className="row">
              {h.others.map((o) => (
                <Submit key={o.school} name="follows" value={o.school}>
                  Rather {o.words}
                </Submit>
              ))}
            </span>
          </Form>
        ))}
        <Table<Loaded["tasks"][number]>
          size="small"
          pagination={false}
          rowKey="id"
          dataSource={d.tasks}
          rowClassName={(t) => (t.id === d.task?.id ? "plan-chosen" : "")}
          columns={[
            {
              title: "Task",
              render: (_, t) => (
                <Link to={`?tab=tasks&task=${t.id}`} preventScrollReset aria-current={t.id === d.task?.id ? "true" : undefined}>
                  <b>{t.name}</b>, {t.does}
                </Link>
              ),
            },
            {
              title: "How often",
              render: (_, t) => (
                <>
                  {t.every} <span className="soft nowrap">({t.follows})</span>
                </>
              ),
            },
            { title: "Now", render: (_, t) => <span className={t.late ? "hot" : "soft"}>{t.due}</span> },
          ]}
        />
      </section>
      <div>{d.task ? <TaskCard key={d.task.id} card={d.task} state={state} /> : null}</div>
    </div>
  );
}

/** A drawing that comes when its place is seen. */
function Drawn({ children }: { children: ReactNode }) {
  const [place, seen] = useSeen<HTMLDivElement>();
  return (
    <div ref={place} className="plan-drawn">
      {seen ? <Suspense>{children}</Suspense> : null}
    </div>
  );
}

function TaskCard({ card, state }: { card: Card; state: FormState }) {
  return (
    <Block strong label={`${card.name}: how often`}>
      <div>
        <h2 className="card-title larger">
          {card.name}: {card.every}
        </h2>
        <p className="soft">
          Follows {card.follows}. {card.reason}
        </p>
      </div>
      {card.learned ? (
        <section className="stack tight">
          <h3 className="small-title">What was found</h3>
          <p>{card.learned.sentence}</p>
          <Drawn>
            <LearnedChart view={card.learned} />
          </Drawn>
        </section>
      ) : null}
      {card.cost ? (
        <section className="stack tight">
          <h3 className="small-title">What it costs</h3>
          <p>{card.cost.sentence}</p>
          <Drawn>
            <CostChart view={card.cost} />
          </Drawn>
          <ul className="lines">
            {card.cost.marks.map((m) => (
              <li key={m.name} className="between">
                <span>
                  <b>{m.name}</b> {m.said}
                </span>
                <span className="soft nowrap">{m.month}</span>
              </li>
            ))}
          </ul>
          <More label="Show the sum">
            <Descriptions column={1} size="small" items={card.cost.sum.map((l) => ({ key: l.term, label: l.term, children: l.text }))} />
          </More>
        </section>
      ) : card.noCost && card.learned ? (
        <p className="soft small">{card.noCost}</p>
      ) : null}
      <Follow card={card} state={state} />
    </Block>
  );
}

function Follow({ card, state }: { card: Card; state: FormState }) {
  const [chosen, setChosen] = useState<string>(state.typed.follows ?? card.chosen);
  const can = card.choices.filter((c) => c.not === undefined);
  const cannot = card.choices.filter((c) => c.not !== undefined);
  const one = card.choices.find((c) => c.id === chosen);
  return (
    <Form method="post" className="stack" preventScrollReset noValidate>
      <input type="hidden" name="intent" value="follow" />
      <input type="hidden" name="task" value={card.id} />
      <Fields state={state}>
        <ChoiceButtons
          name="follows"
          label="What it follows"
          options={can.map((c) => ({ value: c.id, label: c.name }))}
          defaultValue={chosen}
          onChange={setChosen}
        />
        {one && one.id !== "own" ? <p className="soft">That is {one.every}.</p> : null}
        {chosen === "own" ? (
          <div className="fields">
            <NumberField name="plyHours" label="Every" unit="smoke hours" defaultValue={card.own.plyHours} />
            <NumberField name="firingHours" label="or every" unit="tube hours" defaultValue={card.own.firingHours} />
            <NumberField name="days" label="or every" unit="days" defaultValue={card.own.days} />
            <NumberField name="jobs" label="or every" unit="jobs" defaultValue={card.own.jobs} />
          </div>
        ) : null}
        {state.errors.follows ? <Notice kind="problem">{state.errors.follows}</Notice> : null}
      </Fields>
      {cannot.map((c) => (
        <p key={c.id} className="soft small">
          {c.name.charAt(0).toUpperCase() + c.name.slice(1)}: {c.not}
        </p>
      ))}
      <div>
        <Submit type="primary">Follow this</Submit>
      </div>
    </Form>
  );
}
