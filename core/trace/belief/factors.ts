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

/** Places of an order where a state shows. */
const showing = (order: Int16Array, touched: Uint8Array): Int16Array =>
  Int16Array.from([...order.keys()].filter((k) => touched[order[k]!] === 1));

/** What one finding says: of the set of up to three states, where the number of states itself marks an empty place. */
interface Factor {
  readonly of: (x: number, y: number, z: number) => number;
  /** The same of {x, y} with each state in turn that shows, of the places of `order` from `from` on, into `row`. */
  readonly each: (x: number, y: number, shown: Int16Array, order: Int16Array, from: number, row: Float64Array) => void;
  readonly touched: Uint8Array;
}

const neutral = (places: number, value: number) => new Float64Array(places).fill(value);

/** An ordered answer by noisy-MAX: P(O = j) is a difference of two products. What is tried says so of its second answer, and its first is the rest. */
function noisyMax(model: TraceModel, finding: OutcomeFinding): Factor {
  const { check, outcome } = finding;
  const { touched, table, outcomes, leak, slip, drops } = outcomeTable(model, check);
  const stray = strayShare(finding);
  const last = drops === undefined && outcome === outcomes - 1;
  const isRest = drops !== undefined && outcome === 0;
  const upperLeak = drops !== undefined || last ? 1 : 1 - stray * (1 - leak[outcome]!);
  const under = drops === undefined ? outcome - 1 : 0;
  const lowerLeak = under < 0 ? 0 : 1 - stray * (1 - leak[under]!);
  const told = 1 - stray * slip;
  const even = (stray * slip) / outcomes;
  const upper = neutral(touched.length + 1, 1);
  const lower = neutral(touched.length + 1, 1);
  for (let s = 0; s < touched.length; s++) {
    if (touched[s] === 0) continue;
    if (drops !== undefined) {
      upper[s] = drops[s]!;
      lower[s] = drops[s]! * table[s * outcomes]!;
      continue;
    }
    if (!last) upper[s] = table[s * outcomes + outcome]!;
    if (outcome > 0) lower[s] = table[s * outcomes + outcome - 1]!;
  }
  const said = (high: number, low: number): number => {
    const p = Math.max(0, high - low);
    return told * (isRest ? 1 - p : p) + even;
  };
  return {
    touched,
    of: (x, y, z) => said(upperLeak * upper[x]! * upper[y]! * upper[z]!, lowerLeak * lower[x]! * lower[y]! * lower[z]!),
    each: (x, y, shown, order, from, row) => {
      const high = upperLeak * upper[x]! * upper[y]!;
      const low = lowerLeak * lower[x]! * lower[y]!;
      for (let t = shown.length - 1; t >= 0 && shown[t]! >= from; t--) {
        const z = order[shown[t]!]!;
        row[t] = said(high * upper[z]!, low * lower[z]!);
      }
    },
  };
}

/** An answer that has no order, as a leaky mixture over the causes at work, weighted by what they take. */
function mixture(model: TraceModel, finding: OutcomeFinding): Factor {
  const { check, outcome } = finding;
  const made = outcomeTable(model, check);
  const { touched, table, outcomes, leak, slip } = made;
  const stray = strayShare(finding);
  const leakPart = check.leakWeight * stray * leak[outcome]!;
  const told = 1 - stray * slip;
  const even = (stray * slip) / outcomes;
  const strays = stray < 1 ? (1 - stray) * leastShown(made, outcome) : 0;
  const part = neutral(touched.length + 1, 0);
  const weight = neutral(touched.length + 1, 0);
  for (let s = 0; s < touched.length; s++) {
    if (touched[s] === 0) continue;
    weight[s] = made.weight[s]!;
    part[s] = made.weight[s]! * (table[s * outcomes + outcome]! - strays);
  }
  return {
    touched,
    of: (x, y, z) =>
      (told * (leakPart + part[x]! + part[y]! + part[z]!)) / (check.leakWeight + weight[x]! + weight[y]! + weight[z]!) + even,
    each: (x, y, shown, order, from, row) => {
      const parts = leakPart + part[x]! + part[y]!;
      const weights = check.leakWeight + weight[x]! + weight[y]!;
      for (let t = shown.length - 1; t >= 0 && shown[t]! >= from; t--) {
        const z = order[shown[t]!]!;
        row[t] = (told * (parts + part[z]!)) / (weights + weight[z]!) + even;
      }
    },
  };
}

/** A figure: normal about what the states at work shift it by. */
function figure(model: TraceModel, { check, deviation, variance }: ValueFinding, states: number): Factor {
  const table = valueTable(model, check);
  const moments = { mean: 0, variance: 0 };
  const place = (x: number) => (x === states ? -1 : x);
  const of = (x: number, y: number, z: number): number => {
    table.fill(place(x), place(y), place(z), moments);
    const spread = moments.variance + variance;
    const off = deviation - moments.mean;
    return (1 - SLIP) * Math.exp((-0.5 * off * off) / spread) * Math.sqrt(1 / (2 * Math.PI * spread)) + table.slip;
  };
  return {
    touched: table.touched,
    of,
    each: (x, y, shown, order, from, row) => {
      for (let t = shown.length - 1; t >= 0 && shown[t]! >= from; t--) row[t] = of(x, y, order[shown[t]!]!);
    },
  };
}

/** `order` is that of the states in a row. */
export function factorsOf(
  model: TraceModel,
  outcomes: readonly OutcomeFinding[],
  values: readonly ValueFinding[],
  order: Int16Array = new Int16Array(0),
): Factors {
  const states = model.faults.length * 2;
  const told = [...outcomes.filter((o) => o.check.kind === "ordinal"), ...outcomes.filter((o) => o.check.kind !== "ordinal")];
  const factors = [
    ...told.map((o) => (o.check.kind === "ordinal" ? noisyMax(model, o) : mixture(model, o))),
    ...values.map((v) => figure(model, v, states)),
  ];
  const place = (state: number) => (state < 0 ? states : state);
  const fill = (a: number, b: number, c: number, out: Float64Array): void => {
    const [x, y, z] = [place(a), place(b), place(c)];
    for (let f = 0; f < factors.length; f++) out[f] = factors[f]!.of(x, y, z);
  };
  const places = factors.map(({ touched }) => showing(order, touched));
  const buffers = places.map((shown) => new Float64Array(shown.length));
  const plain = new Float64Array(factors.length);
  fill(-1, -1, -1, plain);
  const plainWith = factors.map(({ each }, f) => {
    const row = new Float64Array(places[f]!.length);
    each(states, states, places[f]!, order, 0, row);
    return row;
  });
  return {
    checks: [...told, ...values].map((f) => f.check.id),
    names: [...told, ...values].map(({ check, ...said }) => JSON.stringify([check.id, said])),
    fill,
    places,
    plain,
    plainWith,
    fillRow: (a, b, from, { alone, showing: apart, isPlain }) => {
      fill(a, b, -1, alone);
      for (let f = 0; f < factors.length; f++) {
        const { touched, each } = factors[f]!;
        isPlain[f] = (a >= 0 && touched[a] === 1) || (b >= 0 && touched[b] === 1) ? 0 : 1;
        apart[f] = isPlain[f] === 1 ? plainWith[f]! : buffers[f]!;
        if (isPlain[f] === 0) each(place(a), place(b), places[f]!, order, from, buffers[f]!);
      }
    },
    newRow: () => ({ alone: new Float64Array(factors.length), showing: [...plainWith], isPlain: new Uint8Array(factors.length) }),
  };
}
