/** An open case: what is most likely, the next check as one card, the reasons, and at the end the repair. Closed, it is a report. */

import "./trace.css";
import { data, Form, Link, redirect, useNavigation, useRevalidator } from "react-router";
import { actByForm } from "#services/cases/act";
import { caseView } from "#services/cases/caseView";
import { inHaste } from "#services/context";
import { recordId, trouble } from "#services/forms/fields";
import { gatherOnce } from "#services/machine/gather";
import { reading } from "../server/reading";
import { saving } from "../server/saving";
import { Block } from "../ui/Block";
import { counted } from "../ui/counted";
import { FormProblem, RequestKey, Submit } from "../ui/form/Posted";
import { SelectField } from "../ui/form/SelectField";
import { Fields, type FormState } from "../ui/form/state";
import { TextField } from "../ui/form/TextField";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { More } from "../ui/More";
import { Notice } from "../ui/Notice";
import { keyAfter, sendKept } from "../ui/sending";
import { unbroken } from "../ui/unbroken";
import { useWeighed } from "../ui/useWeighed";
import type { Route } from "./+types/case";
import { Answered, TakeBack } from "./Answered";
import { CheckCard, Title } from "./CheckCard";
import { Reasons } from "./Reasons";
import { RepairDirect, RepairStart } from "./RepairStart";

export const loader = reading(async ({ params, request, context }: Route.LoaderArgs) => {
  const g = await gatherOnce(context, params.machine);
  const hasty = inHaste(context);
  const view = await caseView(hasty, g, recordId(params.caseId), new URL(request.url).searchParams.get("check"));
  // What is behind is behind for a moment.
  if (hasty.haste.isBehind) context.personal();
  return {
    ...view,
    keys: { answer: context.freshKey(), repair: context.freshKey(), straight: context.freshKey(), also: context.freshKey() },
  };
});

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const act = await actByForm(context, params.machine, recordId(params.caseId), reader);
  if ("errors" in act) return data(trouble(reader, act.errors), { status: 400 });
  return redirect(`/${params.machine}/trace/${params.caseId}`);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

type Loaded = Route.ComponentProps["loaderData"];

export default function Case({ loaderData: loaded, actionData }: Route.ComponentProps) {
  const { view } = loaded;
  const isBehind = view.isBehind === true && loaded.closed === undefined;
  const { revalidate } = useRevalidator();
  useWeighed(loaded.slug, isBehind ? loaded : undefined, revalidate);
  // What is clear enough to repair is not asked on, unless its owner wants to.
  const isBroken = view.broken !== undefined && loaded.closed === undefined;
  const card = isBroken ? undefined : (loaded.chosen ?? (view.repair ? undefined : view.next[0]));
  // Who has not known three times gets the round first, and the question after it.
  const roundFirst = view.isTired === true && card !== undefined && loaded.chosen === undefined && !loaded.openRound;
  const isStuck = card === undefined && !view.repair && !loaded.openRound;
  // What to do now is the first thing that is read; what it most likely is stands under it.
  const doesFirst =
    !loaded.closed && !isBroken && (isBehind || (!view.isProofDue && !view.tried && !loaded.openRound && !roundFirst && !isStuck));
  return (
    <div className="place">
      <MachineRail suspicion={view.suspicion} />
      <main className="page columns wide-side">
        <div className="stack">
          <Crumb loaded={loaded} />
          {doesFirst ? null : <Head loaded={loaded} level={1} />}
          {view.suspect.length > 0 ? (
            <Notice kind="doubt">
              <b>Doubtful readings</b>
              <ul>
                {view.suspect.map((s) => (
                  <li key={s.text}>{s.text}</li>
                ))}
              </ul>
            </Notice>
          ) : null}
          <Fields state={actionData}>
            <FormProblem />
          </Fields>
          {isBehind && !isBroken ? (
            <>
              <Weighing />
              <Head loaded={loaded} level={2} />
            </>
          ) : null}
          {loaded.closed || (isBehind && !isBroken) ? null : (
            <>
              {isBroken && !loaded.openRound ? <BrokenFirst loaded={loaded} /> : <Repair loaded={loaded} heading={doesFirst ? 1 : 2} />}
              {roundFirst ? <RoundFirst loaded={loaded} /> : null}
              {card ? (
                <CheckCard
                  key={card.id}
                  card={card}
                  loaded={loaded}
                  failed={actionData}
                  first={loaded.chosen === undefined && view.repair === undefined && !roundFirst}
                  heading={doesFirst && view.repair === undefined ? 1 : 2}
                  answerKey={keyAfter(actionData, loaded.keys.answer)}
                />
              ) : null}
              {doesFirst ? <Head loaded={loaded} level={2} /> : null}
              {view.repair || isBroken ? null : <OtherChecks loaded={loaded} shown={card?.id} />}
              {isStuck && !isBroken ? <Stuck loaded={loaded} /> : null}
              <Panels loaded={loaded} />
              <Declined loaded={loaded} />
              <OtherWays
                loaded={loaded}
                failed={actionData}
                alsoKey={keyAfter(actionData, loaded.keys.also)}
                isOpen={isStuck && !view.isWear && !isBroken}
              />
            </>
          )}
          <Answered loaded={loaded} />
          <div className="row">
            <LinkButton to={`/${loaded.slug}/trace/${loaded.id}/report`}>Report to print</LinkButton>
            {loaded.closed ? (
              <Form method="post">
                <input type="hidden" name="intent" value="reopen" />
                <Submit>It came back: open it again</Submit>
              </Form>
            ) : null}
          </div>
        </div>
        <Reasons loaded={loaded} />
      </main>
    </div>
  );
}

/** Nothing is asked or repaired by an answer that does not know what was told last. */
function Weighing() {
  return (
    <Block strong label="Working it out">
      <Title level={1}>Working out what your result means.</Title>
      <p role="status">It is saved. The next step comes by itself in a moment. What stands below does not include it yet.</p>
    </Block>
  );
}

/** Which case it is, and the way back from the last answer. */
function Crumb({ loaded }: { loaded: Loaded }) {
  const { view, closed } = loaded;
  const busy = useNavigation().state !== "idle";
  return (
    <div className="soft row">
      <span>
        Case {loaded.number}, {loaded.machine} · {loaded.title.toLowerCase()}, since {loaded.since} · {counted(view.answered, "answer")}
      </span>
      {view.lastAnswerId !== undefined && !closed ? (
        <TakeBack findingId={view.lastAnswerId} disabled={busy}>
          undo last
        </TakeBack>
      ) : null}
    </div>
  );
}

/** What it most likely is: the page's own heading where nothing is to be done first. */
function Head({ loaded, level }: { loaded: Loaded; level: 1 | 2 }) {
  const { view, closed } = loaded;
  if (level === 2)
    return (
      <div>
        <h2 className="verdict second">{unbroken(view.headline)}</h2>
        <p className="lead">{unbroken(view.lead)}</p>
      </div>
    );
  return (
    <div>
      {closed ? (
        <>
          {/* What was done is known; what it had been is as likely as it was. */}
          <h1 className="verdict">{closed.repair ? `Repaired: ${closed.repair}.` : `It was: ${closed.was}.`}</h1>
          <p className="lead">
            Closed {closed.at}. {closed.repair ? `Most likely it had been: ${closed.was}. ` : ""}Final test: {closed.proof}.
          </p>
          <p className="soft">
            It took {closed.cost}.{closed.before ? ` ${closed.before}.` : ""}
          </p>
        </>
      ) : (
        <>
          <h1 className="verdict">{unbroken(view.headline)}</h1>
          <p className="lead">{unbroken(view.lead)}</p>
        </>
      )}
    </div>
  );
}

/** What no check of this case can see, and, once, whether its owner may open it. */
function Panels({ loaded }: { loaded: Loaded }) {
  const { panels } = loaded.view;
  if (!panels) return null;
  return (
    <Block label="Behind closed panels">
      <p>
        <b>{panels.words}</b> {panels.who}
      </p>
      {panels.ask ? (
        <Form method="post" className="stack">
          <input type="hidden" name="intent" value="panels" />
          <Notice kind="caution">
            Opening a panel that is not marked for owners may affect the warranty, and parts behind it can hurt you. The maker's manual and
            a qualified person come first.
          </Notice>
          <div className="row">
            <Submit name="panels" value="service">
              They stay closed
            </Submit>
            <Submit name="panels" value="mine">
              The manual lets me open them
            </Submit>
          </div>
        </Form>
      ) : null}
    </Block>
  );
}

/** The repair, once it is clear; or the round that is open, which comes first. */
function Repair({ loaded, heading }: { loaded: Loaded; heading: 1 | 2 }) {
  const { openRound, view } = loaded;
  if (openRound) {
    return (
      <Block strong>
        <h2 className="card-title">The round “{openRound.title}” is open.</h2>
        <p>Finish it first; its final test comes back here.</p>
        <LinkButton type="primary" to={`/${loaded.slug}/round/${openRound.id}`}>
          Go on with it
        </LinkButton>
      </Block>
    );
  }
  if (view.tried) {
    return (
      <Block strong label="Repair">
        <p className="soft">{view.tried.proof}</p>
        <h2 className="card-title larger">{view.tried.name}: done</h2>
        <p>{view.tried.after} Should it fail again, go on with the checks below, or open the case again.</p>
        <Form method="post">
          <input type="hidden" name="intent" value="tried" />
          <Submit type="primary" size="large">
            Close the case with it
          </Submit>
        </Form>
      </Block>
    );
  }
  if (!view.repair) return null;
  return (
    <Block strong label="Repair">
      <p className="soft">
        {view.repair.booked
          ? "Time to have it repaired, by the maker's service"
          : `Time to repair · ${view.repair.minutes} min with its final test`}
      </p>
      <Title level={heading}>{view.repair.name}</Title>
      <p>{view.repair.because}</p>
      {view.repair.alongWith.length > 0 ? (
        <p>
          <b>In the same round:</b> {view.repair.alongWith.join("; ")}.
        </p>
      ) : null}
      <RepairStart
        loaded={loaded}
        parts={view.repair.parts}
        title={view.repair.name}
        label="Start the repair round"
        requestKey={loaded.keys.repair}
        primary
      />
      {view.repair.aims ? (
        <p>
          <Link to={`/${loaded.slug}/aim?case=${loaded.id}`}>Alignment</Link> works out which screw to turn and by how much, and answers the
          steps of this round.
        </p>
      ) : null}
    </Block>
  );
}

/** A part that must not be fired through is seen to before anything is asked. */
function BrokenFirst({ loaded }: { loaded: Loaded }) {
  const { broken } = loaded.view;
  if (!broken) return null;
  return (
    <Block strong label="Repair">
      <h2 className="card-title larger">{broken.part ? `${broken.name}: fit a spare` : `${broken.name}: ask its maker or supplier`}</h2>
      {broken.part ? (
        <RepairStart
          loaded={loaded}
          parts={[broken.part]}
          title={`${broken.name}: fit a spare`}
          label="Start the round that fits it"
          requestKey={loaded.keys.repair}
          primary
        />
      ) : (
        <p>
          The maker's service, the supplier or a qualified person may do it. When the new part is in, log it: the case goes on from there.
        </p>
      )}
    </Block>
  );
}

/** Nobody has to know everything: the round that is likeliest to help, before any further question. */
function RoundFirst({ loaded }: { loaded: Loaded }) {
  const { straight } = loaded.view;
  if (!straight) return null;
  return (
    <Block strong label="Without more questions">
      <h2 className="card-title larger">Not sure? Do this round; it needs no more answers.</h2>
      <p>
        {straight.name} ({straight.chance}), with all that was seen bad. Its final test shows whether it helped; if not, the case goes on.
      </p>
      <RepairStart
        loaded={loaded}
        parts={straight.parts}
        title={straight.name}
        label="Start this round"
        requestKey={loaded.keys.straight}
        primary
      />
    </Block>
  );
}

/** The two checks that come after the one on screen. */
function OtherChecks({ loaded, shown }: { loaded: Loaded; shown: string | undefined }) {
  return (
    <div className="two">
      {loaded.view.next
        .filter((n) => n.id !== shown)
        .slice(0, 2)
        .map((n) => (
          <Link key={n.id} className="tile" to={`/${loaded.slug}/trace/${loaded.id}?check=${encodeURIComponent(n.id)}`} preventScrollReset>
            <b>{n.title}</b>
            <span className="soft">
              {n.minutes === "0" ? "no time" : `${n.minutes} min`}
              {n.tools ? ` · ${n.tools}` : ""}
            </span>
          </Link>
        ))}
    </div>
  );
}

/** What is not asked on this machine because its owner cannot tell. */
function Declined({ loaded }: { loaded: Loaded }) {
  const { declined } = loaded.view;
  if (!declined || declined.length === 0) return null;
  return (
    <More label="Not asked any more">
      <ul className="lines">
        {declined.map((d) => (
          <li key={d.id} className="between">
            <span>{d.title}</span>
            <Form method="post">
              <input type="hidden" name="intent" value="ask-again" />
              <input type="hidden" name="check" value={d.id} />
              <Submit>Ask it again</Submit>
            </Form>
          </li>
        ))}
      </ul>
    </More>
  );
}

/** Another check, another repair, or the end without a proof. */
/** Nothing is left to be asked: where it is but wear, what takes it off; else whoever knows more. */
function Stuck({ loaded: { slug, view } }: { loaded: Loaded }) {
  if (view.isWear)
    return (
      <div className="row">
        <LinkButton to={`/${slug}/today`} variant="solid" color="primary">
          See what is due
        </LinkButton>
        <LinkButton to={`/${slug}/log?kind=ladder`}>Cut a ladder, then enter it</LinkButton>
      </div>
    );
  return (
    <p>
      No remaining check would help. {view.straight ? "Try what is likeliest, tell" : "Tell"} something else, or ask somebody who knows the
      machine.
    </p>
  );
}

function OtherWays({
  loaded,
  failed,
  alsoKey,
  isOpen,
}: {
  loaded: Loaded;
  failed: Partial<FormState> | undefined;
  alsoKey: string;
  isOpen: boolean;
}) {
  const { view } = loaded;
  return (
    <More key={String(isOpen)} label="Another check, another repair, or close the case" open={isOpen || failed?.errors?.why !== undefined}>
      <div className="stack">
        <Form method="get" className="row top">
          <Fields>
            <div className="wide-field">
              <SelectField
                name="check"
                label="Another check"
                options={[...view.next, ...view.others].map((o) => ({ value: o.id, label: `${o.title} (${o.minutes} min)` }))}
              />
            </div>
          </Fields>
          <Submit className="beside-field">Ask it</Submit>
        </Form>
        <Form method="post" className="row top">
          <RequestKey value={alsoKey} />
          <input type="hidden" name="intent" value="also" />
          <Fields state={failed}>
            <div className="wide-field">
              <SelectField name="sign" label="I noticed this as well" options={loaded.signs} />
            </div>
          </Fields>
          <Submit className="beside-field">Add it</Submit>
        </Form>
        {view.straight && !loaded.openRound && view.straight.id !== view.repair?.id ? <RepairDirect loaded={loaded} /> : null}
        <Form method="post" className="row top">
          <input type="hidden" name="intent" value="close" />
          <Fields state={failed}>
            <div className="grow">
              <TextField name="why" label="Close the case without a final test, because" maxLength={200} />
            </div>
          </Fields>
          <Submit className="beside-field">Close it</Submit>
        </Form>
      </div>
    </More>
  );
}
