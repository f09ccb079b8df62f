/** A round on paper: every step with its agents, cautions and a box to tick, for a workshop without a screen. */
import { data, Link } from "react-router";
import { findRound } from "#store/rounds";
import { gatherOnce } from "../workshop/gather";
import { planOf, planOfRound, titleOf } from "../workshop/trade";
import { dayAndTime, number } from "../workshop/words";
import type { Route } from "./+types/sheet";
import { Fetch } from "./Fetch";
import { validParts } from "./scopes";

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const search = new URL(request.url).searchParams;
  const roundId = Number(search.get("round") ?? 0);
  const round = roundId > 0 ? await findRound(context.store, g.machine.id, roundId) : undefined;
  const parts = round ? undefined : validParts(g.trade, search.getAll("part"));
  if (!round && !parts) throw data("This sheet names no round and no parts of this machine.", { status: 404 });
  const order = search.get("order") === "tube-first" ? "tube-first" : "head-first";
  const plan = round ? planOfRound(g.trade, round) : planOf(g.trade, parts ?? [], order);
  return {
    slug: g.machine.slug,
    machine: g.machine.name,
    title: (round?.title ?? search.get("title") ?? titleOf(g.trade, parts ?? [])).slice(0, 80),
    day: dayAndTime(g.nowMs),
    minutes: number(plan.minutes, 0),
    fetch: plan.fetch,
    steps: plan.steps,
    back: round ? `/${g.machine.slug}/round/${round.id}` : `/${g.machine.slug}/round`,
  };
}

export default function Sheet({ loaderData: d }: Route.ComponentProps) {
  return (
    <main className="page sheet stack loose">
      <div className="row no-print">
        <button type="button" className="button primary" onClick={() => window.print()}>
          Print
        </button>
        <Link className="button" to={d.back}>
          Back
        </Link>
      </div>
      <div>
        <h1 className="verdict">
          {d.machine}: {d.title}
        </h1>
        <p className="soft">
          {d.day} · about {d.minutes} minutes · the maker's manual, local codes and qualified people come first
        </p>
      </div>
      <Fetch list={d.fetch} />
      <ol className="sheet-steps">
        {d.steps.map((s) => (
          <li key={s.id} className="sheet-step">
            <i className="sheet-box" aria-hidden="true" />
            <div>
              <b>{s.title}</b> <span className="soft small">{s.part}</span>
              <p>{s.text}</p>
              {s.caution ? <p className="caution">{s.caution}</p> : null}
              {s.agents ? <p className="small">With: {s.agents.map((a) => a.name).join(", ")}.</p> : null}
              {s.refused ? <p className="small">Never: {s.refused.map((r) => r.name).join(", ")}.</p> : null}
              {s.kind === "grade" ? <p className="small">clear · haze · film · spots · damaged</p> : null}
            </div>
          </li>
        ))}
      </ol>
    </main>
  );
}
