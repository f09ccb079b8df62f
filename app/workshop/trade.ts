/** The trade's data made ready for one layout: its trace model, tasks and procedures. Built once per layout. */
import { checkTemplates } from "#catalog/checks";
import { faultTemplates } from "#catalog/faults";
import { type Layout, layouts } from "#catalog/layouts";
import { backMirror, cleaningRepairs, exitWindow, frame, headMirror, lens, nozzle, repairProcedures } from "#catalog/procedures";
import { repairTemplates } from "#catalog/repairs";
import { type Task, threeMirrorTasks } from "#catalog/tasks";
import { type Procedure, planRound, type RoundPlan } from "#core/rounds";
import { expandModel, type TraceModel } from "#core/trace";

export interface Trade {
  readonly layout: Layout;
  readonly model: TraceModel;
  readonly tasks: readonly Task[];
}

const built = new Map<string, Trade>();

/** Throws RangeError for a layout the catalog does not have. */
export function tradeOf(layoutId: string): Trade {
  const known = built.get(layoutId);
  if (known) return known;
  const layout = layouts[layoutId];
  if (!layout) throw new RangeError(`no layout ${layoutId}`);
  const trade = { layout, model: expandModel(layout, faultTemplates, checkTemplates, repairTemplates), tasks: threeMirrorTasks };
  built.set(layoutId, trade);
  return trade;
}

/** `mirror-3` and `clean-mirror@3` alike; undefined without a number. */
function mirrorNumber(id: string): number | undefined {
  const found = /(?:@|mirror-)(\d+)$/.exec(id);
  return found ? Number(found[1]) : undefined;
}

/** Fills a mirror's number and name into a procedure; number 0 is the tube itself. */
function forMirror(procedure: Procedure, id: string, k: number, name: string): Procedure {
  const named = (text: string) => text.replaceAll("{part}", name);
  return {
    ...procedure,
    id,
    name: named(procedure.name),
    steps: procedure.steps.map((step) => ({
      ...step,
      id: step.id.replace("@k", `@${k}`),
      part: named(step.part),
      title: named(step.title),
      text: named(step.text),
      station: step.station === "mirror-@k" ? (k === 0 ? "tube" : `mirror-${k}`) : step.station,
    })),
  };
}

/** The procedure behind a part of a round: a station to clean, or a repair. */
export function procedureOf(trade: Trade, part: string): Procedure | undefined {
  if (part === "lens") return lens;
  if (part === "nozzle") return nozzle;
  if (part === "window") return exitWindow;
  const k = mirrorNumber(part);
  if (part.startsWith("mirror-") && k !== undefined) {
    const mirrors = trade.layout.stations.filter((s) => s.role === "mirror").length;
    return forMirror(k === mirrors ? headMirror : backMirror, part, k, trade.layout.names[part] ?? part);
  }
  const template = repairProcedures[part] ?? repairProcedures[part.replace(/@\d+$/, "@k")];
  if (!template) return undefined;
  return k === undefined
    ? template
    : forMirror(template, part, k, k === 0 ? "the tube" : (trade.layout.names[`mirror-${k}`] ?? `mirror ${k}`));
}

/** Parts that carry out a repair named by a trace. */
export function partsOfRepair(repair: string): string[] {
  const k = mirrorNumber(repair);
  const plain = cleaningRepairs[repair] ?? cleaningRepairs[repair.replace(/@\d+$/, "@k")];
  return [plain === undefined ? repair : plain.replace("@k", `${k}`)];
}

export function planOf(trade: Trade, parts: readonly string[]): RoundPlan {
  return planRound(
    parts.map((p) => procedureOf(trade, p)).filter((p): p is Procedure => p !== undefined),
    frame,
  );
}

/** The standing round of a gantry machine: lens, nozzle and head mirror behind one access. */
export function headParts(trade: Trade): string[] {
  const mirrors = trade.layout.stations.filter((s) => s.role === "mirror").length;
  return ["lens", "nozzle", `mirror-${mirrors}`];
}

/** Tasks a round can carry out today; the others are due by the clock but have no walk-through yet. */
export function hasProcedure(trade: Trade, task: Task): boolean {
  return procedureOf(trade, partOfTask(task.id)) !== undefined;
}

/** Part of a round that carries out a task. */
export function partOfTask(taskId: string): string {
  const special: Record<string, string> = { rails: "clean-rails", exhaust: "clean-exhaust", coolant: "change-coolant" };
  return special[taskId] ?? taskId;
}
