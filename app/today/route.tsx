/** Today: one sentence of verdict, one round offer, quick entries, the open case, the days to come. */
import "./today.css";
import { Descriptions } from "antd";
import { Suspense, useCallback, useState } from "react";
import { Link } from "react-router";
import { inHaste } from "#services/context";
import { gatherOnce } from "#services/machine/gather";
import { todayView, type WeighedToday } from "#services/today/todayView";
import { wholeMinutes } from "#services/words";
import { reading } from "../server/reading";
import { Block } from "../ui/Block";
import { fetched } from "../ui/fetched";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { More } from "../ui/More";
import { Notice } from "../ui/Notice";
import { PowerCurve } from "../ui/PowerCurve";
import { Term } from "../ui/Term";
import { unbroken } from "../ui/unbroken";
import { useWeighed } from "../ui/useWeighed";
import type { Route } from "./+types/route";
import { Also, First } from "./First";
import { QuickCut, QuickHours } from "./Quick";

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => {
  const hasty = inHaste(context);
  const view = await todayView(hasty, await gatherOnce(context, params.machine));
  // What is behind is behind for a moment.
  if (hasty.haste.isBehind) context.personal();
  return {
    ...view,
    isBehind: hasty.haste.isBehind,
    keys: {
      round: context.freshKey(),
      quick: context.freshKey(),
      hours: context.freshKey(),
      cut: context.freshKey(),
      line: context.freshKey(),
    },
  };
});

type Loaded = Route.ComponentProps["loaderData"];

/** Grammar and list of completions come after the page. */
const EntryLine = fetched(() => import("../ui/EntryLine").then((m) => m.EntryLine));

/** The page with what came of weighing its cases. It is put in by itself: what is half filled in beside it stays. */
function useFresh(loaded: Loaded): Loaded {
  const [fresh, setFresh] = useState<{ readonly of: object; readonly weighed: WeighedToday }>();
  const tell = useCallback((weighed: WeighedToday, of: object) => setFresh({ of, weighed }), []);
  useWeighed(loaded.slug, loaded.isBehind ? loaded : undefined, tell);
  return fresh?.of === loaded ? { ...loaded, ...fresh.weighed } : loaded;
}

export default function Today({ loaderData }: Route.ComponentProps) {
  const data = useFresh(loaderData);
  return (
    <div className="place">
      <MachineRail />
      <main className="page columns today">
        <div className="stack loose">
          {data.machines.length > 0 ? (
            <nav className="machines" aria-label="Machines">
              {data.machines.map((m) => (
                <Link key={m.slug} to={`/${m.slug}/today`} aria-current={m.here ? "page" : undefined}>
                  <b>{m.name}</b> <span className={m.hot ? "hot" : "soft"}>{m.words}</span>
                </Link>
              ))}
            </nav>
          ) : null}
          <Verdict data={data} />
          {data.copyTrouble ? (
            <Notice kind="problem">
              {data.copyTrouble} <Link to={`/${data.slug}/workshop?tab=files`}>Copies</Link>
            </Notice>
          ) : null}
          <First data={data} />
          <Also data={data} />
          {data.chart.points.length > 1 ? (
            <section className="after-entry">
              <h2 className="small-title">
                <Term id="percent-of-best" />, last 17 weeks
              </h2>
              <PowerCurve series={data.chart} />
            </section>
          ) : null}
        </div>
        <Beside data={data} />
      </main>
    </div>
  );
}

function Verdict({ data: { verdict, slug } }: { data: Loaded }) {
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
      {verdict.tell ? (
        <p>
          <LinkButton to={`/${slug}/${verdict.tell.to}`}>{verdict.tell.label}</LinkButton>
        </p>
      ) : null}
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

/** The column beside: what is entered on the spot, and what comes. */
function Beside({ data }: { data: Loaded }) {
  const { slug, lastProof } = data;
  return (
    <div className="stack loose">
      <section className="stack">
        <h2 className="small-title">What happened?</h2>
        <Suspense fallback={<div className="entry-line-place" />}>
          <EntryLine key={data.keys.line} vocabulary={data.vocabulary} requestKey={data.keys.line} action={`/${slug}/log`} />
        </Suspense>
        <QuickCut data={data} />
        {data.hasCounter ? <QuickHours data={data} /> : null}
        <div className="row">
          <LinkButton to={`/${slug}/log?kind=job`}>Job</LinkButton>
          <LinkButton to={`/${slug}/log?kind=ladder`}>Ladder</LinkButton>
          <LinkButton to={`/${slug}/log?kind=power`}>Watts</LinkButton>
          <LinkButton to={`/${slug}/trace`}>Weak cut?</LinkButton>
        </div>
      </section>
      <Block>
        <h2 className="card-title">Before a long job</h2>
        <LinkButton to={`/${slug}/gate`}>Will it cut through?</LinkButton>
      </Block>
      {lastProof ? (
        <section>
          <h2 className="small-title">
            Last <Term id="final-test" />
          </h2>
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
                <span className="soft nowrap">{wholeMinutes(c.minutes)} min</span>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
    </div>
  );
}
