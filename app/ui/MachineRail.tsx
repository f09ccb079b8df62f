/** The beam line of the machine in view, beside every place of it; in Trace it carries suspicion. */
import { useRouteLoaderData } from "react-router";
import type { BeamLineData } from "#services/machine/beamLine";
import { BeamLine, type Suspicion } from "./BeamLine";

export function MachineRail({ suspicion }: { suspicion?: Readonly<Record<string, Suspicion>> }) {
  const shell = useRouteLoaderData<{ readonly beam: BeamLineData }>("shell");
  if (!shell) return null;
  return (
    <aside className="rail">
      <BeamLine data={shell.beam} {...(suspicion ? { suspicion } : {})} />
    </aside>
  );
}
