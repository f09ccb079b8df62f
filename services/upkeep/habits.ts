/** The small things of a day of work: before the first job, after each job, at closing; and whether they were done. */
import dayjs from "dayjs";
import { type HabitTime, habits } from "#catalog/tasks";
import { SCHOOLS, type School } from "#core/machine";
import type { Gathered } from "../machine/gathered";
import { followsOf } from "./inForce";

export interface HabitNow {
  readonly id: string;
  readonly name: string;
  readonly does: string;
  readonly when: HabitTime;
  readonly words: string;
  readonly reason: string;
  /** Other times it may have, each by a school that has it so. */
  readonly others: readonly { readonly school: School; readonly words: string }[];
  /** Done since it was last asked for; undefined where nothing in the log could say. */
  readonly isDone: boolean | undefined;
}

export const TIME_WORDS: Readonly<Record<HabitTime, string>> = {
  "each-job": "after each job",
  "first-job": "before the first job of a day",
  closing: "at closing",
  never: "never",
};

export function habitsOf(g: Gathered): HabitNow[] {
  const { fittings } = g.trade.layout;
  return habits
    .filter((h) => !h.dustyOnly || fittings.room === "dusty")
    .map((h): HabitNow => {
      const chosen = followsOf(g.upkeep.upkeep, fittings.school, h.id);
      const school = (SCHOOLS as readonly string[]).includes(chosen) ? (chosen as School) : fittings.school;
      const when = h.when[school];
      return {
        id: h.id,
        name: h.name,
        does: h.does,
        when,
        words: TIME_WORDS[when],
        reason: h.reason,
        others: othersOf(h.when, when),
        isDone: isDone(g, h.station, when),
      };
    });
}

/** The other times a school has for it, each once. */
function othersOf(times: Readonly<Record<School, HabitTime>>, now: HabitTime): HabitNow["others"] {
  const seen = new Set<HabitTime>([now]);
  return SCHOOLS.flatMap((school) => {
    const when = times[school];
    if (seen.has(when)) return [];
    seen.add(when);
    return [{ school, words: TIME_WORDS[when] }];
  });
}

/** A look is in the log; a sheet that was laid over is not. */
function isDone(g: Gathered, station: string, when: HabitTime): boolean | undefined {
  if (when === "closing" || when === "never") return undefined;
  const last = g.log.kinds.grade.findLast((e) => e.payload.station === station && e.atMs <= g.nowMs)?.atMs;
  const seen = Math.max(last ?? Number.NEGATIVE_INFINITY, g.grades.get(station)?.atMs ?? Number.NEGATIVE_INFINITY);
  const today = dayjs(g.nowMs).startOf("day").valueOf();
  const job = when === "each-job" ? g.log.kinds.job.findLast((e) => e.atMs <= g.nowMs)?.atMs : undefined;
  return seen >= Math.max(today, job ?? 0);
}

/** What is still to do before the next job, by these habits. */
export const habitDue = (g: Gathered): HabitNow | undefined => habitsOf(g).find((h) => h.isDone === false);
