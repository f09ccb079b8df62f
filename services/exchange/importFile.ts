/**
 * Files that come in: looked at first, taken in when their owner says so. A file is told by its content, never by its name; what was looked
 * at waits a quarter of an hour in memory.
 */
import { randomUUID } from "node:crypto";
import { strFromU8, Unzip, UnzipInflate } from "fflate";
import type { EventKind } from "#core/events";
import type { WorkshopFile } from "#core/exchange";
import { MINUTE_MS } from "#core/time";
import { atOnce } from "#store/database";
import { listMachines } from "#store/machines";
import { hashOf, inspectPhoto, keepPhoto, MAX_PHOTO_BYTES } from "#store/photos";
import { importRecords } from "#store/portable/records";
import { CannotMerge, type Course, type ImportCounts, STRAIGHT_ON, Stopped } from "#store/portable/rows";
import { importWorkshop, tryImport } from "#store/portable/whole";
import { readSetting, writeSettings } from "#store/settings";
import type { Services } from "../context";
import { gather } from "../machine/gather";
import { CURRENCY } from "../machine/settingNames";
import { everyMachineCanBeRead, Unsound } from "../machine/sound";
import { SUPPLIES } from "../supplies/shelf";
import { UNITS } from "../workshop/units";
import { type CsvRecord, readCsv } from "./csv";
import type { FileProblem } from "./problems";
import { readWorkshopFile } from "./workshopFile";

type Content =
  | { readonly is: "workshop"; readonly file: WorkshopFile }
  | { readonly is: "records"; readonly slug: string; readonly records: readonly CsvRecord[] }
  | { readonly is: "photos"; readonly photos: readonly { readonly name: string; readonly bytes: Uint8Array }[] };

export type Looked =
  | { readonly id: string; readonly is: Content["is"]; readonly words: readonly string[]; readonly changes: boolean }
  | { readonly problems: readonly FileProblem[] };

const KEPT_MS = 15 * MINUTE_MS;
const MOST_KEPT = 4;
const waiting = new Map<string, { readonly content: Content; readonly untilMs: number }>();

const refuse = (words: string, line = 1, column = 1): Looked => ({ problems: [{ line, column, words }] });

/** Reads a file and says what taking it in would change. `slug` is the machine a table without one belongs to. */
export async function lookAtFile(
  services: Services,
  slug: string,
  bytes: Uint8Array,
  kind?: EventKind,
  course: Course = STRAIGHT_ON,
): Promise<Looked> {
  let read: Content;
  let words: { words: string[]; changes: boolean };
  try {
    const found = await contentOf(services, slug, bytes, kind, course);
    if ("problems" in found) return found;
    if (course.isStopped()) return refuse(STOPPED);
    read = found;
    words = await wouldDo(services, read, course);
  } catch (error) {
    if (error instanceof Stopped) return refuse(STOPPED);
    if (error instanceof CannotMerge || error instanceof Unsound) return refuse(error.message);
    throw error;
  }
  const nowMs = Date.now();
  for (const [id, w] of waiting) if (w.untilMs < nowMs || waiting.size >= MOST_KEPT) waiting.delete(id);
  const id = randomUUID();
  waiting.set(id, { content: read, untilMs: nowMs + KEPT_MS });
  return { id, is: read.is, ...words };
}

async function contentOf(
  services: Services,
  slug: string,
  bytes: Uint8Array,
  kind: EventKind | undefined,
  course: Course,
): Promise<Content | { problems: readonly FileProblem[] }> {
  if (bytes.length === 0) return { problems: [{ line: 1, column: 1, words: "The file is empty." }] };
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) return checkedPhotos(photosIn(bytes), course);
  const text = textOf(bytes);
  if (text === undefined)
    return {
      problems: [
        { line: 1, column: 1, words: "This is neither text in UTF-8 nor an archive of photos. From a spreadsheet: save it as CSV, UTF-8." },
      ],
    };
  if (/^\s*[[{]/.test(text)) {
    const read = readWorkshopFile(text);
    return "problems" in read ? read : { is: "workshop", file: read.file };
  }
  if ((await listMachines(services.store)).length === 0)
    return {
      problems: [
        { line: 1, column: 1, words: "This is no workshop's file. A table of records is taken in at its machine: set that up first." },
      ],
    };
  const g = await gather(services, slug);
  const read = readCsv(text, g, services.nowMs(), kind);
  return "problems" in read ? read : { is: "records", slug, records: read.records };
}

function textOf(bytes: Uint8Array): string | undefined {
  try {
    const text = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
    return text.includes("\0") ? undefined : text;
  } catch {
    return undefined;
  }
}

async function wouldDo(services: Services, content: Content, course: Course): Promise<{ words: string[]; changes: boolean }> {
  if (content.is === "photos")
    return { words: [`${photosWords(content.photos.length)} would be kept.`], changes: content.photos.length > 0 };
  const counts =
    content.is === "workshop"
      ? await tryImport(services.store, content.file, (tx) => everyMachineCanBeRead({ ...services, store: tx }), course)
      : await importRecords(
          services.store,
          (await gather(services, content.slug)).machine.id,
          content.records,
          services.nowMs(),
          true,
          course,
        );
  return { words: countWords(counts, "would be"), changes: newIn(counts) > 0 };
}

const photosWords = (n: number) => `${n} ${n === 1 ? "photo" : "photos"}`;
const newIn = (c: ImportCounts) => c.machines + c.materials + c.cases + c.rounds + c.events;

function countWords(c: ImportCounts, be: "would be" | "were"): string[] {
  const some = (n: number, one: string, many = `${one}s`) => (n === 0 ? [] : [`${n} ${n === 1 ? one : many}`]);
  const added = [
    ...some(c.machines, "machine"),
    ...some(c.materials, "material"),
    ...some(c.rounds, "round"),
    ...some(c.cases, "case"),
    ...some(c.events, "record"),
  ];
  return [
    added.length > 0
      ? `${added.join(", ")} ${be === "were" && newIn(c) === 1 ? "was" : be} added.`
      : be === "were"
        ? "Nothing was new."
        : "Nothing in it is new: nothing would change.",
    ...(c.known > 0
      ? [
          `${c.known} are here already${c.differ > 0 ? `, ${c.differ} of them saying something else here: these stay as they are here` : ""}.`,
        ]
      : []),
  ];
}

const STOPPED = "Stopped. Nothing was taken in.";

/** What became of taking a file in: done, stopped by its owner with nothing kept, or refused. */
export type TakenIn = { readonly said: string } | { readonly stopped: true } | { readonly problem: string };

/** Takes in what was looked at: all of it or nothing. `course` hears the share that is written, from 0 to 1. */
export async function takeIn(services: Services, id: string, course: Course = STRAIGHT_ON): Promise<TakenIn> {
  const looked = waiting.get(id);
  if (!looked || looked.untilMs < Date.now()) return { problem: "That file was looked at too long ago. Choose it again." };
  try {
    const said = (await write(services, looked.content, inShares(looked.content, course))).join(" ");
    // What could not be taken in, or was stopped, can be sent again.
    waiting.delete(id);
    return { said };
  } catch (error) {
    if (error instanceof Stopped) return { stopped: true };
    if (error instanceof CannotMerge || error instanceof Unsound) return { problem: error.message };
    throw error;
  }
}

/** The same course, told shares of the whole instead of rows. */
function inShares(content: Content, course: Course): Course {
  const rows =
    content.is === "workshop"
      ? content.file.machines.reduce((sum, m) => sum + m.events.length, 0)
      : content.is === "records"
        ? content.records.length
        : content.photos.length;
  let done = 0;
  return {
    isStopped: course.isStopped,
    wrote: (n) => {
      done += n;
      course.wrote(Math.min(1, done / Math.max(1, rows)));
    },
  };
}

async function write(services: Services, content: Content, course: Course): Promise<readonly string[]> {
  switch (content.is) {
    case "workshop": {
      const { file } = content;
      return atOnce(services.store, async (tx) => {
        const counts = await importWorkshop(tx, file, course);
        await everyMachineCanBeRead({ ...services, store: tx });
        if (file.currency && (await readSetting(tx, CURRENCY)) === undefined) await writeSettings(tx, { [CURRENCY]: file.currency });
        if (file.units && (await readSetting(tx, UNITS)) === undefined) await writeSettings(tx, { [UNITS]: file.units });
        if (file.supplies && (await readSetting(tx, SUPPLIES)) === undefined) await writeSettings(tx, { [SUPPLIES]: file.supplies });
        return countWords(counts, "were");
      });
    }
    case "records": {
      const { machine } = await gather(services, content.slug);
      return countWords(await importRecords(services.store, machine.id, content.records, services.nowMs(), false, course), "were");
    }
    case "photos": {
      const { photos } = content;
      // A photo whose record is undone is swept away at the next start.
      await atOnce(services.store, async (tx) => {
        for (const { bytes } of photos) {
          if (course.isStopped()) throw new Stopped("stopped");
          await keepPhoto(tx, services.folder, bytes, services.nowMs());
          course.wrote(1);
        }
      });
      return [`Kept: ${photosWords(photos.length)}.`];
    }
    default:
      return content satisfies never;
  }
}

/** Five thousand photos of a phone take about as long. */
const MOST_LOOKING_MS = 10 * MINUTE_MS;

/** Every photo is looked at before any is kept: it is one, and it is the one its name says. */
async function checkedPhotos(
  read: Content | { problems: readonly FileProblem[] },
  course: Course,
): Promise<Content | { problems: readonly FileProblem[] }> {
  if ("problems" in read || read.is !== "photos") return read;
  const problems: FileProblem[] = [];
  const untilMs = performance.now() + MOST_LOOKING_MS;
  for (const { name, bytes } of read.photos) {
    if (course.isStopped()) throw new Stopped("stopped");
    if (performance.now() > untilMs) {
      problems.push({ line: 1, column: 1, words: "Its photos take too long to look through: split the archive." });
      break;
    }
    const words =
      hashOf(bytes) === PHOTO_NAME.exec(name)?.[1]
        ? await inspectPhoto(bytes).then(
            () => undefined,
            (e: Error) => e.message,
          )
        : "Its content is not what its name says.";
    if (words !== undefined && problems.length < 20) problems.push({ line: 1, column: 1, words: `${name}: ${words}` });
  }
  return problems.length > 0 ? { problems } : read;
}

/** Name of a photo in an archive: the hash of its content. No other place is written to, whatever a name says. */
const PHOTO_NAME = /^photos\/([0-9a-f]{64})\.(jpeg|jpg|png|webp)$/;
const MOST_PHOTOS = 5000;
const MOST_BYTES = 400 * 1024 * 1024;

/** Photos of an archive, unpacked piece by piece, so that one that unfolds to more than photos can be is cut off. */
function photosIn(archive: Uint8Array): Content | { problems: readonly FileProblem[] } {
  const photos: { name: string; bytes: Uint8Array }[] = [];
  const problems: FileProblem[] = [];
  const say = (words: string) => {
    if (problems.length < 20) problems.push({ line: 1, column: 1, words });
  };
  let total = 0;
  const unzip = new Unzip((file) => {
    const name = file.name.replaceAll("\0", "");
    if (name.endsWith("/")) return;
    if (!PHOTO_NAME.test(name))
      return say(`"${name.slice(0, 80)}" is not a photo of Clenor's: photos lie under "photos/", named by the hash of their content.`);
    if (photos.length >= MOST_PHOTOS) return say(`More than ${MOST_PHOTOS} photos: split the archive.`);
    const chunks: Uint8Array[] = [];
    let size = 0;
    file.ondata = (error, chunk, isLast) => {
      if (error) return say(`"${name}" cannot be unpacked: the archive is damaged.`);
      size += chunk.length;
      total += chunk.length;
      if (size > MAX_PHOTO_BYTES || total > MOST_BYTES) {
        file.terminate();
        return say(`"${name}" unfolds to more than a photo may have.`);
      }
      chunks.push(chunk);
      if (isLast) photos.push({ name, bytes: new Uint8Array(Buffer.concat(chunks)) });
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  try {
    const STEP = 64 * 1024;
    for (let i = 0; i < archive.length && problems.length === 0; i += STEP)
      unzip.push(archive.subarray(i, i + STEP), i + STEP >= archive.length);
  } catch {
    say(`The archive is damaged (${strFromU8(archive.subarray(0, 2))}…).`);
  }
  if (photos.length === 0 && problems.length === 0) say("No photo is in this archive, or it is damaged.");
  return problems.length > 0 ? { problems } : { is: "photos", photos };
}
