import { number } from "../../words";
import { CUT_WORDS } from "../words";
import { type EventKindDefinition, idOf } from "./definition";
import { materialOf } from "./names";

export const cut: EventKindDefinition<"cut"> = {
  name: "Cut",
  says: ({ payload }, g) =>
    `${materialOf(g, payload.materialId)} at ${number(payload.speedMmPerS)} mm/s, ${number(payload.setPercent, 0)} %: ${CUT_WORDS[payload.result]}`,
  entry: {
    read: (reader) => ({
      materialId: idOf(reader.text("materialId")),
      speedMmPerS: reader.number("speedMmPerS", "mm/s", "14"),
      setPercent: reader.number("setPercent", "%", "60"),
      result: reader.text("result"),
    }),
  },
};
