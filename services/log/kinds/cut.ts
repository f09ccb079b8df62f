import { number } from "../../words";
import { CUT_WORDS } from "../words";
import { type EventKindDefinition, idOf, photosOf, photoTyped } from "./definition";
import { materialOf } from "./names";

export const cut: EventKindDefinition<"cut"> = {
  name: "Cut",
  says: ({ payload }, g) => {
    const passes = (payload.passes ?? 1) > 1 ? `, ${payload.passes} passes` : "";
    const looks = [payload.edge && `edge ${payload.edge}`, payload.engraving && `engraving ${payload.engraving}`].filter(Boolean);
    return `${materialOf(g, payload.materialId)} at ${number(payload.speedMmPerS)} mm/s, ${number(payload.setPercent, 0)} %${passes}: ${[CUT_WORDS[payload.result], ...looks].join(", ")}`;
  },
  entry: {
    read: (reader) => ({
      materialId: idOf(reader.text("materialId")),
      speedMmPerS: reader.number("speedMmPerS", "mm/s", "14"),
      setPercent: reader.number("setPercent", "%", "60"),
      result: reader.text("result"),
      passes: reader.optionalNumber("passes", "", "1"),
      edge: reader.text("edge"),
      engraving: reader.text("engraving"),
      photos: photosOf(reader),
    }),
    typed: ({ photos }) => photoTyped(photos),
  },
};
