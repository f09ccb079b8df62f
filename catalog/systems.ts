/** What an owner calls the systems off the path. */
export const SYSTEM_NAMES = {
  supply: "Tube supply",
  coolant: "Coolant",
  fins: "Cooling fins",
  air: "Assist air",
  exhaust: "Exhaust",
  focus: "Focus height",
  bed: "Bed",
  material: "Material",
  motion: "Rails and belts",
  encoder: "Encoder strip",
  camera: "Camera",
  settings: "Settings",
  tray: "Tray and floor",
  cabinet: "Cabinet",
  lid: "Lid",
  "head-fan": "Head fan",
} as const;

export type SystemId = keyof typeof SYSTEM_NAMES;
