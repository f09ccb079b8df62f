/** Round: choose how much to do; see steps, minutes and what to fetch before it starts. */
import { data, Form, Link, redirect, useSearchParams } from "react-router";
import { listCases } from "#store/cases";
import { startRound } from "#store/rounds";
import { once, rowKey } from "#store/sent";
import { trouble } from "../server/forms";
import { recordId, saving, sentAs } from "../server/saving";
import { MachineRail } from "../shell/route";
import { FormProblem, RequestKey } from "../ui/fields";
import { keyAfter, sendKept } from "../ui/sending";
import { findMachine, gatherOnce } from "../workshop/gather";
import { planOf, titleOf, tradeOf } from "../workshop/trade";
import { number, shortDay } from "../workshop/words";
import type { Route } from "./+types/route";
import { Fetch } from "./Fetch";
import { openAnyway, partChoices, scopeChoices, validParts } from "./scopes";

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const search = new URL(request.url).searchParams;
  const choices = scopeChoices(g);
  const own = validParts(g.trade, search.getAll("part"));
  const asked = search.get("scope");
  const scope = choices.find((c) => c.id === asked) ?? choices.find((c) => c.id === "daily") ?? choices[0];
  const chosen = own
    ? { id: "own", name: titleOf(g.trade, own), parts: own, order: "head-first" as const }
    : asked === "own"
      ? { id: "own", name: "Your own choice", parts: [], order: "head-first" as const }
      : (asked === null && choices.find((c) => c.id === "due")) || scope;
  const plan = chosen && chosen.parts.length > 0 ? planOf(g.trade, chosen.parts, chosen.order) : undefined;
  return {
    slug: g.machine.slug,
    open: g.openRound && { id: g.openRound.id, title: g.openRound.title },
    choices,
    chosen: chosen && { id: chosen.id, name: chosen.name, parts: chosen.parts, order: chosen.order },
    plan: plan && {
      minutes: number(plan.minutes, 0),
      fetch: plan.fetch,
      groups: grouped(plan.steps),
      count: plan.steps.length,
    },
    openAnyway: chosen ? openAnyway(g, chosen.parts) : [],
    parts: chosen?.id === "own" ? partChoices(g, chosen.parts) : undefined,
    direction: g.trade.layout.fittings.opticsOrder === "by-scope" ? undefined : g.trade.layout.fittings.opticsOrder,
    key: context.freshKey(),
    past: g.rounds
      .filter((r) => r.status !== "open")
      .slice(0, 8)
      .map((r) => ({ id: r.id, title: r.title, day: shortDay(r.startedMs), ended: r.status })),
  };
}

/** Steps under the part they belong to, in order. */
function grouped(steps: readonly { readonly part: string; readonly title: string; readonly minutes: number }[]) {
  const groups: { part: string; titles: string[]; minutes: number }[] = [];
  for (const s of steps) {
    const last = groups.at(-1);
    if (last?.part === s.part) {
      last.titles.push(s.title);
      last.minutes += s.minutes;
    } else groups.push({ part: s.part, titles: [s.title], minutes: s.minutes });
  }
  return groups.map((g) => ({ ...g, minutes: number(g.minutes) }));
}

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const { machine } = await findMachine(context, params.machine);
  const trade = tradeOf(machine);
  const parts = validParts(trade, reader.all("part"));
  if (!parts)
    return data(trouble(reader, { "": "This round names a part the machine does not have. Go back and choose again." }), { status: 400 });
  const caseId = recordId(reader.text("caseId"));
  const openCase = caseId !== undefined && (await listCases(context.store, machine.id)).find((c) => c.id === caseId && !c.closedMs);
  if (reader.text("caseId") !== undefined && !openCase)
    return data(trouble(reader, { "": "The case this repair is for is not open on this machine any more." }), { status: 400 });
  const sent = sentAs(`round ${machine.id}`, reader);
  const order = reader.text("order") === "tube-first" ? "tube-first" : "head-first";
  const title = (reader.text("title") ?? titleOf(trade, parts)).slice(0, 80);
  const nowMs = context.nowMs();
  const round = { title, parts, plan: planOf(trade, parts, order), caseId, requestKey: rowKey(sent) };
  const id = await once(context.store, sent, nowMs, (tx) => startRound(tx, machine.id, round, nowMs));
  return redirect(`/${params.machine}/round/${id}`);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

type Loaded = Route.ComponentProps["loaderData"];

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
            <Link className="button primary tall" style={{ width: "fit-content" }} to={`/${slug}/round/${open.id}`}>
              Go on with it
            </Link>
          </div>
        ) : (
          <>
            <div>
              <h1 className="verdict">
                {plan ? `${chosen?.name}: ${plan.minutes} minutes, ${plan.count} steps.` : "Which parts shall it be?"}
              </h1>
              <p className="lead">
                From making the machine safe to its proof. Dirt first, optics last: dust raised later lands on clean optics.
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
            <FormProblem errors={actionData?.errors} />
            {loaderData.parts ? <OwnChoice data={loaderData} /> : null}
            {plan && chosen ? (
              <section className="card strong stack loose">
                {loaderData.openAnyway.length > 0 ? (
                  <p>
                    <b>Open anyway:</b> {loaderData.openAnyway.map((p) => `${p.name} (${p.used})`).join(", ")}.{" "}
                    <Link to={`?${[...chosen.parts, ...loaderData.openAnyway.map((p) => p.id)].map((p) => `part=${p}`).join("&")}`}>
                      Take them along
                    </Link>
                  </p>
                ) : null}
                <div className="row">
                  <Form method="post">
                    <RequestKey value={keyAfter(actionData, loaderData.key)} />
                    <input type="hidden" name="title" value={chosen.name} />
                    <input type="hidden" name="order" value={chosen.order} />
                    {chosen.parts.map((p) => (
                      <input key={p} type="hidden" name="part" value={p} />
                    ))}
                    <button type="submit" className="button primary tall">
                      Start this round
                    </button>
                  </Form>
                  <Link
                    className="button tall"
                    to={`/${slug}/round/sheet?order=${chosen.order}&title=${encodeURIComponent(chosen.name)}&${chosen.parts.map((p) => `part=${p}`).join("&")}`}
                  >
                    On paper
                  </Link>
                  <span className="soft">
                    Optics{" "}
                    {(loaderData.direction ?? chosen.order) === "head-first"
                      ? "head first, then back to the tube"
                      : "tube first, along the beam"}
                  </span>
                </div>
                <div>
                  <h2 className="card-title" style={{ marginBottom: 10 }}>
                    Fetch first
                  </h2>
                  <Fetch list={plan.fetch} />
                </div>
                <div>
                  <h2 className="card-title" style={{ marginBottom: 4 }}>
                    The way through
                  </h2>
                  <ol className="lines plan">
                    {plan.groups.map((g, i) => (
                      // biome-ignore lint/suspicious/noArrayIndexKey: a part may come twice, its place tells them apart
                      <li key={i} className="plan-line">
                        <b>{g.part}</b>
                        <span>{g.titles.join(" ")}</span>
                        <span className="soft right nowrap">{g.minutes} min</span>
                      </li>
                    ))}
                  </ol>
                </div>
              </section>
            ) : null}
          </>
        )}
        {loaderData.past.length > 0 ? (
          <section>
            <h2 className="small-title">Rounds done</h2>
            <ul className="lines">
              {loaderData.past.map((r) => (
                <li key={r.id} className="between">
                  <span className="nowrap soft">{r.day}</span>
                  <Link className="grow" to={`/${slug}/round/${r.id}`}>
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

function OwnChoice({ data }: { data: Loaded }) {
  const [search] = useSearchParams();
  return (
    <Form method="get" className="card stack" key={search.toString()} preventScrollReset>
      <fieldset className="parts">
        <legend className="sr">Parts of this round</legend>
        {data.parts?.map((p) => (
          <label key={p.id} className="part">
            <input type="checkbox" name="part" value={p.id} defaultChecked={p.chosen} />
            <span className="grow">{p.name}</span>
            <span className={/over|now/.test(p.due) ? "hot small" : "soft small"}>{p.due}</span>
            <span className="soft small nowrap">{p.minutes} min</span>
          </label>
        ))}
      </fieldset>
      <button type="submit" className="button" style={{ width: "fit-content" }}>
        Plan these
      </button>
    </Form>
  );
}
