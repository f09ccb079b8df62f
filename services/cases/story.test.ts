import { spawnSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { beforeEach, describe, expect, it } from "vitest";
import { closeCase, listFindings, openCasesOf } from "#store/cases";
import { listCases } from "#store/testLists";
import { FormReader } from "../forms/fields";
import { TestWorkshop } from "../testWorkshop";
import { actByForm } from "./act";
import { answered } from "./answered";
import { caseFile } from "./caseFile";
import { caseFindings, traceInput } from "./caseInput";
import { casesView } from "./casesView";
import { caseView } from "./caseView";
import { openByForm } from "./open";
import { reportView } from "./reportView";

let w: TestWorkshop;
let n = 0;
function formOf(fields: readonly (readonly [string, string])[]): FormReader {
  const form = new FormData();
  for (const [name, value] of [...fields, ["requestKey", `story-${++n}`] as const]) form.append(name, value);
  return new FormReader(form);
}
async function open(...signs: string[]): Promise<number> {
  const opened = await openByForm(w.services, "larkspur", formOf([...signs.map((s) => ["sign", s] as const), ["since", "0"]]));
  if ("errors" in opened) throw new Error(JSON.stringify(opened.errors));
  return opened.caseId;
}
const act = (caseId: number, ...fields: (readonly [string, string])[]) => actByForm(w.services, "larkspur", caseId, formOf(fields));
const answer = (caseId: number, check: string, outcome: string) => act(caseId, ["check", check], ["outcome", outcome]);
const view = async (caseId: number) => caseView(w.services, await w.look(), caseId, null);

beforeEach(async () => {
  w = await TestWorkshop.open();
  w.day(1);
  await w.ladder(15, true);
  await w.log("power", {
    setPercent: 100,
    baseline: true,
    readings: [
      { station: "tube", powerW: 79 },
      { station: "lens", powerW: 72 },
    ],
  });
  w.day(20);
});

describe("several at a time", () => {
  it("takes several signs as one case with all they bring, and traces missing light where it is among them", async () => {
    const id = await open("flame", "far-corner");
    const [opened] = await openCasesOf(w.store, 1);
    expect(opened).toMatchObject({ id, symptom: "power" });
    expect(opened?.title).toContain(";");
    expect((await listFindings(w.store, id)).length).toBeGreaterThan(1);
    // The same signs once more are the same case.
    expect(await open(...(opened?.sign.split("+") ?? []))).toBe(id);
  });

  it("keeps two cases apart: what is answered, unknown and closed in one is not in the other", async () => {
    const weak = await open("far-corner");
    const jerky = await open("jerky");
    await answer(weak, "lens-look", "clear");
    await act(weak, ["intent", "decline"], ["check", "onset"]);
    const g = await w.look();
    expect(g.openCases.map((c) => [c.id, c.unknown])).toEqual([
      [weak, ["onset"]],
      [jerky, []],
    ]);
    expect((await view(jerky)).view.history.map((h) => h.words).join()).not.toContain("lens");
    await act(jerky, ["intent", "close"], ["why", "a stone on the rail"]);
    expect((await casesView(w.services, await w.look())).open.map((c) => c.id)).toEqual([weak]);
  });

  it("names answers that contradict each other, and adds a sign that was noticed later", async () => {
    const id = await open("far-corner");
    await answer(id, "lens-look", "clear");
    w.nowMs += 60_000;
    await answer(id, "lens-look", "spots");
    const { suspect } = (await view(id)).view;
    expect(suspect.map((s) => s.text).join()).toMatch(/disagree: lens looked clear, then lens showed spots/);
    await act(id, ["intent", "also"], ["sign", "flame"]);
    expect((await listFindings(w.store, id)).map((f) => f.check)).toContain("flame");
    expect(await act(id, ["intent", "also"], ["sign", "nonsense"])).toMatchObject({ errors: { sign: expect.any(String) } });
  });
});

describe("a case that is over", () => {
  const closing = { repair: "Turn the lens", faults: ["lens-flipped"], proof: "ladder" };

  it("is opened again with what it had been closed as in the log, and its findings as they were", async () => {
    const id = await open("far-corner");
    await answer(id, "lens-look", "clear");
    await closeCase(w.store, 1, id, closing, w.nowMs);
    await act(id, ["intent", "reopen"]);
    await act(id, ["intent", "reopen"]);
    expect((await openCasesOf(w.store, 1)).map((c) => c.id)).toEqual([id]);
    const notes = Array.from((await w.look()).log.kinds.note).map((e) => e.payload.note);
    expect(notes).toEqual(["Case 1 opened again. It had been closed as: Lens upside down; proof: ladder."]);
    expect((await view(id)).view.history.map((h) => h.words)).toContain("lens looked clear");
  });

  it("makes its fault likelier in the next, says that it was here before, and what it took", async () => {
    const fault = async (id: number) => {
      const g = await w.look();
      const found = g.openCases.find((c) => c.id === id);
      if (!found) throw new Error("closed");
      const input = traceInput(g, found, caseFindings(g, found, await listFindings(w.store, id)));
      return (await answered({}, g.trade.model, input)).faults.find((f) => f.id === "lens-flipped")?.probability ?? 0;
    };
    const first = await open("after-cleaning");
    const before = await fault(first);
    w.nowMs += 60_000;
    await answer(first, "lens-side", "flipped");
    await closeCase(w.store, 1, first, closing, w.nowMs);
    w.day(60);
    const second = await open("after-cleaning");
    expect(await fault(second)).toBeGreaterThan(1.3 * before);
    expect((await view(second)).view.faults.find((f) => f.id === "lens-flipped")?.before).toMatch(/^once before, last/);
    await closeCase(w.store, 1, second, closing, w.nowMs);
    const { past } = await casesView(w.services, await w.look());
    expect(past.map((p) => p.before)).toEqual([expect.stringMatching(/^once before/), "first time"]);
    expect(past.map((p) => p.cost)).toEqual(["0 min", "5 min"]);
    const report = await reportView(w.services, await w.look(), first);
    expect(report.findings.map((f) => f.words)).toContain("lens upside down");
    expect(report.outcome).toBe("Repaired: turn the lens.");
    expect((await listCases(w.store, 1)).length).toBe(2);
  });
});

it("comes out as a file from which the command line reads the same answer", async () => {
  const id = await open("far-corner");
  await answer(id, "mirror-look@2", "film");
  await answer(id, "lens-look", "clear");
  await w.ladder(10);
  const g = await w.look();
  const [found] = g.openCases;
  if (!found) throw new Error("closed");
  const input = traceInput(g, found, caseFindings(g, found, await listFindings(w.store, id)));
  const here = await answered({}, g.trade.model, input);
  const path = join(mkdtempSync(join(tmpdir(), "clenor-case-")), "case.json");
  writeFileSync(path, JSON.stringify(await caseFile(w.services, g, id)));
  const { status, stdout, stderr } = spawnSync(process.execPath, ["--import", "tsx", "scripts/trace.ts", path], { encoding: "utf8" });
  expect(stderr).toBe("");
  expect(status).toBe(0);
  const there = JSON.parse(stdout) as { faults: unknown[]; plan: unknown[]; stations: unknown[] };
  expect(there.faults).toEqual(JSON.parse(JSON.stringify(here.faults.map(({ id: fault, probability }) => ({ id: fault, probability })))));
  expect(there.plan).toEqual(here.plan);
});

it("draws light along the path that never rises, its words and bars of one figure", async () => {
  const id = await open("far-corner");
  await answer(id, "mirror-look@2", "film");
  const { budget, suspicion } = (await view(id)).view;
  if (!budget) throw new Error("no budget");
  expect(budget.map((l) => l.name)).toEqual(["Tube", "M1", "M2", "M3 in head", "Lens"]);
  for (const [i, line] of budget.entries()) {
    expect(line.now).toBeLessThanOrEqual(line.good);
    if (i > 0) expect(line.now).toBeLessThanOrEqual(budget[i - 1]?.now ?? 0);
    // The beam line beside it says the same watts.
    expect(line.words).toMatch(new RegExp(`^${suspicion[line.id]?.watts?.replace(" W", "")} of`));
  }
});
