/** Test support: a full record of each kind. */
import type { EventPayload } from "#core/events";
import type { EntryKind } from "./kinds";

const rung = (speedMmPerS: number, end: "dropped" | "hangs" | "stays") => ({ speedMmPerS, end });
const place = (id: string, xMm: number, yMm: number) => ({ place: id, xMm, yMm, rungs: [rung(9, "dropped"), rung(12.5, "hangs")] });

/** A full record of each kind, and how the log reads it back; one that the log gets has to be given one here. */
export const FULL: { readonly [K in EntryKind]: readonly [payload: EventPayload[K], says: RegExp] } = {
  hours: [{ counterHours: 1590.2, because: "counter-changed", note: "n" }, /1590.2 h on the counter.*new counter “n”/],
  job: [{ materialId: 1, minutes: 25, flame: "more" }, /3 mm birch ply, 25 min, more flame/],
  cut: [
    {
      materialId: 1,
      speedMmPerS: 14,
      setPercent: 60,
      result: "part-through",
      passes: 2,
      depthMm: 1.8,
      kerfMm: 0.21,
      edge: "charred",
      engraving: "faint",
    },
    /14 mm\/s, 60 %, 2 passes: part of the way, 1.8 mm deep, cut 0.21 mm wide, edge charred, engraving faint/,
  ],
  ladder: [
    { materialId: 1, setPercent: 60, rungs: [rung(12, "dropped"), rung(14, "stays")], baseline: true },
    /drops to 13 mm\/s; the baseline/,
  ],
  "bed-map": [
    {
      materialId: 1,
      setPercent: 60,
      bedWidthMm: 900,
      bedDepthMm: 600,
      places: [place("back-left", 40, 40), place("middle", 450, 300), place("front-right", 860, 560)],
    },
    /3 places: even all over the bed \(\d+ %\)/,
  ],
  engraving: [{ materialId: 1, speedMmPerS: 300, setPercent: 20, look: "crisp", edges: "wavy" }, /300 mm\/s, 20 %, crisp, its sides wavy/],
  focus: [{ offsetMm: -1.5 }, /finest with the sheet 1.5 mm lower/],
  power: [{ setPercent: 100, readings: [{ station: "lens", powerW: 52.5 }], baseline: true }, /Lens 52.5 W at 100 %, the baseline/],
  probe: [
    {
      station: "lens",
      setPercent: 100,
      massG: 100,
      heatS: 30,
      ambientC: 22,
      timeConstantS: 240,
      samples: Array.from({ length: 31 }, (_, s) => ({ s, c: Number((22 + 157.6 * (1 - Math.exp(-s / 240))).toFixed(3)) })),
      baseline: true,
    },
    /Lens at 100 %: 62 W, give or take 1.\d \(58.\d without the heat it lost\), the baseline/,
  ],
  current: [{ currentMa: 21.9, setPercent: 100, baseline: true }, /21.9 mA at 100 %, known good/],
  coolant: [
    {
      temperatureC: 21.5,
      flowLpm: 2.1,
      returnC: 24,
      filledL: 10,
      glycolPercent: 30,
      freezingC: -14,
      toppedUpL: 0.25,
      lost: "leaked",
      look: "cloudy",
    },
    /21.5 °C, 2.1 L\/min, 24 °C out of the tube, 10 L filled, 30 % glycol, freezes at −14 °C, 0.25 L topped up, leaked, looks cloudy/,
  ],
  airflow: [
    { ductSpeedMps: 5.8, where: "traverse", pressurePa: 120, prefilter: "out" },
    /5.8 m\/s in the duct, mean across it, 120 Pa suction, pre-filter out/,
  ],
  tape: [{ station: "mirror-2", travel: "far", rightMm: -1.2, upMm: 0.5, mark: "crescent" }, /M2, far: 1.2 mm left, 0.5 mm up, crescent/],
  grade: [{ station: "lens", phase: "as-found", grade: 2 }, /Lens: film as found/],
  service: [
    { station: "lens", what: "replaced", source: "the maker", serial: "7 b", focalMm: 50.8, price: 32.5, usedHours: 12 },
    /Lens replaced, 50.8 mm focal length, from the maker, no. 7 b, 32.50, 12 h used before/,
  ],
  setting: [
    { materialId: 1, purpose: "engrave", speedMmPerS: 300, setPercent: 18, passes: 2, air: "low", focusMm: -1, lineMm: 0.1 },
    /engrave 3 mm birch ply, 300 mm\/s, 18 %, 2 passes, air low, focus −1 mm below the face, 0.1 mm from line to line/,
  ],
  cost: [{ what: "spoiled", money: 9.8, minutes: 35 }, /spoiled work, 9.80, 35 min lost/],
  coupon: [
    { form: "ladder", materialId: 1, setPercent: 60, speedsMmPerS: [9, 10.5, 12], sizeMm: 15, marginMm: 5 },
    /speed ladder, 3 mm birch ply, 9 to 12 mm\/s, 60 %/,
  ],
  note: [{ note: "new batch" }, /new batch/],
};
