/** The trade's words for faults, checks, repairs and findings on one machine. */

import { checkOf, faultOf, repairOf, signList } from "#catalog/subjects/index";
import { isPowerCheck, ofCatalog, parseId } from "#core/machine";
import type { Trade } from "../machine/trade";
import { unitHere, withUnit } from "../units";
import { number, theStation } from "../words";

/** Of `mirror-dirty@2` and `power@lens` the words' key, that of a check, and the part's name. */
function keyed(trade: Trade, id: string): { readonly key: string; readonly check: string; readonly part: string } {
  const { base, at, mirror } = parseId(id);
  if (at === undefined) return { key: id, check: id, part: "" };
  if (mirror === undefined) return { key: base, check: base, part: theStation(trade.layout.names[at] ?? at) };
  const name = mirror === 0 ? "the tube" : theStation(trade.layout.names[`mirror-${mirror}`] ?? `mirror ${mirror}`);
  return { key: ofCatalog(id), check: base, part: name };
}

const fill = (text: string, part: string) => {
  const filled = text.replaceAll("{part}", part);
  return filled.charAt(0).toUpperCase() + filled.slice(1);
};

export function faultName(trade: Trade, id: string): string {
  const { key, part } = keyed(trade, id);
  return fill(faultOf(key)?.name ?? id, part);
}

/** As part of a sentence: "the lens is dirty". */
export function faultSays(trade: Trade, id: string): string {
  const { key, part } = keyed(trade, id);
  return (faultOf(key)?.says ?? id).replaceAll("{part}", part);
}

export function repairName(trade: Trade, id: string): string {
  const { key, part } = keyed(trade, id);
  return fill(repairOf(key)?.name ?? id, part);
}

export interface CheckText {
  readonly id: string;
  /** It takes a meter for watts. */
  readonly isWatts: boolean;
  readonly title: string;
  readonly question: string;
  readonly caution: string | undefined;
  readonly tools: string | undefined;
  readonly drawing: string | undefined;
  readonly outcomes: readonly { readonly id: string; readonly label: string }[];
  readonly value: { readonly unit: string; readonly label: string; readonly example: string } | undefined;
}

export function checkText(trade: Trade, id: string): CheckText {
  const { check, part } = keyed(trade, id);
  const words = checkOf(check);
  const spec = trade.model.checks.find((c) => c.id === id);
  const unit = spec?.measures?.kind === "power" ? "W" : spec?.value?.unit;
  return {
    id,
    isWatts: isPowerCheck(id),
    title: fill(words?.title ?? id, part),
    question: (words?.how ?? "").replaceAll("{part}", part),
    caution: words?.caution,
    tools: words?.tools,
    drawing: words?.drawing,
    outcomes: (spec?.outcomes ?? []).map((o) => ({ id: o, label: words?.outcomes[o]?.label ?? o })),
    value:
      unit === undefined
        ? undefined
        : {
            unit,
            label: (words?.valueLabel ?? unit).replace(FIGURED, (kept) => unitHere(kept)),
            example: unit === "W" ? "58" : unit === "°C" ? "21" : unit === "m/s" ? "6" : "2",
          },
  };
}

/** Kept units in the catalog's words. */
const FIGURED = /(?<![\w/])(?:mm|°C|L\/min|m\/s)(?![\w/])/;
const VALUE_IN_UNIT = /\{value\} (mm|°C|L\/min|m\/s)(?![\w/])/;

/** What its owner came with: nobody had measured how far the cut went. */
const CAME_WITH: Readonly<Record<string, string>> = { "known-cut": "it no longer cuts through" };

/** A finding in a few words: "M2 showed film", "45 W after the lens". What was complained of is told as it was said. */
export function findingWords(
  trade: Trade,
  finding: { check: string; outcome?: string | undefined; value?: number | undefined; complaint?: boolean | undefined },
): string {
  const said = finding.complaint ? CAME_WITH[finding.check] : undefined;
  if (said !== undefined && finding.outcome !== "through") return said;
  const { check, part } = keyed(trade, finding.check);
  const words = checkOf(check);
  if (finding.value !== undefined) {
    const found = finding.value;
    const value = finding.check === "ladder" ? `${Math.round(100 * found)} %` : number(found);
    return (words?.valueShort ?? `${finding.check} {value}`)
      .replace(VALUE_IN_UNIT, (_, kept: string) => withUnit(found, kept))
      .replaceAll("{value}", value)
      .replaceAll("{part}", part);
  }
  return (words?.outcomes[finding.outcome ?? ""]?.short ?? `${finding.check} ${finding.outcome}`).replaceAll("{part}", part);
}

/** Signs that a machine can show: all they amount to is asked of it. */
export function signsOf(trade: Trade) {
  const checks = new Set(trade.model.checks.map((c) => c.id));
  return signList.filter((s) => s.findings.every((f) => checks.has(f.check)));
}
