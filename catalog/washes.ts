/** How a bed is washed with each cleaner: strength, soak, minutes, fumes and preparation. Starting values; the label comes first. */

export interface Wash {
  /** A cleaner of the matrix. */
  readonly agent: string;
  readonly residues: readonly ("resin" | "acrylic")[];
  /** Strength as it is mostly sold, and as the bed wants it; left out where it is mixed by eye. */
  readonly strengthGPerL?: number;
  readonly wantedGPerL?: number;
  /** How it is mixed where not by a strength. */
  readonly mix: string;
  readonly soakMinutes: number;
  /** Of work, the soak not counted. */
  readonly minutes: number;
  readonly pricePerL?: number;
  readonly fumes: string;
  readonly preparation: string;
}

export const washes: readonly Wash[] = [
  {
    agent: "dish-soap",
    residues: ["resin"],
    mix: "a good squirt to each litre of hot water",
    soakMinutes: 20,
    minutes: 25,
    pricePerL: 3,
    fumes: "none",
    preparation: "hot water, a tub the bed fits in",
  },
  {
    agent: "wheel-cleaner",
    residues: ["resin"],
    mix: "as it comes, if its label says alkaline",
    soakMinutes: 10,
    minutes: 20,
    pricePerL: 9,
    fumes: "some: outdoors",
    preparation: "read the label: an acid one is never used here; try a corner",
  },
  {
    agent: "oven-cleaner",
    residues: ["resin", "acrylic"],
    strengthGPerL: 50,
    wantedGPerL: 25,
    mix: "from its strength",
    soakMinutes: 16,
    minutes: 25,
    pricePerL: 8,
    fumes: "strong and caustic: outdoors, upwind",
    preparation: "try a corner first; rinse off the soap; it gives off hydrogen on aluminium",
  },
  {
    agent: "hypochlorite",
    residues: ["resin"],
    strengthGPerL: 30,
    wantedGPerL: 5,
    mix: "from its strength",
    soakMinutes: 10,
    minutes: 25,
    pricePerL: 2,
    fumes: "chlorine smell: outdoors; never with anything else",
    preparation: "try a corner first; rinse off everything before it",
  },
  {
    agent: "solvent-spray",
    residues: ["acrylic"],
    mix: "as it comes, a short mist",
    soakMinutes: 0,
    minutes: 15,
    pricePerL: 22,
    fumes: "solvent vapour that burns: outdoors only, no flame near",
    preparation: "bed out of the machine; respirator on",
  },
];
