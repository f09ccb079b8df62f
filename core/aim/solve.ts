/** From what is known to what to do: which leg is off, which mark is missing, which screw to turn next and where the mark will sit then. */
import { type Across, correctionOf } from "./directions";
import { type AimState, expectedAt, gainOf, type KnownScrew, screwTurned, spreadOf } from "./filter";
import { FINEST_TURN, finestStepMm, rotationPerTurnMrad, roundTurns, turnsAround } from "./mounts";
import { type AimPath, type AimStation, halfWidthMm, isOfHead, type Spot, spotId, spotsOf, WORK } from "./path";
import { anglesAfter, rowsAt, unknownsOf } from "./reach";
import type { AimEvent } from "./schemas";
import { type AimSession, newestMarks, type Shift } from "./session";

/** How one leg of the beam stands. */
export interface LegAnswer {
  /** The tube or mirror it leaves, and the station its marks are made at. */
  readonly element: string;
  readonly endsAt: string;
  /** What is brought together: far against near, or the mark against the middle. */
  readonly aim: "parallel" | "centre";
  /** Deviation of the leg, mrad, with its spread; undefined while the marks do not say. */
  readonly deviation: Across | undefined;
  readonly deviationSd: Across;
  /** Rotation of the mirror that takes it away, mrad; undefined for the tube. */
  readonly correction: { readonly inPlane: number; readonly across: number } | undefined;
  /** How far the marks lie apart, or the mark beside the middle, mm. */
  readonly apart: Across;
  readonly apartMm: number;
  readonly toleranceMm: number;
  readonly status: "unknown" | "off" | "good";
}

export interface Expected {
  readonly spot: Spot;
  readonly mark: Across;
}

export type AimStep =
  | { readonly kind: "mark"; readonly spot: Spot; readonly why: "missing" | "after-turn" | "opened" | "unsure" | "last-look" | "no-mark" }
  | TurnStep
  | { readonly kind: "shift"; readonly shift: Shift; readonly station: string }
  /** `isLost`: no mark came there, again and again. */
  | { readonly kind: "seat"; readonly element: string; readonly apart: Across; readonly isLost?: boolean }
  | { readonly kind: "vague" }
  | { readonly kind: "good" };

export interface TurnStep {
  readonly kind: "turn";
  readonly element: string;
  readonly screw: KnownScrew["screw"];
  readonly turns: number;
  /** Its sense is not known: this turn tells, and the mark may go the other way. */
  readonly isTrial: boolean;
  /** The beam missed its mark: this turn looks for it. */
  readonly isSearch?: boolean;
  /** Marks to expect afterwards at the spots of its leg. Of a trial, where its sense is as drawn. */
  readonly expected: readonly Expected[];
}

export interface AimAnswer {
  readonly legs: readonly LegAnswer[];
  readonly next: AimStep;
  /** Turns ahead on the leg at hand, one screw at a time, the first being the next. */
  readonly turns: readonly TurnStep[];
  /** Turns back to the best state there was, last screw first; empty where it is this one. */
  readonly back: readonly { readonly element: string; readonly screw: KnownScrew["screw"]; readonly turns: number }[];
  /** Stations whose common mark lies outside the middle half of their aperture. */
  readonly outside: readonly string[];
  /** What is left between the marks and the best fit of all of them, mm rms. */
  readonly residualMm: number | undefined;
  readonly goodEnough: boolean;
  /** Every leg was read, and its marks surely lie within a millimetre: an owner in a hurry may stop here. */
  readonly enoughForToday: boolean;
  /** Minutes that all the rest takes, about. */
  readonly minutesToFine: number;
}

/** Marks nearer than this are one mark, mm. */
const TOGETHER_MM = 0.5;
/** A leg is read when its marks' distance is known to this, mm, on each axis. */
const READ_SD_MM = 0.5;
/** Spreads by which marks must lie within their tolerance and a reading's error to be called together. */
const SURE_SPREADS = 2;
/** Nearer to the line than this the marks are read again before anything is turned, while more reading still tells, mm. */
const CLOSE_CALL_MM = 0.3;
const READ_AGAIN_SD_MM = { off: 0.25, good: 0.15 } as const;
/** After so many marks of one leg since anything was turned, more of the same tell no more. */
const MOST_READS = 8;
/** Within this the marks are good enough for today, mm, where that is so surely. */
const TODAY_MM = 1;
const TODAY_SURE = 0.85;
/** Marks that leave a leg this unsure after all their readings are too coarse to say that it is good, mm. */
const COARSE_SD_MM = 0.3;
/** What a mark and a turn take, minutes. */
const MARK_MINUTES = 2;
const TURN_MINUTES = 2;
/** No more than one turn before the next look. */
const MOST_TURNS = 1;
/** Turns that leave this share of the tolerance are good; among them those with fewer looks. */
const WELL_WITHIN = 0.7;
/** First turn of a screw whose sense nobody knows: enough to see, too little to lose the mark. */
const FIRST_TURN = [1 / 8, 1 / 2] as const;

interface Leg {
  readonly index: number;
  readonly aim: "parallel" | "centre";
  /** Spots that say it: near and far, or the one to be centred. */
  readonly spots: readonly Spot[];
  /** Rows of what must become nothing. */
  readonly right: Float64Array;
  readonly up: Float64Array;
  readonly toleranceMm: number;
  readonly screws: readonly KnownScrew[];
}

const minus = (a: Float64Array, b: Float64Array) => a.map((v, i) => v - b[i]!);

/** Legs of a path with what each must come to, from the tube on. */
function legsOf(state: AimState): Leg[] {
  const known = legsKnown.get(state.path) ?? tracedLegs(state);
  legsKnown.set(state.path, known);
  return known;
}

const legsKnown = new WeakMap<AimPath, Leg[]>();

function tracedLegs(state: AimState): Leg[] {
  const { path } = state;
  return path.elements.flatMap((element, index): Leg[] => {
    const screws = state.screws.filter((s) => s.element === index);
    const isLast = index === path.elements.length - 1;
    const parallel = (at: string, way: string, travelMm: number): Leg => {
      const [near, far] = [
        { at, far: [] },
        { at, far: [way] },
      ];
      const [a, b] = [rowsAt(path, near), rowsAt(path, far)];
      const toleranceMm = Math.max(TOGETHER_MM, element.mount ? finestStepMm(element.mount, travelMm) / 2 : 0);
      return { index, aim: "parallel", spots: [near, far], right: minus(b.right, a.right), up: minus(b.up, a.up), toleranceMm, screws };
    };
    // Ends where no tape goes: nobody can say of it what the next leg does not say as well.
    if (!path.stations.some((s) => s.id === element.endsAt)) return [];
    if (element.travelMm > 0) return [parallel(element.endsAt, element.endsAt, element.travelMm)];
    if (isLast && path.zTravelMm > 0) return [parallel(WORK, WORK, path.zTravelMm)];
    const at = isLast ? (path.stations.find((s) => s.id === "nozzle")?.id ?? element.endsAt) : element.endsAt;
    const spot = { at, far: [] };
    const rows = rowsAt(path, spot);
    return [{ index, aim: "centre", spots: [spot], ...rows, toleranceMm: middleHalfMm(path, at), screws }];
  });
}

/** Radius of the middle half of an aperture, mm, where it is narrowest. */
function middleHalfMm(path: AimPath, at: string): number {
  const station = path.stations.find((s) => s.id === at) as AimStation;
  return station.apertureMm / 4 / (station.narrow ? Math.SQRT2 : 1);
}

/** Whether a place lies inside the middle half of a station's aperture: an ellipse where the mirror stands at 45°. */
export function inMiddleHalf(station: AimStation, mark: Across): boolean {
  const half = station.apertureMm / 4;
  const narrow = half / Math.SQRT2;
  const [right, up] = [station.narrow === "right" ? narrow : half, station.narrow === "up" ? narrow : half];
  return (mark.right / right) ** 2 + (mark.up / up) ** 2 <= 1;
}

function legAnswer(state: AimState, leg: Leg): LegAnswer {
  const element = state.path.elements[leg.index]!;
  const angle = anglesAfter(state.path, leg.index);
  const [right, up] = [spreadOf(state, leg.right), spreadOf(state, leg.up)];
  const [angleRight, angleUp] = [spreadOf(state, angle.right), spreadOf(state, angle.up)];
  const read = spreadOfLeg(state, leg) <= READ_SD_MM;
  const apartMm = Math.hypot(right.mean, up.mean);
  const deviation = { right: angleRight.mean, up: angleUp.mean };
  return {
    element: element.id,
    endsAt: leg.spots[0]!.at,
    aim: leg.aim,
    deviation: read ? deviation : undefined,
    deviationSd: { right: angleRight.sd, up: angleUp.sd },
    correction: read && element.inPlane ? correctionOf(deviation, element.inPlane) : undefined,
    apart: { right: right.mean, up: up.mean },
    apartMm,
    toleranceMm: leg.toleranceMm,
    status: !read ? "unknown" : apartMm <= leg.toleranceMm ? "good" : "off",
  };
}

/** mm that a leg's target moves by one turn of a screw, for an effect of the beam in mrad. */
function perTurn(path: AimPath, leg: Leg, screw: KnownScrew, effect: Across): Across {
  const at = unknownsOf(path).turn(screw.element);
  const by = (row: Float64Array) => row[at]! * effect.right + row[at + 1]! * effect.up;
  return { right: by(leg.right), up: by(leg.up) };
}

interface Turning {
  readonly screw: KnownScrew;
  readonly turns: number;
}

/** Turns that bring a leg's marks together with the fewest screws, as a hand makes them; screws whose sense is unknown as drawn. */
function bestTurns(state: AimState, leg: Leg): Turning[] {
  const apart = { right: spreadOf(state, leg.right).mean, up: spreadOf(state, leg.up).mean };
  const effects = leg.screws.map((screw) =>
    perTurn(state.path, leg, screw, state.sensed.has(screw.key) ? gainOf(state, screw).mean : screw.expected),
  );
  // A screw nobody knows may need its turn twice.
  const looksOf = (turnings: readonly Turning[]) => turnings.reduce((sum, t) => sum + (state.sensed.has(t.screw.key) ? 1 : 2), 0);
  let best: { turnings: Turning[]; left: number; looks: number } = { turnings: [], left: Math.hypot(apart.right, apart.up), looks: 0 };
  const within = leg.toleranceMm * WELL_WITHIN;
  const consider = (turnings: Turning[], left: number) => {
    const looks = looksOf(turnings);
    const [here, there] = [left <= within, best.left <= within];
    const better =
      here && there ? looks < best.looks || (looks === best.looks && left < best.left) : here || (!there && left < best.left - 1e-9);
    if (better) best = { turnings, left, looks };
  };
  const after = (...moves: [number, number][]) =>
    Math.hypot(
      moves.reduce((sum, [i, t]) => sum + t * effects[i]!.right, apart.right),
      moves.reduce((sum, [i, t]) => sum + t * effects[i]!.up, apart.up),
    );
  for (const [i, a] of effects.entries()) {
    const alone = -(a.right * apart.right + a.up * apart.up) / (a.right ** 2 + a.up ** 2);
    for (const t of turnsAround(alone)) if (t !== 0) consider([{ screw: leg.screws[i]!, turns: t }], after([i, t]));
    for (let j = i + 1; j < effects.length; j++) {
      const b = effects[j]!;
      const determinant = a.right * b.up - a.up * b.right;
      if (Math.abs(determinant) < 1e-9) continue;
      const first = (b.right * apart.up - b.up * apart.right) / determinant;
      const second = (a.up * apart.right - a.right * apart.up) / determinant;
      for (const t of turnsAround(first)) {
        for (const s of turnsAround(second)) {
          if (t === 0 || s === 0) continue;
          consider(
            [
              { screw: leg.screws[i]!, turns: t },
              { screw: leg.screws[j]!, turns: s },
            ],
            after([i, t], [j, s]),
          );
        }
      }
    }
  }
  const size = ({ screw, turns }: Turning) => {
    const e = effects[leg.screws.indexOf(screw)]!;
    return Math.abs(turns) * Math.hypot(e.right, e.up);
  };
  return best.turnings.sort((a, b) => size(b) - size(a));
}

/** The turns ahead with the marks after each. After a trial nothing is known yet, so the list ends with it. */
function turnsAhead(state: AimState, leg: Leg): TurnStep[] {
  const steps: TurnStep[] = [];
  let before = state;
  for (const { screw, turns } of bestTurns(state, leg)) {
    const isTrial = !state.sensed.has(screw.key);
    const made = isTrial
      ? Math.sign(turns) * Math.min(FIRST_TURN[1], Math.max(FIRST_TURN[0], Math.abs(roundTurns(turns))))
      : Math.max(-MOST_TURNS, Math.min(MOST_TURNS, turns));
    const after = isTrial ? asDrawn(before, screw, made) : screwTurned(before, screw, made);
    steps.push({
      kind: "turn",
      element: state.path.elements[leg.index]!.id,
      screw: screw.screw,
      turns: made,
      isTrial,
      expected: leg.spots.map((spot) => {
        const { right, up } = expectedAt(after, spot);
        return { spot, mark: { right: right.mean, up: up.mean } };
      }),
    });
    if (isTrial) break;
    before = after;
  }
  return steps;
}

/** The state after a turn of a screw whose sense is taken to be as drawn. */
function asDrawn(state: AimState, screw: KnownScrew, turns: number): AimState {
  const mean = state.mean.slice();
  const at = unknownsOf(state.path).turn(screw.element);
  mean[at]! += turns * screw.expected.right;
  mean[at + 1]! += turns * screw.expected.up;
  return { ...state, mean };
}

/** Number of the last entry that moved anything at or before an element; -1 where nothing did. */
function lastMoveBefore(path: AimPath, entries: readonly AimEvent[], index: number): number {
  return entries.findLastIndex((e) => {
    if (e.kind === "mark" || e.kind === "miss" || e.kind === "forget") return false;
    if (e.kind === "shift") return true;
    const at = path.elements.findIndex((x) => x.id === e.element);
    return at >= 0 && at <= index;
  });
}

/** What to do next in a sitting, and how everything stands. */
export function solve(session: AimSession): AimAnswer {
  const { state, entries } = session;
  const legs = legsOf(state);
  const answers = legs.map((leg) => legAnswer(state, leg));
  const outside = outsideOf(session);
  const { next, turns } = nextStep(session, legs, answers, outside);
  return {
    legs: answers,
    next,
    turns,
    back: backTurns(session),
    outside: outside.map((o) => o.station.id),
    residualMm: residualOf(session),
    goodEnough: next.kind === "good" && entries.some((e) => e.kind === "mark"),
    enoughForToday: isEnoughForToday(session, legs, outside),
    minutesToFine: minutesToFine(session, legs, answers),
  };
}

/** Whether every leg was read since anything before it moved, and its marks surely lie within a millimetre. */
function isEnoughForToday(session: AimSession, legs: readonly Leg[], outside: readonly Outside[]): boolean {
  const { state, path, entries } = session;
  const newest = newestMarks(entries);
  const isRead = (spot: Spot, index: number) =>
    (newest.get(spotId(spot))?.entry ?? -1) > lastMoveBefore(path, entries, index) && !isLost(session, spot, index);
  return (
    outside.length === 0 &&
    legs.every(
      (leg) => leg.spots.every((s) => isRead(s, leg.index)) && (leg.aim === "centre" || within(state, leg, TODAY_MM) >= TODAY_SURE),
    )
  );
}

/** What is left to be turned and marked until nothing more can be told, minutes: each leg that is off by its screws, each mark that is old. */
function minutesToFine({ path, entries }: AimSession, legs: readonly Leg[], answers: readonly LegAnswer[]): number {
  const newest = newestMarks(entries);
  return legs.reduce((sum, leg, i) => {
    const old = leg.spots.filter((s) => (newest.get(spotId(s))?.entry ?? -1) <= lastMoveBefore(path, entries, leg.index)).length;
    const turns = answers[i]?.status === "off" ? Math.min(2, leg.screws.length) : 0;
    return sum + turns * (TURN_MINUTES + MARK_MINUTES) + old * MARK_MINUTES + (answers[i]?.status === "unknown" ? 2 * MARK_MINUTES : 0);
  }, MARK_MINUTES);
}

/** Points of a standard normal law that stand for equal shares of it. */
const SHARES = [-1.83, -1.28, -0.97, -0.73, -0.52, -0.34, -0.17, 0, 0.17, 0.34, 0.52, 0.73, 0.97, 1.28, 1.83] as const;

/** Probability that a leg's marks lie within so many mm of each other, 0..1. */
function within(state: AimState, leg: Leg, mm: number): number {
  const [right, up] = [spreadOf(state, leg.right), spreadOf(state, leg.up)];
  let inside = 0;
  for (const a of SHARES) for (const b of SHARES) if (Math.hypot(right.mean + a * right.sd, up.mean + b * up.sd) <= mm) inside += 1;
  return inside / SHARES.length ** 2;
}

/** Whether the last word on a spot is that no mark came there, since anything before it moved. */
function isLost({ path, entries }: AimSession, spot: Spot, index: number): boolean {
  const id = spotId(spot);
  const last = entries.findLastIndex((e) => (e.kind === "mark" || e.kind === "miss") && spotId(e.spot) === id);
  return last > lastMoveBefore(path, entries, index) && entries[last]?.kind === "miss";
}

/** Whether a mark is expected about where no mark comes. */
function isFarOut(state: AimState, spot: Spot): boolean {
  const { right, up } = expectedAt(state, spot);
  return Math.hypot(right.mean, up.mean) > LOST_SHARE * halfWidthMm(state.path, spot.at);
}
const LOST_SHARE = 0.8;

/** Whether it may be that a pulse did not fire: one miss, nobody saw a side, and no mark of that leg says that the beam comes so far. */
function isDoubtful({ entries }: AimSession, leg: Leg, spot: Spot): boolean {
  const id = spotId(spot);
  const seen = entries.findLastIndex((e) => e.kind === "mark" && leg.spots.some((s) => spotId(s) === spotId(e.spot)));
  const misses = entries.slice(seen + 1).filter((e) => e.kind === "miss" && spotId(e.spot) === id);
  return seen < 0 && misses.length === 1 && misses.every((e) => e.kind === "miss" && e.side === undefined);
}

/** So many turns towards the middle without a mark, and what was thought of the screw or of the way is wrong. */
const TO_MIDDLE = 6;

/** How far one step of the search moves the beam, as a share of the part's half width: less than a mark reaches on both sides. */
const SEARCH_SHARE = 1.6;

/** The n-th step of a square spiral, from 0: which of two screws, and its sense. One, one, two, two, three, three and so on. */
function spiral(n: number): readonly [which: 0 | 1, sense: 1 | -1] {
  let left = n;
  for (let side = 0; ; side++) {
    const length = Math.floor(side / 2) + 1;
    if (left < length) return [(side % 2) as 0 | 1, side % 4 < 2 ? 1 : -1];
    left -= length;
  }
}

/**
 * The turn that looks for a beam which left no mark at a spot: towards the middle from where the near mark and the mirror before put it; where
 * they put it on the part though it is not there, outwards along a spiral about that place, until a mark comes.
 */
function searchTurn(session: AimSession, leg: Leg, spot: Spot): TurnStep | undefined {
  const { state, entries, moments } = session;
  const id = spotId(spot);
  const seen = entries.findLastIndex((e) => e.kind === "mark" && spotId(e.spot) === id);
  const isMiss = (e: AimEvent, i: number) => i > seen && e.kind === "miss" && spotId(e.spot) === id;
  const misses = (until: number) => entries.filter((e, i) => i <= until && isMiss(e, i)).length;
  // From the first miss where it should have been on, each is a step of the spiral.
  const first = entries.findIndex((e, i) => {
    const before = moments[i - 1]?.state;
    return isMiss(e, i) && before !== undefined && misses(i) > 1 && (!isFarOut(before, spot) || misses(i) > TO_MIDDLE);
  });
  const wrong = first < 0 ? 0 : entries.filter((e, i) => i >= first && isMiss(e, i)).length;
  if (wrong === 0) {
    const rows = rowsAt(state.path, spot);
    const toMiddle = { ...leg, aim: "centre" as const, spots: [spot], ...rows, toleranceMm: middleHalfMm(state.path, spot.at) };
    const [turn] = turnsAhead(state, toMiddle);
    if (turn) return { ...turn, isSearch: true };
  }
  const [which, sense] = spiral(Math.max(0, wrong - 1));
  const screw = leg.screws[which] ?? leg.screws[0];
  if (!screw) return undefined;
  const by = perTurn(
    state.path,
    { ...leg, ...rowsAt(state.path, spot) },
    screw,
    state.sensed.has(screw.key) ? gainOf(state, screw).mean : screw.expected,
  );
  const turns =
    sense *
    Math.min(
      MOST_TURNS,
      Math.max(FIRST_TURN[0], (SEARCH_SHARE * halfWidthMm(state.path, spot.at)) / Math.max(0.1, Math.hypot(by.right, by.up))),
    );
  return {
    kind: "turn",
    element: state.path.elements[leg.index]!.id,
    screw: screw.screw,
    turns: roundTurns(turns),
    isTrial: !state.sensed.has(screw.key),
    isSearch: true,
    expected: [],
  };
}

function nextStep(session: AimSession, legs: readonly Leg[], answers: readonly LegAnswer[], outside: readonly Outside[]) {
  const { state, path, entries } = session;
  const newest = newestMarks(entries);
  const outdated = outdatedMarks(session);
  const isFresh = (spot: Spot, index: number) => (newest.get(spotId(spot))?.entry ?? -1) > lastMoveBefore(path, entries, index);
  const step = (next: AimStep, turns: readonly TurnStep[] = []) => ({ next, turns });
  const last = entries.at(-1);
  /** Never the same mark twice in a row, where another says as much. */
  const unsure = (leg: Leg) => {
    const vague = vaguest(state, leg);
    const isSame = last?.kind === "mark" && spotId(last.spot) === spotId(vague);
    return step({ kind: "mark", spot: isSame ? (leg.spots.find((s) => spotId(s) !== spotId(vague)) ?? vague) : vague, why: "unsure" });
  };
  for (const [i, leg] of legs.entries()) {
    const answer = answers[i]!;
    // After a turn its own mark first: that is how a screw is learned.
    if (last?.kind === "turn" && last.element === answer.element) {
      // Where the far mark is lost the near one tells what the first turn of a screw did.
      const lost = leg.spots.find((s) => wasLost(entries, s));
      const isKnown = state.sensed.has(`${last.element}.${last.screw}`);
      const near = lost && !isKnown ? leg.spots.find((s) => !wasLost(entries, s)) : undefined;
      return step({ kind: "mark", spot: near ?? lost ?? leg.spots.at(-1)!, why: "after-turn" });
    }
    const lost = leg.spots.find(
      (s) => isLost(session, s, leg.index) || (wasLost(entries, s) && isFarOut(state, s) && last?.kind !== "turn"),
    );
    if (lost) {
      // One pulse without a mark may not have fired: nothing is turned after it alone.
      if (isDoubtful(session, leg, lost)) return step({ kind: "mark", spot: lost, why: "no-mark" });
      const turn = searchTurn(session, leg, lost);
      return turn ? step(turn, [turn]) : step({ kind: "seat", element: answer.element, apart: answer.apart, isLost: true });
    }
    const missing = leg.spots.find((s) => !newest.has(spotId(s)) || wasLost(entries, s));
    if (missing) return step({ kind: "mark", spot: missing, why: "missing" });
    const gone = leg.spots.find((s) => outdated.has(spotId(s)));
    if (gone) return step({ kind: "mark", spot: gone, why: "opened" });
    const spread = spreadOfLeg(state, leg);
    const mayTell = readsOf(session, leg) < MOST_READS;
    if (answer.status === "unknown" && mayTell) return unsure(leg);
    const isOff = answer.apartMm > answer.toleranceMm;
    const closeCall = isOff && answer.apartMm < answer.toleranceMm + CLOSE_CALL_MM;
    if (closeCall && mayTell && spread > READ_AGAIN_SD_MM.off) return unsure(leg);
    const doubtful = !isOff && answer.apartMm + SURE_SPREADS * spread > answer.toleranceMm + CLOSE_CALL_MM;
    if (leg.aim === "parallel" && doubtful && mayTell && spread > READ_AGAIN_SD_MM.good) return unsure(leg);
    // What the marks are too coarse to tell is not turned after.
    const isTold = answer.apartMm > answer.toleranceMm + (mayTell ? 0 : spread);
    const tooFar = leg.aim === "parallel" ? isOff && isTold : outside.some((o) => o.station.id === answer.endsAt);
    if (tooFar && leg.screws.length > 0) {
      const turns = turnsAhead(state, leg);
      if (turns[0]) return step(turns[0], turns);
    } else if (tooFar && leg.aim === "parallel") return step({ kind: "seat", element: answer.element, apart: answer.apart });
    // Every mark of its station once more, since something was turned before it.
    const stale = spotsOf(path).find((s) => s.at === answer.endsAt && !isFresh(s, leg.index));
    if (stale) {
      if (isLost(session, stale, leg.index)) {
        const turn = searchTurn(session, leg, stale);
        if (turn) return step(turn, [turn]);
      }
      return step({ kind: "mark", spot: stale, why: newest.has(spotId(stale)) ? "last-look" : "missing" });
    }
    const out = outside.find((o) => o.station.id === answer.endsAt);
    if (out) return step({ kind: "shift", station: out.station.id, shift: shiftFor(path, leg.index, out.mark) });
  }
  const isVague = legs.some(
    (leg) =>
      leg.aim === "parallel" &&
      leg.screws.length > 0 &&
      spreadOfLeg(state, leg) > COARSE_SD_MM &&
      within(state, leg, TODAY_MM) < TODAY_SURE,
  );
  return step({ kind: isVague ? "vague" : "good" });
}

/** Marks of a leg since anything at or before it was moved. */
function readsOf({ path, entries }: AimSession, leg: Leg): number {
  const ids = new Set(leg.spots.map(spotId));
  return entries.slice(lastMoveBefore(path, entries, leg.index) + 1).filter((e) => e.kind === "mark" && ids.has(spotId(e.spot))).length;
}

/** Whether the newest word on a spot, whenever, is that no mark came there. */
function wasLost(entries: readonly AimEvent[], spot: Spot): boolean {
  const id = spotId(spot);
  return entries.findLast((e) => (e.kind === "mark" || e.kind === "miss") && spotId(e.spot) === id)?.kind === "miss";
}

const spreadOfLeg = (state: AimState, leg: Leg) => Math.max(spreadOf(state, leg.right).sd, spreadOf(state, leg.up).sd);

/** The spot of a leg whose mark is known least. */
function vaguest(state: AimState, leg: Leg): Spot {
  const spread = (spot: Spot) => {
    const { right, up } = expectedAt(state, spot);
    return Math.hypot(right.sd, up.sd);
  };
  return leg.spots.reduce((worst, spot) => (spread(spot) > spread(worst) ? spot : worst));
}

interface Outside {
  readonly station: AimStation;
  readonly mark: Across;
}

/** Stations whose marks were made and whose common place lies outside their middle half. */
function outsideOf({ state, path, entries }: AimSession): Outside[] {
  const newest = newestMarks(entries);
  return path.stations.flatMap((station) => {
    if (station.id === WORK) return [];
    const spots = spotsOf(path).filter((s) => s.at === station.id && newest.has(spotId(s)));
    if (spots.length === 0) return [];
    const marks = spots.map((s) => expectedAt(state, s));
    const mark = {
      right: marks.reduce((sum, m) => sum + m.right.mean, 0) / marks.length,
      up: marks.reduce((sum, m) => sum + m.up.mean, 0) / marks.length,
    };
    return inMiddleHalf(station, mark) ? [] : [{ station, mark }];
  });
}

/** The shift that brings a common mark to the middle: heights by the tube or the mount, sideways by the mirror before it on its slots. */
function shiftFor(path: AimPath, index: number, mark: Across): Shift {
  const element = path.elements[index]!;
  if (!element.map || !element.inPlane) return { of: "tube", mm: { right: -mark.right, up: -mark.up } };
  const other = element.inPlane === "right" ? "up" : "right";
  if (Math.abs(mark[element.inPlane]) >= Math.abs(mark[other])) return { of: "slide", element: element.id, mm: -mark[element.inPlane] };
  return { of: "mount", station: element.endsAt, mm: { right: 0, up: 0, [other]: mark[other] } };
}

/** Turns that undo everything since the moment at which the element turned last stood best. */
function backTurns({ path, entries, moments }: AimSession): { element: string; screw: KnownScrew["screw"]; turns: number }[] {
  const lastTurn = entries.findLast((e) => e.kind === "turn");
  if (lastTurn?.kind !== "turn") return [];
  const seen = new Set<string>();
  let best: { at: number; standing: number } | undefined;
  // No turn leads back to how it stood before a mirror was out.
  const lastOut = entries.findLastIndex((e) => e.kind === "opened" && !isOfHead(path, e.element));
  for (const [i, entry] of entries.entries()) {
    if (entry.kind !== "mark" || i < lastOut) continue;
    seen.add(spotId(entry.spot));
    const state = moments[i]!.state;
    const leg = legsOf(state).find((l) => state.path.elements[l.index]!.id === lastTurn.element);
    const answer = leg && legAnswer(state, leg);
    if (!leg || !answer || answer.status === "unknown" || !leg.spots.every((s) => seen.has(spotId(s)))) continue;
    if (!best || answer.apartMm < best.standing) best = { at: i, standing: answer.apartMm };
  }
  if (!best) return [];
  const since = new Map<string, { element: string; screw: KnownScrew["screw"]; turns: number }>();
  for (const entry of entries.slice(best.at + 1)) {
    if (entry.kind !== "turn") continue;
    const key = `${entry.element}.${entry.screw}`;
    since.set(key, { element: entry.element, screw: entry.screw, turns: (since.get(key)?.turns ?? 0) - entry.turns });
  }
  return [...since.values()].filter((t) => Math.abs(t.turns) >= FINEST_TURN / 2).reverse();
}

/** The newest marks that no longer hold, by their spots: something the beam comes from, or the mark was seen through, was out since they were made. */
export function outdatedMarks({ path, entries }: AimSession): Set<string> {
  const u = unknownsOf(path);
  const outdated = new Set<string>();
  for (const [id, { entry, spot }] of newestMarks(entries)) {
    const { right, up } = rowsAt(path, spot);
    const comesFrom = (element: string) => {
      if (isOfHead(path, element)) return spot.at === "nozzle";
      const at = u.turn(path.elements.findIndex((e) => e.id === element));
      return [right, up].some((row) => row[at] !== 0 || row[at + 1] !== 0);
    };
    if (entries.slice(entry + 1).some((e) => e.kind === "opened" && comesFrom(e.element))) outdated.add(id);
  }
  return outdated;
}

/** Root mean square of what the marks made since the last turn leave of the fit, mm. */
function residualOf({ state, entries }: AimSession): number | undefined {
  const from = entries.findLastIndex((e) => e.kind === "turn" || e.kind === "shift" || e.kind === "opened");
  const fresh = [...newestMarks(entries).values()].filter((m) => m.entry > from);
  if (fresh.length === 0) return undefined;
  const squares = fresh.map(({ spot, mark }) => {
    const { right, up } = expectedAt(state, spot);
    return (mark.right - right.mean) ** 2 + (mark.up - up.mean) ** 2;
  });
  return Math.sqrt(squares.reduce((a, b) => a + b, 0) / (2 * squares.length));
}

/** Turns of one screw for a rotation of its mirror in mrad, before they are rounded to what a hand makes. */
export function turnsFor(mount: Parameters<typeof rotationPerTurnMrad>[0], rotationMrad: number): number {
  return rotationMrad / rotationPerTurnMrad(mount);
}
