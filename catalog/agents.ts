/** What may touch what: allowed and refused agents per surface, with the reason. A step shows the refusals of its surface. */
export interface SurfaceRule {
  readonly allowed: readonly string[];
  readonly refused: readonly { readonly agent: string; readonly because: string }[];
}

export const surfaces: Readonly<Record<string, SurfaceRule>> = {
  "znse-optic": {
    allowed: ["isopropyl alcohol", "optical lens fluid", "lens tissue", "lens wipe", "distilled water", "fresh swab", "rubber bulb"],
    refused: [
      { agent: "acetone", because: "may harm coating and seals and leaves a film; only if the lens maker allows it" },
      { agent: "vinegar or any acid", because: "zinc selenide can give off toxic hydrogen selenide" },
      { agent: "glass cleaner", because: "ammonia attacks the coating" },
      { agent: "paper towel", because: "scratches the coating" },
    ],
  },
  "coated-mirror": {
    allowed: ["isopropyl alcohol", "optical lens fluid", "lens tissue", "lens wipe", "fresh swab", "rubber bulb"],
    refused: [
      { agent: "acetone", because: "lifts coatings; only if the mirror maker allows it" },
      { agent: "paper towel", because: "scratches the coating" },
      { agent: "abrasive polish", because: "takes the coating off" },
    ],
  },
  "nozzle-metal": {
    allowed: ["acetone", "isopropyl alcohol", "swab", "bore-size drill", "fresh swab"],
    refused: [{ agent: "acetone with the lens fitted", because: "it runs onto the lens and its seal" }],
  },
  rails: {
    allowed: ["dry cloth", "dry-film lubricant from a cloth"],
    refused: [
      { agent: "oil", because: "holds dust" },
      { agent: "any spray inside the machine", because: "drifts onto the optics" },
    ],
  },
  fan: {
    allowed: ["air bulb", "degreaser on a rag"],
    refused: [{ agent: "spray at the motor", because: "solvent in the bearing turns gummy" }],
  },
  strip: {
    allowed: ["isopropyl alcohol", "fresh swab"],
    refused: [{ agent: "rubbing the reader along the strip", because: "scratches it for good" }],
  },
  fins: {
    allowed: ["low-pressure air"],
    refused: [{ agent: "any liquid", because: "mains and high voltage are next to the fins" }],
  },
};
