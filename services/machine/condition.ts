/** How strong the machine is now, and why: ladders, cuts, watts and looks set against hours and smoke. */
import { GRADES, lookLogLoss, ROLE_TRAITS } from "#core/beam";
import { censoredRatio, LADDER_SLOPE } from "#core/cuts";
import { type Chain, type EventLog, type EventOf, eventsBetween, firstAt, type MachineEvent } from "#core/events";
import { dosesBetweenCleans, type Usage } from "#core/schedule";
import { DAY_MS } from "#core/time";
import {
  AGEING_PER_HOUR,
  type Change,
  type Condition,
  conditionOf,
  type FaultSpan,
  FOULING_FACTOR,
  fitWear,
  foulingAfter,
  foulingOf,
  LEFT_BY_CLEAN,
  type Moment,
  type WearBound,
  type WearFit,
  type WearLook,
  type WearReading,
} from "#core/wear";
import { baselineFor, type LadderReading, resultOf } from "./ladders";
import type { Trade } from "./trade";
import { wattWalks } from "./watts";

/** What a condition is estimated from. */
export interface Evidence {
  readonly trade: Trade;
  readonly log: EventLog;
  readonly usage: Usage;
  readonly ladders: Chain<LadderReading>;
  readonly nowMs: number;
  /** Exponent of a material, by its id. */
  readonly betaOf: (materialId: number) => number;
  /** Fouling at records that was worked out before; filled further. */
  readonly fouling: Map<MachineEvent, readonly number[]>;
  /** Spans of faults that a case found: what was read before its proof speaks of the fault, not of wear. */
  readonly faulty: readonly { readonly fromMs: number; readonly toMs: number }[];
}

/** Optics of a path in its order: each has a fouling of its own. */
export const opticsOf = ({ layout }: Trade) => layout.stations.filter((s) => ROLE_TRAITS[s.role].isOptic);

/** Of so many cleans what they left is counted. */
const CLEANS_COUNTED = 3;

/** Expected fouling loss of each optic at a time, in ln power, at default rates: since its last clean, and what earlier ones left. */
export function foulingAt({ trade, usage, log }: Pick<Evidence, "trade" | "usage" | "log">, atMs: number): number[] {
  const { intervalPlyHours } = trade.layout;
  return opticsOf(trade).map(({ id }) =>
    foulingAfter(dosesBetweenCleans(usage, log, id, atMs, CLEANS_COUNTED), intervalPlyHours[id] ?? Number.POSITIVE_INFINITY),
  );
}

function foulingAtRecord(e: Evidence, record: MachineEvent): readonly number[] {
  const known = e.fouling.get(record) ?? foulingAt(e, record.atMs);
  e.fouling.set(record, known);
  return known;
}

const less = (a: readonly number[], b: readonly number[]) => a.map((v, i) => v - (b[i] ?? 0));
const isFaulty = (e: Evidence, atMs: number) => e.faulty.some((f) => atMs >= f.fromMs && atMs < f.toMs);

/** Span of the log an estimate is made from: after its baseline, up to a time. */
interface Span {
  readonly baseline: EventOf<"ladder">;
  readonly untilMs: number;
}

/** How far the pace of what nobody counted may be off, as a share of it. */
const PACE_SPREAD = 0.5;

/** Use up to a time, counted from the baseline that best means. */
export function momentAt(e: Evidence, baseline: EventOf<"ladder">, atMs: number, fouling = foulingAt(e, atMs)): Moment {
  const guessed = e.usage.guessed(atMs);
  const { intervalPlyHours } = e.trade.layout;
  const dirt = opticsOf(e.trade).reduce(
    (sum, { id }) => sum + foulingOf(guessed.smoke, intervalPlyHours[id] ?? Number.POSITIVE_INFINITY),
    0,
  );
  return {
    day: (atMs - baseline.atMs) / DAY_MS,
    hours: e.usage.tubeHoursBetween(baseline.atMs, atMs),
    fouling: less(fouling, foulingAtRecord(e, baseline)),
    unsure: PACE_SPREAD * (AGEING_PER_HOUR.mean * guessed.hours + FOULING_FACTOR.mean * dirt),
  };
}

const atRecord = (e: Evidence, span: Span, record: MachineEvent) =>
  momentAt(e, span.baseline, record.atMs, [...foulingAtRecord(e, record)]);

/** What a record is set against: its own material's baseline, where that is not the one that best means. */
function against(e: Evidence, span: Span, base: EventOf<"ladder">) {
  return base.id === span.baseline.id ? {} : { base: atRecord(e, span, base), way: `ladder ${base.id}` };
}

/** What the ladders say, each against the baseline of its own material. */
function ladderReadings(e: Evidence, span: Span): WearReading[] {
  const { baseline, untilMs } = span;
  return e.ladders.slice(firstAt(e.log.kinds.ladder, baseline.atMs)).flatMap(({ event, effective, material }): WearReading[] => {
    if (event.atMs > untilMs || event.id === baseline.id) return [];
    const read = resultOf(event);
    const base = baselineFor(e.log, event.payload.materialId, event.atMs);
    if (effective.kind !== "ratio" || read.kind !== "estimate" || !base || base.id === event.id || base.atMs < baseline.atMs) return [];
    return [
      {
        lnRatio: Math.log(effective.ratio),
        se: (material?.beta ?? 1) * read.sdLn,
        at: atRecord(e, span, event),
        sheet: String(event.payload.materialId),
        ...against(e, span, base),
      },
    ];
  });
}

/** Error of one watt reading and what a walk shares, in ln power. */
const WATTS_SE = Math.hypot(0.03, 0.03);

/** What watts say: after each station that a good reading is known of, with the fouling of what lies before the meter. */
function wattReadings(e: Evidence, span: Span): WearReading[] {
  const walks = wattWalks(e.log, span.baseline.atMs, span.untilMs);
  const order = e.trade.layout.stations.map((s) => s.id);
  const optics = opticsOf(e.trade).map((s) => order.indexOf(s.id));
  return walks.flatMap((walk) =>
    walk.readings.flatMap((r): WearReading[] => {
      const good = walks.findLast((w) => w.isGood && w.atMs < walk.atMs && w.readings.some((b) => b.station === r.station));
      const first = good?.readings.find((b) => b.station === r.station);
      if (!good || !first || walk.isGood || first.powerW <= 0 || r.powerW <= 0 || isFaulty(e, walk.atMs)) return [];
      const at = order.indexOf(r.station);
      const before = (m: Moment) => ({ ...m, fouling: m.fouling.map((f, i) => ((optics[i] as number) <= at ? f : 0)) });
      const lnRatio = Math.log((r.powerW * good.setPercent) / (first.powerW * walk.setPercent));
      return [
        {
          lnRatio,
          se: WATTS_SE,
          at: before(atRecord(e, span, walk.event)),
          base: before(atRecord(e, span, good.event)),
          way: "watts",
          // What happens suddenly (aim, focus) may lie behind the meter: watts do not speak of it.
          atSource: true,
        },
      ];
    }),
  );
}

const MOST_LOOKS = 200;

/** What looks say of single optics: grades as found, before anything was wiped. */
function looksAt(e: Evidence, { baseline, untilMs }: Span): WearLook[] {
  const optics = opticsOf(e.trade).map((s) => s.id);
  const grades = e.log.kinds.grade;
  return grades.slice(Math.max(firstAt(grades, baseline.atMs), grades.length - MOST_LOOKS)).flatMap((event): WearLook[] => {
    const optic = optics.indexOf(event.payload.station);
    const word = GRADES[event.payload.grade];
    if (optic < 0 || word === undefined || word === "damaged" || event.payload.phase !== "as-found") return [];
    if (event.atMs > untilMs || isFaulty(e, event.atMs)) return [];
    const { mean, sd } = lookLogLoss(word);
    return [{ optic, expected: foulingAtRecord(e, event)[optic] ?? 0, loss: mean, sd }];
  });
}

/** As many of the latest bounds as can still say something. */
const MOST_BOUNDS = 60;

/** Ladders of which every rung ended alike, and single cuts: each says that there was enough power for something, or not. */
function wearBounds(e: Evidence, span: Span): WearBound[] {
  const { baseline, untilMs } = span;
  const within = (atMs: number) => atMs > baseline.atMs && atMs <= untilMs;
  const ladders = e.ladders.slice(firstAt(e.log.kinds.ladder, baseline.atMs)).flatMap(({ event, effective }) => {
    if (!within(event.atMs) || (effective.kind !== "at-least" && effective.kind !== "at-most")) return [];
    const side = effective.kind === "at-least" ? ("above" as const) : ("below" as const);
    return [{ event: event as EventOf<"ladder"> | EventOf<"cut">, side, lnRatio: Math.log(effective.ratio), sd: LADDER_SLOPE }];
  });
  const all = e.log.kinds.cut;
  const cuts = all.slice(Math.max(firstAt(all, baseline.atMs), all.length - 2 * MOST_BOUNDS)).flatMap((event) => {
    const base = within(event.atMs) ? baselineFor(e.log, event.payload.materialId, event.atMs) : undefined;
    const said =
      base &&
      censoredRatio(event.payload, { result: resultOf(base), setPercent: base.payload.setPercent }, e.betaOf(event.payload.materialId));
    // One that hangs says as much from either side.
    if (!said) return [];
    const sides = said.side === "about" ? (["above", "below"] as const) : [said.side];
    return sides.map((side) => ({ event: event as EventOf<"ladder"> | EventOf<"cut">, side, lnRatio: said.lnRatio, sd: said.sd }));
  });
  const latest = [...ladders, ...cuts].sort((a, b) => a.event.atMs - b.event.atMs).slice(-MOST_BOUNDS);
  return latest.flatMap(({ event, side, lnRatio, sd }) => {
    const { materialId } = event.payload;
    const base = baselineFor(e.log, materialId, event.atMs) ?? baseline;
    if (base.atMs < baseline.atMs) return [];
    return [{ side, lnRatio, sd, at: atRecord(e, span, event), sheet: String(materialId), ...against(e, span, base) }];
  });
}

/** How large a step may come with something that was done, in ln power: what was opened, turned or put in may sit otherwise. */
const STEP_SD = { aimed: 0.08, "seat-opened": 0.05, replaced: 0.06, adjusted: 0.04, "taken-out": 0.05, "put-back": 0.05 } as const;
const NEW_TUBE_SD = 0.25;
/** What was touched longer ago than this is lost in the walk. */
const CHANGES_MS = 500 * DAY_MS;

/** When something was touched between the baseline and a time, and by how much the light may have changed with it. */
function changesOf(e: Evidence, { baseline, untilMs }: Span): Change[] {
  const path = new Set(e.trade.layout.stations.map((s) => s.id));
  const day = (atMs: number) => (atMs - baseline.atMs) / DAY_MS;
  const { intervalPlyHours } = e.trade.layout;
  const toMs = Math.min(untilMs, e.nowMs);
  const fromMs = Math.max(baseline.atMs + 1, toMs - CHANGES_MS);
  const services = eventsBetween(e.log, ["service"], fromMs, toMs).flatMap((event): Change[] => {
    const { station, what } = event.payload;
    if (!path.has(station)) return [];
    if (what === "replaced" && (station === "tube" || station === "window")) return [{ day: day(event.atMs), sd: NEW_TUBE_SD }];
    if (what === "cleaned") {
      const doses = dosesBetweenCleans(e.usage, e.log, station, event.atMs - 1, 1);
      const dirt = foulingOf(doses.at(-1) ?? 0, intervalPlyHours[station] ?? Number.POSITIVE_INFINITY);
      return [{ day: day(event.atMs), sd: Math.hypot(0.004, LEFT_BY_CLEAN.sd * FOULING_FACTOR.mean * dirt) }];
    }
    return what in STEP_SD ? [{ day: day(event.atMs), sd: STEP_SD[what as keyof typeof STEP_SD] }] : [];
  });
  const tubes = eventsBetween(e.log, ["hours"], fromMs, toMs).flatMap((event) =>
    event.payload.because === "tube-changed" ? [{ day: day(event.atMs), sd: NEW_TUBE_SD }] : [],
  );
  return [...services, ...tubes].sort((a, b) => a.day - b.day);
}

/** What the dirt of all optics grows by a day, at default rates, over the log since the baseline. */
function dirtPerDay(e: Evidence, { baseline, untilMs }: Span): number {
  const toMs = Math.min(untilMs, e.nowMs);
  const days = Math.max(1, (toMs - baseline.atMs) / DAY_MS);
  const dose = e.usage.smokeDose(baseline.atMs, toMs) / days;
  const { intervalPlyHours } = e.trade.layout;
  return opticsOf(e.trade).reduce((sum, { id }) => sum + foulingOf(dose, intervalPlyHours[id] ?? Number.POSITIVE_INFINITY), 0);
}

/** Fits of a log as it stands: nothing of one hangs on the present moment, so it holds until a record comes. */
interface KeptFit {
  readonly trade: Trade;
  readonly ladders: Chain<LadderReading>;
  readonly span: string;
  readonly fit: WearFit;
}
const fits = new WeakMap<EventLog, KeptFit[]>();

function fitOf(e: Evidence, span: Span, faults: readonly FaultSpan[]): WearFit {
  const known = fits.get(e.log) ?? [];
  fits.set(e.log, known);
  // What was read up to now is all there is.
  const untilMs = span.untilMs >= e.nowMs ? Number.POSITIVE_INFINITY : span.untilMs;
  const said = JSON.stringify([span.baseline.id, untilMs, faults]);
  const before = known.find((k) => k.trade === e.trade && k.ladders === e.ladders && k.span === said);
  if (before) return before.fit;
  const read = resultOf(span.baseline);
  const fit = fitWear({
    readings: [...ladderReadings(e, span), ...wattReadings(e, span)],
    bounds: wearBounds(e, span),
    looks: looksAt(e, span),
    changes: changesOf(e, span),
    faults,
    dirtPerDay: dirtPerDay(e, span),
    ...(read.kind === "estimate" ? { baselineSe: read.sdLn } : {}),
    optics: opticsOf(e.trade).length,
  });
  known.push({ trade: e.trade, ladders: e.ladders, span: said, fit });
  return fit;
}

/** Condition at the present, told by what was read up to a time. `sinceMs` is when something went wrong with the light that nobody has found yet. */
export function conditionAt(e: Evidence, baseline: EventOf<"ladder">, untilMs: number, sinceMs?: number): Condition {
  const day = (ms: number) => (ms - baseline.atMs) / DAY_MS;
  const faults = e.faulty.flatMap((f) => (f.toMs > baseline.atMs ? [{ from: day(f.fromMs), to: day(f.toMs) }] : []));
  // JSON has no infinity: an open fault lasts longer than any log.
  if (sinceMs !== undefined) faults.push({ from: day(sinceMs), to: 1e9 });
  return conditionOf(fitOf(e, { baseline, untilMs }, faults), momentAt(e, baseline, e.nowMs));
}
