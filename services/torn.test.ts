/** Whichever row of an action fails to be written, nothing of it stays; done anew, it is done once. Each row it touches fails in its turn. */
import { copyFileSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { zipSync } from "fflate";
import { sql } from "kysely";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { addFinding, closeCase, openCase } from "#store/cases";
import { closeStore, databaseFile, openStore, type Store } from "#store/database";
import { hashOf } from "#store/photos";
import { endRound, saveAnswers, startRound } from "#store/rounds";
import { writeSettings } from "#store/settings";
import { aimByForm } from "./aim/act";
import { actByForm } from "./cases/act";
import { openByForm } from "./cases/open";
import type { Services } from "./context";
import { lookAtFile, takeIn } from "./exchange/importFile";
import { workshopFile } from "./exchange/workshopFile";
import { FormReader } from "./forms/fields";
import { keepEntry } from "./log/keepEntry";
import { gather } from "./machine/gather";
import { planOf } from "./machine/plans";
import { CURRENCY } from "./machine/settingNames";
import { keepAnswers } from "./rounds/answers";
import { finishJudging } from "./rounds/close";
import { endByForm } from "./rounds/endByForm";
import { startByForm } from "./start/start";
import { rungs, TestWorkshop, WEAK_CASE } from "./testWorkshop";
import { edit } from "./workshop/edit";

const SLUG = "larkspur";
type Fields = Readonly<Record<string, string>>;
const form = (fields: Fields) => {
  const data = new FormData();
  for (const [name, value] of Object.entries({ requestKey: "torn-0001", ...fields })) data.append(name, value);
  return new FormReader(data);
};

interface Action {
  readonly before?: (w: TestWorkshop) => Promise<unknown>;
  readonly run: (services: Services) => Promise<unknown>;
  /** It is done in two goes: what the second needs is noted by the first, and this does it at the next start. */
  readonly finish?: (services: Services) => Promise<unknown>;
}

const withCase = (w: TestWorkshop) => openCase(w.store, 1, WEAK_CASE, w.nowMs);
const repairRound = async (w: TestWorkshop) => {
  const caseId = await withCase(w);
  const { trade } = await w.look();
  const plan = planOf(trade, ["lens"], { isRepair: true });
  const id = await startRound(w.store, 1, { title: "Lens", parts: ["lens"], plan, caseId, requestKey: "repair" }, w.nowMs);
  const items = plan.steps.flatMap((s, i) =>
    s.kind === "proof"
      ? []
      : [
          {
            stepId: s.id,
            requestKey: `torn-answer-${i}`,
            answer: {
              done: true as const,
              atMs: w.nowMs + i,
              ...(s.kind === "grade" ? { grade: 1 } : {}),
              ...(s.seen?.[0] ? { choice: s.seen[0].id } : {}),
            },
          },
        ],
  );
  await saveAnswers(w.store, id, items, w.nowMs);
};
const ladder: Fields = {
  intent: "ladder",
  materialId: "1",
  setPercent: "60",
  ...Object.fromEntries(rungs(15).flatMap((r, i) => [[`speed-${i}`, String(r.speedMmPerS)] as const, [`end-${i}`, r.end] as const])),
};
let file = "";

const ACTIONS: Readonly<Record<string, Action>> = {
  "a job with its cut and its flame": {
    run: (s) => keepEntry(s, SLUG, form({ kind: "job", materialId: "1", minutes: "30", dropped: "hangs", flame: "more", lens: "hazy" })),
  },
  "a clean with how it was found": {
    run: (s) => keepEntry(s, SLUG, form({ kind: "service", part: "lens", what: "cleaned", found: "2" })),
  },
  "a case with what came with its sign": { run: (s) => openByForm(s, SLUG, form({ sign: "flame", since: "0" })) },
  "another sign of a case": { before: withCase, run: (s) => actByForm(s, SLUG, 1, form({ intent: "also", sign: "flame" })) },
  "a spare that was tried and stays in": {
    before: async (w) => {
      const id = await withCase(w);
      await addFinding(w.store, id, { check: "lens-look", outcome: "spots" }, "f1", w.nowMs + 1);
      await addFinding(w.store, id, { check: "lens-swap", outcome: "cuts-now" }, "f2", w.nowMs + 2);
    },
    run: (s) => actByForm(s, SLUG, 1, form({ intent: "tried" })),
  },
  "a case that is opened again": {
    before: async (w) => closeCase(w.store, 1, await withCase(w), { repair: null, faults: [], proof: "by hand" }, w.nowMs),
    run: (s) => actByForm(s, SLUG, 1, form({ intent: "reopen" })),
  },
  "what nobody knows": { before: withCase, run: (s) => actByForm(s, SLUG, 1, form({ intent: "decline", check: "power@lens" })) },
  "five answers at once": {
    before: repairRound,
    run: (s) =>
      keepAnswers(
        s,
        SLUG,
        1,
        [1, 2, 3, 4, 5].map((i) => ({
          stepId: "lens.found",
          answer: { atMs: s.nowMs() + i, note: `n${i}` },
          requestKey: `torn-late-${i}`,
        })),
      ),
  },
  "a late grade to a round that has ended": {
    before: async (w) => {
      await repairRound(w);
      await endRound(w.store, 1, 1, "abandoned", [], w.nowMs);
    },
    run: (s) => keepAnswers(s, SLUG, 1, [{ stepId: "lens.found", answer: { atMs: 1, done: true, grade: 4 }, requestKey: "torn-late" }]),
  },
  "the end of a round without a proof": {
    before: repairRound,
    run: (s) => endByForm(s, SLUG, 1, form({ intent: "abandon", why: "no scrap" })),
  },
  "the end of a repair round with its proof": {
    before: repairRound,
    run: (s) => endByForm(s, SLUG, 1, form(ladder)),
    finish: finishJudging,
  },
  "marks that are begun": { run: (s) => aimByForm(s, SLUG, form({ intent: "start", safe: "1" })) },
  "another machine with its material and hours": {
    run: (s) =>
      startByForm(
        s,
        form({
          ...{ name: "Burdock", layout: "periscope", ratedPowerW: "60", tube: "metal", tubeHours: "10", ratedTubeHours: "3000" },
          ...{ materialKind: "birch-ply", thicknessMm: "3", next: "today" },
        }),
      ),
  },
  "a material": {
    run: async (s) =>
      edit(s, (await gather(s, SLUG)).machine, form({ intent: "new-material", kind: "felt", name: "wool felt", thicknessMm: "2" })),
  },
  "a workshop's file": {
    before: async (w) => {
      const other = await TestWorkshop.open("moving-head");
      await other.store.updateTable("machine").set({ request_key: "another", name: "Teasel" }).execute();
      await other.store.updateTable("event").set({ request_key: "another-hours" }).execute();
      await openCase(other.store, 1, { ...WEAK_CASE, requestKey: "another-case" }, w.nowMs);
      await writeSettings(other.store, { [CURRENCY]: "EUR" });
      file = await workshopFile(other.services);
    },
    run: async (s) => {
      const looked = await lookAtFile(s, SLUG, new TextEncoder().encode(file));
      return takeIn(s, "id" in looked ? looked.id : "");
    },
  },
  "an archive of photos": {
    run: async (s) => {
      const photos = await Promise.all(
        [40, 160].map((r) =>
          sharp({ create: { width: 40, height: 30, channels: 3, background: { r, g: 90, b: 90 } } })
            .jpeg()
            .toBuffer(),
        ),
      );
      const archive = zipSync(Object.fromEntries(photos.map((bytes) => [`photos/${hashOf(bytes)}.jpeg`, new Uint8Array(bytes)])));
      const looked = await lookAtFile(s, SLUG, archive);
      return takeIn(s, "id" in looked ? looked.id : "");
    },
  },
  "a table of records": {
    run: async (s) => {
      // More than go into one statement.
      const rows = Array.from({ length: 300 }, (_, i) => `2026-10-${10 + (i % 9)} 10:00,"note ${i}"`).join("\n");
      const looked = await lookAtFile(s, SLUG, new TextEncoder().encode(`when,note\n${rows}\n`), "note");
      return takeIn(s, "id" in looked ? looked.id : "");
    },
  },
};

const NAMES = sql<{
  name: string;
}>`SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite%' AND name NOT LIKE 'kysely%'`;

/** Everything that is kept, by table, but the ids that were used up on the way. */
async function dump(store: Store): Promise<Readonly<Record<string, string>>> {
  const all: Record<string, string> = {};
  const own = (key: string, value: unknown) => (key === "id" || key.endsWith("_id") || key === "corrects" ? undefined : value);
  for (const { name } of (await NAMES.execute(store)).rows)
    all[name] = JSON.stringify((await sql`SELECT * FROM ${sql.table(name)}`.execute(store)).rows, own);
  return all;
}

/** Tables that differ. */
const changed = (a: Readonly<Record<string, string>>, b: Readonly<Record<string, string>>) =>
  Object.keys(a).filter((table) => a[table] !== b[table]);

/** Lets the n-th row that is written from now on fail; none for 0. Gives how many were. */
async function failing(store: Store, n: number): Promise<() => Promise<number>> {
  await sql`CREATE TEMP TABLE touched (n INTEGER)`.execute(store);
  await sql`INSERT INTO temp.touched VALUES (0)`.execute(store);
  for (const { name } of (await NAMES.execute(store)).rows)
    for (const op of ["INSERT", "UPDATE", "DELETE"])
      await sql
        .raw(
          `CREATE TEMP TRIGGER torn_${name}_${op} BEFORE ${op} ON main.${name} BEGIN
             UPDATE touched SET n = n + 1;
             SELECT RAISE(ABORT, 'power cut') WHERE (SELECT n FROM touched) = ${n};
           END`,
        )
        .execute(store);
  return async () => {
    const { rows } = await sql<{ n: number }>`UPDATE temp.touched SET n = n RETURNING n`.execute(store);
    return rows[0]?.n ?? 0;
  };
}

describe.each(Object.entries(ACTIONS))("%s", (_, { before, run, finish }) => {
  it("is whole or not there", async () => {
    const w = await TestWorkshop.worked();
    await before?.(w);
    const nowMs = w.nowMs + 60_000;
    await closeStore(w.store);
    const opened = async () => {
      const folder = mkdtempSync(join(tmpdir(), "clenor-torn-"));
      copyFileSync(databaseFile(w.folder), databaseFile(folder));
      const store = await openStore(folder);
      return { store, services: { store, folder, nowMs: () => nowMs } satisfies Services };
    };
    const whole = await opened();
    const had = await dump(whole.store);
    const touched = await failing(whole.store, 0);
    await run(whole.services);
    const rows = await touched();
    await finish?.(whole.services);
    const done = await dump(whole.store);
    await whole.store.destroy();
    expect(changed(had, done)).not.toEqual([]);
    expect(rows).toBeGreaterThan(0);
    // Of very many the first, the last, and those around the end of a statement.
    const few = rows <= 60 ? Array.from({ length: rows }, (_, i) => i + 1) : [1, 2, 249, 250, 251, 252, rows - 1, rows];
    for (const n of few) {
      const torn = await opened();
      await failing(torn.store, n);
      await expect(run(torn.services), `row ${n}`).rejects.toThrow();
      await torn.store.destroy();
      // As the next start finds it.
      const next = await openStore(torn.services.folder);
      const services = { ...torn.services, store: next };
      const left = await dump(next);
      if (changed(had, left).length > 0) {
        expect(finish, `row ${n} left something`).toBeDefined();
        await finish?.(services);
        expect(changed(done, await dump(next)), `row ${n}`).toEqual([]);
      } else {
        await run(services);
        await finish?.(services);
        expect(changed(done, await dump(next)), `row ${n}`).toEqual([]);
      }
      await next.destroy();
    }
  });
});
