import type { EventPayload } from "#core/events";
import { number } from "../../words";
import { type EventKindDefinition, idOf } from "./definition";
import { materialOf } from "./names";

const FLAME_WORDS: { readonly [F in NonNullable<EventPayload["job"]["flame"]>]: string } = { usual: "flame as usual", more: "more flame" };

export const job: EventKindDefinition<"job"> = {
  name: "Job",
  says: ({ payload }, g) =>
    [`${materialOf(g, payload.materialId)}, ${number(payload.minutes, 0)} min`, payload.flame && FLAME_WORDS[payload.flame]]
      .filter(Boolean)
      .join(", "),
  entry: {
    read: (reader) => ({
      materialId: idOf(reader.text("materialId")),
      minutes: reader.number("minutes", "min", "25"),
      flame: reader.text("flame"),
    }),
  },
};
