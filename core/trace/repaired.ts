/** What was found before a repair and speaks of the state before it: after the repair it says nothing any more. */
import type { TraceModel } from "./types";

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
  const movesBeam = model.repairs.some((r) => r.movesBeam && repairs.includes(r.id));
  return findings.filter(({ check }) => {
    const spec = model.checks.find((c) => c.id === check);
    // Any repair may have changed what the cut was like; marks and maps last until the beam, the focus or the bed was touched.
    if (spec?.speaksOf === "state" || (movesBeam && spec?.speaksOf === "beam")) return false;
    return !(spec?.sight === true && served.some((f) => f.effects[check] !== undefined));
  });
}
