/**
 * The plan as an iCalendar file for the owner's own calendar. The n-th round to come has a name of its own that stays: taken in again, it
 * moves to its new day, and a round that is no longer planned is called off.
 */
import ical, { ICalAlarmType, type ICalCalendar, ICalCalendarMethod, ICalEventStatus } from "ical-generator";
import { DAY_MS, MINUTE_MS } from "#core/time";
import { atOnce } from "#store/database";
import { readSetting, writeSettings } from "#store/settings";
import type { Services } from "../context";
import type { Gathered } from "../machine/gathered";
import { roundOf } from "./minutes";
import { roundViews } from "./rounds";

/** What was handed out last: how often, and how many rounds there were. */
interface HandedOut {
  readonly times: number;
  readonly rounds: number;
}
const settingOf = (machineId: number): string => `plan-calendar-${machineId}`;
const idOf = (g: Gathered, n: number): string => `round-${n}-of-${g.machine.slug}@clenor`;

/** The file. Keeps how often it was handed out, so that a calendar knows the newer from the older. */
export async function planCalendar(services: Services, g: Gathered): Promise<string> {
  const { length } = g.plan.rounds;
  const before = await atOnce(services.store, async (tx) => {
    const kept = (await readSetting<HandedOut>(tx, settingOf(g.machine.id))) ?? { times: 0, rounds: 0 };
    await writeSettings(tx, { [settingOf(g.machine.id)]: { times: kept.times + 1, rounds: length } satisfies HandedOut });
    return kept;
  });
  const calendar = calendarOf(g, before.times);
  for (let n = length + 1; n <= before.rounds; n++)
    calendar.createEvent({
      id: idOf(g, n),
      sequence: before.times,
      stamp: new Date(g.nowMs),
      start: new Date(g.nowMs),
      allDay: true,
      summary: `${g.machine.name}: round, no longer planned`,
      status: ICalEventStatus.CANCELLED,
    });
  return calendar.toString();
}

/** Minutes of so long ago are the first of a feed's numbers: later ones are higher. */
const COUNTED_FROM_MS = Date.UTC(2026, 0, 1);

/** What a subscribed calendar reads: always the whole of what is planned now, and nothing is kept of its asking. */
export const planFeed = (g: Gathered): string => calendarOf(g, Math.max(0, Math.floor((g.nowMs - COUNTED_FROM_MS) / MINUTE_MS))).toString();

/** Titles, minutes and what to fetch; nothing else of the workshop. */
function calendarOf(g: Gathered, sequence: number): ICalCalendar {
  const calendar = ical({
    name: `${g.machine.name}: rounds`,
    method: ICalCalendarMethod.PUBLISH,
    prodId: { company: "Clenor", product: "Clenor", language: "EN" },
  });
  const hour = g.upkeep.upkeep?.serviceHour;
  for (const [i, round] of roundViews(g).entries()) {
    const { fetch } = roundOf(g, g.plan.rounds[i]?.tasks ?? []);
    const needed = [...(fetch.keys ?? []), ...fetch.tools, ...fetch.agents.map((a) => a.name), ...fetch.supplies, ...(fetch.gear ?? [])];
    const day = new Date(`${round.date}T00:00:00Z`);
    const when =
      hour === undefined
        ? { start: day, end: new Date(day.getTime() + DAY_MS), allDay: true }
        : // In whatever zone the calendar is: the hour on the wall.
          {
            start: new Date(day.getTime() + hour * 60 * MINUTE_MS),
            end: new Date(day.getTime() + (hour * 60 + round.minutes) * MINUTE_MS),
            floating: true,
          };
    const event = calendar.createEvent({
      id: idOf(g, i + 1),
      sequence,
      stamp: new Date(g.nowMs),
      ...when,
      summary: `${g.machine.name}: round, ${round.minutes} min`,
      description: [...round.tasks.map((t) => `${t.name}: ${t.does}`), ...(needed.length > 0 ? [`Fetch: ${needed.join(", ")}`] : [])].join(
        "\n",
      ),
      status: ICalEventStatus.CONFIRMED,
    });
    event.createAlarm({ type: ICalAlarmType.display, triggerBefore: hour === undefined ? EVENING_BEFORE_S : HOUR_BEFORE_S });
  }
  return calendar;
}

/** Six hours before the day begins, and an hour before the round does. */
const EVENING_BEFORE_S = 6 * 3600;
const HOUR_BEFORE_S = 3600;
