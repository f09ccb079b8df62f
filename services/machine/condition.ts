/** How strong the machine is now, and why: ladders, cuts, watts and looks set against hours and smoke. */
import { GRADES, lookLogLoss, ROLE_TRAITS } from "#core/beam";
import { censoredRatio, LADDER_SLOPE } from "#core/cuts";
import { type Chain, type EventLog, type EventOf, firstAt, type MachineEvent } from "#core/events";
import { doseSinceClean, type Usage } from "#core/schedule";
import { DAY_MS } from "#core/time";
import { type Condition, conditionOf, fitWear, foulingOf, type WearBound, type WearFit, type WearLook, type WearReading } from "#core/wear";
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

/** Expected fouling loss of each optic at a time, in ln power, at default rates. */
export function foulingAt({ trade, usage, log }: Pick<Evidence, "trade" | "usage" | "log">, atMs: number): number[] {
  const { intervalPlyHours } = trade.layout;
  return opticsOf(trade).map(({ id }) => foulingOf(doseSinceClean(usage, log, id, atMs), intervalPlyHours[id] ?? Number.POSITIVE_INFINITY));
}

function foulingAtRecord(e: Evidence, record: MachineEvent): readonly number[] {
  const known = e.fouling.get(record) ?? foulingAt(e, record.atMs);
  e.fouling.set(record, known);
  return known;
}

const less = (a: readonly number[], b: readonly number[]) => a.map((v, i) => v - (b[i] ?? 0));
const hoursBetween = (e: Evidence, fromMs: number, toMs: number) => Math.max(0, e.usage.tubeHoursBetween(fromMs, toMs));
const isFaulty = (e: Evidence, atMs: number) => e.faulty.some((f) => atMs >= f.fromMs && atMs < f.toMs);

/** Span of the log an estimate is made from: after its baseline, up to a time; and when the machine was last served. */
interface Span {
  readonly baseline: EventOf<"ladder">;
  readonly untilMs: number;
  readonly serviceMs: number;
}

/** What a record is set against: use since the baseline it is measured by. */
function since(e: Evidence, record: MachineEvent, base: MachineEvent, { serviceMs }: Span) {
  return {
    hoursSinceBaseline: hoursBetween(e, base.atMs, record.atMs),
    fouling: less(foulingAtRecord(e, record), foulingAtRecord(e, base)),
    sinceService: record.atMs >= serviceMs,
  };
}

/** Nothing sudden had happened when the baseline was cut; a month on that says no more than it ever does. */
const BASELINE_SE = 0.02;
const MONTH_SE = 0.12;
const MONTH_MS = 30 * DAY_MS;

/** The baseline as a word on today, as long as nothing was cut or served since. */
function itself(e: Evidence, { baseline, serviceMs }: Span): WearReading[] {
  const isLast = [e.log.kinds.ladder, e.log.kinds.cut].every((list) => (list.at(-1)?.atMs ?? 0) <= baseline.atMs);
  if (!isLast || baseline.atMs < serviceMs) return [];
  const se = Math.hypot(BASELINE_SE, MONTH_SE * Math.min(1, (e.nowMs - baseline.atMs) / MONTH_MS));
  return [{ lnRatio: 0, se, hoursSinceBaseline: 0, fouling: [], sinceService: true, isBaseline: true }];
}

/** What the ladders say, each against the baseline of its own material. */
function ladderReadings(e: Evidence, span: Span): WearReading[] {
  const { baseline, untilMs } = span;
  const later = e.ladders.slice(firstAt(e.log.kinds.ladder, baseline.atMs)).flatMap(({ event, effective, material }): WearReading[] => {
    if (event.atMs > untilMs || event.id === baseline.id || isFaulty(e, event.atMs)) return [];
    const read = resultOf(event);
    const base = baselineFor(e.log, event.payload.materialId, event.atMs);
    if (effective.kind !== "ratio" || read.kind !== "estimate" || !base || base.id === event.id || base.atMs < baseline.atMs) return [];
    const way = base.id === baseline.id ? {} : { way: `ladder ${base.id}` };
    return [{ lnRatio: Math.log(effective.ratio), se: (material?.beta ?? 1) * read.seLn, ...since(e, event, base, span), ...way }];
  });
  return [...itself(e, span), ...later];
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
      const base = walks.findLast((w) => w.isGood && w.atMs < walk.atMs && w.readings.some((b) => b.station === r.station));
      const first = base?.readings.find((b) => b.station === r.station);
      if (!base || !first || walk.isGood || first.powerW <= 0 || r.powerW <= 0 || isFaulty(e, walk.atMs)) return [];
      const use = since(e, walk.event, base.event, span);
      const at = order.indexOf(r.station);
      const lnRatio = Math.log((r.powerW * base.setPercent) / (first.powerW * walk.setPercent));
      const fouling = use.fouling.map((f, i) => ((optics[i] as number) <= at ? f : 0));
      // What happens suddenly (aim, focus) may lie behind the meter: watts do not speak of it.
      return [{ ...use, lnRatio, se: WATTS_SE, fouling, sinceService: false, way: "watts" }];
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
const MOST_BOUNDS = 120;

/** Ladders of which every rung ended alike, and single cuts: each says that there was enough power for something, or not. */
function wearBounds(e: Evidence, span: Span): WearBound[] {
  const { baseline, untilMs, serviceMs } = span;
  const within = (atMs: number) => atMs > baseline.atMs && atMs <= untilMs && !isFaulty(e, atMs);
  const ladders = e.ladders.slice(firstAt(e.log.kinds.ladder, baseline.atMs)).flatMap(({ event, effective }) => {
    if (!within(event.atMs) || (effective.kind !== "at-least" && effective.kind !== "at-most")) return [];
    const side = effective.kind === "at-least" ? ("above" as const) : ("below" as const);
    return [{ event: event as MachineEvent, side, lnRatio: Math.log(effective.ratio), sd: LADDER_SLOPE }];
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
    return sides.map((side) => ({ event: event as MachineEvent, side, lnRatio: said.lnRatio, sd: said.sd }));
  });
  const latest = [...ladders, ...cuts].sort((a, b) => a.event.atMs - b.event.atMs).slice(-MOST_BOUNDS);
  const lastLadderMs = e.log.kinds.ladder.findLast((l) => l.atMs <= untilMs)?.atMs ?? 0;
  return latest.map(({ event, side, lnRatio, sd }) => {
    const material = event.kind === "ladder" || event.kind === "cut" ? event.payload.materialId : 0;
    const base = baselineFor(e.log, material, event.atMs) ?? baseline;
    return {
      side,
      lnRatio,
      sd,
      ...since(e, event, base, span),
      ...(base.id === baseline.id ? {} : { way: `ladder ${base.id}` }),
      isLast: event.kind === "ladder" && event.atMs === lastLadderMs && event.atMs >= serviceMs,
    };
  });
}

/** Fits of a log as it stands: nothing of one hangs on the present moment, so it holds until a record comes. */
interface KeptFit {
  readonly trade: Trade;
  readonly ladders: Chain<LadderReading>;
  readonly span: string;
  readonly fit: WearFit;
  readonly bounds: readonly WearBound[];
}
const fits = new WeakMap<EventLog, KeptFit[]>();

/** Days since the baseline, while that is all there is; later records hold whenever they are looked at. */
const dayOfBaseline = (e: Evidence, span: Span) => (itself(e, span).length > 0 ? Math.floor((e.nowMs - span.baseline.atMs) / DAY_MS) : -1);

function fitOf(e: Evidence, span: Span): KeptFit {
  const known = fits.get(e.log) ?? [];
  fits.set(e.log, known);
  // What was read up to now is all there is.
  const untilMs = span.untilMs >= e.nowMs ? Number.POSITIVE_INFINITY : span.untilMs;
  const said = JSON.stringify([span.baseline.id, untilMs, span.serviceMs, e.faulty, dayOfBaseline(e, span)]);
  const before = known.find((k) => k.trade === e.trade && k.ladders === e.ladders && k.span === said);
  if (before) return before;
  const read = resultOf(span.baseline);
  const bounds = wearBounds(e, span);
  const fit = fitWear({
    readings: [...ladderReadings(e, span), ...wattReadings(e, span)],
    bounds,
    looks: looksAt(e, span),
    ...(read.kind === "estimate" ? { baselineSe: read.seLn } : {}),
    optics: opticsOf(e.trade).length,
  });
  const kept = { trade: e.trade, ladders: e.ladders, span: said, fit, bounds };
  known.push(kept);
  return kept;
}

/** Condition at the present, told by what was read up to a time. */
export function conditionAt(e: Evidence, baseline: EventOf<"ladder">, untilMs: number, serviceMs: number): Condition {
  const { fit, bounds } = fitOf(e, { baseline, untilMs, serviceMs });
  return conditionOf(fit, bounds, hoursBetween(e, baseline.atMs, e.nowMs), less(foulingAt(e, e.nowMs), foulingAtRecord(e, baseline)));
}
