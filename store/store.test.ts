import { existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { sql } from "kysely";
import LibsqlDatabase from "libsql";
import { afterEach, describe, expect, it } from "vitest";
import { layouts } from "#catalog/layouts";
import { currentEvents } from "#core/events";
import { mergeAnswers, type RoundAnswer } from "#core/rounds";
import {
  addFinding,
  closeCase,
  foundFaults,
  listFindings,
  openCase,
  openCasesOf,
  reopenCase,
  restoreFinding,
  withdrawFinding,
} from "#store/cases";
import { atOnce, closeStore, DatabaseRefused, databaseFile, MIGRATIONS, openStore, type Step, type Store } from "#store/database";
import { appendEvents, listRecords, readLog } from "#store/events";
import { addMachine, changeMachine, listMachines, listMaterials, stationsWithHistory } from "#store/machines";
import { endRound, findRound, saveAnswers, startRound } from "#store/rounds";
import { listCases, listRounds } from "#store/testLists";

const open: Store[] = [];
async function store(folder = mkdtempSync(join(tmpdir(), "clenor-store-"))): Promise<Store> {
  const s = await openStore(folder);
  open.push(s);
  return s;
}
afterEach(async () => {
  for (const s of open.splice(0)) await s.destroy();
});
const larkspur = {
  name: "Larkspur",
  layout: "three-mirror",
  ratedPowerW: 80,
  ratedTubeHours: 3000,
  tubeHours: 900,
  material: { name: "birch ply", kind: "birch-ply", thicknessMm: 3 },
};
async function withMachine(): Promise<{ s: Store; id: number }> {
  const s = await store();
  await addMachine(s, larkspur, "first", 1000);
  return { s, id: (await listMachines(s))[0]?.id as number };
}

/** A next version, made up: a column more, a table made anew, and what no list of statements can do. */
const next = (statements: readonly string[] = ["CREATE TABLE motto (id INTEGER PRIMARY KEY, text TEXT NOT NULL) STRICT"]): Step => ({
  version: MIGRATIONS.length + 1,
  statements: ["ALTER TABLE machine ADD COLUMN motto TEXT", ...statements],
  change: async (db) => {
    await sql`UPDATE machine SET motto = 'of ' || name`.execute(db);
  },
});

describe("a database of the version before", () => {
  /** A file with a machine, its material and a round in it, as this version leaves it. */
  async function left() {
    const folder = mkdtempSync(join(tmpdir(), "clenor-store-"));
    const s = await openStore(folder);
    await addMachine(s, larkspur, "first", 1000);
    const id = await startRound(s, 1, { title: "Lens", parts: ["lens"], requestKey: "r" }, 6);
    await saveAnswers(s, id, [{ stepId: "lens-found", answer: { done: true, grade: 2, atMs: 6 }, requestKey: "a" }], 6);
    await closeStore(s);
    return { folder, id };
  }
  const mottos = async (s: Store) => (await sql<{ motto: string }>`SELECT motto FROM machine`.execute(s)).rows.map((r) => r.motto);

  it("is brought up to date with all it held, and a copy of it is kept", async () => {
    const { folder, id } = await left();
    const s = await openStore(folder, [...MIGRATIONS, next()]);
    expect(await mottos(s)).toEqual(["of Larkspur"]);
    expect(await listMaterials(s, 1)).toMatchObject([{ name: "birch ply", hidden: false }]);
    expect((await findRound(s, 1, id))?.answers.get("lens-found")).toMatchObject({ grade: 2 });
    expect(readdirSync(join(folder, "copies"))).toEqual([`before-version-${MIGRATIONS.length + 1}.sqlite`]);
    await s.destroy();
    // Once, and the version before refuses what it does not know.
    const again = await openStore(folder, [...MIGRATIONS, next()]);
    expect(await mottos(again)).toEqual(["of Larkspur"]);
    await again.destroy();
    await expect(openStore(folder)).rejects.toThrow(/newer Clenor/);
  });

  it("is as it was when a change of it cannot be done, and can be migrated once that is mended", async () => {
    const { folder, id } = await left();
    await expect(openStore(folder, [...MIGRATIONS, next(["CREATE TABLE machine (in_the_way TEXT)"])])).rejects.toThrow(/machine/);
    const after = new LibsqlDatabase(databaseFile(folder));
    expect(after.prepare("PRAGMA user_version").get()).toMatchObject({ user_version: MIGRATIONS.length });
    expect(after.prepare("SELECT name FROM pragma_table_info('machine') WHERE name = 'motto'").all()).toEqual([]);
    after.close();
    const s = await openStore(folder, [...MIGRATIONS, next()]);
    open.push(s);
    expect(await findRound(s, 1, id)).toMatchObject({ title: "Lens" });
  });
});

describe("a machine", () => {
  it("is changed as it stands at that moment, so that two at once cannot undo each other", async () => {
    const { s, id } = await withMachine();
    const path = layouts["three-mirror"]?.path ?? [];
    const rename = (station: string, name: string) =>
      changeMachine(s, id, (now) => ({ path: (now.path ?? path).map((p) => (p.id === station ? { ...p, name } : p)) }));
    await Promise.all([rename("mirror-1", "Back"), rename("mirror-2", "Middle"), changeMachine(s, id, () => ({ name: "Lark" }))]);
    const [after] = await listMachines(s);
    expect(after?.path?.filter((p) => p.role === "mirror").map((p) => p.name)).toEqual(["Back", "Middle", "M3 in head"]);
    expect(after).toMatchObject({ name: "Lark", slug: "larkspur" });
    await expect(
      changeMachine(s, id, () => {
        throw new Error("not like this");
      }),
    ).rejects.toThrow("not like this");
    expect((await listMachines(s))[0]).toEqual(after);
  });

  it("knows which of its stations anything was ever said of", async () => {
    const { s, id } = await withMachine();
    const event = (kind: "grade" | "power" | "service", payload: never, requestKey: string) => ({ kind, atMs: 5, payload, requestKey });
    await appendEvents(
      s,
      id,
      [
        event("grade", { station: "lens", phase: "as-left", grade: 0 } as never, "a"),
        event("service", { station: "mirror-1", what: "cleaned" } as never, "b"),
        event("power", { setPercent: 100, readings: [{ station: "mirror-3", powerW: 60 }] } as never, "c"),
      ],
      5,
    );
    const caseId = await openCase(s, id, { title: "t", sign: "s", symptom: "power", onsetMs: 1, requestKey: "case", findings: [] }, 2);
    await addFinding(s, caseId, { check: "mirror-look@2", outcome: "film" }, "f", 3);
    await addFinding(s, caseId, { check: "window-look", outcome: "clear" }, "g", 3);
    await addFinding(s, caseId, { check: "power@tube", value: 50 }, "h", 3);
    expect([...(await stationsWithHistory(s, id))].sort()).toEqual(["lens", "mirror-1", "mirror-2", "mirror-3", "tube", "window"]);
  });
});

describe("the log", () => {
  const note = (key: string) => ({ kind: "note", atMs: 9, payload: { note: key }, requestKey: key }) as const;

  it("read again holds what was appended since, and is the same when nothing was", async () => {
    const { s, id } = await withMachine();
    const before = await readLog(s, id);
    expect(await readLog(s, id)).toBe(before);
    await appendEvents(s, id, [note("n")], 9);
    expect((await readLog(s, id)).kinds.note).toHaveLength(1);
    expect(before.kinds.note).toHaveLength(0);
  });

  it("read within a transaction that is undone leaves nothing behind, though a later record gets its id", async () => {
    const { s, id } = await withMachine();
    await readLog(s, id);
    const undone = atOnce(s, async (tx) => {
      await appendEvents(tx, id, [note("never")], 9);
      expect((await readLog(tx, id)).kinds.note).toHaveLength(1);
      throw new Error("undone");
    });
    await expect(undone).rejects.toThrow("undone");
    expect((await readLog(s, id)).kinds.note).toHaveLength(0);
    await appendEvents(s, id, [note("kept")], 9);
    expect([...(await readLog(s, id)).kinds.note]).toMatchObject([{ payload: { note: "kept" } }]);
  });
});

describe("the database file", () => {
  it("is refused, untouched, when it is not a database", async () => {
    const folder = mkdtempSync(join(tmpdir(), "clenor-store-"));
    writeFileSync(databaseFile(folder), "this is a letter, not a database, and long enough to look at");
    const before = readFileSync(databaseFile(folder));
    await expect(openStore(folder)).rejects.toThrow(DatabaseRefused);
    await expect(openStore(folder)).rejects.toThrow(/put the newest copy/);
    expect(readFileSync(databaseFile(folder)).equals(before)).toBe(true);
    expect(readdirSync(folder)).toEqual(["clenor.sqlite"]);
  });

  it("is refused, untouched, when it is damaged inside", async () => {
    const folder = mkdtempSync(join(tmpdir(), "clenor-store-"));
    const s = await openStore(folder);
    await addMachine(s, larkspur, "first", 1000);
    await closeStore(s);
    const bytes = readFileSync(databaseFile(folder));
    bytes.fill(0x5a, 100, Math.min(bytes.length, 9000));
    writeFileSync(databaseFile(folder), bytes);
    await expect(openStore(folder)).rejects.toThrow(DatabaseRefused);
    expect(readFileSync(databaseFile(folder)).equals(bytes)).toBe(true);
  });

  it("is refused when a newer version wrote it, or somebody else", async () => {
    const folder = mkdtempSync(join(tmpdir(), "clenor-store-"));
    await (await openStore(folder)).destroy();
    const raw = new LibsqlDatabase(databaseFile(folder));
    raw.exec("PRAGMA user_version = 99");
    raw.close();
    await expect(openStore(folder)).rejects.toThrow(/newer Clenor/);
    const other = mkdtempSync(join(tmpdir(), "clenor-store-"));
    const theirs = new LibsqlDatabase(databaseFile(other));
    theirs.exec("CREATE TABLE letters (text TEXT); PRAGMA user_version = 1");
    theirs.close();
    await expect(openStore(other)).rejects.toThrow(/not one of Clenor's/);
  });

  it("is copied before a migration changes it", async () => {
    const folder = mkdtempSync(join(tmpdir(), "clenor-store-"));
    const old = new LibsqlDatabase(databaseFile(folder));
    old.exec("PRAGMA application_id = 1129074258; CREATE TABLE before_all (x TEXT)");
    old.close();
    await store(folder);
    expect(existsSync(join(folder, "copies", "before-version-1.sqlite"))).toBe(true);
  });

  it("keeps what was saved over a restart", async () => {
    const folder = mkdtempSync(join(tmpdir(), "clenor-store-"));
    const s = await openStore(folder);
    await addMachine(s, larkspur, "first", 1000);
    await s.destroy();
    const again = await store(folder);
    expect((await listMachines(again)).map((m) => m.slug)).toEqual(["larkspur"]);
    expect((await listMaterials(again, 1))[0]).toMatchObject({ name: "birch ply", thicknessMm: 3, beta: 1 });
  });
});

describe("machines", () => {
  it("are added once for one form, and get an address of their own each", async () => {
    const { s } = await withMachine();
    expect(await addMachine(s, larkspur, "first", 2000)).toBe("larkspur");
    expect(await addMachine(s, larkspur, "second", 2000)).toBe("larkspur-2");
    expect(await addMachine(s, { ...larkspur, name: "Start" }, "third", 2000)).toBe("start-2");
    expect(await listMachines(s)).toHaveLength(3);
  });

  it("begin with their counter reading in the log", async () => {
    const { s, id } = await withMachine();
    expect(await listRecords(s, id)).toMatchObject([{ kind: "hours", payload: { counterHours: 900 }, atMs: 1000 }]);
  });
});

describe("events", () => {
  it("are written once however often a form is sent, all of a batch or none", async () => {
    const { s, id } = await withMachine();
    const job = { kind: "job", atMs: 5, payload: { materialId: 1, minutes: 30 }, requestKey: "k1" } as const;
    await appendEvents(s, id, [job], 10);
    await appendEvents(s, id, [job, job], 11);
    expect(await listRecords(s, id)).toHaveLength(2);
    const broken = { ...job, requestKey: "k2", corrects: 4711 };
    await expect(appendEvents(s, id, [{ ...job, requestKey: "k3" }, broken], 12)).rejects.toThrow();
    expect(await listRecords(s, id)).toHaveLength(2);
  });

  it("of no kind or another shape are refused, and nothing of their batch is kept", async () => {
    const { s, id } = await withMachine();
    const before = (await listRecords(s, id)).length;
    const whole = { kind: "job" as const, atMs: 1, payload: { materialId: 1, minutes: 5 }, requestKey: "whole" };
    const cut = { materialId: 1, speedMmPerS: 14, setPercent: 60, result: "toString" };
    for (const bad of [
      { ...whole, kind: "toString" },
      { ...whole, kind: "cut", payload: cut },
    ])
      await expect(appendEvents(s, id, [whole, { ...bad, requestKey: "bad" } as never], 2)).rejects.toThrow("cannot be kept");
    expect(await listRecords(s, id)).toHaveLength(before);
  });

  it("keep the first version when corrected", async () => {
    const { s, id } = await withMachine();
    const [first] = await listRecords(s, id);
    await appendEvents(s, id, [{ kind: "hours", atMs: 1000, payload: { counterHours: 905 }, requestKey: "c", corrects: first?.id }], 20);
    const all = await listRecords(s, id);
    expect(all).toHaveLength(2);
    expect(currentEvents(all)).toMatchObject([{ id: first?.id, payload: { counterHours: 905 } }]);
  });
});

describe("rounds", () => {
  const round = { title: "Lens", parts: ["lens"], requestKey: "r1" };
  it("are one at a time for a machine", async () => {
    const { s, id } = await withMachine();
    const a = await startRound(s, id, round, 1);
    expect(await startRound(s, id, { ...round, requestKey: "r2" }, 2)).toBe(a);
    await endRound(s, id, a, "closed", [], 3);
    expect(await startRound(s, id, { ...round, requestKey: "r3" }, 4)).not.toBe(a);
    expect((await listRounds(s, id)).map((r) => r.status)).toEqual(["open", "closed"]);
  });

  it("keep the last answer to a step, and write to the log once when ended twice", async () => {
    const { s, id } = await withMachine();
    const r = await startRound(s, id, round, 1);
    const said = (answer: Omit<RoundAnswer, "atMs">, requestKey: string, atMs: number) =>
      saveAnswers(s, r, [{ stepId: "lens-found", answer: { ...answer, atMs }, requestKey }], atMs);
    await said({ grade: 1 }, "a", 2);
    expect(await said({ done: true, grade: 2 }, "b", 3)).toMatchObject([{ kept: true }]);
    expect(await said({ done: true, grade: 2 }, "b", 9)).toMatchObject([{ kept: true }]);
    expect(await said({ done: true, grade: 4 }, "b", 4)).toMatchObject([{ kept: false }]);
    expect((await findRound(s, id, r))?.answers.get("lens-found")).toMatchObject({ grade: 2 });
    const record = { kind: "service", atMs: 5, payload: { station: "lens", what: "cleaned" }, requestKey: "round:clean" } as const;
    await endRound(s, id, r, "closed", [record], 6);
    await endRound(s, id, r, "abandoned", [{ ...record, requestKey: "other" }], 7);
    expect((await listRecords(s, id)).filter((e) => e.kind === "service")).toMatchObject([{ roundId: r }]);
    expect((await findRound(s, id, r))?.status).toBe("closed");
    expect(await findRound(s, id + 1, r)).toBeUndefined();
  });
});

describe("answers of a round, read on as they come", () => {
  it("are what merging all of them at once gives, in whatever order they arrive", async () => {
    const given = fc.record({
      stepId: fc.constantFrom("lens.found", "lens.clean", "rails"),
      answer: fc.record(
        {
          atMs: fc.integer({ min: 1, max: 9 }),
          done: fc.constant(true as const),
          grade: fc.integer({ min: 0, max: 4 }),
          note: fc.string({ maxLength: 3 }),
        },
        { requiredKeys: ["atMs"] },
      ),
    });
    const { s, id } = await withMachine();
    let n = 0;
    await fc.assert(
      fc.asyncProperty(fc.array(fc.array(given, { maxLength: 3 }), { maxLength: 5 }), async (batches) => {
        n += 1;
        const round = await startRound(s, id, { title: "Lens", parts: ["lens"], requestKey: `read-${n}` }, 1);
        for (const [b, batch] of batches.entries()) {
          await saveAnswers(
            s,
            round,
            batch.map((a, i) => ({ ...a, requestKey: `${n}-${b}-${i}` })),
            9,
          );
          const stored = await s.selectFrom("round_answer").selectAll().where("round_id", "=", round).orderBy("id").execute();
          const whole = mergeAnswers(stored.map((r) => ({ stepId: r.step_id, answer: JSON.parse(r.answer) as RoundAnswer })));
          expect(Object.fromEntries((await findRound(s, id, round))?.answers ?? [])).toEqual(Object.fromEntries(whole));
        }
        await endRound(s, id, round, "abandoned", [], 9);
      }),
      { numRuns: 40 },
    );
  });
});

describe("cases", () => {
  const input = {
    title: "Suddenly weaker",
    sign: "suddenly-weaker",
    symptom: "power",
    onsetMs: 0,
    requestKey: "case",
    findings: [{ check: "onset", outcome: "sudden" }],
  } as const;
  it("are one for each sign, numbered, close once and can be opened again", async () => {
    const { s, id } = await withMachine();
    const first = await openCase(s, id, input, 1);
    expect(await openCase(s, id, { ...input, requestKey: "again" }, 2)).toBe(first);
    const second = await openCase(s, id, { ...input, sign: "jerky", requestKey: "other" }, 2);
    expect((await openCasesOf(s, id)).map((c) => c.id)).toEqual([first, second]);
    await closeCase(s, id, second, { repair: null, faults: ["rails-dirty"], proof: "by hand" }, 3);
    await closeCase(s, id, first, { repair: "Clean the lens", faults: ["lens-dirty"], proof: "ladder" }, 3);
    await closeCase(s, id, first, { repair: null, faults: [], proof: "again" }, 4);
    await openCase(s, id, { ...input, requestKey: "next" }, 5);
    const cases = await listCases(s, id);
    expect(cases.map((c) => c.number)).toEqual([3, 2, 1]);
    expect(cases[2]).toMatchObject({ closedMs: 3, closing: { repair: "Clean the lens" } });
    expect(await foundFaults(s)).toEqual({ cases: 2, faults: { "lens-dirty": 1, "rails-dirty": 1 } });
    expect(await reopenCase(s, id, first)).toMatchObject({ repair: "Clean the lens" });
    expect(await reopenCase(s, id, first)).toBeUndefined();
    expect((await foundFaults(s)).faults).toEqual({ "rails-dirty": 1 });
  });

  it("keep withdrawn findings in their history and can bring them back", async () => {
    const { s, id } = await withMachine();
    const c = await openCase(s, id, input, 1);
    await addFinding(s, c, { check: "power@lens", value: 45, setPercent: 100 }, "f", 2);
    await addFinding(s, c, { check: "power@lens", value: 45, setPercent: 100 }, "f", 2);
    const [onset, power] = await listFindings(s, c);
    expect(power).toMatchObject({ value: 45, setPercent: 100, withdrawn: false });
    await withdrawFinding(s, c, onset?.id as number, 3);
    expect((await listFindings(s, c)).map((f) => f.withdrawn)).toEqual([true, false]);
    await restoreFinding(s, c, onset?.id as number);
    expect((await listFindings(s, c)).map((f) => f.withdrawn)).toEqual([false, false]);
  });
});
