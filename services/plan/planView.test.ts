/** A plan on a machine's own log: it asks for what is due, groups it, follows what was done and moved, and Today says the same. */
import { describe, expect, it } from "vitest";
import { FormReader } from "../forms/fields";
import { gather } from "../machine/gather";
import { offerOf } from "../rounds/offer";
import { TestWorkshop } from "../testWorkshop";
import { todayView } from "../today/todayView";
import { actOnPlan } from "./act";
import { instanceOf } from "./instance";
import { roundMinutes } from "./minutes";
import { planView } from "./planView";

const form = (fields: Record<string, string>): FormReader => {
  const data = new FormData();
  for (const [name, value] of Object.entries(fields)) data.set(name, value);
  return new FormReader(data);
};
const viewOf = async (w: TestWorkshop, search = "") => planView(w.services, await w.look(), new URLSearchParams(search));
const act = async (w: TestWorkshop, fields: Record<string, string>) => actOnPlan(w.services, await w.look(), form(fields));

describe("the plan of a machine", () => {
  it("forgets no task, with what is used of each, and takes less than each task alone and than the careful school", async () => {
    const w = await TestWorkshop.worked();
    const g = await w.look();
    const instance = instanceOf(g);
    const counted = g.due.filter((d) => !d.byOthers && Number.isFinite(d.left.amount)).map((d) => d.id);
    expect(instance.tasks.map((t) => t.id).sort()).toEqual(counted.sort());
    expect(instance.tasks.find((t) => t.id === "lens")?.used?.smoke).toBeGreaterThan(30);
    const view = await viewOf(w);
    expect(view.rounds.length).toBeGreaterThan(2);
    // Never cleaned, and worked for forty hours: it is late, and in today's round.
    expect(view.late.map((l) => l.id)).toContain("lens");
    expect(view.chosen).toMatchObject({ day: "Today" });
    expect(view.chosen?.tasks.map((t) => t.id)).toContain("lens");
    expect(view.total).toBeLessThan(0.8 * view.compared.alone.minutes);
    expect(view.total).toBeLessThan(view.compared.schools.find((s) => s.id === "careful")?.minutes ?? 0);
    for (const r of view.rounds)
      expect(r.minutes).toBe(Math.round(roundMinutes(g, g.plan.rounds.find((p) => p.date === r.date)?.tasks ?? [])));
  });

  it("is the same as Today's, to the minute, and the same when nothing changed", async () => {
    const w = await TestWorkshop.worked();
    const view = await viewOf(w);
    const today = await todayView(w.services, await w.look());
    expect(today.offer.parts.toSorted()).toEqual(view.chosen?.tasks.map((t) => t.id).toSorted());
    expect(Math.round(today.offer.minutes)).toBe(view.rounds[0]?.minutes);
    const coming = today.coming.filter((c) => /^\d{4}-/.test(c.id));
    expect(coming.length).toBeGreaterThan(0);
    for (const c of coming) expect(Math.round(c.minutes)).toBe(view.rounds.find((r) => r.date === c.id)?.minutes);
    w.nowMs += 3 * 3_600_000;
    expect((await viewOf(w)).rounds).toEqual(view.rounds);
  });

  it("moves on what was done: a clean today starts the lens again, and makes nothing later than planned", async () => {
    const w = await TestWorkshop.worked();
    const before = await viewOf(w);
    await w.log("service", { station: "lens", what: "cleaned" });
    const after = await viewOf(w);
    expect(before.late.map((l) => l.id)).toContain("lens");
    expect(after.late.map((l) => l.id)).not.toContain("lens");
    expect(after.late.every((l) => before.late.some((b) => b.id === l.id))).toBe(true);
  });
});

describe("a round that is moved", () => {
  it("is on its new day, says what that costs, is Today's too, and goes back when it is let go", async () => {
    const w = await TestWorkshop.worked();
    const before = await viewOf(w);
    const [from, to] = [before.rounds[0]?.date as string, before.open[3]?.value as string];
    const said = await act(w, { intent: "move", from, to });
    expect(said).toMatchObject({ said: expect.stringMatching(/^Moved to .*min|no extra minutes/) });
    const after = await viewOf(w);
    expect(after.rounds.map((r) => r.date)).toContain(to);
    expect(after.rounds.map((r) => r.date)).not.toContain(from);
    expect(after.weeks.flatMap((x) => x.days).find((x) => x.date === to)?.rounds).toMatchObject([{ isMoved: true }]);
    expect(offerOf(await w.look()).plannedFor).toBeDefined();
    await act(w, { intent: "let-go", date: to });
    expect((await viewOf(w)).rounds.map((r) => r.date)).toEqual(before.rounds.map((r) => r.date));
  });

  it("is over once it was done, early or not", async () => {
    const w = await TestWorkshop.worked();
    const before = await viewOf(w);
    const to = before.open[5]?.value as string;
    await act(w, { intent: "move", from: before.rounds[0]?.date as string, to });
    w.nowMs += 3_600_000;
    await w.log("service", { station: "lens", what: "cleaned" });
    const lens = (await viewOf(w, `round=${to}`)).chosen?.tasks.find((t) => t.id === "lens");
    expect(lens?.why ?? "").not.toMatch(/moved/);
  });

  it("is refused on a day that is over, closed, or beyond the plan, and where the round is gone", async () => {
    const w = await TestWorkshop.worked();
    const before = await viewOf(w);
    const from = before.rounds[0]?.date as string;
    const closed = before.open[4]?.value as string;
    await act(w, { intent: "days", closed });
    for (const [to, why] of [
      ["2020-01-01", /over/],
      [closed, /closed/],
      ["2031-01-01", /plan ends/],
      ["soon", /day/],
    ] as const)
      expect(await act(w, { intent: "move", from, to })).toMatchObject({ errors: { to: expect.stringMatching(why) } });
    expect(await act(w, { intent: "move", from: "2026-01-01", to: closed })).toMatchObject({
      errors: { to: expect.stringMatching(/no such round/) },
    });
  });
});

describe("days and minutes", () => {
  it("keep every round within them or say what is late, for all machines at once", async () => {
    const w = await TestWorkshop.worked();
    expect(
      await act(w, {
        intent: "days",
        minutes0: "0",
        minutes1: "0",
        minutes2: "0",
        minutes3: "0",
        minutes4: "60",
        minutes5: "0",
        minutes6: "0",
      }),
    ).toEqual({
      said: "Saved.",
    });
    const view = await viewOf(w);
    const g = await w.look();
    for (const r of g.plan.rounds) {
      expect(new Date(`${r.date}T12:00:00Z`).getUTCDay()).toBe(5);
      expect(r.minutes).toBeLessThanOrEqual(60);
    }
    expect(view.rounds.length).toBeGreaterThan(0);
    expect(view.late.length).toBeGreaterThan(0);
  });

  it("are refused with what would be right", async () => {
    const w = await TestWorkshop.worked();
    const none = Object.fromEntries(Array.from({ length: 7 }, (_, i) => [`minutes${i}`, "0"]));
    for (const [fields, field, why] of [
      [none, "minutes0", /No day has any minutes/],
      [{ minutes2: "-5" }, "minutes2", /0 to 1440/],
      [{ closed: "2026-12-24\nnext week" }, "closed", /Line 2/],
      [{ closed: "2026-12-24 to 2026-12-20" }, "closed", /ends before/],
      [{ closed: "2026-02-31" }, "closed", /no day/],
      [{ target: "60" }, "target", /2 to 30/],
      [{ serviceHour: "25" }, "serviceHour", /0 to 23/],
    ] as const)
      expect(await act(w, { intent: "days", ...fields })).toMatchObject({ errors: { [field]: expect.stringMatching(why) } });
  });

  it("leave a plan that says what it cannot do where every day is closed", async () => {
    const w = await TestWorkshop.worked();
    await act(w, { intent: "days", closed: "2026-01-01 to 2028-01-01" });
    const view = await viewOf(w);
    expect(view.rounds).toEqual([]);
    expect(view.late.map((l) => l.id)).toContain("lens");
    expect(view.late.every((l) => l.until === undefined)).toBe(true);
    expect(view.headline).toBe("No round can be planned.");
  });
});

describe("what a task follows", () => {
  it("is the school until its owner says another, holds everywhere, and is left again", async () => {
    const w = await TestWorkshop.worked();
    const every = async () => (await w.look()).tasks.find((t) => t.id === "lens")?.every;
    expect(await every()).toMatchObject({ plyHours: 8 });
    expect(await act(w, { intent: "follow", task: "lens", follows: "own", plyHours: "5,5" })).toMatchObject({
      said: expect.stringMatching(/5.5 smoke hours/),
    });
    expect(await every()).toMatchObject({ plyHours: 5.5, smokyDay: 4 });
    expect(instanceOf(await w.look()).tasks.find((t) => t.id === "lens")?.interval.smoke).toBe(5.5);
    await act(w, { intent: "follow", task: "lens", follows: "minimal" });
    expect(await every()).toMatchObject({ days: 7 });
    await act(w, { intent: "follow", task: "lens", follows: "by-use" });
    expect((await gather(w.services, "larkspur")).machine.fittings?.upkeep?.tasks).toEqual({});
  });

  it("learns: a lens found bad again and again comes sooner, and its card says why", async () => {
    const w = await TestWorkshop.worked();
    for (let k = 0; k < 4; k++) {
      await w.log("service", { station: "lens", what: "cleaned" }, 21 + 6 * k);
      await w.log("hours", { counterHours: 148 + 8 * k }, 26 + 6 * k);
      await w.log("grade", { station: "lens", phase: "as-found", grade: 2 }, 26.5 + 6 * k);
    }
    w.day(46);
    await act(w, { intent: "follow", task: "lens", follows: "learned" });
    const g = await w.look();
    expect(g.tasks.find((t) => t.id === "lens")?.every.plyHours).toBeLessThan(4);
    const card = (await viewOf(w, "task=lens")).task;
    expect(card?.learned?.sentence).toMatch(/4 of 4 inspections found it bad, so it should come after .* instead of 8/);
    expect(card?.learned?.found).toHaveLength(4);
  });

  it("is refused with what would be right", async () => {
    const w = await TestWorkshop.worked();
    for (const [fields, field, why] of [
      [{ task: "cheese", follows: "own" }, "", /does not have/],
      [{ task: "lens", follows: "luck" }, "follows", /Choose/],
      [{ task: "lens", follows: "own" }, "plyHours", /at least one/],
      [{ task: "lens", follows: "own", days: "0" }, "days", /More than nought/],
      [{ task: "lens", follows: "own", days: "3650" }, "days", /At most 1100/],
      [{ task: "rails", follows: "cheapest" }, "follows", /not known/],
    ] as const)
      expect(await act(w, { intent: "follow", ...fields })).toMatchObject({ errors: { [field]: expect.stringMatching(why) } });
  });
});
