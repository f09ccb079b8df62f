/** What a round uses up: how much at a step, how it is bought, and when to buy again. Starting values; an owner counts his own. */

export interface Supply {
  /** The cleaner's own id where it is one, else its own. */
  readonly id: string;
  readonly name: string;
  readonly unit: readonly [one: string, many: string];
  /** Used up at a step that asks for it. */
  readonly perStep: number;
  /** Held in a pack as it is usually bought. */
  readonly pack: number;
  /** Buy again when so few are left. */
  readonly least: number;
  /** As a step names it where it is no cleaner. */
  readonly named?: string;
  /** Used once a round, whatever is done. */
  readonly perRound?: true;
}

export const supplies: readonly Supply[] = [
  { id: "fresh-swab", name: "Swabs", unit: ["swab", "swabs"], perStep: 3, pack: 100, least: 20 },
  { id: "lens-tissue", name: "Lens tissue", unit: ["sheet", "sheets"], perStep: 1, pack: 50, least: 10 },
  { id: "lens-wipe", name: "Lens wipes", unit: ["wipe", "wipes"], perStep: 1, pack: 50, least: 10 },
  { id: "isopropyl", name: "Isopropyl alcohol", unit: ["mL", "mL"], perStep: 3, pack: 500, least: 50 },
  { id: "optical-fluid", name: "Optical lens fluid", unit: ["mL", "mL"], perStep: 2, pack: 100, least: 20 },
  { id: "acetone", name: "Acetone", unit: ["mL", "mL"], perStep: 3, pack: 500, least: 50 },
  { id: "gloves", name: "Gloves", unit: ["pair", "pairs"], perStep: 1, pack: 50, least: 10, named: "fresh gloves", perRound: true },
  { id: "dry-cloth", name: "Lint-free cloths", unit: ["cloth", "cloths"], perStep: 0.25, pack: 10, least: 2 },
  { id: "microfibre", name: "Microfibre cloths", unit: ["cloth", "cloths"], perStep: 0.1, pack: 5, least: 1 },
  { id: "canned-air", name: "Canned air", unit: ["can", "cans"], perStep: 0.05, pack: 1, least: 0.25 },
  { id: "degreaser", name: "Degreaser", unit: ["mL", "mL"], perStep: 15, pack: 500, least: 60 },
  { id: "plastic-cleaner", name: "Plastic cleaner", unit: ["mL", "mL"], perStep: 10, pack: 250, least: 30 },
  { id: "dry-film", name: "Dry-film lubricant", unit: ["can", "cans"], perStep: 0.03, pack: 1, least: 0.2 },
  { id: "lithium-grease", name: "White lithium grease", unit: ["g", "g"], perStep: 2, pack: 100, least: 10 },
  { id: "bearing-grease", name: "Bearing grease", unit: ["g", "g"], perStep: 2, pack: 100, least: 10 },
  { id: "silicone", name: "Silicone lubricant", unit: ["mL", "mL"], perStep: 2, pack: 100, least: 10 },
  { id: "light-oil", name: "Light oil", unit: ["mL", "mL"], perStep: 2, pack: 100, least: 10 },
  { id: "distilled-water", name: "Distilled water", unit: ["L", "L"], perStep: 7, pack: 5, least: 2 },
  { id: "propylene-glycol", name: "Propylene glycol", unit: ["L", "L"], perStep: 3, pack: 5, least: 1 },
  { id: "dish-soap", name: "Dish soap", unit: ["mL", "mL"], perStep: 100, pack: 1000, least: 200 },
  { id: "oven-cleaner", name: "Alkaline oven cleaner", unit: ["can", "cans"], perStep: 0.5, pack: 1, least: 0.5 },
  { id: "prefilter-pad", name: "Pre-filter pads", unit: ["pad", "pads"], perStep: 1, pack: 10, least: 2, named: "pre-filter pad" },
  { id: "packing-tape", name: "Packing tape", unit: ["m", "m"], perStep: 0.3, pack: 50, least: 5, named: "packing tape" },
];

/** Optics kept clean last well over a year: days of a lens or mirror before a spare should lie ready. */
export const OPTIC_LIFE_DAYS = 450;
