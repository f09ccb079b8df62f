/**
 * The units a workshop reads its figures in (M16). One process serves one workshop, and a browser shows one, so they are held here once
 * and every sentence asks for them; what is kept, computed and sent out stays in the units of its names.
 */
import { inShown, inUnit, METRIC, shownDigits, shownFigure, shownUnit, type Units } from "#core/units";

let inForce: Units = METRIC;

export const unitsInForce = (): Units => inForce;

/** From now on figures are shown in these. */
export function showIn(units: Units): void {
  inForce = units;
}

/** The unit that a figure kept in `unit` is read in here. */
export const unitHere = (unit: string): string => shownUnit(unit, inForce);

/** A kept figure as it is read here, without its unit. */
export const figureHere = (value: number, unit: string, digits = 1): string => shownFigure(value, unit, inForce, digits).replace("-", "−");

/** "10 to 60 mm": both ends as they are read here. */
export const rangeHere = (low: number, high: number, unit: string): string => `${figureHere(low, unit)} to ${withUnit(high, unit)}`;

/** "between 10 and 60 mm". */
export const betweenHere = (low: number, high: number, unit: string): string =>
  `between ${figureHere(low, unit)} and ${withUnit(high, unit)}`;

/** A kept figure with all its digits, so that a row of them stands in line. */
export const fixedHere = (value: number, unit: string): string => inShown(value, unit, inForce).toFixed(shownDigits(unit, inForce, 1));

/** A kept figure as it stands in a field here; anything but a plain figure, and whatever is read as it is kept, stays as it is. */
export function textHere(kept: string, unit: string): string {
  if (shownUnit(unit, inForce) === unit || !/^[+-]?\d+(?:[.,]\d+)?$/.test(kept.trim())) return kept;
  const value = Number(kept.replace(",", "."));
  const exact = inShown(value, unit, inForce);
  // As short as it may be: the kept figure stands beside it, and is what counts until somebody types another.
  for (let digits = 0; digits < 4; digits++)
    if (Math.abs(Number(exact.toFixed(digits)) - exact) <= FIELD_SHARE * Math.abs(exact)) return Number(exact.toFixed(digits)).toString();
  return Number(exact.toFixed(4)).toString();
}
/** A field may show so much more or less than what is kept. */
const FIELD_SHARE = 5e-4;

/** What stands in a field here as the figure that is kept; undefined while it is none. */
export function keptHere(text: string, unit: string): number | undefined {
  const value = Number(text.trim().replace(",", ".").replace("−", "-"));
  return text.trim() === "" || !Number.isFinite(value) ? undefined : inUnit(value, shownUnit(unit, inForce), unit);
}

/**
 * A kept figure with its unit, as it is read here.
 * @example withUnit(14, "mm/s") // "14 mm/s", or "33.1 in/min"
 */
export const withUnit = (value: number, unit: string, digits = 1): string => `${figureHere(value, unit, digits)} ${unitHere(unit)}`.trim();

/** Beside a field that shows another unit than the kept one: which it is, and the figure it was filled with as it is kept. */
export const UNIT_BESIDE = "~unit";
export const WAS_BESIDE = "~was";
