import type { Store } from "./database";

/** A laser cutter of the workshop. */
export interface Machine {
  readonly id: number;
  readonly slug: string;
  readonly name: string;
  readonly layout: string;
  readonly ratedPowerW: number;
  readonly ratedTubeHours: number;
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
}

export interface NewMaterial {
  readonly name: string;
  readonly kind: string;
  readonly thicknessMm: number;
  readonly usualSpeedMmPerS?: number | undefined;
  readonly usualSetPercent?: number | undefined;
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
    createdMs: row.created_ms,
  }));
}

/** A free address for a name: letters and digits, numbered when taken. */
function slugFor(name: string, taken: ReadonlySet<string>): string {
  const base =
    name
      .normalize("NFKD")
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "") || "machine";
  let slug = base;
  for (let n = 2; taken.has(slug) || slug === "start" || slug === "assets"; n++) slug = `${base}-${n}`;
  return slug;
}

export interface NewMachine {
  readonly name: string;
  readonly layout: string;
  readonly ratedPowerW: number;
  readonly ratedTubeHours: number;
  readonly tubeHours: number;
  readonly material: NewMaterial;
}

/** Adds a machine with its first counter reading and material in one transaction. Sent twice with one key, it is added once. */
export async function addMachine(store: Store, machine: NewMachine, requestKey: string, nowMs: number): Promise<string> {
  return store.transaction().execute(async (tx) => {
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
  };
}

export async function addMaterial(store: Store, machineId: number, material: NewMaterial): Promise<number> {
  const { id } = await store.insertInto("material").values(materialRow(machineId, material)).returning("id").executeTakeFirstOrThrow();
  return id;
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
  }));
}
