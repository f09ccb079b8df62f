/** Turns a case and the machine's log into what the trace engine reads. */

import { GRADES } from "#core/beam";
import { censoredRatio } from "#core/cuts";
import { type EventOf, type EventPayload, eventsBetween } from "#core/events";
import { idAt, lookCheckOf, mirrorNumberOf } from "#core/machine";
import { doseSinceClean, lastReplacedMs } from "#core/schedule";
import { DAY_MS, HOUR_MS } from "#core/time";
import { afterRepair, type TraceBaseline, type TraceFinding, type TraceInput, type TraceUsage } from "#core/trace";
import { factorOf } from "#core/wear";
import type { Finding, TraceCase } from "#store/cases";
import { opticsOf } from "../machine/condition";
import type { Gathered } from "../machine/gathered";
import { baselineFor, readingOf, resultOf } from "../machine/ladders";
import { repairsOfService } from "../machine/repairsDone";
import { stopBesidesRound } from "../machine/stop";
import { saidInRound } from "../machine/unmended";
import { usualSetPercent } from "../machine/usual";
import { goodReadings, loggedFindings } from "./logFindings";

/** A finding with where it came from, so that a reader can tell an answer from a log entry. */
export interface SourcedFinding extends TraceFinding {
  readonly source:
    | { readonly kind: "answer"; readonly findingId: number }
    | { readonly kind: "log"; readonly eventId: number }
    | { readonly kind: "round"; readonly key: string };
  readonly atMs: number;
  /** How a round left the part: it speaks of the machine after its repairs. */
  readonly asLeft?: boolean | undefined;
}

/** The baseline of every reading: the newest power walk flagged as known good. */
export function baselineOf(g: Gathered): TraceBaseline {
  const walk = g.log.kinds.power.findLast((e) => e.payload.baseline === true);
  if (!walk) return goodReadings(g);
  return {
    ...goodReadings(g),
    powerW: Object.fromEntries(walk.payload.readings.map((r) => [r.station, r.powerW])),
    setPercent: walk.payload.setPercent,
  };
}

/**
 * What a logged cut asked of the beam: against the baseline ladder of its material where there is one; without one only a cut at
 * the usual setting says anything. Undefined when it says nothing.
 */
function neededFor(g: Gathered, event: EventOf<"cut">): { lnRatio: number | undefined } | undefined {
  const material = g.materials.find((m) => m.id === event.payload.materialId);
  const base = baselineFor(g.log, event.payload.materialId, event.atMs);
  const censored =
    base && censoredRatio(event.payload, { result: resultOf(base), setPercent: base.payload.setPercent }, material?.beta ?? 1);
  if (censored) return { lnRatio: censored.lnRatio };
  const usual =
    material?.usualSpeedMmPerS === event.payload.speedMmPerS &&
    (material.usualSetPercent ?? event.payload.setPercent) === event.payload.setPercent;
  return usual ? { lnRatio: undefined } : undefined;
}

/** How the usual cut went in a ladder of its material at no more than its usual power; undefined where the ladder does not reach it. */
function usualOutcome(g: Gathered, { payload }: EventOf<"ladder">): "through" | "hangs" | "part-through" | undefined {
  const material = g.materials.find((m) => m.id === payload.materialId);
  const usual = material?.usualSpeedMmPerS;
  if (material === undefined || usual === undefined || payload.setPercent > usualSetPercent(material) + 1e-9) return undefined;
  const rising = [...payload.rungs].sort((a, b) => a.speedMmPerS - b.speedMmPerS);
  const faster = rising.find((r) => r.speedMmPerS >= usual - 1e-9);
  const slower = rising.findLast((r) => r.speedMmPerS <= usual + 1e-9);
  if (faster?.end === "dropped") return "through";
  // With less power than usual a square that stays says nothing of the usual cut.
  if (slower === undefined || slower.end === "dropped" || payload.setPercent < usualSetPercent(material) - 1e-9) return undefined;
  return slower.end === "hangs" ? "hangs" : "part-through";
}

/** The check that looks at an optic. */
function lookAt(g: Gathered, station: string): string | undefined {
  const on = g.trade.layout.stations.find((s) => s.id === station);
  return on && lookCheckOf(on);
}

/**
 * What the open round found: it speaks at once, though the log gets it only when the round is ended. Till then the machine is taken for as it
 * was, since its cleans are told with the proof.
 */
function fromOpenRound(g: Gathered, openCase: TraceCase): SourcedFinding[] {
  const records = openCase.closedMs === undefined ? (g.openRound?.records ?? []) : [];
  return records.flatMap((r): SourcedFinding[] => {
    if (r.kind !== "grade" || r.payload.phase !== "as-found" || r.atMs < openCase.onsetMs) return [];
    const source = { kind: "round", key: r.key } as const;
    const said = saidInRound(g.trade, r.payload);
    // What was asked with the machine whole speaks of what the round has done, which is told with its final test.
    if (said) return said.afterwards ? [] : said.findings.map((f) => ({ ...f, source, atMs: r.atMs, asLeft: false }));
    const check = lookAt(g, r.payload.station);
    if (check === undefined) return [];
    return [{ check, outcome: GRADES[r.payload.grade] as string, source: { kind: "round", key: r.key }, atMs: r.atMs, asLeft: false }];
  });
}

/** Readings since the onset that the log already holds. */
function fromLog(g: Gathered, openCase: TraceCase): SourcedFinding[] {
  const found: SourcedFinding[] = [];
  const untilMs = openCase.closedMs ?? g.nowMs;
  const within = eventsBetween(g.log, ["power", "ladder", "cut", "grade"], openCase.onsetMs, untilMs);
  const source = (id: number) => ({ kind: "log" as const, eventId: id });
  for (const event of within) {
    if (event.kind === "power" && !event.payload.baseline) {
      for (const r of event.payload.readings) {
        found.push({
          check: idAt("power", r.station),
          value: r.powerW,
          setPercent: event.payload.setPercent,
          source: source(event.id),
          atMs: event.atMs,
        });
      }
    }
    if (event.kind === "ladder") {
      const reading = event.payload.baseline ? undefined : readingOf(g, event)?.effective;
      if (reading?.kind !== "ratio") {
        // Without a baseline, or as the new one, it still says whether the usual cut drops.
        const usual = usualOutcome(g, event);
        if (usual !== undefined) found.push({ check: "known-cut", outcome: usual, source: source(event.id), atMs: event.atMs });
        continue;
      }
      // Seen through one pair of ladders the ratio is known to about 7 %, never better.
      found.push({
        check: "ladder",
        value: reading.ratio,
        sd: reading.ratio * Math.max(0.05, reading.seLn),
        source: source(event.id),
        atMs: event.atMs,
      });
    }
    if (event.kind === "cut") {
      const needed = neededFor(g, event);
      if (needed === undefined) continue;
      found.push({
        check: "known-cut",
        outcome: event.payload.result,
        neededLnRatio: needed.lnRatio,
        source: source(event.id),
        atMs: event.atMs,
      });
    }
    if (event.kind === "grade") {
      const said = saidInRound(g.trade, event.payload);
      for (const f of said?.findings ?? []) found.push({ ...f, source: source(event.id), atMs: event.atMs, asLeft: said?.afterwards });
      if (said) continue;
      const check = lookAt(g, event.payload.station);
      if (!check) continue;
      found.push({
        check,
        outcome: GRADES[event.payload.grade] as string,
        source: source(event.id),
        atMs: event.atMs,
        asLeft: event.payload.phase === "as-left",
      });
    }
  }
  for (const { eventId, atMs, ...said } of loggedFindings(g, openCase.onsetMs, untilMs))
    found.push({ ...said, source: source(eventId), atMs });
  return found;
}

/** All that was ever found in a case, in the order it was found; for a qualitative check the later one counts. */
export function everFound(g: Gathered, openCase: TraceCase, findings: readonly Finding[]): SourcedFinding[] {
  const answers = findings
    .filter((f) => !f.withdrawn)
    .map(
      (f): SourcedFinding => ({
        check: f.check,
        outcome: f.outcome,
        value: f.value,
        setPercent: f.setPercent,
        source: { kind: "answer", findingId: f.id },
        atMs: f.atMs,
        ...(f.atMs <= openCase.openedMs ? { complaint: true } : {}),
      }),
    );
  const known = new Set(g.trade.model.checks.map((c) => c.id));
  return [...fromLog(g, openCase), ...fromOpenRound(g, openCase), ...answers]
    .filter((f) => known.has(f.check))
    .sort((a, b) => a.atMs - b.atMs);
}

/** Repairs that were done in the course of a case: when the first was begun, and when the last was done. */
export interface Mending {
  /** Whether it was the case's own round, and nothing besides. */
  readonly isOwn: boolean;
  readonly startedMs: number;
  readonly endedMs: number;
  readonly repairs: readonly string[];
}

/** All that was found in a case, by what it speaks of: the machine as it is, or as it was before a repair that did not bring it back. */
export interface CaseFindings {
  readonly now: readonly SourcedFinding[];
  readonly before: readonly { readonly done: Mending; readonly findings: readonly SourcedFinding[] }[];
  /** What speaks of the machine as it was long ago, before more repairs than the engine is told of. */
  readonly longAgo: readonly SourcedFinding[];
}

export function caseFindings(g: Gathered, openCase: TraceCase, findings: readonly Finding[]): CaseFindings {
  let now = everFound(g, openCase, findings);
  const all = mendedIn(g, openCase, now).flatMap((done) => {
    const isSince = (f: SourcedFinding) => {
      if (f.asLeft === undefined) return f.atMs >= done.endedMs;
      // A part as it was found is told with its clean, as it was left too.
      return f.asLeft ? f.atMs >= done.startedMs : f.atMs > done.endedMs;
    };
    const told = now.filter((f) => !isSince(f));
    // What was done before anything was found is how the machine came here.
    if (told.length === 0) return [];
    const left = afterRepair(g.trade.model, told, done.repairs);
    now = [...left.still, ...now.filter(isSince)];
    return { done, findings: left.before };
  });
  const before = toldOf(all);
  return { now, before, longAgo: all.slice(0, all.length - before.length).flatMap((b) => b.findings) };
}

/**
 * So many repairs of a case are told to the engine with what was found before them; every one makes the question larger. In a case that is
 * left open for weeks the weekly cleans come to more: what was found before the older ones speaks of a machine that is long another.
 */
const TOLD_REPAIRS = 20;

function toldOf(before: CaseFindings["before"]): CaseFindings["before"] {
  let repairs = 0;
  const from = before.findLastIndex(({ done }, i) => {
    repairs += done.repairs.length;
    return i < before.length - 1 && repairs > TOLD_REPAIRS;
  });
  return before.slice(from + 1);
}

/** A finding as the engine takes it. */
export const plainly = ({ source: _, atMs: __, asLeft: ___, ...said }: SourcedFinding): TraceFinding => said;

/**
 * What was mended since the onset of an open case, in its order: by its own rounds, by any other, and by whoever told it to the log. What
 * nothing was found between is one mending. Those of a case that is closed are in its report.
 */
function mendedIn(g: Gathered, openCase: TraceCase, found: readonly SourcedFinding[]): Mending[] {
  const own = g.openCases.find((c) => c.id === openCase.id)?.mended;
  if (own === undefined) return [];
  const others = new Map<number | string, Mending>();
  for (const event of eventsBetween(g.log, ["service", "hours"], openCase.onsetMs, g.nowMs)) {
    // A new tube may be told with its counter as well as as a part.
    const told = event.kind === "service" ? event.payload : event.payload.because === "tube-changed" ? NEW_TUBE : undefined;
    if (told === undefined || own.some((r) => r.roundId === event.roundId)) continue;
    const repairs = repairsOfService(g.trade, told);
    const key = event.roundId ?? `at ${event.atMs}`;
    if (repairs.length > 0)
      others.set(key, together(others.get(key), { isOwn: false, startedMs: event.atMs, endedMs: event.atMs, repairs }));
  }
  const merged: Mending[] = [];
  const rounds = own.map((r) => ({ isOwn: true, startedMs: r.startedMs, endedMs: r.endedMs, repairs: r.repairs }));
  for (const next of [...rounds, ...others.values()].sort((a, b) => a.endedMs - b.endedMs)) {
    const last = merged.at(-1);
    const isApart = last === undefined || found.some((f) => f.asLeft === undefined && f.atMs >= last.endedMs && f.atMs <= next.startedMs);
    if (isApart) merged.push(next);
    else merged[merged.length - 1] = together(last, next);
  }
  return merged;
}

const NEW_TUBE = { station: "tube", what: "replaced" } as const;

const together = (a: Mending | undefined, b: Mending): Mending =>
  a === undefined
    ? b
    : {
        isOwn: a.isOwn && b.isOwn,
        startedMs: Math.min(a.startedMs, b.startedMs),
        endedMs: Math.max(a.endedMs, b.endedMs),
        repairs: [...new Set([...a.repairs, ...b.repairs])],
      };

/** Checks that are not asked in a case: never on this machine, or not known in this one. */
export const declinedIn = (g: Gathered, openCase: TraceCase): readonly string[] => [
  ...g.declined,
  ...(g.openCases.find((c) => c.id === openCase.id)?.unknown ?? []),
];

/** Weeks after which an opened seat no longer raises suspicion. */
const SEAT_MEMORY_DAYS = 60;

/** A part of the path taken out, changed or aimed; the fan in the duct counts when it was cleaned, since it came out for that. */
function opensSeat(g: Gathered, service: EventPayload["service"]): boolean {
  if (service.station === "exhaust") return true;
  return g.trade.layout.stations.some((s) => s.id === service.station) && ["seat-opened", "replaced", "aimed"].includes(service.what);
}

/** Days to the hour: finer says nothing, and would make every minute another question. */
const daysSince = (atMs: number, nowMs: number) => Math.max(0, Math.floor((nowMs - atMs) / HOUR_MS) / 24);

/**
 * Checks that a machine leaves no sense in (who focuses by itself has no gauge), that would open what is not for owners, or that would fire
 * while something speaks against it; the spare of what is broken or out may be tried.
 */
function neverAsked(g: Gathered): string[] {
  const { layout } = g.trade;
  const closed = layout.path
    .filter((s) => s.warranty)
    .flatMap((s) => {
      const k = mirrorNumberOf(s.id);
      const own = [idAt("power", s.id), lookCheckOf(s) ?? ""];
      return k === undefined ? own : [...own, ...["mirror-seat", "tape", "tape-travel"].map((c) => idAt(c, k))];
    });
  const stop = stopBesidesRound(g);
  const mayTry = stop?.because === "broken" || stop?.because === "out" ? stop.station : undefined;
  const firing = stop
    ? g.trade.model.checks.filter((c) => c.fires && (mayTry === undefined || c.needsSpare !== mayTry)).map((c) => c.id)
    : [];
  return [...(layout.fittings.extras.includes("autofocus") ? ["focus-gauge"] : []), ...closed, ...firing];
}

/** The rates that the machine's own readings say: one reading of wear for the beam line, Outlook and the trace. */
function fittedWear(g: Gathered): TraceUsage["fitted"] {
  const { condition } = g;
  if (!condition) return undefined;
  const { tube } = condition.parts;
  // No finer than it matters: every record would make another question of the same one.
  const plain = ({ mean, sd }: { mean: number; sd: number }, digits: number) => ({
    mean: Number(mean.toFixed(digits)),
    sd: Number(sd.toFixed(digits)),
  });
  return {
    foulingFactors: Object.fromEntries(opticsOf(g.trade).map((s, i) => [s.id, plain(factorOf(condition.fit, i), 1)])),
    tubeLoss: plain({ mean: Math.max(0, tube.mean), sd: tube.sd }, 3),
  };
}

/** Hours and smoke no finer than they matter: use goes on by itself, and every minute would be another question. */
const roughly = (amount: number, step: number) => Math.round(amount / step) * step;
const TUBE_STEP_H = 1;
const SMOKE_STEP_H = 0.25;
const hoursOf = (hours: number | undefined) => (hours === undefined ? undefined : roughly(hours, TUBE_STEP_H));

/** How the machine was used up to a time (ms). */
function usageAt(g: Gathered, atMs: number): TraceUsage {
  const coolantMs = lastReplacedMs(g.log, "coolant", atMs);
  return {
    tubeHours: hoursOf(g.usage.tubeHoursAt(atMs) ?? g.usage.tubeHours),
    ratedTubeHours: g.machine.ratedTubeHours,
    smokeDoseSinceClean: Object.fromEntries(
      g.trade.layout.stations.map((s) => [s.id, roughly(doseSinceClean(g.usage, g.log, s.id, atMs), SMOKE_STEP_H)]),
    ),
    seatsOpened: eventsBetween(g.log, ["service"], atMs - SEAT_MEMORY_DAYS * DAY_MS, atMs)
      .filter((e) => opensSeat(g, e.payload))
      .map((e) => ({ station: e.payload.station, daysAgo: daysSince(e.atMs, atMs) })),
    fitted: fittedWear(g),
    daysSinceCoolantChange: coolantMs === undefined ? undefined : daysSince(coolantMs, atMs),
  };
}

export function traceInput(g: Gathered, openCase: TraceCase, { now, before }: CaseFindings): TraceInput {
  return {
    usage: usageAt(g, g.nowMs),
    baseline: baselineOf(g),
    findings: now.map(plainly),
    declined: [...declinedIn(g, openCase), ...neverAsked(g)],
    spares: g.trade.layout.path.filter((s) => (s.spares ?? 0) > 0).map((s) => s.id),
    found: g.found,
    symptom: openCase.symptom,
    maxFaults: 3,
    mended: [...new Set(before.flatMap((b) => b.done.repairs))],
    before: before.map(({ done, findings }) => ({
      repairs: done.repairs,
      findings: findings.map(plainly),
      // As it was found: its own cleans come later.
      usage: usageAt(g, done.startedMs),
    })),
  };
}
