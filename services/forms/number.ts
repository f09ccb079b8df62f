/** Reads a number the way people type it: "6,5", "1/4", "1 1/2", with or without its unit. */

import { inUnit, outOfUnit } from "#core/units";
import { UNIT_BESIDE, WAS_BESIDE } from "../units";

export type NumberReading = { readonly ok: true; readonly value: number } | { readonly ok: false; readonly problem: string };

/** A figure in `unit`; one typed without a unit is in `bare`, which the field showed. */
export function readNumber(text: string, unit: string, example: string, bare = unit): NumberReading {
  const trimmed = text.trim().replace(/^−/, "-");
  const parts = /^([+-]?\d+(?:[.,]\d+)?)(?:\s+(\d+)\/(\d+))?(?:\/(\d+))?\s*([^\d\s].*)?$/.exec(trimmed);
  const wants = `a number in ${bare}, such as ${bare === unit ? example : Number((outOfUnit(Number(example), bare, unit) ?? Number(example)).toPrecision(3))}`;
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
  const read = inUnit(value, parts[5] ?? bare, unit);
  if (read === undefined) return { ok: false, problem: `The unit "${parts[5]}" does not fit here. Give ${wants}.` };
  // No more digits than a converted figure is worth, and none that the conversion made.
  return { ok: true, value: (parts[5] ?? bare) === unit ? read : Number(read.toPrecision(12)) };
}

type Sent = (name: string) => string | undefined;

/** What a field was filled with, as it is kept, where it still stands there as it was shown. */
function untouched(sent: Sent, name: string): string | undefined {
  const [shown, kept] = (sent(name + WAS_BESIDE) ?? "").split("=");
  return shown === (sent(name) ?? "").trim() ? kept : undefined;
}

/**
 * A field of a sent form. Its figure is in the unit it was shown in, whatever the workshop reads by now; one that nobody touched is the
 * kept one, to the last digit.
 */
export function sentNumber(sent: Sent, name: string, unit: string, example: string): NumberReading {
  const kept = untouched(sent, name);
  return kept === undefined ? readNumber(sent(name) ?? "", unit, example, sent(name + UNIT_BESIDE)) : readNumber(kept, unit, example);
}

/** The same for a list of figures in one field; `read` takes it apart, `bad` is the first word that is no figure. */
export function sentNumbers(
  sent: Sent,
  name: string,
  unit: string,
  read: (text: string) => { readonly speeds: readonly number[]; readonly bad: string | undefined },
): { readonly speeds: readonly number[]; readonly bad: string | undefined } {
  const kept = untouched(sent, name);
  if (kept !== undefined) return read(kept);
  const { speeds, bad } = read(sent(name) ?? "");
  const bare = sent(name + UNIT_BESIDE) ?? unit;
  return { speeds: bare === unit ? speeds : speeds.map((v) => Number((inUnit(v, bare, unit) ?? Number.NaN).toPrecision(12))), bad };
}
