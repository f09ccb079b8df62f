/** View model of the coolant: what is in the loop, what the coldest night needs, what it carries, and when the tube sweats. */
import {
  coolantState,
  dewPoint,
  expectedRise,
  fill,
  flowFromRise,
  freezingPoint,
  heatCarried,
  MARGIN_C,
  MOST_SHARE,
  partDrain,
  shareForNight,
  tubeHeat,
  warmLoss,
} from "#core/coolant";
import { inShown } from "#core/units";
import { sentNumber } from "../forms/number";
import type { Gathered } from "../machine/gathered";
import { betweenHere, unitHere, unitsInForce, withUnit } from "../units";
import { leftWords, number, onDay, percentOf, shortDay } from "../words";
import { type ShareNow, safeTo, shareNow } from "./share";

export interface SumLine {
  readonly term: string;
  readonly text: string;
}

/** Litres as they are measured out. */
export const litres = (l: number): string =>
  l < 1
    ? `${Number(inShown(1000 * l, "mL", unitsInForce()).toFixed(unitHere("mL") === "mL" ? 0 : 1))} ${unitHere("mL")}`
    : withUnit(l, "L", l < 10 ? 2 : 1);
const shareWords = ({ low, high }: Pick<ShareNow, "low" | "high">): string =>
  Math.round(100 * low) === Math.round(100 * high)
    ? `${Math.round(100 * low)} %`
    : `between ${Math.round(100 * low)} and ${Math.round(100 * high)} %`;

/** Figures of the day, asked in the address: the room's, the flow's and the rise. Wrong ones are named. */
function asked(search: URLSearchParams) {
  const errors: Record<string, string> = {};
  const read = (
    name: string,
    unit: string,
    example: string,
    least: number,
    most: number,
    why: (range: string) => string,
  ): number | undefined => {
    const text = search.get(name) ?? "";
    if (text.trim() === "") return undefined;
    const reading = sentNumber((field) => search.get(field) ?? undefined, name, unit, example);
    if (!reading.ok) errors[name] = reading.problem;
    else if (reading.value < least || reading.value > most) errors[name] = why(betweenHere(least, most, unit));
    else return reading.value;
    return undefined;
  };
  return {
    errors,
    roomC: read("roomC", "°C", "24", -20, 50, (r) => `A room lies ${r}.`),
    humidity: read("humidity", "%", "55", 1, 100, (r) => `Humidity lies ${r}.`),
    flowLpm: read("flowLpm", "L/min", "2", 0.05, 60, (r) => `A flow lies ${r}.`),
    riseK: read("riseK", "K", "3", 0.1, 30, (r) => `A rise lies ${r}: the return's less the supply's.`),
  };
}

export function coolantView(g: Gathered, search: URLSearchParams) {
  const sums = g.machine.fittings?.sums ?? {};
  const isWet = g.trade.layout.fittings.cooling !== "air";
  const now = shareNow(g.log, sums.loopL, g.nowMs);
  const need = nightNeed(g);
  const due = g.due.find((d) => d.id === "coolant-change");
  return {
    isWet,
    loopL: sums.loopL === undefined ? "" : number(sums.loopL, 2),
    nightC: sums.nightC === undefined ? "" : number(sums.nightC),
    ...headline(g, now, need),
    steps: now?.steps.map((s) => ({ term: shortDay(s.atMs, g.nowMs), text: `${s.said}: ${shareWords(s)}` })) ?? [],
    todo: todo(g, now, need),
    changeDue: due ? leftWords(due) : undefined,
    ...carried(g, now, asked(search)),
  };
}

/** What the coldest night of this machine needs; undefined while nobody said how cold it gets. */
export function nightNeed(g: Gathered): ReturnType<typeof shareForNight> | undefined {
  const { nightC } = g.machine.fittings?.sums ?? {};
  if (nightC !== undefined) return shareForNight(nightC);
  return g.trade.layout.fittings.frostMonth === 0 ? { kind: "water" } : undefined;
}

type Need = ReturnType<typeof nightNeed>;

function headline(g: Gathered, now: ShareNow | undefined, need: Need): { headline: string; lead: string } {
  const night = g.machine.fittings?.sums?.nightC;
  if (need?.kind === "drain")
    return {
      headline: "Drain the loop before such a night.",
      lead: `Below ${withUnit(-29, "°C")} no mixture that can be pumped is safe: ${withUnit(-34, "°C")} is the lowest a half-and-half freezes at.`,
    };
  if (!now)
    return {
      headline: "How much glycol is in it is not known.",
      lead: "Write down a fill or a tester's reading below, and every top-up since follows from it.",
    };
  const safe = safeTo(now);
  const share = `${shareWords(now)} glycol, as ${now.steps[0]?.said} ${onDay(now.sinceMs, g.nowMs)}${now.steps.length > 1 ? " and topped up since" : ""}.`;
  if (need?.kind === "water")
    return now.high < 0.02
      ? { headline: "Distilled water only, as it should be.", lead: "It never freezes here: glycol would only carry less heat." }
      : {
          headline: "It needs no glycol here.",
          lead: `${share} It never freezes here: glycol only carries less heat. Use distilled water at the next change.`,
        };
  if (night === undefined)
    return {
      headline: `It freezes at ${withUnit(safe, "°C")}.`,
      lead: `${share} Say how cold the coldest night gets, and this says whether that is enough.`,
    };
  const spare = night - safe;
  if (spare >= MARGIN_C - 0.05)
    return { headline: `Safe for ${withUnit(night, "°C")}: it freezes at ${withUnit(safe, "°C")}.`, lead: share };
  return {
    headline: spare > 0 ? `Too close: it freezes at ${withUnit(safe, "°C")}.` : `Not safe: it freezes at ${withUnit(safe, "°C")}.`,
    lead: `${share} The coldest night is ${withUnit(night, "°C")}, and it should freeze ${withUnit(MARGIN_C, "K")} below that. A frozen tube is a broken tube.`,
  };
}

/** What to measure out: for a new fill, and to bring what is in it where it should be. */
function todo(g: Gathered, now: ShareNow | undefined, need: Need): SumLine[] {
  const { loopL } = g.machine.fittings?.sums ?? {};
  if (need === undefined || need.kind === "drain") return [];
  if (loopL === undefined) return [{ term: "Litres", text: "Say how much the loop holds: measure it at the next fill, by what goes in." }];
  const share = need.kind === "water" ? 0 : need.share;
  const { glycolL, waterL } = fill(loopL, share);
  const fresh = {
    term: "A new fill",
    text:
      share === 0
        ? `${litres(waterL)} of distilled water, no glycol`
        : `first ${litres(glycolL)} of propylene glycol, then ${litres(waterL)} of distilled water: ${percentOf(share)}, freezes at ${withUnit(freezingPoint(share), "°C")}`,
  };
  if (!now || share === 0 || now.low >= share - 0.005) return [fresh];
  const drained = partDrain(loopL, now.low, share, 1);
  return [fresh, { term: "Without a new fill", text: `drain ${litres(drained)} of what is in it, then add as much pure propylene glycol` }];
}

/** Litres of a new fill, for the step that pours it in; undefined while the loop or the night is not known. */
export function fillWords(g: Gathered): string | undefined {
  const need = nightNeed(g);
  const [line] = todo(g, undefined, need);
  if (need?.kind === "drain") return "For such nights no mixture is safe: leave the loop drained until it is warmer.";
  return line?.term === "A new fill" ? `For this loop: ${line.text}.` : undefined;
}

/** Heat, flow and dew point, by the day's figures or the last that were read. */
function carried(g: Gathered, now: ShareNow | undefined, day: ReturnType<typeof asked>) {
  const last = g.log.kinds.coolant.findLast((e) => e.payload.temperatureC !== undefined);
  const flowRead = g.log.kinds.coolant.findLast((e) => e.payload.flowLpm !== undefined);
  const temperatureC = last?.payload.temperatureC;
  const flow = day.flowLpm ?? flowRead?.payload.flowLpm;
  const share = Math.min(MOST_SHARE, now ? (now.low + now.high) / 2 : 0);
  const heatW = tubeHeat(g.machine.ratedPowerW);
  const dewC = day.roomC !== undefined && day.humidity !== undefined ? dewPoint(day.roomC, day.humidity / 100) : undefined;
  const heat: SumLine[] = [
    { term: "The tube's heat", text: `${number(heatW, 0)} W beside ${number(g.machine.ratedPowerW, 0)} W of light, at 18 % efficiency` },
    ...(flow === undefined
      ? [{ term: "Flow", text: "not measured yet: hold a jug under the return for half a minute; litres × 60 ÷ seconds" }]
      : [
          {
            term: "Flow",
            text: `${withUnit(flow, "L/min", 2)}${day.flowLpm === undefined && flowRead ? `, read ${onDay(flowRead.atMs, g.nowMs)}` : ""}`,
          },
          { term: "It should warm up by", text: `${withUnit(expectedRise(heatW, flow, share), "K")} at full power` },
        ]),
    ...(day.riseK === undefined
      ? []
      : [
          ...(flow === undefined
            ? []
            : [{ term: "It carries", text: `${number(heatCarried(flow, day.riseK, share), 0)} W at that flow and rise` }]),
          {
            term: "So the flow is about",
            text: `${withUnit(flowFromRise(heatW, day.riseK, share), "L/min", 2)}, if it was read at full power`,
          },
        ]),
    ...(temperatureC !== undefined && warmLoss(temperatureC) >= 0.005
      ? [{ term: "Warm water takes", text: `${number(100 * warmLoss(temperatureC))} % of the light at ${withUnit(temperatureC, "°C")}` }]
      : []),
  ];
  return {
    heat,
    flowProblem:
      flow !== undefined && expectedRise(heatW, flow, share) > 6
        ? `That flow is too low for this tube: it warms up by more than ${withUnit(6, "K")}. Look at pump, kinks and filter before you fire at full power.`
        : undefined,
    dew:
      dewC === undefined
        ? undefined
        : { text: `Water condenses on the tube at ${withUnit(dewC, "°C")} or below.`, ...stateOf(temperatureC, dewC) },
    temperature:
      temperatureC === undefined || !last
        ? undefined
        : { text: `${withUnit(temperatureC, "°C")}, read ${onDay(last.atMs, g.nowMs)}`, ...stateOf(temperatureC, dewC) },
    typed: { roomC: day.roomC, humidity: day.humidity, flowLpm: day.flowLpm, riseK: day.riseK },
    errors: day.errors,
  };
}

const stateWords = () => ({
  sweats: "The tube sweats: stop, and let the coolant warm up. High voltage and water do not go together.",
  cold: "Cold, but above the dew point.",
  good: `Good: near ${withUnit(20, "°C")}.`,
  warm: "Warm: the tube is weaker and ages faster. Let it cool.",
  stop: "Too warm: stop firing until it has cooled.",
});

function stateOf(temperatureC: number | undefined, dewC: number | undefined): { state: string; isBad: boolean } {
  if (temperatureC === undefined) return { state: "", isBad: false };
  const state = coolantState(temperatureC, dewC);
  return { state: stateWords()[state], isBad: state === "sweats" || state === "stop" || state === "warm" };
}
