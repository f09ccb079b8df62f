/** The trade's data made ready for one machine: its trace model, tasks and procedures, by its own path and fittings. */
import { matrix } from "#catalog/agents";
import { checkTemplates } from "#catalog/checks";
import { faultTemplates } from "#catalog/faults";
import { INTERVAL_PLY_HOURS, type Layout, layouts, SYSTEM_NAMES } from "#catalog/layouts";
import * as catalog from "#catalog/procedures";
import { repairTemplates } from "#catalog/repairs";
import { OPEN_BUCKET_CHANGE_DAYS, opticTasks, systemTasks, type Task } from "#catalog/tasks";
import { type Fittings, headMirrorOf, mirrorNumberOf, type PathStation, standing, traceSpec } from "#core/machine";
import {
  accessKey,
  holds,
  minutesOf,
  type Procedure,
  type ProcedureSpec,
  planRound,
  type RoundFrame,
  type RoundPlan,
  resolveProcedure,
  resolveStep,
  type Situation,
  type Step,
  type StepSpec,
  type Subject,
} from "#core/rounds";
import { expandModel, type LayoutSpec, type TraceModel } from "#core/trace";

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
  const key = JSON.stringify([machine.layout, machine.path, machine.fittings]);
  const known = built.get(key);
  if (known) return known;
  const trade = build(machine);
  if (built.size >= KEPT) built.delete(built.keys().next().value as string);
  built.set(key, trade);
  return trade;
}

export function startingLayout(id: string): Layout {
  const layout = layouts[id];
  if (!layout) throw new RangeError(`no layout ${id}`);
  return layout;
}

function build(machine: MachineShape): Trade {
  const start = startingLayout(machine.layout);
  const path = machine.path ?? start.path;
  const fittings = machine.fittings ?? start.fittings;
  const spec = traceSpec({ id: start.id, path, fittings, beamRadiusMm: start.beamRadiusMm }, INTERVAL_PLY_HOURS);
  const names = { ...SYSTEM_NAMES, ...Object.fromEntries(path.map((s) => [s.id, s.name])) };
  const situation: Situation = {
    fittings,
    movingHead: standing(path).some((s) => s.role === "lens" && s.mount === "sliding-bore"),
    matrix,
    surfaceOf,
  };
  const procedures = proceduresOf(path, situation);
  return {
    layout: { ...spec, names, path, fittings },
    model: expandModel(spec, faultTemplates, checkTemplates, repairTemplates),
    tasks: tasksOf(path, fittings, procedures),
    procedures,
    frame: frameFor(path, situation),
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
    default:
      return "nozzle-metal";
  }
}

function proceduresOf(path: readonly PathStation[], situation: Situation): Map<string, Procedure> {
  const all = new Map<string, Procedure>();
  const head = headMirrorOf(path);
  const add = (spec: ProcedureSpec, subject: Subject) => {
    const procedure = resolveProcedure(spec, situation, subject);
    if (procedure && procedure.steps.length > 0) all.set(subject.part, procedure);
  };
  const stationSpecs = {
    window: catalog.exitWindow,
    "side-window": catalog.sideWindow,
    lens: catalog.lens,
    nozzle: catalog.nozzle,
  } as const;
  for (const station of standing(path)) {
    const subject = { part: station.id, name: station.name, station, isHead: station === head };
    if (station.role === "mirror") {
      add(catalog.mirror, subject);
      add(catalog.mirrorLook, { ...subject, part: `${station.id}-look` });
    } else if (station.role !== "tube") add(stationSpecs[station.role], subject);
    if (station.role === "lens") add(catalog.lensLook, { ...subject, part: "lens-look" });
  }
  for (const spec of catalog.systemProcedures) add(spec, { part: spec.id, name: spec.name });
  for (const spec of catalog.repairSpecs) {
    if (!spec.id.endsWith("@k")) {
      const station = standing(path).find((s) => s.id === spec.station);
      add(spec, { part: spec.id, name: station?.name ?? spec.name, station });
      continue;
    }
    for (const station of standing(path)) {
      const k = mirrorNumberOf(station.id);
      if (k !== undefined) add(spec, { part: spec.id.replace("@k", `@${k}`), name: station.name, station, isHead: station === head });
      if (station.role === "tube" && spec.id === "aim@k") add(spec, { part: "aim@0", name: station.name, station });
    }
  }
  return all;
}

/** The frame's steps as they stand on one machine. */
function frameFor(path: readonly PathStation[], situation: Situation): RoundFrame {
  const lens = standing(path).find((s) => s.role === "lens");
  const step = (spec: StepSpec, name: string, station?: PathStation): Step =>
    resolveStep(spec, situation, { part: "", name, station }, "", spec.station);
  const list = (specs: readonly StepSpec[], name: string): Step[] =>
    specs.filter((spec) => holds(spec.when, situation, { part: "", name })).map((spec) => step(spec, name));
  const { frameSteps: f, focusSteps } = catalog;
  const powered = situation.fittings.extras.includes("autofocus");
  return {
    makeSafe: step(f.makeSafe, "Make safe"),
    fetch: step(f.fetch, "Fetch and lay out"),
    hands: step(f.hands, "Hands"),
    openPanel: step(f.openPanel, "{Panel}"),
    closePanel: step(f.closePanel, "Covers"),
    openHead: list(catalog.openHead, "Head open"),
    closeHead: list(catalog.closeHead, "Together again"),
    wayRound: step(f.wayRound, "Together again"),
    focus: powered
      ? { when: "powered", step: step(focusSteps.autofocus, "Focus", lens) }
      : { when: "unplugged", step: step(focusSteps.gauge, "Together again", lens) },
    powerOn: step(f.powerOn, "Power on"),
    dryingSeconds: 600,
    afterPower: list(catalog.afterPower, "Power on"),
    afterHead: list(catalog.afterHead, "Power on"),
    aimCheck: step(f.aimCheck, "Aim"),
    powerBack: step(f.powerBack, "Power back"),
    proof: step(f.proof, "Proof"),
    piece: step(f.piece, "Proof"),
  };
}

function tasksOf(path: readonly PathStation[], fittings: Fittings, procedures: ReadonlyMap<string, Procedure>): Task[] {
  const head = headMirrorOf(path);
  const { school } = fittings;
  const optic = (s: PathStation) => {
    if (s.role === "lens" || s.role === "nozzle" || s.role === "window") return opticTasks[s.role];
    if (s.enclosed) return opticTasks.enclosed;
    if (s.role === "side-window") return opticTasks.sideWindow;
    return s === head ? opticTasks.headMirror : opticTasks.backMirror;
  };
  const stations = standing(path)
    .filter((s) => s.role !== "tube")
    .flatMap((s): Task[] => {
      const procedure = procedures.get(s.id);
      const template = optic(s);
      if (!procedure) return [];
      return [
        {
          id: s.id,
          station: s.id,
          name: s.name,
          does: template.does,
          every: template.every[school],
          minutes: minutesOf(procedure.steps),
          access: accessKey(procedure) ?? s.id,
          reason: template.reason,
        },
      ];
    });
  // Lens first, then back to the tube: dirt is worst at the head.
  const place = (id: string) => (id === "lens" ? -2 : id === "nozzle" ? -1 : 0);
  stations.reverse().sort((a, b) => place(a.id) - place(b.id));
  const systems = systemTasks.flatMap((t): Task[] => {
    const procedure = procedures.get(t.part);
    const station = procedure?.steps.find((s) => s.service)?.station;
    const bucket = t.part === "coolant-change" && fittings.cooling === "bucket";
    const every = bucket ? { days: OPEN_BUCKET_CHANGE_DAYS[school] } : t.every[school];
    if (!procedure || !station || !every) return [];
    return [
      {
        id: t.part,
        station,
        name: procedure.name,
        does: t.does,
        every,
        minutes: minutesOf(procedure.steps),
        access: procedure.area,
        reason: t.reason,
        tasks: [t.part],
        plain: PLAIN_TASKS.has(t.part),
      },
    ];
  });
  return [...stations, ...systems];
}

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

/** The procedure behind a part of a round: a station to clean, a system, or a repair. */
export function procedureOf(trade: Trade, part: string): Procedure | undefined {
  return trade.procedures.get(part);
}

/** Parts that carry out a repair named by a trace, on this machine. */
export function partsOfRepair(trade: Trade, repair: string): string[] {
  const k = /@(\d+)$/.exec(repair)?.[1] ?? "";
  const parts = catalog.repairParts[repair] ?? catalog.repairParts[repair.replace(/@\d+$/, "@k")];
  const own = parts?.map((p) => p.replace("@k", k)).filter((p) => trade.procedures.has(p)) ?? [];
  return own.length > 0 ? own : [repair];
}

export type OpticsDirection = "head-first" | "tube-first";

/** The plan of a round of some parts. Optics go in the machine's own direction; where it leaves that open, in the one asked for. */
export function planOf(trade: Trade, parts: readonly string[], direction: OpticsDirection = "head-first"): RoundPlan {
  const { opticsOrder } = trade.layout.fittings;
  const known = parts.flatMap((p) => (trade.procedures.has(p) ? [p] : partsOfRepair(trade, p)));
  const procedures = [...new Set(known)].map((p) => procedureOf(trade, p)).filter((p): p is Procedure => p !== undefined);
  return planRound(procedures, trade.frame, {
    order: opticsOrder === "by-scope" ? direction : opticsOrder,
    path: trade.layout.stations.map((s) => s.id),
  });
}

/** The plan a round is walked by: the one it was started with; rounds older than kept plans are planned anew. */
export function planOfRound(trade: Trade, round: { readonly plan: RoundPlan | undefined; readonly parts: readonly string[] }): RoundPlan {
  return round.plan ?? planOf(trade, round.parts);
}

/** Parts of a scope that this machine has, those that wait until they are due by what is due now. */
export function partsOfScope(trade: Trade, scope: catalog.Scope, due: ReadonlySet<string>): string[] {
  const path = trade.layout.path;
  const head = headMirrorOf(path);
  const mirrors = standing(path).filter((s) => s.role === "mirror");
  const parts = scope.parts.flatMap((p): string[] => {
    if (p === "@head") return head && !head.enclosed ? [head.id] : [];
    if (p === "@head-look") return head && !head.enclosed ? [`${head.id}-look`] : [];
    if (p === "@open") return mirrors.filter((s) => !s.enclosed).map((s) => s.id);
    if (p === "@mirrors") return mirrors.map((s) => s.id);
    if (p.endsWith("?")) return due.has(p.slice(0, -1)) ? [p.slice(0, -1)] : [];
    return [p];
  });
  return [...new Set(parts)].filter((p) => trade.procedures.has(p));
}

/** The standing round: lens, nozzle and a head mirror that stands in the smoke with them. */
export function headParts(trade: Trade): string[] {
  const head = headMirrorOf(trade.layout.path);
  return ["lens", "nozzle", ...(head && !head.enclosed ? [head.id] : [])].filter((p) => trade.procedures.has(p));
}

/** What a round of these parts is called. */
export function titleOf(trade: Trade, parts: readonly string[]): string {
  const head = headParts(trade);
  const mirror = head[2];
  if (mirror && parts.length === head.length && head.every((p) => parts.includes(p))) return "Lens and head mirror";
  const names = [...new Set(parts.map((p) => procedureOf(trade, p)?.name ?? p))];
  return names.length > 3 ? `${names.slice(0, 2).join(", ")} and ${names.length - 2} more` : names.join(", ");
}
