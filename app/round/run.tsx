/** One round: while it is open its steps, once ended what it found, did and bought. Its answers have a route of their own. */
import "./round.css";
import { data, redirect } from "react-router";
import { recordId, trouble } from "#services/forms/fields";
import { gatherOnce } from "#services/machine/gather";
import { endByForm } from "#services/rounds/endByForm";
import { roundView } from "#services/rounds/roundView";
import { reading } from "../server/reading";
import { saving } from "../server/saving";
import { sendKept } from "../ui/sending";
import type { Route } from "./+types/run";
import { useKeptPage } from "./offline";
import { Runner } from "./Runner";
import { Summary } from "./Summary";

export const loader = reading(async ({ params, request, context }: Route.LoaderArgs) => {
  const g = await gatherOnce(context, params.machine);
  const search = new URL(request.url).searchParams;
  const view = await roundView(context, g, recordId(params.roundId), search.get("step"));
  return { ...view, nowMs: context.now, key: context.freshKey(), also: ALSO_WORDS.get(search.get("also")) };
});

/** What became of a proof that came after another device's. */
const ALSO_WORDS: ReadonlyMap<string | null, string> = new Map([
  ["ladder", "This round had been closed on another device just before. Your ladder was not taken as its proof: it is in the log."],
  ["piece", "This round had been closed on another device just before. Your test piece was not taken as its proof: it is in the log."],
  [
    "repeat",
    "This round had been closed on another device just before. Your repeated test was not taken as its proof; it is with the case where that is still open.",
  ],
]);

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const end = await endByForm(context, params.machine, recordId(params.roundId), reader);
  if (end.ended === undefined) return data(trouble(reader, end.errors), { status: 400 });
  const here = `/${params.machine}/round/${end.roundId}`;
  return redirect(end.ended === "logged" ? `${here}?also=${end.proof}` : here);
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

export default function Run({ loaderData, actionData }: Route.ComponentProps) {
  const { slug, id, title, status, caseId, summary } = loaderData;
  useKeptPage(`/${slug}/round/${id}`, status === "open");
  if (summary)
    return (
      <Summary
        slug={slug}
        title={title}
        status={status}
        caseId={caseId}
        summary={summary}
        also={loaderData.also}
        requestKey={loaderData.key}
      />
    );
  return <Runner key={id} data={loaderData} failed={actionData} />;
}
