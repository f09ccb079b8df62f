/** Figures of days to come, no sharper than they are known. */
import dayjs from "dayjs";

/** Hours to two figures; "many thousand" where nothing bounds them. */
export function roughHours(hours: number): string {
  if (!Number.isFinite(hours) || hours > 20_000) return "many thousand";
  if (hours < 10) return String(Math.round(hours));
  const size = 10 ** (Math.floor(Math.log10(hours)) - 1);
  return String(Math.round(hours / size) * size);
}

/** A month to come: "March", "June 2028". */
export function monthWords(ms: number, nowMs: number): string {
  const [then, now] = [dayjs(ms), dayjs(nowMs)];
  if (!Number.isFinite(ms) || then.diff(now, "year") > 15) return "many years from now";
  return then.format(then.year() === now.year() ? "MMMM" : "MMMM YYYY");
}

/** A number of days to come, by its day when near and its month when far. */
export function dayWords(days: number | undefined, nowMs: number): string {
  if (days === undefined) return "not within four years at this pace";
  if (days <= 0) return "now";
  const then = dayjs(nowMs).add(days, "day");
  return days <= 45 ? `on ${then.format("ddd D MMM")}` : `in ${monthWords(then.valueOf(), nowMs)}`;
}
