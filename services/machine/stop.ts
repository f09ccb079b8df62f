/**
 * May it be fired, and as it stands? A machine is apart, a part is out or broken, something that protects it was seen to fail, or its
 * power is turned down for an alignment. Every place that leads to a cut asks here, and nowhere else.
 */
import { allOf, brokenWord, stopsUse } from "#core/rounds";
import { theStation } from "../words";
import type { Gathered } from "./gathered";

type Known = Pick<Gathered, "trade" | "grades">;

export interface Broken {
  readonly station: string;
  /** "the lens is damaged". */
  readonly words: string;
  readonly sinceMs: number;
}

/** A part last seen so that the beam must not be used: damaged, or spots that stayed on the exit window. */
export function brokenOf(g: Known): Broken | undefined {
  for (const station of [...g.trade.layout.stations.map((s) => s.id), ...g.trade.layout.systems]) {
    const given = g.grades.get(station);
    if (!given || !stopsUse(station, given.phase, given.grade)) continue;
    const name = theStation(g.trade.layout.names[station] ?? station);
    return { station, words: given.seen ? `${name}: ${given.seen}` : `${name} is ${brokenWord(given.grade)}`, sinceMs: given.atMs };
  }
  return undefined;
}

export interface Stop {
  readonly because: "apart" | "out" | "broken" | "unsafe" | "turned-down";
  /** "the lens is damaged". */
  readonly what: string;
  readonly until: string;
  /** Since when: what was measured before it stands. */
  readonly sinceMs: number;
  /** The part it is about. */
  readonly station?: string;
}

type State = Known & Pick<Gathered, "openRound" | "out">;

/** What speaks against firing at all; undefined when nothing does. */
export function stopOf(g: State): Stop | undefined {
  if (g.openRound?.apart)
    return { because: "apart", what: "the machine is apart", until: "Finish that round first.", sinceMs: g.openRound.startedMs };
  return stopBesidesRound(g);
}

/** The same, whatever round is open. */
export function stopBesidesRound(g: Known & Pick<Gathered, "out">): Stop | undefined {
  const [out] = g.out;
  if (out) {
    const [station, sinceMs] = out;
    const name = theStation(g.trade.layout.names[station] ?? station);
    return { because: "out", what: `${name} is out of the machine`, until: "Do not fire until a new one is fitted.", sinceMs, station };
  }
  const broken = brokenOf(g);
  if (broken) {
    const { station, words, sinceMs } = broken;
    return { because: "broken", what: words, until: "Do not fire until a new one is fitted.", sinceMs, station };
  }
  for (const [station, entry] of g.grades) {
    const given = allOf(entry).find((x) => x.stops);
    if (!given) continue;
    const name = theStation(g.trade.layout.names[station] ?? station);
    return {
      because: "unsafe",
      what: `${name}: ${given.seen ?? "seen to fail"}`,
      until: "Do not fire until it was put right and inspected again.",
      sinceMs: given.atMs,
      station,
    };
  }
  return undefined;
}

/** What speaks against a cut as the machine stands: all that speaks against firing, and power that is turned down for test pulses. */
export function cutStopOf(g: State & Pick<Gathered, "turnedDownMs">): Stop | undefined {
  const stop = stopOf(g);
  if (stop || g.turnedDownMs === undefined) return stop;
  return {
    because: "turned-down",
    what: "the power is turned down for the alignment",
    until: "Put the power limit back first.",
    sinceMs: g.turnedDownMs,
  };
}

export function stopWords(g: State): string | undefined {
  const stop = stopOf(g);
  return stop && `Do not fire: ${stop.what}. ${stop.until}`;
}
