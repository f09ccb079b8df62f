import type { Grade } from "#core/beam";
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

/** An answer that makes a step necessary: a grade in a range, or one of what may be said of what was seen. */
export interface Need {
  readonly step: string;
  /** First and last grade, both counted. */
  readonly grades?: readonly [Grade, Grade];
  readonly said?: readonly string[];
}

/** What may be said of what was seen. */
export interface Seen {
  readonly id: string;
  readonly label: string;
  /** How bad it is, on the scale of grades: from film on it stays on Today until it is mended. Left out where it grades nothing. */
  readonly grade?: Grade;
  /** What to do about it, said there and then. */
  readonly leads?: string;
  /** What a trace of it begins with. */
  readonly trace?: { readonly check: string; readonly outcome: string };
  /** The step's service was done with this answer only. */
  readonly served?: boolean;
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
  /** Aim works its turns out, and answers it when it ends good. */
  readonly byAim?: true;
  /** Leaves something flammable behind, which must dry before power. */
  readonly wet?: boolean;
  /** Photos of the way round, by hash, shown while the part goes back. */
  readonly photos?: readonly string[];
  /** What the log says once the step is done. */
  readonly service?: { readonly what: EventPayload["service"]["what"]; readonly task?: string };
  /** What must be ticked before going on. Such a step cannot be jumped. */
  readonly tick?: string;
  /** What was seen, to choose from, best first. */
  readonly seen?: readonly Seen[];
  /** Asked for by any of these; always where left out. */
  readonly when?: readonly Need[];
  /** Not asked for by any of these, whatever else asks for it: another step does its work. */
  readonly unless?: readonly Need[];
  /** What is known before the round will ask for it. */
  readonly expected?: boolean;
  /** The machine is open from here on. */
  readonly opens?: boolean;
  /** Belongs at the very end of what is done at the head: the lens goes back last. */
  readonly last?: boolean;
}

/** Order of work: dry and dirty first, optics last, what needs the machine whole at the end. */
export const AREAS = ["dirt", "bed", "air", "motion", "cooling", "tube", "wipe", "optics", "running"] as const;
export type Area = (typeof AREAS)[number];

/** What has to be opened to reach a part. Parts that name the same panel share its opening. */
export interface Access {
  readonly panel?: string | undefined;
  readonly keys?: string | undefined;
  readonly gantry?: string | undefined;
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
  /** It leaves its seat, which keeps the aim or does not: the aim is looked at before the round ends. */
  readonly opensSeat?: "keeps-aim" | "loses-aim" | undefined;
  /** The lens comes out for it: nothing above it or below it is cleaned while it is in. */
  readonly lensOut?: boolean | undefined;
  /** What a trace ends in, not a task of its own. */
  readonly isRepair?: boolean | undefined;
  /** Behind a panel that is not for owners: it is booked, and said to be done. */
  readonly byOthers?: boolean | undefined;
  /** Work on axes or belts: shown by straight edges, not by a ladder. */
  readonly provenBy?: "block" | undefined;
  /** The panel's power is turned down for it and must be put back. */
  readonly lowPower?: boolean | undefined;
  readonly steps: readonly Step[];
}
