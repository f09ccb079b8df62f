/**
 * What the server keeps in memory of a machine's log: the log as it stands, its counters, and the dirt at each ladder. It is brought
 * forward by records newer than its last one, can be thrown away at any time, and then comes out the same.
 */
import { materialKinds } from "#catalog/materials";
import type { EventLog, MachineEvent } from "#core/events";
import { type SmokeFactors, type UsageTable, usageTable } from "#core/schedule";
import { readLog } from "#store/events";
import { KeptBeside } from "#store/kept";
import type { Material } from "#store/machines";
import type { Services } from "../context";
import { type LadderTable, readLadders } from "./ladders";
import type { Trade } from "./trade";

export interface Projection {
  readonly log: EventLog;
  readonly trade: Trade;
  readonly usage: UsageTable;
  readonly ladders: LadderTable;
  /** Expected fouling at the time of a ladder, in ln power; filled as it is asked for. */
  readonly fouling: Map<MachineEvent, readonly number[]>;
}

const projections = new KeptBeside<Projection>();

/** The projection of a machine's log as it is at this moment. */
export async function projectionOf(
  services: Services,
  machineId: number,
  trade: Trade,
  materials: readonly Material[],
): Promise<Projection> {
  const log = await readLog(services.store, machineId);
  const projection = project(log, trade, materials, projections.get(services.store, machineId));
  projections.set(services.store, machineId, projection);
  return projection;
}

/** A log's projection; the same with and without the one of an earlier log. */
export function project(log: EventLog, trade: Trade, materials: readonly Material[], previous?: Projection): Projection {
  const usage = usageTable(log, smokeOf(materials, trade), previous?.usage);
  const ladders = readLadders(log, materials, previous?.ladders);
  const sameBeforeMs =
    previous?.trade === trade ? Math.min(usage.sameBeforeMs, firstChangedService(previous.log, log)) : Number.NEGATIVE_INFINITY;
  if (sameBeforeMs === Number.POSITIVE_INFINITY && previous) return { log, trade, usage, ladders, fouling: previous.fouling };
  const fouling = new Map([...(previous?.fouling ?? [])].filter(([ladder]) => ladder.atMs < sameBeforeMs));
  return { log, trade, usage, ladders, fouling };
}

/** Time of the first service that the two logs do not share. */
function firstChangedService({ kinds: { service: before } }: EventLog, { kinds: { service: now } }: EventLog): number {
  const same = before.sharedWith(now);
  return Math.min(before.at(same)?.atMs ?? Number.POSITIVE_INFINITY, now.at(same)?.atMs ?? Number.POSITIVE_INFINITY);
}

/** How much more dust reaches the machine where other work makes it. */
const DUSTY_ROOM = 1.25;
/** How much more smoke stays where the exhaust does not draw it away at once, until its flow is measured. */
const EXHAUST_FACTOR = { strong: 1, usual: 1, weak: 1.5 } as const;

/** Smoke of each material: its own where its owner knows it, else its kind's; dust of the room on top. Powder fills a filter twice as fast. */
function smokeOf(materials: readonly Material[], trade: Trade): SmokeFactors {
  const { fittings } = trade.layout;
  const around = (fittings.room === "dusty" ? DUSTY_ROOM : 1) * EXHAUST_FACTOR[fittings.exhaust ?? "usual"];
  return new Map(
    materials.map((m) => {
      const kind = materialKinds.find((k) => k.id === m.kind);
      const optics = around * (m.smokeOptics ?? kind?.optics ?? 1);
      const filter = optics * (kind?.dirt === "powder" ? 2 : 1);
      return [m.id, { optics, nozzle: around * (m.smokeNozzle ?? kind?.nozzle ?? 1), filter }];
    }),
  );
}
