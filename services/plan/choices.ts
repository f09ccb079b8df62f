/** What its owner says of the plan: what a task follows, on which days there is time, when the workshop is closed. */
import dayjs from "dayjs";
import { habits } from "#catalog/tasks";
import { type OwnEvery, SCHOOLS, type Upkeep } from "#core/machine";
import { atOnce } from "#store/database";
import type { Services } from "../context";
import type { FormReader } from "../forms/fields";
import type { Gathered } from "../machine/gathered";
import { changeUpkeep } from "../upkeep/change";
import { habitsOf, TIME_WORDS } from "../upkeep/habits";
import { isFollowed, learningOf } from "../upkeep/inForce";
import { everyWords, FOLLOWS_WORDS } from "../upkeep/words";
import { costsOf } from "./costs";
import { cheapestEvery } from "./taskView";

export type Chosen = { readonly said: string } | { readonly errors: Readonly<Record<string, string>> };

/** Ten years are no interval any more. */
const MOST_DAYS = 1100;
const MOST_USE = 10_000;
const LEAST = 0.1;

function ownEvery(reader: FormReader): OwnEvery {
  const figure = (name: keyof OwnEvery, unit: string, example: string, most: number) => {
    const value = reader.optionalNumber(name, unit, example);
    if (value === undefined) return {};
    if (value >= LEAST && value <= most) return { [name]: value };
    reader.errors[name] =
      value < LEAST ? `More than nought: at least ${LEAST}. To never be asked, leave every field empty.` : `At most ${most} ${unit}.`;
    return {};
  };
  return {
    ...figure("plyHours", "smoke hours", "8", MOST_USE),
    ...figure("firingHours", "tube hours", "40", MOST_USE),
    ...figure("days", "days", "14", MOST_DAYS),
    ...figure("jobs", "jobs", "20", MOST_USE),
  };
}

/** What a task follows from now on. */
export async function followByForm(services: Services, g: Gathered, reader: FormReader): Promise<Chosen> {
  const follows = reader.text("follows") ?? "";
  const habit = habitsOf(g).find((h) => h.id === reader.text("task"));
  if (habit) return followHabit(services, g, habit.id, follows);
  const task = g.tasks.find((t) => t.id === reader.text("task"));
  if (!task) return { errors: { "": "This machine does not have that task. Reload the page." } };
  if (!isFollowed(follows)) return { errors: { follows: "Choose what it follows." } };
  let every: OwnEvery | undefined;
  if (follows === "own") {
    every = ownEvery(reader);
    if (Object.keys(reader.errors).length > 0) return { errors: reader.errors };
    if (Object.keys(every).length === 0)
      return { errors: { plyHours: "Give at least one figure: smoke hours, tube hours, days or jobs." } };
  }
  const learning = learningOf(g.upkeep, task);
  if (follows === "learned" && !learning)
    return { errors: { follows: "It goes by nothing that could be counted, so nothing can be learned." } };
  if (follows === "cheapest") {
    const costs = learning && costsOf(g, task, learning);
    if (!costs?.cheapest) return { errors: { follows: "Its cheapest interval is not known yet. Choose another." } };
    every = cheapestEvery(g, task, costs) as OwnEvery;
  }
  const { school } = g.trade.layout.fittings;
  const errors = await changeUpkeep(services, g.machine.id, (now) => {
    const { [task.id]: _, ...others } = (now.tasks ?? {}) as Record<string, { follows: typeof follows; every?: OwnEvery }>;
    // What is the machine's own school needs no word of its own.
    if (follows === school) return { ...now, tasks: others };
    return { ...now, tasks: { ...others, [task.id]: { follows, ...(every ? { every } : {}) } } };
  });
  if (errors) return { errors };
  const said = follows === "own" || follows === "cheapest" ? `: ${everyWords(every)}` : "";
  return { said: `${task.name} follows ${FOLLOWS_WORDS[follows]}${said}.` };
}

/** A habit follows a school, and nothing else: there is nothing to count. */
async function followHabit(services: Services, g: Gathered, id: string, follows: string): Promise<Chosen> {
  const school = SCHOOLS.find((s) => s === follows);
  if (!school) return { errors: { follows: "Choose a school for it." } };
  const errors = await changeUpkeep(services, g.machine.id, (now) => ({ ...now, tasks: { ...now.tasks, [id]: { follows: school } } }));
  const habit = habits.find((h) => h.id === id);
  return errors ? { errors } : { said: `${habit?.name}: ${TIME_WORDS[habit?.when[school] ?? "never"]}.` };
}

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"] as const;

/** Closed spans as they are typed, a line each: "2026-12-24 to 2027-01-01", or one day. */
function closedSpans(text: string | undefined, errors: Record<string, string>): Upkeep["closed"] {
  const spans: { from: string; to: string }[] = [];
  for (const [i, line] of (text ?? "").split(/\n/).entries()) {
    if (line.trim() === "") continue;
    const [from, to] = (line.match(/\d{4}-\d{2}-\d{2}/g) ?? []) as string[];
    const isDay = (d: string | undefined) => d !== undefined && dayjs(d).isValid() && dayjs(d).format("YYYY-MM-DD") === d;
    if (!isDay(from) || (to !== undefined && !isDay(to))) {
      errors.closed = `Line ${i + 1}, “${line.trim().slice(0, 40)}”, is no day. Write 2026-12-24 to 2027-01-01, or one day.`;
      return undefined;
    }
    if (to !== undefined && to < (from as string)) {
      errors.closed = `Line ${i + 1} ends before it begins. Put the first day first.`;
      return undefined;
    }
    spans.push({ from: from as string, to: to ?? (from as string) });
  }
  return spans.sort((a, b) => (a.from < b.from ? -1 : 1));
}

/** Days and minutes, closed days, and what the plan reckons with; for every machine of the workshop where that is ticked. */
export async function daysByForm(services: Services, g: Gathered, reader: FormReader): Promise<Chosen> {
  const errors: Record<string, string> = {};
  const minutes = WEEKDAYS.map((day, i) => {
    const value = reader.optionalNumber(`minutes${i}`, "min", "60");
    if (value !== undefined && (value < 0 || value > 1440 || !Number.isInteger(value)))
      errors[`minutes${i}`] = `${day}: whole minutes from 0 to 1440. Empty means any length.`;
    return value;
  });
  const anyGiven = minutes.some((m) => m !== undefined);
  const closed = closedSpans(reader.text("closed"), errors);
  const target = reader.optionalNumber("target", "%", "10");
  if (target !== undefined && (target < 2 || target > 30)) errors.target = "From 2 to 30 %.";
  const hourValue = reader.optionalNumber("hourValue", "an hour", "30");
  const visitCost = reader.optionalNumber("visitCost", "money", "200");
  const hour = reader.text("serviceHour");
  if (hour !== undefined && !/^(\d|1\d|2[0-3])$/.test(hour)) errors.serviceHour = "A whole hour from 0 to 23, or empty for a whole day.";
  const all = { ...errors, ...reader.errors };
  if (Object.keys(all).length > 0) return { errors: all };
  if (minutes.every((m) => m === 0))
    return { errors: { minutes0: "No day has any minutes: then nothing can be planned. Give one day some." } };
  const change = (now: Upkeep): Upkeep => {
    const { minutes: _, closed: __, target: ___, hourValue: ____, serviceHour: _____, visitCost: ______, ...rest } = now;
    return {
      ...rest,
      ...(anyGiven ? { minutes: minutes.map((m) => m ?? 1440) } : {}),
      ...(closed && closed.length > 0 ? { closed } : {}),
      ...(target === undefined ? {} : { target: target / 100 }),
      ...(hourValue === undefined ? {} : { hourValue }),
      ...(visitCost === undefined ? {} : { visitCost }),
      ...(hour === undefined ? {} : { serviceHour: Number(hour) }),
    };
  };
  const machines = reader.text("all") === "1" ? g.machines : [g.machine];
  // For all of them or for none.
  await atOnce(services.store, async (store) => {
    for (const m of machines) await changeUpkeep({ store }, m.id, change);
  });
  return { said: machines.length > 1 ? `Saved for all ${machines.length} machines.` : "Saved." };
}
