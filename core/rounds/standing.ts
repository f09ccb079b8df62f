/**
 * What was seen and still stands. A part of the path is one thing: its last look counts. A system is several things under one name (belts and
 * rails, both fans, the water's colour and its flow): what was seen bad of one is not taken back by a look at another, nor by work on it.
 */
import type { Grade } from "#core/beam";
import type { EventPayload } from "#core/events";
import { mends } from "#core/schedule";
import type { RoundRecord } from "./answers";
import type { Step } from "./step";

/** From film on what was seen stands until it is mended or seen to be good. */
export const BAD = 2;

/** A grade with when it was given, and what was seen where it was no grade that was picked. */
export interface GivenGrade {
  readonly grade: Grade;
  readonly atMs: number;
  readonly phase: "as-found" | "as-left";
  readonly seen?: string | undefined;
  /** The step that asked, and its answer's id. */
  readonly step?: string | undefined;
  readonly choice?: string | undefined;
  /** Nothing is fired until the same was asked again and found good. */
  readonly stops?: boolean | undefined;
  /** Which of a system's things it is about, what is known to mend it, and the check of a trace it stands for. */
  readonly thing?: string | undefined;
  readonly mendedBy?: readonly string[] | undefined;
  readonly check?: string | undefined;
  /** What else was seen bad of the same system and still stands, worst first. */
  readonly besides?: readonly GivenGrade[] | undefined;
}

/** A step by its id, where the machine still has it. */
export type StepOf = (id: string) => Pick<Step, "thing" | "mendedBy" | "seen"> | undefined;

/** A grade of the log as it holds from then on. */
export function givenGrade({ grade, phase, seen, step, choice, stops }: EventPayload["grade"], atMs: number, stepOf: StepOf): GivenGrade {
  const asked = step === undefined ? undefined : stepOf(step);
  const check = asked?.seen?.find((o) => o.id === choice)?.trace?.check;
  return { grade: grade as Grade, atMs, phase, seen, step, choice, stops, thing: asked?.thing, mendedBy: asked?.mendedBy, check };
}

/** All that stands at a station by its entry: the worst, and what else there is. */
export function allOf({ besides, ...worst }: GivenGrade): readonly GivenGrade[] {
  return [worst, ...(besides ?? [])];
}

/** Whether a look takes the place of an earlier one at its station: it is about the same thing, the whole of it, or asks the same. */
function takesThePlaceOf(earlier: GivenGrade, later: GivenGrade, stepOf: StepOf): boolean {
  if (later.thing === undefined || earlier.thing === undefined || later.thing === earlier.thing) return true;
  const asks = later.step === undefined ? [] : (stepOf(later.step)?.seen ?? []);
  return earlier.check !== undefined && asks.some((o) => o.trace?.check === earlier.check);
}

/** The looks that stand at a station after one more. */
export const withLook = (standing: readonly GivenGrade[], look: GivenGrade, stepOf: StepOf): GivenGrade[] => [
  ...standing.filter((g) => !takesThePlaceOf(g, look, stepOf)),
  look,
];

/** What stands at a station in one entry: the worst of what is bad, else the last look; undefined where there is none. */
export function worstOf(standing: readonly GivenGrade[]): GivenGrade | undefined {
  const bad = standing
    .filter((g) => g.grade >= BAD)
    .sort((a, b) => b.grade - a.grade || Number(b.stops ?? false) - Number(a.stops ?? false) || b.atMs - a.atMs);
  const [worst = standing.at(-1), ...besides] = bad;
  return worst && (besides.length > 0 ? { ...worst, besides } : worst);
}

type Service = Pick<EventPayload["service"], "what" | "task">;

/** Whether a service at one station puts something new in at another: the exit window is the tube's own. */
export const replaces = (serviced: string, station: string): boolean =>
  serviced === station || (station === "window" && serviced === "tube");

/**
 * Whether a service after it, at its station, takes a grade away. A new part does. No clean mends damage, what was left so after one is not
 * clean by it, what stops the beam is seen to be good first, and work on one thing of a system mends no other.
 */
export function isLiftedBy({ grade, phase, stops, thing, mendedBy }: GivenGrade, { what, task }: Service): boolean {
  if (!mends(what)) return false;
  if (what === "replaced" && task === undefined) return true;
  if (stops === true) return false;
  const isOfIt = task === undefined || thing === undefined || mendedBy === undefined || mendedBy.includes(task);
  return isOfIt && (what === "replaced" || (grade > 0 && grade < 4 && phase === "as-found"));
}

/** The grades that hold by station after a round's records, from those that held before; newer ones are kept. */
export function gradesAfter(
  before: ReadonlyMap<string, GivenGrade>,
  records: readonly RoundRecord[],
  stepOf: StepOf,
): Map<string, GivenGrade> {
  const standing = new Map([...before].map(([station, given]) => [station, allOf(given)]));
  for (const record of [...records].sort((a, b) => a.atMs - b.atMs)) {
    if (record.kind === "note" || record.kind === "airflow") continue;
    const { station } = record.payload;
    const was = standing.get(station) ?? [];
    if (record.kind === "grade") {
      const look = givenGrade(record.payload, record.atMs, stepOf);
      const isOlder = was.some((g) => g.atMs > look.atMs && takesThePlaceOf(look, g, stepOf));
      if (!isOlder) standing.set(station, withLook(was, look, stepOf));
      continue;
    }
    const service = record.payload;
    const lifts = (g: GivenGrade) => g.atMs <= record.atMs && g.step !== record.stepId && isLiftedBy(g, service);
    for (const [other, given] of standing)
      if (service.what === "replaced" ? replaces(station, other) : other === station)
        standing.set(
          other,
          given.filter((g) => !lifts(g)),
        );
  }
  return entriesOf(standing);
}

/** One entry for each station at which something stands. */
export function entriesOf(standing: ReadonlyMap<string, readonly GivenGrade[]>): Map<string, GivenGrade> {
  const grades = new Map<string, GivenGrade>();
  for (const [station, given] of standing) {
    const entry = worstOf(given);
    if (entry) grades.set(station, entry);
  }
  return grades;
}
