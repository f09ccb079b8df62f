/** View model of Outlook: how strong the beam was, is and will be; dirt against tube; what each round bought; when cuts stop dropping. */

import dayjs from "dayjs";
import { BED_PLACES } from "#core/coupon";
import { neededLnRatio, throughProbability } from "#core/cuts";
import { eventsBetween } from "#core/events";
import { Z90 } from "#core/normal";
import { DAY_MS } from "#core/time";
import { ageingOf, type Condition, daysUntil, dirtOf, factorOf, lossPoints, type Pace, powerIn, tangledRates } from "#core/wear";
import type { Services } from "../context";
import { PATTERN_WORDS } from "../log/words";
import { foulingAt, opticsOf } from "../machine/condition";
import type { Gathered } from "../machine/gathered";
import { bedState, cutBase, knownPower, toldBy } from "../machine/known";
import { paceOf } from "../machine/pace";
import { powerSeries } from "../machine/powerSeries";
import { lostWords, powerWords, stateWords } from "../machine/stateWords";
import { cutStopOf } from "../machine/stop";
import { withUnit } from "../units";
import { chance, MORE_WORDS, materialName, number, shortDay, sinceDay } from "../words";
import { booked } from "./book";
import { costView, lensLives, SPENT, tubeView } from "./tube";
import { dayWords } from "./words";

const AHEAD_DAYS = 60;
const STEP_DAYS = 4;
const SHOWN_MS = 430 * DAY_MS;
const ROUNDS_SHOWN = 10;
export async function outlookView(services: Services, g: Gathered) {
  const { condition, baseline } = g;
  const costs = costView(g);
  const lenses = lensLives(g).map((l) => ({ ...l, since: l.isFirst ? "since the log begins" : dayjs(l.atMs).format("D MMM YYYY") }));
  const bed = bedView(g);
  if (!condition || !baseline) return { slug: g.machine.slug, ready: undefined, costs, lenses, bed };
  const tube = tubeView(g);
  const pace = paceOf(g);
  return {
    slug: g.machine.slug,
    costs,
    lenses,
    bed,
    ready: {
      ...headline(g, condition, tube),
      tube,
      sum: sumOf(g, condition),
      series: await powerSeries(services, g, g.nowMs - SHOWN_MS),
      ahead: aheadOf(g, condition, pace),
      parts: eventsBetween(g.log, ["service"], g.nowMs - SHOWN_MS, g.nowMs)
        .filter((e) => e.payload.what === "replaced" && g.trade.layout.stations.some((s) => s.id === e.payload.station))
        .map((e) => ({ atMs: e.atMs, name: g.trade.layout.names[e.payload.station] ?? e.payload.station })),
      materials: materialLines(g, condition, pace),
      bought: boughtOf(g, condition),
      rates: ratesOf(g, condition),
    },
  };
}

/** Points lost from which the cause is found before anything else, where it is neither dirt nor tube: Today says the same. */
const NEITHER_POINTS = 8;
export const neitherLeads = (c: Condition): boolean => c.leads === "other" && lossPoints(c).other >= NEITHER_POINTS;

/** Replace now or clean, in plain words; what the machine is worth today is said as Today says it. */
function headline(g: Gathered, condition: Condition, tube: ReturnType<typeof tubeView>): { headline: string; lead: string } {
  const { percent, dirt, tube: aged } = lossPoints(condition);
  const spent = 100 - aged;
  const state = stateWords(g);
  const stop = cutStopOf(g);
  const lead = [state?.headline ?? "", state?.more ?? "", powerWords(condition), tube.words].filter(Boolean).join(" ");
  if (stop) return { headline: `${stop.because === "turned-down" ? "Do not cut" : "Do not fire"}: ${stop.what}. ${stop.until}`, lead };
  if (neitherLeads(condition))
    return { headline: "Find the cause before you buy or clean: most of what is lost is alignment, focus or damage.", lead };
  if (!tube.early && spent <= 100 * SPENT && condition.leads === "tube")
    return { headline: `The tube is worn: it alone gives ${spent} % of what it gave. Plan for a new one.`, lead };
  if (condition.leads === "dirt" && dirt >= 3)
    return { headline: "Clean it; you need no parts: most of what is lost is dirt and comes back.", lead };
  if (state?.state === "weak") return { headline: `${lostWords(condition)} Find out which before you buy anything.`, lead };
  return { headline: `Nothing to buy yet: the beam is at about ${percent} % of its best.`, lead };
}

function sumOf(g: Gathered, condition: Condition) {
  const { percent, more, dirt, tube, other } = lossPoints(condition);
  const ageing = ageingOf(condition.fit);
  const per1000 = (rate: number) => number(100 * (1 - Math.exp(-1000 * rate)));
  return [
    { term: "Best", text: `100 %: your baseline, ${sinceDay(g.baseline?.atMs ?? 0, g.nowMs)}` },
    { term: "Comes back with a clean", text: `${dirt} %${carriedWords(g, condition, dirt)}` },
    {
      term: "Gone for good",
      text: `${tube} %: ${number(Math.max(0, condition.moment.hours), 0)} tube hours at ${per1000(ageing.mean)} % per 1000 h (between ${per1000(Math.max(0, ageing.mean - Z90 * ageing.sd))} and ${per1000(ageing.mean + Z90 * ageing.sd)})`,
    },
    { term: "Neither", text: `${other} %: alignment, focus or damage, by what was measured since the last final test` },
    ...(more > 0 ? [{ term: "More than best", text: `${more} %: ${MORE_WORDS}` }] : []),
    { term: "Left", text: `${percent} % (between ${Math.round(100 * condition.low)} and ${Math.round(100 * condition.high)} %)` },
  ];
}

/** Dirt that was on the optics when the baseline was cut is part of what best means, and still comes back with a clean. */
function carriedWords(g: Gathered, condition: Condition, dirt: number): string {
  const carried = Math.round(100 * (1 - Math.exp(-dirtOf(condition.fit, foulingAt(g, g.nowMs)).mean)));
  return carried > dirt ? `; the optics carry ${carried} % now, some of it already when the baseline was cut` : "";
}

/** The days to come: what is left if nothing is cleaned, with its band, and if all is kept clean. */
function aheadOf(g: Gathered, { fit, moment }: Condition, pace: Pace) {
  return Array.from({ length: AHEAD_DAYS / STEP_DAYS + 1 }, (_, i) => {
    const days = i * STEP_DAYS;
    const dirty = powerIn(fit, moment, pace, days);
    const kept = powerIn(fit, moment, pace, days, true);
    const share = (ln: number) => 100 * Math.exp(ln);
    return {
      atMs: g.nowMs + days * DAY_MS,
      dirty: share(dirty.mean),
      low: share(dirty.mean - Z90 * dirty.sd),
      high: share(dirty.mean + Z90 * dirty.sd),
      kept: share(kept.mean),
      keptLow: share(kept.mean - Z90 * kept.sd),
      keptHigh: share(kept.mean + Z90 * kept.sd),
    };
  });
}

/** Per material: whether its usual cut drops today, and the day it stops. */
function materialLines(g: Gathered, { fit, moment }: Condition, pace: Pace) {
  return g.materials.flatMap((m) => {
    const own = booked(g, m, "cut");
    const base = cutBase(g, m);
    const known = base && knownPower(g, base, m);
    if (m.hidden || !own || !base || !known) return [];
    const told = toldBy(g, base, m);
    const lnNeed = neededLnRatio({ ...own, passes: own.passes ?? 1 }, base, m.beta);
    return [
      {
        id: m.id,
        name: materialName(m),
        setting: `${withUnit(own.speedMmPerS, "mm/s")}, ${number(own.setPercent, 0)} %`,
        today: chance(throughProbability(known, lnNeed, m.beta)),
        uncleaned: dayWords(daysUntil(fit, moment, pace, lnNeed, false, told), g.nowMs),
        kept: dayWords(daysUntil(fit, moment, pace, lnNeed, true, told), g.nowMs),
        byLadder: base.ladder !== undefined,
      },
    ];
  });
}

/** What the last rounds bought, by the dirt they took off. */
function boughtOf(g: Gathered, condition: Condition) {
  const rounds = new Map<number, { fromMs: number; toMs: number; stations: Set<string> }>();
  const { service } = g.log.kinds;
  for (let i = service.length - 1; i >= 0 && rounds.size <= ROUNDS_SHOWN; i--) {
    const e = service.at(i);
    if (!e || e.roundId === undefined || (e.payload.what !== "cleaned" && e.payload.what !== "replaced")) continue;
    if (!opticsOf(g.trade).some((s) => s.id === e.payload.station)) continue;
    const known = rounds.get(e.roundId) ?? { fromMs: e.atMs, toMs: e.atMs, stations: new Set<string>() };
    rounds.set(e.roundId, {
      fromMs: Math.min(known.fromMs, e.atMs),
      toMs: Math.max(known.toMs, e.atMs),
      stations: known.stations.add(e.payload.station),
    });
  }
  return [...rounds].slice(0, ROUNDS_SHOWN).map(([id, r]) => {
    const [before, after] = [foulingAt(g, r.fromMs - 1), foulingAt(g, r.toMs)];
    const gain = dirtOf(
      condition.fit,
      before.map((f, i) => f - (after[i] ?? 0)),
    );
    return {
      id,
      day: shortDay(r.fromMs, g.nowMs),
      parts: [...r.stations].map((s) => g.trade.layout.names[s] ?? s).join(", "),
      gain: `${number(100 * (1 - Math.exp(-Math.max(0, gain.mean))))} %`,
      range: `${number(100 * (1 - Math.exp(-Math.max(0, gain.mean - Z90 * gain.sd))))} to ${number(100 * (1 - Math.exp(-gain.mean - Z90 * gain.sd)))} %`,
    };
  });
}

/** The rates behind it all, and which of them the readings cannot tell apart. */
function ratesOf(g: Gathered, { fit, readings }: Condition) {
  const names = ["the tube's ageing", ...opticsOf(g.trade).map((s) => `the fouling of ${g.trade.layout.names[s.id] ?? s.id}`)];
  return {
    readings,
    optics: opticsOf(g.trade).map((s, i) => {
      const { mean, sd } = factorOf(fit, i);
      const per = (factor: number) => number(2 * Math.max(0, factor), 1);
      return {
        id: s.id,
        name: g.trade.layout.names[s.id] ?? s.id,
        perInterval: `${per(mean)} %`,
        range: `${per(mean - Z90 * sd)} to ${per(mean + Z90 * sd)} %`,
        interval: `${number(g.trade.layout.intervalPlyHours[s.id] ?? 0, 0)} h of smoke`,
      };
    }),
    tangled: tangledRates(fit).map(([i, j]) => `${names[i]} and ${names[j]}`),
  };
}

/** The last bed map, drawn over the bed. */
function bedView(g: Gathered) {
  const bed = bedState(g);
  if (!bed) return undefined;
  const { event, reading, lnPlaces } = bed;
  const strongest = Math.max(...lnPlaces);
  return {
    day: shortDay(event.atMs, g.nowMs),
    says: PATTERN_WORDS[reading.leading],
    weights: Object.entries(reading.weights)
      .map(([pattern, weight]) => ({ pattern: PATTERN_WORDS[pattern as keyof typeof PATTERN_WORDS], weight }))
      .sort((a, b) => b.weight - a.weight)
      .map((w) => ({ ...w, said: chance(w.weight) })),
    widthMm: event.payload.bedWidthMm,
    depthMm: event.payload.bedDepthMm,
    corner: g.trade.layout.fittings.beamCorner ?? "back-left",
    places: event.payload.places.map((p, i) => ({
      id: p.place,
      name: BED_PLACES.find((b) => b.id === p.place)?.name ?? p.place,
      xMm: p.xMm,
      yMm: p.yMm,
      percent: Math.round(100 * Math.exp((lnPlaces[i] as number) - strongest)),
    })),
  };
}
