import { BED_PLACES } from "#core/coupon";
import { readBedMap } from "#core/cuts";
import { bedLadders } from "../../machine/bedMaps";
import { number } from "../../words";
import { PATTERN_WORDS } from "../words";
import { type EventKindDefinition, idOf } from "./definition";
import { readRungs } from "./ladder";
import { materialOf } from "./names";

export const bedMap: EventKindDefinition<"bed-map"> = {
  name: "Bed map",
  says: ({ payload }, g) => {
    const read = readBedMap(bedLadders(payload), g.trade.layout.fittings.beamCorner);
    const tail = read.kind === "map" ? `${PATTERN_WORDS[read.leading]} (${Math.round(100 * read.weights[read.leading])} %)` : read.reason;
    return `${materialOf(g, payload.materialId)} at ${number(payload.setPercent, 0)} %, ${payload.places.length} places: ${tail}`;
  },
  entry: {
    read: (reader) => ({
      materialId: idOf(reader.text("materialId")),
      setPercent: reader.number("setPercent", "%", "60"),
      bedWidthMm: reader.number("bedWidthMm", "mm", "900"),
      bedDepthMm: reader.number("bedDepthMm", "mm", "600"),
      places: BED_PLACES.flatMap(({ id }) => {
        const rungs = readRungs(reader, `${id}-`);
        if (rungs.length === 0) return [];
        return [{ place: id, xMm: reader.number(`x-${id}`, "mm", "450"), yMm: reader.number(`y-${id}`, "mm", "300"), rungs }];
      }),
    }),
    typed: ({ places }) =>
      Object.fromEntries(
        places.flatMap((p) => [
          [`x-${p.place}`, number(p.xMm, 2)],
          [`y-${p.place}`, number(p.yMm, 2)],
          ...p.rungs.flatMap((rung, i) => [
            [`speed-${p.place}-${i}`, number(rung.speedMmPerS, 2)],
            [`end-${p.place}-${i}`, rung.end],
          ]),
        ]),
      ),
    errorAt: (path, message) =>
      path === "places"
        ? ["places", "Three places at least: say at each how its squares ended."]
        : path.startsWith("places.")
          ? ["places", message]
          : undefined,
    problem: (payload) => {
      const read = readBedMap(bedLadders(payload));
      return read.kind === "none" ? { errors: { places: `${read.reason.charAt(0).toUpperCase()}${read.reason.slice(1)}.` } } : undefined;
    },
  },
};
