/** View model of the beam line: what the column on the left shows, in words and shares. */
import { GRADES, type GradeWord, gradeLogLoss, powerAlong, ROLE_TRAITS, type Station, type StationRole } from "#core/beam";
import type { PathStation } from "#core/machine";
import { BAD, gradeWordFor, isOptic } from "#core/rounds";
import { lastServiceMs } from "#core/schedule";
import { DAY_MS } from "#core/time";
import { leftWords, materialName, number, shortDay } from "../words";
import type { Gathered } from "./gathered";
import { isDoubtful, lossOf, type Watts, wattsAlong } from "./light";
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

/** What a power walk said at each station, and what it said when the machine was good. */
interface PowerWalk {
  readonly atMs: number | undefined;
  readonly at: (id: string) => Watts | undefined;
  readonly usual: (id: string) => number | undefined;
}

/** The tube and its window are one place to a meter, so one number stands for both. */
function walkOf(g: Gathered): PowerWalk {
  const walk = g.log.kinds.power.at(-1);
  const base = g.log.kinds.power.findLast((e) => e.payload.baseline === true);
  const readAt = (event: typeof walk, id: string): number | undefined => {
    const own = event?.payload.readings.find((r) => r.station === id)?.powerW;
    return own ?? (id === "tube" ? event?.payload.readings.find((r) => r.station === "window")?.powerW : undefined);
  };
  const path = g.trade.layout.stations.map((s) => s.id);
  const along = wattsAlong(
    path,
    new Map(
      path.flatMap((id) => {
        const read = readAt(walk, id);
        return read === undefined ? [] : [[id, read] as const];
      }),
    ),
  );
  return { atMs: walk?.atMs, at: (id) => along.get(id), usual: (id) => readAt(base, id) };
}

type Line = { readonly term: string; readonly text: string };

/** What was measured behind a station, and how it was read where that cannot be. */
function powerLines(g: Gathered, { at, usual, atMs }: PowerWalk, id: string): Line[] {
  const measured = at(id);
  if (measured === undefined || atMs === undefined) return [];
  const good = usual(id);
  const after = `${number(measured.shown)} W on ${shortDay(atMs, g.nowMs)}${good === undefined ? "" : `, ${number(good)} W when good`}`;
  const asRead = `${number(measured.read)} W: power cannot rise along the path, so this reading or one before it is wrong`;
  return [{ term: "Power after it", text: after }, ...(isDoubtful(measured) ? [{ term: "As read", text: asRead }] : [])];
}

/** How a station is held and reached, as its owner wrote it down. */
function placeLines(known: PathStation | undefined): Line[] {
  if (!known) return [];
  const { wayRound, toolPlace, spares, panel, keys, warranty } = known;
  const closed = "; not for owners, so it is booked with the maker's service, and logged once they have done it";
  return [
    ...(wayRound ? [{ term: "Which way round", text: wayRound }] : []),
    ...(toolPlace ? [{ term: "Where its gauge or tool is", text: toolPlace }] : []),
    ...(spares === undefined ? [] : [{ term: "Spares", text: spares === 0 ? "none in stock" : `${spares} in stock` }]),
    ...(panel ? [{ term: "Behind", text: `${panel}${keys ? `, key: ${keys}` : ""}${warranty ? closed : ""}` }] : []),
  ];
}

function stationOf(g: Gathered, station: Station, watts: PowerWalk, light: number): BeamStation {
  const { layout, tasks } = g.trade;
  const { id, role } = station;
  const task =
    g.due.find((d) => d.id === id) ?? g.due.find((d) => d.station === id && tasks.some((t) => t.id === d.id && t.tasks === undefined));
  const rule = tasks.find((t) => t.id === task?.id);
  const grade = g.grades.get(id);
  const shape = grade && GRADES[grade.grade];
  // In the words of what it is: a nozzle is sticky, not filmed.
  const word = grade && (grade.seen ?? gradeWordFor(id, grade.grade));
  const service = lastServiceMs(g.log, id);
  const known = layout.path.find((s) => s.id === id);
  const shown = watts.at(id)?.shown;
  return {
    id,
    name: layout.names[id] ?? id,
    role,
    grade: shape,
    status: g.out.has(id) ? (["out of the machine"] as const) : statusOf(g, station, word, task && leftWords(task)),
    used: id === "tube" ? undefined : task?.used,
    watts: shown === undefined || !ROLE_TRAITS[role].isMetered ? "" : `${number(shown)} W`,
    light,
    card: [
      { term: "Last seen", text: word && grade ? `${word}, ${shortDay(grade.atMs, g.nowMs)}` : "not inspected yet" },
      { term: "Last cleaned", text: service === undefined ? "not in the log" : shortDay(service, g.nowMs) },
      { term: "Smoke since then", text: `${number(g.doses.get(id) ?? 0)} smoke hours` },
      ...(task && rule ? [{ term: "Interval", text: `${leftWords(task)}. ${rule.reason}` }] : []),
      ...powerLines(g, watts, id),
      ...placeLines(known),
      ...(shape && isOptic(id)
        ? [{ term: "Cost of that condition", text: `about ${number(100 * (1 - Math.exp(-gradeLogLoss(shape).mean)))} % of the light` }]
        : []),
    ],
    photo: known?.wayRoundPhoto,
    cleanable: g.openRound === undefined && isOwners(g.trade, id),
    replace: g.openRound === undefined ? replacementOf(g, id) : undefined,
  };
}

export function beamLine(g: Gathered, key: string): BeamLineData {
  const { layout } = g.trade;
  const watts = walkOf(g);
  const light = powerAlong(layout.stations, 1, (s) => lossOf(g, s));
  const stations = layout.stations.map((station, i) => stationOf(g, station, watts, light[i]?.powerW ?? 1));
  return {
    slug: g.machine.slug,
    key,
    tubeW: number(g.machine.ratedPowerW, 0),
    stations,
    wattsRead: watts.atMs !== undefined && stations.some((s) => s.watts !== "") ? `power measured on ${shortDay(watts.atMs, g.nowMs)}` : "",
    isOldReading: watts.atMs !== undefined && g.nowMs - watts.atMs > OLD_READING_MS,
    branches: [
      ...unmendedOf(g)
        .filter((u) => !layout.stations.some((s) => s.id === u.station))
        .map((u) => ({ id: u.id, name: u.name, text: u.word, isBad: true })),
      ...g.due
        .filter((d) => d.state === "due" && layout.systems.includes(d.station))
        .map((d) => ({ id: d.id, name: layout.names[d.station] ?? d.station, text: leftWords(d), isBad: false })),
    ],
    work: materialName(g.materials[0]),
  };
}
