import type { Access, Procedure, Step } from "./step";
import { AREAS } from "./step";

/** The frame's own steps, by the place they stand at. */
export interface RoundFrame {
  readonly makeSafe: Step;
  readonly fetch: Step;
  readonly hands: Step;
  readonly openPanel: Step;
  readonly openHead: readonly Step[];
  readonly closeHead: readonly Step[];
  readonly wayRound: Step;
  /** With the gauge, while still unplugged; or with the machine's own autofocus after power on. */
  readonly focus: { readonly when: "unplugged" | "powered"; readonly step: Step };
  readonly closePanel: Step;
  readonly powerOn: Step;
  /** Wait for anything flammable to dry, in seconds; asked for only where a step uses something flammable. */
  readonly dryingSeconds: number;
  readonly afterPower: readonly Step[];
  /** After power on, where the head was apart. */
  readonly afterHead: readonly Step[];
  readonly aimCheck: Step;
  readonly powerBack: Step;
  readonly proof: Step;
  /** Proof enough of a round that only looked. */
  readonly piece: Step;
}

export interface RoundPlan {
  readonly steps: readonly Step[];
  readonly minutes: number;
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
}

export interface PlanOptions {
  readonly order: "head-first" | "tube-first";
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

/** Puts the parts into the frame. A step id occurs once. */
export function planRound(parts: readonly Procedure[], frame: RoundFrame, options: PlanOptions): RoundPlan {
  const ordered = orderParts(parts, options);
  const cold = ordered.filter((p) => p.area !== "running");
  const running = ordered.filter((p) => p.area === "running");
  const apart = cold.length > 0;
  // Nothing comes out and nothing is wiped: no hands to wash, no power to put back, no ladder to cut.
  const looksOnly = cold.every((p) => p.steps.every((s) => s.kind === "grade"));
  const opensHead = cold.some((p) => p.opensHead);
  const fetch = fetchList([frame.makeSafe, frame.fetch, ...ordered.flatMap((p) => p.steps)], cold, frame, opensHead);
  const steps: Step[] = [];
  if (apart) {
    steps.push(fill(frame.makeSafe, frame.makeSafe.id, { positions: positions(cold) }));
    if (!looksOnly) steps.push(frame.fetch);
  }
  const opened: Access[] = [];
  let headOpen = false;
  let handsWashed = false;
  for (const part of cold) {
    if (part.area === "optics" && !handsWashed && !looksOnly) {
      handsWashed = true;
      steps.push(frame.hands);
    }
    const access = part.access;
    if (access?.panel && !opened.some((o) => o.panel === access.panel)) {
      opened.push(access);
      steps.push(openPanel(frame.openPanel, access));
    }
    if (part.opensHead && !headOpen) {
      headOpen = true;
      steps.push(...frame.openHead);
    }
    steps.push(...part.steps);
  }
  if (opensHead) steps.push(...frame.closeHead);
  const ways = cold.filter((p) => p.wayRound?.note || p.wayRound?.photo);
  if (ways.length > 0 && (opensHead || cold.some((p) => p.opensSeat))) {
    const photos = ways.flatMap((p) => (p.wayRound?.photo ? [p.wayRound.photo] : []));
    const notes = ways.map((p) => `${p.name}: ${p.wayRound?.note ?? "as in the picture"}.`).join(" ");
    steps.push({ ...fill(frame.wayRound, frame.wayRound.id, { ways: notes }), ...(photos.length > 0 ? { photos } : {}) });
  }
  if (opensHead && frame.focus.when === "unplugged") steps.push(frame.focus.step);
  for (const access of opened) {
    const panel = access.panel as string;
    steps.push(fill(frame.closePanel, `close-${slug(panel)}`, { panel, Panel: capital(panel) }));
  }
  if (apart) {
    const wet = cold.some((p) => p.steps.some((s) => s.wet));
    const { timer: _, ...plain } = frame.powerOn;
    steps.push(wet ? { ...frame.powerOn, timer: { seconds: frame.dryingSeconds, name: "drying" } } : plain);
    steps.push(...frame.afterPower);
  }
  if (opensHead) steps.push(...frame.afterHead);
  if (opensHead && frame.focus.when === "powered") steps.push(frame.focus.step);
  if (cold.some((p) => p.opensSeat)) steps.push(frame.aimCheck);
  // What needs the machine whole comes once the covers are on.
  for (const part of running) steps.push(...part.steps);
  if ((apart && !looksOnly) || ordered.some((p) => p.lowPower)) steps.push(frame.powerBack);
  steps.push(apart && looksOnly ? frame.piece : frame.proof);
  return { steps: once(steps), minutes: minutesOf(once(steps)), apart, fetch };
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

function openPanel(template: Step, access: Access): Step {
  const panel = access.panel as string;
  const step = fill(template, `open-${slug(panel)}`, {
    panel,
    Panel: capital(panel),
    keys: access.keys ? ` Key: ${access.keys}.` : "",
  });
  const caution = access.warranty
    ? `${step.caution ?? ""} This panel is not meant for owners: opening it may touch the warranty. Ask the maker first.`.trim()
    : step.caution;
  return { ...step, ...(caution ? { caution } : {}) };
}

function fetchList(steps: readonly Step[], cold: readonly Procedure[], frame: RoundFrame, opensHead: boolean): FetchList {
  const all = [...steps, ...(opensHead ? [...frame.openHead, ...frame.closeHead, frame.focus.step] : [])];
  const agents = new Map<string, boolean>();
  for (const a of all.flatMap((s) => s.agents ?? [])) agents.set(a.name, (agents.get(a.name) ?? true) && a.missing === true);
  return {
    keys: [...new Set(cold.flatMap((p) => (p.access?.keys ? [p.access.keys] : [])))],
    tools: [...new Set(all.flatMap((s) => s.tools ?? []))],
    agents: [...agents].map(([name, missing]) => ({ name, missing })),
    supplies: [...new Set(all.flatMap((s) => s.supplies ?? []))],
  };
}

/** Total minutes of steps, to the half minute. */
export function minutesOf(steps: readonly Step[]): number {
  return Math.round(steps.reduce((sum, s) => sum + s.minutes, 0) * 2) / 2;
}
