/** A posted form as named fields: numbers read as people type them, everything that is wrong collected instead of the first. */
import { createHash } from "node:crypto";
import type { FieldErrors } from "#store/check";
import type { SentForm } from "#store/sent";
import { Unreadable } from "../refusal";
import { unitHere, withUnit } from "../units";
import { sentNumber } from "./number";

/** Reads fields of a form, collecting what is wrong instead of stopping at the first. */
export class FormReader {
  readonly errors: Record<string, string> = {};
  /** The kept units of the figures it was asked for. */
  readonly units = new Map<string, string>();
  constructor(private readonly form: FormData) {}

  text(name: string): string | undefined {
    const value = this.form.get(name);
    return typeof value === "string" && value.trim() !== "" ? value.trim() : undefined;
  }

  /** A required number; reads to undefined with an error when it is not one. */
  number(name: string, unit: string, example: string): number | undefined {
    this.units.set(name, unit);
    const reading = sentNumber((field) => this.text(field), name, unit, example);
    if (reading.ok) return reading.value;
    this.errors[name] = reading.problem;
    return undefined;
  }

  optionalNumber(name: string, unit: string, example: string): number | undefined {
    return this.text(name) === undefined ? undefined : this.number(name, unit, example);
  }

  all(name: string): string[] {
    return this.form.getAll(name).map(String);
  }

  /** One-time key of a form; a missing one is a broken form, not a person's mistake. */
  get requestKey(): string {
    const key = this.text("requestKey");
    if (!key || !/^[\w-]{1,80}$/.test(key)) throw new Unreadable("The form carries no key. Reload the page.");
    return key;
  }

  /** Every field with all its values, by name in order. */
  get everything(): Record<string, string[]> {
    const values = Object.create(null) as Record<string, string[]>;
    for (const name of [...new Set(this.form.keys())].sort()) values[name] = this.all(name);
    return values;
  }

  /** What was typed, to fill the form again after an error. */
  get typed(): Record<string, string> {
    const values: Record<string, string> = {};
    for (const [name, value] of this.form) if (typeof value === "string" && name !== "requestKey") values[name] = value;
    return values;
  }
}

/** The answer of an action that did not save: what is wrong and what was typed. */
export interface FormTrouble {
  readonly errors: FieldErrors;
  readonly typed: Record<string, string>;
}

export function trouble(reader: FormReader, errors: FieldErrors = {}): FormTrouble {
  const limits = Object.entries(errors).map(([name, words]) => [name, inReadUnits(words, reader.units.get(name))]);
  return { errors: { ...Object.fromEntries(limits), ...reader.errors }, typed: reader.typed };
}

/** A limit of the schema is in the kept unit: it is told in the one the field shows. */
function inReadUnits(words: string, unit: string | undefined): string {
  if (unit === undefined || unitHere(unit) === unit) return words;
  return words.replace(/^(Must be (?:above )?)(-?[\d.]+)/, (_, must: string, limit: string) => must + withUnit(Number(limit), unit));
}

/** The form as a record of what was sent: `form` names it, with whatever its keys are to be told apart by. */
export function sentAs(form: string, reader: FormReader): SentForm {
  const said = Object.entries(reader.everything).filter(([name]) => name !== "requestKey");
  return { form, key: reader.requestKey, digest: createHash("sha256").update(JSON.stringify(said)).digest("hex") };
}

/** A number from an address or a hidden field that names a record; undefined for anything that cannot name one. */
export function recordId(text: string | null | undefined): number | undefined {
  return text && /^[1-9]\d{0,14}$/.test(text) ? Number(text) : undefined;
}
