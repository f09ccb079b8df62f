import { describe, expect, it } from "vitest";
import type { EventKind, EventPayload } from "#core/events";
import { listMachines } from "#store/machines";
import { FormReader } from "../forms/fields";
import { keepEntry } from "../log/keepEntry";
import { rungs, TestWorkshop } from "../testWorkshop";
import { goodReadings, loggedFindings } from "./logFindings";

const place = (id: string, x: number, y: number, droppedTo: number) => ({
  place: id,
  xMm: x,
  yMm: y,
  rungs: rungs(droppedTo).slice(2, 10),
});
const curve = Array.from({ length: 91 }, (_, s) => ({
  s,
  c: Number((22 + (s <= 30 ? 157.6 * (1 - Math.exp(-s / 240)) : 18.52 * Math.exp(-(s - 30) / 240))).toFixed(2)),
}));

/** What each record says to a trace; it is never said of what was flagged as good. */
const SAID: readonly (readonly [EventKind, EventPayload[EventKind], object[]])[] = [
  ["current", { currentMa: 18, setPercent: 100 }, [{ check: "tube-current", value: 18, setPercent: 100 }]],
  [
    "coolant",
    { temperatureC: 27, look: "cloudy" },
    [
      { check: "coolant-temp", value: 27 },
      { check: "water-look", outcome: "cloudy" },
    ],
  ],
  ["coolant", { toppedUpL: 1 }, []],
  ["airflow", { ductSpeedMps: 4 }, [{ check: "duct-speed", value: 4 }]],
  ["airflow", { ductSpeedMps: 6, prefilter: "out" }, []],
  [
    "engraving",
    { look: "blurred", edges: "wavy" },
    [
      { check: "engraving", outcome: "blurred" },
      { check: "raster-edge", outcome: "wavy" },
    ],
  ],
  ["focus", { offsetMm: 1.5 }, [{ check: "focus-ramp", outcome: "shifted", value: 1.5 }]],
  ["tape", { station: "mirror-2", rightMm: 3, upMm: 4 }, [{ check: "tape@2", outcome: "off", value: 5 }]],
  ["tape", { station: "mirror-2", rightMm: 0.3, upMm: 0 }, [{ check: "tape@2", outcome: "centred" }]],
  ["tape", { station: "nozzle", rightMm: 0, upMm: 0, mark: "crescent" }, [{ check: "nozzle-mark", outcome: "crescent" }]],
  [
    "probe",
    { station: "lens", setPercent: 100, massG: 100, heatS: 30, ambientC: 22, samples: curve },
    [{ check: "power@lens", setPercent: 100 }],
  ],
  [
    "bed-map",
    {
      materialId: 1,
      setPercent: 60,
      bedWidthMm: 900,
      bedDepthMm: 600,
      places: [
        place("back-left", 0, 0, 14),
        place("back-right", 900, 0, 11),
        place("middle", 450, 300, 11),
        place("front-left", 0, 600, 11),
        place("front-right", 900, 600, 9),
      ],
    },
    [{ check: "bed-map", outcome: "falls-with-distance" }],
  ],
];

describe("what the log says to a trace", () => {
  it.each(SAID)("%s %j", async (kind, payload, said) => {
    const w = await TestWorkshop.open();
    await w.log(kind, payload as never);
    const g = await w.look();
    expect(loggedFindings(g, g.nowMs - 1, g.nowMs)).toMatchObject(said);
    expect(loggedFindings(g, g.nowMs + 1, g.nowMs + 2)).toEqual([]);
    // Every check it names is one this machine has.
    for (const f of loggedFindings(g, 0, g.nowMs)) expect(g.trade.model.checks.map((c) => c.id)).toContain(f.check);
  });

  it("is set against what was flagged as good, the newest of it", async () => {
    const w = await TestWorkshop.open();
    expect(goodReadings(await w.look())).toEqual({});
    await w.log("current", { currentMa: 20, setPercent: 100, baseline: true });
    await w.log("current", { currentMa: 22, setPercent: 100, baseline: true });
    await w.log("current", { currentMa: 12, setPercent: 100 });
    await w.log("coolant", { flowLpm: 2, baseline: true });
    await w.log("airflow", { ductSpeedMps: 6, baseline: true });
    expect(goodReadings(await w.look())).toEqual({ tubeCurrentMa: 22, coolantFlowLpm: 2, ductSpeedMps: 6 });
  });

  it("takes a spare for a lens that went in, and puts it back when that never happened", async () => {
    const w = await TestWorkshop.open();
    const spares = async () =>
      (await listMachines(w.store))[0]?.path?.find((s) => s.id === "lens")?.spares ??
      (await w.look()).trade.layout.path.find((s) => s.id === "lens")?.spares;
    const send = (fields: Record<string, string>, key: string) => {
      const form = new FormData();
      for (const [name, value] of Object.entries({ requestKey: key, ...fields })) form.set(name, value);
      return keepEntry(w.services, "larkspur", new FormReader(form));
    };
    const before = await spares();
    await send({ kind: "service", part: "lens", what: "replaced", price: "40" }, "a");
    expect(await spares()).toBe((before ?? 0) - 1);
    const event = (await w.look()).log.kinds.service.at(-1);
    await send({ kind: "service", corrects: String(event?.id), corrections: "0", intent: "void" }, "b");
    expect(await spares()).toBe(before);
  });
});
