/**
 * The table of units: factors to the kept unit, and which unit a choice shows. Storage is always the field's own unit, so that a figure
 * typed in another is converted once and never back.
 */

/** A unit as a factor to its kind's own unit, and where its nought lies. */
interface Unit {
  readonly factor: number;
  /** Added before the factor: °F only. */
  readonly offset?: number;
}

const INCH_MM = 25.4;
const GALLON_L = 3.785411784;
const FOOT_M = 0.3048;

const length: Readonly<Record<string, Unit>> = {
  mm: { factor: 1 },
  cm: { factor: 10 },
  m: { factor: 1000 },
  in: { factor: INCH_MM },
  inch: { factor: INCH_MM },
  '"': { factor: INCH_MM },
  ft: { factor: 12 * INCH_MM },
};
const volume: Readonly<Record<string, Unit>> = {
  l: { factor: 1 },
  ml: { factor: 0.001 },
  gal: { factor: GALLON_L },
  qt: { factor: GALLON_L / 4 },
};

/** Units that are taken in a field, by the field's own unit and as they are typed in lower case. */
const TAKEN: Readonly<Record<string, Readonly<Record<string, Unit>>>> = {
  mm: length,
  "mm/s": {
    "mm/s": { factor: 1 },
    "mm/min": { factor: 1 / 60 },
    "m/min": { factor: 1000 / 60 },
    "in/min": { factor: INCH_MM / 60 },
    ipm: { factor: INCH_MM / 60 },
    "in/s": { factor: INCH_MM },
  },
  W: { w: { factor: 1 }, kw: { factor: 1000 } },
  h: { h: { factor: 1 }, min: { factor: 1 / 60 } },
  min: { min: { factor: 1 }, h: { factor: 60 }, s: { factor: 1 / 60 } },
  "%": { "%": { factor: 1 } },
  mA: { ma: { factor: 1 }, a: { factor: 1000 } },
  "°C": {
    "°c": { factor: 1 },
    c: { factor: 1 },
    "°f": { factor: 5 / 9, offset: -32 },
    f: { factor: 5 / 9, offset: -32 },
  },
  // A difference has no nought of its own.
  K: { k: { factor: 1 }, "°c": { factor: 1 }, c: { factor: 1 }, "°f": { factor: 5 / 9 }, f: { factor: 5 / 9 } },
  L: volume,
  mL: { ml: { factor: 1 }, l: { factor: 1000 }, "fl oz": { factor: (1000 * GALLON_L) / 128 }, gal: { factor: 1000 * GALLON_L } },
  "L/min": { "l/min": { factor: 1 }, "l/h": { factor: 1 / 60 }, "gal/min": { factor: GALLON_L }, gpm: { factor: GALLON_L } },
  "m/s": { "m/s": { factor: 1 }, "ft/min": { factor: FOOT_M / 60 }, fpm: { factor: FOOT_M / 60 } },
  "m³/h": { "m³/h": { factor: 1 }, "m3/h": { factor: 1 }, cfm: { factor: 60 * FOOT_M ** 3 }, "ft³/min": { factor: 60 * FOOT_M ** 3 } },
  Pa: { pa: { factor: 1 }, mbar: { factor: 100 }, inh2o: { factor: 249.08891 } },
  "cm²": { "cm²": { factor: 1 }, cm2: { factor: 1 }, "in²": { factor: (INCH_MM / 10) ** 2 }, in2: { factor: (INCH_MM / 10) ** 2 } },
};

/** What a typed unit is to a field's own; undefined where it does not fit. */
function unitTyped(typed: string, unit: string): Unit | undefined {
  const written = typed.trim().toLowerCase();
  const taken = TAKEN[unit];
  if (taken && Object.hasOwn(taken, written)) return taken[written];
  return written === unit.toLowerCase() ? { factor: 1 } : undefined;
}

/**
 * A figure in a field's own unit, from the unit it was typed in; undefined for a unit that does not fit the field.
 * @example inUnit(68, "F", "°C") // 20
 */
export function inUnit(value: number, typed: string, unit: string): number | undefined {
  const of = unitTyped(typed, unit);
  return of && (value + (of.offset ?? 0)) * of.factor;
}

/** The other way: a figure kept in `unit` as it is typed in another; undefined for a unit that does not fit. */
export function outOfUnit(value: number, typed: string, unit: string): number | undefined {
  const of = unitTyped(typed, unit);
  return of && value / of.factor - (of.offset ?? 0);
}

/** Units a field of a unit takes besides its own. */
export const otherUnits = (unit: string): readonly string[] => Object.keys(TAKEN[unit] ?? {}).filter((u) => u !== unit.toLowerCase());

/** What a workshop likes to read, kind by kind. */
export const UNIT_CHOICES = {
  length: ["mm", "in"],
  speed: ["mm/s", "in/min"],
  temperature: ["°C", "°F"],
  volume: ["L", "gal"],
  air: ["m³/h", "cfm"],
} as const;
export type Units = { readonly [K in keyof typeof UNIT_CHOICES]: (typeof UNIT_CHOICES)[K][number] };

/** As figures are kept. */
export const METRIC: Units = { length: "mm", speed: "mm/s", temperature: "°C", volume: "L", air: "m³/h" };

/** By kept unit: which choice decides, and what is read where it is not the kept one. */
const SHOWN: Readonly<Record<string, readonly [keyof Units, string]>> = {
  mm: ["length", "in"],
  "cm²": ["length", "in²"],
  "mm/s": ["speed", "in/min"],
  "°C": ["temperature", "°F"],
  K: ["temperature", "°F"],
  L: ["volume", "gal"],
  mL: ["volume", "fl oz"],
  "L/min": ["volume", "gal/min"],
  "m³/h": ["air", "cfm"],
  "m/s": ["air", "ft/min"],
};

/** The unit that a figure kept in `unit` is read in. A difference of temperatures is read in degrees. */
export function shownUnit(unit: string, units: Units): string {
  const [choice, other] = (Object.hasOwn(SHOWN, unit) && SHOWN[unit]) || [];
  return choice === undefined || units[choice] === METRIC[choice] ? (unit === "K" ? "°C" : unit) : (other as string);
}

/**
 * A kept figure in the unit it is read in.
 * @example inShown(20, "°C", { ...METRIC, temperature: "°F" }) // 68
 */
export function inShown(value: number, unit: string, units: Units): number {
  return outOfUnit(value, shownUnit(unit, units), unit) as number;
}

/** Digits after the point that tell as much as `digits` do in the kept unit. */
export function shownDigits(unit: string, units: Units, digits: number): number {
  const shown = shownUnit(unit, units);
  if (shown === unit) return digits;
  // Three digits of inches tell as much as one of millimetres.
  const factor = Math.abs((inUnit(1, shown, unit) ?? 1) - (inUnit(0, shown, unit) ?? 0));
  return Math.max(0, digits + Math.round(Math.log10(factor) + 0.2));
}

/**
 * A kept figure as it is read, without its unit: no more digits than it is worth.
 * @example shownFigure(3, "mm", { ...METRIC, length: "in" }) // "0.118"
 */
export const shownFigure = (value: number, unit: string, units: Units, digits = 1): string =>
  Number(inShown(value, unit, units).toFixed(shownDigits(unit, units, digits))).toString();
