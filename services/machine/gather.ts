/** Gathers what is known of one machine from the store and asks the core what follows from it. Every place's view starts here. */
import { GRADES, type Grade, type GradeWord } from "#core/beam";
import { type Chain, EVENT_KINDS, type EventLog, type EventOf, type MachineEvent } from "#core/events";
import { lookCheckOf } from "#core/machine";
import type { Plan } from "#core/plan";
import {
  entriesOf,
  type GivenGrade,
  givenGrade,
  gradesAfter,
  isApart,
  isLiftedBy,
  type RoundRecord,
  roundRecords,
  withLook,
} from "#core/rounds";
import { type DueTask, doseSinceClean, dueTasks, isKnownAt, lastReplacedMs, outSinceMs, type Usage, usageAt } from "#core/schedule";
import type { Condition } from "#core/wear";
import { openSittingOf } from "#store/aim";
import { type Finding, faultSpans, foundFaults, listFindings, lookFindings, openCasesOf, type TraceCase } from "#store/cases";
import { listMachines, listMaterials, type Machine, type Material } from "#store/machines";
import { findRound, openRoundOf, roundsOfCase } from "#store/rounds";
import { readSetting } from "#store/settings";
import type { Services } from "../context";
import { planned } from "../plan/planned";
import { NotHere } from "../refusal";
import { type TaskInForce, tasksInForce, type UpkeepGround } from "../upkeep/inForce";
import { conditionAt, type Evidence } from "./condition";
import { referenceBaseline } from "./ladders";
import { planOfRound } from "./plans";
import { type Projection, projectionOf } from "./projection";
import { repairsDone } from "./repairsDone";
import { type Trade, tradeOf } from "./trade";
import { mayBeCut } from "./usual";

export interface Gathered extends Evidence {
  readonly machine: Machine;
  readonly machines: readonly Machine[];
  readonly materials: readonly Material[];
  readonly logStartMs: number;
  readonly doses: ReadonlyMap<string, number>;
  /** Last grade of each station and system that still holds: a part that was mended or replaced since has none. */
  readonly grades: ReadonlyMap<string, GivenGrade>;
  /** Its tasks by what each follows, and what is used up of those that fall due by anything. */
  readonly tasks: readonly TaskInForce[];
  readonly due: readonly DueTask[];
  readonly upkeep: UpkeepGround;
  /** The rounds of the days to come, as every place has them. */
  readonly plan: Plan;
  readonly baseline: EventOf<"ladder"> | undefined;
  readonly condition: Condition | undefined;
  readonly openRound: OpenRound | undefined;
  /** Stations that are out of the machine, and since when (ms). */
  readonly out: ReadonlyMap<string, number>;
  /** Grades without what the open round has seen and done. */
  readonly gradesBefore: ReadonlyMap<string, GivenGrade>;
  /** Since when the power is turned down for test pulses (ms); undefined while it is as usual. */
  readonly turnedDownMs: number | undefined;
  /** Cases that are open, oldest first; the one opened last is in hand. */
  readonly openCases: readonly OpenCase[];
  readonly openCase: OpenCase | undefined;
  /** How often each fault ended a case of this workshop. */
  readonly found: { readonly cases: number; readonly faults: Readonly<Record<string, number>> };
  /** As its owner writes it after an amount; empty while nobody said. */
  readonly currency: string;
  /** The practice bench is at hand: simulated devices to try things with. */
  readonly hasBench: boolean;
  /** Checks that its owner cannot make on this machine. */
  readonly declined: readonly string[];
}

export async function findMachine(services: Services, slug: string): Promise<{ machine: Machine; machines: Machine[] }> {
  const machines = await listMachines(services.store);
  const machine = machines.find((m) => m.slug === slug);
  if (!machine) throw new NotHere(`There is no machine called "${slug}" here.`);
  return { machine, machines };
}

/** What follows from a machine's log at a moment: its counters, and what is due. */
interface InUse extends Projection {
  readonly counters: Usage;
  readonly materials: readonly Material[];
  readonly logStartMs: number;
  readonly tasks: readonly TaskInForce[];
  readonly due: readonly DueTask[];
  readonly upkeep: UpkeepGround;
  /** Looks that were taken for cases. */
  readonly looks: readonly Looked[];
}

async function inUse(services: Services, machine: Machine, nowMs: number): Promise<InUse> {
  // What must not be cut is offered nowhere.
  const materials = (await listMaterials(services.store, machine.id)).map((m) => (mayBeCut(m) ? m : { ...m, hidden: true }));
  const trade = tradeOf(machine);
  const projection = await projectionOf(services, machine.id, trade, materials);
  const { log } = projection;
  const counters = usageAt(projection.usage, nowMs);
  const logStartMs = Math.min(machine.createdMs, ...EVENT_KINDS.map((kind) => log.kinds[kind].at(0)?.atMs ?? machine.createdMs));
  const looks = await lookFindings(services.store, machine.id);
  const upkeep: UpkeepGround = {
    trade,
    log,
    usage: counters,
    materials,
    nowMs,
    upkeep: machine.fittings?.upkeep,
    looks: looks.flatMap((l) => lookOf(trade, l) ?? []),
  };
  const tasks = tasksInForce(upkeep);
  const asked = tasks.filter((t) => Object.keys(t.every).length > 0);
  return { ...projection, counters, materials, logStartMs, tasks, upkeep, looks, due: dueTasks(asked, log, counters, logStartMs, nowMs) };
}

/** A look of a case as a grade of a station; undefined for what grades none. */
function lookOf(trade: Trade, { check, outcome, atMs }: Looked): { station: string; grade: Grade; atMs: number } | undefined {
  const station = trade.layout.stations.find((s) => lookCheckOf(s) === check)?.id;
  const grade = GRADES.indexOf(outcome as GradeWord);
  return station === undefined || grade < 0 ? undefined : { station, grade: grade as Grade, atMs };
}
type Looked = Awaited<ReturnType<typeof lookFindings>>[number];

/** The round that is open, and whether the machine is apart for it. */
export interface OpenRound {
  readonly id: number;
  readonly title: string;
  readonly startedMs: number;
  readonly apart: boolean;
  /** A step of it turned the power down, and none has put it back. */
  readonly isTurnedDown: boolean;
  /** What was seen and done in it so far; it goes into the log when the round is ended. */
  readonly records: readonly RoundRecord[];
}

async function openRound(services: Services, machine: Machine): Promise<OpenRound | undefined> {
  const line = await openRoundOf(services.store, machine.id);
  const round = line && (await findRound(services.store, machine.id, line.id));
  if (!round) return undefined;
  const { steps } = planOfRound(tradeOf(machine), round);
  const limits = steps.flatMap((s) => (s.leaves?.limit && round.answers.get(s.id)?.done ? [s.leaves.limit] : []));
  return {
    id: round.id,
    title: round.title,
    startedMs: round.startedMs,
    apart: isApart(steps, round.answers),
    isTurnedDown: limits.at(-1) === "low",
    records: roundRecords(steps, round.answers),
  };
}

/** What is out of the machine, by the log and by the round that is open. */
function outOf(log: EventLog, trade: Trade, open: OpenRound | undefined): Map<string, number> {
  const out = new Map<string, number>();
  for (const { id } of trade.layout.stations) {
    const sinceMs = outSinceMs(log, id);
    if (sinceMs !== undefined) out.set(id, sinceMs);
  }
  for (const record of open?.records ?? []) {
    if (record.kind !== "service") continue;
    if (record.payload.what === "taken-out") out.set(record.payload.station, record.atMs);
    if (record.payload.what === "put-back" || record.payload.what === "replaced") out.delete(record.payload.station);
  }
  return out;
}

/** Since when the power is turned down: for marks that are being made, or by a step of the open round. */
async function turnedDownMs(services: Services, machine: Machine, open: OpenRound | undefined): Promise<number | undefined> {
  const sitting = await openSittingOf(services.store, machine.id);
  return sitting?.startedMs ?? (open?.isTurnedDown ? open.startedMs : undefined);
}

/** A case that is open, with what was done and what nobody knows in it. */
export interface OpenCase extends TraceCase {
  /** Its own rounds that mended something and did not bring it back, in the order they ended. */
  readonly mended: readonly MendedRound[];
  /** Checks nobody knows the answer of in it. */
  readonly unknown: readonly string[];
}

const openCases = async (services: Services, machine: Machine): Promise<OpenCase[]> =>
  Promise.all(
    (await openCasesOf(services.store, machine.id)).map(async (c) => ({
      ...c,
      mended: await mendedIn(services, machine, c),
      unknown: (await readSetting<string[]>(services.store, unknownSetting(c.id))) ?? [],
    })),
  );

/** A repair round of an open case: what it mended, when it was begun and when it ended. */
export interface MendedRound {
  readonly roundId: number;
  readonly startedMs: number;
  readonly endedMs: number;
  readonly repairs: readonly string[];
}

/** Rounds of a case that ended while the case went on. */
async function mendedIn(services: Services, machine: Machine, openCase: TraceCase): Promise<MendedRound[]> {
  const trade = tradeOf(machine);
  const ended = (await roundsOfCase(services.store, machine.id, openCase)).filter((r) => r.status !== "open");
  const rounds = await Promise.all(ended.map((r) => findRound(services.store, machine.id, r.id)));
  return rounds
    .flatMap((round) =>
      round?.endedMs === undefined
        ? []
        : [{ roundId: round.id, startedMs: round.startedMs, endedMs: round.endedMs, repairs: repairsDone(trade, round) }],
    )
    .filter((r) => r.repairs.length > 0)
    .sort((a, b) => a.endedMs - b.endedMs);
}

/** What matters most about a machine, without its condition. */
export interface MachineState extends Pick<Gathered, "trade" | "grades" | "nowMs" | "out" | "turnedDownMs"> {
  readonly openRound: OpenRound | undefined;
  readonly openCases: readonly TraceCase[];
  readonly due: readonly DueTask[];
}

export async function stateOf(services: Services, machine: Machine): Promise<MachineState> {
  const nowMs = services.nowMs();
  const [{ due, log, trade, looks }, open, cases] = await Promise.all([
    inUse(services, machine, nowMs),
    openRound(services, machine),
    openCasesOf(services.store, machine.id),
  ]);
  const grades = gradesAfter(gradesOf(log, trade, looks), open?.records ?? [], trade.stepOf);
  const out = outOf(log, trade, open);
  return { trade, nowMs, grades, out, turnedDownMs: await turnedDownMs(services, machine, open), openRound: open, openCases: cases, due };
}

export async function gather(services: Services, slug: string): Promise<Gathered> {
  const { machine, machines } = await findMachine(services, slug);
  const nowMs = services.nowMs();
  const [use, open, cases] = await Promise.all([
    inUse(services, machine, nowMs),
    openRound(services, machine),
    openCases(services, machine),
  ]);
  const { log, trade, counters, materials } = use;
  const baseline = referenceBaseline(log);
  // Seen from an earlier moment the counters are others, and so is the dirt at a ladder.
  const fouling = isKnownAt(use.usage, nowMs) ? use.fouling : new Map<MachineEvent, readonly number[]>();
  const faulty = await faultSpans(services.store, machine.id);
  const betas = new Map(materials.map((m) => [m.id, m.beta]));
  const betaOf = (id: number) => betas.get(id) ?? 1;
  const evidence: Evidence = { trade, log, usage: counters, ladders: use.ladders.readings, nowMs, fouling, betaOf, faulty };
  let condition: Condition | undefined;
  let plan: Plan | undefined;
  const gradesBefore = gradesOf(log, trade, use.looks);
  const whole: Gathered = {
    ...evidence,
    machine,
    machines,
    materials,
    logStartMs: use.logStartMs,
    doses: new Map(trade.layout.stations.map((s) => [s.id, doseSinceClean(counters, log, s.id, nowMs)])),
    grades: gradesAfter(gradesBefore, open?.records ?? [], trade.stepOf),
    gradesBefore,
    due: use.due,
    tasks: use.tasks,
    upkeep: use.upkeep,
    get plan() {
      plan ??= planned(services, whole).plan;
      return plan;
    },
    baseline,
    // The one costly figure: worked out when a place asks for it, once.
    get condition() {
      condition ??= baseline && conditionAt(evidence, baseline, nowMs, firstOnsetMs(cases));
      return condition;
    },
    openRound: open,
    out: outOf(log, trade, open),
    turnedDownMs: await turnedDownMs(services, machine, open),
    openCases: cases,
    openCase: cases.at(-1),
    found: await foundFaults(services.store),
    currency: (await readSetting<string>(services.store, CURRENCY)) ?? "",
    hasBench: (await readSetting<boolean>(services.store, BENCH)) === true,
    declined: (await readSetting<string[]>(services.store, declinedSetting(machine.id))) ?? [],
  };
  return whole;
}

/** Setting that puts the practice bench at hand. */
export const BENCH = "practice-bench";

/** Setting that keeps the workshop's currency. */
export const CURRENCY = "currency";

/** Settings that keep which checks cannot be made on a machine, and what nobody knows in a case. */
export const declinedSetting = (machineId: number): string => `declined-checks-${machineId}`;
export const unknownSetting = (caseId: number): string => `unknown-checks-case-${caseId}`;

/** Since when something is wrong with the light that nobody has found yet; undefined while nothing is. */
function firstOnsetMs(cases: readonly TraceCase[]): number | undefined {
  return cases.length === 0 ? undefined : Math.min(...cases.map((c) => c.onsetMs));
}

/**
 * What stands at each station: a look taken in a trace is as good as one in a round, and outlives its case. What the open round has seen and
 * done counts on top of it as soon as it is answered, though it is in the log only once the round is ended.
 */
function gradesOf(log: EventLog, trade: Trade, looks: readonly Looked[]): Map<string, GivenGrade> {
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

const perRequest = new WeakMap<Services, Map<string, Promise<Gathered>>>();

/** The same for loaders, which all run within one request: gathered once. Actions call `gather` and see their own writes. */
export function gatherOnce(services: Services, slug: string): Promise<Gathered> {
  const known = perRequest.get(services) ?? new Map<string, Promise<Gathered>>();
  perRequest.set(services, known);
  const gathered = known.get(slug) ?? gather(services, slug);
  known.set(slug, gathered);
  return gathered;
}

/** Findings of a case that were not taken back. */
export async function standingFindings(services: Services, caseId: number): Promise<Finding[]> {
  return (await listFindings(services.store, caseId)).filter((f) => !f.withdrawn);
}
