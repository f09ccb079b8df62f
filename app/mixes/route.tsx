/** Sums and mixes: coolant, bed wash and airflow worked out for this machine; what may touch what; which way round the lens goes. */

import "./mixes.css";
import { useEffect, useState } from "react";
import { data } from "react-router";
import { trouble } from "#services/forms/fields";
import { gather, gatherOnce } from "#services/machine/gather";
import { mixesView } from "#services/mixes/mixesView";
import { actOnSums, LOGGED } from "#services/sums/act";
import { airView } from "#services/sums/airView";
import { coolantView } from "#services/sums/coolantView";
import { washView } from "#services/sums/washView";
import { reading } from "../server/reading";
import { saving } from "../server/saving";
import type { FormState } from "../ui/form/state";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import { Notice } from "../ui/Notice";
import { sendKept } from "../ui/sending";
import type { Route } from "./+types/route";
import { Airflow } from "./Airflow";
import { Coolant } from "./Coolant";
import { LensExplorer } from "./LensExplorer";
import { MayUse } from "./MayUse";
import { Wash } from "./Wash";

const TABS = [
  { id: "coolant", name: "Coolant" },
  { id: "wash", name: "Bed wash" },
  { id: "airflow", name: "Airflow" },
  { id: "agents", name: "May I use this here?" },
  { id: "lens", name: "Lens side and focus" },
] as const;

export const loader = reading(async ({ params, request, context }: Route.LoaderArgs) => {
  const g = await gatherOnce(context, params.machine);
  const search = new URL(request.url).searchParams;
  const tab = TABS.find((t) => t.id === search.get("tab"))?.id ?? "agents";
  return {
    ...mixesView(g),
    tab,
    coolant: tab === "coolant" ? coolantView(g, search) : undefined,
    wash: tab === "wash" ? washView(g, search) : undefined,
    air: tab === "airflow" ? airView(g) : undefined,
    key: context.freshKey(),
  };
});

export const action = saving(async (reader, { params, context }: Route.ActionArgs) => {
  const result = await actOnSums(context, await gather(context, params.machine), reader);
  if ("errors" in result) return data({ ...trouble(reader, result.errors), said: undefined }, { status: 400 });
  return { said: result.said, isLogged: result.said === LOGGED, errors: {}, typed: {} };
});

export const clientAction = (args: Route.ClientActionArgs) => sendKept(args);

export default function Mixes({ loaderData: d, actionData }: Route.ComponentProps) {
  const answer = actionData as (FormState & { said?: string; isLogged?: boolean }) | undefined;
  // What went into the log is written once: its form is empty then.
  const [times, setTimes] = useState(0);
  useEffect(() => {
    if (answer?.isLogged) setTimes((n) => n + 1);
  }, [answer]);
  const state: FormState = { errors: answer?.errors ?? {}, typed: answer?.typed ?? {} };
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <nav className="row tight tabs" aria-label="Sums and mixes">
          {TABS.map((t) => (
            <LinkButton key={t.id} to={`?tab=${t.id}`} aria-current={d.tab === t.id ? "page" : undefined}>
              {t.name}
            </LinkButton>
          ))}
        </nav>
        {answer?.errors?.[""] ? <Notice kind="problem">{answer.errors[""]}</Notice> : null}
        {answer?.said ? <Notice kind="said">{answer.said}</Notice> : null}
        {d.coolant ? <Coolant view={d.coolant} state={state} requestKey={d.key} times={times} /> : null}
        {d.wash ? <Wash view={d.wash} state={state} requestKey={d.key} times={times} /> : null}
        {d.air ? <Airflow view={d.air} state={state} requestKey={d.key} times={times} /> : null}
        {d.tab === "agents" ? <MayUse owned={d.owned} /> : null}
        {d.tab === "lens" ? <LensExplorer lens={d.lens} /> : null}
      </main>
    </div>
  );
}
