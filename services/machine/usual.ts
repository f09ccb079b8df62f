/** What a material is usually cut at, where its owner said so. */
import type { EventPayload } from "#core/events";
import type { Material } from "#store/machines";

/** Set power where a material has no usual one, in percent. */
const SET_PERCENT = 60;

export const usualSetPercent = (m: Pick<Material, "usualSetPercent">): number => m.usualSetPercent ?? SET_PERCENT;

/** A cut of a material at its usual setting; undefined where it has no usual speed. */
export function usualCut(m: Material, result: EventPayload["cut"]["result"], note: string): EventPayload["cut"] | undefined {
  if (m.usualSpeedMmPerS === undefined) return undefined;
  return { materialId: m.id, speedMmPerS: m.usualSpeedMmPerS, setPercent: usualSetPercent(m), result, note };
}
