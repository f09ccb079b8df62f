/** Marks on tape that were told to the log before a sitting is begun, as far as they still hold: they need not be made again. */
import { type AimEntry, type AimPath, isOfHead, type Spot, spotId, spotsOf } from "#core/aim";
import { eventsBetween } from "#core/events";
import { DAY_MS } from "#core/time";
import type { Gathered } from "../machine/gathered";
import { sinceDay } from "../words";
import { MOVES } from "./sitting";
import { placeWords, spotWords } from "./words";

type Mark = Extract<AimEntry, { kind: "mark" }>;

export interface TapeMark {
  readonly entry: Mark;
  readonly words: string;
}

/** A mark older than this is made again, though nothing is known to have moved. */
const HOLDS_DAYS = 7;

/** Twice as far out as a part reaches, mm: a beam cannot have come from further, unless its mark was read wrongly. */
export const reachMm = (path: AimPath, station: string): number =>
  Math.max(path.stations.find((s) => s.id === station)?.apertureMm ?? 20, 8);

/** The newest mark at each spot since anything was turned, taken out or changed: `turnedMs` is when screws were turned last. */
export function tapeMarks(g: Gathered, path: AimPath, turnedMs = 0): TapeMark[] {
  const movedMs = (isPart: (id: string) => boolean) =>
    g.log.kinds.service.findLast((e) => MOVES.includes(e.payload.what) && isPart(e.payload.station))?.atMs ?? 0;
  const fromMs = Math.max(
    g.nowMs - HOLDS_DAYS * DAY_MS,
    turnedMs,
    movedMs((id) => path.elements.some((e) => e.id === id)),
  );
  const headMs = movedMs((id) => isOfHead(path, id));
  const newest = new Map<string, TapeMark>();
  for (const event of eventsBetween(g.log, ["tape"], fromMs, g.nowMs)) {
    if (event.kind !== "tape" || event.atMs < fromMs) continue;
    const { station, travel, rightMm, upMm } = event.payload;
    if (station === "nozzle" && event.atMs < headMs) continue;
    const mark = { right: rightMm, up: upMm };
    const spot = spotOf(path, station, travel);
    if (spot === undefined || Math.hypot(rightMm, upMm) > reachMm(path, station)) continue;
    const words = `${spotWords(g.trade, path, spot)}: ${placeWords(mark)}, ${sinceDay(event.atMs, g.nowMs)}`;
    newest.set(spotId(spot), { entry: { kind: "mark", spot: { at: spot.at, far: [...spot.far] }, mark }, words });
  }
  return [...newest.values()];
}

/** Where a mark was made: with everything near, or everything far. Undefined where that was not said and makes a difference. */
function spotOf(path: AimPath, station: string, travel: "near" | "far" | undefined): Spot | undefined {
  const spots = spotsOf(path).filter((s) => s.at === station);
  if (travel === undefined) return spots.length === 1 ? spots[0] : undefined;
  const count = (s: Spot) => s.far.length;
  return [...spots].sort((a, b) => (travel === "near" ? count(a) - count(b) : count(b) - count(a)))[0];
}
