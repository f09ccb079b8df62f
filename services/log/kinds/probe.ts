import { fitProbe, readCurve } from "#core/probe";
import type { FormReader } from "../../forms/fields";
import { probeResult } from "../../machine/watts";
import { number } from "../../words";
import type { EventKindDefinition } from "./definition";
import { stationOf } from "./names";

export const probe: EventKindDefinition<"probe"> = {
  name: "Probe run",
  says: (event, g) => {
    const { payload } = event;
    const read = probeResult(event);
    const where = `${stationOf(g, payload.station)} at ${number(payload.setPercent, 0)} %`;
    if (read.kind === "none") return `${where}: ${read.reason}`;
    return `${where}: ${number(read.powerW)} W, give or take ${number(read.seW)} (${number(read.naiveW)} without the heat it lost)${payload.baseline ? ", the baseline" : ""}`;
  },
  figures: (event, g) => {
    const read = probeResult(event);
    return read.kind === "power" ? [{ name: `after ${stationOf(g, event.payload.station)}`, value: read.powerW, unit: "W" }] : [];
  },
  entry: {
    read: (reader) => ({
      station: reader.text("station"),
      setPercent: reader.number("setPercent", "%", "100"),
      massG: reader.number("massG", "g", "100"),
      heatS: reader.number("heatS", "s", "30"),
      ambientC: reader.number("ambientC", "°C", "22"),
      timeConstantS: reader.optionalNumber("timeConstantS", "s", "240"),
      samples: samplesOf(reader),
      baseline: reader.text("baseline") === "1" ? true : undefined,
    }),
    typed: ({ samples }) => ({ samples: samples.map((x) => `${x.s} ${x.c}`).join("\n") }),
    errorAt: (path, message) =>
      path.startsWith("samples")
        ? ["samples", path === "samples" ? "A curve is needed: run the probe, or paste seconds and °C." : message]
        : undefined,
    problem: (payload, g) => {
      if (!g.trade.layout.stations.some((s) => s.id === payload.station)) return { errors: { station: "Choose a part of the path." } };
      const read = fitProbe(payload);
      return read.kind === "none" ? { errors: { samples: `This run cannot be read: ${read.reason}.` } } : undefined;
    },
  },
};

/** The curve that was run or pasted; undefined with an error where a line of it cannot be read. */
function samplesOf(reader: FormReader) {
  const text = reader.text("samples");
  if (text === undefined) return undefined;
  const { samples, wrongLine } = readCurve(text);
  if (wrongLine === undefined) return samples;
  reader.errors.samples = `Line ${wrongLine} of the curve: seconds and °C are wanted, such as 12 27.5.`;
  return undefined;
}
