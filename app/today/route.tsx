/** Today: one sentence of verdict, one round offer, quick entries, the open case, the days to come. */
import "./today.css";
import { Descriptions } from "antd";
import { Link } from "react-router";
import { gatherOnce } from "#services/machine/gather";
import { todayView } from "#services/today/todayView";
import { number } from "#services/words";
import { reading } from "../server/reading";
import { Block } from "../ui/Block";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { More } from "../ui/More";
import { PowerCurve } from "../ui/PowerCurve";
import { unbroken } from "../ui/unbroken";
import type { Route } from "./+types/route";
import { Bad, Offer } from "./Offer";
import { QuickCut, QuickHours } from "./Quick";

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => ({
  ...(await todayView(context, await gatherOnce(context, params.machine))),
  keys: { round: context.freshKey(), quick: context.freshKey(), hours: context.freshKey(), cut: context.freshKey() },
}));

type Loaded = Route.ComponentProps["loaderData"];

export default function Today({ loaderData: data }: Route.ComponentProps) {
  const [newest] = data.openCases;
  return (
    <div className="place">
      <MachineRail />
      <main className="page columns today">
        <div className="stack loose">
          <Verdict data={data} />
          {/* On a phone the column beside comes last. */}
          {newest && data.openRoundId === undefined ? (
            <LinkButton className="narrow-only" type="primary" to={`/${data.slug}/trace/${newest.id}`}>
              Go on tracing
            </LinkButton>
          ) : null}
          {data.others.length > 0 ? (
            <nav className="others" aria-label="Other machines">
              {data.others.map((o) => (
                <Link key={o.slug} to={`/${o.slug}/today`}>
                  <b>{o.name}</b> <span className={o.hot ? "hot" : "soft"}>{o.words}</span>
                </Link>
              ))}
            </nav>
          ) : null}
          {!data.hasBaseline && newest === undefined && data.openRoundId === undefined && data.mayFire ? (
            <Block strong>
              <h2 className="card-title">First: is it good now?</h2>
              <div className="row">
                <LinkButton type="primary" to={`/${data.slug}/log?kind=ladder&baseline=1`}>
                  It cuts well: cut a ladder now
                </LinkButton>
                <LinkButton to={`/${data.slug}/trace`}>Something is weak</LinkButton>
              </div>
            </Block>
          ) : null}
          <Bad data={data} />
          <Offer data={data} />
          {data.chart.points.length > 1 ? (
            <section className="after-entry">
              <h2 className="small-title">Effective power, last 17 weeks</h2>
              <PowerCurve series={data.chart} />
            </section>
          ) : null}
        </div>
        <Beside data={data} />
      </main>
    </div>
  );
}

function Verdict({ data: { verdict } }: { data: Loaded }) {
  return (
    <div>
      <h1 className="verdict">
        {unbroken(verdict.headline)}
        {verdict.next ? (
          <>
            <br />
            {verdict.next}
          </>
        ) : null}
      </h1>
      <p className="lead">{unbroken(verdict.lead)}</p>
      {verdict.sum.length > 0 ? (
        <More label="Show the sum">
          <Descriptions
            column={1}
            size="small"
            items={verdict.sum.map((line) => ({ key: line.term, label: line.term, children: line.text }))}
          />
        </More>
      ) : null}
    </div>
  );
}

/** The column beside: the open case, what is entered on the spot, and what comes. */
function Beside({ data }: { data: Loaded }) {
  const { slug, openCases, lastProof } = data;
  return (
    <div className="stack loose">
      {openCases.map((c, i) => (
        <Block key={c.id} strong label="Open case">
          <p>
            <b className="card-lead">{c.title}</b>, since {c.since}
          </p>
          <p className="soft">{c.words}</p>
          <LinkButton to={`/${slug}/trace/${c.id}`} type={i === 0 && data.openRoundId === undefined ? "primary" : "default"}>
            Go on tracing
          </LinkButton>
        </Block>
      ))}
      <section className="stack">
        <h2 className="small-title">What happened?</h2>
        <QuickHours data={data} />
        <QuickCut data={data} />
        <div className="row">
          <LinkButton to={`/${slug}/log?kind=job`}>Job</LinkButton>
          <LinkButton to={`/${slug}/log?kind=ladder`}>Ladder</LinkButton>
          <LinkButton to={`/${slug}/log?kind=power`}>Watts</LinkButton>
          <LinkButton to={`/${slug}/trace`}>Weak cut?</LinkButton>
          <LinkButton to={`/${slug}/gate`}>Will it cut through?</LinkButton>
        </div>
      </section>
      {lastProof ? (
        <section>
          <h2 className="small-title">Last proof</h2>
          <p>
            {lastProof.material}, {lastProof.day}: {lastProof.baseline ? "the baseline, 100 %" : lastProof.words}
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
  );
}
