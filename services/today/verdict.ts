/** The sentence that Today opens with: the answer first, then what it rests on. */

import { Z90 } from "#core/normal";
import { isOptic } from "#core/rounds";
import { lastReplacedMs } from "#core/schedule";
import { type Condition, lossPoints, type Part } from "#core/wear";
import type { Gathered } from "../machine/gathered";
import { lossOf } from "../machine/light";
import type { Spare } from "../machine/spare";
import { lostWords, powerWords, rangeWords, stateWords, type Telling, tellingOf } from "../machine/stateWords";
import { brokenOf, cutStopOf, type Stop } from "../machine/stop";
import { replacementOf, unmendedOf } from "../machine/unmended";
import { withUnit } from "../units";
import { habitDue } from "../upkeep/habits";
import { chance, MORE_WORDS, number, sinceDay, theStation } from "../words";

export interface Verdict {
  readonly headline: string;
  /** What to do about it, on a line of its own; empty when the headline says it all. */
  readonly next: string;
  readonly lead: string;
  /** The one reading that would say most, where something is in question. */
  readonly tell?: Telling | undefined;
  /** The sum behind it, line by line; empty when there is none yet. */
  readonly sum: readonly { readonly term: string; readonly text: string }[];
}

/** What was changed since the baseline, so that "of best" no longer means this machine; undefined when nothing was. */
function changedSince(g: Gathered, baselineMs: number): string | undefined {
  const newTube = g.log.kinds.hours.findLast((e) => e.payload.because === "tube-changed");
  if (newTube && newTube.atMs > baselineMs) return "the tube";
  const [newest] = g.trade.layout.stations
    .map((s) => ({ id: s.id, atMs: lastReplacedMs(g.log, s.id) ?? 0 }))
    .filter((r) => r.atMs > baselineMs)
    .sort((a, b) => b.atMs - a.atMs);
  return newest && theStation(g.trade.layout.names[newest.id] ?? newest.id);
}

const outWords = (g: Gathered): string =>
  `${[...g.out.keys()].map((id) => theStation(g.trade.layout.names[id] ?? id)).join(" and ")} ${g.out.size === 1 ? "is" : "are"} out`;

/** What is said while nothing may be cut, with what lifts it. */
function stopped(g: Gathered, stop: Stop): Verdict {
  const plain = { next: stop.until, sum: [] };
  switch (stop.because) {
    case "apart":
      return {
        ...plain,
        headline: `${g.machine.name} is apart: do not fire.`,
        next: "",
        lead:
          g.out.size > 0
            ? `“${g.openRound?.title}” is open, and ${outWords(g)}. End it as it stands, or go on once a new one is in.`
            : `“${g.openRound?.title}” is open. Finish it with its final test to see what it gained.`,
      };
    case "out":
      return {
        ...plain,
        headline: `Do not fire: ${stop.what}.`,
        next: "Fit the new one first.",
        lead: "Leave the machine unplugged, with the note on its lid. This warning ends when a round or the log says that a part was put in.",
      };
    case "broken": {
      const station = brokenOf(g)?.station ?? "";
      return {
        ...plain,
        headline: `Do not fire: ${stop.what}.`,
        next:
          replacementOf(g, station) !== undefined
            ? "Fit a spare first."
            : station === "window" || station === "tube"
              ? "Ask the tube's supplier."
              : "Ask the maker or the supplier.",
        lead: isOptic(station)
          ? "Never blow at, wipe or vacuum a cracked or burnt optic: put a mask and gloves on, pick it up with a damp tissue, put it into a sealed bag. This warning ends when you log the new part."
          : "This warning ends when you log the new part.",
      };
    }
    case "unsafe":
      return {
        ...plain,
        headline: `Do not fire: ${stop.what}.`,
        next: "Put it right, then inspect it again.",
        lead: "Seen in a round and not seen to be good since. The round below cleans what may be the cause and asks again.",
      };
    case "turned-down":
      return {
        ...plain,
        headline: "Do not cut yet: the power is turned down.",
        next: stop.until,
        lead: "It was turned down for test pulses. What is cut now would look like a dying tube.",
      };
    default:
      return stop.because satisfies never;
  }
}

export function verdict(g: Gathered, caseWords: string | undefined, proven?: string): Verdict {
  const c = g.condition;
  const stop = cutStopOf(g);
  if (stop) return stopped(g, stop);
  if (!c || !g.baseline) {
    const later =
      "Once it cuts well, cut a ladder and make it the baseline: until then Clenor counts hours and smoke, but cannot say how strong the beam is.";
    if (caseWords !== undefined) return { headline: caseWords, next: "", lead: later, sum: [] };
    return {
      headline: proven ?? "No baseline yet: cut a ladder while the machine is good.",
      next: proven ? dueWords(g) : "",
      lead: `${proven ? "How much it has to spare is not measured yet." : "“% of best” always means against your baseline."} Six minutes and one scrap of sheet: cut a ladder and make it the baseline.`,
      sum: [],
    };
  }
  const { percent, more, dirt, tube, other } = lossPoints(c);
  const state = stateWords(g);
  const changed = changedSince(g, g.baseline.atMs);
  const stale = changed
    ? ` ${changed.charAt(0).toUpperCase()}${changed.slice(1)} was changed since the baseline: cut a new baseline ladder.`
    : "";
  const minus = (points: number, part: Part) =>
    `${points > 0 ? "−" : ""}${points} % (between ${pointsOf(c, part, -1)} and ${pointsOf(c, part, 1)} %)`;
  return {
    headline: state?.headline ?? `${rangeWords(c)}.`,
    next: caseWords ?? dueWords(g),
    lead: `${state ? [state.more, powerWords(c)].filter(Boolean).join(" ") : unknownWords(g)} ${lostWords(c)}${stale}${c.leads === "dirt" ? dirtiest(g) : ""}`,
    tell: cutStopOf(g) || g.openRound ? undefined : tellingOf(g),
    sum: [
      { term: "Best", text: `your baseline, ${sinceDay(g.baseline.atMs, g.nowMs)} = 100 %` },
      ...(state ? [{ term: "Usual cut", text: usualWords(state.weakest) }] : []),
      { term: "Readings since", text: `${c.readings}: ladders, each good to about 7 %, and cuts, which only say enough or not` },
      {
        term: "Dirt",
        text: `${minus(dirt, "dirt")}: smoke since each optic was last cleaned, with what cleans leave, bent towards what the readings say`,
      },
      { term: "Tube", text: `${minus(tube, "tube")}: tube hours since the baseline, typical tube, bent towards what the readings say` },
      { term: "Neither", text: `${minus(other, "other")}: alignment, focus, damage: what the readings show beyond both` },
      ...(more > 0 ? [{ term: "More than best", text: `+${more} %: ${MORE_WORDS}` }] : []),
      {
        term: "Together",
        text: `100 ${more > 0 ? `+ ${more}` : [dirt, tube, other].map((p) => `− ${p}`).join(" ")} = ${percent} %, 90 % range ${Math.round(100 * c.low)} to ${Math.round(100 * c.high)} %`,
      },
    ],
  };
}

/** What is missing before the usual cuts can be spoken of. */
const unknownWords = (g: Gathered): string =>
  g.materials.some((m) => !m.hidden && m.usualSpeedMmPerS !== undefined)
    ? "No usual cut has a baseline ladder yet: cut a ladder of what you cut most, and this says whether it still drops."
    : "Say in the Workshop at what speed you usually cut, and this says whether it still drops.";

/** End of the 90 % range of a part, in points of best. */
const pointsOf = (c: Condition, part: Part, side: 1 | -1): number =>
  Math.max(0, Math.round(100 * (1 - Math.exp(-Math.max(0, c.parts[part].mean + side * Z90 * c.parts[part].sd)))));

/** How the weakest of the usual cuts was weighed. */
const usualWords = ({ name, speedMmPerS, setPercent, ln, sd, drops }: Spare): string =>
  `${name} at ${withUnit(speedMmPerS, "mm/s")}, ${number(setPercent, 0)} %: half would drop at ${withUnit(speedMmPerS * Math.exp(ln), "mm/s")} today (between ${number(speedMmPerS * Math.exp(ln - Z90 * sd))} and ${number(speedMmPerS * Math.exp(ln + Z90 * sd))}); that it still drops: ${chance(drops)}`;

/** Where most of the dirt is, by what was seen and by the smoke since; no word of it while a round is at it. */
function dirtiest(g: Gathered): string {
  const [worst] = g.trade.layout.stations.map((s) => ({ id: s.id, loss: lossOf(g, s) })).sort((a, b) => b.loss - a.loss);
  if (worst === undefined || worst.loss < 0.01 || g.openRound !== undefined) return "";
  return ` Most of the dirt should be on ${theStation(g.trade.layout.names[worst.id] ?? worst.id)}.`;
}

/** What to do before the first job: the part that is due, whatever else is due, or a first look where nobody ever graded anything. */
function dueWords(g: Gathered): string {
  const due = g.due.filter((d) => d.state === "due" && !d.byOthers);
  const bad = unmendedOf(g)[0];
  if (bad) return `${bad.name} still needs work: ${bad.word}.`;
  const onPath = due.find((d) => g.trade.layout.stations.some((s) => s.id === d.id));
  if (onPath) return `Inspect ${theStation(g.trade.layout.names[onPath.station] ?? onPath.station)} before the first job.`;
  if (g.log.kinds.grade.length === 0) return "Nothing here was inspected yet: begin with a first round.";
  if (due.length > 0) return due.length === 1 ? "One thing is due." : `${due.length} things are due.`;
  const habit = habitDue(g);
  if (habit)
    return `${habit.name === "Lens" ? "Inspect the lens" : habit.name} before the ${habit.when === "each-job" ? "next" : "first"} job.`;
  return "Nothing is due before the first job.";
}
