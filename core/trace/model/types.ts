/** The words of the engine: what a model is made of, what is asked of it, and what it answers. */
import type { Station } from "#core/beam";

/** What an owner complains about; a fault declares which of them it can cause. */
export const SYMPTOMS = ["power", "cut-quality", "motion", "sensing", "cooling", "smoke", "housekeeping"] as const;
export type Symptom = (typeof SYMPTOMS)[number];

export const SEVERITIES = ["light", "heavy"] as const;
export type Severity = (typeof SEVERITIES)[number];
/** A pair of figures, for the light and for the heavy form of a fault. */
export type BySeverity<T> = readonly [light: T, heavy: T];

/** What moves the prior odds of a fault with use. */
export type UsageDriver =
  | { readonly kind: "dose"; readonly station: string; readonly intervalPlyHours: number }
  | { readonly kind: "tube-hours" }
  | { readonly kind: "seat"; readonly station: string }
  | { readonly kind: "coolant-age"; readonly intervalDays: number };

/** How a fault shows in one check. */
export type Effect =
  /** Probability of each outcome caused by the fault alone, in the order of the check's outcomes, sums to 1. */
  | { readonly kind: "outcomes"; readonly light: readonly number[]; readonly heavy: readonly number[] }
  /** Chance that a cut with something else in another's place drops although this fault is still there (see `tries`). */
  | { readonly kind: "holds"; readonly light: number; readonly heavy: number }
  /** Shift of a numeric reading, in the check's unit (ln units where the check is a ratio), with its spread. */
  | { readonly kind: "shift"; readonly mean: BySeverity<number>; readonly sd: BySeverity<number> };

export interface FaultSpec {
  /** Public id with its `@k` expanded, e.g. `aim-off@1`. */
  readonly id: string;
  /** Station or system that is at fault. */
  readonly station: string;
  /** Station after which the lost power is missing; undefined when watts do not see the fault. */
  readonly lossAt?: string | undefined;
  /** Loss in ln power (or, where watts do not see it, in ln effective power). */
  readonly loss: BySeverity<number>;
  readonly lossSd: BySeverity<number>;
  /** The ladder's share of the loss: 1 sees it as watts do, 1.5 half as much again, 0 not at all. */
  readonly cutGain: number;
  /** Beam pushed off the axis: such faults add as vectors, not as losses. */
  readonly movesBeam: boolean;
  /** Prior probability before usage, 0..1, with its reason for the reader. */
  readonly baseRate: number;
  readonly reason: string;
  readonly heavyShare: number;
  readonly usage?: UsageDriver | undefined;
  readonly symptoms: Partial<Record<Symptom, number>>;
  readonly effects: Readonly<Record<string, readonly Effect[]>>;
  readonly repair: string;
  /** Other repairs whose own work puts it right as well: a spare lens is a clean one. */
  readonly mendedBy?: readonly string[] | undefined;
  /** A fault of one span of a case (`past.ts`): which of the machine's it is by its place, and from which time until which it is at work. */
  readonly span?: { readonly of: number; readonly from: number; readonly until: number } | undefined;
  /** Factor on its odds besides use; 1 where left out. */
  readonly oddsFactor?: number | undefined;
}

/** A numeric reading compared with what is usual. */
export interface ValueScale {
  readonly unit: string;
  /** Reading where nothing is wrong; `baseline` names the owner's own figure, without which the reading is unusable. */
  readonly usual: number | { readonly baseline: "tubeCurrentMa" | "coolantFlowLpm" | "ductSpeedMps"; readonly fallback?: number };
  /** Compare as a difference or as ln of a ratio. */
  readonly compare: "difference" | "ratio" | "magnitude";
  /** Spread of healthy machines, and default reading error, in compared units. */
  readonly spread: number;
  readonly sd: number;
  readonly min: number;
  readonly max: number;
}

export interface CheckSpec {
  /** Public id with its `@k` expanded, e.g. `mirror-look@2`, `power@lens`. */
  readonly id: string;
  readonly kind: "ordinal" | "nominal" | "loss";
  /** From nothing wrong to worst for ordinal checks; empty for purely numeric ones. */
  readonly outcomes: readonly string[];
  /** Probability of each outcome when no fault acts on it, sums to 1. */
  readonly leak: readonly number[];
  /** For nominal checks: the weight of "something else" against the losses of the faults at work. */
  readonly leakWeight: number;
  readonly value?: ValueScale | undefined;
  /** For `loss` checks: what is measured. */
  readonly measures?: { readonly kind: "power"; readonly station: string } | { readonly kind: "ladder" } | { readonly kind: "cut" };
  readonly minutes: number;
  /** Station that must be open; when it already is, the check takes `minutesOpened`. */
  readonly needsOpen?: string | undefined;
  readonly minutesOpened?: number | undefined;
  /** Station whose spare it fits: asked only where there is one. */
  readonly needsSpare?: string | undefined;
  /** Only where it can be done with every panel and interlock in place, else left to a qualified person. */
  readonly gated: boolean;
  /** The beam is fired for it: everything is closed then, and nothing on the path may be broken. */
  readonly fires: boolean;
  readonly symptom?: Symptom | undefined;
  /** Station whose optic its outcomes grade. */
  readonly grades?: string | undefined;
  /** Looks at the part itself: its bad outcome is the fault seen, not a sign of it. */
  readonly sight?: boolean | undefined;
  /** An answer that has carried out and proven a repair at once: another sheet that cuts through is taken already, a spare lens is in. */
  readonly tries?: { readonly outcome: string; readonly repair: string } | undefined;
  /** What its answer speaks of besides what its faults show: how it came, which no repair changes, or the beam's way. */
  readonly speaksOf?: "history" | "beam" | undefined;
  /** Probability that the answer was given by a slip; a percent where left out, less where what is seen is looked at twice. */
  readonly slip?: number | undefined;
  /** A check as it was answered before a repair: which one, and at which time of the case. It is never asked. */
  readonly past?: { readonly id: string; readonly time: number } | undefined;
}

export interface RepairSpec {
  readonly id: string;
  readonly minutes: number;
  /** Station it opens, and what of its minutes that takes where it is not open yet. */
  readonly opens?: string | undefined;
  readonly openingMinutes: number;
  /** Whether the machine is made safe for it. */
  readonly madeSafe: boolean;
  readonly proofMinutes: number;
  /** What it costs beyond its minutes where it was not needed, in minutes: wear, money, somebody called. */
  readonly needlessMinutes: number;
  /** Whether marks and maps from before it still say anything. */
  readonly movesBeam: boolean;
}

/** One machine's share of the trade: its path, and every fault, check and repair its layout has. */
export interface TraceModel {
  readonly stations: readonly Station[];
  /** Off-path systems, in display order. */
  readonly systems: readonly string[];
  readonly faults: readonly FaultSpec[];
  readonly checks: readonly CheckSpec[];
  readonly repairs: readonly RepairSpec[];
  /** Expected fouling: loss in ln power at the end of an optic's interval, and that interval. */
  readonly background: readonly { readonly station: string; readonly intervalPlyHours: number; readonly lossAtInterval: number }[];
  /** Ln effective power, against the baseline, that its owner's usual cut needs to drop. */
  readonly usualNeedLn: number;
  /** Beam radius (mm) used to turn aim losses into offsets. */
  readonly beamRadiusMm: number;
}

export interface TraceUsage {
  readonly tubeHours?: number | undefined;
  readonly ratedTubeHours?: number | undefined;
  /** Firing hours since a station was last cleaned. */
  readonly hoursSinceClean?: Readonly<Record<string, number>> | undefined;
  /** Ply-hours since a station was last cleaned; beats the hours. */
  readonly smokeDoseSinceClean?: Readonly<Record<string, number>> | undefined;
  readonly seatsOpened?: readonly { readonly station: string; readonly daysAgo: number }[] | undefined;
  readonly daysSinceCoolantChange?: number | undefined;
  /** What this machine's own readings say of wear, where they say something; the usual rates otherwise. */
  readonly fitted?:
    | {
        /** How much faster than usual each optic fouls. */
        readonly foulingFactors: Readonly<Record<string, { readonly mean: number; readonly sd: number }>>;
        /** What the tube has lost since the baseline, in ln power. */
        readonly tubeLoss: { readonly mean: number; readonly sd: number };
      }
    | undefined;
}

export interface TraceFinding {
  readonly check: string;
  readonly outcome?: string | undefined;
  readonly value?: number | undefined;
  /** Standard error of the value in its own unit. */
  readonly sd?: number | undefined;
  readonly setPercent?: number | undefined;
  /** For a cut at a setting of its own: ln effective power it needs to drop, against the baseline; the usual cut's where it is not given. */
  readonly neededLnRatio?: number | undefined;
  /** What the owner came with, not the answer to a question: nobody complains of a thing looked at once and badly. */
  readonly complaint?: boolean | undefined;
}

export interface TraceBaseline {
  /** Watts after each station when the machine was known to be good. */
  readonly powerW?: Readonly<Record<string, number>> | undefined;
  readonly tubeCurrentMa?: number | undefined;
  readonly coolantFlowLpm?: number | undefined;
  readonly ductSpeedMps?: number | undefined;
  readonly setPercent?: number | undefined;
}

export interface TraceInput {
  readonly usage?: TraceUsage | undefined;
  readonly opened?: readonly string[] | undefined;
  readonly findings?: readonly TraceFinding[] | undefined;
  readonly baseline?: TraceBaseline | undefined;
  /** Checks that cannot be made on this machine, or not by this owner: never asked. */
  readonly declined?: readonly string[] | undefined;
  /** Stations of which a spare is at hand: without one a check that fits it is never asked. */
  readonly spares?: readonly string[] | undefined;
  /** What was reported; taken from the findings when left out. */
  readonly symptom?: Symptom | undefined;
  /** Largest number of faults at once, 1..3; default 2. */
  readonly maxFaults?: 1 | 2 | 3 | undefined;
  /** Repairs done in this case that did not bring it back: named again only where something new speaks for them. */
  readonly mended?: readonly string[] | undefined;
  /** Those repairs in their order, each with what was found before it and speaks of the machine as it was then. */
  readonly before?: readonly TraceBefore[] | undefined;
  /** How often each fault ended a case of this workshop, of how many cases that ended with one. */
  readonly found?: FoundBefore | undefined;
}

/** Repairs that were done in the course of a case; whether they brought it back is told by what is found since. */
export interface TraceBefore {
  readonly repairs: readonly string[];
  /** What was found before it and does not hold after it; what still does stands among the findings. */
  readonly findings: readonly TraceFinding[];
  /** Use up to it, where that is known. */
  readonly usage?: TraceUsage | undefined;
}

export interface FoundBefore {
  readonly cases: number;
  readonly faults: Readonly<Record<string, number>>;
}

export interface LossPercent {
  readonly mid: number;
  readonly low: number;
  readonly high: number;
}

export interface NextCheck {
  readonly check: string;
  readonly bits: number;
  readonly bitsPerMinute: number;
  readonly minutes: number;
  /** Minutes of repairs that knowing its answer saves on average, its own not taken off. */
  readonly savedMinutes: number;
  readonly gated: boolean;
  /** Whether it saves more than it takes: what does not is never asked. */
  readonly helps: boolean;
  /** For the three best: the leading fault after each outcome (for numbers: at a low, middle and high reading). */
  readonly meanings: readonly {
    readonly outcome: string;
    readonly probability: number;
    readonly fault: string | null;
    readonly faultProbability: number;
    /** What one round would repair then, the likeliest first. */
    readonly plan: readonly string[];
  }[];
}

export interface TraceAnswer {
  readonly faults: readonly { readonly id: string; readonly probability: number; readonly heavy: number }[];
  readonly stations: readonly {
    readonly id: string;
    readonly probability: number;
    /** What is lost there as a cut sees it, and what of it watts see as well. */
    readonly lossPercent: LossPercent;
    readonly lightPercent: LossPercent;
  }[];
  /** Probability that the cause is not in the catalog. */
  readonly none: number;
  /** Probability that nothing is wrong. */
  readonly nothingWrong: number;
  /** Probability of exactly 1, 2, 3 faults that can cause the reported symptom. */
  readonly bySize: readonly number[];
  /** Most probable sets, falling. */
  readonly sets: readonly { readonly faults: readonly string[]; readonly probability: number }[];
  readonly symptom: Symptom;
  /** `before` is the round (from 0) before which it was found, where it does not speak of the machine as it is. */
  readonly evidence: readonly { readonly check: string; readonly fault: string; readonly decibans: number; readonly before?: number }[];
  readonly suspectReadings: readonly { readonly check: string; readonly reason: string }[];
  readonly nextChecks: readonly NextCheck[];
  /** Decision probabilities per repair, falling. */
  readonly repairs: readonly { readonly id: string; readonly probability: number }[];
  /** The repair to go to now by the stop rule, or null while a check is worth its minutes. */
  readonly repair: string | null;
  /**
   * Repairs to do in one round: the main one first, then what was seen bad and what is worth its minutes while the machine is open.
   * The main one is the likeliest where `repair` is null. Where that one is dear, what was seen and is cheap stands here instead of it.
   */
  readonly plan: readonly string[];
  /** Faults that were seen and can cause what was reported, likeliest first. */
  readonly seen: readonly string[];
  readonly stop: {
    /**
     * `seen`: the fault was looked at and explains what was reported; `idle`: no check left would change anything; `before`: what was seen
     * and is cheap comes before the dear repair that is likelier.
     */
    readonly reason: "seen" | "before" | "sure" | "idle" | "proof" | "check" | "unknown";
  };
  /** Probability mass outside the sets that the next checks were ranked on. */
  readonly rankingMassLeftOut: number;
}
