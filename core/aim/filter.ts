/** What is known of a path's aim at any moment: a Gaussian over its unknowns and its screws, brought forward by marks and turns. */
import type { Across } from "./directions";
import { type Screw, type ScrewPlace, screwsOf } from "./mounts";
import type { AimPath, Spot } from "./path";
import { type Rows, rowsAt, unknownsOf } from "./reach";

/** Reading error of a mark that was drawn or typed, mm, until the marks themselves tell. */
export const MARK_SD_MM = 0.3;
/** What a hand is off by when it turns a screw, turns; and what play in the thread leaves of each. */
const HAND_SD_TURNS = 0.015;

/** Spread before anything is known. Places in mm, angles in mrad. */
const PRIOR = { tubePlace: 1.5, tubeAngle: 4, turn: 10, shift: 1, middle: 1, lens: 0.5, nozzle: 0.2, work: 20 } as const;
/** How far a screw's effect may lie beside the axis its place suggests, and how well its size is known once its sense is. */
const ASKEW = 0.25;
const SIZE = 0.2;
/** A sense is known when the effect is this many spreads from nothing. */
const SENSE = 2.5;

/** What one turn of a screw clockwise does to the beam, mrad in the frame of the leg after it, with its covariance. */
export interface Gain {
  readonly mean: Across;
  readonly cov: readonly [rightRight: number, rightUp: number, upUp: number];
}

/** Effects learned on earlier days, by screw: "mirror-1.A". */
export type ScrewMemory = Readonly<Record<string, Gain>>;

export const screwKey = (element: string, screw: Screw): string => `${element}.${screw}`;

export interface KnownScrew extends ScrewPlace {
  readonly element: number;
  readonly key: string;
  /** Position of its effect in the state. */
  readonly index: number;
}

export interface AimState {
  readonly path: AimPath;
  readonly screws: readonly KnownScrew[];
  readonly mean: Float64Array;
  /** Covariance, row by row. */
  readonly cov: Float64Array;
  /** Screws whose sense is known. */
  readonly sensed: Set<string>;
}

/** All that is known before the first mark. */
export function startOf(path: AimPath, memory: ScrewMemory = {}): AimState {
  const u = unknownsOf(path);
  let index = u.count;
  const screws = path.elements.flatMap((e, element) =>
    e.mount && e.inPlane
      ? screwsOf(e.mount, e.inPlane).map((place): KnownScrew => {
          const known = { ...place, element, key: screwKey(e.id, place.screw), index };
          index += 2;
          return known;
        })
      : [],
  );
  const n = index;
  const state: AimState = { path, screws, mean: new Float64Array(n), cov: new Float64Array(n * n), sensed: new Set() };
  const spread = (i: number, sd: number, width = 2) => {
    for (let k = i; k < i + width; k++) state.cov[k * n + k] = sd * sd;
  };
  spread(u.tubePlace, PRIOR.tubePlace);
  for (const [i, e] of path.elements.entries()) {
    spread(u.turn(i), e.map ? PRIOR.turn : PRIOR.tubeAngle);
    if (e.map) spread(u.shift(i), PRIOR.shift, 1);
  }
  for (const s of path.stations) {
    const role = s.id === "lens" || s.id === "nozzle" || s.id === "work" ? s.id : "middle";
    spread(u.middle(s.id), PRIOR[role]);
  }
  for (const screw of screws) learn(state, screw, memory[screw.key]);
  return state;
}

/** Sets what is known of a screw's effect: what was learned, or a size without a sense. */
function learn(state: AimState, screw: KnownScrew, gain: Gain | undefined): void {
  const n = state.mean.length;
  const i = screw.index;
  for (let k = 0; k < n; k++) {
    state.cov[i * n + k] = state.cov[k * n + i] = 0;
    state.cov[(i + 1) * n + k] = state.cov[k * n + i + 1] = 0;
  }
  const { right, up } = screw.expected;
  const size = right * right + up * up;
  const across = ASKEW * ASKEW * size;
  // Along its own axis anything from one sense to the other, across it little.
  const [rr, ru, uu] = gain?.cov ?? [
    right * right + (across * up * up) / size,
    right * up - (across * right * up) / size,
    up * up + (across * right * right) / size,
  ];
  state.cov[i * n + i] = rr;
  state.cov[i * n + i + 1] = state.cov[(i + 1) * n + i] = ru;
  state.cov[(i + 1) * n + i + 1] = uu;
  state.mean[i] = gain?.mean.right ?? 0;
  state.mean[i + 1] = gain?.mean.up ?? 0;
  if (gain) state.sensed.add(screw.key);
  else state.sensed.delete(screw.key);
}

/** The state without what was learned of a screw: it contradicted itself, or its mount was changed. */
export function forgotten(state: AimState, screw: KnownScrew): AimState {
  const next = copy(state);
  learn(next, screw, undefined);
  return next;
}

const copy = (state: AimState): AimState => ({
  ...state,
  mean: state.mean.slice(),
  cov: state.cov.slice(),
  sensed: new Set(state.sensed),
});

/** Mean and spread of a row of the state. */
export function spreadOf(state: AimState, row: ArrayLike<number>): { mean: number; sd: number } {
  const n = state.mean.length;
  let mean = 0;
  let variance = 0;
  const used = [];
  for (let i = 0; i < row.length; i++) if (row[i] !== 0) used.push(i);
  for (const i of used) {
    const a = row[i]!;
    mean += a * state.mean[i]!;
    for (const j of used) variance += a * row[j]! * state.cov[i * n + j]!;
  }
  return { mean, sd: Math.sqrt(Math.max(0, variance)) };
}

/** Kalman's update by one number, in place: `row` of the state was read as `value` with an error of `sd`. */
function observe(state: AimState, row: ArrayLike<number>, value: number, sd: number): void {
  const n = state.mean.length;
  const pushed = new Float64Array(n);
  let innovation = value;
  for (let i = 0; i < row.length; i++) {
    const a = row[i]!;
    if (a === 0) continue;
    innovation -= a * state.mean[i]!;
    for (let k = 0; k < n; k++) pushed[k]! += a * state.cov[k * n + i]!;
  }
  let variance = sd * sd;
  for (let i = 0; i < row.length; i++) variance += row[i]! * pushed[i]!;
  for (let i = 0; i < n; i++) {
    const gain = pushed[i]! / variance;
    state.mean[i]! += gain * innovation;
    for (let k = 0; k < n; k++) state.cov[i * n + k]! -= gain * pushed[k]!;
  }
}

/** A row as long as the state, with two numbers of it set. */
function screwRow(state: AimState, screw: KnownScrew, direction: Across): Float64Array {
  const row = new Float64Array(state.mean.length);
  row[screw.index] = direction.right;
  row[screw.index + 1] = direction.up;
  return row;
}

/** Where a screw's sense has become clear its size is as well: thread and arm say it. */
function settleSenses(state: AimState, sense: number = SENSE): void {
  for (const screw of state.screws) {
    if (state.sensed.has(screw.key)) continue;
    const size = Math.hypot(screw.expected.right, screw.expected.up);
    const axis = { right: screw.expected.right / size, up: screw.expected.up / size };
    const row = screwRow(state, screw, axis);
    const { mean, sd } = spreadOf(state, row);
    if (Math.abs(mean) < sense * sd) continue;
    state.sensed.add(screw.key);
    observe(state, row, Math.sign(mean) * size, SIZE * size);
  }
}

/** Expected mark at a spot with its spread, without the reading's own error. */
export function expectedAt(state: AimState, spot: Spot): { right: { mean: number; sd: number }; up: { mean: number; sd: number } } {
  const rows = rowsAt(state.path, spot);
  return { right: spreadOf(state, rows.right), up: spreadOf(state, rows.up) };
}

/** The state after a mark was read at a spot. */
export function marked(state: AimState, spot: Spot, mark: Across, sdMm = MARK_SD_MM): AimState {
  const next = copy(state);
  const rows: Rows = rowsAt(state.path, spot);
  observe(next, rows.right, mark.right, sdMm);
  observe(next, rows.up, mark.up, sdMm);
  settleSenses(next);
  return next;
}

/** A beam that missed a part went by about this much further out than the part reaches, as a share of its half width, give or take. */
const MISSED_BY = 0.6;
const MISSED_SD = 0.5;
/** A miss tells a screw's sense sooner than a mark does: it went the wrong way, or it would be there. */
const MISSED_SENSE = 1;

/** The state after a pulse left no mark at a spot: it went by on a side, as far as that was seen. */
export function missed(state: AimState, spot: Spot, side: "right" | "left" | "up" | "down" | undefined, halfMm: number): AimState {
  if (side === undefined) return state;
  const next = copy(state);
  const rows = rowsAt(state.path, spot);
  const axis = side === "right" || side === "left" ? "right" : "up";
  const sign = side === "right" || side === "up" ? 1 : -1;
  const { mean, sd } = spreadOf(state, rows[axis]);
  // Where it is expected further out than that anyway, nothing new was said.
  if (sign * mean > (1 + MISSED_BY) * halfMm && sd < halfMm) return state;
  observe(next, rows[axis], sign * (1 + MISSED_BY) * halfMm, MISSED_SD * halfMm);
  settleSenses(next, MISSED_SENSE);
  return next;
}

/** How far a beam that went out of sight may be from where one sense of the screw puts it: a share of the way, and mm. */
const GONE_SD = { share: 0.3, mm: 1 } as const;

/**
 * The state after one turn of a screw of unknown sense took a mark out of sight: of the two places it may have gone to, the one that is no
 * place for a mark. The state as it is where both or neither are.
 */
export function goneBy(state: AimState, spot: Spot, before: Across, screw: KnownScrew, turns: number, halfMm: number): AimState {
  if (state.sensed.has(screw.key)) return state;
  const rows = rowsAt(state.path, spot);
  const at = unknownsOf(state.path).turn(screw.element);
  const by = (row: Float64Array) => turns * (row[at]! * screw.expected.right + row[at + 1]! * screw.expected.up);
  const way = { right: by(rows.right), up: by(rows.up) };
  const ends = [1, -1].map((sense) => ({ right: before.right + sense * way.right, up: before.up + sense * way.up }));
  const outside = ends.filter((e) => Math.hypot(e.right, e.up) > halfMm);
  const [end] = outside;
  if (!end || outside.length > 1) return state;
  const next = copy(state);
  const sd = GONE_SD.mm + GONE_SD.share * Math.hypot(way.right, way.up);
  observe(next, rows.right, end.right, sd);
  observe(next, rows.up, end.up, sd);
  settleSenses(next, MISSED_SENSE);
  return next;
}

/** The state after a screw was turned, turns clockwise. */
export function screwTurned(state: AimState, screw: KnownScrew, turns: number): AimState {
  const next = copy(state);
  const n = next.mean.length;
  const u = unknownsOf(state.path);
  for (const axis of [0, 1]) {
    const to = u.turn(screw.element) + axis;
    const from = screw.index + axis;
    next.mean[to]! += turns * next.mean[from]!;
    for (let k = 0; k < n; k++) next.cov[to * n + k]! += turns * next.cov[from * n + k]!;
    for (let k = 0; k < n; k++) next.cov[k * n + to]! += turns * next.cov[k * n + from]!;
    const slip = HAND_SD_TURNS * (axis === 0 ? screw.expected.right : screw.expected.up);
    next.cov[to * n + to]! += slip * slip;
  }
  return next;
}

/** The state after a number of it was moved by a known amount, mm: a mount raised, a tube lowered. */
export function moved(state: AimState, index: number, mm: number, sdMm: number): AimState {
  const next = copy(state);
  next.mean[index]! += mm;
  next.cov[index * next.mean.length + index]! += sdMm * sdMm;
  return next;
}

/** The state after the tube, a mirror or a part of the head was put back in: its place and its turn are as uncertain as before the first mark. */
export function putBack(state: AimState, id: string): AimState {
  const next = copy(state);
  const n = next.mean.length;
  const u = unknownsOf(state.path);
  const element = state.path.elements.findIndex((e) => e.id === id);
  const loosen = (at: number, sd: number, width: number) => {
    for (let k = at; k < at + width; k++) next.cov[k * n + k]! += sd * sd;
  };
  if (element < 0) loosen(u.middle("nozzle"), PRIOR.lens, 2);
  else if (state.path.elements[element]?.map) {
    loosen(u.turn(element), PRIOR.turn, 2);
    loosen(u.shift(element), PRIOR.shift, 1);
  } else {
    loosen(u.turn(element), PRIOR.tubeAngle, 2);
    loosen(u.tubePlace, PRIOR.tubePlace, 2);
  }
  return next;
}

/** What is known of a screw's effect. */
export function gainOf(state: AimState, screw: KnownScrew): Gain {
  const n = state.mean.length;
  const i = screw.index;
  return {
    mean: { right: state.mean[i]!, up: state.mean[i + 1]! },
    cov: [state.cov[i * n + i]!, state.cov[i * n + i + 1]!, state.cov[(i + 1) * n + i + 1]!],
  };
}
