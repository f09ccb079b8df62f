/** The practice bench of a machine: simulated devices that take over what its log knows. */
import { LAYOUT_IDS } from "#core/machine";
import { type Bench, practiceBench } from "#devices";
import type { Gathered } from "./machine/gathered";
import { NotHere } from "./refusal";

/** Throws NotHere where it was not put at hand. Another seed is another moment: devices jitter. */
export function benchOf(g: Gathered, seed: number): Bench {
  if (!g.hasBench) throw new NotHere("The practice bench is not at hand: put it there in the Workshop, under Devices.");
  const last = g.usage.lastCounter;
  return practiceBench({
    seed,
    layout: LAYOUT_IDS.find((l) => l === g.machine.layout) ?? "three-mirror",
    ratedPowerW: g.machine.ratedPowerW,
    tubeHours: g.usage.tubeHours ?? 0,
    counterHours: last?.counterHours ?? 0,
    sinceReadingHours: last ? g.usage.firingHours(last.atMs, g.nowMs) : 0,
    doses: g.doses,
    hasCoolant: g.trade.layout.systems.includes("coolant"),
  });
}
