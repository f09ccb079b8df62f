/** Checks plain data against a JSON Schema, the one truth of its shape; errors are worded for the person and keyed by their field. */
import Ajv, { type ErrorObject, type ValidateFunction } from "ajv";

const ajv = new Ajv({ allErrors: true, strict: true, strictRequired: false });
const compiled = new WeakMap<object, ValidateFunction>();
/** Stops at the first thing wrong: a large file with everything wrong would otherwise fill the memory with words. */
const hasty = new Ajv({ allErrors: false, strict: true, strictRequired: false });
const compiledHasty = new WeakMap<object, ValidateFunction>();

/** Messages by field name; "" is for the form as a whole. */
export type FieldErrors = Readonly<Record<string, string>>;
export type Checked<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly errors: FieldErrors };

/** Validates plain data against a JSON Schema; errors are worded for the person and keyed by the field they are about. */
export const check = <T>(schema: object, value: unknown): Checked<T> => checked(ajv, compiled, schema, value);

/** The same, with the first error only; for what may be large. */
export const checkFirst = <T>(schema: object, value: unknown): Checked<T> => checked(hasty, compiledHasty, schema, value);

function checked<T>(by: Ajv, known: WeakMap<object, ValidateFunction>, schema: object, value: unknown): Checked<T> {
  let validate = known.get(schema);
  if (!validate) {
    validate = by.compile(schema);
    known.set(schema, validate);
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
