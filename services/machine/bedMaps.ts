/** Bed maps of a log, made ready for the core: places as shares of the bed. */
import type { MapLadder } from "#core/cuts";
import type { EventPayload } from "#core/events";

export const bedLadders = ({ places, bedWidthMm, bedDepthMm }: EventPayload["bed-map"]): MapLadder[] =>
  places.map(({ xMm, yMm, rungs }) => ({ across: xMm / bedWidthMm, down: yMm / bedDepthMm, rungs }));
