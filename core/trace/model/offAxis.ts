/** Two faults that both push the beam aside: what they clip together beyond what each clips alone. */
import { clipLogLoss, offsetForLogLoss, ROLE_TRAITS } from "#core/beam";
import type { TraceModel } from "./types";

interface OffAxis {
  /** Extra loss (ln power) of each pair of states. */
  readonly extraOf: Float64Array;
  /** Path index where a state's off-axis loss shows; 0 for states that do not move the beam. */
  readonly offAxisAt: Int16Array;
}

/** A model is built once per machine, and the pairs depend on nothing else. */
const offAxisOf = new WeakMap<TraceModel, OffAxis>();

/**
 * Beams pushed off axis by two faults add as vectors: each loss is turned into the offset that would cause it at the
 * tighter of the two apertures (M1), the offsets are added at right angles (their mean direction), and the extra is the
 * loss there less the two single losses. Positive or negative, in ln power; 0 for every other pair.
 */
export function offAxisExtras(model: TraceModel, priorMean: Float64Array, lossAt: Int16Array): OffAxis {
  const known = offAxisOf.get(model);
  if (known) return known;
  const states = priorMean.length;
  const extraOf = new Float64Array(states * states);
  const offAxisAt = new Int16Array(states);
  const moving = Array.from({ length: states }, (_, s) => s).filter((s) => model.faults[s >> 1]?.movesBeam && lossAt[s]! >= 0);
  const radius = (s: number) => {
    const station = model.stations[lossAt[s]!];
    return station && (ROLE_TRAITS[station.role].isOptic || station.role === "tube") ? station.apertureMm / 2 : 9;
  };
  const offsets = new Map<string, number>();
  const offset = (aperture: number, s: number) => {
    const key = `${aperture} ${priorMean[s]}`;
    const known = offsets.get(key) ?? offsetForLogLoss(aperture, model.beamRadiusMm, priorMean[s]!);
    offsets.set(key, known);
    return known;
  };
  for (const p of moving) {
    offAxisAt[p] = lossAt[p]!;
    for (const q of moving) {
      if (q <= p || p >> 1 === q >> 1) continue;
      const aperture = Math.min(radius(p), radius(q));
      const together = Math.hypot(offset(aperture, p), offset(aperture, q));
      const extra = clipLogLoss(aperture, model.beamRadiusMm, together) - priorMean[p]! - priorMean[q]!;
      extraOf[p * states + q] = extra;
      extraOf[q * states + p] = extra;
    }
  }
  const result = { extraOf, offAxisAt };
  offAxisOf.set(model, result);
  return result;
}
