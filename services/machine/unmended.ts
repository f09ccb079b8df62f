/** What was seen bad and not mended: it stays on Today and goes into every round until somebody mends it or sees it clear. */
import { idAt } from "#core/machine";
import { allOf, BAD, type GivenGrade, gradeWordFor, type Seen } from "#core/rounds";
import { mends } from "#core/schedule";
import { sinceDay } from "../words";
import type { Gathered } from "./gathered";
import { isOwners } from "./plans";
import type { Trade } from "./trade";

export interface Unmended {
  /** Of a system several things may be bad at once. */
  readonly id: string;
  readonly station: string;
  readonly name: string;
  /** What was seen: the grade's word, or the answer that was given. */
  readonly word: string;
  readonly since: string;
  /** Part of a round that cleans it; undefined where there is none. */
  readonly clean: string | undefined;
  /** Repair that puts a new one in; undefined where that is not an owner's. */
  readonly replace: string | undefined;
  /** Past cleaning: a new one, or its supplier. */
  readonly isDone: boolean;
  /** What a trace of it begins with. */
  readonly trace: { readonly check: string; readonly outcome: string } | undefined;
}

/** Grade from which a part is past cleaning: damage always, spots that stayed on a lens or the exit window as well. */
export function isPastCleaning(role: string | undefined, { grade, phase }: GivenGrade): boolean {
  return grade === 4 || (grade === 3 && phase === "as-left" && (role === "lens" || role === "window"));
}

export function replacementOf(g: Pick<Gathered, "trade">, station: string): string | undefined {
  const k = /^mirror-(\d+)$/.exec(station)?.[1];
  const id = k === undefined ? `replace-${station}` : idAt("replace-mirror", k);
  return isOwners(g.trade, id) ? id : undefined;
}

/** The answer of a round that a grade was given as: by its own id; older records have the words it was asked in. */
export function saidOf(trade: Trade, station: string, given: Pick<GivenGrade, "step" | "choice" | "seen">): Seen | undefined {
  const asked = trade.steps.filter((s) => (given.step === undefined ? s.station === station : s.id === given.step));
  return asked.flatMap((s) => s.seen ?? []).find((o) => (given.choice === undefined ? o.label === given.seen : o.id === given.choice));
}

/** The finding an answer of a round stands for, on a machine whose trace knows it. */
export function traceOf(trade: Trade, station: string, given: Pick<GivenGrade, "step" | "choice" | "seen">): Seen["trace"] {
  if (given.seen === undefined && given.choice === undefined) return undefined;
  const trace = saidOf(trade, station, given)?.trace;
  return trace && trade.model.checks.some((c) => c.id === trace.check) ? trace : undefined;
}

/** What an answer of a round says to a trace, and whether it was given with the machine whole, after all that the round did. */
export interface SaidInRound {
  readonly findings: readonly { readonly check: string; readonly outcome: string }[];
  readonly afterwards: boolean;
}

/** An answer that means a fault names its outcome; the best of a step's answers says that each of the checks it stands for is as it should be. */
export function saidInRound(trade: Trade, { step, choice }: Pick<GivenGrade, "step" | "choice">): SaidInRound | undefined {
  const asked = step === undefined ? undefined : trade.steps.find((s) => s.id === step);
  const said = asked?.seen?.find((o) => o.id === choice);
  if (!asked || !said) return undefined;
  const usual = said.trace === undefined && said.grade === 0;
  const told = usual ? (asked.seen ?? []).flatMap((o) => o.trace ?? []) : said.trace ? [said.trace] : [];
  const findings = [...new Map(told.map((t) => [t.check, t])).values()].flatMap(({ check, outcome }) => {
    const known = trade.model.checks.find((c) => c.id === check);
    const word = usual ? known?.outcomes[0] : outcome;
    return known && word !== undefined ? [{ check, outcome: word }] : [];
  });
  return { findings, afterwards: asked.needs?.power === "on" };
}

/** What is past cleaning first, then along the path and what is off it: in that order whenever it was seen. */
export function unmendedOf(g: Pick<Gathered, "trade" | "grades" | "nowMs">): Unmended[] {
  const { layout, procedures } = g.trade;
  const place = ({ station }: Unmended) => layout.stations.findIndex((s) => s.id === station) >>> 0;
  const order = (a: Unmended, b: Unmended) =>
    Number(b.isDone) - Number(a.isDone) || place(a) - place(b) || a.station.localeCompare(b.station);
  const seenBad = [...g.grades].flatMap(([station, entry]) =>
    allOf(entry).flatMap((given): Unmended[] => {
      if (given.grade < BAD) return [];
      const stands = layout.stations.find((s) => s.id === station);
      if (!stands && !layout.systems.includes(station) && !procedures.has(station)) return [];
      const isDone = isPastCleaning(stands?.role, given);
      const works = (id: string | undefined) => {
        const p = procedures.get(id ?? "");
        return p?.steps.some((s) => s.station === station && s.service && mends(s.service.what)) ? p : undefined;
      };
      const thing = works(given.thing);
      const clean =
        procedures.get(station) ??
        thing ??
        given.mendedBy?.map(works).find((p) => p && !p.isRepair) ??
        [...procedures.values()].find((p) => !p.isRepair && works(p.id));
      return [
        {
          id: given.step ?? station,
          station,
          name: thing?.name ?? layout.names[station] ?? procedures.get(station)?.name ?? station,
          word: given.seen ?? gradeWordFor(station, given.grade),
          since: sinceDay(given.atMs, g.nowMs),
          clean: isDone || clean?.byOthers ? undefined : clean?.id,
          replace: isDone ? replacementOf(g, station) : undefined,
          isDone,
          trace: traceOf(g.trade, station, given),
        },
      ];
    }),
  );
  return seenBad.sort(order);
}
