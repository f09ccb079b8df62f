/** What is seen of the beam and of its work: an engraved block, a ramp's finest line, a mark on tape. */

import { withUnit } from "../../units";
import { number } from "../../words";
import { type EventKindDefinition, idOf, photosOf, photoTyped } from "./definition";
import { materialOf, stationOf } from "./names";

export const engraving: EventKindDefinition<"engraving"> = {
  name: "Engraving",
  says: ({ payload: p }, g) =>
    [
      p.materialId === undefined ? "" : materialOf(g, p.materialId),
      p.speedMmPerS === undefined ? "" : withUnit(p.speedMmPerS, "mm/s"),
      p.setPercent === undefined ? "" : `${number(p.setPercent, 0)} %`,
      p.look,
      p.edges === undefined ? "" : `its sides ${p.edges}`,
    ]
      .filter(Boolean)
      .join(", "),
  entry: {
    read: (reader) => ({
      materialId: idOf(reader.text("materialId")),
      speedMmPerS: reader.optionalNumber("speedMmPerS", "mm/s", "300"),
      setPercent: reader.optionalNumber("setPercent", "%", "20"),
      look: reader.text("look"),
      edges: reader.text("edges"),
      photos: photosOf(reader),
    }),
    typed: ({ photos }) => photoTyped(photos),
    errorAt: (path) => (path === "look" ? ["look", "Say how its face looks."] : undefined),
  },
};

export const focus: EventKindDefinition<"focus"> = {
  name: "Focus ramp",
  says: ({ payload: { offsetMm } }) => focusWords(offsetMm),
  figures: ({ payload: { offsetMm } }) => [{ name: "finest line over the gauge's height", value: offsetMm, unit: "mm" }],
  entry: { read: (reader) => ({ offsetMm: reader.number("offsetMm", "mm", "1.5") }) },
};

/** Where the finest line was, in words. */
export function focusWords(offsetMm: number): string {
  if (Math.abs(offsetMm) < 0.05) return "finest at the gauge's own height";
  return `finest with the sheet ${withUnit(Math.abs(offsetMm), "mm")} ${offsetMm > 0 ? "higher" : "lower"} than the gauge sets it`;
}

const side = (mm: number, plus: string, minus: string) => `${withUnit(Math.abs(mm), "mm")} ${mm < 0 ? minus : plus}`;

export const tape: EventKindDefinition<"tape"> = {
  name: "Tape mark",
  says: ({ payload: p }, g) =>
    `${stationOf(g, p.station)}${p.travel ? `, ${p.travel}` : ""}: ${side(p.rightMm, "right", "left")}, ${side(p.upMm, "up", "down")}${p.mark && p.mark !== "round" ? `, ${p.mark}` : ""}`,
  entry: {
    read: (reader) => ({
      station: reader.text("station"),
      travel: reader.text("travel"),
      rightMm: reader.number("rightMm", "mm", "1.5"),
      upMm: reader.number("upMm", "mm", "-0.5"),
      mark: reader.text("mark"),
      photos: photosOf(reader),
    }),
    typed: ({ photos }) => photoTyped(photos),
    problem: (payload, g) =>
      g.trade.layout.stations.some((s) => s.id === payload.station) ? undefined : { errors: { station: "Choose a part of the path." } },
  },
};
