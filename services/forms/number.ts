/** Reads a number the way people type it: "6,5", "1/4", "1 1/2", with or without its unit. */

import { inUnit } from "#core/units";

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
  let value = Number((parts[1] as string).replace(",", "."));
  const divisor = Number(parts[4] ?? 1);
  if (parts[2]) value += (Number(parts[2]) / Number(parts[3])) * Math.sign(value || 1);
  value /= divisor;
  if (!Number.isFinite(value)) return { ok: false, problem: `"${trimmed}" divides by zero. Give ${wants}.` };
  const read = inUnit(value, parts[5] ?? unit, unit);
  if (read === undefined) return { ok: false, problem: `The unit "${parts[5]}" does not fit here. Give ${wants}.` };
  return { ok: true, value: read };
}
