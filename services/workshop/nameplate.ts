/** The machine's own form: its name, its rated power and the rated life of its tube. */

import { check } from "#store/check";
import { changeMachine, type Machine } from "#store/machines";
import type { Services } from "../context";
import type { FormReader } from "../forms/fields";
import { LIMITS } from "../forms/limits";
import { type Edited, given } from "./edited";
import { NAMEPLATE_FIELDS } from "./fieldWords";
import { refuseStale } from "./stale";

const machineSchema = {
  type: "object",
  properties: {
    name: LIMITS.machineName,
    ratedPowerW: LIMITS.ratedPowerW,
    ratedTubeHours: LIMITS.ratedTubeHours,
  },
  required: ["name", "ratedPowerW", "ratedTubeHours"],
  additionalProperties: false,
} as const;

/** What the machine's own form shows. */
export const nameplateOf = ({ name, ratedPowerW, ratedTubeHours }: Machine) => ({ name, ratedPowerW, ratedTubeHours });

export async function editMachine(services: Services, machine: Machine, reader: FormReader): Promise<Edited> {
  const fields = given({
    name: reader.text("name"),
    ratedPowerW: reader.number("ratedPowerW", "W", "80"),
    ratedTubeHours: reader.number("ratedTubeHours", "h", "3000"),
  });
  const checked = check<{ name: string; ratedPowerW: number; ratedTubeHours: number }>(machineSchema, fields);
  if (!checked.ok || Object.keys(reader.errors).length > 0) return { errors: { ...(checked.ok ? {} : checked.errors), ...reader.errors } };
  await changeMachine(services.store, machine.id, (now) => {
    refuseStale(reader, nameplateOf(now), NAMEPLATE_FIELDS);
    return checked.value;
  });
  return { said: "Saved." };
}
