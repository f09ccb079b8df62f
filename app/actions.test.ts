/** The actions behind the forms, called as the server calls them, on a real store: what is kept, what is refused, where it leads. */
import { randomUUID } from "node:crypto";
import { sql } from "kysely";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { allEvents } from "#core/events";
import { START, TestWorkshop } from "#services/testWorkshop";
import { listFindings } from "#store/cases";
import { listRecords, readLog } from "#store/events";
import { keepPhoto } from "#store/photos";
import { findRound } from "#store/rounds";
import { listCases, listRounds } from "#store/testLists";
import { action as logAction } from "./log/route";
import { action as answersAction } from "./round/answers";
import { action as roundsAction } from "./round/route";
import { action as runAction, loader as runLoader } from "./round/run";
import { contextOn } from "./server/testContext";
import { action as startAction } from "./start/route";
import { action as caseAction } from "./trace/case";
import { action as signAction } from "./trace/route";

type Action = (args: never) => Promise<unknown>;
interface Reply {
  readonly to?: string | undefined;
  readonly status: number;
  readonly errors: Readonly<Record<string, string>>;
  readonly typed: Readonly<Record<string, string>>;
  readonly notSaved?: string | undefined;
}

/** Sends answers of round 1 as a device does. */
async function answers(
  w: TestWorkshop,
  items: { stepId: string; answer: object; requestKey?: string }[],
): Promise<{ refused: { because: string }[]; notices: string[] }> {
  const body = JSON.stringify({ items: items.map((i) => ({ requestKey: randomUUID(), ...i })) });
  const request = new Request("http://127.0.0.1:4173/answers", { method: "POST", body });
  const reply = await answersAction({ request, params: { machine: "larkspur", roundId: "1" }, context: contextOn(w.services) } as never);
  return (reply as unknown as { data: { refused: { because: string }[]; notices: string[] } }).data;
}

let forms = 0;
/** Posts a form to an action: where it led, or what it complained of. Values given as a list are repeated fields. */
async function post(
  action: unknown,
  w: TestWorkshop,
  fields: Record<string, string | string[]>,
  params: Record<string, string> = {},
): Promise<Reply> {
  const form = new FormData();
  forms += 1;
  for (const [name, value] of Object.entries({ requestKey: `form-${forms}`, ...fields }))
    for (const v of [value].flat()) form.append(name, v);
  const request = new Request("http://127.0.0.1:4173/form", { method: "POST", body: form });
  const result = await (action as Action)({
    request,
    params: { machine: "larkspur", ...params },
    context: contextOn(w.services),
  } as never).catch((thrown: unknown) => thrown);
  if (result instanceof Response) return { to: result.headers.get("location") ?? undefined, status: result.status, errors: {}, typed: {} };
  const reply = result as { data?: Partial<Reply>; init?: { status?: number } };
  const { errors = {}, typed = {}, notSaved } = reply.data ?? {};
  return { status: reply.init?.status ?? 200, errors, typed, notSaved };
}

describe("first start", () => {
  const good = {
    name: "Larkspur",
    layout: "three-mirror",
    ratedPowerW: "80",
    tubeHours: "1060,5",
    ratedTubeHours: "3000",
    materialKind: "birch-ply",
    thicknessMm: "3",
    next: "ladder",
  };
  it("leads to the ladder, to the trace, or to Today", async () => {
    const w = await TestWorkshop.open();
    expect((await post(startAction, w, good)).to).toBe("/larkspur-2/log?kind=ladder&baseline=1");
    expect((await post(startAction, w, { ...good, next: "weak" })).to).toBe("/larkspur-3/trace");
    expect((await post(startAction, w, { ...good, next: "today" })).to).toBe("/larkspur-4/today");
  });

  it("refuses what cannot be, names every field at once, and keeps what was typed", async () => {
    const w = await TestWorkshop.open();
    const reply = await post(startAction, w, {
      ...good,
      name: "",
      ratedPowerW: "8000",
      thicknessMm: "thick",
      materialName: "vinyl off-cuts",
    });
    expect(reply.status).toBe(400);
    expect(reply.errors).toEqual({
      name: "Still missing.",
      ratedPowerW: "Must be 500 or less.",
      thicknessMm: expect.stringContaining('"thick" is not a number'),
      materialName: expect.stringContaining("chlorine"),
    });
    expect(reply.typed).toMatchObject({ thicknessMm: "thick", tubeHours: "1060,5" });
  });
});

describe("the log", () => {
  const events = async (w: TestWorkshop) => allEvents(await readLog(w.store, 1));
  it("keeps an entry once, corrects it, takes it out, and never forgets the first version", async () => {
    const w = await TestWorkshop.open();
    w.day(3);
    const job = { kind: "job", materialId: "1", minutes: "30", here: "1", requestKey: "same" };
    expect((await post(logAction, w, job)).to).toMatch(/^\/larkspur\/log\?kind=job&saved=1&id=\d+$/);
    await post(logAction, w, job);
    const id = (await events(w)).find((e) => e.kind === "job")?.id as number;
    expect((await post(logAction, w, { ...job, requestKey: "fix", minutes: "35", corrects: String(id), corrections: "0" })).to).toContain(
      "saved=corrected",
    );
    // A form opened before that correction says so, and is taken when it is sent again.
    const blind = { ...job, requestKey: "blind", minutes: "40", corrects: String(id) };
    const refused = await post(logAction, w, { ...blind, corrections: "0" });
    expect(refused).toMatchObject({ status: 409, errors: { "": expect.stringMatching(/corrected on another device.*35 min/) } });
    expect((await events(w)).filter((e) => e.kind === "job")).toMatchObject([{ id, payload: { minutes: 35 } }]);
    expect((await post(logAction, w, { intent: "void", corrects: String(id), corrections: "1" })).to).toContain("saved=void");
    expect((await events(w)).filter((e) => e.kind === "job")).toEqual([]);
    expect(await listRecords(w.store, 1)).toHaveLength(4);
    expect((await post(logAction, w, { ...job, requestKey: "late", corrects: String(id) })).errors[""]).toMatch(/no longer in the log/);
  });

  it("dates an entry when told, but never ahead", async () => {
    const w = await TestWorkshop.open();
    w.day(3);
    const note = (at: string) => post(logAction, w, { kind: "note", note: "n", here: "1", at });
    expect((await note("2026-10-02 10:30")).to).toBeDefined();
    expect((await events(w)).at(-1)?.atMs).toBeLessThan(START + 2.5 * 86_400_000);
    expect((await note("2030-01-01")).errors.at).toMatch(/future/);
    expect((await note("last week")).errors.at).toMatch(/not a day of the calendar/);
    expect((await post(logAction, w, { kind: "mood", here: "1" })).errors[""]).toMatch(/not known/);
  });

  it("leads to Today after the first baseline", async () => {
    const w = await TestWorkshop.open();
    const ladder = {
      kind: "ladder",
      materialId: "1",
      setPercent: "60",
      "speed-0": "12",
      "end-0": "dropped",
      "speed-1": "14",
      "end-1": "stays",
      baseline: "1",
      here: "1",
    };
    expect((await post(logAction, w, ladder)).to).toBe("/larkspur/today");
  });
});

describe("a round", () => {
  it("starts once, keeps answers as they come, and ends without proof only with a reason", async () => {
    const w = await TestWorkshop.open();
    const started = await post(roundsAction, w, { part: ["lens", "nozzle", "mirror-3"] });
    expect(started.to).toBe("/larkspur/round/1");
    expect((await post(roundsAction, w, { part: "window" })).to).toBe("/larkspur/round/1");
    expect((await listRounds(w.store, 1)).map((r) => r.title)).toEqual(["Lens and head mirror"]);
    expect((await post(roundsAction, w, {})).status).toBe(400);

    const run = (fields: Record<string, string>) => post(runAction, w, fields, { roundId: "1" });
    w.nowMs += 600_000;
    const answer = (stepId: string, value: object, atMs = w.nowMs) => answers(w, [{ stepId, answer: { atMs, ...value } }]);
    await answer("lens.found", { done: true, grade: 2 });
    await answer("lens.found", { grade: 2 });
    await answer("lens.clean", { done: true });
    expect((await answer("lens.left", { skipped: "x" })).refused[0]?.because).toMatch(/Say why/);
    expect((await answer("lens.left", { grade: 7 })).refused[0]?.because).toMatch(/4 or less/);
    expect((await answer("lens.left", { photos: ["a".repeat(64)] })).refused[0]?.because).toMatch(/photo is not here/);
    expect((await answer("no-such-step", { done: true })).refused[0]?.because).toMatch(/no such step/);
    // Held back by a lost network on another device: it was given before, so it undoes nothing.
    await answer("lens.found", { grade: 0 }, w.nowMs - 60_000);
    // A clock far ahead of ours does not win for ever.
    await answer("lens.clean", { note: "tomorrow" }, w.nowMs + 9e7);
    expect((await findRound(w.store, 1, 1))?.answers.get("lens.clean")?.atMs).toBe(w.nowMs);
    expect((await findRound(w.store, 1, 1))?.answers.get("lens.found")).toMatchObject({ done: true, grade: 2 });
    expect((await run({ intent: "end" })).errors.why).toMatch(/Say why/);
    expect((await run({ intent: "end", why: "no scrap left" })).to).toBe("/larkspur/round/1");
    const kinds = allEvents((await w.look()).log)
      .filter((e) => e.roundId === 1)
      .map((e) => e.kind);
    expect(kinds.sort()).toEqual(["grade", "note", "service"]);
    // An answer that arrives after the end is kept, and what it found goes into the log.
    await answer("lens.left", { done: true, grade: 0 });
    expect(allEvents((await w.look()).log).filter((e) => e.roundId === 1)).toHaveLength(4);
    expect((await w.look()).grades.get("lens")).toMatchObject({ grade: 0 });
    expect((await post(runAction, w, {}, { roundId: "77" })).status).toBe(404);
  });
});

describe("a grade given on a device that was offline", () => {
  const MINUTE = 60_000;
  /** A round in which the lens was graded haze by the device that is there, ten minutes in. */
  const opened = async () => {
    const w = await TestWorkshop.open();
    await post(roundsAction, w, { part: ["lens"] });
    w.nowMs += 10 * MINUTE;
    await answers(w, [{ stepId: "lens.found", answer: { atMs: w.nowMs, done: true, grade: 1 } }]);
    const grade = async () => (await findRound(w.store, 1, 1))?.answers.get("lens.found")?.grade;
    const logged = async () => allEvents((await w.look()).log).flatMap((e) => (e.kind === "grade" ? [e.payload.grade] : []));
    const close = async () => {
      w.nowMs += 10 * MINUTE;
      await post(runAction, w, { intent: "end", why: "no scrap left" }, { roundId: "1" });
      w.nowMs += MINUTE;
    };
    return { w, grade, logged, close };
  };
  const damaged = (atMs: number) => [{ stepId: "lens.found", answer: { atMs, grade: 4 } }];

  it("counts over a later, better one that did not know of it, and the person is told", async () => {
    const { w, grade } = await opened();
    const { notices } = await answers(w, damaged(w.nowMs - 5 * MINUTE));
    expect(notices.join()).toMatch(/haze on another device.*damaged is worse and counts/);
    expect(await grade()).toBe(4);
    // Somebody who looks again afterwards has the last word.
    w.nowMs += MINUTE;
    expect((await answers(w, [{ stepId: "lens.found", answer: { atMs: w.nowMs, grade: 0 } }])).notices).toEqual([]);
    expect(await grade()).toBe(0);
  });

  it.each([
    ["before", -15],
    ["after", -8],
  ])("%s the other one, and sent when the round is closed, is a correction in the log", async (_, minutes) => {
    const { w, logged, close } = await opened();
    await close();
    expect(await logged()).toEqual([1]);
    await answers(w, damaged(w.nowMs + minutes * MINUTE));
    expect(await logged()).toEqual([4]);
    expect((await w.look()).grades.get("lens")).toMatchObject({ grade: 4 });
    expect((await listRecords(w.store, 1)).filter((e) => e.kind === "grade")).toHaveLength(2);
    const loaded = await runLoader({
      request: new Request("http://h/"),
      params: { machine: "larkspur", roundId: "1" },
      context: contextOn(w.services),
    } as never);
    expect(loaded.summary?.late).toMatchObject([
      { words: expect.stringMatching(/Lens.*damaged, given on a device that was offline.*closed with haze/) },
    ]);
  });

  it("that is older and no worse changes nothing, and a late one sent twice is one correction", async () => {
    const { w, logged, close } = await opened();
    await close();
    await answers(w, [{ stepId: "lens.found", answer: { atMs: w.nowMs - 15 * MINUTE, grade: 0 } }]);
    expect(await logged()).toEqual([1]);
    const late = damaged(w.nowMs - 15 * MINUTE).map((d) => ({ ...d, requestKey: "late-answer" }));
    await answers(w, late);
    await answers(w, late);
    expect((await listRecords(w.store, 1)).filter((e) => e.kind === "grade")).toHaveLength(2);
  });
});

describe("a grade that was corrected by hand after its round", () => {
  it("stays as it was corrected when an answer to another step comes late", async () => {
    const w = await TestWorkshop.open();
    await post(roundsAction, w, { part: ["lens"] });
    await answers(w, [{ stepId: "lens.found", answer: { atMs: w.nowMs, done: true, grade: 4 } }]);
    await post(runAction, w, { intent: "end", why: "no scrap left" }, { roundId: "1" });
    const slip = allEvents((await w.look()).log).find((e) => e.kind === "grade");
    w.nowMs += 60_000;
    const fix = { kind: "grade", station: "lens", grade: "1", corrects: String(slip?.id), corrections: "0", here: "1" };
    expect((await post(logAction, w, fix)).to).toContain("corrected");
    await answers(w, [{ stepId: "lens.clean", answer: { atMs: w.nowMs, done: true } }]);
    const now = allEvents((await w.look()).log);
    expect(now.flatMap((e) => (e.kind === "grade" ? [e.payload.grade] : []))).toEqual([1]);
    expect(now.filter((e) => e.kind === "service")).toHaveLength(1);
  });

  it("stays with its round, with its phase and its photo, and is not taken for a late answer", async () => {
    const w = await TestWorkshop.open();
    await post(roundsAction, w, { part: ["lens"] });
    const photo = await keepPhoto(
      w.store,
      w.folder,
      await sharp({ create: { width: 4, height: 4, channels: 3, background: "#888" } })
        .jpeg()
        .toBuffer(),
      w.nowMs,
    );
    await answers(w, [{ stepId: "lens.left", answer: { atMs: w.nowMs, done: true, grade: 2, photos: [photo] } }]);
    await post(runAction, w, { intent: "end", why: "no scrap left" }, { roundId: "1" });
    const slip = allEvents((await w.look()).log).find((e) => e.kind === "grade");
    const fix = { kind: "grade", station: "lens", grade: "1", corrects: String(slip?.id), corrections: "0", here: "1" };
    await post(logAction, w, fix);
    const { summary } = (await runLoader({
      request: new Request("http://h/"),
      params: { machine: "larkspur", roundId: "1" },
      context: contextOn(w.services),
    } as never)) as { summary: { grades: object[]; late: object[] } };
    expect(summary.grades).toMatchObject([{ phase: "after cleaning", grade: 1, photos: [photo] }]);
    expect(summary.late).toEqual([]);
  });
});

describe("a form that arrives twice", () => {
  it("is one record; its key with other words is refused with the words kept, and cannot stand for one of the application's own", async () => {
    const w = await TestWorkshop.open();
    const note = { kind: "note", here: "1", requestKey: "one-key" };
    expect((await post(logAction, w, { ...note, note: "first" })).to).toBeDefined();
    expect((await post(logAction, w, { ...note, note: "first" })).to).toBeDefined();
    const other = await post(logAction, w, { ...note, note: "second" });
    expect(other).toMatchObject({ status: 409, typed: { note: "second" }, notSaved: expect.stringContaining("Send it again") });
    const notes = async () => (await listRecords(w.store, 1)).flatMap((e) => (e.kind === "note" ? [e.payload.note] : []));
    expect(await notes()).toEqual(["first"]);
    // A note that bears the key a round's proof has: it is no key of a form, and the round closes with its proof.
    expect((await post(logAction, w, { ...note, note: "third", requestKey: "round-1:proof" })).status).toBe(400);
    await post(roundsAction, w, { part: ["controller"] });
    await post(runAction, w, { intent: "piece", pieceMaterialId: "1", pieceResult: "through" }, { roundId: "1" });
    expect(
      allEvents((await w.look()).log)
        .filter((e) => e.roundId === 1)
        .map((e) => e.kind),
    ).toEqual(["cut"]);
  });
});

describe("what no form of ours sends", () => {
  it.each([
    ["a round for a case of nobody", roundsAction, { part: "lens", caseId: "999999" }, {}],
    ["a round for half a case", roundsAction, { part: "lens", caseId: ".5" }, {}],
    ["a repeat of a test that never failed", runAction, { intent: "repeat", check: "flame", outcome: "normal" }, { roundId: "1" }],
    ["a result by the name of a function", runAction, { intent: "piece", pieceMaterialId: "1", pieceResult: "toString" }, { roundId: "1" }],
    ["a unit by the name of a function", logAction, { kind: "job", materialId: "1", minutes: "60 constructor" }, {}],
    ["a year before lasers", logAction, { kind: "note", note: "n", at: "1000-01-01" }, {}],
    ["a day the calendar has not", logAction, { kind: "note", note: "n", at: "2026-02-31" }, {}],
  ] as const)("%s is refused with words", async (_, action, fields, params) => {
    const w = await TestWorkshop.open();
    await post(roundsAction, w, { part: ["nozzle"] });
    const before = await listRecords(w.store, 1);
    const reply = await post(action, w, fields as Record<string, string>, params);
    expect(reply.status).toBe(400);
    expect(Object.values(reply.errors).join()).toMatch(/\w{4}/);
    expect(await listRecords(w.store, 1)).toEqual(before);
  });

  it("a name with a character that cannot be kept is refused with the field's name", async () => {
    const w = await TestWorkshop.open();
    const reply = await post(startAction, w, { name: "Lark\u0000spur" });
    expect(reply.status).toBe(400);
  });
});

describe("a disk that takes nothing", () => {
  it("is said in words, with the form as it was typed", async () => {
    const w = await TestWorkshop.open();
    await sql`PRAGMA query_only = ON`.execute(w.store);
    const reply = await post(logAction, w, { kind: "note", note: "typed with care", here: "1" });
    expect(reply).toMatchObject({ status: 507, typed: { note: "typed with care" } });
    expect(reply.notSaved).toMatch(/cannot be written: nothing was saved.*still here/);
    await sql`PRAGMA query_only = OFF`.execute(w.store);
    expect((await post(logAction, w, { kind: "note", note: "typed with care", here: "1" })).to).toBeDefined();
  });
});

describe("a case", () => {
  it("opens from a sign, takes words and numbers, undoes, and closes by hand only with a reason", async () => {
    const w = await TestWorkshop.open();
    w.day(9);
    expect((await post(signAction, w, { sign: "gremlins" })).errors.sign).toMatch(/Choose/);
    expect((await post(signAction, w, { sign: "fades", since: "400" })).errors.since).toMatch(/since when/);
    expect((await post(signAction, w, { sign: "far-corner", since: "3" })).to).toBe("/larkspur/trace/1");
    const on = (fields: Record<string, string>) => post(caseAction, w, fields, { caseId: "1" });
    await on({ check: "onset", outcome: "sudden" });
    await on({ check: "power@lens", outcome: "value", value: "45,5", setPercent: "100" });
    expect((await on({ check: "power@lens", outcome: "value", value: "0" })).errors.value).toMatch(/between 0.1 and 2000/);
    expect((await on({ check: "coolant-temp", outcome: "value", value: "hot" })).errors.value).toMatch(/"hot" is not a number/);
    expect((await on({ check: "onset", outcome: "yesterday" })).errors[""]).toMatch(/does not belong/);
    expect((await on({ check: "mirror-look@8", outcome: "clear" })).errors[""]).toMatch(/does not exist/);
    const findings = await listFindings(w.store, 1);
    expect(findings.map((f) => f.check)).toEqual(["known-cut", "bed-map", "onset", "power@lens"]);
    expect(findings.at(-1)).toMatchObject({ value: 45.5, setPercent: 100 });
    await on({ intent: "undo", finding: String(findings[2]?.id) });
    expect((await listFindings(w.store, 1))[2]?.withdrawn).toBe(true);
    await on({ intent: "redo", finding: String(findings[2]?.id) });
    expect((await listFindings(w.store, 1))[2]?.withdrawn).toBe(false);
    expect((await on({ intent: "close" })).errors.why).toMatch(/how it ended/);
    await on({ intent: "close", why: "sold the machine" });
    expect((await listCases(w.store, 1))[0]?.closing?.proof).toBe("closed by hand: sold the machine");
    await on({ check: "onset", outcome: "gradual" });
    expect(await listFindings(w.store, 1)).toHaveLength(4);
    expect((await post(caseAction, w, {}, { caseId: "9" })).status).toBe(404);
  });
});
