/** The fields of the Workshop's forms in words, to say what another device changed. */
import { agents } from "#catalog/agents";
import { BEAM_WORDS, COATING_WORDS, EXTRA_WORDS, FITTING_WORDS, FROST_WORDS, MOUNT_WORDS, SCREW_WORDS } from "./words";

/** How a field is called on its form, and what its values are called. */
export type FieldWords = Readonly<Record<string, { readonly name: string; readonly values?: Readonly<Record<string, string>> }>>;

export const STATION_FIELDS: FieldWords = {
  name: { name: "Name" },
  coating: { name: "Made of", values: COATING_WORDS },
  mount: { name: "Held by", values: MOUNT_WORDS },
  apertureMm: { name: "Clear aperture, mm" },
  distanceMm: { name: "To the next, mm" },
  travelMm: { name: "With travel, up to, mm" },
  transmission: { name: "Passes when clean" },
  beamTo: { name: "The beam goes on", values: BEAM_WORDS },
  screwKind: { name: "Aimed by", values: SCREW_WORDS },
  screwPitchMm: { name: "Pitch of its screws, mm" },
  screwArmMm: { name: "Arm of its screws, mm" },
  enclosed: { name: "In a housing of its own" },
  panel: { name: "Behind panel" },
  warranty: { name: "Panel not meant for owners" },
  keys: { name: "Key" },
  gantry: { name: "Park gantry, head or table at" },
  comesOff: { name: "How it comes off" },
  screws: { name: "Screws" },
  wayRound: { name: "Which way round" },
  wayRoundPhoto: { name: "Photo of the way round" },
  toolPlace: { name: "Where its gauge, tool or key is kept" },
  spares: { name: "Spares in stock" },
  hidden: { name: "Taken off the path" },
};

export const FITTING_FIELDS: FieldWords = {
  bearing: { name: "Rails and bearings", values: FITTING_WORDS.bearing },
  cooling: { name: "Cooling", values: FITTING_WORDS.cooling },
  tube: { name: "Kind of tube", values: FITTING_WORDS.tube },
  room: { name: "The room", values: FITTING_WORDS.room },
  exhaust: { name: "Exhaust", values: FITTING_WORDS.exhaust },
  counter: { name: "Hours", values: FITTING_WORDS.counter },
  frostMonth: { name: "First frost in the room", values: FROST_WORDS },
  lid: { name: "Lid", values: FITTING_WORDS.lid },
  bed: { name: "Bed", values: FITTING_WORDS.bed },
  bedWidthMm: { name: "Width of the bed, mm" },
  bedDepthMm: { name: "Depth of the bed, mm" },
  beamCorner: { name: "Beam comes in at", values: FITTING_WORDS.beamCorner },
  school: { name: "How often", values: FITTING_WORDS.school },
  opticsOrder: { name: "Order of the optics", values: FITTING_WORDS.opticsOrder },
  extras: { name: "It has", values: EXTRA_WORDS },
  manual: { name: "Maker's manual" },
  agents: { name: "On the shelf", values: Object.fromEntries(agents.map((a) => [a.id, a.name])) },
};

export const NAMEPLATE_FIELDS: FieldWords = {
  name: { name: "Name" },
  ratedPowerW: { name: "Rated power, W" },
  ratedTubeHours: { name: "Rated tube life, h" },
};

export const MATERIAL_FIELDS: FieldWords = {
  usualSpeedMmPerS: { name: "Usual speed, mm/s" },
  usualSetPercent: { name: "at power, %" },
  smokeOptics: { name: "Smoke per hour" },
  smokeNozzle: { name: "at the nozzle" },
};
