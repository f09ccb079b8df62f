/** The owner's words for what a part is, how it is held and what a machine may have. */
import type { StationRole } from "#core/beam";
import type { Coating, Extra, Fittings, Mount, PathStation } from "#core/machine";

/** What was done to the path, said on the page that follows. */
export const ADDED = "Added. Say how it is held.";
export const TAKEN_OFF = {
  bare: "Taken off the path. Bring it back below.",
  withHistory: "Taken off the path. Its history is kept; bring it back below.",
} as const;

export const MOUNT_WORDS: Readonly<Record<Mount, string>> = {
  "screw-cell": "screw cell (loses its aim when opened)",
  "twist-lock": "twist-lock cell (keeps its aim)",
  captive: "captive screws (keeps its aim)",
  magnet: "magnets with a notch (keeps its aim)",
  ring: "retaining ring",
  "sliding-bore": "slides in its bore",
  thread: "thread",
  fixed: "fixed, stays where it is",
};

export const COATING_WORDS: Readonly<Record<Coating, string>> = {
  coated: "coated (gold or silicon)",
  molybdenum: "solid molybdenum",
  znse: "zinc selenide",
  metal: "metal",
  unknown: "unknown: treated as coated",
};

export const FITTING_WORDS = {
  bearing: {
    sealed: "sealed, greased for life",
    open: "open rails",
    wheels: "wheels on rails",
    profile: "wheels inside a profile",
  },
  cooling: { chiller: "closed chiller", bucket: "open bucket and pump", internal: "water inside the machine", air: "air, finned tube" },
  tube: { glass: "glass", metal: "metal, sealed" },
  room: { clean: "clean beside it", dusty: "other work makes dust" },
  exhaust: {
    strong: "smoke leaves straight",
    usual: "smoke leaves, a little lingers",
    weak: "smoke swirls or lingers",
  },
  lid: { acrylic: "acrylic", glass: "glass", metal: "metal" },
  beamCorner: {
    "back-left": "back left",
    "back-right": "back right",
    "front-left": "front left",
    "front-right": "front right",
  },
  bed: { honeycomb: "honeycomb", slats: "slats", both: "honeycomb and slats" },
  counter: { panel: "its panel counts hours", none: "no counter: hours come from the jobs" },
  school: {
    careful: "careful: little and often",
    "by-use": "by use: when the smoke says so",
    minimal: "minimal: as seldom as is safe",
  },
  opticsOrder: {
    "by-scope": "head first when short, tube first when long",
    "head-first": "always head first: dirt is worst there",
    "tube-first": "always tube first: losses found in order",
  },
} as const satisfies {
  readonly [K in Exclude<
    keyof Fittings,
    "extras" | "agents" | "frostMonth" | "bedWidthMm" | "bedDepthMm" | "manual" | "upkeep" | "sums"
  >]: Readonly<Record<string, string>>;
};

/** The first month with frost where a machine stands, by number; 0 where it never freezes. */
export const FROST_WORDS: Readonly<Record<string, string>> = Object.fromEntries([
  ["", "not said yet: checked once a year"],
  ["0", "it never freezes there"],
  ...Array.from({ length: 12 }, (_, i) => [
    String(i + 1),
    new Intl.DateTimeFormat("en", { month: "long", timeZone: "UTC" }).format(Date.UTC(2001, i, 15)),
  ]),
]);

export const EXTRA_WORDS: Readonly<Record<Extra, string>> = {
  "air-pump": "assist air from a pump",
  "air-fan": "assist air from a fan in the head",
  "air-meter": "a meter for air speed at hand",
  autofocus: "autofocus",
  camera: "lid camera and homing mark",
  encoder: "encoder strip",
  "filter-unit": "filter unit",
  "head-fan": "head fan",
  "inline-fan": "in-line fan in the duct",
  "linear-bearings": "linear bearings to grease",
  pointer: "pointer lamp",
  prefilter: "pre-filter pad",
  "sensor-windows": "sensor windows under the head",
};

export const ROLE_WORDS: { readonly [R in StationRole]: string } = {
  tube: "tube",
  window: "exit window",
  mirror: "mirror",
  "side-window": "window",
  lens: "lens",
  nozzle: "nozzle",
};

/** What the button says that adds one to a path. */
export const ADD_WORDS: { readonly [R in StationRole]: string } = {
  tube: "the tube",
  window: "the exit window",
  mirror: "a mirror",
  "side-window": "a window",
  lens: "the lens",
  nozzle: "the nozzle",
};

/** Where the beam goes on, seen from the front of the machine. */
export const BEAM_WORDS: { readonly [D in NonNullable<PathStation["beamTo"]>]: string } = {
  left: "to the left",
  right: "to the right",
  front: "to the front",
  rear: "to the rear",
  up: "up",
  down: "down",
};

export const SCREW_WORDS: { readonly [K in NonNullable<PathStation["screwKind"]>]: string } = {
  "right-angle": "three screws in an L, the corner one is the pivot",
  "three-at-120": "three screws around it, a third apart",
  "two-and-spring": "two screws and a spring",
  none: "no screws: it keeps its aim in its seat",
};
