/** One sitting at the mirrors: marks, turns and shifts as they were made, and what is known after each of them. */
import type { Across } from "./directions";
import {
  type AimState,
  expectedAt,
  forgotten,
  goneBy,
  type KnownScrew,
  MARK_SD_MM,
  marked,
  missed,
  moved,
  putBack,
  type ScrewMemory,
  screwKey,
  screwTurned,
  startOf,
} from "./filter";
import type { Screw } from "./mounts";
import { type AimPath, halfWidthMm, isOfHead, type Spot, spotId } from "./path";
import { unknownsOf } from "./reach";
import type { AimEntry, AimEvent } from "./schemas";
import { isConflict, type Trial, trialOf } from "./trials";

/**
 * A move that turns nothing, mm in the frame of the leg that arrives: the tube raised or moved sideways, a station's mount shimmed, or a
 * mirror slid along the beam that meets it, which moves the beam it sends on.
 */
export type Shift = Extract<AimEntry, { kind: "shift" }>["shift"];

/** A mark that lies further from where it was expected than reading explains. */
export interface Surprise {
  readonly entry: number;
  readonly spot: Spot;
  readonly apartMm: number;
}

/** A moment of a sitting: the state after an entry. */
export interface AimMoment {
  readonly state: AimState;
  /** The mark that was expected there, for an entry that is a mark. */
  readonly expected?: Across;
}

export interface AimSession {
  readonly path: AimPath;
  readonly entries: readonly AimEvent[];
  readonly moments: readonly AimMoment[];
  readonly state: AimState;
  readonly trials: readonly Trial[];
  readonly surprises: readonly Surprise[];
  /** How well its owner's marks are read, mm, as far as they tell. */
  readonly readingSdMm: number;
}

/** Spreads beyond which a mark is a surprise: it is kept, and weighs less until another says the same. */
const SURPRISE = 4;
/** What a hand is off by when it shims or slides something, mm. */
const SHIFT_SD_MM = 0.3;

/** Throws RangeError for a screw the path does not have. */
export function screwOf(state: AimState, element: string, screw: Screw): KnownScrew {
  const found = state.screws.find((s) => s.key === `${element}.${screw}`);
  if (!found) throw new RangeError(`no screw ${screw} on ${element}`);
  return found;
}

const isMirror = (path: AimPath, id: string) => path.elements.some((e) => e.id === id && e.map !== undefined);

/** Whether an entry speaks of places, screws and mirrors that a path has. */
export function isOnPath(path: AimPath, entry: AimEvent): boolean {
  const has = (id: string) => path.stations.some((s) => s.id === id);
  switch (entry.kind) {
    case "mark":
    case "miss":
      return has(entry.spot.at);
    case "turn":
      return startOf(path).screws.some((s) => s.key === screwKey(entry.element, entry.screw));
    case "shift":
      if (entry.shift.of === "tube") return true;
      if (entry.shift.of === "mount") return has(entry.shift.station);
      return isMirror(path, entry.shift.element);
    case "opened":
      return path.elements.some((e) => e.id === entry.element) || isOfHead(path, entry.element);
    case "forget":
      return true;
  }
}

/** Reading errors that an owner's marks may have, mm, and how likely each is beforehand (ln). */
const READING_SDS = [
  { mm: 0.25, log: -0.4 },
  { mm: 0.3, log: 0 },
  { mm: 0.5, log: -0.5 },
  { mm: 0.8, log: -1 },
  { mm: 1.2, log: -1.6 },
] as const;
const NOTHING: ScrewMemory = {};
/** Fewer marks than this tell nothing of how well they are read. */
const FEWEST_MARKS = 5;

/**
 * Brings a sitting forward from its first entry to its last. How well its owner reads marks is learned from how far they lie from where the
 * marks before put them. Throws RangeError for a spot or screw the path does not have.
 */
export function sessionOf(path: AimPath, entries: readonly AimEvent[], memory: ScrewMemory = NOTHING): AimSession {
  const plain = replayed(path, entries, memory, MARK_SD_MM);
  if (entries.filter((e) => e.kind === "mark").length < FEWEST_MARKS) return plain;
  const tried = READING_SDS.map(({ mm, log }) => ({ mm, log: log + replayed(path, entries, memory, mm).logLikelihood }));
  const best = Math.max(...tried.map((t) => t.log));
  const weights = tried.map((t) => Math.exp(t.log - best));
  const sum = weights.reduce((a, b) => a + b, 0);
  const mm = Math.exp(tried.reduce((s, t, i) => s + ((weights[i] as number) / sum) * Math.log(t.mm), 0));
  return replayed(path, entries, memory, mm);
}

/** A surprise says no more of the reading error than this many spreads. */
const MOST_TELLING = 4;

/** The same for one reading error, mm; `logLikelihood` is that of its marks. */
function replayed(path: AimPath, entries: readonly AimEvent[], memory: ScrewMemory, readingSdMm: number): Replay {
  const before = grown(path, entries, memory, readingSdMm);
  let state = before?.state ?? startOf(path, memory);
  let logLikelihood = before?.logLikelihood ?? 0;
  const moments: AimMoment[] = [...(before?.moments ?? [])];
  const trials: Trial[] = [...(before?.trials ?? [])];
  const surprises: Surprise[] = [...(before?.surprises ?? [])];
  for (const [i, entry] of entries.entries()) {
    if (i < moments.length) continue;
    if (entry.kind === "turn") state = screwTurned(state, screwOf(state, entry.element, entry.screw), entry.turns);
    if (entry.kind === "shift") state = shifted(state, entry.shift);
    if (entry.kind === "opened") state = putBack(state, entry.element);
    if (entry.kind === "miss") state = afterMiss(state, entries, i, halfWidthMm(path, entry.spot.at));
    if (entry.kind === "forget")
      for (const s of state.screws) if (path.elements[s.element]?.id === entry.element) state = forgotten(state, s);
    if (entry.kind !== "mark") {
      moments.push({ state });
      continue;
    }
    const sdMm = entry.sdMm ?? readingSdMm;
    const trial = trialOf(path, entries, i);
    if (trial) {
      const screw = screwOf(state, trial.element, trial.screw);
      const conflict = isConflict(state, screw, trial, sdMm);
      trials.push({ ...trial, conflict });
      // It does not do what it did: from the mark before on, nothing is known of it but what this says.
      if (conflict) state = again(moments[trial.since]!.state, screw, entries.slice(trial.since + 1, i), readingSdMm);
    }
    const expected = expectedAt(state, entry.spot);
    const off = (["right", "up"] as const).map((axis) => ({
      apart: entry.mark[axis] - expected[axis].mean,
      sd: Math.hypot(expected[axis].sd, sdMm),
    }));
    for (const { apart, sd } of off) logLikelihood -= Math.log(sd) + Math.min(MOST_TELLING, Math.abs(apart) / sd) ** 2 / 2;
    const worst = Math.max(...off.map(({ apart, sd }) => Math.abs(apart) / sd));
    if (worst > SURPRISE) surprises.push({ entry: i, spot: entry.spot, apartMm: Math.hypot(...off.map((o) => o.apart)) });
    state = marked(state, entry.spot, entry.mark, worst > SURPRISE ? sdMm * (worst / SURPRISE) * 2 : sdMm);
    moments.push({ state, expected: { right: expected.right.mean, up: expected.up.mean } });
  }
  const replay = { path, entries: [...entries], moments, state, trials, surprises, readingSdMm, logLikelihood, memory };
  if (READING_SDS.some((r) => r.mm === readingSdMm)) {
    const kept = replays.get(path) ?? new Map<number, Replay>();
    replays.set(path, kept.set(readingSdMm, replay));
  }
  return replay;
}

interface Replay extends AimSession {
  readonly logLikelihood: number;
  readonly memory: ScrewMemory;
}
/** The last replay of a path for each reading error: a sitting grows by one entry at a time. */
const replays = new WeakMap<AimPath, Map<number, Replay>>();

/** The last replay, where these entries go on from it. */
function grown(path: AimPath, entries: readonly AimEvent[], memory: ScrewMemory, readingSdMm: number): Replay | undefined {
  const last = replays.get(path)?.get(readingSdMm);
  const goesOn = last && last.memory === memory && last.entries.length <= entries.length && last.entries.every((e, i) => e === entries[i]);
  return goesOn ? last : undefined;
}

/** What a miss says: the side it went by, and which way the one screw turned since the last mark there moves it. */
function afterMiss(state: AimState, entries: readonly AimEvent[], at: number, halfMm: number): AimState {
  const entry = entries[at];
  if (entry?.kind !== "miss") return state;
  const told = missed(state, entry.spot, entry.side, halfMm);
  const id = spotId(entry.spot);
  const since = entries.findLastIndex((e, i) => i < at && (e.kind === "mark" || e.kind === "miss") && spotId(e.spot) === id);
  const start = entries[since];
  const moves = entries.slice(since + 1, at).filter((e) => e.kind !== "mark" && e.kind !== "miss");
  const [turn] = moves;
  if (start?.kind !== "mark" || turn?.kind !== "turn" || moves.length !== 1) return told;
  return goneBy(told, entry.spot, start.mark, screwOf(told, turn.element, turn.screw), turn.turns, halfMm);
}

/** The same marks and turns once more, from a state in which a screw's effect is not known. */
function again(from: AimState, screw: KnownScrew, entries: readonly AimEvent[], readingSdMm: number): AimState {
  let state = forgotten(from, screw);
  for (const entry of entries) {
    if (entry.kind === "mark") state = marked(state, entry.spot, entry.mark, entry.sdMm ?? readingSdMm);
    if (entry.kind === "turn") state = screwTurned(state, screwOf(state, entry.element, entry.screw), entry.turns);
  }
  return state;
}

function shifted(state: AimState, shift: Shift): AimState {
  const u = unknownsOf(state.path);
  const both = (index: number, mm: Across) => moved(moved(state, index, mm.right, SHIFT_SD_MM), index + 1, mm.up, SHIFT_SD_MM);
  switch (shift.of) {
    case "tube":
      return both(u.tubePlace, shift.mm);
    case "mount":
      return both(u.middle(shift.station), shift.mm);
    case "slide": {
      const element = state.path.elements.findIndex((e) => e.id === shift.element);
      if (element < 1) throw new RangeError(`${shift.element} is no mirror that can be slid`);
      return moved(state, u.shift(element), shift.mm, SHIFT_SD_MM);
    }
  }
}

/** The newest mark at each spot, with the number of its entry. */
export function newestMarks(
  entries: readonly AimEvent[],
): Map<string, { readonly entry: number; readonly mark: Across; readonly spot: Spot }> {
  const newest = new Map<string, { entry: number; mark: Across; spot: Spot }>();
  for (const [entry, e] of entries.entries()) if (e.kind === "mark") newest.set(spotId(e.spot), { entry, mark: e.mark, spot: e.spot });
  return newest;
}
