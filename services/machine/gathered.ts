/** What is known of one machine at a moment, as every place's view reads it. Types alone: `gather.ts` fills it. */
import type { EventOf } from "#core/events";
import type { Plan } from "#core/plan";
import type { GivenGrade, RoundRecord } from "#core/rounds";
import type { DueTask } from "#core/schedule";
import type { Condition } from "#core/wear";
import type { TraceCase } from "#store/cases";
import type { Machine, Material } from "#store/machines";
import type { TaskInForce, UpkeepGround } from "../upkeep/inForce";
import type { Evidence } from "./condition";

export interface Gathered extends Evidence {
  readonly machine: Machine;
  readonly machines: readonly Machine[];
  readonly materials: readonly Material[];
  readonly logStartMs: number;
  readonly doses: ReadonlyMap<string, number>;
  /** Last grade of each station and system that still holds: a part that was mended or replaced since has none. */
  readonly grades: ReadonlyMap<string, GivenGrade>;
  /** Its tasks by what each follows, and what is used up of those that fall due by anything. */
  readonly tasks: readonly TaskInForce[];
  readonly due: readonly DueTask[];
  readonly upkeep: UpkeepGround;
  /** The rounds of the days to come, as every place has them. */
  readonly plan: Plan;
  readonly baseline: EventOf<"ladder"> | undefined;
  readonly condition: Condition | undefined;
  readonly openRound: OpenRound | undefined;
  /** Stations that are out of the machine, and since when (ms). */
  readonly out: ReadonlyMap<string, number>;
  /** Grades without what the open round has seen and done. */
  readonly gradesBefore: ReadonlyMap<string, GivenGrade>;
  /** Since when the power is turned down for test pulses (ms); undefined while it is as usual. */
  readonly turnedDownMs: number | undefined;
  /** Cases that are open, oldest first; the one opened last is in hand. */
  readonly openCases: readonly OpenCase[];
  readonly openCase: OpenCase | undefined;
  /** How often each fault ended a case of this workshop. */
  readonly found: { readonly cases: number; readonly faults: Readonly<Record<string, number>> };
  /** As its owner writes it after an amount; empty while nobody said. */
  readonly currency: string;
  /** The practice bench is at hand: simulated devices to try things with. */
  readonly hasBench: boolean;
  /** Checks that its owner cannot make on this machine. */
  readonly declined: readonly string[];
}

/** The round that is open, and whether the machine is apart for it. */
export interface OpenRound {
  readonly id: number;
  readonly title: string;
  readonly startedMs: number;
  readonly apart: boolean;
  /** A step of it turned the power down, and none has put it back. */
  readonly isTurnedDown: boolean;
  /** What was seen and done in it so far; it goes into the log when the round is ended. */
  readonly records: readonly RoundRecord[];
}

/** A case that is open, with what was done and what nobody knows in it. */
export interface OpenCase extends TraceCase {
  /** Its own rounds that mended something and did not bring it back, in the order they ended. */
  readonly mended: readonly MendedRound[];
  /** Checks nobody knows the answer of in it. */
  readonly unknown: readonly string[];
}

/** A repair round of an open case: what it mended, when it was begun and when it ended. */
export interface MendedRound {
  readonly roundId: number;
  readonly startedMs: number;
  readonly endedMs: number;
  readonly repairs: readonly string[];
}

/** What matters most about a machine, without its condition. */
export interface MachineState extends Pick<Gathered, "trade" | "grades" | "nowMs" | "out" | "turnedDownMs"> {
  readonly openRound: OpenRound | undefined;
  readonly openCases: readonly TraceCase[];
  readonly due: readonly DueTask[];
}
