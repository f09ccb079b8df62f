/**
 * Every subject of the trade, one file each: its checks, repairs, faults and signs with their words. Here they become the templates the
 * trace engine expands for a machine.
 */
import type { CheckTemplate, FaultTemplate, RepairTemplate } from "#core/trace";
import { airChecks, airFaults, airRepairs, airSigns } from "./air";
import { coolingChecks, coolingFaults, coolingRepairs, coolingSigns } from "./cooling";
import { cutChecks, cutSigns } from "./cut";
import type { CheckDefinition, FaultDefinition, RepairDefinition, SignDefinition } from "./definition";
import { exhaustChecks, exhaustFaults, exhaustRepairs, exhaustSigns } from "./exhaust";
import { headChecks, headFaults, headRepairs, headSigns } from "./head";
import { lensChecks, lensFaults, lensRepairs, lensSigns } from "./lens";
import { materialChecks, materialFaults, materialRepairs } from "./material";
import { mirrorsChecks, mirrorsFaults, mirrorsRepairs } from "./mirrors";
import { motionChecks, motionFaults, motionRepairs, motionSigns } from "./motion";
import { sensingChecks, sensingFaults, sensingRepairs, sensingSigns } from "./sensing";
import { settingsChecks, settingsFaults, settingsRepairs, settingsSigns } from "./settings";
import { tubeChecks, tubeFaults, tubeRepairs, tubeSigns } from "./tube";
import { windowChecks, windowFaults, windowRepairs } from "./window";

export const checks = {
  ...cutChecks,
  ...tubeChecks,
  ...windowChecks,
  ...mirrorsChecks,
  ...lensChecks,
  ...headChecks,
  ...airChecks,
  ...exhaustChecks,
  ...coolingChecks,
  ...motionChecks,
  ...sensingChecks,
  ...settingsChecks,
  ...materialChecks,
};
export const repairs = {
  ...tubeRepairs,
  ...windowRepairs,
  ...mirrorsRepairs,
  ...lensRepairs,
  ...headRepairs,
  ...airRepairs,
  ...exhaustRepairs,
  ...coolingRepairs,
  ...motionRepairs,
  ...sensingRepairs,
  ...settingsRepairs,
  ...materialRepairs,
};
export const faults = {
  ...tubeFaults,
  ...windowFaults,
  ...mirrorsFaults,
  ...lensFaults,
  ...headFaults,
  ...airFaults,
  ...exhaustFaults,
  ...coolingFaults,
  ...motionFaults,
  ...sensingFaults,
  ...settingsFaults,
  ...materialFaults,
};
export const signs = {
  ...cutSigns,
  ...tubeSigns,
  ...lensSigns,
  ...headSigns,
  ...airSigns,
  ...exhaustSigns,
  ...coolingSigns,
  ...motionSigns,
  ...sensingSigns,
  ...settingsSigns,
};

export type { CheckId, RepairId } from "./definition";
export type FaultId = keyof typeof faults;
export type SignId = keyof typeof signs;

const entries = <T>(definitions: Readonly<Record<string, T>>): [string, T][] => Object.entries(definitions);

export const checkTemplates: readonly CheckTemplate[] = entries<CheckDefinition>(checks).map(([id, check]) => ({
  ...check,
  id,
  outcomes: Object.keys(check.outcomes),
  leak: Object.values(check.outcomes).map((o) => o.leak),
}));
export const repairTemplates: readonly RepairTemplate[] = entries<RepairDefinition>(repairs).map(([id, repair]) => ({ ...repair, id }));
export const faultTemplates: readonly FaultTemplate[] = entries<FaultDefinition>(faults).map(([id, fault]) => ({
  ...fault,
  id,
  effects: Object.fromEntries(Object.entries(fault.effects).filter(([, effect]) => effect !== undefined)),
}));

/** Signs in the order they are offered. */
export const signList = entries<SignDefinition>(signs).map(([id, sign]) => ({ ...sign, id }));

/** A definition by an id that came from a model or a stored record; undefined for one the trade no longer has. */
export const checkOf = (id: string): CheckDefinition | undefined => find<CheckDefinition>(checks, id);
export const faultOf = (id: string): FaultDefinition | undefined => find<FaultDefinition>(faults, id);
export const repairOf = (id: string): RepairDefinition | undefined => find<RepairDefinition>(repairs, id);
const find = <T>(all: Readonly<Record<string, T>>, id: string): T | undefined => (Object.hasOwn(all, id) ? all[id] : undefined);
