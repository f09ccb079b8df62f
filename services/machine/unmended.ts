/** What was seen bad and not mended: it stays on Today and goes into every round until somebody mends it or sees it clear. */
import { type GivenGrade, gradeWordFor } from "#core/rounds";
import { sinceDay } from "../words";
import type { Gathered } from "./gather";
import { isOwners } from "./plans";

/** From film on a part is bad. */
export const BAD = 2;

export interface Unmended {
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
  const id = k === undefined ? `replace-${station}` : `replace-mirror@${k}`;
  return isOwners(g.trade, id) ? id : undefined;
}

/** The finding an answer of a round stands for. */
function traceOf(g: Pick<Gathered, "trade">, station: string, seen: string | undefined): Unmended["trace"] {
  if (seen === undefined) return undefined;
  const steps = [...[...g.trade.procedures.values()].flatMap((p) => p.steps), g.trade.frame.block];
  const said = steps
    .filter((s) => s.station === station)
    .flatMap((s) => s.seen ?? [])
    .find((o) => o.label === seen && o.trace);
  return said?.trace && g.trade.model.checks.some((c) => c.id === said.trace?.check) ? said.trace : undefined;
}

/** What is past cleaning first, then along the path and what is off it: in that order whenever it was seen. */
export function unmendedOf(g: Pick<Gathered, "trade" | "grades" | "nowMs">): Unmended[] {
  const { layout, procedures } = g.trade;
  const place = ({ station }: Unmended) => layout.stations.findIndex((s) => s.id === station) >>> 0;
  const order = (a: Unmended, b: Unmended) =>
    Number(b.isDone) - Number(a.isDone) || place(a) - place(b) || a.station.localeCompare(b.station);
  const seenBad = [...g.grades].flatMap(([station, given]): Unmended[] => {
    if (given.grade < BAD) return [];
    const stands = layout.stations.find((s) => s.id === station);
    if (!stands && !layout.systems.includes(station) && !procedures.has(station)) return [];
    const isDone = isPastCleaning(stands?.role, given);
    const clean =
      procedures.get(station) ??
      [...procedures.values()].find((p) => !p.isRepair && p.steps.some((s) => s.station === station && s.service));
    return [
      {
        station,
        name: layout.names[station] ?? station,
        word: given.seen ?? gradeWordFor(station, given.grade),
        since: sinceDay(given.atMs, g.nowMs),
        clean: isDone || clean?.byOthers ? undefined : clean?.id,
        replace: isDone ? replacementOf(g, station) : undefined,
        isDone,
        trace: traceOf(g, station, given.seen),
      },
    ];
  });
  return seenBad.sort(order);
}
