/** Intervals, and what a task follows, in words. */
import type { Follows, School } from "#core/machine";
import type { Every } from "#core/schedule";
import { number, percentOf } from "../words";
import type { Counted } from "./runs";

export const SCHOOL_WORDS: Readonly<Record<School, string>> = { careful: "careful", "by-use": "by use", minimal: "minimal" };
export const FOLLOWS_WORDS: Readonly<Record<Follows, string>> = {
  ...SCHOOL_WORDS,
  learned: "learned",
  cheapest: "cheapest",
  own: "your own",
};

const counted = (n: number, one: string, many: string) => (n === 1 ? one : `${number(n, n < 10 ? 1 : 0)} ${many}`);

export const COUNTED_WORDS: Readonly<Record<Counted, string>> = { plyHours: "smoke hours", firingHours: "tube hours", days: "days" };
export const amountWords = (amount: number, by: Counted): string =>
  by === "plyHours"
    ? counted(amount, "1 smoke hour", "smoke hours")
    : by === "firingHours"
      ? counted(amount, "1 tube hour", "tube hours")
      : counted(amount, "1 day", "days");

const NTH_WORDS: Readonly<Record<string, string>> = { rails: "the rails are wiped", encoder: "the encoder strip is wiped" };
const MONTHS = ["January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December"];

/** "every 8 smoke hours, and within the day after 4"; "never" for what nothing asks for. */
export function everyWords(every: Every | undefined): string {
  const parts = [
    every?.plyHours === undefined ? "" : `every ${amountWords(every.plyHours, "plyHours")}`,
    every?.firingHours === undefined ? "" : `every ${amountWords(every.firingHours, "firingHours")}`,
    every?.days === undefined ? "" : `every ${every.days === 1 ? "day" : amountWords(every.days, "days")}`,
    every?.jobs === undefined ? "" : `every ${every.jobs === 1 ? "job" : counted(every.jobs, "", "jobs")}`,
    every?.nth === undefined ? "" : `every ${every.nth.times}th time ${NTH_WORDS[every.nth.task] ?? `${every.nth.task} is done`}`,
    every?.beforeMonth === undefined ? "" : `four weeks before ${MONTHS[every.beforeMonth - 1]}`,
    every?.smokyDay === undefined ? "" : `within the day after ${number(every.smokyDay)} smoke hours in one`,
    every?.airflowLoss === undefined ? "" : `when the airflow is down by ${percentOf(every.airflowLoss)}`,
    every?.afterNew === undefined ? "" : `after a new ${every.afterNew.join(" or ")}`,
    every?.afterOpened === undefined ? "" : "after a mount was opened",
  ].filter((p) => p !== "");
  return parts.length === 0 ? "only when something asks for it" : parts.join(", or ");
}
