import type { Grade } from "#core/beam";
import { dryingMinutes, minutesOf } from "./minutes";
import { isLeft } from "./state";
import type { Access, Need, Procedure, Step } from "./step";
import { AREAS } from "./step";
import { walkOf } from "./walk";

/** The frame's own steps, by the place they stand at. */
export interface RoundFrame {
  /** The air's speed before and after work on what draws it; left out where nothing reads it. */
  readonly readAir?: { readonly before: Step; readonly after: Step } | undefined;
  readonly makeSafe: Step;
  readonly fetch: Step;
  readonly hands: Step;
  readonly openPanel: Step;
  readonly openHead: readonly Step[];
  readonly closeHead: readonly Step[];
  /** With the gauge, while still unplugged; or with the machine's own autofocus after power on. */
  readonly focus: { readonly when: "unplugged" | "powered"; readonly step: Step };
  readonly closePanel: Step;
  /** The wait for what was wetted, lid open: only where a step wets something. */
  readonly dry: Step;
  readonly powerOn: Step;
  /** Wait for anything flammable to dry, in seconds; asked for only where a step uses something flammable. */
  readonly dryingSeconds: number;
  readonly afterPower: readonly Step[];
  /** By tape, after a seat that does not keep its aim was opened. */
  readonly aimCheck: Step;
  /** By two small cuts, after one that does. */
  readonly nearFar: Step;
  readonly powerBack: Step;
  /** Straight edges, after work on the axes. */
  readonly block: Step;
  readonly proof: Step;
  /** Proof enough of a round that only looked. */
  readonly piece: Step;
}

export interface RoundPlan {
  readonly steps: readonly Step[];
  /** With what is known to be bad found so again, and all else clear. */
  readonly minutes: number;
  /** With everything that a grade may ask for, and the wait for it to dry. */
  readonly minutesMost?: number;
  /** Where a long round may be cut in two: the step it goes on at, and the minutes before it. */
  readonly cut?: { readonly before: string; readonly minutes: number };
  /** True when the machine is apart while the round is open. */
  readonly apart: boolean;
  readonly fetch: FetchList;
}

/** What to have at hand before the start. */
export interface FetchList {
  readonly keys: readonly string[];
  readonly tools: readonly string[];
  readonly agents: readonly { readonly name: string; readonly missing: boolean }[];
  readonly supplies: readonly string[];
  /** What is worn. */
  readonly gear?: readonly string[];
  /** What is needed only where a look asks for more. */
  readonly maybe?: readonly { readonly name: string; readonly missing: boolean }[];
}

export interface PlanOptions {
  readonly order: "head-first" | "tube-first";
  /** What parts were last seen as, by station: it will ask for their cleaning again. */
  readonly known?: ReadonlyMap<string, Grade>;
  /** A repair is shown by a ladder, however small it is. */
  readonly weighed?: boolean;
  /** Stations that are out of the machine before the round begins. */
  readonly out?: ReadonlySet<string>;
  /** Station ids from the tube on. */
  readonly path: readonly string[];
}

const slug = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
const fill = (step: Step, id: string, words: Readonly<Record<string, string>>): Step => ({
  ...step,
  id,
  part: replaceAll(step.part, words),
  title: replaceAll(step.title, words),
  text: replaceAll(step.text, words),
});
const replaceAll = (text: string, words: Readonly<Record<string, string>>) =>
  Object.entries(words).reduce((t, [key, value]) => t.replaceAll(`{${key}}`, value), text);

/**
 * Parts in the order they are done: by area (dirt before optics), the optics along the path in the school's direction, and parts behind
 * one panel next to each other, so that it is opened once.
 */
export function orderParts(parts: readonly Procedure[], options: PlanOptions): Procedure[] {
  const along = (p: Procedure) => {
    const at = p.station === undefined ? -1 : options.path.indexOf(p.station);
    return at < 0 ? Number.POSITIVE_INFINITY : options.order === "tube-first" ? at : headFirstPlace(at, options.path);
  };
  const sorted = [...parts]
    .map((part, i) => ({ part, i }))
    .sort(
      (a, b) =>
        AREAS.indexOf(a.part.area) - AREAS.indexOf(b.part.area) ||
        (a.part.area === "optics" ? along(a.part) - along(b.part) : 0) ||
        a.i - b.i,
    )
    .map((x) => x.part);
  const ordered: Procedure[] = [];
  for (const part of sorted) {
    if (ordered.includes(part)) continue;
    ordered.push(part);
    const key = accessKey(part);
    if (key === undefined) continue;
    for (const other of sorted) {
      if (!ordered.includes(other) && other.area === part.area && accessKey(other) === key) ordered.push(other);
    }
  }
  return ordered;
}

/** Head first: the lens, then the nozzle, then from the head mirror back to the tube. */
function headFirstPlace(at: number, path: readonly string[]): number {
  const lens = path.indexOf("lens");
  if (at >= lens) return at - lens;
  return path.length - at;
}

/** What parts share when they are reached by the same opening; undefined for one that is reached by itself. */
export function accessKey(part: Procedure): string | undefined {
  if (part.access?.panel) return `panel ${part.access.panel}`;
  return part.opensHead || part.atHead ? "head" : undefined;
}

/** True when two parts are reached by the same opening, so that one costs little while the other is done. */
export function sharedAccess(a: Procedure, b: Procedure): boolean {
  const key = accessKey(a);
  return key !== undefined && key === accessKey(b);
}

/** What asks for something: anything, nothing, or the answers named. */
type Asked = "always" | "never" | readonly Need[];

/** What asks for any of some steps. An answer to one of them is left out: what asked for that step asked for these. */
function askedBy(steps: readonly Step[]): Asked {
  if (steps.length === 0) return "never";
  if (steps.some((s) => s.when === undefined)) return "always";
  const own = new Set(steps.map((s) => s.id));
  const needs = steps.flatMap((s) => s.when ?? []).filter((need) => !own.has(need.step));
  return [...new Map(needs.map((need) => [JSON.stringify(need), need])).values()];
}

const anyOf = (...all: readonly Asked[]): Asked =>
  all.includes("always")
    ? "always"
    : askedBy(all.flatMap((a) => (typeof a === "string" || a.length === 0 ? [] : [{ when: a } as unknown as Step])));

/** A step of the frame, where and when something asks for it. */
function under(steps: readonly Step[], asked: Asked): Step[] {
  if (asked === "never") return [];
  return asked === "always" ? [...steps] : steps.map((s) => ({ ...s, when: asked }));
}

const isLook = (step: Step) => step.kind === "grade" || step.kind === "choice";
/** At the head: lens, nozzle and head mirror, looked at or taken out. */
const isAtHead = (p: Procedure) => p.opensHead === true || p.atHead === true || p.station === "lens" || p.station === "nozzle";

/**
 * What is done at the head, in the order that keeps dirt off the lens: looks first, then the lens comes out, nozzle and head mirror are
 * cleaned while it is away, and it goes back last.
 */
function headSteps(parts: readonly Procedure[], frame: RoundFrame): Step[] {
  const opening = parts.filter((p) => p.opensHead);
  const asked = askedBy(opening.flatMap((p) => p.steps));
  const rank = (p: Procedure) => (p.station === "lens" ? 0 : p.station === "nozzle" ? 1 : 2);
  const ordered = [...parts].sort((a, b) => rank(a) - rank(b));
  const looks = asked === "always" ? ordered.filter((p) => !p.opensHead && !p.atHead) : ordered.filter((p) => !p.opensHead);
  const first = looks.flatMap((p) => p.steps.filter((s) => s.when === undefined));
  const rest = ordered.flatMap((p) => p.steps).filter((s) => !first.includes(s));
  return [
    ...first,
    ...under(frame.openHead, asked),
    ...rest.filter((s) => !s.last),
    ...rest.filter((s) => s.last),
    ...under(frame.closeHead, asked),
  ];
}

/** What is out with a station: whoever took the lens out left the head open. */
const outWith = (out: ReadonlySet<string> | undefined): ReadonlySet<string> =>
  new Set([...(out ?? []), ...(out?.has("lens") ? ["head"] : [])]);

/**
 * The steps of a round that begins with something out of the machine: nothing is taken out twice, what goes back in is told to the log, and
 * where the round puts nothing in there is no power at its end.
 */
function withOut(steps: readonly Step[], started: ReadonlySet<string>): Step[] {
  if (started.size === 0) return [...steps];
  const out = new Set(started);
  const kept: Step[] = [];
  for (const step of steps) {
    const { needs, leaves } = step;
    if ((leaves?.out !== undefined && out.has(leaves.out)) || needs?.in?.some((part) => out.has(part))) continue;
    // What is only put back if something asks for it is not counted on.
    const isBack = leaves?.back !== undefined && step.when === undefined && out.delete(leaves.back);
    kept.push(isBack && leaves?.back !== "head" && !step.service ? { ...step, service: { what: "put-back" } } : step);
  }
  return kept.filter((s) => isLeft(s, { out, broken: new Map(), stops: [] }));
}

const isPowered = (step: Step) => step.needs?.power === "on";

/** Puts the parts into the frame. A step id occurs once, and none is asked for by one that comes after it. */
export function planRound(parts: readonly Procedure[], frame: RoundFrame, options: PlanOptions): RoundPlan {
  const ordered = orderParts(parts, options);
  const unpowered = (p: Procedure): Procedure => (p.steps.some(isPowered) ? { ...p, steps: p.steps.filter((s) => !isPowered(s)) } : p);
  const cold = ordered.filter((p) => p.area !== "running").map(unpowered);
  // What is filled or emptied with the pump running comes once there is power, before anything else does.
  const firstPowered = ordered.filter((p) => p.area !== "running").flatMap((p) => p.steps.filter(isPowered));
  const running = ordered.filter((p) => p.area === "running");
  const apart = cold.length > 0;
  const touching = cold.flatMap((p) => p.steps).filter((s) => !isLook(s));
  const head = cold.filter((p) => p.area === "optics" && isAtHead(p));
  // Where only looks decide whether anything is touched, they come first, and what the rest needs is fetched after them.
  const later = askedBy(touching) !== "always";
  const opensHead = askedBy(head.filter((p) => p.opensHead).flatMap((p) => p.steps));
  let steps: Step[] = [];
  const air = frame.readAir && cold.some((p) => p.movesAir) ? frame.readAir : undefined;
  if (apart) {
    if (air) steps.push(air.before);
    steps.push({ ...fill(frame.makeSafe, frame.makeSafe.id, { positions: positions(cold) }), opens: true });
    if (touching.length > 0 && !later) steps.push(frame.fetch);
  }
  const opened: Access[] = [];
  let hands = later;
  let headDone = false;
  for (const [i, part] of cold.entries()) {
    if (part.area === "optics" && !hands && touching.length > 0) {
      hands = true;
      steps.push(frame.hands);
    }
    const access = part.access;
    if (access?.panel && !opened.some((o) => o.panel === access.panel)) {
      const shared = sharedPanel(cold, access.panel);
      opened.push(shared);
      steps.push({ ...openPanel(frame.openPanel, shared), opens: true });
    }
    if (!head.includes(part)) {
      steps.push(...part.steps.filter((s) => !s.last));
      const place = part.steps[0]?.station;
      // What closes a place waits until all that is done there is done.
      if (cold[i + 1]?.steps[0]?.station !== place)
        steps.push(...cold.slice(0, i + 1).flatMap((p) => p.steps.filter((s) => s.last && s.station === place && !isAtHead(p))));
    } else if (!headDone) {
      headDone = true;
      steps.push(...headSteps(head, frame));
    }
  }
  if (later) {
    const looks = steps.filter((s) => s.when === undefined);
    const rest = steps.filter((s) => s.when !== undefined);
    steps = [...looks, ...under([frame.fetch, frame.hands], askedBy(rest)), ...rest];
  }
  if (frame.focus.when === "unplugged") steps.push(...under([frame.focus.step], opensHead));
  for (const access of opened) {
    const panel = access.panel as string;
    const count = access.screws === undefined ? "" : `: ${access.screws}`;
    const closed = fill(frame.closePanel, `close-${slug(panel)}`, { panel: bare(panel), Panel: capital(bare(panel)), count });
    steps.push({ ...closed, leaves: { ...closed.leaves, back: panel } });
  }
  if (apart) {
    const drying: Step = { ...frame.dry, timer: { seconds: frame.dryingSeconds, name: "drying" } };
    steps.push(...under([drying], askedBy(cold.flatMap((p) => p.steps.filter((s) => s.wet)))));
    steps.push(frame.powerOn, ...firstPowered, ...frame.afterPower, ...(air ? [air.after] : []));
  }
  if (frame.focus.when === "powered") steps.push(...under([frame.focus.step], opensHead));
  const seatsOf = (kind: Procedure["opensSeat"]) => askedBy(cold.filter((p) => p.opensSeat === kind).flatMap(seatSteps));
  const ownAim = running.some((p) => p.lowPower);
  const lost = ownAim ? "never" : seatsOf("loses-aim");
  steps.push(...under([frame.aimCheck], lost));
  if (lost !== "always") {
    const nearFar = under([frame.nearFar], ownAim ? "never" : seatsOf("keeps-aim"));
    steps.push(...(lost === "never" ? nearFar : nearFar.map((s) => ({ ...s, unless: lost }))));
  }
  // What needs the machine whole comes once the covers are on.
  for (const part of running) steps.push(...part.steps);
  steps.push(...under([frame.powerBack], anyOf(lost, ownAim ? "always" : "never")));
  if (ordered.some((p) => p.provenBy === "block")) steps.push(frame.block);
  // A ladder says how strong the beam is; after a look, or a clean at the head alone, the first cut is proof enough.
  const small = apart && !options.weighed && (later || cold.every((p) => head.includes(p) && !p.isRepair));
  steps.push(small ? frame.piece : frame.proof);
  const all = expecting(once(withOut(steps, outWith(options.out))), options.known ?? new Map());
  const keys = names(cold.map((p) => (p.access?.keys ? [p.access.keys] : [])));
  const fetch = fetchList(all, keys, isSure);
  const cut = cutOf(all);
  return { steps: all, ...minutesOfPlan(all), apart, fetch, ...(cut ? { cut } : {}) };
}

/** Steps of a part after which it no longer sits as it sat. */
const seatSteps = (part: Procedure) => {
  const out = part.steps.filter((s) => s.service?.what === "seat-opened");
  return out.length > 0 ? out : part.steps;
};

/** Steps that will be walked as far as is known before: what nothing has to ask for, and what is known to ask for it. */
export const isSure = (step: Step): boolean => step.when === undefined || step.expected === true;

/** Marks what the parts known to be bad will ask for. */
function expecting(steps: readonly Step[], known: ReadonlyMap<string, Grade>): Step[] {
  const answers = new Map(
    steps.flatMap((s) => {
      const grade = s.kind === "grade" && s.phase === "as-found" && s.station !== undefined ? known.get(s.station) : undefined;
      return grade === undefined ? [] : [[s.id, { grade, atMs: 0 }] as const];
    }),
  );
  const walked = new Set(walkOf(steps, answers).map((s) => s.id));
  return steps.map((s) => (s.when !== undefined && walked.has(s.id) ? { ...s, expected: true } : s));
}

/** Minutes of a plan: as expected, and with all that a grade may ask for; the wait for drying counts where something was wetted. */
function minutesOfPlan(steps: readonly Step[]): { minutes: number; minutesMost: number } {
  const total = (walked: readonly Step[]) => minutesOf(walked) + dryingMinutes(walked);
  return { minutes: total(steps.filter(isSure)), minutesMost: total(steps) };
}

/** A round longer than this may be cut where the dirty half ends. */
const LONG_MINUTES = 45;

function cutOf(steps: readonly Step[]): RoundPlan["cut"] {
  const walked = steps.filter(isSure);
  const at = walked.findIndex((s) => s.id === "hands");
  if (at < 0 || minutesOf(walked) < LONG_MINUTES) return undefined;
  const minutes = minutesOf(walked.slice(0, at));
  return minutes < LONG_MINUTES / 4 ? undefined : { before: "hands", minutes };
}

const once = (steps: readonly Step[]): Step[] => [...new Map(steps.map((s) => [s.id, s])).values()];

/** Where things must be jogged to before the power goes off. */
function positions(parts: readonly Procedure[]): string {
  const wanted = new Map<string, string[]>();
  for (const p of parts) {
    const at = p.access?.gantry;
    if (at) wanted.set(at, [...(wanted.get(at) ?? []), p.name]);
  }
  const said = [...wanted].map(([at, names]) => `${[...new Set(names)].join(", ")}: ${at}`);
  return said.length > 0 ? ` ${said.join("; ")}.` : "";
}

/** A panel as it stands after "the", however its owner wrote it. */
const bare = (panel: string): string => panel.trim().replace(/^(?:the|its(?: own)?|an?|my|our)\s+(?=\S)/i, "");

/** What is known of one panel: each part behind it may say something of it. */
function sharedPanel(parts: readonly Procedure[], panel: string): Access {
  const behind = parts.flatMap((p) => (p.access?.panel === panel ? [p.access] : []));
  const first = <K extends keyof Access>(key: K) => behind.find((a) => a[key] !== undefined)?.[key];
  return { panel, keys: first("keys"), gantry: first("gantry"), how: first("how"), screws: first("screws") };
}

function openPanel(template: Step, access: Access): Step {
  const panel = access.panel as string;
  const open = fill(template, `open-${slug(panel)}`, {
    panel: bare(panel),
    Panel: capital(bare(panel)),
    keys: access.keys ? ` Key: ${access.keys}.` : "",
    how: [access.how && ` How it comes off: ${access.how}.`, access.screws !== undefined && ` Screws: ${access.screws}.`]
      .filter(Boolean)
      .join(""),
  });
  return { ...open, leaves: { ...open.leaves, out: panel } };
}

/** Distinct names, in order. */
const names = (lists: readonly (readonly string[] | undefined)[]): string[] => [...new Set(lists.flatMap((l) => l ?? []))];

/** What to fetch for the steps that are needed, and apart from it what only the others want. */
export function fetchList(steps: readonly Step[], keys: readonly string[], isNeeded: (step: Step) => boolean): FetchList {
  const sure = steps.filter(isNeeded);
  const lacking = new Map<string, boolean>();
  for (const a of steps.flatMap((s) => s.agents ?? [])) lacking.set(a.name, (lacking.get(a.name) ?? true) && a.missing === true);
  const item = (name: string) => ({ name, missing: lacking.get(name) ?? false });
  const agents = names(sure.map((s) => s.agents?.map((a) => a.name)));
  const tools = names(sure.map((s) => s.tools));
  const supplies = names(sure.map((s) => s.supplies));
  const gear = names(sure.map((s) => s.gear));
  const needed = new Set([...tools, ...supplies, ...agents, ...gear]);
  const maybe = names(
    steps.map((s) => [...(s.gear ?? []), ...(s.tools ?? []), ...(s.agents ?? []).map((a) => a.name), ...(s.supplies ?? [])]),
  );
  return {
    keys,
    tools,
    agents: agents.map(item),
    supplies,
    gear,
    maybe: maybe.filter((name) => !needed.has(name)).map(item),
  };
}
