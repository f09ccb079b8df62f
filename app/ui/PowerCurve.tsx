/** Effective power over time. The chart itself is fetched when its place comes into view, and then drawn into the room kept for it. */
import { Suspense } from "react";
import type { PowerSeries } from "#services/machine/powerSeries";
import { fetched } from "./fetched";
import { useSeen } from "./useSeen";

const PowerChart = fetched(() => import("./PowerChart").then((m) => m.PowerChart));

export function PowerCurve({ series, tall }: { series: PowerSeries; tall?: boolean }) {
  const [place, seen] = useSeen<HTMLDivElement>();
  if (series.points.length < 2) return <p className="soft">The curve begins with the second ladder.</p>;
  return (
    <div ref={place} className={tall ? "curve tall" : "curve"}>
      {seen ? (
        <Suspense>
          <PowerChart series={series} />
        </Suspense>
      ) : null}
    </div>
  );
}
