/**
 * The focus of a plano-convex ZnSe lens: diffraction by the Gaussian beam relations (Siegman, "Lasers", ch. 17), spherical aberration
 * by an exact meridional trace of parallel rays through both faces (Snell's law), and what a flipped lens does to both.
 */

import { WAVELENGTH_MM } from "./clipping";

/** Refractive index of zinc selenide at 10.6 µm. */
export const ZNSE_INDEX = 2.4028;

export interface LensSetup {
  /** Focal length, mm. */
  readonly focalMm: number;
  /** Thickness at the centre, mm. */
  readonly thicknessMm: number;
  /** 1/e² diameter of the beam at the lens, mm. */
  readonly beamDiameterMm: number;
  /** Bulging face away from the beam. */
  readonly flipped: boolean;
  readonly m2?: number;
}

/** A ray behind the lens: its height where it leaves, and its slope. Heights and places in mm, the back vertex at 0, light going up in z. */
export interface Ray {
  /** Height at which it came in, mm. */
  readonly inMm: number;
  readonly zMm: number;
  readonly heightMm: number;
  /** Change of height per mm along the axis. */
  readonly slope: number;
}

export interface FocusAnswer {
  /** Diffraction-limited 1/e² diameter, mm. */
  readonly d0Mm: number;
  readonly rayleighMm: number;
  /** Best focus behind the back vertex, mm; and the paraxial one. */
  readonly bestFocusMm: number;
  readonly paraxialFocusMm: number;
  /** Smallest rms blur diameter of the rays, mm. */
  readonly blurMm: number;
  /** √(d0² + 2 blur²) at best focus, mm. */
  readonly spotMm: number;
}

const RAYS = 96;
/** Rays further out than this many beam radii carry no light worth counting. */
const EDGE = 1.5;
const DEFAULT_M2 = 1.2;

/** Radius of the curved face of a plano-convex lens, mm: R = f (n - 1). */
export const curvatureMm = (focalMm: number): number => focalMm * (ZNSE_INDEX - 1);

/** Depth of a face of radius R at a rim of radius s, mm. Throws RangeError where the rim is outside the sphere. */
export function sagMm(radiusMm: number, rimMm: number): number {
  if (rimMm > radiusMm) throw new RangeError("the rim lies outside the face's sphere");
  return radiusMm - Math.sqrt(radiusMm ** 2 - rimMm ** 2);
}

/** Traces one parallel ray at a height (mm) through the lens. Undefined where it misses the curved face or cannot leave. */
export function traceRay(setup: LensSetup, heightMm: number): Ray | undefined {
  const { focalMm, thicknessMm: t, flipped } = setup;
  const n = ZNSE_INDEX;
  const R = curvatureMm(focalMm);
  if (Math.abs(heightMm) >= R) return undefined;
  const incidence = Math.asin(heightMm / R);
  if (!flipped) {
    // Curved face first, its vertex at -t; it bends the ray by the difference of the angles to its normal.
    const inside = Math.asin(Math.sin(incidence) / n);
    const bend = incidence - inside;
    const enters = -t + sagMm(R, Math.abs(heightMm));
    const height = heightMm - Math.tan(bend) * (0 - enters);
    const sinOut = n * Math.sin(bend);
    if (Math.abs(sinOut) >= 1) return undefined;
    return { inMm: heightMm, zMm: 0, heightMm: height, slope: -Math.tan(Math.asin(sinOut)) };
  }
  // Flat face first: straight on. Then out through the curved face, its vertex at 0.
  const sinOut = n * Math.sin(incidence);
  if (Math.abs(sinOut) >= 1) return undefined;
  const bend = Math.asin(sinOut) - incidence;
  return { inMm: heightMm, zMm: -sagMm(R, Math.abs(heightMm)), heightMm, slope: -Math.tan(bend) };
}

/** Rays over the beam with the light each stands for, out to 1.5 beam radii. */
function weightedRays(setup: LensSetup): { ray: Ray; weight: number }[] {
  const w = setup.beamDiameterMm / 2;
  return Array.from({ length: RAYS }, (_, i) => (EDGE * w * (i + 0.5)) / RAYS).flatMap((h) => {
    const ray = traceRay(setup, h);
    // A ring of the Gaussian profile: area grows with the height, intensity falls with its square.
    return ray ? [{ ray, weight: h * Math.exp((-2 * h * h) / (w * w)) }] : [];
  });
}

/** Moments of height and slope; with them the blur at any plane is one square root. */
function moments(setup: LensSetup) {
  let sum = 0;
  let aa = 0;
  let ab = 0;
  let bb = 0;
  for (const { ray, weight } of weightedRays(setup)) {
    const a = ray.heightMm - ray.slope * ray.zMm;
    sum += weight;
    aa += weight * a * a;
    ab += weight * a * ray.slope;
    bb += weight * ray.slope * ray.slope;
  }
  return { aa: aa / sum, ab: ab / sum, bb: bb / sum };
}

const blurAt = (m: { aa: number; ab: number; bb: number }, zMm: number) =>
  2 * Math.sqrt(Math.max(0, m.aa + 2 * m.ab * zMm + m.bb * zMm * zMm));

/** Focus of a lens. Lengths > 0; throws RangeError otherwise. */
export function focusOf(setup: LensSetup): FocusAnswer {
  const { focalMm, thicknessMm, beamDiameterMm, flipped, m2 = DEFAULT_M2 } = setup;
  if (!(focalMm > 0 && thicknessMm >= 0 && beamDiameterMm > 0)) throw new RangeError("focal length and beam must be above 0");
  const d0Mm = (4 * m2 * WAVELENGTH_MM * focalMm) / (Math.PI * beamDiameterMm);
  const m = moments(setup);
  const bestFocusMm = -m.ab / m.bb;
  const blurMm = blurAt(m, bestFocusMm);
  return {
    d0Mm,
    rayleighMm: (Math.PI * (d0Mm / 2) ** 2) / (m2 * WAVELENGTH_MM),
    bestFocusMm,
    paraxialFocusMm: flipped ? focalMm : focalMm - thicknessMm / ZNSE_INDEX,
    blurMm,
    spotMm: Math.hypot(d0Mm, Math.SQRT2 * blurMm),
  };
}

/** How far the best focus moves down when the lens lies flipped on a rim of radius s, mm: t/n + sag(s) + the difference of best focus. */
export function flipShiftMm(setup: Omit<LensSetup, "flipped">, rimRadiusMm: number): number {
  const right = focusOf({ ...setup, flipped: false });
  const flipped = focusOf({ ...setup, flipped: true });
  // Flipped, the bulge hangs below the rim it rests on.
  return flipped.bestFocusMm + sagMm(curvatureMm(setup.focalMm), rimRadiusMm) - right.bestFocusMm;
}

/**
 * Where a sheet lies behind the back vertex (mm) when it is `offMm` below the best focus of the lens the right way round, on which the
 * gauge is set: flipped, the lens hangs lower and the sheet is nearer to it.
 */
export function sheetPlaneMm(setup: LensSetup, offMm: number, rimRadiusMm: number): number {
  return focusOf(setup).bestFocusMm + offMm - (setup.flipped ? flipShiftMm(setup, rimRadiusMm) : 0);
}

/**
 * Spot (mm) on a sheet that lies `offMm` below the best focus of the lens the right way round (negative: above it), with what it has
 * of the best spot's power density, 0..1.
 */
export function spotOnSheet(
  setup: LensSetup,
  offMm: number,
  rimRadiusMm: number,
): { readonly spotMm: number; readonly densityShare: number } {
  const best = focusOf({ ...setup, flipped: false });
  const own = focusOf(setup);
  const blur = blurAt(moments(setup), sheetPlaneMm(setup, offMm, rimRadiusMm));
  const spotMm = Math.hypot(own.d0Mm, Math.SQRT2 * blur);
  return { spotMm, densityShare: Math.min(1, (best.spotMm / spotMm) ** 2) };
}
