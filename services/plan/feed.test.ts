/** A plan's secret address: it opens one machine's plan, until it is revoked, and is in no copy. */
import ICAL from "ical.js";
import { describe, expect, it } from "vitest";
import { PLAN_FEEDS, STAYS } from "#store/secrets";
import { TestWorkshop } from "../testWorkshop";
import { planFeed } from "./calendar";
import { feedOf, machineOfFeed, openFeed, revokeFeed } from "./feed";

describe("a plan's feed", () => {
  it("is opened by its own secret only, until another is made or it is revoked", async () => {
    const w = await TestWorkshop.worked();
    expect(await feedOf(w.services, 1)).toBeUndefined();
    await openFeed(w.services, 1);
    const secret = (await feedOf(w.services, 1)) as string;
    expect(secret).toMatch(/^[\w-]{32}$/);
    expect(await machineOfFeed(w.services, secret)).toBe(1);
    for (const wrong of ["", `${secret}x`, secret.slice(1), "__proto__"]) expect(await machineOfFeed(w.services, wrong)).toBeUndefined();
    await openFeed(w.services, 1);
    expect(await machineOfFeed(w.services, secret)).toBeUndefined();
    const second = (await feedOf(w.services, 1)) as string;
    await revokeFeed(w.services, 1);
    expect(await machineOfFeed(w.services, second)).toBeUndefined();
    expect(STAYS).toContain(PLAN_FEEDS);
  });

  it("tells titles, minutes and what to fetch, at the hour on the wall, with numbers that only rise", async () => {
    const w = await TestWorkshop.worked();
    const g = await w.look();
    const timed = { ...g, upkeep: { ...g.upkeep, upkeep: { serviceHour: 16 } } };
    const events = (text: string) => new ICAL.Component(ICAL.parse(text)).getAllSubcomponents("vevent").map((v) => new ICAL.Event(v));
    const [first] = events(planFeed(timed));
    expect(first?.startDate.toString()).toMatch(/T16:00:00$/);
    expect(first?.summary).toMatch(/^Larkspur: round, \d+ min$/);
    expect(first?.description).toMatch(/Fetch: .*isopropyl alcohol/);
    const before = events(planFeed(g))[0]?.sequence ?? 0;
    w.nowMs += 120_000;
    expect(events(planFeed(await w.look()))[0]?.sequence).toBe(before + 2);
  });
});
