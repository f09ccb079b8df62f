/** What a person does at the machine: every procedure, the frame around them, and which of them a scope of a round takes. */
import type { StationRole } from "#core/beam";
import type { ProcedureSpec } from "#core/rounds";
import { airFeel, assistAir, cabinetFan, draws, duct, filterUnit, headFan, inlineFan, prefilter } from "./procedures/air";
import { antifreeze, coolantChange, coolantLevel, fins, tubeLook } from "./procedures/cooling";
import { bed, slatsWipe, tray } from "./procedures/dirt";
import { bearings, belts, encoder, encoderReader, lubricate, rails } from "./procedures/motion";
import { exitWindow, lens, lensLook, mirror, nozzle, nozzleLook, sideWindow } from "./procedures/optics";
import { aimCheck, controller, visit } from "./procedures/running";
import { cabinet, camera, lid, panel, smallGlass } from "./procedures/wipe";

export * from "./procedures/frame";
export { repairSpecs } from "./procedures/repairs";
export { bookedStep } from "./procedures/running";

/** How each kind of station is cleaned, and looked at alone where that can be done without a clean. */
export const stationProcedures: { readonly [R in StationRole]: { readonly clean?: ProcedureSpec; readonly look?: ProcedureSpec } } = {
  tube: {},
  window: { clean: exitWindow },
  mirror: { clean: mirror },
  "side-window": { clean: sideWindow },
  lens: { clean: lens, look: lensLook },
  nozzle: { clean: nozzle, look: nozzleLook },
};

/** Procedures of what stands off the path, by id. */
export const systemProcedures: readonly ProcedureSpec[] = [
  tray,
  bed,
  slatsWipe,
  cabinetFan,
  duct,
  inlineFan,
  prefilter,
  headFan,
  assistAir,
  rails,
  lubricate,
  belts,
  encoder,
  encoderReader,
  bearings,
  coolantLevel,
  coolantChange,
  antifreeze,
  fins,
  tubeLook,
  cabinet,
  lid,
  panel,
  camera,
  smallGlass,
  filterUnit,
  draws,
  airFeel,
  controller,
  aimCheck,
  visit,
];

export interface Scope {
  readonly id: "daily" | "weekly" | "monthly" | "full";
  readonly name: string;
  readonly why: string;
  /**
   * Parts by id; `@head` is a head mirror in the open, `@open` every mirror in the open, `@mirrors` all, `@window` a side window in the open, `+` what a look in this round
   * asks for, `?` only when it is due.
   */
  readonly parts: readonly string[];
  /** Direction along the optics when the machine leaves it to the scope. */
  readonly order: "head-first" | "tube-first";
}

const daily = ["lens-look", "nozzle-look", "@head", "@window", "small-glass", "lens+", "nozzle+"];
const weekly = [
  ...daily,
  "tray",
  "slats-wipe",
  "prefilter",
  "rails",
  "belts",
  "coolant-level",
  "cabinet",
  "panel",
  "@open",
  "air?",
  "air-feel",
  "exhaust-draws",
  "filter-unit",
];
const monthly = [
  ...weekly,
  "lid",
  "cabinet-fan",
  "inline-fan?",
  "head-fan",
  "lubricate?",
  "encoder",
  "bearings?",
  "fins",
  "tube-look",
  "@mirrors",
  "side-window",
  "window",
  "aim-check?",
  "controller?",
];

export const scopes: readonly Scope[] = [
  {
    id: "daily",
    name: "Daily",
    why: "Five minutes: a torch on lens, nozzle and small windows, a wipe of what is not clear, the first cut as proof.",
    parts: daily,
    order: "head-first",
  },
  {
    id: "weekly",
    name: "Weekly",
    why: "The daily, and what dust does in a week: tray, rails, belts, water, air line, the mirrors in the open.",
    parts: weekly,
    order: "head-first",
  },
  {
    id: "monthly",
    name: "Monthly",
    why: "All optics looked at, lid and fans, the tube's wires; grease and the duct's fan when they are due.",
    parts: monthly,
    order: "tube-first",
  },
  {
    id: "full",
    name: "Full",
    why: "Everything this machine has; bed and coolant when they are due.",
    parts: [
      ...monthly.map((p) => (p.endsWith("?") ? p.slice(0, -1) : p)),
      "lens",
      "nozzle",
      "camera",
      "duct",
      "bed?",
      "coolant-change?",
      "antifreeze",
      "encoder-reader",
    ],
    order: "tube-first",
  },
];
