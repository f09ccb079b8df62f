/** View model of what every place of a machine shares: its name, the others, the open round and the beam line. */
import { beamLine } from "./beamLine";
import type { Gathered } from "./gather";

/** `key` is the one-time key of a round started from a station's card. */
export function shellView(g: Gathered, key: string) {
  return {
    slug: g.machine.slug,
    name: g.machine.name,
    machines: g.machines.map((m) => ({ slug: m.slug, name: m.name })),
    powerW: g.machine.ratedPowerW,
    openRound: g.openRound,
    beam: beamLine(g, key),
  };
}
