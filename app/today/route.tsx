/** Today: one sentence of verdict, one round offer, quick entries, the open case, the days to come. */
import { Link, useFetcher } from "react-router";
import { eventsOf } from "#core/events";
import { foulingOf } from "#core/wear";
import { offerOf } from "../round/offer";
import { MachineRail } from "../shell/route";
import { answered } from "../trace/answered";
import { caseFindings, traceInput } from "../trace/caseInput";
import { faultName } from "../trace/words";
import { Choices, NumberField, Posted, RequestKey, SelectField } from "../ui/fields";
import { PowerChart } from "../ui/PowerChart";
import { type Gathered, gatherOnce, standingFindings } from "../workshop/gather";
import { powerSeries } from "../workshop/powerSeries";
import { planOf } from "../workshop/trade";
import { chance, materialName, number, ratioWords, shortDay, sinceDay, theStation } from "../workshop/words";
import type { Route } from "./+types/route";
import { verdict } from "./verdict";

const DAY_MS = 86_400_000;
const CHART_DAYS = 17 * 7;

/** A usual cut that failed after the last ladder speaks louder than any estimate. */
function lastCutWords(g: Gathered): string | undefined {
  const cut = eventsOf(g.events, "cut").at(-1);
  const ladder = g.ladders.at(-1);
  if (!cut || cut.payload.result === "through" || cut.atMs < (ladder?.event.atMs ?? 0)) return undefined;
  return `But the last cut ${cut.payload.result === "hangs" ? "hung" : "did not go through"}: trace it, or cut a ladder.`;
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const offer = offerOf(g);
  const firstDue = g.due.find((d) => d.state === "due" && g.trade.layout.stations.some((s) => s.id === d.station));
  let openCase: { id: number; title: string; since: string; words: string } | undefined;
  if (g.openCase) {
    const findings = caseFindings(g, g.openCase, await standingFindings(context, g.openCase.id));
    const answer = answered(g.trade.model, traceInput(g, g.openCase, findings));
    const lead = answer.faults.slice(0, 2).map((f) => `${faultName(g.trade, f.id)} ${chance(f.probability)}`);
    openCase = { id: g.openCase.id, title: g.openCase.title, since: sinceDay(g.openCase.onsetMs, g.nowMs), words: `${lead.join(", ")}.` };
  }
  const lastLadder = g.ladders.filter((l) => l.event.atMs <= g.nowMs).at(-1);
  const worst = [...g.doses]
    .filter(([id]) => id !== "nozzle" && g.trade.layout.intervalPlyHours[id] !== undefined)
    .map(([id, dose]) => ({ id, loss: foulingOf(dose, g.trade.layout.intervalPlyHours[id] as number) }))
    .sort((a, b) => b.loss - a.loss)[0];
  const coming = g.due
    .filter((d) => d.dueMs !== undefined && d.state !== "due" && d.dueMs - g.nowMs < 14 * DAY_MS)
    .sort((a, b) => (a.dueMs ?? 0) - (b.dueMs ?? 0))
    .slice(0, 5)
    .map((d) => {
      const rule = g.trade.tasks.find((t) => t.id === d.id);
      return { id: d.id, day: shortDay(d.dueMs as number), text: `${rule?.name}: ${rule?.does}`, minutes: d.minutes };
    });
  return {
    slug: g.machine.slug,
    verdict: verdict(
      g,
      firstDue && `Look at ${theStation(g.trade.layout.names[firstDue.station] ?? firstDue.station)} before the first job.`,
      openCase ? `A trace is open: ${openCase.title.charAt(0).toLowerCase()}${openCase.title.slice(1)}.` : lastCutWords(g),
    ),
    hasBaseline: g.baseline !== undefined,
    others: await Promise.all(
      g.machines.filter((m) => m.id !== g.machine.id).map(async (m) => otherMachine(await gatherOnce(context, m.slug))),
    ),
    openRoundId: g.openRound?.id,
    offer,
    quick:
      offer.lines.length > 1 && offer.lines.some((l) => l.id === "lens")
        ? { parts: ["lens"], minutes: planOf(g.trade, ["lens"]).minutes }
        : undefined,
    worst: worst && worst.loss > 0.01 ? theStation(g.trade.layout.names[worst.id] ?? worst.id) : undefined,
    openCase,
    counter: g.usage.lastCounter && { hours: number(g.usage.lastCounter.counterHours), since: sinceDay(g.usage.lastCounter.atMs, g.nowMs) },
    lastProof: lastLadder && {
      day: sinceDay(lastLadder.event.atMs, g.nowMs),
      words: ratioWords(lastLadder.effective),
      material: materialName(lastLadder.material),
      baseline: lastLadder.event.payload.baseline === true,
    },
    chart: powerSeries(g, g.nowMs - CHART_DAYS * DAY_MS),
    coming,
    materials: g.materials.map((m) => ({
      id: m.id,
      label: materialName(m),
      speed: m.usualSpeedMmPerS === undefined ? "" : number(m.usualSpeedMmPerS),
      setPercent: m.usualSetPercent === undefined ? "" : number(m.usualSetPercent, 0),
    })),
    keys: { round: context.freshKey(), quick: context.freshKey(), hours: context.freshKey(), cut: context.freshKey() },
  };
}

/** Another machine of the workshop in a few words: what matters most about it now. */
function otherMachine(g: Gathered): { slug: string; name: string; words: string; hot: boolean } {
  const due = g.due.filter((d) => d.state === "due").length;
  const [words, hot] = g.openRound
    ? ["apart: do not fire", true]
    : g.openCase
      ? [`trace open: ${g.openCase.title.charAt(0).toLowerCase()}${g.openCase.title.slice(1)}`, false]
      : due > 0
        ? [due === 1 ? "one thing due" : `${due} things due`, false]
        : ["nothing due", false];
  return { slug: g.machine.slug, name: g.machine.name, words: words as string, hot: hot as boolean };
}

type Loaded = Route.ComponentProps["loaderData"];

function Offer({ data }: { data: Loaded }) {
  const { offer, slug } = data;
  if (data.openRoundId !== undefined) {
    return (
      <section className="card strong stack">
        <h2 className="card-title">The round is open</h2>
        <p>
          <Link className="button primary" to={`/${slug}/round/${data.openRoundId}`}>
            Go on with it
          </Link>
        </p>
      </section>
    );
  }
  return (
    <section className="card strong" aria-label="Round offered">
      <div className="between" style={{ marginBottom: 12 }}>
        <h2 className="card-title">
          {offer.anyDue
            ? `One round does it: ${number(offer.minutes, 0)} minutes`
            : `Nothing is due. Next in turn: ${number(offer.minutes, 0)} minutes`}
        </h2>
        <span className="soft hide-narrow">proof included</span>
      </div>
      <ul className="lines">
        {offer.lines.map((line) => (
          <li className="offer-line" key={line.id}>
            <b>{line.name}</b>
            <span>{line.does}</span>
            <span className={line.late ? "hot" : "soft"}>{line.due}</span>
            <span className="right nowrap">{number(line.minutes)} min</span>
          </li>
        ))}
        <li className="offer-line">
          <b>Proof</b>
          <span>speed ladder</span>
          <span />
          <span className="right nowrap">6 min</span>
        </li>
      </ul>
      <div className="row" style={{ marginTop: 12 }}>
        <RoundStart
          slug={slug}
          parts={offer.parts}
          requestKey={data.keys.round}
          primary={!data.openCase && data.hasBaseline}
          label="Start this round"
        />
        {data.quick ? (
          <RoundStart
            slug={slug}
            parts={data.quick.parts}
            requestKey={data.keys.quick}
            label={`Only the lens, ${number(data.quick.minutes, 0)} min`}
          />
        ) : null}
      </div>
    </section>
  );
}

function RoundStart({
  slug,
  parts,
  requestKey,
  label,
  primary,
}: {
  slug: string;
  parts: readonly string[];
  requestKey: string;
  label: string;
  primary?: boolean;
}) {
  return (
    <Posted action={`/${slug}/round`}>
      <RequestKey value={requestKey} />
      {parts.map((p) => (
        <input key={p} type="hidden" name="part" value={p} />
      ))}
      <button type="submit" className={primary ? "button primary" : "button"}>
        {label}
      </button>
    </Posted>
  );
}

interface Saved {
  readonly saved?: string;
  readonly errors?: Record<string, string>;
  readonly typed?: Record<string, string>;
  readonly ask?: string;
  readonly key?: string;
}

function QuickHours({ data }: { data: Loaded }) {
  const fetcher = useFetcher<Saved>();
  const answer = fetcher.data;
  return (
    <fetcher.Form method="post" action={`/${data.slug}/log`} className="card stack quick" key={data.keys.hours}>
      <input type="hidden" name="kind" value="hours" />
      <RequestKey value={answer?.key ?? data.keys.hours} />
      <div className="inline">
        <NumberField
          name="counterHours"
          label="Hours on the counter"
          unit="h"
          error={answer?.errors?.counterHours}
          hint={data.counter ? `${data.counter.hours} h ${data.counter.since}` : "as the panel shows them"}
          defaultValue={answer?.errors ? answer.typed?.counterHours : undefined}
        />
        <button className="button" type="submit" disabled={fetcher.state !== "idle"}>
          Save hours
        </button>
      </div>
      {answer?.ask ? (
        <Choices
          name="because"
          label={answer.ask}
          options={[
            { value: "tube-changed", label: "new tube" },
            { value: "counter-changed", label: "new or reset counter" },
          ]}
        />
      ) : null}
      {answer?.saved ? <span role="status">{answer.saved}</span> : null}
    </fetcher.Form>
  );
}

function QuickCut({ data }: { data: Loaded }) {
  const fetcher = useFetcher<Saved>();
  const answer = fetcher.data;
  const first = data.materials[0];
  return (
    <fetcher.Form method="post" action={`/${data.slug}/log`} className="card stack quick" key={data.keys.cut}>
      <input type="hidden" name="kind" value="cut" />
      <RequestKey value={answer?.key ?? data.keys.cut} />
      <SelectField
        name="materialId"
        label="Last cut, at your usual setting"
        options={data.materials.map((m) => ({ value: String(m.id), label: m.label }))}
        defaultValue={answer?.typed?.materialId}
      />
      <div className="fields" style={{ gridTemplateColumns: "1fr 1fr" }}>
        <NumberField
          name="speedMmPerS"
          label="Speed"
          unit="mm/s"
          defaultValue={answer?.typed?.speedMmPerS ?? first?.speed}
          error={answer?.errors?.speedMmPerS}
        />
        <NumberField
          name="setPercent"
          label="Power"
          unit="%"
          defaultValue={answer?.typed?.setPercent ?? first?.setPercent}
          error={answer?.errors?.setPercent}
        />
      </div>
      <Choices
        name="result"
        label="It went"
        error={answer?.errors?.result}
        options={[
          { value: "through", label: "through" },
          { value: "hangs", label: "hangs" },
          { value: "part-through", label: "part" },
          { value: "surface-only", label: "surface" },
        ]}
      />
      <div className="row">
        <button className="button" type="submit" disabled={fetcher.state !== "idle"}>
          Save cut
        </button>
        {answer?.saved ? <span role="status">{answer.saved}</span> : null}
      </div>
    </fetcher.Form>
  );
}

export default function Today({ loaderData: data }: Route.ComponentProps) {
  const { slug } = data;
  return (
    <div className="place">
      <MachineRail />
      <main className="page columns">
        <div className="stack loose">
          <div>
            <h1 className="verdict">
              {data.verdict.headline}
              {data.verdict.next ? (
                <>
                  <br />
                  {data.verdict.next}
                </>
              ) : null}
            </h1>
            <p className="lead">
              {data.verdict.lead}
              {data.worst && data.hasBaseline && data.openRoundId === undefined ? ` Most of the dirt should be on ${data.worst}.` : ""}
            </p>
            {data.verdict.sum.length > 0 ? (
              <details>
                <summary>Show the sum</summary>
                <table className="plain small">
                  <tbody>
                    {data.verdict.sum.map((line) => (
                      <tr key={line.term}>
                        <th scope="row">{line.term}</th>
                        <td>{line.text}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </details>
            ) : null}
          </div>
          {data.others.length > 0 ? (
            <nav className="others" aria-label="Other machines">
              {data.others.map((o) => (
                <Link key={o.slug} to={`/${o.slug}/today`}>
                  <b>{o.name}</b> <span className={o.hot ? "hot" : "soft"}>{o.words}</span>
                </Link>
              ))}
            </nav>
          ) : null}
          {!data.hasBaseline && data.openRoundId === undefined ? (
            <section className="card strong stack">
              <h2 className="card-title">First: is it good now?</h2>
              <div className="row">
                <Link className="button primary" to={`/${slug}/log?kind=ladder&baseline=1`}>
                  It cuts well: cut a ladder now
                </Link>
                <Link className="button" to={`/${slug}/trace`}>
                  Something is weak
                </Link>
              </div>
            </section>
          ) : null}
          <Offer data={data} />
          {data.chart.points.length > 1 ? (
            <section>
              <h2 className="small-title">Effective power, last 17 weeks</h2>
              <PowerChart series={data.chart} />
            </section>
          ) : null}
        </div>
        <div className="stack loose">
          {data.openCase ? (
            <section className="card strong stack" aria-label="Open case">
              <p>
                <b style={{ fontSize: 17 }}>{data.openCase.title}</b>, since {data.openCase.since}
              </p>
              <p className="soft">{data.openCase.words}</p>
              <Link
                to={`/${slug}/trace/${data.openCase.id}`}
                className={data.openRoundId === undefined ? "button primary" : "button"}
                style={{ width: "fit-content" }}
              >
                Go on tracing
              </Link>
            </section>
          ) : null}
          <section className="stack">
            <h2 className="small-title" style={{ margin: 0 }}>
              What happened?
            </h2>
            <QuickHours data={data} />
            <QuickCut data={data} />
            <div className="row">
              <Link className="button" to={`/${slug}/log?kind=job`}>
                Job
              </Link>
              <Link className="button" to={`/${slug}/log?kind=ladder`}>
                Ladder
              </Link>
              <Link className="button" to={`/${slug}/log?kind=power`}>
                Watts
              </Link>
              <Link className="button" to={`/${slug}/trace`}>
                Weak cut?
              </Link>
            </div>
          </section>
          {data.lastProof ? (
            <section>
              <h2 className="small-title">Last proof</h2>
              <p>
                {data.lastProof.material}, {data.lastProof.day}: {data.lastProof.baseline ? "the baseline, 100 %" : data.lastProof.words}
              </p>
            </section>
          ) : null}
          {data.coming.length > 0 ? (
            <section>
              <h2 className="small-title">Next days, at your pace</h2>
              <ul className="lines">
                {data.coming.map((c) => (
                  <li key={c.id} className="between">
                    <span className="nowrap">{c.day}</span>
                    <span className="grow">{c.text}</span>
                    <span className="soft nowrap">{number(c.minutes)} min</span>
                  </li>
                ))}
              </ul>
            </section>
          ) : null}
        </div>
      </main>
    </div>
  );
}
