/** The workshop's one file, out and in: read and checked with the place of whatever is wrong in it. */
import { layouts } from "#catalog/layouts";
import { type EventKind, eventSchemas } from "#core/events";
import { WORKSHOP_FORMAT, WORKSHOP_VERSION, type WorkshopFile, workshopSchema } from "#core/exchange";
import { pathProblems } from "#core/machine";
import { check, checkFirst } from "#store/check";
import { readWorkshop } from "#store/portable/out";
import { readSetting } from "#store/settings";
import type { Services } from "../context";
import { unkeepableIn } from "../forms/keepable";
import { CURRENCY, declinedSetting, unknownSetting } from "../machine/settingNames";
import { SUPPLIES } from "../supplies/shelf";
import { UNITS } from "../workshop/units";
import { nestsTooDeep, offsetsOf, type Path } from "./places";
import { type FileProblem, placeOf } from "./problems";

export async function workshopFile({ store }: Services): Promise<string> {
  const file = await readWorkshop(store, (name) => readSetting(store, name), {
    currency: CURRENCY,
    units: UNITS,
    supplies: SUPPLIES,
    declined: declinedSetting,
    unknown: unknownSetting,
  });
  return `${JSON.stringify(file, null, 1)}\n`;
}

export type ReadWorkshop = { readonly file: WorkshopFile } | { readonly problems: readonly FileProblem[] };

/** Reads a file's text. Every problem names its line and column; nothing is taken from a file that has one. */
export function readWorkshopFile(text: string): ReadWorkshop {
  if (nestsTooDeep(text)) return { problems: [{ line: 1, column: 1, words: "It nests deeper than any file of Clenor's: this is none." }] };
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return { problems: [syntaxProblem(text, error)] };
  }
  const head = value as { format?: unknown; version?: unknown } | null;
  if (typeof head !== "object" || head === null || head.format !== WORKSHOP_FORMAT)
    return {
      problems: [{ line: 1, column: 1, words: `This is JSON, but not a workshop of Clenor: its "format" would be "${WORKSHOP_FORMAT}".` }],
    };
  if (typeof head.version === "number" && head.version > WORKSHOP_VERSION)
    return {
      problems: [
        {
          ...placeOf(text, offsetsOf(text, [["version"]])[0] ?? 0),
          words: `Written by a newer Clenor (its version ${head.version}, this one knows ${WORKSHOP_VERSION}). Take it in there, or update this one.`,
        },
      ],
    };
  const checked = checkFirst<WorkshopFile>(workshopSchema, value);
  if (!checked.ok) return { problems: problemsAt(text, Object.entries(checked.errors)) };
  const problems = problemsAt(text, wrongIn(checked.value));
  return problems.length > 0 ? { problems } : { file: checked.value };
}

/** What no schema sees, one after the other as it is asked for. */
function* wrongIn(file: WorkshopFile): Generator<[string, string]> {
  for (const path of unkeepableIn(file)) yield [path.join("."), "Holds a character that cannot be kept."];
  for (const [i, m] of file.machines.entries()) {
    yield* wrongNames(m, i);
    yield* wrongPayloads(m, i);
    yield* wrongKeys(m, i);
  }
}

/** What stands for something of the catalog that it does not have. */
function* wrongNames(m: WorkshopFile["machines"][number], i: number): Generator<[string, string]> {
  if (!Object.hasOwn(layouts, m.layout))
    yield [`machines.${i}.layout`, `No layout has this name: it would be ${Object.keys(layouts).join(", ")}.`];
  const problems = m.path ? pathProblems(m.path) : [];
  if (problems.length > 0) yield [`machines.${i}.path`, problems.join(" ")];
}

/** Payloads that are not of their kind's shape, by their path in the file. */
function* wrongPayloads(m: WorkshopFile["machines"][number], i: number): Generator<[string, string]> {
  for (const [k, e] of m.events.entries()) {
    const checked = check(eventSchemas[e.kind as EventKind], e.payload);
    if (checked.ok) continue;
    for (const [path, words] of Object.entries(checked.errors))
      yield [["machines", i, "events", k, "payload", ...(path === "" ? [] : path.split("."))].join("."), words];
  }
}

/** Keys that stand twice, and references to what the file does not have. */
function* wrongKeys(m: WorkshopFile["machines"][number], i: number): Generator<[string, string]> {
  const [events, rounds, cases, materials] = [
    new Set<string>(),
    new Set(m.rounds.map((r) => r.key)),
    new Set(m.cases.map((c) => c.key)),
    new Set(m.materials.map((x) => x.id)),
  ];
  for (const [k, e] of m.events.entries()) {
    const path = `machines.${i}.events.${k}`;
    if (events.has(e.key)) yield [`${path}.key`, `This key stands twice: "${e.key}".`];
    events.add(e.key);
    if (e.corrects !== undefined && !events.has(e.corrects)) yield [`${path}.corrects`, "No earlier record has this key."];
    if (e.round !== undefined && !rounds.has(e.round)) yield [`${path}.round`, "No round has this key."];
    if (e.case !== undefined && !cases.has(e.case)) yield [`${path}.case`, "No case has this key."];
    const material = (e.payload as { materialId?: number }).materialId;
    if (material !== undefined && !materials.has(material)) yield [`${path}.payload.materialId`, "No material has this number."];
  }
  for (const [k, a] of (m.aims ?? []).entries())
    if (a.case !== undefined && !cases.has(a.case)) yield [`machines.${i}.aims.${k}.case`, "No case has this key."];
  if ((m.aims ?? []).filter((a) => a.endedMs === undefined).length > 1)
    yield [`machines.${i}.aims`, "Two sittings at the mirrors are open: one is the most."];
  if (rounds.size !== m.rounds.length) yield [`machines.${i}.rounds`, "Two rounds have the same key."];
  if (cases.size !== m.cases.length) yield [`machines.${i}.cases`, "Two cases have the same key."];
  if (m.rounds.filter((r) => r.status === "open").length > 1) yield [`machines.${i}.rounds`, "Two rounds are open: one is the most."];
}

const MOST = 20;

/** The first of what is wrong, each with its place: whoever has that many mistakes mends those first. */
function problemsAt(text: string, wrong: Iterable<readonly [path: string, words: string]>): FileProblem[] {
  const first: (readonly [string, string])[] = [];
  for (const one of wrong) {
    first.push(one);
    if (first.length === MOST) break;
  }
  const offsets = offsetsOf(
    text,
    first.map(([path]) => segments(path)),
  );
  return first.map(([path, words], i) => ({
    ...placeOf(text, offsets[i] ?? 0),
    words: path === "" ? words : `${path.split(".").at(-1)}: ${words}`,
  }));
}

const segments = (path: string): Path => (path === "" ? [] : path.split(".").map((p) => (/^\d+$/.test(p) ? Number(p) : p)));

function syntaxProblem(text: string, error: unknown): FileProblem {
  const said = error instanceof Error ? error.message : String(error);
  const offset = Number(/position (\d+)/.exec(said)?.[1] ?? text.length);
  const cut = /end of JSON|Unterminated/.test(said);
  return { ...placeOf(text, offset), words: cut ? "The file ends too early: it was cut off." : "This is not JSON from here on." };
}
