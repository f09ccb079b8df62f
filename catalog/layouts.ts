/** Starting points: the beam path and fittings of the machines an owner can pick from and then edit. Lengths in mm, starting values. */
import type { Fittings, LayoutId, PathStation, TubeKind } from "#core/machine";

export interface Layout {
  readonly id: string;
  readonly name: string;
  readonly describe: string;
  readonly path: readonly PathStation[];
  readonly fittings: Fittings;
  /** Beam radius (1/e²) at the first mirror. */
  readonly beamRadiusMm: number;
  readonly ratedPowerW: number;
}

const ringLens = { role: "lens", id: "lens", name: "Lens", coating: "znse", mount: "ring" } as const;
const exitWindow = { role: "window", id: "window", name: "Exit window", coating: "znse", mount: "fixed" } as const;
const tube = { role: "tube", id: "tube", name: "Tube", coating: "unknown", mount: "fixed", distanceMm: 0, travelMm: 0 } as const;
const nozzle = { role: "nozzle", id: "nozzle", name: "Nozzle", coating: "metal", mount: "thread", distanceMm: 4, travelMm: 0 } as const;

export const threeMirror: Layout = {
  id: "three-mirror",
  name: "Three mirrors, flying gantry",
  describe: "Tube at the back, M1 fixed, M2 on the gantry, M3 in the head. The commonest machine.",
  path: [
    { ...tube, apertureMm: 20, panel: "rear panel" },
    { ...exitWindow, apertureMm: 20, distanceMm: 150, travelMm: 0, panel: "rear panel" },
    {
      id: "mirror-1",
      role: "mirror",
      name: "M1",
      coating: "coated",
      mount: "screw-cell",
      apertureMm: 20,
      distanceMm: 150,
      travelMm: 600,
      panel: "rear panel",
    },
    {
      id: "mirror-2",
      role: "mirror",
      name: "M2",
      coating: "coated",
      mount: "screw-cell",
      apertureMm: 20,
      distanceMm: 100,
      travelMm: 900,
      gantry: "gantry towards the front",
    },
    {
      id: "mirror-3",
      role: "mirror",
      name: "M3 in head",
      coating: "coated",
      mount: "screw-cell",
      apertureMm: 20,
      distanceMm: 60,
      travelMm: 0,
    },
    { ...ringLens, apertureMm: 18, distanceMm: 50, travelMm: 0, spares: 1, toolPlace: "with the focus gauge" },
    { ...nozzle, apertureMm: 2.5 },
  ],
  fittings: {
    bearing: "sealed",
    cooling: "chiller",
    tube: "glass",
    lid: "acrylic",
    bed: "honeycomb",
    bedWidthMm: 900,
    bedDepthMm: 600,
    beamCorner: "back-left",
    extras: ["air-pump", "inline-fan", "pointer"],
    school: "by-use",
    opticsOrder: "by-scope",
  },
  beamRadiusMm: 3.5,
  ratedPowerW: 80,
};

export const movingHead: Layout = {
  id: "moving-head",
  name: "Moving head, enclosed desktop",
  describe: "Tube on the gantry, side window and one mirror in the head, lens that travels to focus.",
  path: [
    { ...tube, apertureMm: 16 },
    { ...exitWindow, apertureMm: 16, distanceMm: 60, travelMm: 500, gantry: "head away from the tube's end" },
    {
      id: "side-window",
      role: "side-window",
      name: "Side window",
      coating: "znse",
      mount: "fixed",
      apertureMm: 16,
      distanceMm: 40,
      travelMm: 0,
      gantry: "head in the middle",
    },
    {
      id: "mirror-1",
      role: "mirror",
      name: "Head mirror",
      coating: "coated",
      mount: "captive",
      apertureMm: 18,
      distanceMm: 40,
      travelMm: 0,
      enclosed: true,
      wayRound: "stamp up",
    },
    {
      id: "lens",
      role: "lens",
      name: "Lens",
      coating: "znse",
      mount: "sliding-bore",
      apertureMm: 15,
      distanceMm: 50,
      travelMm: 0,
      wayRound: "arrow on the edge points into the head",
    },
    { ...nozzle, apertureMm: 3 },
  ],
  fittings: {
    bearing: "wheels",
    cooling: "internal",
    tube: "glass",
    lid: "glass",
    bed: "honeycomb",
    bedWidthMm: 500,
    bedDepthMm: 300,
    beamCorner: "back-right",
    extras: ["air-fan", "autofocus", "camera", "filter-unit", "head-fan", "sensor-windows"],
    school: "by-use",
    opticsOrder: "by-scope",
  },
  beamRadiusMm: 2.5,
  ratedPowerW: 45,
};

export const periscope: Layout = {
  id: "periscope",
  name: "Periscope, metal tube",
  describe: "Air-cooled metal tube low in the cabinet, two periscope mirrors, a housing window, gantry-end and head mirror.",
  path: [
    { ...tube, apertureMm: 22 },
    {
      ...exitWindow,
      apertureMm: 20,
      distanceMm: 120,
      travelMm: 0,
      panel: "lower side panel",
      keys: "cabinet key",
      gantry: "head and table jogged to the service position",
      warranty: true,
    },
    {
      id: "mirror-1",
      role: "mirror",
      name: "Lower mirror",
      coating: "coated",
      mount: "captive",
      apertureMm: 22,
      distanceMm: 450,
      travelMm: 0,
      enclosed: true,
      panel: "lower side panel",
      keys: "cabinet key",
      gantry: "head and table jogged to the service position",
      warranty: true,
    },
    {
      id: "mirror-2",
      role: "mirror",
      name: "Upper mirror",
      coating: "coated",
      mount: "captive",
      apertureMm: 22,
      distanceMm: 40,
      travelMm: 0,
      enclosed: true,
      panel: "upper side panel",
      keys: "cabinet key",
      gantry: "head and table jogged to the service position",
    },
    {
      id: "side-window",
      role: "side-window",
      name: "Housing window",
      coating: "znse",
      mount: "fixed",
      apertureMm: 20,
      distanceMm: 100,
      travelMm: 600,
      enclosed: true,
      panel: "upper side panel",
      keys: "cabinet key",
    },
    {
      id: "mirror-3",
      role: "mirror",
      name: "Gantry-end mirror",
      coating: "coated",
      mount: "twist-lock",
      apertureMm: 22,
      distanceMm: 100,
      travelMm: 700,
      gantry: "gantry in the middle",
    },
    {
      id: "mirror-4",
      role: "mirror",
      name: "Head mirror",
      coating: "coated",
      mount: "magnet",
      apertureMm: 22,
      distanceMm: 50,
      travelMm: 0,
    },
    { ...ringLens, mount: "captive", apertureMm: 20, distanceMm: 50, travelMm: 0 },
    { ...nozzle, apertureMm: 2.5 },
  ],
  fittings: {
    bearing: "open",
    cooling: "air",
    tube: "metal",
    lid: "glass",
    bed: "both",
    bedWidthMm: 700,
    bedDepthMm: 450,
    beamCorner: "back-left",
    extras: ["air-pump", "encoder", "filter-unit", "linear-bearings", "pointer"],
    school: "by-use",
    opticsOrder: "by-scope",
  },
  beamRadiusMm: 3,
  ratedPowerW: 60,
};

/** Rated life of a tube where its papers are not at hand, in firing hours. A starting value: makers rate from half to twice of it. */
export const RATED_TUBE_HOURS: { readonly [T in TubeKind]: number } = { glass: 3000, metal: 10_000 };

/** Set power (%) below which a tube does not fire steadily. Starting values: the data sheet of the tube says it of its own. */
export const FIRING_THRESHOLD_PERCENT: { readonly [T in TubeKind]: number } = { glass: 10, metal: 5 };

const all: { readonly [L in LayoutId]: Layout } = { "three-mirror": threeMirror, "moving-head": movingHead, periscope };

/** Layouts by id: a record of a machine may name one that is no longer here. */
export const layouts: Readonly<Record<string, Layout>> = all;
