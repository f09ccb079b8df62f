import { describe, expect, it } from "vitest";
import { type Layout, periscope } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { type Condition, type LayoutSpec, traceSpec } from "#core/machine";
import { type CheckTemplate, expandModel, type FaultTemplate, type RepairTemplate } from "#core/trace";

const station = (id: string, role: LayoutSpec["stations"][number]["role"], travelMm = 0) => ({
  id,
  role,
  apertureMm: 20,
  distanceMm: 100,
  travelMm,
});
const layout: LayoutSpec = {
  id: "small",
  stations: [
    station("tube", "tube"),
    station("window", "window"),
    station("mirror-1", "mirror", 500),
    station("mirror-2", "mirror"),
    station("lens", "lens"),
  ],
  systems: ["air"],
  movingMirrors: [2],
  intervalPlyHours: { lens: 8, "mirror-2": 16 },
  beamRadiusMm: 3.5,
};
const bedMap = [0, 1, 2, 3].map((i) => ({ kind: "outcomes", light: [1 - i / 4, i / 4], heavy: [0, 1] }) as const);
const faults: FaultTemplate[] = [
  {
    id: "aim@k",
    station: "aim@k",
    lossAt: "next",
    movesBeam: true,
    baseRate: { head: 0.01, back: 0.04, tube: 0.02 },
    reason: "r",
    usage: "seat",
    symptoms: { power: 1 },
    repair: "aim@k",
    bedMapByTravel: bedMap as never,
    effects: {
      "tape@after": { kind: "outcomes", light: [0.5, 0.5], heavy: [0, 1] },
      "travel@next": { kind: "shift", mean: [1, 2], sd: [1, 1] },
    },
  },
  {
    id: "dirt@k",
    station: "mirror@k",
    lossAt: "mirror@k",
    baseRate: { head: 0.2, back: 0.1 },
    reason: "r",
    usage: "dose",
    symptoms: { power: 1 },
    repair: "clean@k",
    effects: {},
  },
  { id: "cloudy", station: "camera", baseRate: 0.1, reason: "r", symptoms: { sensing: 1 }, repair: "wipe", effects: {} },
  {
    id: "lens",
    station: "lens",
    lossAt: "lens",
    baseRate: 0.1,
    reason: "r",
    symptoms: { power: 1 },
    repair: "lens",
    effects: { "tape@after": { kind: "outcomes", light: [1, 0], heavy: [1, 0] } },
  },
];
const checks: CheckTemplate[] = [
  {
    id: "tape",
    needs: "mirror",
    kind: "nominal",
    outcomes: ["on", "off"],
    leak: [1, 0],
    minutes: { head: 3, back: 6 },
    needsOpen: "mirror@k",
  },
  { id: "travel", needs: "moving", kind: "ordinal", outcomes: ["together", "apart"], leak: [1, 0], minutes: 6 },
  { id: "power", needs: "power", kind: "loss", measures: "power", outcomes: [], leak: [], minutes: 7, gated: true },
  { id: "bed-map", kind: "nominal", outcomes: ["even", "falls"], leak: [1, 0], minutes: 15 },
  { id: "picture", needs: "camera", kind: "ordinal", outcomes: ["clear", "cloudy"], leak: [1, 0], minutes: 1 },
  { id: "cut", kind: "loss", measures: "cut", outcomes: ["a", "b", "c", "d"], leak: [1, 0, 0, 0], minutes: 3 },
];
const repairs: RepairTemplate[] = [
  { id: "aim@k", needs: "aim", minutes: 20 },
  { id: "clean@k", minutes: { head: 5, back: 9 } },
  { id: "wipe", minutes: 3 },
  { id: "lens", minutes: 8, proofMinutes: 2 },
];
const model = expandModel(layout, faults, checks, repairs);
const fault = (id: string) => model.faults.find((f) => f.id === id);

describe("a layout's share of the trade", () => {
  it("has each fault once per mirror, the tube's aim as number 0, and nothing the machine lacks", () => {
    expect(model.faults.map((f) => f.id)).toEqual(["aim@0", "aim@1", "aim@2", "dirt@1", "dirt@2", "lens"]);
    expect(model.faults.map((f) => f.station)).toEqual(["tube", "mirror-1", "mirror-2", "mirror-1", "mirror-2", "lens"]);
    expect(model.repairs.map((r) => r.id)).toEqual(["aim@0", "aim@1", "aim@2", "clean@1", "clean@2", "lens"]);
    expect(model.checks.map((c) => c.id)).toEqual([
      "tape@1",
      "tape@2",
      "travel@2",
      "power@tube",
      "power@window",
      "power@mirror-1",
      "power@mirror-2",
      "power@lens",
      "bed-map",
      "cut",
    ]);
  });

  it("loses the light of a bad aim at the next aperture, after the last mirror at the lens", () => {
    expect(["aim@0", "aim@1", "aim@2"].map((id) => fault(id)?.lossAt)).toEqual(["mirror-1", "mirror-2", "lens"]);
    expect(fault("dirt@2")?.lossAt).toBe("mirror-2");
  });

  it("takes rates and minutes by place: tube, back and head", () => {
    expect(["aim@0", "aim@1", "aim@2", "dirt@1", "dirt@2"].map((id) => fault(id)?.baseRate)).toEqual([0.02, 0.04, 0.01, 0.1, 0.2]);
    expect(model.checks.filter((c) => c.id.startsWith("tape")).map((c) => [c.minutes, c.needsOpen])).toEqual([
      [6, "mirror-1"],
      [3, "mirror-2"],
    ]);
    expect(model.repairs.map((r) => [r.minutes, r.proofMinutes])).toEqual([
      [20, 6],
      [20, 6],
      [20, 6],
      [9, 6],
      [5, 6],
      [8, 2],
    ]);
    expect(fault("dirt@2")?.usage).toEqual({ kind: "dose", station: "mirror-2", intervalPlyHours: 16 });
    expect(fault("dirt@1")?.usage).toEqual({ kind: "dose", station: "mirror-1", intervalPlyHours: 40 });
  });

  it("shows a bad aim in every mark after it, and only where a mirror travels in the near and far marks", () => {
    expect(Object.keys(fault("aim@0")?.effects ?? {}).sort()).toEqual(["bed-map", "tape@1", "tape@2"]);
    expect(Object.keys(fault("aim@1")?.effects ?? {}).sort()).toEqual(["bed-map", "tape@2", "travel@2"]);
    expect(Object.keys(fault("aim@2")?.effects ?? {})).toEqual(["bed-map"]);
  });

  it("lets the bed show an aim by the legs that move after it", () => {
    const shownBy = (moving: number[]) => {
      const { faults: all } = expandModel({ ...layout, movingMirrors: moving }, faults, checks, repairs);
      return ["aim@0", "aim@1", "aim@2"].map((id) => bedMap.findIndex((b) => b === all.find((f) => f.id === id)?.effects["bed-map"]?.[0]));
    };
    expect(shownBy([1, 2])).toEqual([2, 1, 0]);
    // One leg that is all that travels is the whole distance.
    expect(shownBy([2])).toEqual([3, 3, 0]);
  });

  it("marks what only a protected probe may measure, and expects haze by the end of an interval", () => {
    expect(model.checks.filter((c) => c.gated).every((c) => c.measures?.kind === "power")).toBe(true);
    expect(model.background.find((b) => b.station === "lens")).toEqual({ station: "lens", intervalPlyHours: 8, lossAtInterval: 0.02 });
    expect(model.background.some((b) => b.station === "tube")).toBe(false);
    // Four optics with the haze of an interval, and eight percent to spare.
    expect(model.usualNeedLn).toBeCloseTo(-0.16, 12);
  });

  it("may ask for a mount, a fitting or a coating, as a procedure does: they are there where the part is so", () => {
    const spec = (layout: Layout) => traceSpec(layout, INTERVAL_PLY_HOURS);
    const only = (when: Condition) => faultTemplates.map((f) => (f.id === "mirror-seat@k" ? { ...f, when } : f));
    const seats = (layout: Layout, when: Condition) =>
      expandModel(spec(layout), only(when), checkTemplates, repairTemplates)
        .faults.map((f) => f.id)
        .filter((id) => id.startsWith("mirror-seat@"));
    const mirrors = periscope.path.filter((s) => s.role === "mirror");
    const mounts = new Set(mirrors.map((s) => s.mount));
    expect(mounts.size).toBeGreaterThan(1);
    for (const mount of mounts)
      expect(seats(periscope, { mount: [mount] })).toEqual(
        mirrors.filter((s) => s.mount === mount).map((s) => s.id.replace("mirror-", "mirror-seat@")),
      );
    expect(seats(periscope, { head: true })).toEqual([`mirror-seat@${mirrors.length}`]);
    expect(seats(periscope, { extra: ["autofocus"] })).toEqual(periscope.fittings.extras.includes("autofocus") ? seats(periscope, {}) : []);
    // A repair and a check that ask for the same are left out with it.
    const checks = checkTemplates.map((c) => (c.id === "mirror-look" ? { ...c, when: { head: true } } : c));
    const looks = expandModel(spec(periscope), faultTemplates, checks, repairTemplates).checks.filter((c) =>
      c.id.startsWith("mirror-look@"),
    );
    expect(looks.map((c) => c.id)).toEqual([`mirror-look@${mirrors.length}`]);
  });
});
