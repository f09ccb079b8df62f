/** What an answer or a figure says of a set of faults: tables by state, made once for each check of a model. */
import { SLIP } from "../model/slips";
import type { CheckSpec, FaultSpec, TraceModel } from "../model/types";

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
