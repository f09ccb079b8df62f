/**
 * The plan as an iCalendar file for the owner's own calendar. The n-th round to come has a name of its own that stays: taken in again, it
 * moves to its new day, and a round that is no longer planned is called off.
 */
import ical, { ICalAlarmType, ICalCalendarMethod, ICalEventStatus } from "ical-generator";
import { DAY_MS } from "#core/time";
import { atOnce } from "#store/database";
import { readSetting, writeSettings } from "#store/settings";
import type { Services } from "../context";
import type { Gathered } from "../machine/gather";
import { planView } from "./planView";

/** What was handed out last: how often, and how many rounds there were. */
interface HandedOut {
  readonly times: number;
  readonly rounds: number;
}
const settingOf = (machineId: number): string => `plan-calendar-${machineId}`;

/** The file. Keeps how often it was handed out, so that a calendar knows the newer from the older. */
export async function planCalendar(services: Services, g: Gathered): Promise<string> {
  const plan = planView(g);
  const before = await atOnce(services.store, async (tx) => {
    const kept = (await readSetting<HandedOut>(tx, settingOf(g.machine.id))) ?? { times: 0, rounds: 0 };
    await writeSettings(tx, { [settingOf(g.machine.id)]: { times: kept.times + 1, rounds: plan.rounds.length } satisfies HandedOut });
    return kept;
  });
  const calendar = ical({
    name: `${g.machine.name}: rounds`,
    method: ICalCalendarMethod.PUBLISH,
    prodId: { company: "Clenor", product: "Clenor", language: "EN" },
  });
  const stamp = new Date(g.nowMs);
  const idOf = (n: number) => `round-${n}-of-${g.machine.slug}@clenor`;
  for (const [i, round] of plan.rounds.entries()) {
    const start = new Date(`${round.date}T00:00:00Z`);
    const event = calendar.createEvent({
      id: idOf(i + 1),
      sequence: before.times,
      stamp,
      start,
      end: new Date(start.getTime() + DAY_MS),
      allDay: true,
      summary: `${g.machine.name}: round, ${round.minutes} min`,
      description: round.tasks.map((t) => `${t.name}: ${t.does}`).join("\n"),
      status: ICalEventStatus.CONFIRMED,
    });
    event.createAlarm({ type: ICalAlarmType.display, triggerBefore: ALARM_BEFORE_S });
  }
  for (let n = plan.rounds.length + 1; n <= before.rounds; n++)
    calendar.createEvent({
      id: idOf(n),
      sequence: before.times,
      stamp,
      start: stamp,
      allDay: true,
      summary: `${g.machine.name}: round, no longer planned`,
      status: ICalEventStatus.CANCELLED,
    });
  return calendar.toString();
}

/** Six hours before the day begins: the evening before. */
const ALARM_BEFORE_S = 6 * 3600;
