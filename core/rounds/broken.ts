/** What a round has seen that stops use of the beam: nothing proves it by a cut before another optic is in. */
import type { Grade } from "#core/beam";
import { gradeAdvice } from "./advice";
import { roundRecords } from "./answers";
import type { Step } from "./step";
import type { Answers } from "./walk";

/** Whether an optic so graded must not be fired through. */
export const stopsUse = (station: string, phase: "as-found" | "as-left", grade: Grade): boolean =>
  gradeAdvice(station, phase, grade)?.stop === true;

/** Whether a service at one station puts something new in at another: the exit window is the tube's own. */
export const replaces = (serviced: string, station: string): boolean =>
  serviced === station || (station === "window" && serviced === "tube");

/** Stations that a round last graded so that nothing may be fired, with the grade; without those where another was put in since. */
export function brokenIn(steps: readonly Step[], answers: Answers): Map<string, Grade> {
  const broken = new Map<string, Grade>();
  for (const record of roundRecords(steps, answers).sort((a, b) => a.atMs - b.atMs)) {
    if (record.kind === "grade") {
      const { station, phase, grade } = record.payload;
      if (stopsUse(station, phase, grade as Grade)) broken.set(station, grade as Grade);
      else broken.delete(station);
    }
    if (record.kind === "service" && record.payload.what === "replaced")
      for (const station of [...broken.keys()]) if (replaces(record.payload.station, station)) broken.delete(station);
  }
  return broken;
}
