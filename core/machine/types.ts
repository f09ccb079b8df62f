import type { FromSchema } from "json-schema-to-ts";
import { STATION_ROLES } from "#core/beam";
import { BED_CORNERS } from "#core/cuts";
import { sumsSchema } from "./sums";
import { upkeepSchema } from "./upkeep";

/** What a part is made of, which decides what may touch it. */
export const COATINGS = ["coated", "molybdenum", "znse", "metal", "unknown"] as const;
export type Coating = (typeof COATINGS)[number];

/**
 * How a part is held. Screw cells lose the aim when opened and are cleaned in place; twist-lock, captive and magnet cells keep it
 * and come out. A ring holds a lens in its tube; in a sliding bore the lens moves to focus and needs its tool.
 */
export const MOUNTS = ["screw-cell", "twist-lock", "captive", "magnet", "ring", "sliding-bore", "thread", "fixed"] as const;
export type Mount = (typeof MOUNTS)[number];

/** Where a beam can go in a machine whose axes stand at right angles. */
export const BEAM_DIRECTIONS = ["left", "right", "front", "rear", "up", "down"] as const;

/** Three screws at a right angle (the corner one is the pivot), three at 120° around the mirror, or two against a spring. */
export const SCREW_MOUNTS = ["right-angle", "three-at-120", "two-and-spring"] as const;

const short = { type: "string", maxLength: 80 } as const;
const lengthMm = { type: "number", minimum: 0, maximum: 10_000 } as const;

/** One station of a path with everything its owner knows of it. Lengths in mm. */
export const pathStationSchema = {
  type: "object",
  properties: {
    id: { type: "string", pattern: "^(tube|window|side-window|lens|nozzle|mirror-[1-9][0-9]?)$" },
    role: { enum: STATION_ROLES },
    name: { type: "string", minLength: 1, maxLength: 40 },
    coating: { enum: COATINGS },
    mount: { enum: MOUNTS },
    /** Clear aperture, diameter. */
    apertureMm: { type: "number", exclusiveMinimum: 0, maximum: 200 },
    /** Shortest way to the next station, and how much longer it becomes with the gantry or head at its far end. */
    distanceMm: lengthMm,
    travelMm: lengthMm,
    /** Where the beam goes on from a tube or mirror, seen from the front; the usual way of such a path when left out. */
    beamTo: { enum: BEAM_DIRECTIONS },
    /** Screws the aim of a mirror is turned with; the pitch of the thread and the arm to the pivot (at 120°: to the middle), mm. */
    screwKind: { enum: [...SCREW_MOUNTS, "none"] },
    screwPitchMm: { type: "number", minimum: 0.1, maximum: 3 },
    screwArmMm: { type: "number", minimum: 5, maximum: 200 },
    /** Share of the light a clean part passes; the role's own when left out. */
    transmission: { type: "number", minimum: 0.5, maximum: 1 },
    /** Shut in its own housing, away from the smoke. */
    enclosed: { type: "boolean" },
    /** What is opened to reach it; stations that name the same panel are done together. */
    panel: short,
    /** The panel is not meant for owners. */
    warranty: { type: "boolean" },
    keys: short,
    /** Where gantry, head or table must stand. */
    gantry: short,
    /** How its panel, or the head around it, comes off, and with how many screws. */
    comesOff: { type: "string", maxLength: 200 },
    screws: { type: "integer", minimum: 0, maximum: 60 },
    wayRound: { type: "string", maxLength: 200 },
    wayRoundPhoto: { type: "string", pattern: "^[0-9a-f]{64}$" },
    /** Where its gauge, key or tool is kept. */
    toolPlace: short,
    spares: { type: "integer", minimum: 0, maximum: 99 },
    /** Taken off the path, kept because the log speaks of it. */
    hidden: { type: "boolean" },
  },
  required: ["id", "role", "name", "mount", "coating", "apertureMm", "distanceMm", "travelMm"],
  additionalProperties: false,
} as const;
export type PathStation = Readonly<FromSchema<typeof pathStationSchema>>;

export const BEARINGS = ["sealed", "open", "wheels", "profile"] as const;
export const COOLINGS = ["chiller", "bucket", "internal", "air"] as const;
/** Glass tubes are excited by a high direct voltage, metal ones by radio frequency: other hazards, other lives. */
export const TUBES = ["glass", "metal"] as const;
export const ROOMS = ["clean", "dusty"] as const;
/** How well smoke is drawn away. */
export const EXHAUSTS = ["strong", "usual", "weak"] as const;
export const LIDS = ["acrylic", "glass", "metal"] as const;
export const BEDS = ["honeycomb", "slats", "both"] as const;
/** Parts a machine may have or lack. */
export const EXTRAS = [
  "air-pump",
  "air-fan",
  "air-meter",
  "autofocus",
  "camera",
  "encoder",
  "filter-unit",
  "head-fan",
  "inline-fan",
  "linear-bearings",
  "pointer",
  "prefilter",
  "sensor-windows",
] as const;
export const COUNTERS = ["panel", "none"] as const;
export const SCHOOLS = ["careful", "by-use", "minimal"] as const;
export const OPTICS_ORDERS = ["by-scope", "head-first", "tube-first"] as const;

export type TubeKind = (typeof TUBES)[number];
export type Extra = (typeof EXTRAS)[number];
export type School = (typeof SCHOOLS)[number];
export type OpticsOrder = (typeof OPTICS_ORDERS)[number];

/** What stands off the path, and how its owner likes the work done. */
export const fittingsSchema = {
  type: "object",
  properties: {
    bearing: { enum: BEARINGS },
    cooling: { enum: COOLINGS },
    lid: { enum: LIDS },
    tube: { enum: TUBES },
    /** Whether other work makes dust beside it. */
    room: { enum: ROOMS },
    exhaust: { enum: EXHAUSTS },
    /** Month (1 to 12) of the first frost where it stands; 0 where it never freezes. */
    frostMonth: { type: "integer", minimum: 0, maximum: 12 },
    bed: { enum: BEDS },
    /** What the head reaches, and the corner of it the beam comes in at. */
    bedWidthMm: { type: "number", minimum: 80, maximum: 4000 },
    bedDepthMm: { type: "number", minimum: 80, maximum: 4000 },
    beamCorner: { enum: BED_CORNERS },
    extras: { type: "array", uniqueItems: true, items: { enum: EXTRAS } },
    /** Whether its panel counts hours; where it does not they come from the jobs that are logged. */
    counter: { enum: COUNTERS },
    school: { enum: SCHOOLS },
    opticsOrder: { enum: OPTICS_ORDERS },
    /** Maker's manual: a link, or where it lies. */
    manual: { type: "string", minLength: 1, maxLength: 300 },
    /** Agents and cloths on the shelf, by id; undefined while nobody said. */
    agents: { type: "array", uniqueItems: true, maxItems: 60, items: { type: "string", maxLength: 40 } },
    upkeep: upkeepSchema,
    sums: sumsSchema,
  },
  required: ["bearing", "cooling", "lid", "bed", "extras", "school", "opticsOrder"],
  additionalProperties: false,
} as const;
export type Fittings = Readonly<FromSchema<typeof fittingsSchema>>;

/** What kind of tube a machine has: as its owner says, otherwise as its cooling tells. */
export const tubeKindOf = (fittings: Fittings): TubeKind => fittings.tube ?? (fittings.cooling === "air" ? "metal" : "glass");
