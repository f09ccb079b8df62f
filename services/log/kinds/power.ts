import { ROLE_TRAITS } from "#core/beam";
import type { FormReader } from "../../forms/fields";
import { number } from "../../words";
import type { EventKindDefinition } from "./definition";
import { stationOf } from "./names";

export const power: EventKindDefinition<"power"> = {
  name: "Watts",
  says: ({ payload }, g) => {
    const readings = payload.readings.map((r) => `${stationOf(g, r.station)} ${number(r.powerW)} W`).join(", ");
    return `${readings} at ${number(payload.setPercent, 0)} %${payload.baseline ? ", the baseline" : ""}`;
  },
  figures: ({ payload }, g) => payload.readings.map((r) => ({ name: `after ${stationOf(g, r.station)}`, value: r.powerW, unit: "W" })),
  entry: {
    read: (reader, g) => ({
      setPercent: reader.number("setPercent", "%", "100"),
      readings: readPower(
        reader,
        g.trade.layout.stations.filter((s) => ROLE_TRAITS[s.role].isMetered).map((s) => s.id),
      ),
      baseline: reader.text("baseline") === "1" ? true : undefined,
    }),
    typed: ({ readings }) => Object.fromEntries(readings.map((r) => [`power-${r.station}`, number(r.powerW, 2)])),
    errorAt: (path, message, raw) => {
      const reading = /^readings\.(\d+)\.powerW$/.exec(path);
      const readings = raw.readings as readonly { readonly station: string }[];
      return reading ? [`power-${readings[Number(reading[1])]?.station}`, message] : undefined;
    },
  },
};

function readPower(reader: FormReader, stations: readonly string[]) {
  const readings = stations.flatMap((station) => {
    const powerW = reader.optionalNumber(`power-${station}`, "W", "58");
    return powerW === undefined ? [] : [{ station, powerW }];
  });
  if (readings.length === 0 && Object.keys(reader.errors).length === 0)
    reader.errors.readings = "Give the watts after at least one station.";
  return readings;
}
