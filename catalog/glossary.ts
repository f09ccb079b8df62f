/** The trade words that need a sentence, once for all places: where they stand they open it, and one page holds them all. */

export interface GlossaryTerm {
  readonly word: string;
  readonly says: string;
  /** A picture of it, by the drawings' id. */
  readonly drawing?: string;
}

export const glossary = {
  "percent-of-best": {
    word: "% of best",
    says: "Today's power at the cut, compared with the day you cut your baseline ladder. 100 % is that day, whatever the panel says.",
  },
  baseline: {
    word: "baseline",
    says: "The ladder you cut while the machine was good. Everything later is compared with it. A new tube or lens asks for a new one.",
  },
  ladder: {
    word: "speed ladder",
    says: "A row of small squares, all at one power, each cut faster than the last. The fastest square that drops out by itself tells how strong the beam is, without a meter.",
  },
  "smoke-hours": {
    word: "smoke hours",
    says: "Cutting time counted as if all of it were birch ply: an hour of card counts half, an hour of leather more than one and a half. Optics get dirty by smoke, not by the calendar.",
  },
  "tube-hours": { word: "tube hours", says: "Time with the beam on. The panel's counter shows it on most machines." },
  round: { word: "round", says: "One maintenance visit at the machine, from making it safe to the final test." },
  "final-test": {
    word: "final test",
    says: "The end of a round: a ladder, a test cut, or the test that had failed, made again. It shows whether the work helped.",
  },
  condition: {
    word: "condition",
    says: "What you see on an optic with a torch. Clear: a crisp reflection. Haze: a faint even veil. Film: a deposit you can see. Spots: dots or a dark centre. Damaged: a crack, a chip or a burn.",
  },
  mark: { word: "mark", says: "The small burn that a short pulse at low power leaves on tape over a mirror's frame.", drawing: "tape" },
  alignment: {
    word: "alignment",
    says: "The beam meets every mirror in the middle, wherever the head stands. It is set with the screws of the mirrors' mounts.",
    drawing: "tape",
  },
  mount: {
    word: "mount and holder",
    says: "The holder comes out with the optic. The mount stays in the machine and has the adjusting screws: do not touch them when you clean.",
  },
  "exit-window": { word: "exit window", says: "The tube's own front window. If it is burnt, that means a new tube." },
  "bulging-side": {
    word: "bulging side",
    says: "The side of the lens that shows your whole face, small, when you look at your reflection. It looks up, towards the mirror.",
    drawing: "lens-sides",
  },
  interlock: { word: "interlock", says: "Stops the beam when a lid or a panel is opened. Never bypass it, not even to look." },
  case: { word: "case", says: "One problem, from the first sign to its repair: what was checked, what was found, what was done." },
} as const satisfies Readonly<Record<string, GlossaryTerm>>;

export type TermId = keyof typeof glossary;
