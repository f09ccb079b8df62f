/** Measured figures over time; the chart itself is fetched when its place comes into view. */
import { Suspense } from "react";
import type { FigureLine } from "#services/log/kindSeries";
import { fetched } from "./fetched";
import { useSeen } from "./useSeen";

const FigureChart = fetched(() => import("./FigureChart").then((m) => m.FigureChart));

/** `quiet` is a run of seconds, without its table: the figures stand beside it. */
export function FigureCurve({ lines, quiet = false }: { lines: readonly FigureLine[]; quiet?: boolean }) {
  const [place, seen] = useSeen<HTMLDivElement>();
  return (
    <div ref={place} className="curve tall">
      {seen ? (
        <Suspense>
          <FigureChart lines={lines} quiet={quiet} />
        </Suspense>
      ) : null}
    </div>
  );
}
