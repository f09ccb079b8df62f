/** What a person does at the machine: every procedure, the frame around them, and which of them a scope of a round takes. */
import type { ProcedureSpec } from "#core/rounds";
import { airFeel, assistAir, cabinetFan, draws, duct, filterUnit, headFan, inlineFan, prefilter } from "./procedures/air";
import { antifreeze, coolantChange, coolantLevel, fins, tubeLook } from "./procedures/cooling";
import { bed, tray } from "./procedures/dirt";
import { bearings, belts, encoder, encoderReader, lubricate, rails } from "./procedures/motion";
import { aimCheck, controller, visit } from "./procedures/running";
import { cabinet, camera, lid, panel } from "./procedures/wipe";

export * from "./procedures/frame";
export { exitWindow, lens, lensLook, mirror, mirrorLook, nozzle, sideWindow } from "./procedures/optics";
export { repairParts, repairSpecs } from "./procedures/repairs";

/** Procedures of what stands off the path, by id. */
export const systemProcedures: readonly ProcedureSpec[] = [
  tray,
  bed,
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
  filterUnit,
  draws,
  airFeel,
  controller,
  aimCheck,
  visit,
];

export interface Scope {
  readonly id: "quick" | "daily" | "weekly" | "monthly" | "full";
  readonly name: string;
  readonly why: string;
  /**
   * Parts by id; `@head` is a head mirror in the open, `@open` every mirror in the open, `@mirrors` all, `-look` only looks, `?` only
   * when it is due.
   */
  readonly parts: readonly string[];
  /** Direction along the optics when the machine leaves it to the scope. */
  readonly order: "head-first" | "tube-first";
}

const daily = ["tray", "lens", "nozzle", "@head", "air-feel"];
const weekly = [...daily, "cabinet-fan", "prefilter", "rails", "belts", "coolant-level", "cabinet", "panel", "@open", "exhaust-draws"];
const monthly = [
  ...weekly,
  "inline-fan",
  "head-fan",
  "air",
  "lubricate",
  "encoder",
  "bearings",
  "fins",
  "tube-look",
  "lid",
  "camera",
  "@mirrors",
  "side-window",
  "window",
  "filter-unit",
  "aim-check",
  "controller",
];

export const scopes: readonly Scope[] = [
  {
    id: "quick",
    name: "Quick look",
    why: "Looks only: up at the lens, at the head mirror, the air. Open what shows film.",
    parts: ["lens-look", "@head-look", "air-feel"],
    order: "head-first",
  },
  { id: "daily", name: "Daily", why: "Where the smoke is: tray, lens, nozzle, head mirror.", parts: daily, order: "head-first" },
  {
    id: "weekly",
    name: "Weekly",
    why: "The daily, and what dust does in a week: fans, rails, water, the mirrors in the open.",
    parts: weekly,
    order: "head-first",
  },
  { id: "monthly", name: "Monthly", why: "All optics, all fans, rails greased, aim checked.", parts: monthly, order: "tube-first" },
  {
    id: "full",
    name: "Full",
    why: "Everything this machine has; bed and coolant when they are due.",
    parts: [...monthly, "duct", "bed?", "coolant-change?", "antifreeze", "encoder-reader"],
    order: "tube-first",
  },
];
