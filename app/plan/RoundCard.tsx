/** One planned round: what is in it, why it is then, and another day for it. */
import { Form } from "react-router";
import { Block } from "../ui/Block";
import { Submit } from "../ui/form/Posted";
import { SelectField } from "../ui/form/SelectField";
import { Fields } from "../ui/form/state";
import type { Route } from "./+types/route";
import { RoundLink } from "./RoundLink";

type Loaded = Route.ComponentProps["loaderData"];

export function RoundCard({ d, round }: { d: Loaded; round: NonNullable<Loaded["chosen"]> }) {
  const days = d.open.filter((o) => o.value !== round.date);
  return (
    <Block strong label="Chosen round">
      <h2 className="card-title larger">
        {round.day}, {round.minutes} minutes
      </h2>
      <ul className="lines plan-tasks">
        {round.tasks.map((t) => (
          <li key={t.id}>
            <b>{t.name}</b>
            <span>
              {t.does}
              <span className="soft why">{t.why}</span>
            </span>
            <span className="right">{t.minutes === 0 ? "<1" : t.minutes}</span>
          </li>
        ))}
        <li>
          <span className="soft">Around it</span>
          <span className="soft">make safe, fetch, covers, power on, final test: once</span>
          <span className="right">{round.aroundMinutes}</span>
        </li>
      </ul>
      {round.day === "Today" ? <RoundLink slug={d.slug} tasks={round.tasks.map((t) => t.id)} label="Look at this round" primary /> : null}
      {round.doToday ? (
        <Form method="post" className="stack tight" preventScrollReset>
          <input type="hidden" name="intent" value="move" />
          <input type="hidden" name="from" value={round.date} />
          <input type="hidden" name="to" value={round.doToday.date} />
          <div>
            <Submit>Do it today instead</Submit>
          </div>
          <span className="soft">It {round.doToday.words}.</span>
        </Form>
      ) : null}
      <Form method="post" className="stack tight" key={round.date} preventScrollReset>
        <input type="hidden" name="intent" value="move" />
        <input type="hidden" name="from" value={round.date} />
        <Fields state={{ errors: {}, typed: {} }}>
          <SelectField name="to" label="Move it to" options={days} defaultValue={days[0]?.value ?? ""} />
        </Fields>
        <div>
          <Submit>Move it</Submit>
        </div>
      </Form>
      {round.isMoved ? (
        <Form method="post" preventScrollReset>
          <input type="hidden" name="intent" value="let-go" />
          <input type="hidden" name="date" value={round.date} />
          <Submit>Let the plan decide its day again</Submit>
        </Form>
      ) : null}
    </Block>
  );
}
