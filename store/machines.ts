import { type Fittings, type PathStation, stationOfCheck } from "#core/machine";
import { atOnce, type Store } from "./database";

/** A laser cutter of the workshop. */
export interface Machine {
  readonly id: number;
  readonly slug: string;
  readonly name: string;
  readonly layout: string;
  readonly ratedPowerW: number;
  readonly ratedTubeHours: number;
  /** The owner's own path and fittings; undefined while they are the starting layout's. */
  readonly path: readonly PathStation[] | undefined;
  readonly fittings: Fittings | undefined;
  readonly createdMs: number;
}

/** A sheet the owner cuts on a machine, with the setting that usually works. */
export interface Material {
  readonly id: number;
  readonly name: string;
  readonly kind: string;
  readonly thicknessMm: number;
  readonly beta: number;
  readonly usualSpeedMmPerS: number | undefined;
  readonly usualSetPercent: number | undefined;
  /** Smoke of an hour, in ply-hours, where the owner knows better than the kind's own figure. */
  readonly smokeOptics: number | undefined;
  readonly smokeNozzle: number | undefined;
  /** No longer offered; kept because the log speaks of it. */
  readonly hidden: boolean;
}

export interface NewMaterial {
  readonly name: string;
  readonly kind: string;
  readonly thicknessMm: number;
  readonly usualSpeedMmPerS?: number | undefined;
  readonly usualSetPercent?: number | undefined;
  readonly smokeOptics?: number | undefined;
  readonly smokeNozzle?: number | undefined;
}

export async function listMachines(store: Store): Promise<Machine[]> {
  const rows = await store.selectFrom("machine").selectAll().orderBy("id").execute();
  return rows.map((row) => ({
    id: row.id,
    slug: row.slug,
    name: row.name,
    layout: row.layout,
    ratedPowerW: row.rated_power_w,
    ratedTubeHours: row.rated_tube_hours,
    path: row.path === null ? undefined : (JSON.parse(row.path) as PathStation[]),
    fittings: row.fittings === null ? undefined : (JSON.parse(row.fittings) as Fittings),
    createdMs: row.created_ms,
  }));
}

const jsonOrNull = (value: unknown): string | null => (value === undefined ? null : JSON.stringify(value));

/** First parts of addresses that belong to the application. */
const RESERVED = new Set(["start", "assets", "sign-in", "photos", "machines", "exchange", "copies"]);

/** A free address for a name: letters and digits, numbered when taken. */
export function slugFor(name: string, taken: ReadonlySet<string>): string {
  const base =
    name
      .normalize("NFKD")
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "") || "machine";
  let slug = base;
  for (let n = 2; taken.has(slug) || RESERVED.has(slug); n++) slug = `${base}-${n}`;
  return slug;
}

export interface NewMachine {
  readonly name: string;
  readonly layout: string;
  readonly ratedPowerW: number;
  readonly ratedTubeHours: number;
  readonly tubeHours: number;
  readonly path?: readonly PathStation[] | undefined;
  readonly fittings?: Fittings | undefined;
  readonly material: NewMaterial;
}

/** Adds a machine with its first counter reading and material in one transaction. Sent twice with one key, it is added once. */
export async function addMachine(store: Store, machine: NewMachine, requestKey: string, nowMs: number): Promise<string> {
  return atOnce(store, async (tx) => {
    const before = await tx.selectFrom("machine").select("slug").where("request_key", "=", requestKey).executeTakeFirst();
    if (before) return before.slug;
    const taken = await tx.selectFrom("machine").select("slug").execute();
    const slug = slugFor(machine.name, new Set(taken.map((t) => t.slug)));
    const { id } = await tx
      .insertInto("machine")
      .values({
        slug,
        name: machine.name,
        layout: machine.layout,
        rated_power_w: machine.ratedPowerW,
        rated_tube_hours: machine.ratedTubeHours,
        path: jsonOrNull(machine.path),
        fittings: jsonOrNull(machine.fittings),
        created_ms: nowMs,
        request_key: requestKey,
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    await tx
      .insertInto("event")
      .values({
        machine_id: id,
        kind: "hours",
        at_ms: nowMs,
        recorded_ms: nowMs,
        payload: JSON.stringify({ counterHours: machine.tubeHours }),
        corrects: null,
        round_id: null,
        case_id: null,
        request_key: `${requestKey}:hours`,
      })
      .execute();
    await tx.insertInto("material").values(materialRow(id, machine.material)).execute();
    return slug;
  });
}

function materialRow(machineId: number, material: NewMaterial) {
  return {
    machine_id: machineId,
    name: material.name,
    kind: material.kind,
    thickness_mm: material.thicknessMm,
    usual_speed_mm_per_s: material.usualSpeedMmPerS ?? null,
    usual_set_percent: material.usualSetPercent ?? null,
    smoke_optics: material.smokeOptics ?? null,
    smoke_nozzle: material.smokeNozzle ?? null,
  };
}

/** Adds a material. Its id, or undefined when the machine has one of this name and thickness already. */
export async function addMaterial(store: Store, machineId: number, material: NewMaterial): Promise<number | undefined> {
  const added = await store
    .insertInto("material")
    .values(materialRow(machineId, material))
    .onConflict((c) => c.columns(["machine_id", "name", "thickness_mm"]).doNothing())
    .returning("id")
    .executeTakeFirst();
  return added?.id;
}

export async function listMaterials(store: Store, machineId: number): Promise<Material[]> {
  const rows = await store.selectFrom("material").selectAll().where("machine_id", "=", machineId).orderBy("id").execute();
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    kind: row.kind,
    thicknessMm: row.thickness_mm,
    beta: row.beta,
    usualSpeedMmPerS: row.usual_speed_mm_per_s ?? undefined,
    usualSetPercent: row.usual_set_percent ?? undefined,
    smokeOptics: row.smoke_optics ?? undefined,
    smokeNozzle: row.smoke_nozzle ?? undefined,
    hidden: row.hidden === 1,
  }));
}

/** What an owner may change of a material; its name and thickness are what the log knows it by. */
export type MaterialChange = Partial<Omit<NewMaterial, "name" | "thicknessMm">> & { readonly hidden?: boolean | undefined };

export async function changeMaterial(store: Store, machineId: number, materialId: number, change: MaterialChange): Promise<void> {
  await store
    .updateTable("material")
    .set({
      ...("kind" in change && change.kind ? { kind: change.kind } : {}),
      ...("usualSpeedMmPerS" in change ? { usual_speed_mm_per_s: change.usualSpeedMmPerS ?? null } : {}),
      ...("usualSetPercent" in change ? { usual_set_percent: change.usualSetPercent ?? null } : {}),
      ...("smokeOptics" in change ? { smoke_optics: change.smokeOptics ?? null } : {}),
      ...("smokeNozzle" in change ? { smoke_nozzle: change.smokeNozzle ?? null } : {}),
      ...(change.hidden === undefined ? {} : { hidden: change.hidden ? 1 : 0 }),
    })
    .where("id", "=", materialId)
    .where("machine_id", "=", machineId)
    .execute();
}

/** What an owner may change of a machine: its name, ratings, path and fittings. Its address stays. */
export interface MachineChange {
  readonly name?: string;
  readonly ratedPowerW?: number;
  readonly ratedTubeHours?: number;
  readonly path?: readonly PathStation[];
  readonly fittings?: Fittings;
}

/**
 * Changes a machine as it stands at that moment: `change` is handed the present state inside the transaction, so that two devices
 * editing at once cannot undo each other. It may throw to leave everything as it was.
 */
export async function changeMachine(store: Store, machineId: number, change: (now: Machine) => MachineChange): Promise<void> {
  await atOnce(store, async (tx) => {
    const now = (await listMachines(tx)).find((m) => m.id === machineId);
    if (!now) throw new RangeError(`no machine ${machineId}`);
    const next = change(now);
    await tx
      .updateTable("machine")
      .set({
        name: next.name ?? now.name,
        rated_power_w: next.ratedPowerW ?? now.ratedPowerW,
        rated_tube_hours: next.ratedTubeHours ?? now.ratedTubeHours,
        path: jsonOrNull(next.path ?? now.path),
        fittings: jsonOrNull(next.fittings ?? now.fittings),
      })
      .where("id", "=", machineId)
      .execute();
  });
}

/** Stations and systems the log, a round or a case of a machine speaks of. */
export async function stationsWithHistory(store: Store, machineId: number): Promise<Set<string>> {
  const events = await store
    .selectFrom("event")
    .select("payload")
    .where("machine_id", "=", machineId)
    .where("kind", "in", ["grade", "service", "power"])
    .execute();
  const findings = await store
    .selectFrom("finding")
    .innerJoin("trace_case", "trace_case.id", "finding.case_id")
    .select("finding.check_id")
    .where("trace_case.machine_id", "=", machineId)
    .execute();
  const stations = new Set<string>();
  for (const e of events) {
    const payload = JSON.parse(e.payload) as { station?: string; readings?: readonly { station: string }[] };
    if (payload.station) stations.add(payload.station);
    for (const r of payload.readings ?? []) stations.add(r.station);
  }
  for (const { check_id } of findings) {
    const station = stationOfCheck(check_id);
    if (station !== undefined) stations.add(station);
  }
  return stations;
}
