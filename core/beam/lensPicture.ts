import { flipShiftMm, focusOf, type LensSetup, sheetPlaneMm, spotOnSheet, traceRay } from "./lens";

/** A ray near the focus: its height (mm, across the beam) at the top and at the bottom of the window. */
export interface DrawnRay {
  /** Height at the lens as a share of the beam's radius, -1..1. */
  readonly share: number;
  readonly fromMm: number;
  readonly toMm: number;
}

/** What a lens does to a sheet, for a picture of it and the figures beside. All lengths in mm. */
export interface LensPicture {
  readonly rays: readonly DrawnRay[];
  /** Spot on the sheet, and the best this lens can do at its right side and height. */
  readonly spotMm: number;
  readonly bestMm: number;
  /** Power density on the sheet as a share of the best, 0..1. */
  readonly densityShare: number;
  /** How far the sheet lies from the focus, below it positive. */
  readonly offFocusMm: number;
  /** Within this of the focus it counts as sharp. */
  readonly sharpWithinMm: number;
  readonly isSharp: boolean;
  /** How much lower the focus lies when the lens is turned over. */
  readonly flipShiftMm: number;
  readonly diffractionMm: number;
  /** Blur of the rays with the bulge up, and down. */
  readonly blurUpMm: number;
  readonly blurDownMm: number;
}

const SHARES = [-1, -0.8, -0.6, -0.4, -0.2, 0, 0.2, 0.4, 0.6, 0.8, 1];
/** Rays further out than this share of the focal length are not traced. */
const WIDEST = 0.95;

/**
 * A lens with a sheet `offMm` below the height the gauge gives, in a window of `spanMm` above and below that height. `apertureMm` is the
 * lens's clear aperture (diameter).
 */
export function lensPicture(setup: LensSetup, apertureMm: number, offMm: number, spanMm: number): LensPicture {
  const rimMm = Math.min(apertureMm / 2, WIDEST * setup.focalMm);
  const up = focusOf({ ...setup, flipped: false });
  const down = focusOf({ ...setup, flipped: true });
  const shift = flipShiftMm(setup, rimMm);
  const { spotMm, densityShare } = spotOnSheet(setup, offMm, rimMm);
  const offFocusMm = setup.flipped ? offMm - shift : offMm;
  const usualMm = sheetPlaneMm(setup, 0, rimMm);
  const rays = SHARES.flatMap((share): DrawnRay[] => {
    const ray = traceRay(setup, (share * setup.beamDiameterMm) / 2);
    if (!ray) return [];
    const heightAt = (mm: number) => ray.heightMm + ray.slope * (mm + usualMm - ray.zMm);
    return [{ share, fromMm: heightAt(-spanMm), toMm: heightAt(spanMm) }];
  });
  return {
    rays,
    spotMm,
    bestMm: up.spotMm,
    densityShare,
    offFocusMm,
    sharpWithinMm: up.rayleighMm,
    isSharp: Math.abs(offFocusMm) <= up.rayleighMm,
    flipShiftMm: shift,
    diffractionMm: up.d0Mm,
    blurUpMm: up.blurMm,
    blurDownMm: down.blurMm,
  };
}
