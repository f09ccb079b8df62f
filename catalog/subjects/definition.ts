/**
 * What a subject of the trade is made of: its checks, repairs, faults and signs, each with its words. Ids are the keys; what refers to
 * one by another name does not compile. `{part}` in words is the mirror's or station's name, `@k` in ids the mirror's number.
 */
import type { CheckTemplate, FaultTemplate, RepairTemplate, Symptom } from "#core/trace";
import type { SystemId } from "../systems";
import type { checks, repairs } from ".";

/** An answer to a check: its probability on a sound machine, its button, and the short form for the reasons. */
interface Outcome {
  readonly leak: number;
  readonly label: string;
  readonly short: string;
}

/** Where something stands: a station of the path or a system beside it. */
type Place = "tube" | "window" | "side-window" | "lens" | "nozzle" | SystemId;

export interface CheckDefinition extends Omit<CheckTemplate, "id" | "outcomes" | "leak" | "needs" | "needsOpen" | "needsSpare"> {
  /** Heading of the card: what to do. */
  readonly title: string;
  readonly how: string;
  readonly caution?: string;
  readonly tools?: string;
  readonly drawing?: string;
  readonly needs?: Place | "mirror" | "moving" | "power";
  readonly needsOpen?: Place | "mirror@k";
  readonly needsSpare?: Place;
  /** From nothing wrong to worst; empty where only a number is given. */
  readonly outcomes: Readonly<Record<string, Outcome>>;
  /** Short form and label of a number. */
  readonly valueShort?: string;
  readonly valueLabel?: string;
}
export type Checks = Readonly<Record<string, CheckDefinition>>;

export interface RepairDefinition extends Omit<RepairTemplate, "id" | "needs"> {
  /** What it is called on its button. */
  readonly name: string;
  readonly needs?: "aim";
  /** Parts of a round that carry it out; left out where it has a procedure of its own name. */
  readonly parts?: readonly string[];
}
export type Repairs = Readonly<Record<string, RepairDefinition>>;

type AllChecks = typeof checks;
export type CheckId = keyof AllChecks;
export type RepairId = keyof typeof repairs;

/** Checks that are made at a mirror each. */
type MirrorCheckId = { [C in CheckId]: AllChecks[C] extends { readonly needs: "mirror" | "moving" } ? C : never }[CheckId];
/** A check that a fault shows in: at its own mirror, at the next, or at each after it. */
export type EffectKey = Exclude<CheckId, MirrorCheckId> | `${MirrorCheckId}@${"k" | "next" | "after"}`;
export type Effects = Readonly<Partial<Record<EffectKey, FaultTemplate["effects"][string]>>>;

export interface FaultDefinition extends Omit<FaultTemplate, "id" | "effects" | "repair" | "mendedBy" | "station" | "lossAt"> {
  /** Heads a list: "Lens dirty". */
  readonly name: string;
  /** Goes into "Most likely …": "the lens is dirty". */
  readonly says: string;
  readonly station: Place | "mirror@k" | "aim@k";
  readonly lossAt?: Place | "mirror@k" | "next";
  readonly effects: Effects;
  readonly repair: RepairId;
  /** Other repairs that put it right on the way. */
  readonly mendedBy?: readonly RepairId[];
}
export type Faults = Readonly<Record<string, FaultDefinition>>;

/** An answer that a sign amounts to, one its check has. */
export type SignFinding = {
  [C in Exclude<CheckId, MirrorCheckId>]: { readonly check: C; readonly outcome: keyof AllChecks[C]["outcomes"] };
}[Exclude<CheckId, MirrorCheckId>];

export interface SignDefinition {
  /** As an owner would say it. */
  readonly name: string;
  /** Title of the case it opens. */
  readonly title: string;
  readonly symptom: Symptom;
  readonly findings: readonly SignFinding[];
}
export type Signs = Readonly<Record<string, SignDefinition>>;
