/** View model of what every place of a machine shares: its name, the others, the open round and the beam line. */
import { openSittingOf } from "#store/aim";
import type { Services } from "../context";
import { beamLine } from "./beamLine";
import type { Gathered } from "./gather";
import { brokenOf } from "./stop";

/** `key` is the one-time key of a round started from a station's card. */
export async function shellView({ store }: Services, g: Gathered, key: string) {
  return {
    /** The power is turned down for marks, and is to be put back. */
    isAiming: (await openSittingOf(store, g.machine.id)) !== undefined,
    slug: g.machine.slug,
    name: g.machine.name,
    machines: g.machines.map((m) => ({ slug: m.slug, name: m.name })),
    powerW: g.machine.ratedPowerW,
    openRound: g.openRound,
    broken: brokenOf(g)?.words,
    beam: beamLine(g, key),
  };
}
