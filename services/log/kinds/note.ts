import type { EventKindDefinition } from "./definition";

export const note: EventKindDefinition<"note"> = {
  name: "Note",
  says: ({ payload }) => payload.note,
  entry: { read: () => ({}) },
};
