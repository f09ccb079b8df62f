/**
 * Trying as a check: the cut that failed, made with something else in the place of one suspect. It drops where that was at fault and nothing
 * else is left that keeps it from dropping, so every other fault holds it back by what it takes.
 */
import { normalCdf } from "#core/normal";
import { isMendedBy } from "./mending";
import type { CheckSpec, FaultSpec } from "./types";

/** Spread (ln effective power) of what the usual cut has to spare where nothing is wrong. */
const SPARE_SD = 0.07;

/**
 * How a fault keeps a cut from dropping although something else is in the place of what was at fault besides: it is one cut of what is left.
 * `spareLn` is the ln effective power that the usual cut has to spare where nothing is wrong.
 */
export function holdingBack(fault: FaultSpec, checks: readonly CheckSpec[], spareLn: number): FaultSpec["effects"] {
  const drops = (severity: 0 | 1): number =>
    normalCdf((spareLn - fault.loss[severity] * fault.cutGain) / Math.hypot(SPARE_SD, fault.lossSd[severity] * fault.cutGain));
  const held = checks.filter((c) => c.tries !== undefined && !isMendedBy(fault, [c.tries.repair]) && fault.loss.some((l) => l > 0));
  return Object.fromEntries(held.map((c) => [c.id, [{ kind: "holds", light: drops(0), heavy: drops(1) }]]));
}
