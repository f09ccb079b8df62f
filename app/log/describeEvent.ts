/** One log record as a line of words. */
import { GRADES } from "#core/beam";
import { readLadder } from "#core/cuts";
import type { EventPayload, MachineEvent } from "#core/events";
import type { Gathered } from "../workshop/gather";
import { materialName, number, ratioWords } from "../workshop/words";

const SERVICE_WORDS = {
  cleaned: "cleaned",
  replaced: "replaced",
  "seat-opened": "taken out of its seat",
  aimed: "aimed",
  adjusted: "done",
  checked: "looked at",
} as const;
const CUT_WORDS = { through: "through", hangs: "hangs", "part-through": "part through", "surface-only": "surface only" } as const;

export function describeEvent(event: MachineEvent, g: Gathered): { what: string; text: string } {
  const material = (id: number) => materialName(g.materials.find((m) => m.id === id));
  const station = (id: string) => g.trade.layout.names[id] ?? id;
  const note = "note" in event.payload && event.payload.note && event.kind !== "note" ? ` “${event.payload.note}”` : "";
  switch (event.kind) {
    case "hours": {
      const step = g.usage.steps.find((s) => s.eventId === event.id);
      const because =
        event.payload.because === "tube-changed" ? ", new tube" : event.payload.because === "counter-changed" ? ", new counter" : "";
      const odd = step?.unexplained ? ", runs backwards: counted as no firing" : "";
      return {
        what: "Hours",
        text: `${number(event.payload.counterHours)} h on the counter${step && step.hours > 0 ? `, ${number(step.hours)} h fired` : ""}${because}${odd}${note}`,
      };
    }
    case "job":
      return { what: "Job", text: `${material(event.payload.materialId)}, ${number(event.payload.minutes, 0)} min${note}` };
    case "cut":
      return {
        what: "Cut",
        text: `${material(event.payload.materialId)} at ${number(event.payload.speedMmPerS)} mm/s, ${number(event.payload.setPercent, 0)} %: ${CUT_WORDS[event.payload.result]}${note}`,
      };
    case "ladder": {
      const effective = g.ladders.find((l) => l.event.id === event.id)?.effective;
      const read = readLadder(event.payload.rungs);
      const v50 =
        read.kind === "estimate"
          ? `drops to ${number(read.v50)} mm/s`
          : read.kind === "at-least"
            ? `all dropped up to ${number(read.speedMmPerS)} mm/s`
            : read.kind === "at-most"
              ? `none dropped from ${number(read.speedMmPerS)} mm/s`
              : read.reason;
      const order = read.kind === "estimate" && read.outOfOrder ? "; out of order, worth another one" : "";
      const tail = event.payload.baseline ? "the baseline, known good" : effective ? ratioWords(effective) : "";
      return {
        what: "Ladder",
        text: `${material(event.payload.materialId)} at ${number(event.payload.setPercent, 0)} %: ${v50}${order}; ${tail}${note}`,
      };
    }
    case "power":
      return {
        what: "Watts",
        text: `${event.payload.readings.map((r) => `${station(r.station)} ${number(r.powerW)} W`).join(", ")} at ${number(event.payload.setPercent, 0)} %${event.payload.baseline ? ", the baseline" : ""}${note}`,
      };
    case "grade":
      return {
        what: "Look",
        text: `${station(event.payload.station)}: ${GRADES[event.payload.grade]} as ${event.payload.phase === "as-found" ? "found" : "left"}${note}`,
      };
    case "service":
      return { what: "Service", text: `${serviced(g, event.payload)} ${SERVICE_WORDS[event.payload.what]}${note}` };
    case "note":
      return { what: "Note", text: event.payload.note };
  }
}

/** What was serviced: the task where a station has several, else the station. */
function serviced(g: Gathered, { station, task }: EventPayload["service"]): string {
  return (task && g.trade.procedures.get(task)?.name) ?? g.trade.layout.names[station] ?? station;
}
