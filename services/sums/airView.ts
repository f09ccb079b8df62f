/** View model of the airflow: how much the duct carries against clean and against the need, what takes it, and what each service gained. */
import { airVerdict, changesAMinute, filterShare, flowOf, meanSpeed, neededFlow, WEAK_SHARE } from "#core/airflow";
import type { EventOf } from "#core/events";
import { DAY_MS } from "#core/time";
import type { Gathered } from "../machine/gathered";
import { rangeHere, withUnit } from "../units";
import { number, onDay, percentOf, shortDay } from "../words";
import type { SumLine } from "./coolantView";

/** A duct is mostly as wide as this. */
const USUAL_DUCT_MM = 100;
/** Readings of so many days around a service say what it gained. */
const AROUND_MS = 3 * DAY_MS;
/** From this share on it is as it was. */
const AS_CLEAN = 0.95;
const AIR_PARTS: ReadonlySet<string> = new Set(["exhaust", "inline-fan", "cabinet-fan", "duct", "prefilter", "filter-unit"]);

type Read = EventOf<"airflow">;

const VERDICTS = {
  good: { headline: "The air is as it was when clean.", next: "" },
  weak: { headline: "The air is weak.", next: "Read the suction at the fan too: with the flow it tells a blocked duct from a tired fan." },
  blocked: { headline: "Something is blocked: less air at as much suction.", next: "Look at the pre-filter first, then the duct." },
  "tired-fan": {
    headline: "The fan is tired: less air and less suction.",
    next: "Clean its blades and housing; if that does not help, it needs service.",
  },
  leak: { headline: "As much air at much less suction: it leaks in.", next: "Look for a loose clamp or a gap between cabinet and fan." },
} as const;

export function airView(g: Gathered) {
  const sums = g.machine.fittings?.sums ?? {};
  const ductMm = sums.ductMm ?? USUAL_DUCT_MM;
  const flow = ({ payload: p }: Read) => flowOf(meanSpeed([p.ductSpeedMps], p.where === "traverse" ? "traverse" : "centre"), ductMm);
  const all = g.log.kinds.airflow.slice().filter((e) => e.atMs <= g.nowMs);
  const whole = all.filter((e) => e.payload.prefilter !== "out");
  const last = whole.at(-1);
  const clean = whole.findLast((e) => e.payload.baseline === true);
  const m3h = (v: number) => withUnit(v, "m³/h", 0);
  const lines: SumLine[] = [];
  if (last)
    lines.push({
      term: "Now",
      text: `${m3h(flow(last))}, ${withUnit(last.payload.ductSpeedMps, "m/s")} in a duct of ${withUnit(ductMm, "mm", 0)}, ${onDay(last.atMs, g.nowMs)}`,
    });
  if (clean) lines.push({ term: "When clean", text: `${m3h(flow(clean))}, ${onDay(clean.atMs, g.nowMs)}` });
  if (sums.openCm2 !== undefined)
    lines.push({
      term: "Its open area needs",
      text: `${m3h(neededFlow(sums.openCm2 / 10_000))}: half a metre a second through ${number(sums.openCm2, 0)} cm²`,
    });
  if (sums.makerM3h !== undefined) lines.push({ term: "Its maker asks for", text: m3h(sums.makerM3h) });
  if (sums.cabinetL !== undefined && last)
    lines.push({ term: "Air of the cabinet", text: `changed ${number(changesAMinute(flow(last), sums.cabinetL / 1000))} times a minute` });
  const out = all.findLast((e) => e.payload.prefilter === "out");
  const near = out && whole.findLast((e) => Math.abs(e.atMs - out.atMs) < AROUND_MS);
  const taken = out && near && clean ? filterShare(flow(near), flow(out), flow(clean)) : undefined;
  if (taken !== undefined) lines.push({ term: "The pre-filter takes", text: `${percentOf(taken)} of what is lost` });
  const ratio = last && clean && flow(clean) > 0 ? flow(last) / flow(clean) : undefined;
  const pressure =
    last?.payload.pressurePa !== undefined && clean?.payload.pressurePa ? last.payload.pressurePa / clean.payload.pressurePa : undefined;
  const verdict = ratio === undefined ? undefined : airVerdict(ratio, pressure);
  const need = Math.max(sums.makerM3h ?? 0, sums.openCm2 === undefined ? 0 : neededFlow(sums.openCm2 / 10_000));
  const isShort = last !== undefined && need > 0 && flow(last) < need;
  return {
    headline: isShort
      ? "Too little air for this cabinet."
      : verdict === "good" && ratio !== undefined && ratio < AS_CLEAN
        ? "A little less air than when clean."
        : verdict
          ? VERDICTS[verdict].headline
          : "How much air the duct carries is not known.",
    next: verdict && (verdict !== "good" || isShort) ? VERDICTS[verdict].next : "",
    lead:
      ratio === undefined
        ? last
          ? "Read it once with everything clean and flag that as the baseline: then this says what is lost since."
          : "Hold the air speed meter in the middle of the duct and write the reading down. Without a meter: a strip of tissue at the inlet, and how long the smoke of one test cut stays."
        : `${percentOf(ratio)} of its clean flow${ratio < WEAK_SHARE ? ": below 85 % fan, duct and filter are due" : ""}.`,
    lines,
    gains: gainsOf(g, whole, flow),
    series: whole.slice(-60).map((e) => ({ atMs: e.atMs, day: shortDay(e.atMs, g.nowMs), flow: flow(e), pressure: e.payload.pressurePa })),
    cleanFlow: clean && flow(clean),
    typed: {
      ductMm: sums.ductMm === undefined ? "" : number(sums.ductMm),
      openCm2: sums.openCm2 === undefined ? "" : number(sums.openCm2),
      cabinetL: sums.cabinetL === undefined ? "" : number(sums.cabinetL),
      makerM3h: sums.makerM3h === undefined ? "" : number(sums.makerM3h),
    },
  };
}

/** What work on fan, duct and filter gained: the reading before it and the one after, within a few days. */
function gainsOf(g: Gathered, whole: readonly Read[], flow: (e: Read) => number): SumLine[] {
  const days = new Map<string, EventOf<"service">>();
  for (const e of g.log.kinds.service) {
    if (!AIR_PARTS.has(e.payload.station) || (e.payload.what !== "cleaned" && e.payload.what !== "replaced")) continue;
    days.set(shortDay(e.atMs, g.nowMs), e);
  }
  return [...days.values()]
    .slice(-8)
    .reverse()
    .flatMap((service) => {
      const before = whole.findLast((e) => e.atMs <= service.atMs && service.atMs - e.atMs < AROUND_MS);
      const after = whole.find((e) => e.atMs > service.atMs && e.atMs - service.atMs < AROUND_MS);
      if (!before || !after) return [];
      const gained = flow(after) - flow(before);
      return [
        {
          term: shortDay(service.atMs, g.nowMs),
          text: `${gained >= 0 ? "gained" : "lost"} ${withUnit(Math.abs(gained), "m³/h", 0)}, from ${rangeHere(flow(before), flow(after), "m³/h")}`,
        },
      ];
    });
}
