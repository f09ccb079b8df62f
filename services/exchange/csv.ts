/**
 * One kind of record as a table: a column a field, named as the field with its unit in it, and back. Text that a spreadsheet would take for
 * a formula is written behind an apostrophe.
 */
import { createHash } from "node:crypto";
import dayjs from "dayjs";
import Papa from "papaparse";
import { BED_PLACES } from "#core/coupon";
import { type EventKind, type EventPayload, eventSchemas, eventsBetween } from "#core/events";
import { check } from "#store/check";
import type { Gathered } from "../machine/gathered";
import { materialName } from "../words";
import type { FileProblem } from "./problems";

type Fields = Readonly<Record<string, { readonly type?: string; readonly enum?: readonly string[]; readonly items?: object }>>;

/** "speedMmPerS" as a heading: speed_mm_per_s. */
const heading = (field: string) => field.replace(/[A-Z]+/g, (c) => `_${c.toLowerCase()}`);

interface Column {
  readonly heading: string;
  readonly field: string;
  readonly write: (value: unknown, g: Gathered) => string;
  /** Undefined where the cell cannot be read; the words say what would be right. */
  readonly read: (cell: string, g: Gathered) => { readonly value: unknown } | { readonly wrong: string };
}

const ok = (value: unknown) => ({ value });
const figureOf = (cell: string): number => (/^[+-]?\d+([.,]\d+)?(e[+-]?\d+)?$/i.test(cell) ? Number(cell.replace(",", ".")) : Number.NaN);

/** "9 dropped; 10.5 hangs". */
const rungsText = (rungs: readonly { speedMmPerS: number; end: string }[]) => rungs.map((r) => `${r.speedMmPerS} ${r.end}`).join("; ");
function rungsOf(cell: string): { speedMmPerS: number; end: string }[] {
  return cell
    .split(";")
    .map((r) => r.trim().split(/\s+/))
    .map(([speed = "", end = ""]) => ({ speedMmPerS: figureOf(speed), end }));
}

/** Fields that are lists, as one cell. */
const LISTS: Readonly<Record<string, Pick<Column, "write" | "read"> & { readonly looks: string }>> = {
  rungs: {
    looks: "9 dropped; 10.5 hangs; 12 stays",
    write: (v) => rungsText(v as never),
    read: (cell) => ok(rungsOf(cell)),
  },
  speedsMmPerS: {
    looks: "9; 10.5; 12",
    write: (v) => (v as number[]).join("; "),
    read: (cell) => ok(cell.split(";").map((s) => figureOf(s.trim()))),
  },
  photos: { looks: "hashes with spaces between", write: (v) => (v as string[]).join(" "), read: (cell) => ok(cell.split(/\s+/)) },
  readings: {
    looks: "mirror-1 58; lens 52.5",
    write: (v) => (v as { station: string; powerW: number }[]).map((r) => `${r.station} ${r.powerW}`).join("; "),
    read: (cell) =>
      ok(
        cell
          .split(";")
          .map((r) => r.trim().split(/\s+/))
          .map(([station = "", watts = ""]) => ({ station, powerW: figureOf(watts) })),
      ),
  },
  samples: {
    looks: "0 22; 1 22.6",
    write: (v) => (v as { s: number; c: number }[]).map((x) => `${x.s} ${x.c}`).join("; "),
    read: (cell) =>
      ok(
        cell
          .split(";")
          .map((r) => r.trim().split(/\s+/))
          .map(([s = "", c = ""]) => ({ s: figureOf(s), c: figureOf(c) })),
      ),
  },
  places: {
    looks: `${BED_PLACES[0]?.id} 40 40: 9 dropped; 10 stays | …`,
    write: (v) => (v as EventPayload["bed-map"]["places"]).map((p) => `${p.place} ${p.xMm} ${p.yMm}: ${rungsText(p.rungs)}`).join(" | "),
    read: (cell) =>
      ok(
        cell.split("|").map((part) => {
          const [where = "", rungs = ""] = part.split(":");
          const [place = "", x = "", y = ""] = where.trim().split(/\s+/);
          return { place, xMm: figureOf(x), yMm: figureOf(y), rungs: rungsOf(rungs) };
        }),
      ),
  },
};

const named = new WeakMap<Gathered["materials"], ReadonlyMap<string, Gathered["materials"][number]>>();
function materialsByName({ materials }: Gathered): ReadonlyMap<string, Gathered["materials"][number]> {
  const known = named.get(materials) ?? new Map(materials.map((m) => [materialName(m).toLowerCase(), m]));
  named.set(materials, known);
  return known;
}

function columnOf(field: string, schema: Fields[string]): Column {
  if (field === "materialId")
    return {
      heading: "material",
      field,
      write: (id, g) => materialName(g.materials.find((m) => m.id === id)),
      read: (cell, g) => {
        const m = materialsByName(g).get(cell.toLowerCase());
        return m
          ? ok(m.id)
          : { wrong: `"${cell}" is not on this machine's list of materials. It knows: ${g.materials.map(materialName).join(", ")}.` };
      },
    };
  const list = LISTS[field];
  if (list) return { heading: heading(field), field, ...list };
  const base = { heading: heading(field), field };
  if (schema.type === "number" || schema.type === "integer")
    return {
      ...base,
      write: (v) => String(v),
      read: (cell) => (Number.isNaN(figureOf(cell)) ? { wrong: `"${cell}" is not a number.` } : ok(figureOf(cell))),
    };
  if (schema.type === "boolean")
    return {
      ...base,
      write: (v) => (v ? "yes" : "no"),
      read: (cell) =>
        /^(yes|true|1)$/i.test(cell)
          ? ok(true)
          : /^(no|false|0)$/i.test(cell)
            ? ok(undefined)
            : { wrong: `"${cell}" is neither yes nor no.` },
    };
  return { ...base, write: (v) => String(v), read: (cell) => ok(cell) };
}

const columnsOf = (kind: EventKind): Column[] =>
  Object.entries(eventSchemas[kind].properties as unknown as Fields).map(([field, schema]) => columnOf(field, schema));

/** Headings of a kind's table, as docs and forms name them. */
export const headingsOf = (kind: EventKind): string[] => ["key", "when", ...columnsOf(kind).map((c) => c.heading)];

/** What a spreadsheet would calculate, and what already stands behind an apostrophe: one more goes before it, and comes off again. */
const FORMULA = /^'*[=+\-@\t\r]/;
const plainNumber = /^[+-]?\d+([.,]\d+)?$/;
const neutral = (cell: string) => (FORMULA.test(cell) && !plainNumber.test(cell) ? `'${cell}` : cell);
const unneutral = (cell: string) => (/^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell);

/** Records of a kind that stand, oldest first. `keyOf` gives the key each is known by. */
export function csvOf(g: Gathered, kind: EventKind, keyOf: ReadonlyMap<number, string>): string {
  const columns = columnsOf(kind);
  const rows = eventsBetween(g.log, [kind], Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY).map((e) => {
    const payload = e.payload as Readonly<Record<string, unknown>>;
    const cells = columns.map((c) => (payload[c.field] === undefined ? "" : neutral(c.write(payload[c.field], g))));
    return [neutral(keyOf.get(e.id) ?? ""), new Date(e.atMs).toISOString(), ...cells];
  });
  return `${Papa.unparse([headingsOf(kind), ...rows], { newline: "\r\n" })}\r\n`;
}

/** A row that was read: what it becomes in the log. */
export interface CsvRecord {
  readonly kind: EventKind;
  readonly key: string;
  readonly atMs: number;
  readonly payload: object;
}

export type ReadCsv = { readonly records: readonly CsvRecord[] } | { readonly problems: readonly FileProblem[] };
const MOST_PROBLEMS = 20;
const EARLIEST_MS = Date.parse("1980-01-01T00:00:00Z");

/** The kind whose headings a first row has; undefined where it is of none. A table without keys is of the kind its figures name. */
function kindOfRow(row: readonly string[]): EventKind | undefined {
  const told = new Set(row.map((h) => h.trim().toLowerCase()).filter((h) => h !== "key" && h !== "when" && h !== ""));
  const fits = (Object.keys(eventSchemas) as EventKind[]).filter((kind) => {
    const own = columnsOf(kind).map((c) => c.heading);
    const { required = [] } = eventSchemas[kind] as unknown as { required?: readonly string[] };
    const needed = columnsOf(kind).filter((c) => required.includes(c.field));
    return [...told].every((h) => own.includes(h)) && needed.every((c) => told.has(c.heading));
  });
  return fits.length === 1 ? fits[0] : fits.find((k) => headingsOf(k).slice(2).join() === [...told].join());
}

/** Reads a table. Every problem names line and column; with one nothing is taken. `asked` says the kind where the headings leave it open. */
export function readCsv(text: string, g: Gathered, nowMs: number, asked?: EventKind): ReadCsv {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), { skipEmptyLines: "greedy" });
  const [head, ...rows] = parsed.data;
  const kind = head && (asked ?? kindOfRow(head));
  if (!head || !kind)
    return {
      problems: [
        {
          line: 1,
          column: 1,
          words: 'The first line must name the columns of one kind, as an export has them: with "when" and the kind\'s own fields.',
        },
      ],
    };
  const columns = columnsOf(kind);
  const at = head.map((h) => h.trim().toLowerCase());
  const problems: FileProblem[] = [];
  const say = (line: number, column: number, words: string) => {
    if (problems.length < MOST_PROBLEMS) problems.push({ line, column, words });
  };
  for (const [i, h] of at.entries())
    if (h !== "" && h !== "key" && h !== "when" && !columns.some((c) => c.heading === h))
      say(1, i + 1, `The column "${head[i]}" is not known of this kind.`);
  if (!at.includes("when")) say(1, 1, 'A column "when" is missing.');
  for (const e of parsed.errors) if (e.row !== undefined && e.type === "Quotes") say(e.row + 1, 1, "A quotation mark is not closed.");
  const keys = new Map<string, number>();
  const places = new Map(at.map((name, i) => [name, i + 1]));
  const given = columns.filter((c) => places.has(c.heading));
  const records = problems.length > 0 ? [] : rows.flatMap((row, r) => recordOf(row, r + 2));
  return problems.length > 0 ? { problems } : { records };

  function recordOf(row: readonly string[], line: number): CsvRecord[] {
    const before = problems.length;
    const cell = (name: string) => unneutral((row[(places.get(name) ?? 0) - 1] ?? "").trim());
    const place = (name: string) => places.get(name) ?? 0;
    const atMs = momentOf(cell("when"));
    if (atMs === undefined)
      say(line, place("when"), `"${cell("when")}" is not a moment. Give it as 2026-11-24 09:00 or 2026-11-24T09:00:00Z.`);
    else if (atMs > nowMs) say(line, place("when"), "This is in the future.");
    else if (atMs < EARLIEST_MS) say(line, place("when"), "No record is older than 1980.");
    const payload: Record<string, unknown> = {};
    for (const c of given) {
      const said = cell(c.heading);
      if (said === "") continue;
      const read = c.read(said, g);
      if ("wrong" in read) say(line, place(c.heading), read.wrong);
      else if (read.value !== undefined) payload[c.field] = read.value;
    }
    if (problems.length > before) return [];
    const checked = check<object>(eventSchemas[kind as EventKind], payload);
    if (!checked.ok) {
      for (const [path, words] of Object.entries(checked.errors)) {
        const column = columns.find((c) => path === c.field || path.startsWith(`${c.field}.`));
        say(
          line,
          column ? place(column.heading) || 1 : 1,
          `${column?.heading ?? kind}: ${words}${column && LISTS[column.field] ? ` It looks like: ${LISTS[column.field]?.looks}` : ""}`,
        );
      }
      return [];
    }
    const key = cell("key") || `csv-${digestOf([g.machine.slug, kind, atMs, payload])}`;
    const twice = keys.get(key);
    if (twice !== undefined) {
      say(line, place("key") || 1, `The same record stands in line ${twice} already.`);
      return [];
    }
    keys.set(key, line);
    return [{ kind: kind as EventKind, key, atMs: atMs as number, payload: checked.value }];
  }
}

/** A record without a key is known again by what it says. */
const digestOf = (value: unknown) => createHash("sha256").update(JSON.stringify(value)).digest("hex").slice(0, 32);

const MOMENT = /^\d{4}-\d{2}-\d{2}([ T]\d{2}:\d{2}(:\d{2}(\.\d{1,3})?)?(Z|[+-]\d{2}:\d{2})?)?$/;
function momentOf(cell: string): number | undefined {
  if (!MOMENT.test(cell)) return undefined;
  const zoned = /(Z|[+-]\d{2}:\d{2})$/.test(cell) && cell.length > 10;
  const ms = zoned ? Date.parse(cell.replace(" ", "T")) : dayjs(cell).valueOf();
  const day = Number(cell.slice(8, 10));
  const month = Number(cell.slice(5, 7));
  return Number.isNaN(ms) ||
    month < 1 ||
    month > 12 ||
    day < 1 ||
    day > new Date(Number(cell.slice(0, 4)), Number(cell.slice(5, 7)), 0).getDate()
    ? undefined
    : ms;
}
