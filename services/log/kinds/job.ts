import { number } from "../../words";
import { type EventKindDefinition, idOf } from "./definition";
import { materialOf } from "./names";

export const job: EventKindDefinition<"job"> = {
  name: "Job",
  says: ({ payload }, g) => `${materialOf(g, payload.materialId)}, ${number(payload.minutes, 0)} min`,
  entry: { read: (reader) => ({ materialId: idOf(reader.text("materialId")), minutes: reader.number("minutes", "min", "25") }) },
};
