/** What a round has seen that stops use of the beam: nothing proves it by a cut before another optic is in. */
import type { Grade } from "#core/beam";
import type { EventPayload } from "#core/events";
import { mends } from "#core/schedule";
import { gradeAdvice } from "./advice";
import type { RoundRecord } from "./answers";

/** Whether an optic so graded must not be fired through. */
export const stopsUse = (station: string, phase: "as-found" | "as-left", grade: Grade): boolean =>
  gradeAdvice(station, phase, grade)?.stop === true;

/** Whether a service at one station puts something new in at another: the exit window is the tube's own. */
export const replaces = (serviced: string, station: string): boolean =>
  serviced === station || (station === "window" && serviced === "tube");

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
}

/** A grade of the log as it holds from then on. */
export const givenGrade = ({ grade, phase, seen, step, choice, stops }: EventPayload["grade"], atMs: number): GivenGrade => ({
  grade: grade as Grade,
  atMs,
  phase,
  seen,
  step,
  choice,
  stops,
});

/**
 * Whether a clean or a repair after it takes a grade away: none mends damage, what was left so after one is not clean by it, and what stops
 * the beam is seen to be good first.
 */
export const goesWithAClean = ({ grade, phase, stops }: GivenGrade): boolean => grade > 0 && grade < 4 && phase === "as-found" && !stops;

/** The grades that hold by station after a round's records, from those that held before; newer ones are kept. */
export function gradesAfter(before: ReadonlyMap<string, GivenGrade>, records: readonly RoundRecord[]): Map<string, GivenGrade> {
  const grades = new Map(before);
  for (const record of [...records].sort((a, b) => a.atMs - b.atMs)) {
    if (record.kind === "note") continue;
    const { station } = record.payload;
    const was = grades.get(station);
    if (was && was.atMs > record.atMs) continue;
    if (record.kind === "grade") {
      grades.set(station, givenGrade(record.payload, record.atMs));
    } else if (record.payload.what === "replaced") {
      for (const [other, given] of grades) if (replaces(station, other) && given.atMs <= record.atMs) grades.delete(other);
    } else if (was && mends(record.payload.what) && goesWithAClean(was)) grades.delete(station);
  }
  return grades;
}

/** What is said of an optic that stops use. */
export const brokenWord = (grade: Grade): string => (grade === 4 ? "damaged" : "burnt");

/** Stations whose grade stops use of the beam, with it. */
export const brokenOnes = (grades: ReadonlyMap<string, GivenGrade>): Map<string, Grade> =>
  new Map([...grades].flatMap(([station, { phase, grade }]) => (stopsUse(station, phase, grade) ? [[station, grade] as const] : [])));
