/** Readings of the machine's meters: tube current, coolant, air in the duct. */

import { withUnit } from "../../units";
import { number } from "../../words";
import type { EventKindDefinition } from "./definition";

const base = (reader: { text: (name: string) => string | undefined }) => (reader.text("baseline") === "1" ? true : undefined);
const good = (baseline: boolean | undefined) => (baseline ? ", known good" : "");

export const current: EventKindDefinition<"current"> = {
  name: "Tube current",
  says: ({ payload: p }) => `${number(p.currentMa)} mA at ${number(p.setPercent, 0)} %${good(p.baseline)}`,
  figures: ({ payload: p }) => [{ name: `at ${number(p.setPercent, 0)} %`, value: p.currentMa, unit: "mA" }],
  entry: {
    read: (reader) => ({
      currentMa: reader.number("currentMa", "mA", "22"),
      setPercent: reader.number("setPercent", "%", "100"),
      baseline: base(reader),
    }),
  },
};

export const coolant: EventKindDefinition<"coolant"> = {
  name: "Coolant",
  says: ({ payload: p }) =>
    [
      p.temperatureC === undefined ? "" : withUnit(p.temperatureC, "°C"),
      p.flowLpm === undefined ? "" : withUnit(p.flowLpm, "L/min"),
      p.returnC === undefined ? "" : `${withUnit(p.returnC, "°C")} out of the tube`,
      p.filledL === undefined ? "" : `${withUnit(p.filledL, "L", 2)} filled`,
      p.glycolPercent === undefined ? "" : `${number(p.glycolPercent)} % glycol`,
      p.freezingC === undefined ? "" : `freezes at ${withUnit(p.freezingC, "°C")}`,
      p.toppedUpL === undefined ? "" : `${withUnit(p.toppedUpL, "L", 2)} topped up${p.lost === undefined ? "" : `, ${p.lost}`}`,
      p.look === undefined ? "" : `looks ${p.look}`,
    ]
      .filter(Boolean)
      .join(", ") + good(p.baseline),
  figures: ({ payload: p }) => [
    ...(p.temperatureC === undefined ? [] : [{ name: "temperature", value: p.temperatureC, unit: "°C" }]),
    ...(p.flowLpm === undefined ? [] : [{ name: "flow", value: p.flowLpm, unit: "L/min" }]),
  ],
  entry: {
    read: (reader) => {
      const read = {
        temperatureC: reader.optionalNumber("temperatureC", "°C", "21"),
        flowLpm: reader.optionalNumber("flowLpm", "L/min", "2"),
        toppedUpL: reader.optionalNumber("toppedUpL", "L", "0.5"),
        lost: reader.text("lost"),
        filledL: reader.optionalNumber("filledL", "L", "10"),
        glycolPercent: reader.optionalNumber("glycolPercent", "%", "30"),
        freezingC: reader.optionalNumber("freezingC", "°C", "-14"),
        returnC: reader.optionalNumber("returnC", "°C", "24"),
        look: reader.text("look"),
        baseline: base(reader),
      };
      if (read.toppedUpL === undefined && read.lost !== undefined) reader.errors.toppedUpL = "How many litres were topped up?";
      if (read.glycolPercent !== undefined && read.glycolPercent > 50)
        reader.errors.glycolPercent = "At most 50 %: above that it carries too little heat and protects no better.";
      const { baseline: _, lost: __, ...told } = read;
      if (Object.values(told).every((v) => v === undefined) && Object.keys(reader.errors).length === 0)
        reader.errors.temperatureC = "Give at least one: its temperature, its flow, what was topped up, or how it looks.";
      return read;
    },
    // The schema asks for any of them; the words are said above.
    errorAt: (path) => (path === "" ? ["temperatureC", "Give at least one of these."] : undefined),
  },
};

export const airflow: EventKindDefinition<"airflow"> = {
  name: "Airflow",
  says: ({ payload: p }) =>
    `${withUnit(p.ductSpeedMps, "m/s")} in the duct${p.where === "traverse" ? ", mean across it" : ""}${p.pressurePa === undefined ? "" : `, ${number(p.pressurePa, 0)} Pa suction`}${p.prefilter === "out" ? ", pre-filter out" : ""}${good(p.baseline)}`,
  figures: ({ payload: p }) => [
    { name: p.prefilter === "out" ? "without pre-filter" : "in the duct", value: p.ductSpeedMps, unit: "m/s" },
    ...(p.pressurePa === undefined ? [] : [{ name: "suction", value: p.pressurePa, unit: "Pa" }]),
  ],
  entry: {
    read: (reader) => ({
      ductSpeedMps: reader.number("ductSpeedMps", "m/s", "6"),
      where: reader.text("where"),
      pressurePa: reader.optionalNumber("pressurePa", "Pa", "120"),
      prefilter: reader.text("prefilter"),
      baseline: base(reader),
    }),
  },
};
