import { type EventKindDefinition, photosOf, photoTyped } from "./definition";

export const note: EventKindDefinition<"note"> = {
  name: "Note",
  says: ({ payload }) => payload.note,
  entry: { read: (reader) => ({ photos: photosOf(reader) }), typed: ({ photos }) => photoTyped(photos) },
};
