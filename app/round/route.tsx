/** Round: choose how much to do; see steps, minutes and what to fetch before it starts. */
import "./round.css";
import { data, Link, redirect } from "react-router";
import { trouble } from "#services/forms/fields";
import { gatherOnce } from "#services/machine/gather";
import { choiceView } from "#services/rounds/choiceView";
import { startByForm } from "#services/rounds/start";
import { reading } from "../server/reading";
import { saving } from "../server/saving";
import { counted } from "../ui/counted";
import { FormProblem } from "../ui/form/Posted";
import { Fields } from "../ui/form/state";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { keyAfter, sendKept } from "../ui/sending";
import type { Route } from "./+types/route";
import { ChosenPlan } from "./ChosenPlan";
import { OwnChoice } from "./OwnChoice";

export const loader = reading(async ({ params, request, context }: Route.LoaderArgs) => ({
  ...(await choiceView(context, await gatherOnce(context, params.machine), new URL(request.url).searchParams)),
  key: context.freshKey(),
}));

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const started = await startByForm(context, params.machine, reader);
  if ("problem" in started) return data(trouble(reader, { "": started.problem }), { status: 400 });
  return redirect(`/${params.machine}/round/${started.roundId}`);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

export default function Rounds({ loaderData, actionData }: Route.ComponentProps) {
  const { slug, open, choices, chosen, plan } = loaderData;
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        {open ? (
          <div className="stack">
            <h1 className="verdict">“{open.title}” is open.</h1>
            <p className="lead">One round at a time: finish this one first.</p>
            <LinkButton type="primary" size="large" to={`/${slug}/round/${open.id}`}>
              Go on with it
            </LinkButton>
          </div>
        ) : (
          <>
            <div>
              <h1 className="verdict">
                {plan ? `${chosen?.name}: ${counted(plan.minutes, "minute")}, ${plan.count} steps.` : "Which parts shall it be?"}
              </h1>
              <p className="lead">
                {plan?.most ? `Up to ${plan.most} minutes where something needs a wipe and has to dry. ` : ""}
                From making the machine safe to its final test. Dirt first, optics last: dust raised later lands on clean optics.
              </p>
            </div>
            <nav className="scopes" aria-label="How much">
              {choices.map((c) => (
                <Link
                  key={c.id}
                  to={`?scope=${c.id}`}
                  className="scope"
                  aria-current={chosen?.id === c.id ? "true" : undefined}
                  preventScrollReset
                >
                  <b>{c.name}</b>
                  <span className="soft">{c.minutes} min</span>
                </Link>
              ))}
              <Link to="?scope=own" className="scope" aria-current={chosen?.id === "own" ? "true" : undefined} preventScrollReset>
                <b>Your own</b>
                <span className="soft">choose parts</span>
              </Link>
            </nav>
            <Fields state={actionData}>
              <FormProblem />
            </Fields>
            {loaderData.parts ? <OwnChoice parts={loaderData.parts} /> : null}
            <ChosenPlan data={loaderData} requestKey={keyAfter(actionData, loaderData.key)} />
          </>
        )}
        {loaderData.past.length > 0 ? (
          <section>
            <h2 className="small-title">Rounds done</h2>
            <ul className="lines">
              {loaderData.past.map((r) => (
                <li key={r.id} className="between">
                  <span className="nowrap soft">{r.day}</span>
                  <Link className="grow tap" to={`/${slug}/round/${r.id}`}>
                    {r.title}
                  </Link>
                  <span className="soft">{r.ended === "abandoned" ? "ended without proof" : "closed with its proof"}</span>
                </li>
              ))}
            </ul>
          </section>
        ) : null}
      </main>
    </div>
  );
}
