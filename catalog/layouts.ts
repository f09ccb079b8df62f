/** Starting layouts: the beam path of the machines an owner can pick from. Lengths in mm, starting values. */
import type { LayoutSpec } from "#core/trace";

export interface Layout extends LayoutSpec {
  readonly name: string;
  readonly describe: string;
  /** What an owner calls each station and system. */
  readonly names: Readonly<Record<string, string>>;
}

const SYSTEM_NAMES = {
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
} as const;

export const threeMirror: Layout = {
  id: "three-mirror",
  name: "Three mirrors, flying gantry",
  describe: "Tube at the back, M1 fixed, M2 on the gantry, M3 in the head. The commonest machine.",
  stations: [
    { id: "tube", role: "tube", apertureMm: 20, distanceMm: 0, travelMm: 0 },
    { id: "window", role: "window", apertureMm: 20, distanceMm: 150, travelMm: 0 },
    { id: "mirror-1", role: "mirror", apertureMm: 20, distanceMm: 150, travelMm: 600 },
    { id: "mirror-2", role: "mirror", apertureMm: 20, distanceMm: 100, travelMm: 900 },
    { id: "mirror-3", role: "mirror", apertureMm: 20, distanceMm: 60, travelMm: 0 },
    { id: "lens", role: "lens", apertureMm: 18, distanceMm: 50, travelMm: 0 },
    { id: "nozzle", role: "nozzle", apertureMm: 2.5, distanceMm: 4, travelMm: 0 },
  ],
  systems: ["supply", "coolant", "air", "exhaust", "focus", "bed", "material", "motion", "settings"],
  movingMirrors: [2, 3],
  intervalPlyHours: { window: 120, "mirror-1": 40, "mirror-2": 40, "mirror-3": 16, lens: 8, nozzle: 16 },
  beamRadiusMm: 3.5,
  names: {
    ...SYSTEM_NAMES,
    tube: "Tube",
    window: "Exit window",
    "mirror-1": "M1",
    "mirror-2": "M2",
    "mirror-3": "M3 in head",
    lens: "Lens",
    nozzle: "Nozzle",
  },
};

export const movingHead: Layout = {
  id: "moving-head",
  name: "Moving head, enclosed desktop",
  describe: "Tube on the gantry, side window and one mirror in the head, lens that travels to focus.",
  stations: [
    { id: "tube", role: "tube", apertureMm: 16, distanceMm: 0, travelMm: 0 },
    { id: "window", role: "window", apertureMm: 16, distanceMm: 60, travelMm: 500 },
    { id: "side-window", role: "side-window", apertureMm: 16, distanceMm: 40, travelMm: 0 },
    { id: "mirror-1", role: "mirror", apertureMm: 18, distanceMm: 40, travelMm: 0 },
    { id: "lens", role: "lens", apertureMm: 15, distanceMm: 50, travelMm: 0 },
    { id: "nozzle", role: "nozzle", apertureMm: 3, distanceMm: 4, travelMm: 0 },
  ],
  systems: ["supply", "coolant", "air", "exhaust", "focus", "bed", "material", "motion", "camera", "settings"],
  movingMirrors: [1],
  intervalPlyHours: { window: 120, "side-window": 40, "mirror-1": 120, lens: 8, nozzle: 16 },
  beamRadiusMm: 2.5,
  names: {
    ...SYSTEM_NAMES,
    tube: "Tube",
    window: "Exit window",
    "side-window": "Side window",
    "mirror-1": "Head mirror",
    lens: "Lens",
    nozzle: "Nozzle",
  },
};

export const periscope: Layout = {
  id: "periscope",
  name: "Periscope, metal tube",
  describe: "Air-cooled metal tube low in the cabinet, two periscope mirrors, an outlet window, gantry-end and head mirror.",
  stations: [
    { id: "tube", role: "tube", apertureMm: 22, distanceMm: 0, travelMm: 0 },
    { id: "window", role: "window", apertureMm: 20, distanceMm: 120, travelMm: 0 },
    { id: "mirror-1", role: "mirror", apertureMm: 22, distanceMm: 450, travelMm: 0 },
    { id: "mirror-2", role: "mirror", apertureMm: 22, distanceMm: 40, travelMm: 0 },
    { id: "side-window", role: "side-window", apertureMm: 20, distanceMm: 100, travelMm: 600 },
    { id: "mirror-3", role: "mirror", apertureMm: 22, distanceMm: 100, travelMm: 700 },
    { id: "mirror-4", role: "mirror", apertureMm: 22, distanceMm: 50, travelMm: 0 },
    { id: "lens", role: "lens", apertureMm: 20, distanceMm: 50, travelMm: 0 },
    { id: "nozzle", role: "nozzle", apertureMm: 2.5, distanceMm: 4, travelMm: 0 },
  ],
  systems: ["supply", "fins", "air", "exhaust", "focus", "bed", "material", "motion", "encoder", "settings"],
  movingMirrors: [3, 4],
  intervalPlyHours: {
    window: 120,
    "mirror-1": 120,
    "mirror-2": 120,
    "side-window": 120,
    "mirror-3": 40,
    "mirror-4": 16,
    lens: 8,
    nozzle: 16,
  },
  beamRadiusMm: 3,
  names: {
    ...SYSTEM_NAMES,
    tube: "Tube",
    window: "Exit window",
    "mirror-1": "Lower mirror",
    "mirror-2": "Upper mirror",
    "side-window": "Outlet window",
    "mirror-3": "Gantry-end mirror",
    "mirror-4": "Head mirror",
    lens: "Lens",
    nozzle: "Nozzle",
  },
};

export const layouts: Readonly<Record<string, Layout>> = {
  "three-mirror": threeMirror,
  "moving-head": movingHead,
  periscope,
};
