/** From a posted form to a checked value: numbers read as people type them, then Ajv against the shape's one schema. */
import Ajv, { type ErrorObject, type ValidateFunction } from "ajv";
import { data } from "react-router";
import { readNumber } from "../ui/number";

const ajv = new Ajv({ allErrors: true, strict: true, strictRequired: false });
const compiled = new WeakMap<object, ValidateFunction>();

/** Messages by field name; "" is for the form as a whole. */
export type FieldErrors = Readonly<Record<string, string>>;
export type Checked<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly errors: FieldErrors };

/** Validates plain data against a JSON Schema; errors are worded for the person and keyed by the field they are about. */
export function check<T>(schema: object, value: unknown): Checked<T> {
  let validate = compiled.get(schema);
  if (!validate) {
    validate = ajv.compile(schema);
    compiled.set(schema, validate);
  }
  if (validate(value)) return { ok: true, value: value as T };
  const errors: Record<string, string> = {};
  for (const error of validate.errors ?? []) {
    const field = fieldOf(error);
    errors[field] ??= wordsFor(error);
  }
  return { ok: false, errors };
}

function fieldOf(error: ErrorObject): string {
  const missing = (error.params as { missingProperty?: string; additionalProperty?: string }).missingProperty;
  const path = error.instancePath.slice(1).replaceAll("/", ".");
  return missing ? [path, missing].filter(Boolean).join(".") : path;
}

function wordsFor(error: ErrorObject): string {
  const params = error.params as { limit?: number; allowedValues?: readonly string[]; additionalProperty?: string };
  switch (error.keyword) {
    case "required":
      return "Still missing.";
    case "minimum":
      return `Must be ${params.limit} or more.`;
    case "exclusiveMinimum":
      return `Must be above ${params.limit}.`;
    case "maximum":
      return `Must be ${params.limit} or less.`;
    case "enum":
      return `Choose one of: ${params.allowedValues?.join(", ")}.`;
    case "minItems":
      return `At least ${params.limit} needed.`;
    case "maxItems":
      return `At most ${params.limit} allowed.`;
    case "minLength":
      return params.limit === 1 ? "Must not be empty." : `At least ${params.limit} characters.`;
    case "maxLength":
      return `At most ${params.limit} characters.`;
    case "additionalProperties":
      return `"${params.additionalProperty}" is not known here.`;
    default:
      return `This ${error.message ?? "is not right"}.`;
  }
}

/** Reads fields of a form, collecting what is wrong instead of stopping at the first. */
export class FormReader {
  readonly errors: Record<string, string> = {};
  constructor(private readonly form: FormData) {}

  text(name: string): string | undefined {
    const value = this.form.get(name);
    return typeof value === "string" && value.trim() !== "" ? value.trim() : undefined;
  }

  /** A required number; reads to undefined with an error when it is not one. */
  number(name: string, unit: string, example: string): number | undefined {
    const reading = readNumber(this.text(name) ?? "", unit, example);
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
    if (!key || !/^[\w-]{1,80}$/.test(key)) throw data("The form carries no key. Reload the page.", { status: 400 });
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
  return { errors: { ...errors, ...reader.errors }, typed: reader.typed };
}
