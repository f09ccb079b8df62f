/** Dirt: how fast the optics of this shop foul, and what a clean leaves. */
import type { Field } from "./gaussian";

/** How much faster or slower than a haze per interval an optic fouls in this shop; never below nought, so that the middle of what it may be is about 1.3. */
export const FOULING_FACTOR = { mean: 1.2, sd: 0.9 } as const;
/** Of that, what one optic differs from the others of its shop, and what shops differ. */
const OWN_SD = 0.55;
const SHOP_SD = Math.sqrt(FOULING_FACTOR.sd ** 2 - OWN_SD ** 2);

/** Share of the dirt that a clean leaves, and how much that varies. */
export const LEFT_BY_CLEAN = { mean: 0.13, sd: 0.1 } as const;

export const expectDirt = (field: Field, at: number, optics: number): void => field.alike(at, optics, FOULING_FACTOR.mean, OWN_SD, SHOP_SD);

/** An optic that has lost so much (ln power) is past all dirt: a counter was read wrong, or it burns. */
const MOST_DIRT = 0.7;

/** Expected fouling of one optic in ln power: a haze's worth (2 %) per interval of ply-hours, growing in step with the dose until no light is left to lose. */
export function foulingOf(dosePlyHours: number, intervalPlyHours: number): number {
  return Math.min(MOST_DIRT, (0.02 * Math.max(0, dosePlyHours)) / intervalPlyHours);
}

/** What is on an optic after several spans between cleans, oldest first: of each, a clean leaves a part. */
export function foulingAfter(dosesPlyHours: readonly number[], intervalPlyHours: number): number {
  return dosesPlyHours.reduce((left, dose) => LEFT_BY_CLEAN.mean * left + foulingOf(dose, intervalPlyHours), 0);
}
