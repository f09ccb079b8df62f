/** Figures of the lens in words. */
import type { LensPicture } from "#core/beam";
import { fixedHere, withUnit } from "#services/units";

export const um = (mm: number): string => `${Math.round(1000 * mm)} µm`;
export const signed = (mm: number): string => `${mm > 0 ? "+" : mm < 0 ? "−" : ""}${fixedHere(Math.abs(mm), "mm")}`;

/** The answer first, then what it rests on. */
export function lensVerdict(p: LensPicture, flipped: boolean): { readonly headline: string; readonly lead: string } {
  const percent = Math.round(100 * p.densityShare);
  if (flipped) {
    return {
      headline: `Upside down: ${percent} % of the power density${p.isSharp ? "" : ", out of focus"}.`,
      lead: `The focus lies ${withUnit(p.flipShiftMm, "mm")} lower than the gauge says, and the rays cross ${(p.blurDownMm / p.blurUpMm).toFixed(1)} times less sharply. The height is the larger harm.`,
    };
  }
  return {
    headline: p.isSharp
      ? `Bulge up and in focus: a spot of ${um(p.spotMm)}.`
      : `Bulge up, but out of focus: ${percent} % of the power density.`,
    lead: `It stays sharp within ±${withUnit(p.sharpWithinMm, "mm")} of the gauge's height. A wider beam makes a smaller spot and a shallower focus.`,
  };
}
