/** The calendar file, read back by another parser: what it holds, and what a second one does to the first. */
import ICAL from "ical.js";
import { describe, expect, it } from "vitest";
import { TestWorkshop } from "../testWorkshop";
import { planCalendar } from "./calendar";
import { roundViews } from "./rounds";

function read(text: string) {
  const calendar = new ICAL.Component(ICAL.parse(text));
  return calendar.getAllSubcomponents("vevent").map((v) => {
    const event = new ICAL.Event(v);
    return {
      id: event.uid,
      sequence: event.sequence,
      date: event.startDate.toString(),
      isDay: event.startDate.isDate,
      summary: event.summary,
      status: v.getFirstPropertyValue("status"),
      alarms: v.getAllSubcomponents("valarm").length,
    };
  });
}

describe("the plan as a calendar", () => {
  it("holds each round as a day with an alarm, in its own words", async () => {
    const w = await TestWorkshop.worked();
    const g = await w.look();
    const events = read(await planCalendar(w.services, g));
    const rounds = roundViews(g);
    expect(events.map((e) => e.date)).toEqual(rounds.map((r) => r.date));
    expect(events[0]).toMatchObject({
      isDay: true,
      sequence: 0,
      status: "CONFIRMED",
      alarms: 1,
      summary: `Larkspur: round, ${rounds[0]?.minutes} min`,
    });
    expect(new Set(events.map((e) => e.id)).size).toBe(events.length);
  });

  it("moves the same rounds when it is taken in again, and calls off those that are gone", async () => {
    const w = await TestWorkshop.worked();
    const first = read(await planCalendar(w.services, await w.look()));
    // Nobody cuts for a month: fewer rounds.
    await w.log("hours", { counterHours: 140 }, 50);
    w.day(51);
    const second = read(await planCalendar(w.services, await w.look()));
    const going = second.filter((e) => e.status === "CONFIRMED");
    expect(going.length).toBeLessThan(first.length);
    expect(second.every((e) => e.sequence === 1)).toBe(true);
    expect(second.map((e) => e.id).sort()).toEqual(first.map((e) => e.id).sort());
    expect(second.filter((e) => e.status === "CANCELLED")).toHaveLength(first.length - going.length);
  });
});
