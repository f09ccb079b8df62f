/** View model of what every place of a machine shares: its name, the others, the open round and the beam line. */
import { beamLine } from "./beamLine";
import type { Gathered } from "./gathered";
import { stopBesidesRound } from "./stop";

/** `key` is the one-time key of a round started from a station's card. */
export function shellView(g: Gathered, key: string) {
  return {
    /** The power is turned down for marks, and is to be put back. */
    isAiming: g.turnedDownMs !== undefined,
    slug: g.machine.slug,
    name: g.machine.name,
    machines: g.machines.map((m) => ({ slug: m.slug, name: m.name })),
    powerW: g.machine.ratedPowerW,
    manual: g.trade.layout.fittings.manual,
    openRound: g.openRound,
    /** Why nothing may be fired, apart from a round that is open. */
    stop: stopBesidesRound(g)?.what,
    beam: beamLine(g, key),
  };
}
