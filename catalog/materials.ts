/** What is cut, how much it smokes (card 0.5 to leather 1.6 of an hour of birch ply) and what is refused. Starting values. */
export interface MaterialKind {
  readonly id: string;
  readonly name: string;
  readonly dirt: "resin" | "gum" | "powder";
  readonly optics: number;
  readonly nozzle: number;
  /** Typical speed (mm/s) at 3 mm for an 80 W tube at 60 %, to suggest first rungs. */
  readonly speedAt3mm: number;
  /** Never cut through, so no ladder says anything. */
  readonly engraved?: boolean;
}

export const materialKinds: readonly MaterialKind[] = [
  { id: "birch-ply", name: "birch ply", dirt: "resin", optics: 1, nozzle: 1, speedAt3mm: 14 },
  { id: "card", name: "card", dirt: "resin", optics: 0.5, nozzle: 0.5, speedAt3mm: 40 },
  { id: "softwood", name: "softwood", dirt: "resin", optics: 1.1, nozzle: 1.1, speedAt3mm: 16 },
  { id: "veneer", name: "hardwood veneer", dirt: "resin", optics: 1, nozzle: 1, speedAt3mm: 16 },
  { id: "felt", name: "wool felt", dirt: "resin", optics: 0.9, nozzle: 0.9, speedAt3mm: 30 },
  { id: "leather", name: "vegetable-tanned leather", dirt: "resin", optics: 1.6, nozzle: 1.6, speedAt3mm: 18 },
  { id: "mdf", name: "MDF", dirt: "resin", optics: 1.5, nozzle: 1.5, speedAt3mm: 10 },
  { id: "cast-acrylic", name: "cast acrylic", dirt: "gum", optics: 0.8, nozzle: 2, speedAt3mm: 12 },
  { id: "composite", name: "solid-surface composite", dirt: "powder", optics: 1.5, nozzle: 1.5, speedAt3mm: 4 },
  { id: "slate", name: "slate, engraved", dirt: "powder", optics: 0.7, nozzle: 0.7, speedAt3mm: 4, engraved: true },
  { id: "glass", name: "glass, engraved", dirt: "powder", optics: 0.7, nozzle: 0.7, speedAt3mm: 4, engraved: true },
  { id: "rubber", name: "laser rubber", dirt: "powder", optics: 2.5, nozzle: 2.5, speedAt3mm: 8 },
];

/** Never in the machine: chlorine, chromium and worse. Matched against a material's name. */
export const refusedMaterials: readonly { readonly pattern: string; readonly because: string }[] = [
  { pattern: "pvc|vinyl", because: "PVC and vinyl give off chlorine: it harms lungs and eats the machine." },
  { pattern: "chlorin|neoprene", because: "Chlorinated rubber gives off chlorine." },
  { pattern: "chrome", because: "Chrome-tanned leather gives off chromium. Use vegetable-tanned." },
  { pattern: "unknown|mystery", because: "An unknown plastic may hold chlorine: find out what it is first." },
];
