/** The round that is chosen: what to fetch, the way through, and the button that starts it. */
import { Form, Link } from "react-router";
import { Block } from "../ui/Block";
import { RequestKey, Submit } from "../ui/form/Posted";
import { LinkButton } from "../ui/LinkButton";
import { Manual } from "../ui/Manual";
import { More } from "../ui/More";
import type { Route } from "./+types/route";
import { Fetch } from "./Fetch";

type Loaded = Route.ComponentProps["loaderData"];

export function ChosenPlan({ data, requestKey }: { data: Loaded; requestKey: string }) {
  const { chosen, plan, openAnyway, slug } = data;
  if (!plan || !chosen) return null;
  const partsOf = (ids: readonly string[]) => new URLSearchParams(ids.map((p) => ["part", p])).toString();
  return (
    <Block strong>
      {openAnyway.length > 0 ? (
        <p>
          <b>Open anyway:</b> {openAnyway.map((p) => `${p.name} (${p.used})`).join(", ")}.{" "}
          <Link to={`?${partsOf([...chosen.parts, ...openAnyway.map((p) => p.id)])}`}>Take them along</Link>
        </p>
      ) : null}
      <div className="row">
        <Form method="post">
          <RequestKey value={requestKey} />
          <input type="hidden" name="title" value={chosen.name} />
          <input type="hidden" name="order" value={chosen.order} />
          {chosen.parts.map((p) => (
            <input key={p} type="hidden" name="part" value={p} />
          ))}
          <Submit type="primary" size="large">
            Start this round
          </Submit>
        </Form>
        <LinkButton size="large" to={`/${slug}/round/sheet?${chosen.sheet}`}>
          On paper
        </LinkButton>
        <span className="soft">
          Optics {(data.direction ?? chosen.order) === "head-first" ? "head first, then back to the tube" : "tube first, along the beam"}
        </span>
      </div>
      <section className="stack">
        <h2 className="card-title">Fetch first</h2>
        <Fetch list={plan.fetch} />
        {plan.manual ? <Manual at={plan.manual} /> : null}
      </section>
      <section className="stack">
        <h2 className="card-title">The way through</h2>
        {plan.cut ? (
          <p>
            Long for one go? It may be cut in two before “{plan.cut.title}”: {plan.cut.before} minutes, then {plan.cut.after}. Leave it
            unplugged with the lid closed; the round waits, and says so everywhere.
          </p>
        ) : null}
        <ol className="lines plan">
          {plan.lines.map((l, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a part may come twice, its place tells them apart
            <li key={i} className={l.only ? "plan-line soft" : "plan-line"}>
              <b>{l.part}</b>
              <span>
                {l.words}
                {l.only ? "." : null}
                {l.more > 0 && !l.only ? <span className="soft"> {l.more} more if its look asks.</span> : null}
              </span>
              <span className="soft right nowrap">{l.minutes === "0" ? "" : `${l.minutes} min`}</span>
            </li>
          ))}
        </ol>
        {plan.lines.some((l) => l.more > 0) ? (
          <More label="Every step, with those a look may ask for">
            <ol className="lines plan">
              {plan.groups.map((g, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a part may come twice, its place tells them apart
                <li key={i} className="plan-line">
                  <b>{g.part}</b>
                  <span>
                    {g.titles.join(" ")} <span className="soft">{g.asked.join(" ")}</span>
                  </span>
                </li>
              ))}
            </ol>
          </More>
        ) : null}
      </section>
    </Block>
  );
}
