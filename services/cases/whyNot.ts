/** Why it is not what an owner guesses first: the tube, the supply, the lens; what speaks against each, and what would tell. */
import type { TraceAnswer } from "#core/trace";
import type { Gathered } from "../machine/gathered";
import { chance, theStation } from "../words";
import { checkText } from "./words";

/** What is guessed first, by its station or system. */
const GUESSED = ["tube", "supply", "lens"] as const;
/** So much for or against is told of each. */
const TOLD = 4;

/**
 * Each guess that the answer does not lead with: its chance, what was found that speaks against it or for it, strongest first, and the
 * shortest check that would still tell. `words` says a piece of evidence.
 */
export function whyNot(
  g: Gathered,
  answer: TraceAnswer,
  relevant: TraceAnswer["faults"],
  words: (e: TraceAnswer["evidence"][number]) => { readonly words: string; readonly weight: string },
) {
  const stationOf = (fault: string) => g.trade.model.faults.find((f) => f.id === fault)?.station;
  const leading = relevant[0] && stationOf(relevant[0].id);
  return GUESSED.filter((id) => id !== leading).flatMap((station) => {
    const here = relevant.filter((f) => stationOf(f.id) === station);
    if (here.length === 0) return [];
    const any = 1 - here.reduce((left, f) => left * (1 - f.probability), 1);
    // Of each answer what it says most of anything there.
    const said = answer.evidence.filter((e) => here.some((f) => f.id === e.fault));
    const evidence = said
      .filter((e) => said.every((x) => x.check !== e.check || x.before !== e.before || Math.abs(x.decibans) <= Math.abs(e.decibans)))
      .sort((a, b) => a.decibans - b.decibans);
    const shows = answer.nextChecks
      .filter((c) => here.some((f) => g.trade.model.faults.find((x) => x.id === f.id)?.effects[c.check] !== undefined))
      .sort((p, q) => p.minutes - q.minutes)[0];
    return {
      id: station,
      name: theStation(g.trade.layout.names[station] ?? station),
      chance: chance(any),
      against: evidence
        .filter((e) => e.decibans < 0)
        .slice(0, TOLD)
        .map(words),
      for: evidence
        .filter((e) => e.decibans > 0)
        .reverse()
        .slice(0, TOLD)
        .map(words),
      wouldTell: shows && { id: shows.check, title: checkText(g.trade, shows.check).title },
    };
  });
}
