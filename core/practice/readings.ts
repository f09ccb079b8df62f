/**
 * What else an owner reads and notes beside jobs, rounds and ladders: meters, other sheets, parts, costs. Drawn from a stream of its own, so
 * that the machine's story is the same with and without it.
 */
import type { EventKind, EventPayload } from "#core/events";
import { type Random, seededRandom } from "#core/random";
import { HOUR_MS } from "#core/time";

/** What an owner has meters for, and what is bought. */
export interface SideReadings {
  readonly seed: number;
  readonly currentMa?: number;
  readonly coolant?: { readonly temperatureC: number; readonly flowLpm: number };
  readonly ductSpeedMps?: number;
  /** Other sheets that are laddered now and then: v50 (mm/s) on a perfect machine at a power. */
  readonly sheets: readonly { readonly materialId: number; readonly v50: number; readonly setPercent: number }[];
  readonly bed?: { readonly widthMm: number; readonly depthMm: number };
  /** Months (from the start) at which a new lens goes in. */
  readonly lenses: readonly { readonly day: number; readonly source: string; readonly price: number; readonly focalMm: number }[];
  readonly costs: readonly { readonly everyDays: number; readonly cost: EventPayload["cost"] }[];
  readonly settings: readonly EventPayload["setting"][];
}

export interface SideDay {
  readonly day: number;
  readonly dayMs: number;
  /** True effective power of the morning, 0..1. */
  readonly effective: number;
  /** Days since the duct was last cleaned. */
  readonly ductDays: number;
}

type Add = <K extends EventKind>(kind: K, atMs: number, payload: EventPayload[K]) => void;

/** Adds what is noted on one day after another; call it with rising days. */
export function sideReader(side: SideReadings, add: Add): (today: SideDay) => void {
  const random = seededRandom(side.seed);
  const tenth = (value: number) => Math.round(value * 10) / 10;
  return (today) => {
    const { day, dayMs } = today;
    const first = day === 0;
    if (side.currentMa !== undefined && day % 31 === 0)
      add("current", dayMs + 0.8 * HOUR_MS, {
        currentMa: tenth(side.currentMa * (1 - 0.00005 * day) + 0.2 * random.normal()),
        setPercent: 100,
        ...(first ? { baseline: true } : {}),
      });
    if (side.coolant && day % 6 === 0) {
      // Warmer half a year on; told by the story's own days, not by the calendar's.
      const season = Math.sin((2 * Math.PI * (day - 158)) / 365.25);
      add("coolant", dayMs + 4 * HOUR_MS, {
        temperatureC: tenth(side.coolant.temperatureC + 1.6 * season + 0.5 * random.normal()),
        ...(day % 30 === 0 ? { flowLpm: tenth(side.coolant.flowLpm + 0.06 * random.normal()) } : {}),
        ...(day % 90 === 60 ? { toppedUpL: 0.5 } : {}),
        ...(first ? { baseline: true } : {}),
      });
    }
    if (side.ductSpeedMps !== undefined && day % 28 === 0)
      add("airflow", dayMs + 0.9 * HOUR_MS, {
        ductSpeedMps: tenth(side.ductSpeedMps * Math.exp(-0.0016 * today.ductDays) + 0.12 * random.normal()),
        ...(first ? { baseline: true } : {}),
      });
    for (const [i, sheet] of side.sheets.entries())
      if (day % 42 === 9 * i)
        add("ladder", dayMs + (0.55 + 0.1 * i) * HOUR_MS, sheetLadder(random, sheet, today.effective, first || day < 42));
    if (side.bed && day === 240) add("bed-map", dayMs + 0.7 * HOUR_MS, evenMap(random, side, side.bed, today.effective));
    for (const { everyDays, cost } of side.costs) if (day % everyDays === everyDays - 1) add("cost", dayMs + 10 * HOUR_MS, cost);
    if (day === 12) for (const setting of side.settings) add("setting", dayMs + 6 * HOUR_MS, setting);
  };
}

/** Eight squares around where the sheet should drop today. */
function rungsOf(random: Random, v50: number, count: number) {
  const step = v50 >= 40 ? 3 : v50 >= 14 ? 1 : 0.5;
  const first = Math.round(v50 / step) * step - Math.floor(count / 2) * step;
  const sheet = v50 * Math.exp(0.025 * random.normal());
  return Array.from({ length: count }, (_, i) => {
    const speedMmPerS = first + i * step;
    const margin = Math.log(sheet / speedMmPerS) + 0.03 * random.normal();
    return { speedMmPerS, end: margin > 0.02 ? ("dropped" as const) : margin > -0.02 ? ("hangs" as const) : ("stays" as const) };
  });
}

function sheetLadder(random: Random, sheet: SideReadings["sheets"][number], effective: number, baseline: boolean): EventPayload["ladder"] {
  return {
    materialId: sheet.materialId,
    setPercent: sheet.setPercent,
    rungs: rungsOf(random, sheet.v50 * effective, 8),
    ...(baseline ? { baseline: true } : {}),
  };
}

function evenMap(
  random: Random,
  side: SideReadings,
  bed: { widthMm: number; depthMm: number },
  effective: number,
): EventPayload["bed-map"] {
  const [sheet] = side.sheets;
  const at = [
    ["back-left", 0.06, 0.07],
    ["back-right", 0.94, 0.07],
    ["middle", 0.5, 0.5],
    ["front-left", 0.06, 0.93],
    ["front-right", 0.94, 0.93],
  ] as const;
  return {
    materialId: sheet?.materialId ?? 1,
    setPercent: sheet?.setPercent ?? 60,
    bedWidthMm: bed.widthMm,
    bedDepthMm: bed.depthMm,
    places: at.map(([place, x, y]) => ({
      place,
      xMm: Math.round(x * bed.widthMm),
      yMm: Math.round(y * bed.depthMm),
      // The longest way loses a little, as on any gantry.
      rungs: rungsOf(random, (sheet?.v50 ?? 14) * effective * (1 - 0.02 * (x + y)), 6),
    })),
  };
}
