import type { Grade } from "#core/beam";
import { gradeWordFor } from "#core/rounds";
import { type EventKindDefinition, idOf } from "./definition";
import { stationOf } from "./names";

export const grade: EventKindDefinition<"grade"> = {
  name: "Look",
  says: ({ payload }, g) =>
    `${stationOf(g, payload.station)}: ${payload.seen ?? gradeWordFor(payload.station, payload.grade as Grade)} as ${payload.phase === "as-found" ? "found" : "left"}`,
  entry: { read: (reader) => ({ station: reader.text("station"), phase: "as-found", grade: idOf(reader.text("grade")) }) },
};
