/** Speeds of the next ladder: round in the unit they are read in, and kept to the last digit. */
import { suggestRungs } from "#core/cuts";
import { inShown } from "#core/units";
import { keptHere, unitsInForce } from "../units";

/** mm/s, slowest first. */
export const rungsHere = (expectedMmPerS: number, count?: number): number[] =>
  suggestRungs(inShown(expectedMmPerS, "mm/s", unitsInForce()), count).map((v) => keptHere(String(v), "mm/s") ?? v);

/** A kept speed as a form carries it. */
export const keptText = (mmPerS: number): string => String(Number(mmPerS.toPrecision(8)));
