/** Plan: the rounds of the next sixty days on a calendar, what each task follows and why, and the supplies they take. */
import "./plan.css";
import { useEffect } from "react";
import { data, Form, useRevalidator } from "react-router";
import { trouble } from "#services/forms/fields";
import { gather, gatherOnce } from "#services/machine/gather";
import { actOnPlan } from "#services/plan/act";
import { feedOf } from "#services/plan/feed";
import { planView } from "#services/plan/planView";
import { suppliesView } from "#services/supplies/suppliesView";
import { reading } from "../server/reading";
import { saving } from "../server/saving";
import { Submit } from "../ui/form/Posted";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { Notice } from "../ui/Notice";
import { sendKept } from "../ui/sending";
import { unbroken } from "../ui/unbroken";
import type { Route } from "./+types/route";
import { Calendar } from "./Calendar";
import { Days } from "./Days";
import { RoundCard } from "./RoundCard";
import { Supplies } from "./Supplies";
import { TaskList } from "./Tasks";

const TABS = [
  { id: "calendar", name: "Calendar" },
  { id: "tasks", name: "Tasks" },
  { id: "supplies", name: "Supplies" },
  { id: "days", name: "Days and minutes" },
] as const;

export const loader = reading(async ({ params, request, context }: Route.LoaderArgs) => {
  const g = await gatherOnce(context, params.machine);
  const search = new URL(request.url).searchParams;
  const tab = TABS.find((t) => t.id === search.get("tab"))?.id ?? "calendar";
  const supplies = tab === "supplies" ? await suppliesView(context, g) : undefined;
  const feed = context.lanUrls.length > 0 ? await feedOf(context, g.machine.id) : undefined;
  // A secret is in nobody else's page.
  if (feed !== undefined) context.personal();
  return {
    ...(await planView(context, g, search)),
    tab,
    supplies,
    isLan: context.lanUrls.length > 0,
    feed: feed && `${context.lanUrls[0]}feed/${feed}.ics`,
  };
});

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const result = await actOnPlan(context, await gather(context, params.machine), reader);
  if ("errors" in result) return data({ ...trouble(reader, result.errors), said: undefined }, { status: 400 });
  return { said: result.said, errors: {}, typed: {} };
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

type Loaded = Route.ComponentProps["loaderData"];

/** As long as a better plan is looked for the page asks for it now and then. */
const AGAIN_MS = 2500;
function useBetterPlan(isSettled: boolean): void {
  const { revalidate, state } = useRevalidator();
  useEffect(() => {
    if (isSettled || state !== "idle") return undefined;
    const timer = setTimeout(() => void revalidate(), AGAIN_MS);
    return () => clearTimeout(timer);
  }, [isSettled, state, revalidate]);
}

export default function Plan({ loaderData: d, actionData }: Route.ComponentProps) {
  useBetterPlan(d.isSettled);
  const answer = actionData as { said?: string; errors?: Record<string, string>; typed?: Record<string, string> } | undefined;
  const problem = answer?.errors?.[""] ?? answer?.errors?.to;
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <div>
          <h1 className="verdict">
            {unbroken(d.headline)}
            {d.next ? (
              <>
                <br />
                {unbroken(d.next)}
              </>
            ) : null}
          </h1>
          <p className="lead">{unbroken(d.lead)}</p>
        </div>
        <div className="row">
          <nav className="row tight tabs" aria-label="Parts of the plan">
            {TABS.map((t) => (
              <LinkButton key={t.id} to={`?tab=${t.id}`} aria-current={d.tab === t.id ? "page" : undefined}>
                {t.name}
              </LinkButton>
            ))}
          </nav>
          <span className="soft">{d.days.words}</span>
        </div>
        {problem ? <Notice kind="problem">{problem}</Notice> : null}
        {answer?.said ? <Notice kind="said">{answer.said}</Notice> : null}
        <Tab d={d} answer={answer} />
      </main>
    </div>
  );
}

function Tab({ d, answer }: { d: Loaded; answer: { errors?: Record<string, string>; typed?: Record<string, string> } | undefined }) {
  const state = { errors: answer?.errors ?? {}, typed: answer?.typed ?? {} };
  switch (d.tab) {
    case "tasks":
      return <TaskList d={d} state={state} />;
    case "supplies":
      return d.supplies ? <Supplies supplies={d.supplies} slug={d.slug} state={state} /> : null;
    case "days":
      return <Days days={d.days} state={state} />;
    default:
      return <CalendarTab d={d} />;
  }
}

function CalendarTab({ d }: { d: Loaded }) {
  return (
    <div className="columns wide-side">
      <div className="stack loose">
        {d.hasPace ? null : (
          <Notice kind="doubt">No use was logged in the last four weeks: only what goes by days can be planned. Log hours or jobs.</Notice>
        )}
        <Calendar d={d} />
        {d.late.length > 0 ? (
          <section>
            <h2 className="small-title">Later than its interval</h2>
            <ul className="lines">
              {d.late.map((l) => (
                <li key={l.id} className="between">
                  <b>{l.name}</b>
                  <span className="hot">
                    {l.from === "Today" ? "overdue today" : `overdue from ${l.from}`}
                    {l.until
                      ? `, in the round of ${l.until === "Today" ? "today" : l.until}`
                      : ", and in no round: give some day more minutes"}
                  </span>
                </li>
              ))}
            </ul>
          </section>
        ) : null}
        {d.byOthers.length > 0 ? (
          <section>
            <h2 className="small-title">To book with somebody else</h2>
            <ul className="lines">
              {d.byOthers.map((t) => (
                <li key={t.id} className="stack tight">
                  <span className="between">
                    <b>{t.name}</b>
                    <span className="soft nowrap">
                      {t.day}
                      {t.cost ? `, ${t.cost}` : ""}
                    </span>
                  </span>
                  {t.list.length > 0 ? <span className="soft">To show or ask: {t.list.join("; ")}.</span> : null}
                </li>
              ))}
            </ul>
          </section>
        ) : null}
        <OwnCalendar d={d} />
      </div>
      <div className="stack loose">
        {d.chosen ? <RoundCard d={d} round={d.chosen} /> : null}
        <Compared d={d} />
      </div>
    </div>
  );
}

/** The plan in the owner's own calendar: as a file, and in the workshop's network as an address that a calendar reads by itself. */
function OwnCalendar({ d }: { d: Loaded }) {
  return (
    <section className="stack tight">
      <h2 className="small-title">In your own calendar</h2>
      <Form method="post" action={`/${d.slug}/plan/calendar`} reloadDocument>
        <Submit>A file for your calendar</Submit>
      </Form>
      <p className="soft small">Import it again after a change: the same rounds move, and what is no longer planned is called off.</p>
      {d.isLan ? (
        <Form method="post" className="stack tight" preventScrollReset>
          {d.feed ? (
            <>
              <p>
                Subscribe to <code className="plan-feed">{d.feed}</code>
              </p>
              <p className="soft small">Whoever has this address reads titles, minutes and what to fetch, and nothing else.</p>
              <div className="row">
                <Submit name="intent" value="revoke">
                  Revoke it
                </Submit>
                <Submit name="intent" value="feed">
                  Another address instead
                </Submit>
              </div>
            </>
          ) : (
            <div>
              <Submit name="intent" value="feed">
                An address to subscribe to
              </Submit>
            </div>
          )}
        </Form>
      ) : null}
    </section>
  );
}

/** What the plan takes beside other ways of doing the same. */
function Compared({ d: { total, compared, isSettled } }: { d: Loaded }) {
  return (
    <section>
      <h2 className="small-title">Minutes in these sixty days</h2>
      <ul className="lines">
        <li className="between">
          <b>This plan</b>
          <span className="nowrap">{total} min</span>
        </li>
        <li className="between">
          <span>Each task by itself</span>
          <span className="nowrap">{compared.alone.minutes} min</span>
        </li>
        {compared.schools.map((s) => (
          <li key={s.id} className="between">
            <span>All by the {s.name} school, grouped</span>
            <span className="nowrap">{s.minutes} min</span>
          </li>
        ))}
      </ul>
      {isSettled ? null : (
        <p className="soft small" role="status">
          A plan that takes less is being looked for.
        </p>
      )}
    </section>
  );
}
