/** Faults, checks and repairs as the catalog writes them: for any machine, with `@k` where one is made for each mirror. */
import type { Condition } from "#core/machine";
import type { MarkEffect } from "./tilt";
import type { BySeverity, CheckSpec, Effect, Symptom, ValueScale } from "./types";

/** A figure that differs at the head mirror, where dirt is worst, and (for aim) at the tube itself. */
export type ByPlace = number | { readonly head: number; readonly back: number; readonly tube?: number };

export interface FaultTemplate {
  readonly id: string;
  /** `mirror@k`, `aim@k` (the tube for k = 0), or a station's or system's id. */
  readonly station: string;
  /** What the machine, or the part it stands at, must be like. */
  readonly when?: Condition;
  /** As `station`, or `next`; left out where watts do not see the fault. */
  readonly lossAt?: string;
  readonly loss?: BySeverity<number>;
  readonly lossSd?: BySeverity<number>;
  readonly cutGain?: number;
  readonly movesBeam?: boolean;
  readonly baseRate: ByPlace;
  readonly reason: string;
  readonly heavyShare?: number;
  readonly usage?: "dose" | "tube-hours" | "seat" | "coolant-age";
  readonly symptoms: Partial<Record<Symptom, number>>;
  readonly effects: Readonly<Record<string, Effect | MarkEffect | readonly Effect[]>>;
  /** Tilts the beam: its loss and its marks follow from the path behind it. */
  readonly tilts?: boolean;
  /** How an aim shows over the bed with no, one, or two legs after it that grow with travel, and with the only one there is. */
  readonly bedMapByTravel?: readonly [Effect, Effect, Effect, Effect];
  readonly repair: string;
  /** Other repairs that put it right on the way. */
  readonly mendedBy?: readonly string[];
}

export interface CheckTemplate {
  readonly id: string;
  /** Station or system it needs on the machine; `mirror` expands it over the mirrors, `moving` over those that travel, `power` over stations. */
  readonly needs?: string;
  /** What the machine, or the part it stands at, must be like. */
  readonly when?: Condition;
  readonly kind: CheckSpec["kind"];
  readonly outcomes: readonly string[];
  readonly leak: readonly number[];
  readonly leakWeight?: number;
  readonly value?: ValueScale;
  readonly measures?: "power" | "ladder" | "cut";
  readonly minutes: ByPlace;
  readonly needsOpen?: string;
  readonly minutesOpened?: number;
  /** Station whose spare it takes. */
  readonly needsSpare?: string;
  readonly gated?: boolean;
  /** The beam is fired for it. */
  readonly fires?: boolean;
  readonly symptom?: Symptom;
  /** Its outcomes are the grades of the optic that is opened for it. */
  readonly graded?: boolean;
  /** Looks at the part itself. */
  readonly sight?: boolean;
  /** An answer that is a repair and its proof in one. */
  readonly tries?: { readonly outcome: string; readonly repair: string };
  /** Of how it came, which no repair changes; or of the beam's way, which some do. */
  readonly speaksOf?: CheckSpec["speaksOf"];
  readonly slip?: number;
}

export interface RepairTemplate {
  readonly id: string;
  readonly needs?: string;
  /** What the machine, or the part it stands at, must be like. */
  readonly when?: Condition;
  readonly minutes: ByPlace;
  readonly proofMinutes?: number;
  readonly needlessMinutes?: number;
  /** Station it opens. */
  readonly opens?: string;
  /** False where nothing is opened or touched that would have to be made safe. */
  readonly madeSafe?: boolean;
  /** Touches what the beam, the focus or the bed stand by. */
  readonly movesBeam?: boolean;
}
