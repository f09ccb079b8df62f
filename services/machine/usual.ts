/** What a material is usually cut at, where its owner said so, and what nothing here goes below: it burns, or the tube does not fire. */

import { FIRING_THRESHOLD_PERCENT } from "#catalog/layouts";
import { materialKinds, UNKNOWN_PLASTIC } from "#catalog/materials";
import type { EventPayload } from "#core/events";
import { tubeKindOf } from "#core/machine";
import type { Material } from "#store/machines";
import type { Gathered } from "./gathered";

/** Set power where a material has no usual one, in percent. */
const SET_PERCENT = 60;

export const usualSetPercent = (m: Pick<Material, "usualSetPercent">): number => m.usualSetPercent ?? SET_PERCENT;

/** A cut of a material at its usual setting; undefined where it has no usual speed. */
export function usualCut(m: Material, result: EventPayload["cut"]["result"], note: string): EventPayload["cut"] | undefined {
  if (m.usualSpeedMmPerS === undefined) return undefined;
  return { materialId: m.id, speedMmPerS: m.usualSpeedMmPerS, setPercent: usualSetPercent(m), result, note };
}

/** Share of its usual speed below which a material is kept too long in the beam. */
const SLOWEST_SHARE = 0.35;
/** For a material of no known kind (mm/s). */
const SLOWEST_MM_PER_S = 2;

/** Slowest speed (mm/s) at which a material is cut and not set on fire. */
export function slowestSafe(m: Pick<Material, "kind" | "usualSpeedMmPerS">): number {
  const floor = materialKinds.find((k) => k.id === m.kind)?.slowestMmPerS ?? SLOWEST_MM_PER_S;
  return Math.max(floor, SLOWEST_SHARE * (m.usualSpeedMmPerS ?? 0));
}

/** Least set power (%) at which the tube of a machine fires steadily, with what kind it is. */
export function leastPower(g: Pick<Gathered, "trade">): { readonly percent: number; readonly tube: "glass" | "metal" } {
  const tube = tubeKindOf(g.trade.layout.fittings);
  return { percent: FIRING_THRESHOLD_PERCENT[tube], tube };
}

/** Whether a material of the list may be cut at all: what nobody has named yet may not. */
export const mayBeCut = (m: Pick<Material, "kind">): boolean => m.kind !== UNKNOWN_PLASTIC;
