/**
 * # Units (M16)
 * Answers: what a figure is in the unit a field keeps, whatever unit it was typed in; and what a kept figure is in the unit a workshop
 * likes to read. Exact factors (international inch, US gallon, SI).
 */
export { unitsSchema } from "./schema";
export {
  inShown,
  inUnit,
  METRIC,
  otherUnits,
  outOfUnit,
  shownDigits,
  shownFigure,
  shownUnit,
  UNIT_CHOICES,
  type Units,
} from "./table";
