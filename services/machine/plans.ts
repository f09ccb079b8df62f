/** Parts of a round on one machine: which a scope or a repair takes, what they bring along, and the plan they make. */

import type { Scope } from "#catalog/procedures";
import { repairOf } from "#catalog/subjects/index";
import { headMirrorOf, ofCatalog, parseId, partFor, standing } from "#core/machine";
import { allOf, type GivenGrade, type Need, type Procedure, planRound, type RoundPlan, type Step } from "#core/rounds";
import { askedFor, together } from "./together";
import type { Trade } from "./trade";

/** Ends the id of a part that a look in the same round has to ask for. */
const ASKED = "+";

/** The procedure behind a part of a round: a station to clean, a system, or a repair. */
export function procedureOf(trade: Trade, part: string): Procedure | undefined {
  return trade.procedures.get(part.endsWith(ASKED) ? part.slice(0, -1) : part);
}

/** Whether a part is there and an owner's to do: what lies behind a panel that is not for owners is booked. */
export function isOwners(trade: Trade, part: string): boolean {
  const procedure = procedureOf(trade, part);
  return procedure !== undefined && procedure.byOthers !== true;
}

/** Parts that carry out a repair named by a trace, on this machine. */
export function partsOfRepair(trade: Trade, repair: string): string[] {
  const { mirror } = parseId(repair);
  const { parts } = repairOf(ofCatalog(repair)) ?? {};
  const own = parts?.map((p) => partFor(p, mirror)).filter((p) => trade.procedures.has(p)) ?? [];
  return own.length > 0 ? own : [repair];
}

export type OpticsDirection = "head-first" | "tube-first";

/** What a plan of a round goes by besides its parts. */
export interface PlanWishes {
  readonly direction?: OpticsDirection;
  /** A repair of a case: shown by a ladder. */
  readonly isRepair?: boolean;
  /** What parts were last seen as. */
  readonly grades?: ReadonlyMap<string, GivenGrade>;
  /** Stations that are out of the machine. */
  readonly out?: ReadonlyMap<string, number>;
}

/** The plan of a round of some parts. Optics go in the machine's own direction; where it leaves that open, in the one asked for. */
export function planOf(trade: Trade, parts: readonly string[], wishes: PlanWishes = {}): RoundPlan {
  const { opticsOrder } = trade.layout.fittings;
  const asked = parts.flatMap((p) => (procedureOf(trade, p) ? [p] : partsOfRepair(trade, p)));
  const known = [...new Set([...asked, ...lookedAtAgain(trade, asked, wishes.grades)])];
  return planRound(together(trade, withLensOut(trade, known)), trade.frame, {
    order: opticsOrder === "by-scope" ? (wishes.direction ?? "head-first") : opticsOrder,
    path: trade.layout.stations.map((s) => s.id),
    known: new Map([...(wishes.grades ?? [])].map(([station, { grade }]) => [station, grade])),
    weighed: wishes.isRepair ?? false,
    out: new Set(wishes.out?.keys()),
  });
}

/** What was seen to fail so that nothing may be fired is looked at again by whoever works on it: a clean alone does not lift that. */
function lookedAtAgain(trade: Trade, parts: readonly string[], grades: PlanWishes["grades"] = new Map()): string[] {
  const worksOn = (station: string) => parts.some((p) => procedureOf(trade, p)?.steps.some((s) => s.station === station));
  const standing = [...grades].flatMap(([station, given]) => allOf(given).map((one) => ({ station, ...one })));
  return standing.flatMap(({ station, stops, step }) => {
    const part = stops && step?.includes(".") ? step.slice(0, step.indexOf(".")) : undefined;
    return part !== undefined && trade.procedures.has(part) && worksOn(station) ? [part] : [];
  });
}

/** A lens that was seen damaged comes out as well: its spare goes in. */
const lookNeed = (part: string): Need => ({ step: `${part}-look.look`, grades: part === "nozzle" ? [2, 3] : [1, 4] });
const isLook = (step: Step) => step.kind === "grade" && step.when === undefined;

/**
 * The procedures of some parts, with what they bring along: nothing is cleaned above or below a seated lens, so the lens comes out for the
 * nozzle and the head mirror.
 */
function withLensOut(trade: Trade, parts: readonly string[]): Procedure[] {
  const chosen = new Set(parts);
  const repairs = [...chosen].filter((p) => p !== "lens" && trade.procedures.get(p)?.lensOut);
  // A new lens is not cleaned first; one that is cleaned is seated anew anyway.
  const kept = repairs.includes("replace-lens") ? ["replace-lens"] : chosen.has("lens") ? ["lens"] : repairs.slice(0, 1);
  for (const p of [...repairs, "lens"]) if (!kept.includes(p)) chosen.delete(p);
  if (kept.length > 0) chosen.delete(`lens${ASKED}`);
  const needs: Need[] = [];
  let always = false;
  const procedures = [...chosen].flatMap((part): Procedure[] => {
    const base = part.endsWith(ASKED) ? part.slice(0, -1) : undefined;
    const procedure = procedureOf(trade, part);
    if (!procedure || (base !== undefined && (chosen.has(base) || !chosen.has(`${base}-look`)))) return [];
    if (base === "lens") {
      needs.push(lookNeed(base));
      return [];
    }
    const own = base === undefined ? procedure : askedFor(procedure, [lookNeed(base)]);
    if (own.area === "optics" && !own.lensOut && (own.opensHead || own.atHead)) {
      const work = own.steps.filter((s) => !isLook(s));
      always ||= work.some((s) => s.when === undefined);
      needs.push(
        ...work
          .flatMap((s) => s.when ?? [])
          .filter((n) => own.steps.some((s) => s.id === n.step && s.when === undefined) || n.step.includes("-look.")),
      );
    }
    return [own];
  });
  const lens = kept.length === 0 ? trade.procedures.get("lens") : undefined;
  if (lens && always) procedures.push(lens);
  else if (lens && needs.length > 0) procedures.push(askedFor(lens, needs));
  return procedures;
}

/** The plan a round is walked by: the one it was started with; rounds older than kept plans are planned anew. */
export function planOfRound(trade: Trade, round: { readonly plan: RoundPlan | undefined; readonly parts: readonly string[] }): RoundPlan {
  return round.plan ?? planOf(trade, round.parts);
}

/** Parts of a scope that this machine has, those that wait until they are due by what is due now. */
export function partsOfScope(trade: Trade, scope: Scope, due: ReadonlySet<string>): string[] {
  const path = trade.layout.path;
  const head = headMirrorOf(path);
  const mirrors = standing(path).filter((s) => s.role === "mirror");
  const parts = scope.parts.flatMap((p): string[] => {
    if (p === "@head") return head && !head.enclosed ? [head.id] : [];
    if (p === "@open") return mirrors.filter((s) => !s.enclosed).map((s) => s.id);
    if (p === "@mirrors") return mirrors.map((s) => s.id);
    if (p === "@window") return standing(path).some((s) => s.id === "side-window" && !s.enclosed) ? ["side-window"] : [];
    if (p.endsWith("?")) return due.has(p.slice(0, -1)) ? [p.slice(0, -1)] : [];
    return [p];
  });
  return [...new Set(parts)].filter((p) => isOwners(trade, p));
}

/** The standing round: lens, nozzle and a head mirror that stands in the smoke with them. */
export function headParts(trade: Trade): string[] {
  const head = headMirrorOf(trade.layout.path);
  return ["lens", "nozzle", ...(head && !head.enclosed ? [head.id] : [])].filter((p) => isOwners(trade, p));
}

/** What a round of these parts is called. */
export function titleOf(trade: Trade, parts: readonly string[]): string {
  const head = headParts(trade);
  const mirror = head[2];
  if (mirror && parts.length === head.length && head.every((p) => parts.includes(p))) return "Lens and head mirror";
  const names = [...new Set(parts.map((p) => procedureOf(trade, p)?.name ?? p))];
  return names.length > 3 ? `${names.slice(0, 2).join(", ")} and ${names.length - 2} more` : names.join(", ");
}
