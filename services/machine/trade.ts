/** The trade's data made ready for one machine: its trace model, tasks and procedures, by its own path and fittings. */

import { matrix } from "#catalog/agents";
import { type Layout, layouts } from "#catalog/layouts";
import * as catalog from "#catalog/procedures";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { SYSTEM_NAMES } from "#catalog/systems";
import { INTERVAL_PLY_HOURS, OPEN_BUCKET_CHANGE_DAYS, opticTasks, systemTasks, type Task, type TaskTemplate } from "#catalog/tasks";
import { STATION_ROLES } from "#core/beam";
import type { LayoutSpec } from "#core/machine";
import {
  type CarePlace,
  carePlaceOf,
  type Fittings,
  fittedOf,
  forMirror,
  headMirrorOf,
  holds,
  idAt,
  isForEach,
  mirrorNumberOf,
  type PathStation,
  parseId,
  standing,
  staysInPlace,
  traceSpec,
  tubeKindOf,
} from "#core/machine";
import {
  accessKey,
  minutesOf,
  type Procedure,
  type ProcedureSpec,
  type RoundFrame,
  resolveProcedure,
  resolveStep,
  type Situation,
  type Step,
  type StepSpec,
  type Subject,
} from "#core/rounds";
import type { Every } from "#core/schedule";
import { expandModel, type TraceModel } from "#core/trace";
import { unitHere, withUnit } from "../units";

export interface MachineLayout extends LayoutSpec {
  /** What an owner calls each station and system, hidden stations too: the log still speaks of them. */
  readonly names: Readonly<Record<string, string>>;
  readonly path: readonly PathStation[];
  readonly fittings: Fittings;
}

export interface Trade {
  readonly layout: MachineLayout;
  readonly model: TraceModel;
  readonly tasks: readonly Task[];
  /** Every part a round on this machine can have, by id. */
  readonly procedures: ReadonlyMap<string, Procedure>;
  readonly frame: RoundFrame;
  /** Every step a round may have, in any part or in the frame around them, and each by its id. */
  readonly steps: readonly Step[];
  readonly stepOf: (id: string) => Step | undefined;
}

/** What of a machine decides its trade. */
export interface MachineShape {
  readonly layout: string;
  readonly path?: readonly PathStation[] | undefined;
  readonly fittings?: Fittings | undefined;
}

const built = new Map<string, Trade>();
const KEPT = 24;

/** Built once per shape. Throws RangeError for a layout the catalog does not have. */
export function tradeOf(machine: MachineShape): Trade {
  // How often a machine is cared for is no part of what it is.
  const { upkeep: _, sums: __, ...fittings } = machine.fittings ?? {};
  const key = JSON.stringify([unitHere("mm"), machine.layout, machine.path, machine.fittings && fittings]);
  const known = built.get(key);
  if (known) return known;
  const trade = build(machine);
  if (built.size >= KEPT) built.delete(built.keys().next().value as string);
  built.set(key, trade);
  return trade;
}

export function startingLayout(id: string): Layout {
  const layout = Object.hasOwn(layouts, id) ? layouts[id] : undefined;
  if (!layout) throw new RangeError(`no layout ${id}`);
  return layout;
}

function build(machine: MachineShape): Trade {
  const start = startingLayout(machine.layout);
  const path = machine.path ?? start.path;
  const fittings = machine.fittings ?? start.fittings;
  const spec = traceSpec({ id: start.id, path, fittings, beamRadiusMm: start.beamRadiusMm }, INTERVAL_PLY_HOURS);
  const names = { ...SYSTEM_NAMES, ...Object.fromEntries(path.map((s) => [s.id, s.name])) };
  const fitted = fittedOf(path, fittings);
  const situation: Situation = {
    ...fitted,
    ...(Number.isFinite(fitted.boreMm) ? { boreWords: withUnit(fitted.boreMm, "mm", 2) } : {}),
    matrix,
    supplyWords: catalog.SUPPLY_WORDS[tubeKindOf(fittings)],
    surfaceOf,
  };
  const procedures = proceduresOf(path, situation);
  const frame = frameFor(path, situation);
  const steps = [
    ...[...procedures.values()].flatMap((p) => p.steps),
    ...Object.values(frame).flatMap((f) => (Array.isArray(f) ? f : typeof f === "object" && "id" in f ? [f] : [])),
  ];
  const byId = new Map(steps.map((s) => [s.id, s]));
  // A round needs none of it: the model of its faults is made when a case first asks.
  let model: TraceModel | undefined;
  return {
    layout: { ...spec, names, path, fittings },
    get model() {
      model ??= expandModel(spec, faultTemplates, checkTemplates, repairTemplates);
      return model;
    },
    tasks: tasksOf(path, fittings, procedures),
    procedures,
    frame,
    steps,
    stepOf: (id) => byId.get(id),
  };
}

/** Which rules of the agents' matrix hold for a station of the path. */
function surfaceOf(station: PathStation): string {
  switch (station.role) {
    case "window":
      return "exit-window";
    case "side-window":
      return "small-window";
    case "lens":
      return "znse-lens";
    case "mirror":
      return station.coating === "molybdenum" ? "molybdenum-mirror" : "coated-mirror";
    case "nozzle":
    case "tube":
      return "nozzle-metal";
  }
}

function proceduresOf(path: readonly PathStation[], situation: Situation): Map<string, Procedure> {
  const all = new Map<string, Procedure>();
  const head = headMirrorOf(path);
  const add = (spec: ProcedureSpec, subject: Subject) => {
    const byOthers = isClosed(path, subject.station, spec);
    const procedure = resolveProcedure(byOthers ? booked(spec) : spec, situation, subject);
    const isRepair = catalog.repairSpecs.includes(spec);
    if (procedure && procedure.steps.length > 0) all.set(subject.part, { ...procedure, isRepair, ...(byOthers ? { byOthers } : {}) });
  };
  const window = windowBehind(path);
  for (const station of standing(path)) {
    const behindMirror = station === window?.window;
    const subject = { part: station.id, name: station.name, station, isHead: station === head, behindMirror };
    const { clean, look } = catalog.stationProcedures[station.role];
    if (clean) add(clean, subject);
    if (look && !station.warranty) add(look, { ...subject, part: `${station.id}-look`, isHead: false });
  }
  for (const spec of catalog.systemProcedures) add(spec, { part: spec.id, name: spec.name });
  for (const spec of catalog.repairSpecs) {
    if (!isForEach(spec.id)) {
      const station = standing(path).find((s) => s.id === spec.station);
      // What the machine has not is not offered to be replaced.
      if (!station && isOnPath(spec.station)) continue;
      add(spec, { part: spec.id, name: station?.name ?? spec.name, station });
      continue;
    }
    for (const station of standing(path)) {
      const k = mirrorNumberOf(station.id);
      if (k !== undefined) add(spec, { part: forMirror(spec.id, k), name: station.name, station, isHead: station === head });
      if (station.role === "tube" && spec.id === "aim@k") add(spec, { part: "aim@0", name: station.name, station });
    }
  }
  return all;
}

/** Whether something stands on a path where a machine has it; what is off the path every machine has in some way. */
const isOnPath = (id: string): boolean => (STATION_ROLES as readonly string[]).includes(id);

/** An enclosed window right behind a mirror that comes out: its inner face is reached through that mirror's seat, and no other way. */
export function windowBehind(path: readonly PathStation[]): { readonly mirror: PathStation; readonly window: PathStation } | undefined {
  const stations = standing(path);
  const window = stations.find((s) => s.role === "side-window" && s.enclosed);
  const mirror = window && stations[stations.indexOf(window) - 1];
  return window && mirror?.role === "mirror" && mirror.enclosed && !staysInPlace(mirror) ? { mirror, window } : undefined;
}

/** Whether the work on a station lies behind a panel that is not for owners; its aim is read on tape at the mirror after it. */
function isClosed(path: readonly PathStation[], station: PathStation | undefined, spec: ProcedureSpec): boolean {
  if (!station) return false;
  const after = standing(path)
    .slice(standing(path).indexOf(station) + 1)
    .find((s) => s.role === "mirror");
  return station.warranty === true || (spec.id === "aim@k" && after?.warranty === true);
}

/** What is left of a procedure that is not for owners: to book it, and to say that it was done. */
function booked(spec: ProcedureSpec): ProcedureSpec {
  const services = spec.steps.flatMap((s) => s.service ?? []);
  const service = services.find((s) => s !== "seat-opened") ?? services[0];
  return {
    id: spec.id,
    name: spec.name,
    area: "running",
    station: spec.station,
    steps: [{ ...catalog.bookedStep, ...(service ? { service } : {}) }],
  };
}

/** The frame's steps as they stand on one machine. */
function frameFor(path: readonly PathStation[], situation: Situation): RoundFrame {
  const lens = standing(path).find((s) => s.role === "lens");
  const step = (spec: StepSpec, name: string, station?: PathStation): Step =>
    atHead(resolveStep(spec, situation, { part: "", name, station }, "", spec.station), path);
  const list = (specs: readonly StepSpec[], name: string, station?: PathStation): Step[] =>
    specs.filter((spec) => holds(spec.when, situation, { station })).map((spec) => step(spec, name, station));
  const { frameSteps: f, focusSteps } = catalog;
  const powered = situation.fittings.extras.includes("autofocus");
  return {
    readAir: situation.fittings.extras.includes("air-meter")
      ? { before: step(f.airBefore, "Airflow"), after: step(f.airAfter, "Airflow") }
      : undefined,
    makeSafe: step(f.makeSafe, "Make safe"),
    fetch: step(f.fetch, "Fetch and lay out"),
    hands: step(f.hands, "Hands"),
    openPanel: step(f.openPanel, "{Panel}"),
    closePanel: step(f.closePanel, "Covers"),
    openHead: list(catalog.openHead, "Head open", lens),
    closeHead: list(catalog.closeHead, "Together again"),
    focus: powered
      ? { when: "powered", step: step(focusSteps.autofocus, "Focus", lens) }
      : { when: "unplugged", step: step(focusSteps.gauge, "Together again", lens) },
    dry: step(f.dry, "Power on"),
    powerOn: step(f.powerOn, "Power on"),
    dryingSeconds: 600,
    afterPower: list(catalog.afterPower, "Power on"),
    aimCheck: step(f.aimCheck, "Alignment"),
    nearFar: step(f.nearFar, "Alignment"),
    block: step(f.block, "Final test"),
    powerBack: step(f.powerBack, "Power back"),
    proof: step(f.proof, "Final test"),
    piece: step(f.piece, "Final test"),
  };
}

/** What a step leads to at the head mirror is asked for by that mirror's number. */
function atHead(step: Step, path: readonly PathStation[]): Step {
  const k = mirrorNumberOf(headMirrorOf(path)?.id ?? "");
  if (!step.seen || k === undefined) return step;
  const own = (check: string) => (parseId(check).at === "head" ? idAt(parseId(check).base, k) : check);
  const seen = step.seen.map((o) => (o.trace ? { ...o, trace: { ...o.trace, check: own(o.trace.check) } } : o));
  return { ...step, seen };
}

function tasksOf(path: readonly PathStation[], fittings: Fittings, procedures: ReadonlyMap<string, Procedure>): Task[] {
  const { school } = fittings;
  const stations = standing(path).flatMap((s): Task[] => {
    const procedure = procedures.get(s.id);
    const place = carePlaceOf(path, s);
    if (!procedure || !place || procedure.byOthers) return [];
    const template = opticTasks[place];
    return [
      {
        id: s.id,
        station: s.id,
        name: s.name,
        does: template.does,
        every: template.every[school],
        schools: template.every,
        minutes: minutesOf(procedure.steps.filter((s) => s.when === undefined)),
        access: accessKey(procedure) ?? s.id,
        reason: template.reason,
        clearLookLeaves: CLEANED_BY_DOSE.has(place) ? 0.75 : 0,
      },
    ];
  });
  // Lens first, then back to the tube: dirt is worst at the head.
  const place = (id: string) => (id === "lens" ? -2 : id === "nozzle" ? -1 : 0);
  stations.reverse().sort((a, b) => place(a.id) - place(b.id));
  const systems = systemTasks.flatMap((t): Task[] => {
    const procedure = procedures.get(t.part);
    const station = procedure?.steps.find((s) => s.service)?.station;
    if (!procedure || !station) return [];
    const schools = {
      careful: everyOf(t, { ...fittings, school: "careful" }),
      "by-use": everyOf(t, { ...fittings, school: "by-use" }),
      minimal: everyOf(t, { ...fittings, school: "minimal" }),
    };
    return [
      {
        id: t.part,
        station,
        name: procedure.name,
        does: t.does,
        every: schools[school] ?? {},
        schools,
        minutes: minutesOf(procedure.steps.filter((s) => s.when === undefined)),
        access: procedure.area,
        reason: t.reason,
        ...(t.counts ? { counts: t.counts } : {}),
        ...(t.byOthers ? { byOthers: true } : {}),
        tasks: [t.part],
        plain: PLAIN_TASKS.has(t.part),
      },
    ];
  });
  return [...stations, ...systems];
}

/** How often a task of the systems falls due on this machine; undefined where it never does. */
function everyOf(task: TaskTemplate, { school, cooling, frostMonth }: Fittings): Every | undefined {
  if (task.part === "coolant-change" && cooling === "bucket") return { days: OPEN_BUCKET_CHANGE_DAYS[school] };
  if (!task.season || frostMonth === undefined) return task.every[school];
  if (frostMonth === 0) return undefined;
  return school === "careful" ? { ...task.every.careful, beforeMonth: frostMonth } : { beforeMonth: frostMonth };
}

/** In the smoke the dose goes on whatever a look says: it buys a quarter of the interval. Elsewhere the look is the task. */
const CLEANED_BY_DOSE: ReadonlySet<CarePlace> = new Set(["lens", "nozzle", "headMirror"]);

/** The task a bare "cleaned" at a system means. */
const PLAIN_TASKS: ReadonlySet<string> = new Set([
  "rails",
  "inline-fan",
  "cabinet-fan",
  "duct",
  "coolant-change",
  "tray",
  "cabinet",
  "fins",
  "camera",
  "encoder",
  "head-fan",
  "bed",
]);
