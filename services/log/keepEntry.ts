/** Keeps an entry of the log, a correction of one, or that it never happened. */

import { type EventKind, type EventPayload, findEvent, type MachineEvent } from "#core/events";
import { lookCheckOf } from "#core/machine";
import type { FieldErrors } from "#store/check";
import { appendCorrection, appendEvents, CorrectedMeanwhile, eventIdOf, type NewEvent } from "#store/events";
import { once, rowKey } from "#store/sent";
import type { Services } from "../context";
import { type FormReader, recordId, sentAs } from "../forms/fields";
import { gather } from "../machine/gather";
import type { Gathered } from "../machine/gathered";
import { cutStopOf } from "../machine/stop";
import { usualCut } from "../machine/usual";
import { fromShelf, returnSpare, takeSpares } from "../workshop/spares";
import { describeEvent } from "./describeEvent";
import { momentText, readEntry, whenOf } from "./entries";
import { type EntryKind, isEntryKind } from "./kinds";
import { CUT_WORDS } from "./words";

export type KeptEntry =
  | {
      readonly kept: "new" | "corrected" | "struck";
      readonly kind: EntryKind | undefined;
      readonly firstBaseline: boolean;
      /** What it leads on to. */
      readonly leads?: readonly string[];
      /** The records it became, to name them and to undo them together. */
      readonly ids?: readonly number[];
    }
  | { readonly kept: undefined; readonly kind?: EntryKind; readonly errors: FieldErrors; readonly ask?: string }
  /** Corrected by another device since the form was made: how often by now. */
  | { readonly kept: "meanwhile"; readonly errors: FieldErrors; readonly corrections: number };

const refuse = (words: string): KeptEntry => ({ kept: undefined, errors: { "": words } });

export async function keepEntry(services: Services, slug: string, reader: FormReader): Promise<KeptEntry> {
  const g = await gather(services, slug);
  if (reader.text("intent") === "undo") return undo(services, g, reader);
  const kind = reader.text("kind");
  const corrects = recordId(reader.text("corrects"));
  const target = corrects === undefined ? undefined : findEvent(g.log, corrects);
  if (reader.text("corrects") !== undefined && !target) return refuse("That record is no longer in the log.");
  if (target && reader.text("intent") === "void") {
    const struck = {
      kind: target.kind,
      atMs: target.atMs,
      payload: target.payload,
      corrects: target.id,
      voids: true,
      roundId: target.roundId,
    };
    return write(services, g, reader, struck, { kept: "struck", kind: undefined, firstBaseline: false });
  }
  if (!isEntryKind(kind)) return refuse("This kind of entry is not known.");
  // The form shows whole minutes: a time that was left alone stays what it was to the millisecond.
  const sameTime = target && reader.text("at") === momentText(target.atMs);
  const atMs = sameTime ? target.atMs : whenOf(reader, g.nowMs);
  const entry = readEntry(kind, reader, g, atMs ?? g.nowMs, corrects);
  if (!entry.ok) return { kept: undefined, kind, errors: entry.errors, ...(entry.ask ? { ask: entry.ask } : {}) };
  if (atMs === undefined) return { kept: undefined, kind, errors: reader.errors };
  const stop = "baseline" in entry.payload && entry.payload.baseline === true ? cutStopOf(g) : undefined;
  if (stop && atMs >= stop.sinceMs)
    return { kept: undefined, kind, errors: { baseline: `This cannot be the baseline: ${stop.what}. ${stop.until} Nothing was saved.` } };
  const event = {
    kind: entry.kind,
    atMs,
    payload: { ...entry.payload, ...carriedOver(target, entry.kind, entry.payload) },
    corrects,
    roundId: target?.roundId,
    caseId: target?.caseId ?? g.openCase?.id,
  };
  const firstBaseline = kind === "ladder" && !target && reader.text("baseline") === "1";
  const more = target ? NO_MORE : kind === "job" ? afterJob(reader, g) : kind === "service" ? seenBefore(reader, g) : NO_MORE;
  if (Object.keys(reader.errors).length > 0) return { kept: undefined, kind, errors: reader.errors };
  const leads = kind === "service" && reader.text("what") === "replaced" && g.baseline ? ["baseline"] : more.leads;
  // What was seen before a clean was seen before it.
  const also = more.events.map((e) => ({ ...e, atMs: kind === "service" ? atMs - 1 : atMs, caseId: event.caseId }));
  return write(services, g, reader, event, { kept: target ? "corrected" : "new", kind, firstBaseline, leads }, also);
}

interface More {
  readonly events: readonly Pick<NewEvent, "kind" | "payload">[];
  readonly leads: readonly string[];
}
const NO_MORE: More = { events: [], leads: [] };

/** The grade a field says; -1 where it is none. */
const gradeOf = (text: string): number => ["0", "1", "2", "3", "4"].indexOf(text);

/** What was seen of an optic before it was cleaned or changed. */
function seenBefore(reader: FormReader, g: Gathered): More {
  const found = reader.text("found");
  if (found === undefined) return NO_MORE;
  const part = reader.text("part");
  const station = g.trade.layout.stations.find((s) => s.id === part);
  const grade = gradeOf(found);
  if (grade < 0) reader.errors.found = "Pick a grade.";
  else if (!station || lookCheckOf(station) === undefined)
    reader.errors.found = "Only mirrors, the lens and windows are graded: say it in the note.";
  else return { events: [{ kind: "grade", payload: { station: station.id, phase: "as-found", grade } }], leads: [] };
  return NO_MORE;
}

/** What else is told after a job: how its cuts went at the usual setting, and a glance at the lens; and what that leads on to. */
function afterJob(reader: FormReader, g: Gathered): More {
  const events: Pick<NewEvent, "kind" | "payload">[] = [];
  const leads: string[] = reader.text("flame") === "more" ? ["flame"] : [];
  const result = reader.text("dropped");
  const material = g.materials.find((m) => String(m.id) === reader.text("materialId"));
  if (result !== undefined && !Object.hasOwn(CUT_WORDS, result)) reader.errors.dropped = "Say how it went.";
  else if (result !== undefined && material) {
    const payload = usualCut(material, result as keyof typeof CUT_WORDS, "after a job");
    if (payload) events.push({ kind: "cut", payload });
  }
  if (result !== undefined && result !== "through") leads.push("cut");
  const glance = reader.text("glance");
  if (glance !== undefined) {
    const grade = gradeOf(glance);
    if (grade < 0) reader.errors.glance = "Pick a grade.";
    else events.push({ kind: "grade", payload: { station: "lens", phase: "as-found", grade } });
    if (grade > 0) leads.push("lens");
  }
  return { events, leads };
}

/** What a record holds that its form does not show: a correction keeps it. */
function carriedOver(target: MachineEvent | undefined, kind: EventKind, payload: object): object {
  if (target?.kind !== kind) return {};
  if (target.kind === "service") return target.payload.fromShelf && isSamePart(target.payload, payload) ? { fromShelf: true } : {};
  if (target.kind !== "grade") return {};
  const { phase, photos, seen, step, choice, stops, station, grade } = target.payload;
  // The answer it was given as stays with it while it says the same.
  const isSame = "station" in payload && payload.station === station && "grade" in payload && Number(payload.grade) === grade;
  const answer = isSame ? { seen, step, choice, stops } : {};
  return Object.fromEntries(Object.entries({ phase, photos, ...answer }).filter(([, value]) => value !== undefined));
}

/** Whether what a correction says is still that this part was put in. */
const isSamePart = (before: EventPayload["service"], now: object): boolean =>
  "what" in now && now.what === "replaced" && "station" in now && now.station === before.station;

/** A part of which a correction says that it never went in after all. */
function neverPutIn(target: MachineEvent | undefined, row: NewEvent): EventPayload["service"] | undefined {
  if (target?.kind !== "service") return undefined;
  return row.voids || row.kind !== "service" || !isSamePart(target.payload, row.payload) ? target.payload : undefined;
}

/** Takes back what a form has just saved, all of it together; it stays in the history, crossed out. */
async function undo(services: Services, g: Gathered, reader: FormReader): Promise<KeptEntry> {
  const targets = reader.all("record").flatMap((id) => findEvent(g.log, recordId(id) ?? 0) ?? []);
  if (targets.length === 0) return refuse("That record is no longer in the log.");
  const sent = sentAs(`log ${g.machine.id}`, reader);
  await once(services.store, sent, g.nowMs, async (tx) => {
    for (const [i, target] of targets.entries()) {
      const { kind, atMs, payload, roundId } = target;
      const row = { kind, atMs, payload, corrects: target.id, voids: true, roundId, requestKey: `${rowKey(sent)}:${i}` } as NewEvent;
      await appendCorrection(tx, g.machine.id, row, g.log.corrections.get(target.id) ?? 0, g.nowMs);
      const part = neverPutIn(target, row);
      if (part) await returnSpare(tx, g.machine.id, part);
    }
  });
  return { kept: "struck", kind: undefined, firstBaseline: false };
}

/** What was saved, as the log reads it: it is named wherever it is said that it was. */
export async function savedWords(services: Services, slug: string, ids: readonly number[]): Promise<string> {
  const g = await gather(services, slug);
  return ids
    .flatMap((id) => findEvent(g.log, id) ?? [])
    .map((e) => plainWords(describeEvent(e, g)))
    .join("; ");
}

const plainWords = ({ what, text }: { what: string; text: string }) => `${what}: ${text}`;

async function write(
  services: Services,
  g: Gathered,
  reader: FormReader,
  event: Omit<NewEvent, "requestKey">,
  kept: KeptEntry,
  also: readonly Omit<NewEvent, "requestKey">[] = [],
): Promise<KeptEntry> {
  const sent = sentAs(`log ${g.machine.id}`, reader);
  const row = { ...event, requestKey: rowKey(sent) };
  const rows = [row, ...also.map((e) => ({ ...e, requestKey: `${row.requestKey}:${e.kind}` }))];
  const known = Number(reader.text("corrections"));
  try {
    const ids = await once(services.store, sent, g.nowMs, async (tx): Promise<number[]> => {
      if (event.corrects !== undefined) {
        await appendCorrection(tx, g.machine.id, row, known, g.nowMs);
        const part = neverPutIn(findEvent(g.log, event.corrects), row);
        if (part) await returnSpare(tx, g.machine.id, part);
        return [event.corrects];
      }
      const marked = await fromShelf(tx, g.machine.id, rows);
      await takeSpares(tx, g.machine.id, marked);
      await appendEvents(tx, g.machine.id, marked, g.nowMs);
      return Promise.all(rows.map((r) => eventIdOf(tx, g.machine.id, r.requestKey)));
    });
    // Answers of forms that an older version kept have none.
    return kept.kept === "new" || kept.kept === "corrected" ? { ...kept, ids: ids ?? [] } : kept;
  } catch (error) {
    const target = event.corrects === undefined ? undefined : findEvent(g.log, event.corrects);
    if (!(error instanceof CorrectedMeanwhile) || !target) throw error;
    const { what, text } = describeEvent(target, g);
    const words = `This entry was corrected on another device meanwhile, and reads now: ${what}, ${text}. Nothing was saved; save again to put yours over it.`;
    return { kept: "meanwhile", errors: { "": words }, corrections: error.corrections };
  }
}
