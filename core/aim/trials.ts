/** What one turn of one screw did, read from the mark before and after it; and what is remembered of screws. */
import type { Across } from "./directions";
import { type AimState, type Gain, gainOf, type KnownScrew, type ScrewMemory } from "./filter";
import type { Screw } from "./mounts";
import { type AimPath, type Spot, spotId } from "./path";
import { rowsAt, unknownsOf } from "./reach";
import type { AimEvent } from "./schemas";

/** The mark moved from `before` to `after` by these turns of one screw and nothing else. Effect in mrad of the beam a turn. */
export interface Trial {
  readonly element: string;
  readonly screw: Screw;
  readonly spot: Spot;
  readonly turns: number;
  readonly before: Across;
  readonly after: Across;
  readonly effect: Across;
  /** Number of the entry that is the mark before. */
  readonly since: number;
  /** It contradicts what the screw did before. */
  readonly conflict: boolean;
}

/** Spreads apart from which two trials of a screw contradict each other. */
const APART = 4;

/** The trial that a mark ends: the last mark at the same spot lies before turns of one screw alone. Undefined where there is none. */
export function trialOf(path: AimPath, entries: readonly AimEvent[], markAt: number): Omit<Trial, "conflict"> | undefined {
  const end = entries[markAt];
  if (end?.kind !== "mark") return undefined;
  const between: AimEvent[] = [];
  let since = markAt - 1;
  for (; since >= 0; since--) {
    const entry = entries[since] as AimEvent;
    if (entry.kind === "mark" && spotId(entry.spot) === spotId(end.spot)) break;
    if (entry.kind !== "mark") between.push(entry);
  }
  const start = entries[since];
  const [first] = between;
  if (start?.kind !== "mark" || first?.kind !== "turn") return undefined;
  if (between.some((e) => e.kind !== "turn" || e.element !== first.element || e.screw !== first.screw)) return undefined;
  const turns = between.reduce((sum, e) => sum + (e.kind === "turn" ? e.turns : 0), 0);
  const lever = leverOf(path, first.element, end.spot);
  if (turns === 0 || lever === undefined) return undefined;
  const by = { right: end.mark.right - start.mark.right, up: end.mark.up - start.mark.up };
  return {
    element: first.element,
    screw: first.screw,
    spot: end.spot,
    turns,
    since,
    before: start.mark,
    after: end.mark,
    effect: {
      right: (lever[3] * by.right - lever[1] * by.up) / (lever[4] * turns),
      up: (lever[0] * by.up - lever[2] * by.right) / (lever[4] * turns),
    },
  };
}

/** mm of the mark per mrad of a mirror, as a 2 × 2 map with its determinant; undefined where the mirror does not move that mark. */
function leverOf(path: AimPath, element: string, spot: Spot): [number, number, number, number, number] | undefined {
  const i = path.elements.findIndex((e) => e.id === element);
  const u = unknownsOf(path).turn(i);
  const { right, up } = rowsAt(path, spot);
  const [a, b, c, d] = [right[u]!, right[u + 1]!, up[u]!, up[u + 1]!];
  const determinant = a * d - b * c;
  return Math.abs(determinant) < 1e-12 ? undefined : [a, b, c, d, determinant];
}

/** Whether a trial contradicts what was known of its screw before. */
export function isConflict(state: AimState, screw: KnownScrew, trial: Omit<Trial, "conflict">, sdMm: number): boolean {
  if (!state.sensed.has(screw.key)) return false;
  const lever = leverOf(state.path, trial.element, trial.spot);
  if (!lever) return false;
  const { mean, cov } = gainOf(state, screw);
  const reading = (Math.SQRT2 * sdMm) / (Math.sqrt(Math.abs(lever[4])) * Math.abs(trial.turns));
  return (
    Math.abs(trial.effect.right - mean.right) > APART * Math.hypot(Math.sqrt(cov[0]), reading) ||
    Math.abs(trial.effect.up - mean.up) > APART * Math.hypot(Math.sqrt(cov[2]), reading)
  );
}

/** From one day to the next a screw's effect may have changed by this share of its size: another key, another hand. */
const ANOTHER_DAY = 0.15;

/** What is worth remembering of the screws of a sitting: those whose sense is known. */
export function remembered(state: AimState): ScrewMemory {
  const known = state.screws.filter((s) => state.sensed.has(s.key));
  return Object.fromEntries(
    known.map((s): [string, Gain] => {
      const { mean, cov } = gainOf(state, s);
      const more = (ANOTHER_DAY * Math.hypot(s.expected.right, s.expected.up)) ** 2;
      return [s.key, { mean, cov: [cov[0] + more, cov[1], cov[2] + more] }];
    }),
  );
}
