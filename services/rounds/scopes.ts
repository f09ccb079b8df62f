/** The scopes of a round on one machine, with what each takes and how long. */

import { type Scope, scopes } from "#catalog/procedures";
import { parseId } from "#core/machine";
import { minutesOf, sharedAccess } from "#core/rounds";
import type { Gathered } from "../machine/gathered";
import { type OpticsDirection, partsOfScope, planOf, procedureOf } from "../machine/plans";
import type { Trade } from "../machine/trade";
import { unmendedOf } from "../machine/unmended";
import { leftWords, number, wholeMinutes } from "../words";
import { offerOf } from "./offer";

export interface ScopeChoice {
  readonly id: string;
  readonly name: string;
  readonly why: string;
  readonly parts: readonly string[];
  readonly minutes: string;
  /** With all that a grade may ask for, and its drying. */
  readonly most: string;
  readonly order: OpticsDirection;
}

/** Parts a scope takes today: what was seen bad goes into every round until it is mended. */
function partsNow(g: Gathered, scope: Scope): string[] {
  const due = new Set(g.due.filter((d) => d.state === "due").map((d) => d.id));
  const bad = unmendedOf(g).flatMap((u) => (u.clean === undefined ? [] : [u.clean]));
  return [...new Set([...partsOfScope(g.trade, scope, due), ...bad])];
}

/** Parts of the five minutes of a day. */
export function dailyParts(g: Gathered): string[] {
  const daily = scopes.find((s) => s.id === "daily");
  return daily ? partsNow(g, daily) : [];
}

/** What is due first, then the fixed scopes that have something to do on this machine, and a choice of one's own. */
export function scopeChoices(g: Gathered): ScopeChoice[] {
  const due = offerOf(g);
  const fixed = scopes.map((s) => ({ id: s.id, name: s.name, why: s.why, parts: partsNow(g, s), order: s.order }));
  const all = [
    ...(due.urged
      ? [
          {
            id: "due",
            name: "What is due",
            why: due.lines.map((l) => `${l.name} ${l.due}`.trim()).join(" · "),
            parts: due.parts,
            order: "head-first" as const,
          },
        ]
      : []),
    ...fixed.filter((s) => s.parts.length > 0),
  ];
  return all.map((s) => {
    const { minutes, minutesMost = minutes } = planOf(g.trade, s.parts, { direction: s.order, grades: g.grades, out: g.out });
    return { ...s, minutes: wholeMinutes(minutes), most: number(minutesMost, 0) };
  });
}

export interface PartChoice {
  readonly id: string;
  readonly name: string;
  readonly minutes: string;
  readonly chosen: boolean;
  readonly late: boolean;
  readonly due: string;
}

/** Every part an owner may put into a round by hand: cleaning and looking, not repairs. */
export function partChoices(g: Gathered, chosen: readonly string[]): PartChoice[] {
  const repairs = new Set(g.trade.model.repairs.map((r) => r.id));
  return [...g.trade.procedures.values()]
    .filter((p) => !repairs.has(p.id) && parseId(p.id).at === undefined && !p.byOthers)
    .map((p) => {
      const task = g.due.find((d) => d.id === p.id);
      return {
        id: p.id,
        name: p.id.endsWith("-look") && !p.name.includes("look") ? `${p.name}, a look` : p.name,
        minutes: wholeMinutes(minutesOf(p.steps)),
        chosen: chosen.includes(p.id),
        late: task?.state === "due",
        due: task && task.state !== "ahead" ? leftWords(task) : "",
      };
    });
}

/** Parts not chosen that are well used up and sit behind something this round opens anyway. */
export function openAnyway(g: Gathered, parts: readonly string[]): { id: string; name: string; used: string }[] {
  const procedures = parts.flatMap((p) => procedureOf(g.trade, p) ?? []);
  return g.due
    .filter((d) => !parts.includes(d.id) && d.used >= 0.6)
    .flatMap((d) => {
      const procedure = procedureOf(g.trade, d.id);
      if (!procedure || !procedures.some((p) => sharedAccess(p, procedure))) return [];
      return [{ id: d.id, name: procedure.name, used: leftWords(d) }];
    });
}

/** Checks parts posted for a round against the machine; undefined when one is not there. */
export function validParts(trade: Trade, parts: readonly string[]): string[] | undefined {
  const known = [...new Set(parts)];
  return known.length > 0 && known.every((p) => procedureOf(trade, p) !== undefined) ? known : undefined;
}
