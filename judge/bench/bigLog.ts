/** A logbook of any length, written straight into an empty data folder: what a busy workshop would have after years. */

import { scopes } from "#catalog/procedures";
import type { EventKind, EventPayload } from "#core/events";
import { seededRandom } from "#core/random";
import { DAY_MS, HOUR_MS } from "#core/time";
import { partsOfScope, planOf } from "#services/machine/plans";
import { tradeOf } from "#services/machine/trade";
import { addFinding, closeCase, openCase } from "#store/cases";
import { openStore, type Store } from "#store/database";
import { addMachine, listMachines } from "#store/machines";

/** Records a day at least: nine jobs and what goes with them. */
const A_DAY = 15;
/** A new baseline after about two years, as with a new tube. */
const BASELINE_EVERY_DAYS = 700;

export interface BigLog {
  readonly store: Store;
  readonly slug: string;
  readonly machineId: number;
  readonly caseId: number;
  readonly nowMs: number;
}

/** Writes `count` events of one machine up to `nowMs`, an open case and an open round of two others. */
export async function writeBigLog(folder: string, count: number, nowMs: number): Promise<BigLog> {
  const store = await openStore(folder);
  const startMs = nowMs - Math.ceil(count / A_DAY) * DAY_MS;
  const material = { name: "birch ply", kind: "birch-ply", thicknessMm: 3, usualSpeedMmPerS: 14, usualSetPercent: 60 };
  for (const name of ["Larkspur", "Teasel", "Burdock"])
    await addMachine(store, { name, layout: "three-mirror", ratedPowerW: 80, ratedTubeHours: 3000, tubeHours: 0, material }, name, startMs);
  const machine = (await listMachines(store)).find((m) => m.slug === "larkspur");
  if (!machine) throw new Error("no machine");
  const trade = tradeOf(machine);
  const random = seededRandom(7);
  const parts = partsOfScope(trade, scopes[1] as (typeof scopes)[number], new Set());
  const plan = JSON.stringify(planOf(trade, parts));
  let written = 0;
  let hours = 0;
  let roundId = 0;
  await store.transaction().execute(async (tx) => {
    const add = async <K extends EventKind>(kind: K, atMs: number, payload: EventPayload[K], more: object = {}) => {
      written += 1;
      const row = {
        machine_id: machine.id,
        kind,
        at_ms: Math.round(atMs),
        recorded_ms: Math.round(atMs),
        payload: JSON.stringify(payload),
        corrects: null,
        round_id: null,
        case_id: null,
        request_key: `big-${written}`,
        ...more,
      };
      await tx.insertInto("event").values(row).execute();
    };
    for (let day = 0; written < count; day++) {
      const morning = startMs + day * DAY_MS + 8 * HOUR_MS;
      for (let j = 0; j < 9; j++) {
        const minutes = 10 + Math.round(random.uniform() * 30);
        hours += minutes / 60;
        await add("job", morning + j * HOUR_MS, { materialId: 1, minutes });
      }
      await add("hours", morning + 9.5 * HOUR_MS, { counterHours: Math.round(10 * hours) / 10 });
      await add("cut", morning + 9.6 * HOUR_MS, { materialId: 1, speedMmPerS: 14, setPercent: 60, result: "through" });
      roundId += 1;
      const ended = { status: "closed", started_ms: morning + 9.7 * HOUR_MS, ended_ms: morning + 10 * HOUR_MS } as const;
      await tx
        .insertInto("round")
        .values({
          id: roundId,
          machine_id: machine.id,
          title: "Lens and head mirror",
          parts: JSON.stringify(parts),
          plan,
          case_id: null,
          request_key: `big-round-${roundId}`,
          ...ended,
        })
        .execute();
      for (const station of ["lens", "mirror-3"]) {
        await add("grade", morning + 9.8 * HOUR_MS, { station, phase: "as-found", grade: 1 }, { round_id: roundId });
        await add("service", morning + 9.9 * HOUR_MS, { station, what: "cleaned" }, { round_id: roundId });
      }
      if (day % 3 === 0) {
        const baseline = day % BASELINE_EVERY_DAYS === 0 ? { baseline: true as const } : {};
        const top = 12 + Math.round(random.uniform());
        const rungs = [9, 10, 11, 12, 13, 14, 15, 16].map((v) => ({
          speedMmPerS: v,
          end: v <= top ? ("dropped" as const) : ("stays" as const),
        }));
        await add("ladder", morning + 10 * HOUR_MS, { materialId: 1, setPercent: 60, rungs, ...baseline }, { round_id: roundId });
      }
      // Every fiftieth day a slip of the keys is corrected.
      if (day % 50 === 49) await add("job", morning, { materialId: 1, minutes: 20 }, { corrects: written - 8 });
    }
  });
  const titled = {
    title: "Slowly weaker",
    sign: "slowly-weaker",
    symptom: "power",
    findings: [{ check: "known-cut", outcome: "hangs" }],
  } as const;
  for (let n = 0; n < count / 5000; n++) {
    const at = startMs + n * 300 * DAY_MS;
    const id = await openCase(store, machine.id, { ...titled, onsetMs: at, requestKey: `big-case-${n}` }, at);
    await closeCase(store, machine.id, id, { repair: "Clean the lens", faults: ["lens-dirty"], proof: "ladder" }, at + DAY_MS);
  }
  const caseId = await openCase(store, machine.id, { ...titled, onsetMs: nowMs - 4 * DAY_MS, requestKey: "big-case" }, nowMs - 2 * DAY_MS);
  await addFinding(store, caseId, { check: "onset", outcome: "gradual" }, "big-onset", nowMs - 2 * DAY_MS);
  return { store, slug: machine.slug, machineId: machine.id, caseId, nowMs };
}
