/** Figures and dates put into words, on the server, so that every reader sees the same. */
import dayjs from "dayjs";
import type { EffectiveRatio } from "#core/cuts";
import type { DueTask } from "#core/schedule";
import type { Material } from "#store/machines";
import { withUnit } from "./units";

export { nameInSentence as theStation } from "#core/machine";

/** "Mon 30 Mar", as seen from `nowMs`; of another year "30 Mar 2025", since a weekday then says nothing and a month alone misleads. */
export const shortDay = (ms: number, nowMs: number): string =>
  dayjs(ms).format(dayjs(ms).year() === dayjs(nowMs).year() ? "ddd D MMM" : "D MMM YYYY");
export const dayAndTime = (ms: number): string => dayjs(ms).format("ddd D MMM YYYY, HH:mm");

/** "today", "yesterday", "on Friday", "on 3 Oct". */
export function sinceDay(ms: number, nowMs: number): string {
  const days = dayjs(nowMs).startOf("day").diff(dayjs(ms).startOf("day"), "day");
  if (days <= 0) return "today";
  if (days === 1) return "yesterday";
  if (days < 7) return dayjs(ms).format("dddd");
  return dayjs(ms).format(dayjs(ms).year() === dayjs(nowMs).year() ? "D MMM" : "D MMM YYYY");
}

/** The same in the middle of a sentence: "today", "on Thursday", "on 3 Oct". */
export function onDay(ms: number, nowMs: number): string {
  const day = sinceDay(ms, nowMs);
  return day === "today" || day === "yesterday" ? day : `on ${day}`;
}

/** In the middle of a sentence; what is named by letters (M2, PVC) stays as it is. */
export const lowerFirst = (text: string): string => (/^(M\d|[A-Z]{2})/.test(text) ? text : text.charAt(0).toLowerCase() + text.slice(1));

/** Minutes as they are planned with: whole ones. */
export const wholeMinutes = (minutes: number): string => (minutes > 0 && minutes < 0.75 ? "under 1" : number(minutes, 0));

export const percentOf = (share: number): string => `${Math.round(100 * share)} %`;

/** Probability in words a person can use; never a flat 0 or 100. */
export function chance(p: number): string {
  if (p < 0.005) return "under 1 %";
  if (p > 0.995) return "over 99 %";
  return percentOf(p);
}

/** Money in the workshop's currency, as its owner writes it. */
export const moneyWords = (amount: number, currency: string): string => `${amount.toFixed(2)}${currency === "" ? "" : ` ${currency}`}`;

export function number(value: number, digits = 1): string {
  return Number(value.toFixed(digits)).toString();
}

export function ratioWords(effective: EffectiveRatio): string {
  if (effective.kind === "none") return effective.reason;
  if (effective.kind === "at-least") return `at least ${percentOf(effective.ratio)} of best`;
  if (effective.kind === "at-most") return `at most ${percentOf(effective.ratio)} of best`;
  return `about ${percentOf(effective.ratio)} of best (between ${Math.round(100 * effective.low)} and ${Math.round(100 * effective.high)} %)`;
}

/** Why a ladder gave no more than a bound; empty where it gave a number. */
export const boundWords = (effective: EffectiveRatio): string =>
  effective.kind === "at-least"
    ? ": the fastest square you cut still dropped"
    : effective.kind === "at-most"
      ? ": even the slowest square stayed"
      : "";

export const materialName = (m: Pick<Material, "name" | "thicknessMm"> | undefined): string =>
  m ? `${withUnit(m.thicknessMm, "mm")} ${m.name}` : "a material no longer listed";

const LEFT_UNITS: Readonly<Record<DueTask["left"]["unit"], string>> = {
  "ply-hours": "smoke hours",
  "smoky-day": "smoke hours",
  hours: "h",
  days: "days",
  jobs: "jobs",
  times: "times of what it follows",
  airflow: "",
  "new-part": "",
  opened: "",
};

const ONE: Readonly<Record<string, string>> = { days: "day", jobs: "job", "smoke hours": "smoke hour" };

/** What is left of an interval, or over it. */
export function leftWords(task: Pick<DueTask, "left" | "state">): string {
  const amount = Math.abs(task.left.amount);
  const unit = LEFT_UNITS[task.left.unit];
  if (task.left.unit === "smoky-day") return `${number(amount)} smoke hours on one day`;
  if (task.left.unit === "airflow") return `airflow is down by ${percentOf(amount)}`;
  if (task.left.unit === "new-part") return "due after the new part";
  if (task.left.unit === "opened") return "due: a mount was opened";
  if (!Number.isFinite(amount)) return "not due: nothing has happened that asks for it";
  const figure = amount >= 10 ? Math.round(amount) : number(amount);
  const said = figure === 1 || figure === "1" ? `1 ${ONE[unit] ?? unit}` : `${figure} ${unit}`;
  if (task.left.amount <= 0) return amount < 0.5 ? "due now" : `${said} overdue`;
  if (task.left.unit === "days" && amount < 1) return "due today";
  return `due in ${said}`;
}

/** Why a machine can give more than its best. */
export const MORE_WORDS = "the baseline was cut on a weaker day, or with another tube or lens; make a newer ladder the baseline";
