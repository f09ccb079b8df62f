/** View model of the supplies: what is left, when it runs low at the planned rounds, what to buy, and what a month of cleaning costs. */
import { OPTIC_LIFE_DAYS, type Supply } from "#catalog/supplies";
import { ROLE_TRAITS } from "#core/beam";
import { lastReplacedMs } from "#core/schedule";
import { belowAt, leftOf, packsToBuy, type Stock, type Use } from "#core/supplies";
import { DAY_MS } from "#core/time";
import type { Services } from "../context";
import { gather } from "../machine/gather";
import type { Gathered } from "../machine/gathered";
import { PLAN_DAYS } from "../plan/instance";
import { unitHere, withUnit } from "../units";
import { moneyWords, number, shortDay, sinceDay } from "../words";
import { shelfOf } from "./shelf";
import { knownSupplies, usedByPlan, usedInLog } from "./used";

const MONTH_DAYS = 30.44;

export interface SupplyLine {
  readonly id: string;
  readonly name: string;
  readonly left: string;
  readonly isCounted: boolean;
  readonly perMonth: string;
  /** "Fri 11 Dec"; "lasts" beyond the plan. */
  readonly low: string;
  readonly isLow: boolean;
  readonly buy: string;
}

const amountWords = (s: Supply, amount: number): string => {
  if (amount < 0.05) return "hardly any";
  const digits = amount < 10 ? 1 : 0;
  if (unitHere(s.unit[1]) !== s.unit[1]) return withUnit(amount, s.unit[1], digits);
  const figure = number(amount, digits);
  return `${figure} ${figure === "1" ? s.unit[0] : s.unit[1]}`;
};

/** Every machine of the workshop that can be read: they share a shelf. */
async function allMachines(services: Services, g: Gathered): Promise<Gathered[]> {
  const others = await Promise.all(
    g.machines.filter((m) => m.id !== g.machine.id).map((m) => gather(services, m.slug).catch(() => undefined)),
  );
  return [g, ...others.flatMap((o) => o ?? [])];
}

export async function suppliesView(services: Services, g: Gathered) {
  const machines = await allMachines(services, g);
  const shelf = await shelfOf(services);
  const known = knownSupplies(machines);
  const told = known.map((s) => ({ supply: s, ...stateOf(s, shelf[s.id], machines) }));
  const lines = told.map(({ supply, stock, left, planned, packs }): SupplyLine => {
    const least = stock?.least ?? supply.least;
    const lowMs = left === undefined ? undefined : left < least ? g.nowMs : belowAt(left, least, planned);
    const price = stock?.price;
    const packWords = `${packs} × ${amountWords(supply, stock?.pack ?? supply.pack)}`;
    return {
      id: supply.id,
      name: supply.name,
      left: left === undefined ? "not counted yet" : left === 0 ? "none" : amountWords(supply, left),
      isCounted: left !== undefined,
      perMonth: planned.length === 0 ? "none planned" : amountWords(supply, perMonth(planned)),
      low:
        left === undefined
          ? ""
          : lowMs === undefined
            ? "lasts these 60 days"
            : lowMs <= g.nowMs
              ? "low now"
              : `low on ${shortDay(lowMs, g.nowMs)}`,
      isLow: lowMs !== undefined && lowMs < g.nowMs + 14 * DAY_MS,
      buy: packs === 0 ? "" : price === undefined ? packWords : `${packWords}, ${moneyWords(packs * price, g.currency)}`,
    };
  });
  const money = told.reduce(
    (sum, { supply, stock, planned }) => sum + (perMonth(planned) * (stock?.price ?? 0)) / (stock?.pack ?? supply.pack),
    0,
  );
  const priced = told.filter((t) => t.stock?.price !== undefined).length;
  const buying = lines.filter((l) => l.buy !== "");
  return {
    lines,
    money:
      priced === 0
        ? "Give a price with a count, and what a month of cleaning costs stands here."
        : `About ${moneyWords(money, g.currency)} a month at the planned rounds${priced < told.length ? `; ${told.length - priced} of ${told.length} have no price yet` : ""}.`,
    isCounted: lines.some((l) => l.isCounted),
    list: buying.map((l) => `${l.name}: ${l.buy}`),
    spares: sparesOf(machines),
    known: known.map((s) => ({ value: s.id, label: s.name, unit: s.unit[1], pack: String(s.pack), least: String(s.least) })),
  };
}

const perMonth = (planned: readonly Use[]): number => (planned.reduce((sum, u) => sum + u.amount, 0) * MONTH_DAYS) / PLAN_DAYS;

function stateOf(supply: Supply, stock: Stock | undefined, machines: readonly Gathered[]) {
  const planned = machines.flatMap((g) => usedByPlan(g, supply));
  const left =
    stock &&
    leftOf(
      stock,
      machines.flatMap((g) => usedInLog(g, supply, stock.sinceMs)),
    );
  const packs = left === undefined ? 0 : packsToBuy(left, stock?.least ?? supply.least, planned, stock?.pack ?? supply.pack);
  return { stock, planned, left, packs };
}

/** Optics with the spares that lie ready, and since when the one that is in is in. */
function sparesOf(machines: readonly Gathered[]): { id: string; name: string; words: string; isMissing: boolean }[] {
  return machines.flatMap((g) =>
    g.trade.layout.path
      .filter((s) => !s.hidden && ROLE_TRAITS[s.role].isOptic && s.role !== "window")
      .map((s) => {
        const inMs = lastReplacedMs(g.log, s.id, g.nowMs);
        const sinceMs = inMs ?? g.logStartMs;
        const isOld = g.nowMs - sinceMs > OPTIC_LIFE_DAYS * DAY_MS;
        const has =
          s.spares === undefined
            ? "spares not counted"
            : s.spares === 0
              ? "no spare"
              : `${s.spares} ${s.spares === 1 ? "spare" : "spares"}`;
        const age = inMs === undefined ? "in since before the log began" : `in since ${sinceDay(inMs, g.nowMs)}`;
        return {
          id: `${g.machine.slug} ${s.id}`,
          name: machines.length > 1 ? `${g.machine.name}, ${s.name}` : s.name,
          words: `${has}; ${age}${isOld ? ", which is about as long as one lasts" : ""}`,
          isMissing: isOld && (s.spares ?? 0) === 0,
        };
      }),
  );
}

/** The shopping list as text. */
export const shoppingText = (list: readonly string[], day: string): string =>
  [`To buy, ${day}`, ...list.map((l) => `- ${l}`), ...(list.length === 0 ? ["- nothing"] : []), ""].join("\n");
