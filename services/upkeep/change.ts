/** Changes of how a machine is cared for, checked against the one schema and saved whole or not at all. */
import { type Fittings, fittingsSchema, type Upkeep } from "#core/machine";
import { check, type FieldErrors } from "#store/check";
import { changeMachine } from "#store/machines";
import type { Services } from "../context";
import { startingLayout } from "../machine/trade";

/** Writes what a change makes of it; gives what is wrong with that, and then nothing is written. */
export async function changeUpkeep(
  services: Pick<Services, "store">,
  machineId: number,
  change: (now: Upkeep) => Upkeep,
): Promise<FieldErrors | undefined> {
  let errors: FieldErrors | undefined;
  await changeMachine(services.store, machineId, (now) => {
    const fittings: Fittings = now.fittings ?? startingLayout(now.layout).fittings;
    const checked = check<Fittings>(fittingsSchema, { ...fittings, upkeep: change(fittings.upkeep ?? {}) });
    if (checked.ok) return { fittings: checked.value };
    errors = checked.errors;
    return {};
  });
  return errors;
}
