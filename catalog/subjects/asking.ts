/** Words that several checks share: how an optic looks, and the cautions that stand wherever the same thing can hurt. */

/** The five grades of an optic as answers; `leak` is how often a sound machine shows each. */
export const grades = (part: string, leak: readonly [number, number, number, number, number]) =>
  ({
    clear: { leak: leak[0], label: "clear", short: `${part} looked clear` },
    haze: { leak: leak[1], label: "haze", short: `${part} showed haze` },
    film: { leak: leak[2], label: "film", short: `${part} showed film` },
    spots: { leak: leak[3], label: "spots", short: `${part} showed spots` },
    damaged: { leak: leak[4], label: "damaged", short: `${part} looked damaged` },
  }) as const;

export const INSIDE =
  "The beam is invisible. Nobody's eyes or hands inside, lid and panels shut for every pulse, interlock working, goggles rated for 10.6 µm. Put the power limit back afterwards.";
export const OPEN_HEAD = "Unplug the machine first and wear gloves: zinc selenide is toxic if it is chipped.";
export const METER = "Only where the probe fits with every panel and interlock in place. If not, skip it or call a qualified person.";

/** Outcomes of a thing that is tried by the cut that failed: what is said of it where nothing changed, and where it cuts. */
export const tried = (same: string, cuts: string) =>
  ({
    same: { leak: 0.97, label: "the same", short: same },
    "cuts-now": { leak: 0.03, label: "cuts now", short: cuts },
  }) as const;
