/** What the machine is worth today, in words: about the owner's own cuts first, then the share of best with its range. Every place says it with these. */
import { DAY_MS } from "#core/time";
import { type Condition, lossPoints, type Part, type PowerWord, wordsOf } from "#core/wear";
import { withUnit } from "../units";
import { chance } from "../words";
import type { Gathered } from "./gathered";
import { type Spare, type State, spareOf, stateOf } from "./spare";
import { slowestSafe } from "./usual";

/** "at 14 mm/s in 2 passes". */
const atWords = (s: Spare): string => `at ${withUnit(s.speedMmPerS, "mm/s")}${s.passes > 1 ? ` in ${s.passes} passes` : ""}`;

export interface StateWords {
  readonly state: State;
  /** A whole sentence, with its full stop. */
  readonly headline: string;
  /** What else there is to say of it, as a sentence; empty where the headline says it all. */
  readonly more: string;
  readonly weakest: Spare;
}

/** Whether the weakest of the usual cuts still drops; undefined where no ladder tells of any. */
export function stateWords(g: Gathered): StateWords | undefined {
  const [weakest] = spareOf(g);
  if (!weakest) return undefined;
  const by = stateOf(weakest);
  const tried = lastTry(g, weakest);
  // The last try is never contradicted: it stands beside what the readings say.
  if ((tried === "failed" && by === "fit") || (tried === "dropped" && by === "weak")) return againstLastTry(weakest, tried);
  const inCase = g.openCases.some((c) => c.symptom === "power");
  const what = `${weakest.name}`;
  switch (by) {
    case "fit": {
      const drops = `${what} still drops ${atWords(weakest)}, with about ${Math.round(100 * (1 - Math.exp(-weakest.ln)))} % to spare.`;
      // Nothing is called fit while a case says that it does not cut.
      return { state: by, weakest, more: "", headline: inCase ? `By its readings, ${drops}` : `Fit to cut: ${drops}` };
    }
    case "edge":
      return {
        state: by,
        weakest,
        headline: `On the edge: ${what} may not drop ${atWords(weakest)}.`,
        more: `Chance that it does: ${chance(weakest.drops)}.`,
      };
    case "weak":
      return { state: by, weakest, headline: `Weak: ${what} probably no longer drops ${atWords(weakest)}.`, more: insteadWords(weakest) };
    default:
      return by satisfies never;
  }
}

const againstLastTry = (weakest: Spare, tried: "dropped" | "failed"): StateWords => ({
  state: "edge",
  weakest,
  headline: `On the edge: ${weakest.name} ${tried === "failed" ? "did not drop" : "dropped"} ${atWords(weakest)} at the last try.`,
  more: tried === "failed" ? "Its readings say that it should." : "Its readings say that it should not.",
});

/** How the last cut that speaks of a usual one went, where no ladder was cut since: one as hard that dropped, or one as easy that did not. */
function lastTry(g: Gathered, s: Spare): "dropped" | "failed" | undefined {
  const ladderMs = g.log.kinds.ladder.findLast((e) => e.payload.materialId === s.material.id)?.atMs ?? 0;
  const last = g.log.kinds.cut.findLast((e) => e.payload.materialId === s.material.id);
  if (!last || last.atMs < ladderMs) return undefined;
  const { speedMmPerS, setPercent, passes = 1, result } = last.payload;
  const hardness = (speedMmPerS * s.setPercent * s.passes) / (s.speedMmPerS * setPercent * passes);
  if (result === "through") return hardness > 1 - SAME ? "dropped" : undefined;
  return hardness < 1 + SAME ? "failed" : undefined;
}
/** As hard to within this share. */
const SAME = 0.01;

/** The speed at which it would. */
function insteadWords(s: Spare): string {
  const speed = s.speedMmPerS * Math.exp(s.ln - 1.3 * s.sd);
  return speed < slowestSafe(s.material) ? "" : `About ${withUnit(speed, "mm/s", speed < 10 ? 1 : 0)} should still drop.`;
}

const POWER_WORDS: Readonly<Record<PowerWord, string>> = {
  strong: "as strong as at its best, or nearly",
  weaker: "weaker than at its best",
  weak: "much weaker than at its best",
};
const BETWEEN: Readonly<Record<PowerWord, string>> = { strong: "nearly as strong as at its best", weaker: "weaker", weak: "much weaker" };

/** "About 87 % of best (between 81 and 93 %): weaker than at its best." */
export function powerWords(c: Condition): string {
  const [first, second] = wordsOf(c);
  const word = first === undefined ? "" : second === undefined ? POWER_WORDS[first] : `between ${BETWEEN[first]} and ${BETWEEN[second]}`;
  return `${rangeWords(c)}: ${word}.`;
}

/** The baseline itself is what best means: there is no range to it. */
const NO_RANGE = 0.005;
export const rangeWords = (c: Pick<Condition, "ratio" | "low" | "high">): string =>
  c.high - c.low < NO_RANGE
    ? `At ${Math.round(100 * c.ratio)} % of best`
    : `About ${Math.round(100 * c.ratio)} % of best (between ${Math.round(100 * c.low)} and ${Math.round(100 * c.high)} %)`;

const PART_WORDS: Readonly<Record<Part, string>> = {
  dirt: "Most of what is lost is dirt and comes back with a clean.",
  tube: "Most of what is lost is the tube's wear and does not come back.",
  other: "Most of what is lost is alignment, focus or damage: a clean does not bring it back.",
};
/** So little lost is not worth asking after (points). */
const LITTLE = 4;

/** What it is lost to, where that is sure enough to be said; else that it is not. */
export function lostWords(c: Condition): string {
  const { percent, more } = lossPoints(c);
  if (more > 0) return "That is more than your baseline.";
  if (100 - percent < LITTLE) return "Hardly anything is lost.";
  return c.leads ? PART_WORDS[c.leads] : "Dirt, tube or alignment: the readings cannot tell yet which of them it is.";
}

export interface Telling {
  readonly label: string;
  readonly to: string;
}

/** A ladder older than this says little of today. */
const OLD_MS = 10 * DAY_MS;

/** The one reading that would say most, with its minutes; undefined where nothing is in question. */
export function tellingOf(g: Gathered): Telling | undefined {
  const c = g.condition;
  if (!c) return undefined;
  const state = stateWords(g);
  const last = g.log.kinds.ladder.findLast((e) => e.atMs <= g.nowMs);
  const isVague = wordsOf(c).length > 1 || state === undefined || state.state === "edge";
  if (isVague && (!last || g.nowMs - last.atMs > OLD_MS)) return { label: "Cut a ladder to be sure (3 min)", to: "log?kind=ladder" };
  const { percent } = lossPoints(c);
  if (c.leads !== undefined || 100 - percent < LITTLE) return undefined;
  const hasMeter = g.log.kinds.power.length > 0 || g.log.kinds.probe.length > 0;
  if (hasMeter) return { label: "Measure watts at the tube to tell (5 min)", to: "log?kind=power" };
  return { label: "Clean between two ladders to tell (25 min)", to: "round" };
}
