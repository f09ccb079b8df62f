/** View model of the log: the form for an entry, the lines, and the curve of effective power. */
import dayjs from "dayjs";
import { EVENT_KINDS, type EventKind, type EventPayload, findEvent, type LogPlace, type MachineEvent, newestBefore } from "#core/events";
import { listRecords } from "#store/events";
import type { Services } from "../context";
import { recordId } from "../forms/fields";
import type { Gathered } from "../machine/gathered";
import { powerSeries } from "../machine/powerSeries";
import { shortDay } from "../words";
import { describeEvent } from "./describeEvent";
import { momentText, typedFrom } from "./entries";
import { kindSeries } from "./kindSeries";
import { ENTRY_KINDS, type EntryKind, eventKinds, isEntryKind } from "./kinds";
import { entryOptions } from "./options";
import { vocabularyOf } from "./vocabulary";

const PAGE = 40;
/** Told nearly every day; the others are behind one more button. */
const FIRST_KINDS: readonly EntryKind[] = ["job", "hours", "cut", "ladder", "grade", "service", "note"];
const OPTICS = "optics";
/** Kinds the list can be narrowed to; looks and services belong together. */
const FILTERS = [
  { value: "", label: "everything" },
  { value: OPTICS, label: "looks and service" },
  ...Object.entries(eventKinds)
    .filter(([kind]) => kind !== "grade" && kind !== "service")
    .map(([value, { name }]) => ({ value, label: name.toLowerCase() })),
];

/** Kinds that a filter shows; all of them for one that is not known. */
function kindsShown(show: string): readonly EventKind[] {
  if (show === OPTICS) return ["grade", "service"];
  const kind = EVENT_KINDS.find((k) => k === show);
  return kind ? [kind] : EVENT_KINDS;
}

/** What narrows the list besides the kind: a part of the machine, and words that must be in the line. */
interface Narrowed {
  readonly part: string;
  readonly words: readonly string[];
}

/** Records looked through at a time. */
const CHUNK = 400;

/** The newest records before a place that fit, at most `count`. What narrows is read from the lines as they are told. */
function linesShown(
  g: Gathered,
  kinds: readonly EventKind[],
  { part, words }: Narrowed,
  count: number,
  before: LogPlace | undefined,
): MachineEvent[] {
  if (part === "" && words.length === 0) return newestBefore(g.log, kinds, count, before);
  const found: MachineEvent[] = [];
  for (let place = before; ; ) {
    const chunk: MachineEvent[] = newestBefore(g.log, kinds, CHUNK, place);
    for (const e of chunk) {
      if (part !== "" && !isAbout(e, part)) continue;
      const { what, text } = words.length > 0 ? describeEvent(e, g) : { what: "", text: "" };
      const told = `${what} ${text} ${dayjs(e.atMs).format("YYYY-MM-DD D MMM")}`.toLowerCase();
      if (words.every((w) => told.includes(w))) found.push(e);
      if (found.length === count) return found;
    }
    place = chunk.at(-1);
    if (chunk.length < CHUNK) return found;
  }
}

/** Whether a record of each kind is about a station or system; one that the log gets has to say so here. */
const ABOUT: { readonly [K in EventKind]: (payload: EventPayload[K], part: string) => boolean } = {
  grade: ({ station }, part) => station === part,
  service: ({ station }, part) => station === part,
  tape: ({ station }, part) => station === part,
  probe: ({ station }, part) => station === part,
  power: ({ readings }, part) => readings.some((r) => r.station === part),
  coolant: (_, part) => part === "coolant",
  current: (_, part) => part === "tube",
  hours: (_, part) => part === "tube",
  airflow: (_, part) => part === "exhaust",
  focus: (_, part) => part === "focus" || part === "lens",
  engraving: (_, part) => part === "motion",
  "bed-map": (_, part) => part === "bed",
  job: () => false,
  cut: () => false,
  ladder: () => false,
  setting: () => false,
  cost: () => false,
  coupon: () => false,
  note: () => false,
};

const isAbout = <K extends EventKind>(event: { readonly kind: K; readonly payload: EventPayload[K] }, part: string): boolean =>
  ABOUT[event.kind](event.payload, part);

/** By id: what to do about what was entered, as a trace that begins with it or a round. */
const LEADS: Readonly<Record<string, { words: string; check?: string; outcome?: string; part?: string; label: string }>> = {
  flame: { words: "More flame points to weak assist air.", check: "flame", outcome: "more", label: "Find the cause" },
  cut: { words: "It did not drop as it should.", check: "known-cut", outcome: "hangs", label: "Find the cause" },
  lens: { words: "The lens is not clear.", part: "lens", label: "Clean it now" },
  baseline: { words: "A new part: cut a new baseline ladder, so that “% of best” means this machine again.", label: "" },
};

/** A place in the log as an address carries it, and back. */
const placeText = ({ atMs, id }: LogPlace) => `${atMs}-${id}`;
function placeOf(text: string | null): LogPlace | undefined {
  const found = /^(\d{1,15})-(\d{1,15})$/.exec(text ?? "");
  return found ? { atMs: Number(found[1]), id: Number(found[2]) } : undefined;
}

/** `search` of the page: `kind` to enter, `edit` a record by id, `show` one kind, `before` a place in the log to read on from. */
export async function logView(services: Services, g: Gathered, search: URLSearchParams) {
  const asked = search.get("kind");
  const editId = recordId(search.get("edit"));
  const found = editId === undefined ? undefined : findEvent(g.log, editId);
  const editing = found && isEntry(found) ? found : undefined;
  const kind: EntryKind = editing?.kind ?? (isEntryKind(asked) ? asked : "job");
  const show = search.get("show") ?? "";
  const before = placeOf(search.get("before"));
  const { layout } = g.trade;
  const parts = [...layout.stations.map((st) => st.id), ...layout.systems];
  const part = parts.find((id) => id === search.get("at")) ?? "";
  const find = (search.get("find") ?? "").slice(0, 80);
  const words = find.toLowerCase().split(/\s+/).filter(Boolean);
  const page = linesShown(g, kindsShown(show), { part, words }, PAGE + 1, before);
  const lines = page.slice(0, PAGE);
  const last = lines.at(-1);
  const shown = EVENT_KINDS.find((k) => k === show);
  return {
    slug: g.machine.slug,
    kind,
    kinds: FIRST_KINDS.map((id) => ({ id, name: eventKinds[id].name })),
    // What is told on its own drawing has its place under Coupons.
    moreKinds: ENTRY_KINDS.filter((id) => !FIRST_KINDS.includes(id) && id !== "bed-map" && id !== "coupon").map((id) => ({
      id,
      name: eventKinds[id].name,
    })),
    baseline: search.get("baseline") === "1",
    show,
    editing: editing && { id: editing.id, typed: typedFrom(editing), corrections: g.log.corrections.get(editing.id) ?? 0 },
    before: editing && g.log.corrections.has(editing.id) ? await versionsOf(services, g, editing.id) : [],
    filters: FILTERS,
    part,
    find,
    parts: [{ value: "", label: "the whole machine" }, ...parts.map((id) => ({ value: id, label: layout.names[id] ?? id }))],
    figures: shown && shown !== "ladder" ? kindSeries(g, shown) : [],
    chart: show === "ladder" || (show === "" && kind === "ladder") ? await powerSeries(services, g, 0) : undefined,
    options: entryOptions(g, editing),
    vocabulary: vocabularyOf(g),
    lines: lines.map((e) => ({
      id: e.id,
      day: shortDay(e.atMs, g.nowMs),
      kind: e.kind,
      ...describeEvent(e, g),
      corrected: g.log.corrections.get(e.id) ?? 0,
      editable: isEntryKind(e.kind),
      roundId: e.roundId,
      photos: "photos" in e.payload ? (e.payload.photos ?? []) : [],
    })),
    voided: g.log.struck.size,
    isOlder: before !== undefined,
    older: page.length > PAGE && last ? placeText(last) : undefined,
    total: g.log.size,
    today: momentText(g.nowMs),
    said: search.get("saved"),
    /** What was just saved, by name, with its records to undo. */
    saved: savedOf(g, search.getAll("id")),
    // What a link from a part asks about.
    asked: { station: search.get("station") ?? undefined, part: search.get("part") ?? undefined },
    leads: leadsOf(g, search.getAll("lead")),
  };
}

/** What a record said before it was corrected, oldest first. */
async function versionsOf(services: Services, g: Gathered, id: number) {
  const records = await listRecords(services.store, g.machine.id);
  const own = records.filter((r) => r.id === id || (r.corrects !== undefined && (g.log.roots.get(r.id) ?? 0) === id));
  return own.slice(0, -1).map((r) => ({ id: r.id, text: r.voids ? "struck: it never happened" : describeEvent(r, g).text }));
}

function savedOf(g: Gathered, ids: readonly string[]) {
  const events = ids.flatMap((id) => findEvent(g.log, recordId(id) ?? 0) ?? []);
  if (events.length === 0) return undefined;
  return {
    ids: events.map((e) => e.id),
    words: events
      .map((e) => describeEvent(e, g))
      .map((d) => `${d.what}: ${d.text}`)
      .join("; "),
  };
}

/** What a record that was just kept leads on to. */
function leadsOf(g: Gathered, ids: readonly string[]) {
  return ids.flatMap((id) => {
    const lead = LEADS[id];
    if (!lead || (lead.check && !g.trade.model.checks.some((c) => c.id === lead.check))) return [];
    // A trace begins with how the cut went as it was told.
    const told = id === "cut" ? g.log.kinds.cut.at(-1)?.payload.result : undefined;
    return [{ id, ...lead, ...(told !== undefined && told !== "through" ? { outcome: told } : {}) }];
  });
}

const isEntry = (event: MachineEvent): event is MachineEvent & { readonly kind: EntryKind } => isEntryKind(event.kind);
