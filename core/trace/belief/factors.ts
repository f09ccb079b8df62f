/**
 * What the findings that are independent given a set of faults say of it: a factor for each, from flat tables in which an empty place of a
 * set is neutral. The inner loop of a trace.
 */
import type { OutcomeFinding, ValueFinding } from "../light/findings";
import { SLIP } from "../model/slips";
import type { TraceModel } from "../model/types";
import { type OutcomeTable, outcomeTable, valueTable } from "./tables";

export interface Factors {
  readonly checks: readonly string[];
  /** Fills one factor for each check under the set; -1 marks an empty place. */
  readonly fill: (a: number, b: number, c: number, out: Float64Array) => void;
  /** Where a state of the order shows in each check. */
  readonly places: readonly Int16Array[];
  /** What was found, by check and answer: two findings of one name have the same factors. */
  readonly names: readonly string[];
  /** Factors without any fault, and with each state that shows alone, by its place among `places`. */
  readonly plain: Float64Array;
  readonly plainWith: readonly Float64Array[];
  /** The same for a row of sets, of the places from `from` on: see `RowFactors`. */
  readonly fillRow: (a: number, b: number, from: number, out: RowFactors) => void;
  readonly newRow: () => RowFactors;
}

/** The factors of a row of sets {a, b, and another}, by check. */
export interface RowFactors {
  /** Of {a, b} by themselves, which hold with every state that does not show. */
  readonly alone: Float64Array;
  /** With each state that shows, by its place among `places`; where neither of the two shows these are the plain ones. */
  readonly showing: Float64Array[];
  readonly isPlain: Uint8Array;
}

/** Share of the leak and of the slips that is left where an answer is what the owner came with. */
const COMPLAINED = 0.05;

/** What leaks and slips count for in a finding: less in a complaint of something odd; how it came is told as it always is. */
const strayShare = ({ check, outcome, complaint }: OutcomeFinding): number =>
  complaint && outcome > 0 && check.speaksOf !== "history" ? COMPLAINED : 1;

/** How often an answer is given under a fault that least leads to it: that much of it is chance under any other. */
const leastShown = ({ touched, table, outcomes }: OutcomeTable, outcome: number): number =>
  touched.reduce((least, shows, s) => (shows === 1 ? Math.min(least, table[s * outcomes + outcome]!) : least), 1);

/** Tables of `count` rows over the states and one neutral place after them. */
const rows = (count: number, places: number, neutral: number) => new Float64Array(count * places).fill(neutral);

/** Places of an order where a state shows. */
const showing = (order: Int16Array, touched: Uint8Array): Int16Array =>
  Int16Array.from([...order.keys()].filter((k) => touched[order[k]!] === 1));

/** `order` is that of the states in a row. */
export function factorsOf(
  model: TraceModel,
  outcomes: readonly OutcomeFinding[],
  values: readonly ValueFinding[],
  order: Int16Array = new Int16Array(0),
): Factors {
  const states = model.faults.length * 2;
  const places = states + 1;
  const ordinal = outcomes.filter((o) => o.check.kind === "ordinal");
  const nominal = outcomes.filter((o) => o.check.kind !== "ordinal");

  // Noisy-MAX: P(O = j) is a difference of two products.
  const O = ordinal.length;
  const upper = rows(O, places, 1);
  const lower = rows(O, places, 1);
  const upperLeak = new Float64Array(O);
  const lowerLeak = new Float64Array(O);
  const slipO = new Float64Array(O);
  const evenO = new Float64Array(O);
  // What is tried: P(second) is such a difference as well, and P(first) what is left of it.
  const rest = new Uint8Array(O);
  ordinal.forEach((finding, i) => {
    const { check, outcome } = finding;
    const table = outcomeTable(model, check);
    const stray = strayShare(finding);
    const last = outcome === table.outcomes - 1;
    upperLeak[i] = last ? 1 : 1 - stray * (1 - table.leak[outcome]!);
    lowerLeak[i] = outcome === 0 ? 0 : 1 - stray * (1 - table.leak[outcome - 1]!);
    slipO[i] = 1 - stray * table.slip;
    evenO[i] = (stray * table.slip) / table.outcomes;
    if (table.drops) {
      rest[i] = outcome === 0 ? 1 : 0;
      upperLeak[i] = 1;
      lowerLeak[i] = 1 - stray * (1 - table.leak[0]!);
      for (let s = 0; s < states; s++) {
        if (table.touched[s] === 0) continue;
        upper[i * places + s] = table.drops[s]!;
        lower[i * places + s] = table.drops[s]! * table.table[s * table.outcomes]!;
      }
      return;
    }
    for (let s = 0; s < states; s++) {
      if (table.touched[s] === 0) continue;
      if (!last) upper[i * places + s] = table.table[s * table.outcomes + outcome]!;
      if (outcome > 0) lower[i * places + s] = table.table[s * table.outcomes + outcome - 1]!;
    }
  });

  // Leaky mixture over the causes at work, weighted by their losses.
  const N = nominal.length;
  const part = rows(N, places, 0);
  const weight = rows(N, places, 0);
  const leakPart = new Float64Array(N);
  const leakWeight = new Float64Array(N);
  const slipN = new Float64Array(N);
  const evenN = new Float64Array(N);
  nominal.forEach((finding, i) => {
    const { check, outcome } = finding;
    const table = outcomeTable(model, check);
    const stray = strayShare(finding);
    leakPart[i] = check.leakWeight * stray * table.leak[outcome]!;
    leakWeight[i] = check.leakWeight;
    slipN[i] = 1 - stray * table.slip;
    evenN[i] = (stray * table.slip) / table.outcomes;
    const strays = stray < 1 ? (1 - stray) * leastShown(table, outcome) : 0;
    for (let s = 0; s < states; s++) {
      if (table.touched[s] === 0) continue;
      weight[i * places + s] = table.weight[s]!;
      part[i * places + s] = table.weight[s]! * (table.table[s * table.outcomes + outcome]! - strays);
    }
  });

  const V = values.length;
  const valueTables = values.map((v) => valueTable(model, v.check));
  const moments = { mean: 0, variance: 0 };
  const valueFactor = (i: number, a: number, b: number, c: number): number => {
    const finding = values[i]!;
    const table = valueTables[i]!;
    table.fill(a, b, c, moments);
    const variance = moments.variance + finding.variance;
    const d = finding.deviation - moments.mean;
    return (1 - SLIP) * Math.exp((-0.5 * d * d) / variance) * Math.sqrt(1 / (2 * Math.PI * variance)) + table.slip;
  };

  const checks = [...ordinal, ...nominal, ...values].map((f) => f.check.id);
  const fill = (a: number, b: number, c: number, out: Float64Array): void => {
    const x = a < 0 ? states : a;
    const y = b < 0 ? states : b;
    const z = c < 0 ? states : c;
    for (let i = 0; i < O; i++) {
      const at = i * places;
      const high = upperLeak[i]! * upper[at + x]! * upper[at + y]! * upper[at + z]!;
      const low = lowerLeak[i]! * lower[at + x]! * lower[at + y]! * lower[at + z]!;
      const p = Math.max(0, high - low);
      out[i] = slipO[i]! * (rest[i] === 1 ? 1 - p : p) + evenO[i]!;
    }
    for (let i = 0; i < N; i++) {
      const at = i * places;
      const parts = leakPart[i]! + part[at + x]! + part[at + y]! + part[at + z]!;
      const weights = leakWeight[i]! + weight[at + x]! + weight[at + y]! + weight[at + z]!;
      out[O + i] = (slipN[i]! * parts) / weights + evenN[i]!;
    }
    for (let i = 0; i < V; i++) out[O + N + i] = valueFactor(i, a, b, c);
  };

  const touched = [
    ...[...ordinal, ...nominal].map(({ check }) => outcomeTable(model, check).touched),
    ...valueTables.map((table) => table.touched),
  ];
  const shown = touched.map((t) => showing(order, t));
  const buffers = shown.map((ks) => new Float64Array(ks.length));
  /** The factors of one check in a row, into its buffer; the factor of {a, b} is in `alone` already. */
  const fillShown = (f: number, a: number, b: number, from: number, row: Float64Array): void => {
    const x = a < 0 ? states : a;
    const y = b < 0 ? states : b;
    const ks = shown[f]!;
    if (f < O) {
      const at = f * places;
      const high = upperLeak[f]! * upper[at + x]! * upper[at + y]!;
      const low = lowerLeak[f]! * lower[at + x]! * lower[at + y]!;
      for (let t = ks.length - 1; t >= 0 && ks[t]! >= from; t--) {
        const z = at + order[ks[t]!]!;
        const p = Math.max(0, high * upper[z]! - low * lower[z]!);
        row[t] = slipO[f]! * (rest[f] === 1 ? 1 - p : p) + evenO[f]!;
      }
    } else if (f < O + N) {
      const i = f - O;
      const at = i * places;
      const parts = leakPart[i]! + part[at + x]! + part[at + y]!;
      const weights = leakWeight[i]! + weight[at + x]! + weight[at + y]!;
      for (let t = ks.length - 1; t >= 0 && ks[t]! >= from; t--) {
        const z = at + order[ks[t]!]!;
        row[t] = (slipN[i]! * (parts + part[z]!)) / (weights + weight[z]!) + evenN[i]!;
      }
    } else for (let t = ks.length - 1; t >= 0 && ks[t]! >= from; t--) row[t] = valueFactor(f - O - N, a, b, order[ks[t]!]!);
  };
  const plain = new Float64Array(checks.length);
  fill(-1, -1, -1, plain);
  const plainWith = shown.map((ks, f) => {
    const row = new Float64Array(ks.length);
    fillShown(f, -1, -1, 0, row);
    return row;
  });
  const fillRow = (a: number, b: number, from: number, { alone, showing: apart, isPlain }: RowFactors): void => {
    fill(a, b, -1, alone);
    for (let f = 0; f < checks.length; f++) {
      const shows = touched[f]!;
      isPlain[f] = (a >= 0 && shows[a] === 1) || (b >= 0 && shows[b] === 1) ? 0 : 1;
      apart[f] = isPlain[f] === 1 ? plainWith[f]! : buffers[f]!;
      if (isPlain[f] === 0) fillShown(f, a, b, from, buffers[f]!);
    }
  };
  const newRow = () => ({ alone: new Float64Array(checks.length), showing: [...plainWith], isPlain: new Uint8Array(checks.length) });
  const names = [
    ...[...ordinal, ...nominal].map(({ check, ...said }) => JSON.stringify([check.id, said])),
    ...values.map(({ check, ...read }) => JSON.stringify([check.id, read])),
  ];
  return { checks, names, fill, places: shown, plain, plainWith, fillRow, newRow };
}
