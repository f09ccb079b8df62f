/** From a posted log form to a checked event. One reader per kind; the shape's schema has the last word. */
import type { EventKind, EventPayload } from "#core/events";
import { eventSchemas } from "#core/events";
import { check, type FieldErrors, type FormReader } from "../server/forms";
import type { Gathered } from "../workshop/gather";
import { number, sinceDay } from "../workshop/words";

/** Kinds an owner enters by hand; grades and services come from rounds and station cards as well. */
export const ENTRY_KINDS = ["hours", "job", "cut", "ladder", "power", "grade", "note"] as const;
export type EntryKind = (typeof ENTRY_KINDS)[number];

export const isEntryKind = (kind: string | null | undefined): kind is EntryKind => ENTRY_KINDS.includes(kind as EntryKind);

const withoutGaps = (value: Record<string, unknown>) => Object.fromEntries(Object.entries(value).filter(([, v]) => v !== undefined));

const integer = (text: string | undefined) => (text === undefined ? undefined : Number.parseInt(text, 10));

function readRungs(reader: FormReader): { speedMmPerS: number; end: string }[] {
  const rungs: { speedMmPerS: number; end: string }[] = [];
  for (let i = 0; i < 24; i++) {
    const end = reader.text(`end-${i}`);
    if (end === undefined) continue;
    const speed = reader.number(`speed-${i}`, "mm/s", "12");
    if (speed !== undefined) rungs.push({ speedMmPerS: speed, end });
  }
  if (rungs.length === 0) reader.errors.rungs ??= "Say of at least one rung how it ended: dropped, hangs or stays.";
  return rungs;
}

function readPower(reader: FormReader, stations: readonly string[]) {
  const readings = stations.flatMap((station) => {
    const powerW = reader.optionalNumber(`power-${station}`, "W", "58");
    return powerW === undefined ? [] : [{ station, powerW }];
  });
  if (readings.length === 0 && Object.keys(reader.errors).length === 0)
    reader.errors.readings = "Give the watts after at least one station.";
  return readings;
}

function rawPayload(kind: EntryKind, reader: FormReader, g: Gathered): Record<string, unknown> {
  const note = reader.text("note");
  switch (kind) {
    case "hours":
      return { counterHours: reader.number("counterHours", "h", "1846.5"), because: reader.text("because"), note };
    case "job":
      return { materialId: integer(reader.text("materialId")), minutes: reader.number("minutes", "min", "25"), note };
    case "cut":
      return {
        materialId: integer(reader.text("materialId")),
        speedMmPerS: reader.number("speedMmPerS", "mm/s", "14"),
        setPercent: reader.number("setPercent", "%", "60"),
        result: reader.text("result"),
        note,
      };
    case "ladder":
      return {
        materialId: integer(reader.text("materialId")),
        setPercent: reader.number("setPercent", "%", "60"),
        rungs: readRungs(reader),
        baseline: reader.text("baseline") === "1" ? true : undefined,
        note,
      };
    case "power":
      return {
        setPercent: reader.number("setPercent", "%", "100"),
        readings: readPower(
          reader,
          g.trade.layout.stations.filter((s) => s.role !== "window").map((s) => s.id),
        ),
        baseline: reader.text("baseline") === "1" ? true : undefined,
        note,
      };
    case "grade":
      return { station: reader.text("station"), phase: "as-found", grade: integer(reader.text("grade")), note };
    case "note":
      return { note };
  }
}

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

/** More firing in an hour than an hour holds is a slip of the keys. */
const SLACK_HOURS = 1;

/**
 * Reads and checks one entry. `atMs` is when it happened; `replaces` the record it corrects, which is left out of the comparison
 * for hours. Hours that run backwards are asked about, never silently taken.
 */
export function readEntry(kind: EntryKind, reader: FormReader, g: Gathered, atMs: number, replaces?: number): Entry {
  const raw = withoutGaps(rawPayload(kind, reader, g));
  const checked = check<EventPayload[EventKind]>(eventSchemas[kind], raw);
  const errors: Record<string, string> = {};
  if (!checked.ok) {
    for (const [field, message] of Object.entries(checked.errors)) {
      const rung = /^rungs\.(\d+)\.speedMmPerS$/.exec(field);
      const reading = /^readings\.(\d+)\.powerW$/.exec(field);
      if (rung) errors.rungs = `Rung ${Number(rung[1]) + 1}: the speed ${message.charAt(0).toLowerCase()}${message.slice(1)}`;
      else if (reading) {
        const readings = raw.readings as { station: string }[];
        errors[`power-${readings[Number(reading[1])]?.station}`] = message;
      } else errors[field] = FRIENDLY[field] && message === "Still missing." ? FRIENDLY[field] : message;
    }
  }
  Object.assign(errors, reader.errors);
  if (raw.materialId !== undefined && !g.materials.some((m) => m.id === raw.materialId))
    errors.materialId = "This material is not on the machine's list.";
  if (Object.keys(errors).length > 0 || !checked.ok) return { ok: false, errors };
  if (kind === "hours") {
    const problem = hoursProblem(checked.value as EventPayload["hours"], g, atMs, replaces);
    if (problem) return problem;
  }
  return { ok: true, kind, payload: checked.value };
}

function hoursProblem(payload: EventPayload["hours"], g: Gathered, atMs: number, replaces: number | undefined): Entry | undefined {
  const others = g.events.filter((e) => e.kind === "hours" && e.id !== replaces);
  const before = others.filter((e) => e.atMs <= atMs).at(-1);
  if (before?.kind !== "hours" || payload.because) return undefined;
  const last = before.payload.counterHours;
  if (payload.counterHours < last) {
    return {
      ok: false,
      errors: {
        counterHours: `That is less than the ${number(last)} h of ${sinceDay(before.atMs, g.nowMs)}. If you mistyped, give ${number(last)} or more.`,
      },
      ask: "Or was something changed?",
    };
  }
  const possible = (atMs - before.atMs) / 3_600_000 + SLACK_HOURS;
  if (payload.counterHours - last > possible) {
    return {
      ok: false,
      errors: {
        counterHours: `${number(payload.counterHours - last)} h more than ${sinceDay(before.atMs, g.nowMs)}, when only ${number(Math.max(0, possible - SLACK_HOURS))} h have passed. At most ${number(last + possible)} is possible.`,
      },
      ask: "Or was something changed?",
    };
  }
  return undefined;
}
