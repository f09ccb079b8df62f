/** Aim: the next mark or screw as one card, how each leg of the beam stands, and what is known of the screws. */
import "./aim.css";
import { data, Link, redirect } from "react-router";
import { aimByForm } from "#services/aim/act";
import { aimView } from "#services/aim/aimView";
import { recordId, trouble } from "#services/forms/fields";
import { gatherOnce } from "#services/machine/gather";
import { reading } from "../server/reading";
import { saving } from "../server/saving";
import { counted } from "../ui/counted";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { Notice } from "../ui/Notice";
import { keyAfter, sendKept } from "../ui/sending";
import { unbroken } from "../ui/unbroken";
import type { Route } from "./+types/route";
import { Begin } from "./Begin";
import { Leave, OtherMoves } from "./OtherMoves";
import { Standing } from "./Standing";
import { StepCard, TodayCard } from "./StepCard";
import { StopCard } from "./StopCard";

export const loader = reading(async ({ params, request, context }: Route.LoaderArgs) => ({
  ...(await aimView(context, await gatherOnce(context, params.machine), recordId(new URL(request.url).searchParams.get("case")))),
  key: context.freshKey(),
}));

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const acted = await aimByForm(context, params.machine, reader);
  if ("errors" in acted) return data(trouble(reader, acted.errors), { status: 400 });
  return redirect(`/${params.machine}/${acted.to}`);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

export default function Aim({ loaderData: loaded, actionData }: Route.ComponentProps) {
  const { open, problem } = loaded;
  const requestKey = keyAfter(actionData, loaded.key);
  if (problem)
    return (
      <Frame>
        <h1 className="verdict">This path cannot be aimed as it stands.</h1>
        <p className="lead">{problem}</p>
        <LinkButton to={`/${loaded.slug}/workshop`}>To the path in the Workshop</LinkButton>
      </Frame>
    );
  if (!open)
    return (
      <Frame>
        <Begin loaded={loaded} failed={actionData} requestKey={requestKey} />
      </Frame>
    );
  return (
    <div className="place">
      <MachineRail />
      <main className="page columns">
        <div className="stack">
          <div>
            <p className="soft">
              Alignment of {loaded.machine}
              {loaded.openCase ? (
                <>
                  {" · "}
                  <Link to={`/${loaded.slug}/trace/${loaded.openCase.id}`}>case {loaded.openCase.number}</Link>
                </>
              ) : null}{" "}
              · {counted(open.entries, "entry", "entries")}
            </p>
            <h1 className="verdict">{loaded.stop ? "No mark is made now." : unbroken(open.headline)}</h1>
            {open.lead && !loaded.stop ? <p className="lead">{unbroken(open.lead)}</p> : null}
          </div>
          {loaded.stop ? (
            <StopCard loaded={loaded} stop={loaded.stop} />
          ) : (
            <StepCard key={loaded.key} step={open.step} failed={actionData} requestKey={requestKey} after={afterWords(loaded)} />
          )}
          {open.today && !loaded.stop ? (
            <TodayCard
              key={`${loaded.key}-today`}
              today={open.today}
              failed={actionData}
              requestKey={requestKey}
              after={afterWords(loaded)}
            />
          ) : null}
          {open.readTo ? <p className="soft">{open.readTo}</p> : null}
          {[...open.conflicts, ...open.surprises].map((words) => (
            <Notice key={words} kind="doubt">
              {words}
            </Notice>
          ))}
          <OtherMoves key={`${loaded.key}-more`} open={open} failed={actionData} requestKey={requestKey} />
          {open.step.kind === "good" && !loaded.stop ? null : (
            <Leave key={open.step.kind} failed={actionData} isEnd={open.step.kind === "seat"} />
          )}
        </div>
        <Standing open={open} screws={loaded.screws} requestKey={requestKey} />
      </main>
    </div>
  );
}

/** Where a good end leads, on its button. */
function afterWords({ openRound, openCase, open }: Route.ComponentProps["loaderData"]): string {
  if (open?.isTurned && openRound) return "Finish: back to the round";
  if (!openCase) return "Finish";
  return open?.isTurned ? "Finish: to the final test" : "Finish: back to the case";
}

function Frame({ children }: { children: React.ReactNode }) {
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">{children}</main>
    </div>
  );
}
