import { EVENT_KINDS, type MachineEvent } from "#core/events";
import type { Plan } from "#core/plan";
import { gradesAfter } from "#core/rounds";
import { type DueTask, doseSinceClean, dueTasks, isKnownAt, type Usage, usageAt } from "#core/schedule";
import type { Condition } from "#core/wear";
import { type Finding, faultSpans, foundFaults, listFindings, lookFindings, openCasesOf, type TraceCase } from "#store/cases";
import { listMachines, listMaterials, type Machine, type Material } from "#store/machines";
import { readSetting } from "#store/settings";
import type { Services } from "../context";
import { planned } from "../plan/planned";
import { NotHere } from "../refusal";
import { type TaskInForce, tasksInForce, type UpkeepGround } from "../upkeep/inForce";
import { conditionAt, type Evidence } from "./condition";
import type { Gathered, MachineState } from "./gathered";
import { gradesOf, type Looked, lookOf } from "./grades";
import { referenceBaseline } from "./ladders";
import { openCases } from "./openCases";
import { openRound, outOf, turnedDownMs } from "./openRound";
import { type Projection, projectionOf } from "./projection";
import { BENCH, CURRENCY, declinedSetting } from "./settingNames";
import { tradeOf } from "./trade";
import { mayBeCut } from "./usual";

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

/** Since when something is wrong with the light that nobody has found yet; undefined while nothing is. */
function firstOnsetMs(cases: readonly TraceCase[]): number | undefined {
  return cases.length === 0 ? undefined : Math.min(...cases.map((c) => c.onsetMs));
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
