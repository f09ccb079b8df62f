/** The forms of one setting: square and circle, the sheet on a slope, the filled block, rings for the tape. */
import type { Units } from "#core/units";
import {
  extentMm,
  figure,
  LEGEND,
  LETTER_MM,
  LINE_MM,
  legend,
  legendCentred,
  lengthIn,
  lengthWords,
  line,
  settingLayer,
  speedIn,
  speedUnit,
  square,
} from "./draw";
import type { Coupon, CouponLayer, CouponShape, CouponTarget } from "./types";

export interface OneSetting {
  /** Of its words. */
  readonly units: Units;
  readonly sheet: string;
  readonly speedMmPerS: number;
  readonly setPercent: number;
  readonly sizeMm: number;
  readonly marginMm: number;
}

const settingWords = ({ units, speedMmPerS, setPercent }: OneSetting) =>
  `${speedIn(units, speedMmPerS)} ${speedUnit(units)} ${figure(setPercent)} %`;

/** One square and one circle at one setting: does it drop, and how wide is the cut. */
export function shapesCoupon(one: OneSetting): Coupon {
  const { sizeMm: s, marginMm: m } = one;
  const layer = settingLayer(one.units, one.speedMmPerS, one.setPercent);
  const top = m + 2 * LINE_MM + 1;
  const right = m + s + Math.max(5, s / 3);
  const shapes: CouponShape[] = [
    ...legend(one.sheet, m, m),
    ...legend(settingWords(one), m, m + LINE_MM),
    square(layer.id, m, top, s),
    { layer: layer.id, form: "circle", x: right + s / 2, y: top + s / 2, radiusMm: s / 2 },
    ...legendCentred(lengthIn(one.units, s), m + s / 2, top + s + 1.5),
  ];
  const target = { y: top, widthMm: s, heightOnSheetMm: s, speedMmPerS: one.speedMmPerS };
  return {
    title: `Square and circle, ${one.sheet}`,
    widthMm: extentMm(shapes)[0] + m,
    heightMm: top + s + LINE_MM + m,
    layers: [LEGEND, layer],
    shapes,
    targets: [
      { ...target, id: "square", label: "the square", x: m },
      { ...target, id: "circle", label: "the circle", x: right, round: true },
    ],
    places: [],
  };
}

/** Lines this far apart can be told from each other. */
const RAMP_PITCH_MM = 7;
const STEPS_MM = [0.1, 0.2, 0.25, 0.5, 1, 2, 2.5, 5, 10];

/**
 * Short lines across a sheet that lies on a slope: each is cut at another height, and the finest one shows where the focus is. Heights
 * are of the sheet over the middle line, which lies at the height that was focused on.
 */
export function rampCoupon(one: OneSetting, lengthMm: number, riseMm: number): Coupon {
  const m = one.marginMm;
  // Round heights, as near to each other as their lines may stand.
  const stepMm = STEPS_MM.find((s) => (s * lengthMm) / riseMm >= RAMP_PITCH_MM) ?? 10;
  const half = Math.max(1, Math.floor(riseMm / 2 / stepMm + 1e-9));
  const layer = settingLayer(one.units, one.speedMmPerS, one.setPercent, "engrave");
  const top = m + 2 * LINE_MM + 1;
  const tall = 18;
  const shapes: CouponShape[] = [
    ...legend(`low end - ${lengthWords(one.units, riseMm)} up on ${lengthWords(one.units, lengthMm)}`, m, m),
    ...legend(settingWords(one), m, m + LINE_MM),
  ];
  const targets = Array.from({ length: 2 * half + 1 }, (_, i): CouponTarget => {
    const heightMm = Number((stepMm * (i - half)).toFixed(2));
    const x = m + lengthMm * (0.5 + heightMm / riseMm);
    shapes.push(line(layer.id, [x, top], [x, top + tall]));
    // Every other figure, so that they do not run into each other.
    if ((i - half) % 2 === 0)
      shapes.push(...legendCentred(`${heightMm > 0 ? "+" : ""}${lengthIn(one.units, heightMm)}`, x, top + tall + 1.5));
    return {
      id: `${i}`,
      label: `${heightMm > 0 ? "+" : ""}${lengthWords(one.units, heightMm)}`,
      heightMm,
      x: x - 2,
      y: top,
      widthMm: 4,
      heightOnSheetMm: tall,
    };
  });
  return {
    title: "Focus ramp",
    widthMm: Math.max(lengthMm + 2 * m, extentMm(shapes)[0] + m),
    heightMm: top + tall + LINE_MM + m,
    layers: [LEGEND, layer],
    shapes,
    targets,
    places: [],
  };
}

/** A square filled with lines, to and fro: its two sides show whether they end where they should. */
export function blockCoupon(one: OneSetting, lineMm: number): Coupon {
  const { sizeMm: s, marginMm: m } = one;
  const layer = settingLayer(one.units, one.speedMmPerS, one.setPercent, "engrave");
  const top = m + 2 * LINE_MM + 1;
  const lines = Math.floor(s / lineMm + 1e-9);
  const shapes: CouponShape[] = [
    ...legend(one.sheet, m, m),
    ...legend(`${settingWords(one)} - ${lengthWords(one.units, lineMm)}`, m, m + LINE_MM),
    ...Array.from({ length: lines + 1 }, (_, i) => {
      const y = top + i * lineMm;
      const [from, to] = i % 2 === 0 ? [m, m + s] : [m + s, m];
      return line(layer.id, [from, y], [to, y]);
    }),
  ];
  return {
    title: `Block, ${one.sheet}`,
    widthMm: extentMm(shapes)[0] + m,
    heightMm: top + s + m,
    layers: [LEGEND, layer],
    shapes,
    targets: [{ id: "block", label: "the block", x: m, y: top, widthMm: s, heightOnSheetMm: s }],
    places: [],
  };
}

/** Rings around the middle of a mirror's or nozzle's opening, to print and lay over its frame under the tape: six to a sheet. */
export function ringsCoupon(units: Units, apertureMm: number, marginMm: number): Coupon {
  const rings: CouponLayer = { id: "rings", name: `Rings, every ${lengthWords(units, 2)}`, use: "print" };
  const edge: CouponLayer = { id: "edge", name: "Edge of the opening", use: "print" };
  const outer = apertureMm / 2 + 5;
  const cell = 2 * outer + 6;
  const shapes: CouponShape[] = [];
  for (let i = 0; i < 6; i++) {
    const x = marginMm + outer + (i % 3) * cell;
    const y = marginMm + outer + Math.floor(i / 3) * (cell + LINE_MM);
    for (let r = 2; r < apertureMm / 2 - 0.5; r += 2) shapes.push({ layer: rings.id, form: "circle", x, y, radiusMm: r });
    shapes.push(
      line(rings.id, [x - outer, y], [x + outer, y]),
      line(rings.id, [x, y - outer], [x, y + outer]),
      { layer: edge.id, form: "circle", x, y, radiusMm: apertureMm / 2 },
      ...legendCentred(lengthWords(units, apertureMm), x, y + outer + 1),
    );
  }
  const [right, low] = extentMm(shapes);
  return {
    title: `Aim rings, ${lengthWords(units, apertureMm)}`,
    widthMm: right + marginMm,
    heightMm: Math.max(low, marginMm + LETTER_MM) + marginMm,
    layers: [{ ...LEGEND, name: "Legend", use: "print" }, rings, edge],
    shapes,
    targets: [],
    places: [],
  };
}
