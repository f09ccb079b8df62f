/** What is cut, how much it smokes (card 0.5 to leather 1.6 of an hour of birch ply) and what is refused. Starting values. */
export interface MaterialKind {
  readonly id: string;
  readonly name: string;
  readonly dirt: "resin" | "gum" | "powder";
  readonly optics: number;
  readonly nozzle: number;
  /** Typical speed (mm/s) at 3 mm for an 80 W tube at 60 %, to suggest first rungs. */
  readonly speedAt3mm: number;
  /** Slower than this (mm/s) it burns rather than cuts, whatever its thickness: nothing here offers less. */
  readonly slowestMmPerS: number;
  /** Never cut through, so no ladder says anything. */
  readonly engraved?: boolean;
  /** Of many things: which one must be said. */
  readonly named?: boolean;
  /** Kept on the list so that it is not forgotten what it is, and never cut. */
  readonly uncut?: boolean;
}

/** What nobody may cut until its data sheet says so. */
export const UNKNOWN_PLASTIC = "unknown-plastic";

export const materialKinds: readonly MaterialKind[] = [
  { id: "birch-ply", name: "birch ply", dirt: "resin", optics: 1, nozzle: 1, speedAt3mm: 14, slowestMmPerS: 3 },
  { id: "card", name: "card", dirt: "resin", optics: 0.5, nozzle: 0.5, speedAt3mm: 40, slowestMmPerS: 8 },
  { id: "softwood", name: "softwood", dirt: "resin", optics: 1.1, nozzle: 1.1, speedAt3mm: 16, slowestMmPerS: 3 },
  { id: "veneer", name: "hardwood veneer", dirt: "resin", optics: 1, nozzle: 1, speedAt3mm: 16, slowestMmPerS: 4 },
  { id: "felt", name: "wool felt", dirt: "resin", optics: 0.9, nozzle: 0.9, speedAt3mm: 30, slowestMmPerS: 6 },
  { id: "leather", name: "vegetable-tanned leather", dirt: "resin", optics: 1.6, nozzle: 1.6, speedAt3mm: 18, slowestMmPerS: 3 },
  { id: "mdf", name: "MDF", dirt: "resin", optics: 1.5, nozzle: 1.5, speedAt3mm: 10, slowestMmPerS: 2 },
  { id: "cast-acrylic", name: "cast acrylic", dirt: "gum", optics: 0.8, nozzle: 2, speedAt3mm: 12, slowestMmPerS: 1.5 },
  { id: "composite", name: "solid-surface composite", dirt: "powder", optics: 1.5, nozzle: 1.5, speedAt3mm: 4, slowestMmPerS: 1 },
  { id: "slate", name: "slate, engraved", dirt: "powder", optics: 0.7, nozzle: 0.7, speedAt3mm: 4, slowestMmPerS: 1, engraved: true },
  { id: "glass", name: "glass, engraved", dirt: "powder", optics: 0.7, nozzle: 0.7, speedAt3mm: 4, slowestMmPerS: 1, engraved: true },
  { id: "rubber", name: "laser rubber", dirt: "powder", optics: 2.5, nozzle: 2.5, speedAt3mm: 8, slowestMmPerS: 2 },
  {
    id: UNKNOWN_PLASTIC,
    name: "unknown plastic: do not cut until you know",
    dirt: "gum",
    optics: 1,
    nozzle: 2,
    speedAt3mm: 10,
    slowestMmPerS: 2,
    uncut: true,
  },
  {
    id: "plastic",
    name: "another plastic, by its sheet",
    dirt: "gum",
    optics: 1,
    nozzle: 2,
    speedAt3mm: 10,
    slowestMmPerS: 2,
    named: true,
  },
];

/** What it gives off, or does, when a laser burns it. */
export const HARMS = {
  chlorine: "gives off chlorine: it harms lungs and eats the machine",
  cyanide: "gives off hydrogen cyanide, and melts more than it cuts",
  chromium: "gives off chromium. Use vegetable-tanned leather",
  fluorine: "gives off fluorine compounds",
  fire: "catches fire and soots instead of cutting",
  fibres: "sets fibres and the fumes of its resin free",
} as const;

/** Never in the machine. `words` are whole words or beginnings of words (with `*`) of a material's name, in any of its spellings. */
export const refusedMaterials: readonly { readonly name: string; readonly words: readonly string[]; readonly harm: keyof typeof HARMS }[] =
  [
    { name: "PVC or vinyl", words: ["pvc*", "upvc*", "cpvc*", "pvdc*", "*vinyl*", "p.v.c*"], harm: "chlorine" },
    {
      name: "Imitation leather",
      words: [
        "leatherette*",
        "pleather",
        "faux leather",
        "artificial leather",
        "imitation leather",
        "synthetic leather",
        "vegan leather",
        "fake leather",
      ],
      harm: "chlorine",
    },
    {
      name: "What is often made of PVC",
      words: [
        "tarpaulin*",
        "oilcloth*",
        "sign foil*",
        "plotter foil*",
        "adhesive foil*",
        "sign foam*",
        "foam board*",
        "foamboard*",
        "foamed board*",
        "closed-cell*",
        "closed cell*",
        "expanded board*",
        "expanded sheet*",
        "integral foam*",
        "sign board*",
        "signboard*",
        "display board*",
        "hard foam*",
        "rigid foam*",
      ],
      harm: "chlorine",
    },
    { name: "Chlorinated rubber", words: ["chlor*", "neoprene*", "polychloroprene*"], harm: "chlorine" },
    { name: "Chrome-tanned leather", words: ["chrome*", "chromium*"], harm: "chromium" },
    { name: "ABS and its kin", words: ["abs", "asa", "*acrylonitrile*", "nitrile*"], harm: "cyanide" },
    { name: "Polyurethane", words: ["pu", "tpu", "*polyurethane*", "*urethane*", "melamine*"], harm: "cyanide" },
    { name: "Polyamide", words: ["nylon*", "polyamide*", "pa6*", "pa12*", "aramid*"], harm: "cyanide" },
    { name: "Polycarbonate", words: ["pc", "*polycarbonate*", "*polycarb*"], harm: "fire" },
    {
      name: "What is often polycarbonate",
      words: [
        "twin-wall*",
        "twinwall*",
        "twin wall*",
        "multiwall*",
        "multi-wall*",
        "unbreakable*",
        "shatterproof*",
        "impact-resistant*",
        "bulletproof*",
        "safety glazing*",
        "greenhouse*",
        "visor*",
        "face shield*",
      ],
      harm: "fire",
    },
    { name: "Polystyrene and its foam", words: ["ps", "eps", "xps", "hips", "*styrene*"], harm: "fire" },
    { name: "PTFE and its kin", words: ["ptfe*", "*fluoro*", "pvdf*", "fep"], harm: "fluorine" },
    {
      name: "Fibre in resin",
      words: ["*carbon fib*", "*glass fib*", "*fibreglass*", "*fiberglass*", "fr4", "fr-4", "epoxy*", "gfrp*", "cfrp*", "circuit board*"],
      harm: "fibres",
    },
  ];

/** Names that do not say which plastic it is. */
export const unnamedPlastics: readonly string[] = [
  "*plastic*",
  "unknown*",
  "mystery*",
  "polymer*",
  "resin",
  "resin sheet",
  "foil",
  "film",
  "foam",
  "acetate",
  "laminate*",
  "synthetic*",
  "composite sheet",
  "offcut*",
  "scrap*",
  "clear sheet",
  "tpe*",
  "rubber sheet",
  "vegan*",
];

/** Words that say of a name that it is no plastic: woods, papers, hides, cloths, stones. */
export const knownNaturals: readonly string[] = [
  "*ply",
  "plywood*",
  "*wood",
  "*wooden",
  "timber*",
  "lumber*",
  "veneer*",
  "mdf*",
  "hdf*",
  "hardboard*",
  "fibreboard*",
  "fiberboard*",
  "chipboard*",
  "particle board*",
  "birch*",
  "pine*",
  "spruce*",
  "fir",
  "cedar*",
  "larch*",
  "oak*",
  "walnut*",
  "maple*",
  "cherry*",
  "beech*",
  "ash",
  "ash veneer",
  "poplar*",
  "alder*",
  "elm",
  "lime",
  "linden*",
  "balsa*",
  "bamboo*",
  "cork*",
  "mahogany*",
  "teak*",
  "pear*",
  "apple*",
  "plum*",
  "hornbeam*",
  "sycamore*",
  "rosewood*",
  "ebony*",
  "willow*",
  "chestnut*",
  "card",
  "cards",
  "*cardboard*",
  "*paper*",
  "paperboard*",
  "greyboard*",
  "grayboard*",
  "matboard*",
  "mat board*",
  "millboard*",
  "pressboard*",
  "*felt",
  "felts",
  "wool*",
  "cotton*",
  "linen*",
  "silk*",
  "denim*",
  "canvas*",
  "jute*",
  "hemp*",
  "burlap*",
  "leather*",
  "hide",
  "hides",
  "suede*",
  "calfskin*",
  "goatskin*",
  "sheepskin*",
  "slate*",
  "stone*",
  "glass*",
  "mirror glass*",
  "granite*",
  "marble*",
  "tile*",
  "ceramic*",
  "porcelain*",
  "rubber*",
  "solid-surface*",
  "solid surface*",
  "composite*",
];

/** Plastics that can be cut where their own sheet says so; their dirt is gum. */
export const knownPlastics: readonly string[] = [
  "*acrylic*",
  "pmma*",
  "acetal*",
  "pom",
  "pom-*",
  "polyoxymethylene*",
  "pet",
  "petg*",
  "*polyester*",
  "pp",
  "polypropylene*",
  "pe",
  "hdpe*",
  "ldpe*",
  "polyethylene*",
  "eva*",
  "silicone*",
  "pla",
  "cellulose*",
  "polyimide*",
];

/** Whether a name has one of some words: whole, or with `*` at an end as a part of one. */
export function hasWord(name: string, words: readonly string[]): boolean {
  const text = name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}.]+/gu, " ")
    .trim();
  return words.some((word) => {
    const plain = word.toLowerCase().replace(/[^\p{L}\p{N}.*]+/gu, " ");
    const core = plain.replaceAll("*", "").replace(/\./g, "\\.");
    const before = plain.startsWith("*") ? "" : "(?:^|[^\\p{L}])";
    const after = plain.endsWith("*") ? "" : "(?:$|[^\\p{L}])";
    return new RegExp(`${before}${core}${after}`, "u").test(text);
  });
}
