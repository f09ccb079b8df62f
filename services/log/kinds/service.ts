import type { Gathered } from "../../machine/gathered";
import { withUnit } from "../../units";
import { moneyWords, number } from "../../words";
import { SERVICE_WORDS } from "../words";
import type { EventKindDefinition } from "./definition";
import { stationOf } from "./names";

/** Parts something can be done to without a round: the path, and each task of the systems. */
export function doneParts(g: Pick<Gathered, "trade">): { id: string; name: string; station: string; task: string | undefined }[] {
  const { layout, procedures } = g.trade;
  const stations = layout.stations.map((s) => ({ id: s.id, name: layout.names[s.id] ?? s.id, station: s.id, task: undefined }));
  const systems = [...procedures.values()].flatMap((p) => {
    const done = p.isRepair ? undefined : p.steps.find((s) => s.service && s.station && layout.systems.includes(s.station));
    return done?.station === undefined ? [] : [{ id: p.id, name: p.name, station: done.station, task: done.service?.task }];
  });
  return [...stations, ...systems];
}

export const service: EventKindDefinition<"service"> = {
  name: "Done",
  // What was serviced: the task where a station has several, else the station.
  says: ({ payload: p }, g) =>
    [
      `${(p.task && g.trade.procedures.get(p.task)?.name) ?? stationOf(g, p.station)} ${SERVICE_WORDS[p.what]}`,
      p.focalMm === undefined ? "" : `${withUnit(p.focalMm, "mm")} focal length`,
      p.source ? `from ${p.source}` : "",
      p.serial ? `no. ${p.serial}` : "",
      p.price === undefined ? "" : moneyWords(p.price, g.currency),
      p.usedHours ? `${number(p.usedHours, 0)} h used before` : "",
    ]
      .filter(Boolean)
      .join(", "),
  entry: {
    read: (reader, g) => {
      const part = doneParts(g).find((p) => p.id === reader.text("part"));
      if (!part) reader.errors.part = "Choose what it was done to.";
      const what = reader.text("what");
      const photos = [reader.text("photo"), reader.text("photoAfter")].filter((hash) => hash !== undefined);
      const told = { station: part?.station ?? "", what, task: part?.task, photos: photos.length > 0 ? photos : undefined };
      if (what !== "replaced") return told;
      return {
        ...told,
        source: reader.text("source"),
        serial: reader.text("serial"),
        focalMm: reader.optionalNumber("focalMm", "mm", "50.8"),
        price: reader.optionalNumber("price", "", "32.50"),
        usedHours: reader.optionalNumber("usedHours", "h", "0"),
      };
    },
    typed: ({ station, task, what, photos = [] }) => ({
      part: task ?? station,
      what,
      ...(photos[0] ? { photo: photos[0] } : {}),
      ...(photos[1] ? { photoAfter: photos[1] } : {}),
    }),
    errorAt: (path) => (path === "what" ? ["what", "Say what was done."] : undefined),
  },
};
