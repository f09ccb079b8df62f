/** Mixes: may I use this here, may these two meet; and which way round the lens goes, with what it does to the focus. */

import "./mixes.css";
import { useSearchParams } from "react-router";
import { gatherOnce } from "#services/machine/gather";
import { mixesView } from "#services/mixes/mixesView";
import { reading } from "../server/reading";
import { LinkButton } from "../ui/LinkButton";
import { MachineRail } from "../ui/MachineRail";
import type { Route } from "./+types/route";
import { LensExplorer } from "./LensExplorer";
import { MayUse } from "./MayUse";

const TABS = [
  { id: "agents", name: "May I use this here?" },
  { id: "lens", name: "Lens side and focus" },
] as const;

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => mixesView(await gatherOnce(context, params.machine)));

export default function Mixes({ loaderData }: Route.ComponentProps) {
  const [search] = useSearchParams();
  const tab = TABS.find((t) => t.id === search.get("tab"))?.id ?? "agents";
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <nav className="tabs" aria-label="Mixes">
          {TABS.map((t) => (
            <LinkButton key={t.id} to={`?tab=${t.id}`} aria-current={tab === t.id ? "page" : undefined}>
              {t.name}
            </LinkButton>
          ))}
        </nav>
        {tab === "agents" ? <MayUse owned={loaderData.owned} /> : <LensExplorer lens={loaderData.lens} />}
      </main>
    </div>
  );
}
