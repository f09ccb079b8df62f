/**
 * # Service rounds
 * Answers: which steps a round has and in which order, how many minutes it takes, and what it leaves in the log. A round is a
 * frame (make safe first, proof last) around the parts chosen; the frame bends to what the parts open.
 */

import type { FromSchema } from "json-schema-to-ts";
import type { Grade } from "#core/beam";
import type { EventPayload } from "#core/events";

export type StepKind = "do" | "grade" | "confirm" | "choice" | "proof";

/** One thing to do, standing at the machine. */
export interface Step {
  readonly id: string;
  /** Heading in the round's way through the machine. */
  readonly part: string;
  readonly kind: StepKind;
  readonly title: string;
  readonly text: string;
  readonly minutes: number;
  /** Station that a grade or a service belongs to. */
  readonly station?: string | undefined;
  readonly phase?: "as-found" | "as-left" | undefined;
  /** Surface under the hand: names the agents allowed and refused on it. */
  readonly surface?: string | undefined;
  readonly agents?: readonly string[] | undefined;
  readonly caution?: string | undefined;
  readonly tools?: readonly string[] | undefined;
  readonly timer?: { readonly seconds: number; readonly name: string } | undefined;
  readonly drawing?: string | undefined;
  /** What the log says once the step is done. */
  readonly service?: EventPayload["service"]["what"] | undefined;
  /** What must be ticked before going on. */
  readonly tick?: string | undefined;
}

/** A part of a round: the steps for one station, system or repair. */
export interface Procedure {
  readonly id: string;
  readonly name: string;
  /** `apart`: unplugged and open, with the whole frame; `running`: done with the machine whole. */
  readonly state: "apart" | "running";
  /** The lens stack comes apart: reassembly and focus are needed. */
  readonly opensHead?: boolean;
  /** The panel's power is turned down for it and must be put back. */
  readonly lowPower?: boolean;
  readonly steps: readonly Step[];
}

export interface RoundPlan {
  readonly steps: readonly Step[];
  readonly minutes: number;
  /** True when the machine is apart while the round is open. */
  readonly apart: boolean;
  readonly tools: readonly string[];
}

/** The frame's own steps, by the place they stand at. */
export interface RoundFrame {
  readonly before: readonly Step[];
  readonly reassemble: readonly Step[];
  readonly powerOn: readonly Step[];
  readonly powerBack: Step;
  readonly proof: Step;
}

/** Puts the parts into the frame. Steps keep their order; a step id occurs once. */
export function planRound(parts: readonly Procedure[], frame: RoundFrame): RoundPlan {
  const apart = parts.some((p) => p.state === "apart");
  const steps: Step[] = [];
  if (apart) steps.push(...frame.before);
  for (const part of parts.filter((p) => p.state === "apart")) steps.push(...part.steps);
  if (parts.some((p) => p.opensHead)) steps.push(...frame.reassemble);
  if (apart) steps.push(...frame.powerOn);
  // What needs the machine whole comes once the covers are on.
  for (const part of parts.filter((p) => p.state === "running")) steps.push(...part.steps);
  if (apart || parts.some((p) => p.lowPower)) steps.push(frame.powerBack);
  steps.push(frame.proof);
  return {
    steps,
    minutes: minutesOf(steps),
    apart,
    tools: [...new Set(steps.flatMap((s) => [...(s.tools ?? []), ...(s.agents ?? [])]))],
  };
}

export function minutesOf(steps: readonly Step[]): number {
  return Math.round(steps.reduce((sum, s) => sum + s.minutes, 0) * 2) / 2;
}

/** Answer to one step. */
export const roundAnswerSchema = {
  type: "object",
  properties: {
    done: { const: true },
    grade: { type: "integer", minimum: 0, maximum: 4 },
    choice: { type: "string", maxLength: 40 },
    skipped: { type: "string", minLength: 2, maxLength: 200 },
    note: { type: "string", maxLength: 500 },
    atMs: { type: "number" },
  },
  required: ["atMs"],
  additionalProperties: false,
} as const;
export type RoundAnswer = FromSchema<typeof roundAnswerSchema>;

/**
 * The answer to a step after a further one: what is said anew counts, what is not said again stays. A grade changed later leaves the
 * step done; done and skipped exclude each other.
 */
export function mergeAnswer(before: RoundAnswer | undefined, next: RoundAnswer): RoundAnswer {
  const { done, skipped, ...rest } = before ?? { atMs: next.atMs };
  const kept = next.done === undefined && next.skipped === undefined ? { ...(done ? { done } : {}), ...(skipped ? { skipped } : {}) } : {};
  return { ...rest, ...kept, ...next };
}

/** A step is behind us when it was done, graded or skipped. */
export function isAnswered(answer: RoundAnswer | undefined): boolean {
  return answer !== undefined && (answer.done === true || answer.skipped !== undefined);
}

/** Index of the first step still to do; the number of steps when all are answered. */
export function nextStep(steps: readonly Step[], answers: ReadonlyMap<string, RoundAnswer>): number {
  const i = steps.findIndex((s) => !isAnswered(answers.get(s.id)));
  return i < 0 ? steps.length : i;
}

export interface RoundRecord {
  readonly kind: "grade" | "service";
  readonly atMs: number;
  readonly payload: EventPayload["grade"] | EventPayload["service"];
  readonly key: string;
}

/** What a round leaves in the log: every grade given and every service done; skipped steps leave nothing. */
export function roundRecords(steps: readonly Step[], answers: ReadonlyMap<string, RoundAnswer>): RoundRecord[] {
  const records: RoundRecord[] = [];
  for (const step of steps) {
    const answer = answers.get(step.id);
    if (!answer?.done || !step.station) continue;
    const note = answer.note ? { note: answer.note } : {};
    if (step.kind === "grade" && step.phase && answer.grade !== undefined) {
      records.push({
        kind: "grade",
        atMs: answer.atMs,
        key: step.id,
        payload: { station: step.station, phase: step.phase, grade: answer.grade, ...note },
      });
    }
    if (step.service) {
      records.push({
        kind: "service",
        atMs: answer.atMs,
        key: `${step.id}:service`,
        payload: { station: step.station, what: step.service, ...note },
      });
    }
  }
  return records;
}

/** What a grade asks for, said where the grade is given. Grade 4 on an optic stops use of the beam. */
export function gradeAdvice(station: string, phase: "as-found" | "as-left", grade: Grade): { text: string; stop: boolean } | undefined {
  if (grade === 4) {
    return {
      text: "Stop here: do not fire with this part. Do not blow at, wipe or vacuum a cracked optic: mask and gloves, pick it up damp, sealed bag, hazardous waste. Take a photo and ask the maker or supplier.",
      stop: true,
    };
  }
  if (grade === 3 && phase === "as-found") {
    return {
      text: "Only a suspicion yet: clean it, then look again. A dark centre that stays is debris burnt into the coating.",
      stop: false,
    };
  }
  if (grade === 3) {
    if (station === "lens") return { text: "Spots that stay are burnt in: fit the spare lens now, this one will crack.", stop: false };
    if (station === "window") return { text: "Stop and ask the tube's supplier: spots on the exit window are the tube's own.", stop: true };
    return { text: "Order a spare and look at this one in every round.", stop: false };
  }
  return undefined;
}
