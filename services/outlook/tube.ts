/** How long the tube lasts, and what an hour of firing costs. */
import type { EventOf, EventPayload } from "#core/events";
import { DAY_MS } from "#core/time";
import { isTooEarly, tubeHoursLeft } from "#core/wear";
import { COST_WORDS } from "../log/words";
import type { Gathered } from "../machine/gathered";
import { withUnit } from "../units";
import { moneyWords, number } from "../words";
import { monthWords, roughHours } from "./words";

/** The tube is spent when it alone gives this share of what it gave at the baseline. */
export const SPENT = 0.8;

export function tubeView(g: Gathered) {
  const { condition, usage } = g;
  const rated = usage.tubeHours === undefined ? undefined : g.machine.ratedTubeHours - usage.tubeHours;
  const ratedWords =
    rated === undefined
      ? undefined
      : rated > 0
        ? `${number(rated, 0)} h of its rated life are left`
        : `${number(-rated, 0)} h over its rated life`;
  if (!condition) return { early: true, words: "", ratedWords, left: undefined };
  const left = tubeHoursLeft(condition.fit, condition.moment, SPENT);
  const early = isTooEarly(condition.fit, left);
  const when = (hours: number) => (usage.hoursPerDay > 0 ? monthWords(g.nowMs + (hours / usage.hoursPerDay) * DAY_MS, g.nowMs) : undefined);
  const [soonest, latest] = [when(left.low), when(left.high)];
  const range = `${roughHours(left.low)} and ${roughHours(left.high)} h`;
  const dates =
    soonest === undefined || latest === undefined ? "" : ` At the pace of the last four weeks that is between ${soonest} and ${latest}.`;
  return {
    early,
    left,
    ratedWords,
    words: early
      ? `Too early to tell: ${condition.readings} readings over ${number(Math.max(0, condition.moment.hours), 0)} tube hours cannot yet separate tube wear from other losses.`
      : `About ${roughHours(left.mid)} tube hours until the tube alone gives ${Math.round(100 * SPENT)} % of what it gave (between ${range}).${dates}`,
  };
}

/** Money and minutes of the log, by what they went to, and what an hour of firing cost. */
export function costView(g: Gathered) {
  const { cost, service } = g.log.kinds;
  const sums = new Map<EventPayload["cost"]["what"], { money: number; minutes: number }>();
  const add = (what: EventPayload["cost"]["what"], money = 0, minutes = 0) => {
    const sum = sums.get(what) ?? { money: 0, minutes: 0 };
    sums.set(what, { money: sum.money + money, minutes: sum.minutes + minutes });
  };
  for (const { payload } of cost) add(payload.what, payload.money, payload.minutes);
  for (const { payload } of service) if (payload.price !== undefined) add("part", payload.price);
  const money = [...sums.values()].reduce((sum, s) => sum + s.money, 0);
  const minutes = [...sums.values()].reduce((sum, s) => sum + s.minutes, 0);
  const hours = g.usage.firingHours(g.logStartMs, g.nowMs);
  return {
    lines: [...sums].map(([what, s]) => ({
      what: COST_WORDS[what],
      money: s.money > 0 ? moneyWords(s.money, g.currency) : "",
      minutes: s.minutes > 0 ? `${number(s.minutes, 0)} min` : "",
    })),
    total: money > 0 ? moneyWords(money, g.currency) : undefined,
    lost: minutes > 0 ? `${number(minutes / 60)} h` : undefined,
    perHour: money > 0 && hours >= 1 ? moneyWords(money / hours, g.currency) : undefined,
    hours: number(hours, 0),
  };
}

/** Every lens that was in: how long, how often cleaned, how good the best ladder through it. */
export function lensLives(g: Gathered) {
  const ofLens: EventOf<"service">[] = [];
  for (const e of g.log.kinds.service) if (e.payload.station === "lens") ofLens.push(e);
  const fitted = ofLens.filter((e) => e.payload.what === "replaced");
  const starts = [{ atMs: g.logStartMs, payload: undefined }, ...fitted.map(({ atMs, payload }) => ({ atMs, payload }))];
  const lives = starts.map(({ atMs, payload }, i) => {
    const endMs = starts[i + 1]?.atMs ?? g.nowMs;
    const hours = g.usage.firingHours(atMs, endMs) + (payload?.usedHours ?? 0);
    const cleans = ofLens.filter((e) => e.payload.what === "cleaned" && e.atMs > atMs && e.atMs <= endMs).length;
    const best = g.ladders
      .slice(
        g.ladders.firstIndex((l) => l.event.atMs > atMs),
        g.ladders.firstIndex((l) => l.event.atMs > endMs),
      )
      .reduce(
        (top, l) => (l.event.atMs > atMs && l.event.atMs <= endMs && l.effective.kind === "ratio" ? Math.max(top, l.effective.ratio) : top),
        0,
      );
    return {
      atMs,
      isFirst: payload === undefined,
      isNow: i === starts.length - 1,
      source: payload?.source ?? "",
      focal: payload?.focalMm === undefined ? "" : withUnit(payload.focalMm, "mm"),
      price: payload?.price === undefined ? "" : moneyWords(payload.price, g.currency),
      hours: number(hours, 0),
      cleans,
      best: best > 0 ? `${Math.round(100 * best)} %` : "no ladder",
      perHour: payload?.price === undefined || hours < 1 ? "" : moneyWords(payload.price / hours, g.currency),
    };
  });
  // A log that begins with a new lens has none before it.
  return lives.filter((l, i) => !(i === 0 && l.hours === "0" && lives.length > 1)).reverse();
}
