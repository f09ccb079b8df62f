/** Gathers what is known of one machine from the store and asks the core what follows from it. Every place's loader starts here. */
import type { AppLoadContext } from "react-router";
import { data } from "react-router";
import { materialKinds } from "#catalog/materials";
import { GRADES, type Grade, type GradeWord } from "#core/beam";
import { type EffectiveRatio, effectiveRatio, readLadder } from "#core/cuts";
import { countUpTo, currentEvents, type EventOf, eventsOf, type MachineEvent } from "#core/events";
import { type DueTask, doseSinceClean, dueTasks, type Usage, usageFrom } from "#core/schedule";
import { type Condition, estimateCondition, foulingOf, type WearReading } from "#core/wear";
import { type Finding, listCases, listFindings, type TraceCase } from "#store/cases";
import { listEvents } from "#store/events";
import { listMachines, listMaterials, type Machine, type Material } from "#store/machines";
import { listRounds, type RoundLine } from "#store/rounds";
import { type Trade, tradeOf } from "./trade";

/** A ladder set against its baseline. */
export interface LadderReading {
  readonly event: EventOf<"ladder">;
  readonly material: Material | undefined;
  readonly effective: EffectiveRatio;
}

export interface Gathered {
  readonly machine: Machine;
  readonly machines: readonly Machine[];
  readonly trade: Trade;
  readonly materials: readonly Material[];
  /** The raw log and the log after corrections. */
  readonly history: readonly MachineEvent[];
  readonly events: readonly MachineEvent[];
  readonly usage: Usage;
  readonly nowMs: number;
  readonly logStartMs: number;
  readonly doses: ReadonlyMap<string, number>;
  /** Last grade of each station, with when it was given. */
  readonly grades: ReadonlyMap<string, { readonly grade: Grade; readonly atMs: number }>;
  readonly due: readonly DueTask[];
  readonly ladders: readonly LadderReading[];
  readonly baseline: EventOf<"ladder"> | undefined;
  readonly condition: Condition | undefined;
  readonly rounds: readonly RoundLine[];
  readonly openRound: RoundLine | undefined;
  readonly cases: readonly TraceCase[];
  readonly openCase: TraceCase | undefined;
}

export async function findMachine(context: AppLoadContext, slug: string): Promise<{ machine: Machine; machines: Machine[] }> {
  const machines = await listMachines(context.store);
  const machine = machines.find((m) => m.slug === slug);
  if (!machine) throw data(`There is no machine called "${slug}" here.`, { status: 404 });
  return { machine, machines };
}

/** The newest baseline ladder of a material at a time, in the corrected log. */
export function baselineFor(events: readonly MachineEvent[], materialId: number, atMs: number): EventOf<"ladder"> | undefined {
  let known = baselines.get(events);
  if (!known) {
    known = new Map();
    for (const e of eventsOf(events, "ladder")) {
      if (!e.payload.baseline) continue;
      const own = known.get(e.payload.materialId) ?? { ladders: [], times: [] };
      known.set(e.payload.materialId, own);
      own.ladders.push(e);
      own.times.push(e.atMs);
    }
    baselines.set(events, known);
  }
  const own = known.get(materialId);
  return own?.ladders[countUpTo(own.times, atMs) - 1];
}

/** Baseline ladders by material, looked up in a log once. */
const baselines = new WeakMap<readonly MachineEvent[], Map<number, { ladders: EventOf<"ladder">[]; times: number[] }>>();

const pointOf = (ladder: EventOf<"ladder">) => ({ result: readLadder(ladder.payload.rungs), setPercent: ladder.payload.setPercent });

/** Every ladder against the baseline that held when it was cut. */
function readLadders(events: readonly MachineEvent[], materials: readonly Material[]): LadderReading[] {
  return eventsOf(events, "ladder").map((event) => {
    const material = materials.find((m) => m.id === event.payload.materialId);
    const base = baselineFor(events, event.payload.materialId, event.atMs);
    const effective: EffectiveRatio = base
      ? effectiveRatio(pointOf(event), pointOf(base), material?.beta ?? 1)
      : { kind: "none", reason: "no baseline ladder of this material yet" };
    return { event, material, effective };
  });
}

/** Expected fouling loss over the whole path at a time, in ln power, at default rates. */
export function foulingAt(trade: Trade, events: readonly MachineEvent[], usage: Usage, atMs: number): number {
  return Object.entries(trade.layout.intervalPlyHours)
    .filter(([station]) => station !== "nozzle")
    .reduce((sum, [station, interval]) => sum + foulingOf(doseSinceClean(usage, events, station, atMs), interval), 0);
}

/** What the ladders between two times say, each with the use behind it, for the estimate of wear. */
export function wearReadings(
  g: Pick<Gathered, "trade" | "events" | "usage" | "ladders">,
  baseline: EventOf<"ladder">,
  untilMs: number,
  serviceMs: number,
): WearReading[] {
  const baseHours = g.usage.tubeHoursAt(baseline.atMs) ?? 0;
  const baseFouling = foulingAt(g.trade, g.events, g.usage, baseline.atMs);
  return g.ladders.flatMap(({ event, effective, material }) => {
    const read = readLadder(event.payload.rungs);
    if (effective.kind !== "ratio" || read.kind !== "estimate" || event.id === baseline.id) return [];
    if (event.atMs < baseline.atMs || event.atMs > untilMs) return [];
    return [
      {
        lnRatio: Math.log(effective.ratio),
        se: (material?.beta ?? 1) * read.seLn,
        hoursSinceBaseline: Math.max(0, (g.usage.tubeHoursAt(event.atMs) ?? baseHours) - baseHours),
        fouling: Math.max(0, foulingAt(g.trade, g.events, g.usage, event.atMs) - baseFouling),
        sinceService: event.atMs >= serviceMs,
      },
    ];
  });
}

/** Condition at the present, told by the ladders up to a time. */
export function conditionAt(
  g: Pick<Gathered, "trade" | "events" | "usage" | "ladders" | "nowMs">,
  baseline: EventOf<"ladder">,
  untilMs: number,
  serviceMs: number,
): Condition {
  const read = readLadder(baseline.payload.rungs);
  const baseHours = g.usage.tubeHoursAt(baseline.atMs) ?? 0;
  const hours = Math.max(0, (g.usage.tubeHoursAt(g.nowMs) ?? baseHours) - baseHours);
  const fouling = foulingAt(g.trade, g.events, g.usage, g.nowMs) - foulingAt(g.trade, g.events, g.usage, baseline.atMs);
  return estimateCondition(
    wearReadings(g, baseline, untilMs, serviceMs),
    hours,
    Math.max(0, fouling),
    read.kind === "estimate" ? read.seLn : undefined,
  );
}

export async function gather(context: AppLoadContext, slug: string): Promise<Gathered> {
  const { machine, machines } = await findMachine(context, slug);
  const [history, materials, rounds, cases] = await Promise.all([
    listEvents(context.store, machine.id),
    listMaterials(context.store, machine.id),
    listRounds(context.store, machine.id),
    listCases(context.store, machine.id),
  ]);
  const openCase = cases.find((c) => c.closedMs === undefined);
  const looks = openCase ? (await standingFindings(context, openCase.id)).filter((f) => f.check.includes("-look")) : [];
  const nowMs = context.nowMs();
  const trade = tradeOf(machine);
  const events = currentEvents(history);
  const smoke = new Map(
    materials.map((m) => {
      const kind = materialKinds.find((k) => k.id === m.kind);
      return [m.id, { optics: m.smokeOptics ?? kind?.optics ?? 1, nozzle: m.smokeNozzle ?? kind?.nozzle ?? 1 }];
    }),
  );
  const usage = usageFrom(events, nowMs, { smoke });
  const logStartMs = Math.min(machine.createdMs, events[0]?.atMs ?? machine.createdMs);
  const ladders = readLadders(events, materials);
  const baseline = eventsOf(events, "ladder")
    .filter((e) => e.payload.baseline)
    .at(-1);
  // Since the last proof nothing was touched, so what the ladders show beyond wear still holds.
  const lastProofMs = Math.max(0, ...ladders.filter((l) => l.event.roundId !== undefined).map((l) => l.event.atMs));
  const grades = new Map<string, { grade: Grade; atMs: number }>();
  for (const e of eventsOf(events, "grade")) grades.set(e.payload.station, { grade: e.payload.grade as Grade, atMs: e.atMs });
  // A look taken in an open trace is as good as one in a round.
  for (const f of looks) {
    const station = f.check.replace("mirror-look@", "mirror-").replace(/-look$/, "");
    const grade = GRADES.indexOf(f.outcome as GradeWord);
    if (grade >= 0 && f.atMs > (grades.get(station)?.atMs ?? 0)) grades.set(station, { grade: grade as Grade, atMs: f.atMs });
  }

  let condition: Condition | undefined;
  return {
    machine,
    machines,
    trade,
    materials,
    history,
    events,
    usage,
    nowMs,
    logStartMs,
    doses: new Map(trade.layout.stations.map((s) => [s.id, doseSinceClean(usage, events, s.id, nowMs)])),
    grades,
    due: dueTasks(trade.tasks, events, usage, logStartMs, nowMs),
    ladders,
    baseline,
    // The one costly figure: worked out when a place asks for it, once.
    get condition() {
      condition ??= baseline && conditionAt({ trade, events, usage, ladders, nowMs }, baseline, nowMs, openCase?.onsetMs ?? lastProofMs);
      return condition;
    },
    rounds,
    openRound: rounds.find((r) => r.status === "open"),
    cases,
    openCase,
  };
}

const perRequest = new WeakMap<AppLoadContext, Map<string, Promise<Gathered>>>();

/** The same for loaders, which all run within one request: gathered once. Actions call `gather` and see their own writes. */
export function gatherOnce(context: AppLoadContext, slug: string): Promise<Gathered> {
  const known = perRequest.get(context) ?? new Map<string, Promise<Gathered>>();
  perRequest.set(context, known);
  const gathered = known.get(slug) ?? gather(context, slug);
  known.set(slug, gathered);
  return gathered;
}

/** Findings of a case that were not taken back. */
export async function standingFindings(context: AppLoadContext, caseId: number): Promise<Finding[]> {
  return (await listFindings(context.store, caseId)).filter((f) => !f.withdrawn);
}
