/** Why a machine must not be fired now: it is apart, or an optic that the beam passes is broken. Every place that leads to a cut asks this. */
import { brokenWord, stopsUse } from "#core/rounds";
import { theStation } from "../words";
import type { Gathered } from "./gather";

export interface Broken {
  readonly station: string;
  /** "the lens is damaged". */
  readonly words: string;
}

/** An optic last graded so that the beam must not be used: damaged, or spots that stayed on the exit window. */
export function brokenOf(g: Pick<Gathered, "trade" | "grades">): Broken | undefined {
  for (const station of g.trade.layout.stations) {
    const given = g.grades.get(station.id);
    if (!given || !stopsUse(station.id, given.phase, given.grade)) continue;
    return {
      station: station.id,
      words: `${theStation(g.trade.layout.names[station.id] ?? station.id)} is ${brokenWord(given.grade)}`,
    };
  }
  return undefined;
}

export interface Stop {
  /** "the lens is damaged". */
  readonly what: string;
  readonly until: string;
}

/** What speaks against firing; undefined when nothing does. */
export function stopOf(g: Pick<Gathered, "trade" | "grades" | "openRound">): Stop | undefined {
  if (g.openRound?.apart) return { what: "the machine is apart", until: "Finish that round first." };
  const broken = brokenOf(g);
  return broken && { what: broken.words, until: "Nothing is fired before another is in." };
}

export function stopWords(g: Pick<Gathered, "trade" | "grades" | "openRound">): string | undefined {
  const stop = stopOf(g);
  return stop && `Do not fire: ${stop.what}. ${stop.until}`;
}
