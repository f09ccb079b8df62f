import { withUnit } from "../../units";
import { number } from "../../words";
import { PURPOSE_WORDS } from "../words";
import { type EventKindDefinition, idOf } from "./definition";
import { materialOf } from "./names";

export const setting: EventKindDefinition<"setting"> = {
  name: "Setting",
  says: ({ payload: p }, g) =>
    [
      `${PURPOSE_WORDS[p.purpose]} ${materialOf(g, p.materialId)}`,
      withUnit(p.speedMmPerS, "mm/s"),
      `${number(p.setPercent, 0)} %`,
      (p.passes ?? 1) > 1 ? `${p.passes} passes` : "",
      p.air ? `air ${p.air}` : "",
      p.focusMm === undefined ? "" : `focus ${withUnit(p.focusMm, "mm")} below the face`,
      p.lineMm === undefined ? "" : `${withUnit(p.lineMm, "mm", 2)} from line to line`,
    ]
      .filter(Boolean)
      .join(", "),
  entry: {
    read: (reader) => ({
      materialId: idOf(reader.text("materialId")),
      purpose: reader.text("purpose"),
      speedMmPerS: reader.number("speedMmPerS", "mm/s", "14"),
      setPercent: reader.number("setPercent", "%", "60"),
      passes: reader.optionalNumber("passes", "", "1"),
      air: reader.text("air"),
      focusMm: reader.optionalNumber("focusMm", "mm", "0"),
      lineMm: reader.optionalNumber("lineMm", "mm", "0.1"),
    }),
    errorAt: (path) => (path === "purpose" ? ["purpose", "Say what it is for."] : undefined),
  },
};
