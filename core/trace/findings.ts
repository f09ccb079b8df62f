/** Answers and figures sorted by how they speak of a fault: by a table, as a figure of its own, or of the light. */
import { GRADES } from "#core/beam";
import { gradeReading, type LossReading, logAgainstBaseline, placeOf } from "./readings";
import type { CheckSpec, FaultSpec, TraceBaseline, TraceFinding, TraceInput, TraceModel } from "./types";

/** Share of answers that are slips of eye, hand or key: keeps every outcome possible. */
export const SLIP = 0.01;

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

/** Effects of one fault on one check, several contributions combined by the caller. */
function effectsOn(fault: FaultSpec, check: CheckSpec) {
  return fault.effects[check.id] ?? [];
}

/** Likelihood of each outcome of one check for any set, from per-state tables. */
export interface OutcomeTable {
  readonly check: CheckSpec;
  readonly outcomes: number;
  /** Fills `out` with P(outcome | set), slips included; sums to 1. */
  readonly fill: (a: number, b: number, c: number, out: Float64Array) => void;
  /** Whether a state shows in it; its table (cumulative for ordinal checks), its weight in a mixture; the leak likewise; the share of slips. */
  readonly touched: Uint8Array;
  readonly table: Float64Array;
  readonly weight: Float64Array;
  readonly leak: Float64Array;
  readonly slip: number;
  /** Of a thing that is tried: chance that the cut drops although the state is still there; 1 where it says nothing. */
  readonly drops?: Float64Array | undefined;
}

/** A model is built once per machine, and its tables depend on nothing else. */
const outcomeTables = new WeakMap<TraceModel, Map<string, OutcomeTable>>();
const valueTables = new WeakMap<TraceModel, Map<string, ValueTable>>();

function kept<T>(of: WeakMap<TraceModel, Map<string, T>>, model: TraceModel, check: string, make: () => T): T {
  const tables = of.get(model) ?? new Map<string, T>();
  of.set(model, tables);
  const table = tables.get(check) ?? make();
  tables.set(check, table);
  return table;
}

export const outcomeTable = (model: TraceModel, check: CheckSpec): OutcomeTable =>
  kept(outcomeTables, model, check.id, () => makeOutcomeTable(model, check));

export const valueTable = (model: TraceModel, check: CheckSpec): ValueTable =>
  kept(valueTables, model, check.id, () => makeValueTable(model, check));

/**
 * Per-state tables of one check. Ordinal: noisy-MAX, P(O <= j | S) = leak_j Π c_fj. Nominal: mixture of the causes in S
 * and of the leak, weighted by their losses. A thing that is tried has two outcomes, and the second needs one of its own faults to be there
 * and the rest of the set to let the cut drop: (1 - leak_0 Π c_f) Π d_g.
 */
function makeOutcomeTable(model: TraceModel, check: CheckSpec): OutcomeTable {
  const k = check.outcomes.length;
  const slip = check.slip ?? SLIP;
  const states = model.faults.length * 2;
  const touched = new Uint8Array(states);
  const table = new Float64Array(states * k);
  const weight = new Float64Array(states);
  const drops = check.tries === undefined ? undefined : new Float64Array(states).fill(1);
  if (drops && (k !== 2 || check.kind !== "ordinal")) throw new RangeError(`${check.id} is tried, so it has two outcomes in an order`);
  model.faults.forEach((fault, f) => {
    for (const effect of effectsOn(fault, check)) {
      if (effect.kind === "shift") continue;
      for (const sev of [0, 1] as const) {
        const s = 2 * f + sev;
        if (effect.kind === "holds") {
          if (!drops) throw new RangeError(`${fault.id} holds back ${check.id}, which tries nothing`);
          touched[s] = 1;
          drops[s] = sev === 0 ? effect.light : effect.heavy;
          table.fill(1, s * k, (s + 1) * k);
          continue;
        }
        const given = sev === 0 ? effect.light : effect.heavy;
        if (given.length !== k) throw new RangeError(`${fault.id} states ${given.length} outcomes for ${check.id}, which has ${k}`);
        touched[s] = 1;
        weight[s] = Math.max(0.02, fault.loss[sev] * fault.cutGain);
        let sum = 0;
        for (let j = 0; j < k; j++) {
          sum += given[j]!;
          table[s * k + j] = check.kind === "ordinal" ? Math.min(1, sum) : given[j]!;
        }
      }
    }
  });
  const leak = new Float64Array(k);
  let sum = 0;
  for (let j = 0; j < k; j++) {
    sum += check.leak[j]!;
    leak[j] = check.kind === "ordinal" ? Math.min(1, sum) : check.leak[j]!;
  }
  const base = new Float64Array(k);
  const compute = (a: number, b: number, c: number, out: Float64Array): void => {
    const ta = a >= 0 && touched[a] === 1;
    const tb = b >= 0 && touched[b] === 1;
    const tc = c >= 0 && touched[c] === 1;
    if (check.kind === "ordinal") {
      let previous = 0;
      for (let j = 0; j < k; j++) {
        let cumulative = leak[j]!;
        if (ta) cumulative *= table[a * k + j]!;
        if (tb) cumulative *= table[b * k + j]!;
        if (tc) cumulative *= table[c * k + j]!;
        if (j === k - 1) cumulative = 1;
        out[j] = Math.max(0, cumulative - previous);
        previous = cumulative;
      }
      if (drops) {
        out[1] = out[1]! * (a < 0 ? 1 : drops[a]!) * (b < 0 ? 1 : drops[b]!) * (c < 0 ? 1 : drops[c]!);
        out[0] = 1 - out[1]!;
      }
    } else {
      const wa = ta ? weight[a]! : 0;
      const wb = tb ? weight[b]! : 0;
      const wc = tc ? weight[c]! : 0;
      const total = check.leakWeight + wa + wb + wc;
      for (let j = 0; j < k; j++) {
        let sum = check.leakWeight * leak[j]!;
        if (ta) sum += wa * table[a * k + j]!;
        if (tb) sum += wb * table[b * k + j]!;
        if (tc) sum += wc * table[c * k + j]!;
        out[j] = sum / total;
      }
    }
    for (let j = 0; j < k; j++) out[j] = (1 - slip) * out[j]! + slip / k;
  };
  compute(-1, -1, -1, base);
  const fill = (a: number, b: number, c: number, out: Float64Array): void => {
    // Most sets hold no fault this check can see.
    if ((a < 0 || touched[a] === 0) && (b < 0 || touched[b] === 0) && (c < 0 || touched[c] === 0)) out.set(base);
    else compute(a, b, c, out);
  };
  return { check, outcomes: k, fill, touched, table, weight, leak, slip, drops };
}

/** Mean and variance of a numeric check's deviation for any set, reading error apart. */
export interface ValueTable {
  readonly check: CheckSpec;
  readonly fill: (a: number, b: number, c: number, out: { mean: number; variance: number }) => void;
  /** Density that slips alone give any value. */
  readonly slip: number;
  /** Whether a state shows in it. */
  readonly touched: Uint8Array;
}

function makeValueTable(model: TraceModel, check: CheckSpec): ValueTable {
  const scale = check.value as NonNullable<CheckSpec["value"]>;
  const states = model.faults.length * 2;
  const mean = new Float64Array(states);
  const variance = new Float64Array(states);
  const touched = new Uint8Array(states);
  model.faults.forEach((fault, f) => {
    for (const effect of effectsOn(fault, check)) {
      if (effect.kind !== "shift") continue;
      for (const sev of [0, 1] as const) {
        touched[2 * f + sev] = 1;
        mean[2 * f + sev] = effect.mean[sev];
        variance[2 * f + sev] = effect.sd[sev] ** 2;
      }
    }
  });
  const spread = scale.spread ** 2;
  const magnitude = scale.compare === "magnitude";
  const shifted = magnitude ? mean.map((m) => m * m) : mean;
  const fill = (a: number, b: number, c: number, out: { mean: number; variance: number }): void => {
    let total = 0;
    let v = spread;
    if (a >= 0) {
      total += shifted[a]!;
      v += variance[a]!;
    }
    if (b >= 0) {
      total += shifted[b]!;
      v += variance[b]!;
    }
    if (c >= 0) {
      total += shifted[c]!;
      v += variance[c]!;
    }
    // Offsets of several causes point in different directions, so their squares add.
    out.mean = magnitude ? Math.sqrt(total) : total;
    out.variance = v;
  };
  return { check, fill, slip: SLIP / Math.max(1, scale.max - scale.min), touched };
}

/** Faults whose loss no reading of the light sees, because there is none or because they take no light. */
export function darkUnder({ faults }: TraceModel, { losses, cuts }: Pick<SortedFindings, "losses" | "cuts">): (fault: number) => boolean {
  const seesLight = losses.length > 0 || cuts.length > 0;
  return (f) => !seesLight || !(faults[f]?.loss.some((loss) => loss > 0) ?? false);
}
