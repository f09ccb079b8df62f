/** When a task falls due, as data: the catalog writes such rules, and an owner changes them. */
import type { SmokePart } from "./usage";

/** Whatever of it is over first makes a task due. */
export interface Every {
  readonly plyHours?: number | undefined;
  readonly firingHours?: number | undefined;
  readonly days?: number | undefined;
  readonly jobs?: number | undefined;
  /** Every n-th time another task was done. */
  readonly nth?: { readonly station: string; readonly task: string; readonly times: number } | undefined;
  /** Also within the day after as many ply-hours on one day (UTC), until it was looked at or done. */
  readonly smokyDay?: number | undefined;
  /** Once a year, from four weeks before the first day of this month (1 to 12) on. */
  readonly beforeMonth?: number | undefined;
  /** When the duct's air has lost this share (0..1) of its clean speed. */
  readonly airflowLoss?: number | undefined;
  /** After a new part at one of these stations. */
  readonly afterNew?: readonly string[] | undefined;
  /** After a seat on the path was opened, until it was looked at. */
  readonly afterOpened?: boolean | undefined;
}

/** When a task falls due. */
export interface TaskRule {
  readonly id: string;
  readonly station: string;
  readonly every: Every;
  /** What its smoke is counted for; the optics where left out, the nozzle at the nozzle. */
  readonly counts?: SmokePart;
  readonly minutes: number;
  /** Opening this is what the task costs; tasks that share it are done together. */
  readonly access: string;
  /** Where several tasks share a station: records that name one of these count, those that name none do not, unless it is the plain one. */
  readonly tasks?: readonly string[];
  readonly plain?: boolean;
  /** Done by somebody who comes for it: booked, and in no round. */
  readonly byOthers?: boolean;
  /** Share of the interval that counts as used after a look that found the part clear: 0 where looking is the task, more where the dose goes on. */
  readonly clearLookLeaves?: number;
}
