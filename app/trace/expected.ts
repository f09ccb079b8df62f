/** Effective power to expect once a fault is mended: the tube's ageing and today's dirt, without the fault. */
import { estimateCondition } from "#core/wear";
import type { Gathered } from "../workshop/gather";
import { foulingAt } from "../workshop/gather";

/** Ratio to the baseline, from the readings before the onset alone; undefined without a baseline. */
export function expectedAfterRepair(g: Gathered, onsetMs: number): number | undefined {
  const baseline = g.baseline;
  if (!baseline) return undefined;
  const baseHours = g.usage.tubeHoursAt(baseline.atMs) ?? 0;
  const baseFouling = foulingAt(g.trade, g.events, g.usage, baseline.atMs);
  const readings = g.ladders.flatMap(({ event, effective }) =>
    effective.kind === "ratio" && event.atMs > baseline.atMs && event.atMs < onsetMs
      ? [
          {
            lnRatio: Math.log(effective.ratio),
            se: effective.seLn,
            hoursSinceBaseline: Math.max(0, (g.usage.tubeHoursAt(event.atMs) ?? baseHours) - baseHours),
            fouling: Math.max(0, foulingAt(g.trade, g.events, g.usage, event.atMs) - baseFouling),
            sinceService: false,
          },
        ]
      : [],
  );
  const hours = Math.max(0, (g.usage.tubeHours ?? baseHours) - baseHours);
  return estimateCondition(readings, hours, Math.max(0, foulingAt(g.trade, g.events, g.usage, g.nowMs) - baseFouling)).ratio;
}
