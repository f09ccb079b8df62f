/**
 * # Washing a bed (M9)
 * Answers: how much of an agent a bed takes, diluted from the product's strength, in how many sprayer fills, what a wash costs and how long it
 * takes beside another. The wetted area of a honeycomb of height h and cells of width d is about 4h/d times its plan: its walls, both sides.
 */

export interface Bed {
  readonly widthMm: number;
  readonly depthMm: number;
  readonly kind: "honeycomb" | "slats";
  /** Width of a cell (or the gap of slats) and how deep it is. */
  readonly cellMm: number;
  readonly heightMm: number;
}

/** Area (m²) that an agent wets. @example wettedArea({ widthMm: 900, depthMm: 600, kind: "honeycomb", cellMm: 6, heightMm: 10 }) // 3.6 m² */
export function wettedArea({ widthMm, depthMm, kind, cellMm, heightMm }: Bed): number {
  const planM2 = (widthMm * depthMm) / 1e6;
  // Of slats both faces of each, a gap apart.
  return planM2 * ((kind === "honeycomb" ? 4 : 2) * (heightMm / cellMm));
}

/** Thickness of what clings, and the share that runs off or blows away. */
export const FILM_MM = 0.1;
export const WASTED = 0.2;

/** Litres of one coat, what is wasted included. */
export const coatLitres = (areaM2: number, wasted = WASTED): number => areaM2 * FILM_MM * (1 + wasted);

export interface Dilution {
  /** Litres of the product, and of water. */
  readonly productL: number;
  readonly waterL: number;
}

/** What makes so many litres of a strength from a product's (same unit, > 0). Throws RangeError where it would have to be stronger than it is. */
export function dilute(litres: number, productStrength: number, wanted: number): Dilution {
  if (!(productStrength > 0 && wanted > 0)) throw new RangeError("a strength is more than nought");
  if (wanted > productStrength) throw new RangeError("water makes nothing stronger: the product is weaker than what is wanted");
  const productL = (litres * wanted) / productStrength;
  return { productL, waterL: litres - productL };
}

/** Whole fills of a sprayer. */
export const fills = (litres: number, sprayerL: number): number => Math.ceil(litres / sprayerL - 1e-9);

/** Minutes of a soak by side: a bed has four and is turned over for the back. */
export const soakBySide = (minutes: number, sides = 4): readonly number[] => Array.from({ length: sides }, () => minutes / sides);
