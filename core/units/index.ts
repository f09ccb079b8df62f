/**
 * # Units (M16)
 * Answers: what a figure is in the unit a field keeps, whatever unit it was typed in. One table of exact factors (international inch, US
 * gallon, SI); storage is always the field's own unit, so that a figure typed in another is converted once and never back.
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
  "L/min": { "l/min": { factor: 1 }, "l/h": { factor: 1 / 60 }, "gal/min": { factor: GALLON_L }, gpm: { factor: GALLON_L } },
  "m/s": { "m/s": { factor: 1 }, "ft/min": { factor: FOOT_M / 60 }, fpm: { factor: FOOT_M / 60 } },
  "m³/h": { "m³/h": { factor: 1 }, "m3/h": { factor: 1 }, cfm: { factor: 60 * FOOT_M ** 3 }, "ft³/min": { factor: 60 * FOOT_M ** 3 } },
  Pa: { pa: { factor: 1 }, mbar: { factor: 100 }, inh2o: { factor: 249.08891 } },
  "cm²": { "cm²": { factor: 1 }, cm2: { factor: 1 }, "in²": { factor: (INCH_MM / 10) ** 2 }, in2: { factor: (INCH_MM / 10) ** 2 } },
};

/**
 * A figure in a field's own unit, from the unit it was typed in; undefined for a unit that does not fit the field.
 * @example inUnit(68, "F", "°C") // 20
 */
export function inUnit(value: number, typed: string, unit: string): number | undefined {
  const written = typed.trim().toLowerCase();
  const taken = TAKEN[unit];
  if (taken && Object.hasOwn(taken, written)) {
    const { factor, offset = 0 } = taken[written] as Unit;
    return (value + offset) * factor;
  }
  return written === unit.toLowerCase() ? value : undefined;
}

/** Units a field of a unit takes besides its own. */
export const otherUnits = (unit: string): readonly string[] => Object.keys(TAKEN[unit] ?? {}).filter((u) => u !== unit.toLowerCase());
