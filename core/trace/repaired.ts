/** What was found before a repair and speaks of the state before it: after the repair it says nothing any more. */
import type { TraceModel } from "./types";

/** What the light, the cut and the heat were like: any repair may have changed it. */
const OF_THE_STATE = /^(known-cut|ladder|power|kerf|engraving|nozzle-touch|in-run|pauses)(@|$)/;
/** Marks and maps last until something that moves the beam, the focus or the bed was touched. */
const OF_THE_BEAM = /^(nozzle-mark|tape|tape-travel|tube-mark|bed-map)(@|$)/;
const MOVES_THE_BEAM = /^(aim|seat|turn|replace|centre|clean-nozzle|level|other-sheet|set-focus|tube)/;

/**
 * The findings from before repairs that still speak after them: how it began, and what nobody touched. Looks at a part that was served do
 * not, nor does what the cut and the light were like before.
 *
 * @example stillSpeaking(model, [{ check: "lens-look" }, { check: "onset" }], ["clean-lens"]) // the onset alone
 */
export function stillSpeaking<F extends { readonly check: string }>(
  model: TraceModel,
  findings: readonly F[],
  repairs: readonly string[],
): F[] {
  const served = model.faults.filter((f) => repairs.includes(f.repair));
  const movesBeam = repairs.some((r) => MOVES_THE_BEAM.test(r));
  return findings.filter(({ check }) => {
    if (OF_THE_STATE.test(check) || (movesBeam && OF_THE_BEAM.test(check))) return false;
    const isSight = model.checks.find((c) => c.id === check)?.sight === true;
    return !(isSight && served.some((f) => f.effects[check] !== undefined));
  });
}
