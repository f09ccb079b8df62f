import type { EventPayload } from "#core/events";
import type { EventKindDefinition } from "./definition";
import { stationOf } from "./names";

const SERVICE_WORDS: { readonly [W in EventPayload["service"]["what"]]: string } = {
  cleaned: "cleaned",
  replaced: "replaced",
  "seat-opened": "taken out of its seat",
  aimed: "aimed",
  adjusted: "done",
  checked: "looked at",
};

export const service: EventKindDefinition<"service"> = {
  name: "Service",
  // What was serviced: the task where a station has several, else the station.
  says: ({ payload: { station, task, what } }, g) =>
    `${(task && g.trade.procedures.get(task)?.name) ?? stationOf(g, station)} ${SERVICE_WORDS[what]}`,
};
