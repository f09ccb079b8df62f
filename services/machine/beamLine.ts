/** View model of the beam line: what the column on the left shows, in words and shares. */
import { GRADES, type GradeWord, gradeLogLoss, powerAlong, ROLE_TRAITS, type Station, type StationRole } from "#core/beam";
import { BAD, gradeWordFor, isOptic } from "#core/rounds";
import { lastServiceMs } from "#core/schedule";
import { DAY_MS } from "#core/time";
import { leftWords, materialName, number, shortDay } from "../words";
import type { Gathered } from "./gathered";
import { isDoubtful, lossOf, wattsAlong } from "./light";
import { isOwners } from "./plans";
import { isPastCleaning, replacementOf, unmendedOf } from "./unmended";

export interface BeamStation {
  readonly id: string;
  readonly name: string;
  readonly role: StationRole;
  readonly grade: GradeWord | undefined;
  /** Words under the name: its state, and when it is due. */
  readonly status: readonly [string, string?];
  /** Share of the interval used, 0..; undefined where nothing is due. */
  readonly used: number | undefined;
  /** Measured watts, worded; empty when unknown. */
  readonly watts: string;
  /** Light left after the station, 0..1. */
  readonly light: number;
  readonly card: readonly { readonly term: string; readonly text: string }[];
  /** Photo of the way round, by hash. */
  readonly photo: string | undefined;
  /** Whether a round for it can be started from here. */
  readonly cleanable: boolean;
  /** Round that puts a new one in; undefined where that is not an owner's. */
  readonly replace: string | undefined;
}

export interface BeamLineData {
  readonly slug: string;
  /** One-time key for a round started from a station's card. */
  readonly key: string;
  readonly tubeW: string;
  readonly stations: readonly BeamStation[];
  /** Of when the watts are, worded; empty where there are none: a reading of months ago is not what leaves a station today. */
  readonly wattsRead: string;
  /** So long ago that they say little of today: they are shown fainter. */
  readonly isOldReading: boolean;
  /** Systems worth a word now. */
  readonly branches: readonly { readonly id: string; readonly name: string; readonly text: string; readonly isBad: boolean }[];
  readonly work: string;
}

/** After this long watts are history. */
const OLD_READING_MS = 45 * DAY_MS;

function statusOf(g: Gathered, station: Station, grade: string | undefined, due: string | undefined): [string, string?] {
  const given = g.grades.get(station.id);
  if (station.role === "tube") {
    const hours = g.usage.tubeHours === undefined ? "hours unknown" : `${Math.round(g.usage.tubeHours)} h`;
    return grade !== undefined && given && given.grade >= BAD ? [grade, hours] : [hours];
  }
  // What was seen bad is not due in some hours.
  if (grade !== undefined && given && given.grade >= BAD)
    return [grade, isPastCleaning(station.role, given) ? "past cleaning" : "clean it"];
  const state = grade ?? (station.role === "nozzle" ? due : "not inspected yet") ?? "not inspected yet";
  return due === undefined || state === due ? [state] : [state, due];
}

export function beamLine(g: Gathered, key: string): BeamLineData {
  const { layout, tasks } = g.trade;
  const walk = g.log.kinds.power.at(-1);
  const base = g.log.kinds.power.findLast((e) => e.payload.baseline === true);
  const wattsOf = (id: string, event: typeof walk) => event?.payload.readings.find((r) => r.station === id)?.powerW;
  const light = powerAlong(layout.stations, 1, (s) => lossOf(g, s));
  const path = layout.stations.map((s) => s.id);
  // The tube and its window are one place to a meter, so one number stands for both.
  const along = wattsAlong(
    path,
    new Map(
      path.flatMap((id) => {
        const read = wattsOf(id, walk) ?? (id === "tube" ? wattsOf("window", walk) : undefined);
        return read === undefined ? [] : [[id, read] as const];
      }),
    ),
  );
  const isTube = (id: string) => id === "tube";
  const stations = layout.stations.map((station, i) => {
    const task =
      g.due.find((d) => d.id === station.id) ??
      g.due.find((d) => d.station === station.id && tasks.some((t) => t.id === d.id && t.tasks === undefined));
    const rule = tasks.find((t) => t.id === task?.id);
    const grade = g.grades.get(station.id);
    const shape = grade && GRADES[grade.grade];
    // In the words of what it is: a nozzle is sticky, not filmed.
    const word = grade && (grade.seen ?? gradeWordFor(station.id, grade.grade));
    const out = g.out.has(station.id);
    const measured = along.get(station.id);
    const watts = measured?.shown;
    const usual = wattsOf(station.id, base) ?? (isTube(station.id) ? wattsOf("window", base) : undefined);
    const service = lastServiceMs(g.log, station.id);
    const known = layout.path.find((s) => s.id === station.id);
    const card = [
      { term: "Last seen", text: word && grade ? `${word}, ${shortDay(grade.atMs, g.nowMs)}` : "not inspected yet" },
      { term: "Last cleaned", text: service === undefined ? "not in the log" : shortDay(service, g.nowMs) },
      { term: "Smoke since then", text: `${number(g.doses.get(station.id) ?? 0)} smoke hours` },
      ...(task && rule ? [{ term: "Interval", text: `${leftWords(task)}. ${rule.reason}` }] : []),
      ...(watts !== undefined && walk
        ? [
            {
              term: "Power after it",
              text: `${number(watts)} W on ${shortDay(walk.atMs, g.nowMs)}${usual === undefined ? "" : `, ${number(usual)} W when good`}`,
            },
            ...(measured && isDoubtful(measured)
              ? [
                  {
                    term: "As read",
                    text: `${number(measured.read)} W: power cannot rise along the path, so this reading or one before it is wrong`,
                  },
                ]
              : []),
          ]
        : []),
      ...(known?.wayRound ? [{ term: "Which way round", text: known.wayRound }] : []),
      ...(known?.toolPlace ? [{ term: "Where its gauge or tool is", text: known.toolPlace }] : []),
      ...(known?.spares !== undefined ? [{ term: "Spares", text: known.spares === 0 ? "none in stock" : `${known.spares} in stock` }] : []),
      ...(known?.panel
        ? [
            {
              term: "Behind",
              text: `${known.panel}${known.keys ? `, key: ${known.keys}` : ""}${known.warranty ? "; not for owners, so it is booked with the maker's service, and logged once they have done it" : ""}`,
            },
          ]
        : []),
      ...(shape && isOptic(station.id)
        ? [{ term: "Cost of that condition", text: `about ${number(100 * (1 - Math.exp(-gradeLogLoss(shape).mean)))} % of the light` }]
        : []),
    ];
    return {
      id: station.id,
      name: layout.names[station.id] ?? station.id,
      role: station.role,
      grade: shape,
      status: out ? (["out of the machine"] as const) : statusOf(g, station, word, task && leftWords(task)),
      used: isTube(station.id) ? undefined : task?.used,
      watts: watts === undefined || !ROLE_TRAITS[station.role].isMetered ? "" : `${number(watts)} W`,
      light: light[i]?.powerW ?? 1,
      card,
      photo: known?.wayRoundPhoto,
      cleanable: g.openRound === undefined && isOwners(g.trade, station.id),
      replace: g.openRound === undefined ? replacementOf(g, station.id) : undefined,
    };
  });
  return {
    slug: g.machine.slug,
    key,
    tubeW: number(g.machine.ratedPowerW, 0),
    stations,
    wattsRead: walk !== undefined && stations.some((s) => s.watts !== "") ? `power measured on ${shortDay(walk.atMs, g.nowMs)}` : "",
    isOldReading: walk !== undefined && g.nowMs - walk.atMs > OLD_READING_MS,
    branches: [
      ...unmendedOf(g)
        .filter((u) => !path.includes(u.station))
        .map((u) => ({ id: u.id, name: u.name, text: u.word, isBad: true })),
      ...g.due
        .filter((d) => d.state === "due" && layout.systems.includes(d.station))
        .map((d) => ({ id: d.id, name: layout.names[d.station] ?? d.station, text: leftWords(d), isBad: false })),
    ],
    work: materialName(g.materials[0]),
  };
}
