/** What a round has seen that stops use of the beam: nothing proves it by a cut before another optic is in. */
import type { Grade } from "#core/beam";
import { gradeAdvice } from "./advice";
import type { GivenGrade } from "./standing";

/** Whether an optic so graded must not be fired through. */
export const stopsUse = (station: string, phase: "as-found" | "as-left", grade: Grade): boolean =>
  gradeAdvice(station, phase, grade)?.stop === true;

/** What is said of an optic that stops use. */
export const brokenWord = (grade: Grade): string => (grade === 4 ? "damaged" : "burnt");

/** Stations whose grade stops use of the beam, with it. */
export const brokenOnes = (grades: ReadonlyMap<string, GivenGrade>): Map<string, Grade> =>
  new Map([...grades].flatMap(([station, { phase, grade }]) => (stopsUse(station, phase, grade) ? [[station, grade] as const] : [])));
