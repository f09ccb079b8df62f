/** View model of a bed wash: which cleaner for this residue on this bed, how it is mixed, and what a wash takes beside the others. */
import { matrix } from "#catalog/agents";
import { washes } from "#catalog/washes";
import { mayUse } from "#core/agents";
import { coatLitres, dilute, fills, soakBySide, wettedArea } from "#core/washing";
import { readNumber, sentNumber } from "../forms/number";
import { doneParts } from "../log/kinds/service";
import type { Gathered } from "../machine/gathered";
import { withUnit } from "../units";
import { moneyWords, number, onDay } from "../words";
import { litres, type SumLine } from "./coolantView";

const USUAL_BED = { widthMm: 600, depthMm: 400, cellMm: 6, heightMm: 10 } as const;
const USUAL_SPRAYER_L = 0.75;
const SURFACE = { resin: "bed-resin", acrylic: "bed-gum" } as const;
const SOAK_SIDES = 4;

export type Residue = keyof typeof SURFACE;

export interface WashWay {
  readonly id: string;
  readonly name: string;
  readonly verdict: "allowed" | "only-if" | "never" | "unknown";
  readonly reason: string;
  readonly mix: string;
  readonly minutes: number;
  readonly soak: string;
  readonly cost: string;
  readonly fumes: string;
  readonly gear: string;
  readonly preparation: string;
}

export function washView(g: Gathered, search: URLSearchParams) {
  const errors: Record<string, string> = {};
  const figure = (name: string, unit: string, example: string, most: number, usual: number): number => {
    const text = search.get(name) ?? "";
    if (text.trim() === "") return usual;
    const reading = sentNumber((field) => search.get(field) ?? undefined, name, unit, example);
    if (!reading.ok) errors[name] = reading.problem;
    else if (!(reading.value > 0 && reading.value <= most)) errors[name] = `More than 0 and at most ${withUnit(most, unit)}.`;
    else return reading.value;
    return usual;
  };
  const { fittings } = g.trade.layout;
  const sums = g.machine.fittings?.sums ?? {};
  const residue: Residue = search.get("residue") === "acrylic" ? "acrylic" : "resin";
  const coats = Math.round(figure("coats", "coats", "2", 10, 1));
  const kind = fittings.bed === "slats" ? "slats" : "honeycomb";
  const bed = {
    widthMm: figure("widthMm", "mm", "900", 4000, fittings.bedWidthMm ?? USUAL_BED.widthMm),
    depthMm: figure("depthMm", "mm", "600", 4000, fittings.bedDepthMm ?? USUAL_BED.depthMm),
    kind,
    cellMm: figure("cellMm", "mm", "6", 200, sums.cellMm ?? USUAL_BED.cellMm),
    heightMm: figure("heightMm", "mm", "10", 200, sums.bedHeightMm ?? USUAL_BED.heightMm),
  } as const;
  const sprayerL = figure("sprayerL", "L", "0.75", 50, sums.sprayerL ?? USUAL_SPRAYER_L);
  const area = wettedArea(bed);
  const total = coats * coatLitres(area);
  const ways = washes.filter((w) => w.residues.includes(residue)).map((w) => wayOf(g, w, residue, total, sprayerL, search, errors));
  const order = ["allowed", "only-if", "unknown", "never"];
  ways.sort((a, b) => order.indexOf(a.verdict) - order.indexOf(b.verdict));
  const first = ways.find((w) => w.verdict === "allowed");
  return {
    residue,
    errors,
    headline: first ? `${first.name}: ${first.mix}.` : "Nothing on the list may be used on this without a patch test.",
    lead: `About ${litres(total)} ${coats === 1 ? "a coat" : `for ${coats} coats`}, ${fills(total, sprayerL)} ${fills(total, sprayerL) === 1 ? "fill" : "fills"} of a sprayer of ${litres(sprayerL)}. Soap, oven cleaner, bleach and solvent are separate washes: rinse fully between any two of them.`,
    sum: [
      {
        term: "Wetted area",
        text: `${number(area, 2)} m²: ${number((1e6 * area) / (bed.widthMm * bed.depthMm), 2)} times the bed's plan, since every wall has two sides`,
      },
      { term: "A coat", text: `${litres(coatLitres(area, 0))} clings, a fifth more runs off: ${litres(coatLitres(area))}` },
    ] satisfies SumLine[],
    ways,
    bed: {
      ...Object.fromEntries(Object.entries(bed).map(([k, v]) => [k, typeof v === "number" ? number(v) : v])),
      sprayerL: number(sprayerL, 2),
      coats: String(coats),
    } as Record<string, string>,
    currency: g.currency,
    washed: washed(g),
  };
}

/** A look and a wash of one sitting. */
const ONE_SITTING_MS = 12 * 3_600_000;

/** The part a wash is logged as, and the last one with its photos: those it was logged with, or those its round took of the bed. */
function washed(g: Gathered) {
  const part = doneParts(g).find((p) => p.id === "bed" || p.task === "bed");
  if (!part) return undefined;
  const last = g.log.kinds.service.findLast(
    (e) => e.payload.station === part.station && e.payload.what === "cleaned" && (e.payload.task ?? part.task) === part.task,
  );
  if (!last) return { part: part.id, last: undefined };
  const near = [...g.log.kinds.grade]
    .filter((e) => e.payload.station === part.station && Math.abs(e.atMs - last.atMs) < ONE_SITTING_MS)
    .flatMap((e) => (e.payload.photos ?? []).map((hash) => ({ hash, phase: e.payload.phase })));
  const [first, second] = last.payload.photos ?? [];
  const before = first ?? near.find((p) => p.phase === "as-found")?.hash;
  const after = second ?? near.findLast((p) => p.phase === "as-left")?.hash;
  return { part: part.id, last: { day: onDay(last.atMs, g.nowMs), before, after } };
}

function wayOf(
  g: Gathered,
  wash: (typeof washes)[number],
  residue: Residue,
  total: number,
  sprayerL: number,
  search: URLSearchParams,
  errors: Record<string, string>,
): WashWay {
  const ruling = mayUse(matrix, SURFACE[residue], wash.agent);
  const agent = matrix.agents.find((a) => a.id === wash.agent);
  const strengthText = search.get(`strength-${wash.agent}`) ?? "";
  let strength = wash.strengthGPerL;
  if (strengthText.trim() !== "") {
    const reading = readNumber(strengthText, "g/L", "50");
    if (!reading.ok) errors[`strength-${wash.agent}`] = reading.problem;
    else if (wash.wantedGPerL !== undefined && reading.value < wash.wantedGPerL)
      errors[`strength-${wash.agent}`] = `Water makes nothing stronger: at least ${wash.wantedGPerL} g/L is wanted.`;
    else if (reading.value > 1000) errors[`strength-${wash.agent}`] = "Nothing is stronger than pure: at most 1000 g/L.";
    else strength = reading.value;
  }
  const mixed = strength !== undefined && wash.wantedGPerL !== undefined ? dilute(total, strength, wash.wantedGPerL) : undefined;
  const product = mixed?.productL ?? total;
  const money = wash.pricePerL === undefined ? undefined : product * wash.pricePerL;
  const each = soakBySide(wash.soakMinutes, SOAK_SIDES)[0] ?? 0;
  const mix = mixed
    ? mixed.waterL < 0.005
      ? `${litres(product)} as it comes`
      : `${litres(product)} and ${litres(mixed.waterL)} of water, ${number(strength ?? 0, 0)} to ${number(wash.wantedGPerL ?? 0, 0)} g/L`
    : wash.mix;
  return {
    id: wash.agent,
    name: agent ? agent.name.charAt(0).toUpperCase() + agent.name.slice(1) : wash.agent,
    verdict: ruling.verdict,
    reason: ruling.reason,
    mix: `${mix}${fills(total, sprayerL) > 1 && mixed ? `, in ${fills(total, sprayerL)} fills` : ""}`,
    minutes: wash.minutes,
    soak: wash.soakMinutes === 0 ? "none" : `${number(wash.soakMinutes, 0)} min, ${number(each)} a side`,
    cost: money === undefined ? "not known" : moneyWords(money, g.currency),
    fumes: wash.fumes,
    gear: agent?.gear?.join(", ") ?? "gloves",
    preparation: wash.preparation,
  };
}
