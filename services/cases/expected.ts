/** Effective power to expect once a fault is mended: the tube's ageing and today's dirt, without the fault. */
import { conditionAt } from "../machine/condition";
import type { Gathered } from "../machine/gathered";

/** Ratio to the baseline, from the ladders before the onset alone; undefined without a baseline. */
export function expectedAfterRepair(g: Gathered, onsetMs: number): number | undefined {
  return g.baseline && conditionAt(g, g.baseline, onsetMs - 1).ratio;
}
