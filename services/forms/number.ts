/** Reads a number the way people type it: "6,5", "1/4", "1 1/2", with or without its unit. */

/** Factors from units a person may type to the unit of the field. */
const UNIT_FACTORS: Readonly<Record<string, Readonly<Record<string, number>>>> = {
  mm: { mm: 1, in: 25.4, '"': 25.4, cm: 10 },
  "mm/s": { "mm/s": 1, "in/min": 25.4 / 60, "mm/min": 1 / 60 },
  W: { w: 1, kw: 1000 },
  h: { h: 1, min: 1 / 60 },
  min: { min: 1, h: 60, s: 1 / 60 },
  "%": { "%": 1 },
  mA: { ma: 1, a: 1000 },
  "°C": { "°c": 1, c: 1 },
  "L/min": { "l/min": 1 },
  "m/s": { "m/s": 1 },
};

export type NumberReading = { readonly ok: true; readonly value: number } | { readonly ok: false; readonly problem: string };

export function readNumber(text: string, unit: string, example: string): NumberReading {
  const trimmed = text.trim();
  const parts = /^([+-]?\d+(?:[.,]\d+)?)(?:\s+(\d+)\/(\d+))?(?:\/(\d+))?\s*([^\d\s].*)?$/.exec(trimmed);
  const wants = `a number in ${unit}, such as ${example}`;
  if (trimmed === "") return { ok: false, problem: `Empty. Give ${wants}.` };
  if (/^[+-]?[1-9]\d{0,2},\d{3}(?!\d)/.test(trimmed))
    return {
      ok: false,
      problem: `"${trimmed}" can be read in two ways. Write ${trimmed.replace(",", "")}, or ${trimmed.replace(",", ".")}.`,
    };
  if (!parts || (parts[2] && parts[4])) return { ok: false, problem: `"${trimmed}" is not a number. Give ${wants}.` };
  const typed = (parts[5] ?? unit).trim().toLowerCase();
  const known = UNIT_FACTORS[unit] ?? {};
  const factor = Object.hasOwn(known, typed) ? known[typed] : typed === unit.toLowerCase() ? 1 : undefined;
  if (factor === undefined) return { ok: false, problem: `The unit "${parts[5]}" does not fit here. Give ${wants}.` };
  let value = Number((parts[1] as string).replace(",", "."));
  const divisor = Number(parts[4] ?? 1);
  if (parts[2]) value += (Number(parts[2]) / Number(parts[3])) * Math.sign(value || 1);
  value /= divisor;
  if (!Number.isFinite(value)) return { ok: false, problem: `"${trimmed}" divides by zero. Give ${wants}.` };
  return { ok: true, value: value * factor };
}
