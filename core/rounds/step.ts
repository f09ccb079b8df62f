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

/** What a step needs of the machine while it is done. Left out: it does not matter. */
export interface StepNeeds {
  /** Unplugged, or powered with its covers on. */
  readonly power?: "off" | "on";
  /** What must be in its place, and what must be out of it: stations by id, and what is opened on the way (`head`, a panel). */
  readonly in?: readonly string[];
  readonly out?: readonly string[];
  /** The beam fires: everything in its place, dry, lid shut. */
  readonly fires?: true;
  /** The power limit at its usual setting, or turned down for a test pulse. */
  readonly limit?: "usual" | "low";
}

/** What a step leaves of the machine once it is done. */
export interface StepLeaves {
  readonly power?: "off" | "on";
  readonly out?: string;
  readonly back?: string;
  /** On the way back: not done where that part stays out. */
  readonly toward?: string;
  readonly limit?: "usual" | "low";
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
  /** With this answer a part stays out: what needs it is not asked for, and the machine stays apart until one is in. */
  readonly leavesOut?: string;
  /** With this answer nothing is fired any more: in this round, or until it was mended and seen to be good. */
  readonly stops?: "round" | "machine";
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
  /** Which of the things of a system it looks at or works on; a part of the path is one thing. */
  readonly thing?: string;
  /** Tasks that mend what is seen here; left out, any work on the system may. */
  readonly mendedBy?: readonly string[];
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
  /** A figure is read at it, if it can be: the air's speed in the duct. */
  readonly reading?: "air";
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
  readonly needs?: StepNeeds;
  readonly leaves?: StepLeaves;
  /** What is worn at it; it is fetched with the rest. */
  readonly gear?: readonly string[];
  /** Washes off what was put on before: only after it may another cleaner follow on the same surface. */
  readonly rinses?: boolean;
  /** A look that could not see what it was for is none: the words of that answer, which grades nothing. */
  readonly unseen?: string;
  /** Clear, and cleaned all the same: the words of that answer. */
  readonly anyway?: string;
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
  /** How it comes off on this machine, and with how many screws. */
  readonly how?: string | undefined;
  readonly screws?: number | undefined;
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
  /** Changes what the exhaust draws: the air is read before and after. */
  readonly movesAir?: boolean | undefined;
  readonly steps: readonly Step[];
}
