/** Mixes: may I use this here, may these two meet; and which way round the lens goes, with what it does to the focus. */
import { Link, useSearchParams } from "react-router";
import { curvatureMm } from "#core/beam";
import { standing } from "#core/machine";
import { MachineRail } from "../shell/route";
import { gatherOnce } from "../workshop/gather";
import type { Route } from "./+types/route";
import { LensExplorer } from "./LensExplorer";
import { MayUse } from "./MayUse";

const TABS = [
  { id: "agents", name: "May I use this here?" },
  { id: "lens", name: "Lens side and focus" },
] as const;

/** A lens is about this thick, and the beam at it about this wide, until its owner says otherwise. */
const THICKNESS_MM = 3;
const FOCAL_MM = 50.8;

export async function loader({ params, context }: Route.LoaderArgs) {
  const g = await gatherOnce(context, params.machine);
  const lens = standing(g.trade.layout.path).find((s) => s.role === "lens");
  return {
    owned: g.trade.layout.fittings.agents,
    lens: {
      focalMm: FOCAL_MM,
      thicknessMm: THICKNESS_MM,
      beamMm: 2 * g.trade.layout.beamRadiusMm + 1,
      apertureMm: Math.min(lens?.apertureMm ?? 18, 1.8 * curvatureMm(FOCAL_MM)),
      movingHead: lens?.mount === "sliding-bore",
      wayRound: lens?.wayRound,
    },
  };
}

export default function Mixes({ loaderData }: Route.ComponentProps) {
  const [search] = useSearchParams();
  const tab = TABS.find((t) => t.id === search.get("tab"))?.id ?? "agents";
  return (
    <div className="place">
      <MachineRail />
      <main className="page stack loose">
        <nav className="tabs" aria-label="Mixes">
          {TABS.map((t) => (
            <Link key={t.id} className="button" to={`?tab=${t.id}`} aria-current={tab === t.id ? "page" : undefined}>
              {t.name}
            </Link>
          ))}
        </nav>
        {tab === "agents" ? <MayUse owned={loaderData.owned} /> : <LensExplorer lens={loaderData.lens} />}
      </main>
    </div>
  );
}
