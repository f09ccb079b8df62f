import DxfParser, { type ICircleEntity, type IEntity, type IPolylineEntity } from "dxf-parser";
import fc from "fast-check";
import { XMLParser } from "fast-xml-parser";
import { describe, expect, it } from "vitest";
import { COUPON_FORMS, type Coupon, type CouponSpec, couponDxf, couponOf, couponSvg, isRefusal } from ".";

const SHEET = "3 mm birch ply";
const drawn = (spec: CouponSpec): Coupon => {
  const coupon = couponOf(spec, SHEET);
  if (isRefusal(coupon)) throw new Error(`${coupon.field}: ${coupon.reason}`);
  return coupon;
};
const base = { setPercent: 60, speedsMmPerS: [9, 10, 11, 12, 13, 14, 15, 16], bedWidthMm: 900, bedDepthMm: 600 };

/** A line or circle without its layer's order: what a file holds, whatever wrote it. */
interface Read {
  readonly layer: string;
  readonly points: readonly (readonly [number, number])[];
  readonly radius?: number;
  readonly closed?: boolean;
}
const drawnShapes = (coupon: Coupon): Read[] =>
  coupon.layers.flatMap((l) =>
    coupon.shapes
      .filter((s) => s.layer === l.id)
      .map((s) =>
        s.form === "circle"
          ? { layer: s.layer, points: [[s.x, s.y]] as const, radius: s.radiusMm }
          : { layer: s.layer, points: s.points, closed: s.closed === true },
      ),
  );

function readSvg(text: string): { width: string; height: string; shapes: Read[] } {
  const list = (x: unknown) => (x === undefined ? [] : Array.isArray(x) ? x : [x]) as Record<string, string>[];
  const { svg } = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: "" }).parse(text);
  const shapes = list(svg.g).flatMap((g) => [
    ...list(g.path).map((p): Read => {
      const numbers = [...(p.d ?? "").matchAll(/-?[\d.]+/g)].map(Number);
      return {
        layer: g.id as string,
        closed: p.d?.endsWith("Z") ?? false,
        points: numbers.flatMap((x, i) => (i % 2 === 0 ? [[x, numbers[i + 1] as number] as const] : [])),
      };
    }),
    ...list(g.circle).map((c): Read => ({ layer: g.id as string, points: [[Number(c.cx), Number(c.cy)]], radius: Number(c.r) })),
  ]);
  return { width: svg.width, height: svg.height, shapes };
}

function readDxf(text: string, heightMm: number): Read[] {
  const dxf = new DxfParser().parseSync(text);
  return (dxf?.entities ?? []).map((e: IEntity): Read => {
    const up = ({ x, y }: { x: number; y: number }) => [x, heightMm - y] as const;
    const layer = e.layer.toLowerCase();
    if (e.type === "CIRCLE") return { layer, points: [up((e as ICircleEntity).center)], radius: (e as ICircleEntity).radius };
    const line = e as IPolylineEntity;
    return { layer, closed: line.shape === true, points: line.vertices.map(up) };
  });
}

type Lab = readonly [number, number, number];
/** sRGB to CIE L*a*b*, D65 (IEC 61966-2-1, CIE 15). */
function labOf(hex: string): Lab {
  const [r, g, b] = [0, 2, 4].map((i) => {
    const v = Number.parseInt(hex.slice(i, i + 2), 16) / 255;
    return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  const f = (t: number) => (t > 0.008856 ? Math.cbrt(t) : 7.787 * t + 16 / 116);
  const x = f((0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.9505);
  const y = f(0.2126 * r + 0.7152 * g + 0.0722 * b);
  const z = f((0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.089);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}
const apart = (a: Lab, b: Lab) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

const key = (s: Read) =>
  JSON.stringify([s.layer, s.points.map((p) => p.map((v) => Number(v.toFixed(2)) + 0)), s.radius?.toFixed(2), s.closed ?? false]);

describe("a test file", () => {
  it.each(COUPON_FORMS)("%s reads back from SVG and DXF as it was drawn, in millimetres, the same to the last byte each time", (form) => {
    const coupon = drawn({ form, ...base, sizeMm: form === "bed-map" ? 10 : 15 });
    const svg = readSvg(couponSvg(coupon));
    expect(svg.width).toBe(`${Number(coupon.widthMm.toFixed(3))}mm`);
    expect(svg.height).toBe(`${Number(coupon.heightMm.toFixed(3))}mm`);
    expect(svg.shapes.map(key).sort()).toEqual(drawnShapes(coupon).map(key).sort());
    expect(readDxf(couponDxf(coupon), coupon.heightMm).map(key).sort()).toEqual(drawnShapes(coupon).map(key).sort());
    expect(couponSvg(drawn({ form, ...base, sizeMm: form === "bed-map" ? 10 : 15 }))).toBe(couponSvg(coupon));
    expect(couponDxf(coupon)).toMatch(/^ *0\r\nSECTION[\s\S]*AC1009[\s\S]*EOF\r\n$/);
  });

  it("keeps every rung a layer and a colour of its own, in speed's order, after its legend", () => {
    const coupon = drawn({ form: "ladder", ...base });
    expect(coupon.layers.map((l) => l.speedMmPerS)).toEqual([undefined, ...base.speedsMmPerS]);
    const colours = [...couponSvg(coupon).matchAll(/stroke="(#\w+)"/g)].map((m) => m[1]);
    expect(new Set(colours).size).toBe(coupon.layers.length);
    const wheel = [...couponDxf(coupon).matchAll(/\r\n62\r\n(\d+)/g)].map((m) => m[1]);
    expect(new Set(wheel).size).toBe(coupon.layers.length);
  });

  it("gives neighbours and the legend colours that are told apart, for any number of rungs, and an id for every speed", () => {
    for (let count = 2; count <= 24; count++) {
      const speedsMmPerS = Array.from({ length: count }, (_, i) => 10 + i / 400);
      const coupon = drawn({ form: "ladder", ...base, speedsMmPerS });
      expect(new Set(coupon.layers.map((l) => l.id)).size).toBe(count + 1);
      const labs = [...couponSvg(coupon).matchAll(/stroke="#(\w+)"/g)].map((m) => labOf(m[1] as string));
      const [legend] = labs as [Lab];
      for (const [i, lab] of labs.entries()) {
        if (i === 0) continue;
        expect(apart(lab, legend)).toBeGreaterThan(20);
        for (const next of labs.slice(i + 1, i + 3)) expect(apart(lab, next)).toBeGreaterThan(20);
      }
    }
    const units = couponDxf(drawn({ form: "ladder", ...base }));
    expect(units).toMatch(/\$INSUNITS\r\n *70\r\n4\r\n/);
    expect(units).toContain("Units: millimetres");
  });

  it("never lets two squares touch or leave the sheet, whatever is asked for", () => {
    const speeds = fc.uniqueArray(fc.integer({ min: 1, max: 4000 }), { minLength: 2, maxLength: 24 }).map((v) => v.map((x) => x / 4));
    fc.assert(
      fc.property(
        fc.constantFrom("ladder" as const, "bed-map" as const),
        speeds,
        fc.integer({ min: 3, max: 60 }),
        fc.integer({ min: 0, max: 60 }),
        (form, speedsMmPerS, sizeMm, marginMm) => {
          const coupon = couponOf({ form, ...base, speedsMmPerS, sizeMm, marginMm }, SHEET);
          if (isRefusal(coupon)) {
            expect([form, coupon.field]).toEqual(["bed-map", "sizeMm"]);
            return;
          }
          const { targets } = coupon;
          expect(targets).toHaveLength(speedsMmPerS.length * (form === "ladder" ? 1 : 5));
          for (const [i, a] of targets.entries()) {
            expect(a.x).toBeGreaterThanOrEqual(marginMm - 1e-9);
            expect(a.x + a.widthMm).toBeLessThanOrEqual(coupon.widthMm - marginMm + 1e-6);
            expect(a.y + a.heightOnSheetMm).toBeLessThanOrEqual(coupon.heightMm + 1e-6);
            for (const b of targets.slice(i + 1)) {
              const apart = Math.max(
                b.x - a.x - a.widthMm,
                a.x - b.x - b.widthMm,
                b.y - a.y - a.heightOnSheetMm,
                a.y - b.y - b.heightOnSheetMm,
              );
              expect(apart).toBeGreaterThan(3.9);
            }
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it("says the height of every line of a ramp, nought in the middle, and fills a block to both its sides", () => {
    const ramp = drawn({ form: "ramp", ...base, lengthMm: 120, riseMm: 12 });
    const heights = ramp.targets.map((t) => t.heightMm as number);
    expect(heights[0]).toBe(-6);
    expect(heights.at(-1)).toBe(6);
    expect(heights[(heights.length - 1) / 2]).toBe(0);
    const block = drawn({ form: "block", ...base, sizeMm: 20, lineMm: 0.25 });
    const lines = block.shapes.flatMap((s) => (s.form === "line" && s.layer !== "legend" ? [s.points.map(([x]) => x)] : []));
    expect(lines).toHaveLength(81);
    for (const xs of lines) expect([...xs].sort((a, b) => a - b)).toEqual([5, 25]);
  });

  it("names the field that keeps it from being drawn", () => {
    expect(couponOf({ form: "ladder", setPercent: 60 }, SHEET)).toMatchObject({ field: "speedsMmPerS" });
    expect(couponOf({ form: "ladder", setPercent: 60, speedsMmPerS: [10, 10] }, SHEET)).toMatchObject({ field: "speedsMmPerS" });
    expect(couponOf({ form: "bed-map", ...base, bedWidthMm: 120 }, SHEET)).toMatchObject({
      field: "sizeMm",
      reason: expect.stringContaining("do not fit this bed"),
    });
  });
});
