/** Round: choose what to do; see steps, minutes and what to fetch before it starts. */
import { randomUUID } from "node:crypto";
import { Link, redirect } from "react-router";
import { startRound } from "#store/rounds";
import { FormReader } from "../server/forms";
import { MachineRail } from "../shell/route";
import { RequestKey } from "../ui/fields";
import { findMachine, gatherOnce } from "../workshop/gather";
import { headParts, partOfTask, planOf, procedureOf, tradeOf } from "../workshop/trade";
import { number, shortDay } from "../workshop/words";
import type { Route } from "./+types/route";
import { offerOf } from "./offer";

export async function loader({ params, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const offerCard = (title: string, why: string, parts: readonly string[]) => {
    const plan = planOf(g.trade, parts);
    return { title, why, parts, minutes: number(plan.minutes), steps: plan.steps.map((s) => s.title), tools: plan.tools };
  };
  const offers = [offerCard("Lens and head mirror", "The quick one: where the smoke is.", headParts(g.trade))];
  const due = offerOf(g);
  if (due.anyDue) offers.unshift(offerCard("What is due", due.lines.map((l) => `${l.name}: ${l.due}`).join(", "), due.parts));
  offers.push(offerCard("Only the lens", "Ten seconds of looking, a few minutes of cleaning.", ["lens"]));
  const optics = g.trade.tasks.filter((t) => g.trade.layout.stations.some((s) => s.id === t.station)).map((t) => partOfTask(t.id));
  offers.push(offerCard("All optics", "Head first, then back towards the tube.", optics));
  return {
    slug: g.machine.slug,
    open: g.openRound && { id: g.openRound.id, title: g.openRound.title },
    offers: offers.map((o) => ({ ...o, key: randomUUID() })),
    past: g.rounds
      .filter((r) => r.status !== "open")
      .slice(0, 12)
      .map((r) => ({ id: r.id, title: r.title, day: shortDay(r.startedMs), ended: r.status })),
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const reader = new FormReader(await request.formData());
  const { machine } = await findMachine(context, params.machine);
  const trade = tradeOf(machine.layout);
  const parts = [...new Set(reader.all("part"))];
  if (parts.length === 0 || parts.some((p) => procedureOf(trade, p) === undefined)) {
    throw new Response("This round names a part the machine does not have. Go back and choose again.", { status: 400 });
  }
  const head = headParts(trade);
  const names = parts.map((p) => procedureOf(trade, p)?.name ?? p);
  const title =
    reader.text("title") ??
    (parts.length === head.length && head.every((p) => parts.includes(p))
      ? "Lens and head mirror"
      : names.length > 3
        ? `${names.slice(0, 2).join(", ")} and ${names.length - 2} more`
        : names.join(", "));
  const caseId = Number(reader.text("caseId") ?? 0) || undefined;
  const id = await startRound(
    context.store,
    machine.id,
    { title: title.slice(0, 80), parts, caseId, requestKey: reader.requestKey },
    context.nowMs(),
  );
  return redirect(`/${params.machine}/round/${id}`);
}

export default function Rounds({ loaderData }: Route.ComponentProps) {
  const { slug } = loaderData;
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <div>
          <h1 className="verdict">{loaderData.open ? `“${loaderData.open.title}” is open.` : "Which round?"}</h1>
          <p className="lead">
            {loaderData.open
              ? "One round at a time: finish this one first."
              : "Every round begins with making the machine safe and ends with a ladder as its proof."}
          </p>
        </div>
        {loaderData.open ? (
          <Link className="button primary tall" style={{ width: "fit-content" }} to={`/${slug}/round/${loaderData.open.id}`}>
            Go on with it
          </Link>
        ) : (
          loaderData.offers.map((offer, i) => (
            <section className={i === 0 ? "card strong stack" : "card stack"} key={offer.title}>
              <div className="between">
                <h2 className="card-title">{offer.title}</h2>
                <b className="nowrap">{offer.minutes} min</b>
              </div>
              <p className="soft">{offer.why}</p>
              <p>
                <span className="soft">Fetch:</span> {offer.tools.join(", ")}.
              </p>
              <details>
                <summary>{offer.steps.length} steps</summary>
                <ol className="small">
                  {offer.steps.map((s) => (
                    <li key={s}>{s}</li>
                  ))}
                </ol>
              </details>
              <form method="post">
                <RequestKey value={offer.key} />
                <input type="hidden" name="title" value={offer.title} />
                {offer.parts.map((p) => (
                  <input key={p} type="hidden" name="part" value={p} />
                ))}
                <button type="submit" className={i === 0 ? "button primary" : "button"}>
                  Start
                </button>
              </form>
            </section>
          ))
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
