/** Plan: the rounds of the next sixty days, grouped so that they take the fewest minutes. */
import { Descriptions } from "antd";
import { Form } from "react-router";
import { gatherOnce } from "#services/machine/gather";
import { planView } from "#services/plan/planView";
import { reading } from "../server/reading";
import { Submit } from "../ui/form/Posted";
import { MachineRail } from "../ui/MachineRail";
import { Notice } from "../ui/Notice";
import { unbroken } from "../ui/unbroken";
import type { Route } from "./+types/route";

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => planView(await gatherOnce(context, params.machine)));

export default function Plan({ loaderData: { slug, headline, lead, rounds, late, byOthers, hasPace } }: Route.ComponentProps) {
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <div>
          <h1 className="verdict">{unbroken(headline)}</h1>
          <p className="lead">{unbroken(lead)}</p>
          {rounds.length > 0 ? (
            <Form method="post" action={`/${slug}/plan/calendar`} reloadDocument>
              <Submit>A file for your calendar</Submit>
            </Form>
          ) : null}
        </div>
        {hasPace ? null : (
          <Notice kind="doubt">No use was logged in the last four weeks: only what goes by days can be planned. Log hours or jobs.</Notice>
        )}
        {late.length > 0 ? (
          <Notice kind="doubt">
            {late.map((l) => `${l.name} is overdue from ${l.from} on`).join("; ")}: it is in the first round there can be.
          </Notice>
        ) : null}
        {rounds.map((round) => (
          <section key={round.date}>
            <h2 className="card-title">
              {round.day}: {round.minutes} min
            </h2>
            <Descriptions
              column={1}
              size="small"
              colon={false}
              items={round.tasks.map((t) => ({
                key: t.id,
                label: t.name,
                children: (
                  <span>
                    {t.does} <span className="soft">({t.why})</span>
                  </span>
                ),
              }))}
            />
          </section>
        ))}
        {byOthers.length > 0 ? (
          <section>
            <h2 className="card-title">To book with somebody else</h2>
            <ul className="lines">
              {byOthers.map((t) => (
                <li key={t.id} className="between">
                  <span>{t.name}</span>
                  <span className="soft nowrap">{t.day}</span>
                </li>
              ))}
            </ul>
          </section>
        ) : null}
        <p className="soft">
          Use is taken from each weekday of the last eight weeks, and minutes from the steps each round would have today. If you do a round
          early, its tasks count from that day and the plan follows.
        </p>
      </main>
    </div>
  );
}
