import type { EventPayload } from "#core/events";

export type StepKind = "do" | "grade" | "confirm" | "choice" | "proof";

/** An agent chosen for a step, with how it is used there. */
export interface StepAgent {
  readonly id: string;
  readonly name: string;
  readonly how: string;
  /** Not on the owner's shelf: to be bought before the round. */
  readonly missing?: boolean;
}

/** One thing to do, standing at the machine; as a round's plan keeps it. */
export interface Step {
  readonly id: string;
  /** Heading in the round's way through the machine. */
  readonly part: string;
  readonly kind: StepKind;
  readonly title: string;
  readonly text: string;
  readonly minutes: number;
  /** Station or system that a grade or a service belongs to. */
  readonly station?: string;
  readonly phase?: "as-found" | "as-left";
  /** Surface under the hand, by the matrix's id; wherever agents are asked for. */
  readonly surface?: string;
  readonly agents?: readonly StepAgent[];
  /** What must not touch this surface, worst first. */
  readonly refused?: readonly { readonly name: string; readonly because: string }[];
  readonly caution?: string;
  readonly tools?: readonly string[];
  readonly supplies?: readonly string[];
  readonly timer?: { readonly seconds: number; readonly name: string };
  readonly drawing?: string;
  /** Leaves something flammable behind, which must dry before power. */
  readonly wet?: boolean;
  /** Photos of the way round, by hash, shown while the part goes back. */
  readonly photos?: readonly string[];
  /** What the log says once the step is done. */
  readonly service?: { readonly what: EventPayload["service"]["what"]; readonly task?: string };
  /** What must be ticked before going on. */
  readonly tick?: string;
}

/** Order of work: dry and dirty first, optics last, what needs the machine whole at the end. */
export const AREAS = ["dirt", "bed", "air", "motion", "cooling", "tube", "wipe", "optics", "running"] as const;
export type Area = (typeof AREAS)[number];

/** What has to be opened to reach a part. Parts that name the same panel share its opening. */
export interface Access {
  readonly panel?: string | undefined;
  readonly keys?: string | undefined;
  readonly gantry?: string | undefined;
  readonly warranty?: boolean | undefined;
}

/** A part of a round, made ready for one machine: the steps for one station, system or repair. */
export interface Procedure {
  readonly id: string;
  readonly name: string;
  readonly area: Area;
  /** Station on the path it belongs to. */
  readonly station?: string | undefined;
  readonly access?: Access | undefined;
  /** Lens, nozzle or head mirror: reached by opening the head. */
  readonly opensHead?: boolean | undefined;
  /** Stands at the head as well, though the lens may stay in. */
  readonly atHead?: boolean | undefined;
  /** Something leaves its seat: the aim is checked before the round ends. */
  readonly opensSeat?: boolean | undefined;
  /** The panel's power is turned down for it and must be put back. */
  readonly lowPower?: boolean | undefined;
  /** How the part goes back: note and photo. */
  readonly wayRound?: { readonly note?: string | undefined; readonly photo?: string | undefined } | undefined;
  readonly steps: readonly Step[];
}
