import { erf } from "#core/normal";
import { rootOf } from "#core/roots";

/** Wavelength of a CO2 laser in millimetres (10.6 µm). */
export const WAVELENGTH_MM = 10.6e-3;

/**
 * 1/e² radius (mm) of a Gaussian beam a distance `alongMm` from its waist.
 * w(z) = w0 sqrt(1 + (z M² λ / π w0²)²).
 */
export function beamRadiusMm(waistMm: number, alongMm: number, mSquared = 1.2): number {
  const spread = (alongMm * mSquared * WAVELENGTH_MM) / (Math.PI * waistMm * waistMm);
  return waistMm * Math.sqrt(1 + spread * spread);
}

/** Share of the power (0..1) through a centred round aperture of the given radius: 1 - exp(-2a²/w²). */
export function centredShare(apertureRadiusMm: number, beamRadiusMm: number): number {
  const q = apertureRadiusMm / beamRadiusMm;
  return 1 - Math.exp(-2 * q * q);
}

/**
 * Share of the power (0..1) through an elliptic aperture with semi-axes `semiX`, `semiY` (mm) when the beam of 1/e²
 * radius `w` (mm) is off centre by (dx, dy) mm. Exact across; along, a midpoint rule in the angle over the part of the aperture
 * that the beam reaches (4.5 w), error below 1e-6.
 */
export function ellipseShare(semiX: number, semiY: number, w: number, dx: number, dy: number): number {
  const nodes = 96;
  const angleAt = (x: number) => Math.asin(Math.min(1, Math.max(-1, x / semiX)));
  const from = angleAt(dx - 4.5 * w);
  const step = (angleAt(dx + 4.5 * w) - from) / nodes;
  const scale = Math.SQRT2 / w;
  let sum = 0;
  for (let i = 0; i < nodes; i++) {
    const angle = from + (i + 0.5) * step;
    const x = semiX * Math.sin(angle);
    const half = semiY * Math.cos(angle);
    // Nothing is off across: both sides are alike.
    const across = dy === 0 ? erf(scale * half) : 0.5 * (erf(scale * (half - dy)) + erf(scale * (half + dy)));
    const u = (scale * (x - dx)) ** 2;
    sum += across * Math.exp(-u) * semiX * Math.cos(angle) * step;
  }
  return Math.min(1, (sum * scale) / Math.sqrt(Math.PI));
}

/** Share through a round aperture of radius `a` (mm) with the beam `offsetMm` off its centre. */
export function offsetShare(apertureRadiusMm: number, beamRadiusMm: number, offsetMm: number): number {
  return ellipseShare(apertureRadiusMm, apertureRadiusMm, beamRadiusMm, offsetMm, 0);
}

/**
 * Share caught by a mirror of radius `a` (mm) at 45°: it looks a/√2 wide in its plane of incidence, `a` across.
 * Offsets in mm, in that plane and across it.
 */
export function mirrorShare(apertureRadiusMm: number, beamRadiusMm: number, inPlaneMm: number, acrossMm: number): number {
  return ellipseShare(apertureRadiusMm / Math.SQRT2, apertureRadiusMm, beamRadiusMm, inPlaneMm, acrossMm);
}

/** Millimetres to which an offset is searched for. */
const MET_MM = 1e-8;

/**
 * Offset (mm) of a beam that loses `logLoss` (ln power, >= 0) at a round aperture, over and above the centred loss; capped at aperture
 * radius plus twice the beam radius.
 */
export function offsetForLogLoss(apertureRadiusMm: number, beamRadiusMm: number, logLoss: number): number {
  const over = (offsetMm: number) => clipLogLoss(apertureRadiusMm, beamRadiusMm, offsetMm) - logLoss;
  return rootOf(over, 0, apertureRadiusMm + 2 * beamRadiusMm, MET_MM);
}

/** Extra loss in ln power (>= 0) from being `offsetMm` off centre in a round aperture. */
export function clipLogLoss(apertureRadiusMm: number, beamRadiusMm: number, offsetMm: number): number {
  if (offsetMm === 0) return 0;
  const centred = centredShare(apertureRadiusMm, beamRadiusMm);
  const off = Math.max(1e-9, offsetShare(apertureRadiusMm, beamRadiusMm, offsetMm));
  return Math.max(0, Math.log(centred / off));
}
