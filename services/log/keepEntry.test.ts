import { describe, expect, it } from "vitest";
import { allEvents } from "#core/events";
import { FormReader } from "../forms/fields";
import { TestWorkshop } from "../testWorkshop";
import { keepEntry } from "./keepEntry";

let key = 0;
const keep = (w: TestWorkshop, fields: Record<string, string>) => {
  const form = new FormData();
  for (const [name, value] of Object.entries({ requestKey: `keep-entry-${++key}`, ...fields })) form.set(name, value);
  return keepEntry(w.services, "larkspur", new FormReader(form));
};

async function bench() {
  const w = await TestWorkshop.open();
  w.day(3);
  await w.ladder(15, true);
  w.day(10);
  return w;
}

describe("after a job", () => {
  it("one form leaves the job, how it cut and the glance at the lens, and leads on from what was not right", async () => {
    const w = await bench();
    const job = { kind: "job", materialId: "1", minutes: "40", dropped: "hangs", flame: "more", glance: "2" };
    expect(await keep(w, job)).toMatchObject({ kept: "new", leads: ["flame", "cut", "lens"] });
    const g = await w.look();
    expect(g.log.kinds.job.at(-1)?.payload).toEqual({ materialId: 1, minutes: 40, flame: "more" });
    expect(g.log.kinds.cut.at(-1)?.payload).toMatchObject({ speedMmPerS: 14, setPercent: 60, result: "hangs" });
    expect(g.grades.get("lens")).toMatchObject({ grade: 2, phase: "as-found" });
  });

  it("keeps nothing of it where one part cannot be read, and all of it once however often it is sent", async () => {
    const w = await bench();
    const size = async () => allEvents((await w.look()).log).length;
    const before = await size();
    expect(await keep(w, { kind: "job", materialId: "1", minutes: "40", glance: "9" })).toMatchObject({
      errors: { glance: "Pick a grade." },
    });
    expect(await size()).toBe(before);
    const sent = { kind: "job", materialId: "1", minutes: "40", dropped: "through", glance: "0", requestKey: "twice" };
    await keep(w, sent);
    await keep(w, sent);
    expect(await size()).toBe(before + 3);
  });
});

describe("done without a round", () => {
  it("counts a spare down when a part was replaced, clears what was seen bad, and asks for a new baseline", async () => {
    const w = await bench();
    await w.log("grade", { station: "lens", phase: "as-left", grade: 4 });
    w.day(11);
    const spares = async () => (await w.look()).trade.layout.path.find((s) => s.id === "lens")?.spares;
    expect(await spares()).toBe(1);
    expect(await keep(w, { kind: "service", part: "lens", what: "replaced" })).toMatchObject({ kept: "new", leads: ["baseline"] });
    expect(await spares()).toBe(0);
    expect((await w.look()).grades.get("lens")).toBeUndefined();
    // None left is none left, and is no reason not to keep the record.
    expect(await keep(w, { kind: "service", part: "lens", what: "replaced" })).toMatchObject({ kept: "new" });
    expect(await spares()).toBe(0);
    // Struck, or corrected into something else, only the one that came from the shelf goes back there.
    const [first = "", second = ""] = [...(await w.look()).log.kinds.service].flatMap((e) =>
      e.payload.what === "replaced" ? String(e.id) : [],
    );
    await keep(w, { intent: "void", corrects: second, corrections: "0" });
    expect(await spares()).toBe(0);
    await keep(w, { kind: "service", part: "lens", what: "replaced", note: "from the drawer", corrects: first, corrections: "0" });
    expect(await spares()).toBe(0);
    await keep(w, { kind: "service", part: "lens", what: "cleaned", corrects: first, corrections: "1" });
    expect(await spares()).toBe(1);
    await keep(w, { intent: "void", corrects: first, corrections: "2" });
    expect(await spares()).toBe(1);
  });

  it("keeps what was seen before a clean, as seen before it; it is not seen bad any more", async () => {
    const w = await bench();
    await keep(w, { kind: "service", part: "mirror-2", what: "cleaned", found: "2" });
    const { log, grades } = await w.look();
    const [seen, done] = [log.kinds.grade.at(-1), log.kinds.service.at(-1)];
    expect(seen?.payload).toMatchObject({ station: "mirror-2", phase: "as-found", grade: 2 });
    expect(seen?.atMs).toBeLessThan(done?.atMs ?? 0);
    expect(grades.get("mirror-2")).toBeUndefined();
    const before = log.kinds.service.length;
    expect(await keep(w, { kind: "service", part: "rails", what: "cleaned", found: "2" })).toMatchObject({
      errors: { found: expect.stringMatching(/Only mirrors/) },
    });
    expect((await w.look()).log.kinds.service.length).toBe(before);
  });

  it("tells tasks of one system apart, and names what is missing", async () => {
    const w = await bench();
    await w.log("hours", { counterHours: 930 });
    await keep(w, { kind: "service", part: "lubricate", what: "adjusted" });
    const { due, log } = await w.look();
    expect(log.kinds.service.at(-1)?.payload).toMatchObject({ task: "lubricate" });
    expect(due.find((d) => d.id === "lubricate")?.used).toBeLessThan(due.find((d) => d.id === "rails")?.used as number);
    expect(await keep(w, { kind: "service", part: "gremlin", what: "cleaned" })).toMatchObject({
      errors: { part: expect.stringMatching(/Choose/) },
    });
    expect(await keep(w, { kind: "service", part: "lens" })).toMatchObject({ errors: { what: "Say what was done." } });
  });
});
