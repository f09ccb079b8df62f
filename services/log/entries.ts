/** From a posted log form to a checked record, and from a record back to the form. */

import dayjs from "dayjs";
import { type EventKind, type EventPayload, eventSchemas, type MachineEvent } from "#core/events";
import { MINUTE_MS } from "#core/time";
import { check, type FieldErrors } from "#store/check";
import type { FormReader } from "../forms/fields";
import type { Gathered } from "../machine/gathered";
import { mayBeCut } from "../machine/usual";
import { materialName } from "../words";
import { type EntryKind, eventKinds } from "./kinds";
import type { EntryForm } from "./kinds/definition";

const FRIENDLY: Readonly<Record<string, string>> = {
  result: "Say how the cut went.",
  grade: "Pick a grade.",
  materialId: "Choose a material.",
  station: "Choose a station.",
  note: "Write something first.",
};

export type Entry =
  | { readonly ok: true; readonly kind: EventKind; readonly payload: EventPayload[EventKind] }
  | { readonly ok: false; readonly errors: FieldErrors; readonly ask?: string };

/** The form of a kind; they are kept by kind, which the compiler cannot follow from a variable. */
const formOf = (kind: EntryKind) => eventKinds[kind].entry as EntryForm<EventKind>;

/** Reads and checks one entry. `atMs` is when it happened; `replaces` the record it corrects, left out of comparisons. */
export function readEntry(kind: EntryKind, reader: FormReader, g: Gathered, atMs: number, replaces?: number): Entry {
  const form = formOf(kind);
  const fields = { ...form.read(reader, g), note: reader.text("note") };
  const raw: Record<string, unknown> = Object.fromEntries(Object.entries(fields).filter(([, v]) => v !== undefined));
  const checked = check<EventPayload[EventKind]>(eventSchemas[kind], raw);
  const errors: Record<string, string> = {};
  for (const [path, message] of checked.ok ? [] : Object.entries(checked.errors)) {
    const friendly = message === "Still missing." ? (FRIENDLY[path] ?? message) : message;
    const [field, words] = form.errorAt?.(path, message, raw) ?? [path, friendly];
    errors[field] = words;
  }
  Object.assign(errors, reader.errors);
  if (raw.materialId !== undefined && !g.materials.some((m) => m.id === raw.materialId))
    errors.materialId = "This material is not on the machine's list.";
  const material = g.materials.find((m) => m.id === raw.materialId);
  if (material && !mayBeCut(material)) errors.materialId = `Do not cut ${materialName(material)}. Nothing was saved.`;
  if (Object.keys(errors).length > 0 || !checked.ok) return { ok: false, errors };
  const problem = form.problem?.(checked.value, g, atMs, replaces);
  return problem ? { ok: false, ...problem } : { ok: true, kind, payload: checked.value };
}

/** Fills the form again from a stored record, to correct it. */
export function typedFrom(event: MachineEvent & { readonly kind: EntryKind }): Record<string, string> {
  const typed: Record<string, string> = { at: momentText(event.atMs) };
  for (const [key, value] of Object.entries(event.payload)) {
    if (typeof value === "string" || typeof value === "number") typed[key] = String(value);
    if (value === true) typed[key] = "1";
  }
  return { ...typed, ...formOf(event.kind).typed?.(event.payload) };
}

/** A moment as a field for date and time carries it. */
export const momentText = (ms: number): string => dayjs(ms).format("YYYY-MM-DDTHH:mm");
const EARLIEST_YEAR = 1980;

/** When an entry happened: now unless the form says otherwise; never in the future. Undefined with an error where it cannot be read. */
export function whenOf(reader: FormReader, nowMs: number): number | undefined {
  const text = reader.text("at");
  if (text === undefined) return nowMs;
  const when = dayjs(text);
  const [day] = text.split(/[ T]/);
  // A day the calendar does not have would silently become another one.
  if (!/^\d{4}-\d{2}-\d{2}([ T]\d{2}:\d{2})?$/.test(text) || !when.isValid() || when.format("YYYY-MM-DD") !== day) {
    reader.errors.at = "This is not a day of the calendar. Pick it again, with the time if you know it.";
    return undefined;
  }
  if (when.year() < EARLIEST_YEAR) {
    reader.errors.at = `No record is older than ${EARLIEST_YEAR}. Look at the year.`;
    return undefined;
  }
  // The form shows whole minutes; "now" must not become the past by rounding.
  if (Math.abs(nowMs - when.valueOf()) < MINUTE_MS) return nowMs;
  if (when.valueOf() > nowMs) {
    reader.errors.at = "That is in the future. Give today or an earlier day.";
    return undefined;
  }
  return when.valueOf();
}
