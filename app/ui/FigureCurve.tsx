/** Measured figures over time; the chart itself is fetched when its place comes into view. */
import { Suspense } from "react";
import type { FigureLine } from "#services/log/kindSeries";
import { fetched } from "./fetched";
import { useSeen } from "./useSeen";

const FigureChart = fetched(() => import("./FigureChart").then((m) => m.FigureChart));

export function FigureCurve({ lines }: { lines: readonly FigureLine[] }) {
  const [place, seen] = useSeen<HTMLDivElement>();
  return (
    <div ref={place} className="curve tall">
      {seen ? (
        <Suspense>
          <FigureChart lines={lines} />
        </Suspense>
      ) : null}
    </div>
  );
}
