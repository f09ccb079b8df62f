/** What stands at each station: the looks of the log and of cases that nothing has mended since. */
import { GRADES, type Grade, type GradeWord } from "#core/beam";
import type { Chain, EventLog, EventOf } from "#core/events";
import { lookCheckOf } from "#core/machine";
import { entriesOf, type GivenGrade, givenGrade, isLiftedBy, withLook } from "#core/rounds";
import { lastReplacedMs } from "#core/schedule";
import type { lookFindings } from "#store/cases";
import type { Trade } from "./trade";

/** A look of a case as a grade of a station; undefined for what grades none. */
export function lookOf(trade: Trade, { check, outcome, atMs }: Looked): { station: string; grade: Grade; atMs: number } | undefined {
  const station = trade.layout.stations.find((s) => lookCheckOf(s) === check)?.id;
  const grade = GRADES.indexOf(outcome as GradeWord);
  return station === undefined || grade < 0 ? undefined : { station, grade: grade as Grade, atMs };
}
export type Looked = Awaited<ReturnType<typeof lookFindings>>[number];

/**
 * What stands at each station: a look taken in a trace is as good as one in a round, and outlives its case. What the open round has seen and
 * done counts on top of it as soon as it is answered, though it is in the log only once the round is ended.
 */
export function gradesOf(log: EventLog, trade: Trade, looks: readonly Looked[]): Map<string, GivenGrade> {
  const standing = new Map(looksOf(log.kinds.grade, trade));
  for (const look of looks) {
    const given = lookOf(trade, look);
    if (!given || standing.get(given.station)?.some((g) => g.atMs >= look.atMs)) continue;
    standing.set(given.station, [{ grade: given.grade, atMs: look.atMs, phase: "as-found" }]);
  }
  for (const [station, given] of standing)
    standing.set(
      station,
      given.filter((g) => !isMended(log, station, g)),
    );
  return entriesOf(standing);
}

/** Whether what was seen is gone: with the part, or with a clean or a repair that came after the look. */
function isMended(log: EventLog, station: string, given: GivenGrade): boolean {
  // The exit window goes with its tube, however that is noted.
  const replacedMs = given.thing === undefined ? lastReplacedMs(log, station) : undefined;
  if (replacedMs !== undefined && replacedMs > given.atMs) return true;
  const after = (e: EventOf<"service">) => e.atMs > given.atMs;
  // Marks that lay apart are another matter once a mirror was turned.
  if (station === "aim-check") return log.kinds.service.findLast((e) => e.payload.what === "aimed" && after(e)) !== undefined;
  return log.kinds.service.findLast((e) => e.payload.station === station && after(e) && isLiftedBy(given, e.payload)) !== undefined;
}

type Looks = ReadonlyMap<string, readonly GivenGrade[]>;
const looked = new WeakMap<Trade, WeakMap<Chain<EventOf<"grade">>, Looks>>();

/** The looks of a list that stand at each station, worked out once for a machine and a list. */
function looksOf(grades: Chain<EventOf<"grade">>, trade: Trade): Looks {
  const own = looked.get(trade) ?? new WeakMap<Chain<EventOf<"grade">>, Looks>();
  looked.set(trade, own);
  let standing = own.get(grades);
  if (!standing) {
    const all = new Map<string, readonly GivenGrade[]>();
    for (const { payload, atMs } of grades)
      all.set(payload.station, withLook(all.get(payload.station) ?? [], givenGrade(payload, atMs, trade.stepOf), trade.stepOf));
    standing = all;
    own.set(grades, standing);
  }
  return standing;
}
