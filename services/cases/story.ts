/** What a case took and whether it was here before: its rounds, minutes and money, and earlier cases that ended with the same fault. */
import type { Chain, EventOf } from "#core/events";
import { DAY_MS, MINUTE_MS } from "#core/time";
import { closedCases, type Finding, findingsOfCases, type TraceCase } from "#store/cases";
import { type CaseRound, roundsOfCases } from "#store/rounds";
import type { Services } from "../context";
import type { Gathered } from "../machine/gathered";
import { planOf } from "../machine/plans";
import { moneyWords, number, shortDay } from "../words";

/** A round longer than this was left open meanwhile: then its plan says how long it takes. */
const LONGEST_ROUND_MS = DAY_MS / 6;

export interface CaseCost {
  /** Of the checks that were answered and the rounds that were walked. */
  readonly minutes: number;
  /** Of the parts put in for it. */
  readonly money: number;
  readonly rounds: readonly {
    readonly id: number;
    readonly title: string;
    readonly minutes: number;
    readonly endedMs: number | undefined;
    readonly isClosed: boolean;
  }[];
  readonly parts: readonly { readonly station: string; readonly price: number | undefined }[];
}

/** What several cases took, by case. */
export async function costsOf(services: Services, g: Gathered, cases: readonly TraceCase[]): Promise<ReadonlyMap<number, CaseCost>> {
  if (cases.length === 0) return new Map();
  const findings = await findingsOfCases(
    services.store,
    cases.map((c) => c.id),
  );
  const rounds = await roundsOfCases(services.store, g.machine.id, cases);
  return new Map(cases.map((c) => [c.id, costFrom(g, c, findings.get(c.id) ?? [], rounds.get(c.id) ?? [])]));
}

export const costOf = async (services: Services, g: Gathered, of: TraceCase): Promise<CaseCost> =>
  (await costsOf(services, g, [of])).get(of.id) as CaseCost;

function costFrom(g: Gathered, of: TraceCase, answers: readonly Finding[], walkedRounds: readonly CaseRound[]): CaseCost {
  const minutesOf = new Map(g.trade.model.checks.map((c) => [c.id, c.minutes]));
  // What came with the sign was seen already.
  const asked = answers.filter((f) => !f.withdrawn && f.atMs > of.openedMs);
  const rounds = [...walkedRounds].reverse().map((r) => {
    // One that is open has taken what has passed of it.
    const took = (r.endedMs ?? g.nowMs) - r.startedMs;
    const walked = took <= LONGEST_ROUND_MS ? took / MINUTE_MS : planOf(g.trade, r.parts, { isRepair: true }).minutes;
    return { id: r.id, title: r.title, minutes: Math.max(1, Math.round(walked)), endedMs: r.endedMs, isClosed: r.status === "closed" };
  });
  const ids = new Set(rounds.map((r) => r.id));
  const parts = fittedIn(g.log.kinds.service)
    .filter((e) => e.caseId === of.id || (e.roundId !== undefined && ids.has(e.roundId)))
    .map((e) => ({ station: e.payload.station, price: e.payload.price }));
  return {
    minutes: asked.reduce((sum, f) => sum + (minutesOf.get(f.check) ?? 0), 0) + rounds.reduce((sum, r) => sum + r.minutes, 0),
    money: parts.reduce((sum, p) => sum + (p.price ?? 0), 0),
    rounds,
    parts,
  };
}

const fitted = new WeakMap<Chain<EventOf<"service">>, readonly EventOf<"service">[]>();

/** Parts that were put in for a case or in a round, looked for once in a list of services. */
function fittedIn(services: Chain<EventOf<"service">>): readonly EventOf<"service">[] {
  const known =
    fitted.get(services) ??
    Array.from(services).filter((e) => e.payload.what === "replaced" && (e.caseId !== undefined || e.roundId !== undefined));
  fitted.set(services, known);
  return known;
}

export const costWords = (g: Gathered, cost: CaseCost): string =>
  `${number(cost.minutes, 0)} min${cost.money > 0 ? `, ${moneyWords(cost.money, g.currency)}` : ""}`;

const TIMES = ["", "once", "twice"];
const timesWords = (n: number) => TIMES[n] ?? `${n} times`;

/** Cases that are looked back on. */
const LOOKED_BACK = 200;

/** Closed cases of a machine, oldest first. */
export const earlierCases = async (services: Services, machineId: number): Promise<TraceCase[]> =>
  (await closedCases(services.store, machineId, LOOKED_BACK)).reverse();

/** How often a fault ended a case opened before this one: "twice before, last Thu 3 Dec"; undefined where it never did. */
export function seenBefore(earlier: readonly TraceCase[], fault: string, before: Pick<TraceCase, "openedMs" | "id">): string | undefined {
  const same = earlier.filter((c) => c.id !== before.id && c.openedMs < before.openedMs && c.closing?.faults.includes(fault));
  const last = same.at(-1);
  return last?.closedMs === undefined ? undefined : `${timesWords(same.length)} before, last ${shortDay(last.closedMs, before.openedMs)}`;
}
