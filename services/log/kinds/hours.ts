import { type EventPayload, newestBefore } from "#core/events";
import { HOUR_MS } from "#core/time";
import type { Gathered } from "../../machine/gathered";
import { number, onDay, sinceDay } from "../../words";
import type { EntryProblem, EventKindDefinition } from "./definition";

/** More firing in an hour than an hour holds is a slip of the keys. */
const SLACK_HOURS = 1;
const ASK = "Or was something changed?";
const BECAUSE = { "tube-changed": ", new tube", "counter-changed": ", new counter" } as const;

export const hours: EventKindDefinition<"hours"> = {
  name: "Hours",
  says: (event, g) => {
    const { payload } = event;
    const step = g.usage.stepOf(event);
    const fired = step && step.hours > 0 ? `, ${number(step.hours)} h fired` : "";
    const odd = step?.unexplained ? ", runs backwards: counted as no firing" : "";
    return `${number(payload.counterHours)} h on the counter${fired}${payload.because ? BECAUSE[payload.because] : ""}${odd}`;
  },
  figures: ({ payload }) => [{ name: "on the counter", value: payload.counterHours, unit: "h" }],
  entry: {
    read: (reader) => ({ counterHours: reader.number("counterHours", "h", "1846.5"), because: reader.text("because") }),
    problem: hoursProblem,
  },
};

/** Hours that run backwards, or faster than the clock, are asked about, never silently taken. */
function hoursProblem(payload: EventPayload["hours"], g: Gathered, atMs: number, replaces: number | undefined): EntryProblem | undefined {
  const before = newestBefore(g.log, ["hours"], 2, { atMs, id: Number.POSITIVE_INFINITY }).find((e) => e.id !== replaces);
  if (!before || payload.because) return undefined;
  const last = before.payload.counterHours;
  const then = sinceDay(before.atMs, g.nowMs);
  if (payload.counterHours < last) {
    const words = `The counter showed ${number(last)} h ${onDay(before.atMs, g.nowMs)}. Enter ${number(last)} or more, or say below why it shows less.`;
    return { errors: { counterHours: words }, ask: ASK };
  }
  const passed = (atMs - before.atMs) / HOUR_MS;
  if (payload.counterHours - last > passed + SLACK_HOURS) {
    const words = `${number(payload.counterHours - last)} h more than ${then}, when only ${number(Math.max(0, passed))} h have passed. At most ${number(last + passed + SLACK_HOURS)} is possible.`;
    return { errors: { counterHours: words }, ask: ASK };
  }
  return undefined;
}
