/** What a repair puts right: the fault it is for, and what its own work cannot help but mend. A spare lens is a clean one. */
import type { FaultSpec, TraceModel } from "./types";

/** Whether any of these repairs mends a fault, as its own or on the way. */
export const isMendedBy = ({ repair, mendedBy = [] }: Pick<FaultSpec, "repair" | "mendedBy">, repairs: readonly string[]): boolean =>
  repairs.includes(repair) || mendedBy.some((r) => repairs.includes(r));

const known = new WeakMap<TraceModel, readonly Int16Array[]>();

/**
 * For each repair of a model the repairs whose work it does, by their places, its own first: those of which it mends every fault.
 *
 * @example coversOf(model)[replaceLens] // replaceLens, cleanLens, turnLens
 */
export function coversOf(model: TraceModel): readonly Int16Array[] {
  const covers =
    known.get(model) ??
    model.repairs.map(({ id }, at) => {
      const others = model.repairs.flatMap((other, o) => {
        const his = model.faults.filter((f) => f.repair === other.id);
        return o !== at && his.length > 0 && his.every((f) => isMendedBy(f, [id])) ? [o] : [];
      });
      return Int16Array.from([at, ...others]);
    });
  known.set(model, covers);
  return covers;
}
