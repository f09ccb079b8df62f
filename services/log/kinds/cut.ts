import { withUnit } from "../../units";
import { number } from "../../words";
import { CUT_WORDS } from "../words";
import { type EventKindDefinition, idOf, photosOf, photoTyped } from "./definition";
import { materialOf } from "./names";

export const cut: EventKindDefinition<"cut"> = {
  name: "Cut",
  says: ({ payload }, g) => {
    const passes = (payload.passes ?? 1) > 1 ? `, ${payload.passes} passes` : "";
    const deep = payload.depthMm === undefined ? "" : `${withUnit(payload.depthMm, "mm")} deep`;
    const wide = payload.kerfMm === undefined ? "" : `cut ${withUnit(payload.kerfMm, "mm", 2)} wide`;
    const looks = [deep, wide, payload.edge && `edge ${payload.edge}`, payload.engraving && `engraving ${payload.engraving}`].filter(
      Boolean,
    );
    return `${materialOf(g, payload.materialId)} at ${withUnit(payload.speedMmPerS, "mm/s")}, ${number(payload.setPercent, 0)} %${passes}: ${[CUT_WORDS[payload.result], ...looks].join(", ")}`;
  },
  entry: {
    read: (reader) => ({
      materialId: idOf(reader.text("materialId")),
      speedMmPerS: reader.number("speedMmPerS", "mm/s", "14"),
      setPercent: reader.number("setPercent", "%", "60"),
      result: reader.text("result"),
      passes: reader.optionalNumber("passes", "", "1"),
      depthMm: reader.optionalNumber("depthMm", "mm", "1.5"),
      kerfMm: reader.optionalNumber("kerfMm", "mm", "0.2"),
      edge: reader.text("edge"),
      engraving: reader.text("engraving"),
      photos: photosOf(reader),
    }),
    typed: ({ photos }) => photoTyped(photos),
  },
};
