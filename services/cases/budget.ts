/** The power budget of a case along the path: what left each station when all was good, what is taken to leave it now, and what was read. */

import { powerAlong, ROLE_TRAITS } from "#core/beam";
import { idAt } from "#core/machine";
import type { TraceAnswer, TraceBaseline } from "#core/trace";
import type { Gathered } from "../machine/gathered";
import { number } from "../words";
import type { SourcedFinding } from "./caseInput";

export interface BudgetLine {
  readonly id: string;
  readonly name: string;
  /** Shares of the largest expected figure, 0..1: good, now, and read where it was. */
  readonly good: number;
  readonly now: number;
  readonly read: number | undefined;
  /** "58 of 70 W", and what the station alone takes, with its range. */
  readonly words: string;
  readonly loss: string;
  readonly readWords: string | undefined;
  /** What leaves it now, worded; undefined where the figures are shares alone. */
  readonly watts: string | undefined;
}

/** Places along the path whose watts mean something: the tube, every mirror, the lens. The exit window is the tube's own. */
export function budgetOf(g: Gathered, baseline: TraceBaseline, findings: readonly SourcedFinding[], answer: TraceAnswer): BudgetLine[] {
  const { stations, names } = g.trade.layout;
  const walked = baseline.powerW ?? {};
  const tubeW = walked.tube ?? walked.window;
  // Without a walk of good days the figures are shares of what leaves the tube.
  const unit = tubeW === undefined ? "%" : "W";
  const clean = new Map(powerAlong(stations, tubeW ?? 100).map((p) => [p.station, p.powerW]));
  const losses = new Map(answer.stations.map((s) => [s.id, s.lightPercent]));
  const scale = Math.max(...clean.values());
  let left = 1;
  return stations.flatMap((s): BudgetLine[] => {
    const own = losses.get(s.id);
    left *= 1 - (own?.mid ?? 0) / 100;
    if (s.role === "window" || (!ROLE_TRAITS[s.role].isOptic && s.role !== "tube")) return [];
    const good = walked[s.id] ?? clean.get(s.id) ?? 0;
    const now = good * left;
    const last = findings.findLast((f) => f.check === idAt("power", s.id) && f.value !== undefined);
    const full =
      last?.value === undefined ? undefined : (last.value * (baseline.setPercent ?? 100)) / (last.setPercent ?? baseline.setPercent ?? 100);
    const read = unit === "W" ? full : undefined;
    const digits = unit === "W" && good < 100 ? 1 : 0;
    return [
      {
        id: s.id,
        name: names[s.id] ?? s.id,
        good: good / scale,
        now: now / scale,
        read: read === undefined ? undefined : read / scale,
        words: `${number(now, digits)} of ${number(good, digits)} ${unit}`,
        loss: lossWords(own),
        watts: unit === "W" ? `${number(now, digits)} W` : undefined,
        readWords: read === undefined ? undefined : `read: ${number(read, digits)} W`,
      },
    ];
  });
}

/** What a place takes, in words: a share with its range, or that it is hardly anything. */
function lossWords(own: { readonly mid: number; readonly low: number; readonly high: number } | undefined): string {
  if (!own || own.high < 1.5) return "takes nothing to speak of";
  if (own.mid < 0.5) return `takes hardly anything, at most ${number(own.high, 0)} %`;
  return `takes ${number(own.mid, 0)} %, between ${number(own.low, 0)} and ${number(own.high, 0)}`;
}
