/** Which findings from before a repair still speak of the machine as it is; the others speak of it as it was (`past.ts`). */

import { placeOf } from "../light/readings";
import { isMendedBy } from "../model/mending";
import type { CheckSpec, FaultSpec, TraceFinding, TraceModel } from "../model/types";

/**
 * The findings from before repairs that still speak of the machine as it is after them: how it began, and whatever shows nothing that the
 * repairs served or may have put back wrong. Cuts and ladders are the loss then; watts read before the first part served are the same
 * light still.
 *
 * @example stillSpeaking(model, [{ check: "lens-look" }, { check: "in-run" }, { check: "onset" }], ["clean-lens"]) // the onset alone
 */
export function stillSpeaking<F extends { readonly check: string }>(
  model: TraceModel,
  findings: readonly F[],
  repairs: readonly string[],
): F[] {
  if (repairs.length === 0) return [...findings];
  const changed = changedBy(model, repairs);
  const movesBeam = model.repairs.some((r) => r.movesBeam && repairs.includes(r.id));
  return findings.filter(({ check }) => {
    const spec = model.checks.find((c) => c.id === check);
    if (spec === undefined || spec.speaksOf === "history") return true;
    if (spec.speaksOf === "beam" && movesBeam) return false;
    if (spec.kind === "loss") return isUpstream(model, spec, changed);
    return !changed.some((f) => f.effects[check] !== undefined);
  });
}

/** Faults that repairs may have taken away, or brought by opening a seat. */
function changedBy(model: TraceModel, repairs: readonly string[]): FaultSpec[] {
  const served = model.faults.filter((f) => isMendedBy(f, repairs));
  const opened = new Set(served.map((f) => f.station));
  return model.faults.filter((f) => served.includes(f) || (f.usage?.kind === "seat" && opened.has(f.usage.station)));
}

/** Whether a reading of the light stands before everything that was changed. */
const isUpstream = (model: TraceModel, { measures }: CheckSpec, changed: readonly FaultSpec[]): boolean =>
  measures?.kind === "power" && changed.every((f) => f.lossAt === undefined || placeOf(model, f.lossAt) > placeOf(model, measures.station));

/**
 * Whether a finding speaks for what a repair mends: an answer likelier with the fault than without, or a figure of something it shifts. Of a
 * repair that was done this is what was found since: what was found before it speaks of before.
 */
export function speaksFor(model: TraceModel, repair: string, findings: readonly TraceFinding[]): boolean {
  const mended = model.faults.filter((f) => f.repair === repair);
  return findings.some(({ check, outcome, value }) => {
    const spec = model.checks.find((c) => c.id === check);
    if (spec === undefined || spec.speaksOf === "history") return false;
    const at = outcome === undefined ? -1 : spec.outcomes.indexOf(outcome);
    return mended.some((f) =>
      (f.effects[check] ?? []).some((e) =>
        e.kind === "holds"
          ? false
          : e.kind === "shift"
            ? value !== undefined
            : at >= 0 && Math.max(e.light[at] ?? 0, e.heavy[at] ?? 0) > (spec.leak[at] ?? 1),
      ),
    );
  });
}
