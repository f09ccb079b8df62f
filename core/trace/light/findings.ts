/** Answers and figures sorted by how they speak of a fault: by a table, as a figure of its own, or of the light. */
import { GRADES } from "#core/beam";
import type { CheckSpec, TraceBaseline, TraceFinding, TraceInput, TraceModel } from "../model/types";
import { gradeReading, type LossReading, logAgainstBaseline, placeOf } from "./readings";

/** A finding that speaks through outcomes. */
export interface OutcomeFinding {
  readonly check: CheckSpec;
  readonly outcome: number;
  readonly complaint: boolean;
}

/** A cut that was made, and what it needed to drop. */
export interface CutFinding extends OutcomeFinding {
  readonly neededLnRatio: number;
  /** For a cut that is complained of. */
  readonly orWorse?: boolean;
}

/** A number outside the light budget: millimetres, degrees, milliamperes. */
export interface ValueFinding {
  readonly check: CheckSpec;
  /** Compared with the usual, in compared units. */
  readonly deviation: number;
  readonly variance: number;
}

export interface SortedFindings {
  readonly outcomes: readonly OutcomeFinding[];
  readonly values: readonly ValueFinding[];
  /** Of the light; the grade of a look stands among the outcomes as well. */
  readonly losses: readonly LossReading[];
  /** Cuts that were made, each a reading of its own. */
  readonly cuts: readonly CutFinding[];
  readonly suspect: readonly { readonly check: string; readonly reason: string }[];
}

const POWER_SD_SHARE = 0.03;
const LADDER_SD = 0.07;

/** Usual figure and comparison of a numeric check; undefined when it needs a baseline that was never taken. */
export function deviationOf(check: CheckSpec, value: number, baseline: TraceBaseline | undefined): number | undefined {
  const scale = check.value;
  if (!scale) return undefined;
  const usual = typeof scale.usual === "number" ? scale.usual : (baseline?.[scale.usual.baseline] ?? scale.usual.fallback);
  if (usual === undefined) return undefined;
  if (scale.compare === "magnitude") return Math.abs(value - usual);
  if (scale.compare === "ratio") return Math.log(Math.max(value, scale.min, 1e-3) / usual);
  return value - usual;
}

/** A value's standard error turned into compared units. */
function comparedSd(check: CheckSpec, value: number, sd: number | undefined): number {
  const scale = check.value as NonNullable<CheckSpec["value"]>;
  if (sd === undefined) return scale.sd;
  return scale.compare === "ratio" ? sd / Math.max(Math.abs(value), 1e-3) : sd;
}

/**
 * Sorts findings by how they speak. A value beats an outcome; repeating a qualitative check replaces it; repeating a
 * numeric one adds a reading, and so does a further cut. Watts that rise along the path by more than their error are named and down-weighted. `now` is the last time of
 * the case.
 */
export function sortFindings(model: TraceModel, input: Pick<TraceInput, "findings" | "baseline">, now = 0): SortedFindings {
  const outcomes = new Map<string, OutcomeFinding>();
  const values = new Map<string, { check: CheckSpec; deviation: number; precision: number }>();
  const losses: LossReading[] = [];
  const cuts: CutFinding[] = [];
  const suspect: { check: string; reason: string }[] = [];
  for (const finding of input.findings ?? []) {
    const check = model.checks.find((c) => c.id === finding.check);
    if (!check) throw new RangeError(`check "${finding.check}" does not exist on this machine`);
    if (finding.value !== undefined && check.kind === "loss" && check.measures && check.measures.kind !== "cut") {
      losses.push(lossReading(model, check, finding, input.baseline, now));
    } else if (finding.value !== undefined && check.value) {
      const deviation = deviationOf(check, finding.value, input.baseline);
      if (deviation === undefined) {
        suspect.push({ check: publicId(check), reason: "no baseline to compare this reading with, so it says nothing yet" });
        continue;
      }
      const precision = 1 / comparedSd(check, finding.value, finding.sd) ** 2;
      const before = values.get(check.id);
      const total = precision + (before?.precision ?? 0);
      values.set(check.id, {
        check,
        deviation: (deviation * precision + (before?.deviation ?? 0) * (before?.precision ?? 0)) / total,
        precision: total,
      });
    } else if (finding.outcome !== undefined) {
      const outcome = check.outcomes.indexOf(finding.outcome);
      if (outcome < 0) throw new RangeError(`check "${check.id}" has no outcome "${finding.outcome}"`);
      const said = { check, outcome, complaint: finding.complaint === true };
      if (check.measures?.kind === "cut") cuts.push({ ...said, neededLnRatio: finding.neededLnRatio ?? model.usualNeedLn });
      else outcomes.set(check.id, said);
    }
  }
  // A value beats the words for the same check.
  for (const id of values.keys()) outcomes.delete(id);
  return {
    outcomes: [...outcomes.values()],
    values: [...values.values()].map((v) => ({ check: v.check, deviation: v.deviation, variance: 1 / v.precision })),
    // Where nothing else is known of the light, grades say nothing beyond what their tables say.
    losses: [...downWeightImpossible(model, losses, suspect), ...(losses.length + cuts.length > 0 ? graded(model, outcomes, now) : [])],
    cuts: countedCuts(cuts),
    suspect,
  };
}

/**
 * Cuts as they count: what an owner comes with failed more than once, so badly or worse, and speaks until the cut is made again; every cut
 * that is made is a reading of its own.
 */
function countedCuts(cuts: readonly CutFinding[]): CutFinding[] {
  const madeAgain = new Set(cuts.filter((c) => !c.complaint).map((c) => c.check.id));
  return cuts.flatMap((c) => {
    if (!c.complaint || c.outcome === 0) return [c];
    const failed = { ...c, orWorse: true };
    return madeAgain.has(c.check.id) ? [] : [failed, failed];
  });
}

/** What the looks at optics say of their losses. */
const graded = (model: TraceModel, outcomes: ReadonlyMap<string, OutcomeFinding>, now: number): LossReading[] =>
  [...outcomes.values()].flatMap(({ check, outcome }) => {
    const grade = GRADES[outcome];
    // What is damaged tells nothing of its dirt.
    return check.grades === undefined || grade === undefined || grade === "damaged"
      ? []
      : [gradeReading(check.id, placeOf(model, check.grades), grade, check.past?.time ?? now)];
  });

function lossReading(
  model: TraceModel,
  check: CheckSpec,
  finding: TraceFinding,
  baseline: TraceBaseline | undefined,
  now: number,
): LossReading {
  const time = check.past?.time ?? now;
  const value = Math.max(1e-3, finding.value as number);
  if (check.measures?.kind === "power") {
    const against = logAgainstBaseline(model, check.measures.station, value, finding.setPercent, baseline);
    return {
      check: check.id,
      kind: "power",
      at: placeOf(model, check.measures.station),
      y: against.y,
      sd: finding.sd === undefined ? POWER_SD_SHARE : finding.sd / value,
      floating: against.floating,
      time,
    };
  }
  return {
    check: check.id,
    kind: "ladder",
    at: model.stations.length - 1,
    y: Math.log(value),
    sd: finding.sd === undefined ? LADDER_SD : finding.sd / value,
    floating: false,
    time,
  };
}

/** The id a check is known by, whenever it was answered. */
export const publicId = (check: CheckSpec): string => check.past?.id ?? check.id;

const checkOf = (model: TraceModel, { check }: LossReading) => model.checks.find((c) => c.id === check) as CheckSpec;

/** Ln steps beyond which more light after a station than before it cannot be reading error. */
const RISE_SIGMAS = 2;

function downWeightImpossible(
  model: TraceModel,
  readings: readonly LossReading[],
  suspect: { check: string; reason: string }[],
): LossReading[] {
  const walk = readings.filter((r) => r.kind === "power").sort((a, b) => a.time - b.time || a.at - b.at);
  const inflate = new Map<LossReading, number>();
  for (let i = 1; i < walk.length; i++) {
    const before = walk[i - 1] as LossReading;
    const after = walk[i] as LossReading;
    if (before.time !== after.time || before.at === after.at || before.floating !== after.floating) continue;
    const rise = after.y - before.y;
    const error = Math.hypot(before.sd, after.sd);
    if (rise <= RISE_SIGMAS * error) continue;
    const name = (r: LossReading) => model.stations[r.at]?.id ?? r.check;
    for (const r of [before, after]) {
      suspect.push({
        check: publicId(checkOf(model, r)),
        reason: `${Math.round((Math.exp(rise) - 1) * 100)} % more light after ${name(after)} than after ${name(before)}, which no optic can do: take both again. Counted with little weight.`,
      });
      inflate.set(r, Math.max(inflate.get(r) ?? 0, rise));
    }
  }
  for (const r of readings) {
    if (r.floating || r.y <= 3 * Math.hypot(r.sd, 0.03)) continue;
    suspect.push({
      check: publicId(checkOf(model, r)),
      reason: "clearly above the baseline: either the baseline was taken on a bad day or this reading is off",
    });
  }
  return readings.map((r) => (inflate.has(r) ? { ...r, sd: Math.hypot(r.sd, inflate.get(r) as number) } : r));
}

/** Faults whose loss no reading of the light sees, because there is none or because they take no light. */
export function darkUnder({ faults }: TraceModel, { losses, cuts }: Pick<SortedFindings, "losses" | "cuts">): (fault: number) => boolean {
  const seesLight = losses.length > 0 || cuts.length > 0;
  return (f) => !seesLight || !(faults[f]?.loss.some((loss) => loss > 0) ?? false);
}
