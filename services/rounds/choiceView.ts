/** View model of choosing a round: the scopes, the chosen one's plan, and the rounds done. */
import { isSure, type Step } from "#core/rounds";
import { endedRounds } from "#store/rounds";
import type { Services } from "../context";
import type { Gathered } from "../machine/gathered";
import { planOf, titleOf } from "../machine/plans";
import { number, shortDay, wholeMinutes } from "../words";
import { openAnyway, partChoices, scopeChoices, validParts } from "./scopes";

/** Rounds done that are listed. */
const PAST = 8;

/** `search` of the page: `scope` by id, or `part`s of one's own. */
export async function choiceView(services: Services, g: Gathered, search: URLSearchParams) {
  const choices = scopeChoices(g);
  const own = validParts(g.trade, search.getAll("part"));
  const asked = search.get("scope");
  const scope = choices.find((c) => c.id === asked) ?? choices.find((c) => c.id === "daily") ?? choices[0];
  const chosen = own
    ? { id: "own", name: titleOf(g.trade, own), parts: own, order: "head-first" as const }
    : asked === "own"
      ? { id: "own", name: "Your own choice", parts: [], order: "head-first" as const }
      : (asked === null && choices.find((c) => c.id === "due")) || scope;
  const plan =
    chosen && chosen.parts.length > 0
      ? planOf(g.trade, chosen.parts, { direction: chosen.order, grades: g.grades, out: g.out })
      : undefined;
  return {
    slug: g.machine.slug,
    open: g.openRound && { id: g.openRound.id, title: g.openRound.title },
    choices,
    chosen: chosen && {
      id: chosen.id,
      name: chosen.name,
      parts: chosen.parts,
      order: chosen.order,
      /** Search of the page that prints it: part ids hold signs that mean something else in an address. */
      sheet: new URLSearchParams([["order", chosen.order], ["title", chosen.name], ...chosen.parts.map((p) => ["part", p])]).toString(),
    },
    plan: plan && {
      minutes: wholeMinutes(plan.minutes),
      most: (plan.minutesMost ?? plan.minutes) > plan.minutes + 1 ? number(plan.minutesMost ?? 0, 0) : undefined,
      cut: plan.cut && {
        title: plan.steps.find((s) => s.id === plan.cut?.before)?.title ?? "",
        before: wholeMinutes(plan.cut.minutes),
        after: number(Math.round(plan.minutes) - Math.round(plan.cut.minutes), 0),
      },
      fetch: plan.fetch,
      manual: g.trade.layout.fittings.manual,
      lines: inShort(grouped(plan.steps)),
      groups: grouped(plan.steps).map(({ part, titles, asked }) => ({ part, titles, asked })),
      count: plan.steps.filter(isSure).length,
    },
    openAnyway: chosen ? openAnyway(g, chosen.parts) : [],
    parts: chosen?.id === "own" ? partChoices(g, chosen.parts) : undefined,
    direction: g.trade.layout.fittings.opticsOrder === "by-scope" ? undefined : g.trade.layout.fittings.opticsOrder,
    past: (await endedRounds(services.store, g.machine.id, PAST)).map((r) => ({
      id: r.id,
      title: r.title,
      day: shortDay(r.startedMs, g.nowMs),
      ended: r.status,
    })),
  };
}

interface PlanLine {
  part: string;
  titles: string[];
  /** Steps that only a look asks for. */
  asked: string[];
  minutes: number;
}

/** Steps under the part they belong to, in order. */
function grouped(steps: readonly Step[]): PlanLine[] {
  const groups: PlanLine[] = [];
  for (const s of steps) {
    let last = groups.at(-1);
    if (last?.part !== s.part) {
      last = { part: s.part, titles: [], asked: [], minutes: 0 };
      groups.push(last);
    }
    if (isSure(s)) {
      last.titles.push(s.title);
      last.minutes += s.minutes;
    } else last.asked.push(s.title);
  }
  return groups;
}

/** The way through in short: parts in a row that only a look asks for make one line. */
function inShort(groups: readonly PlanLine[]) {
  const lines: { part: string; words: string; more: number; minutes: string; only: boolean }[] = [];
  for (const g of groups) {
    const last = lines.at(-1);
    if (g.titles.length > 0)
      lines.push({ part: g.part, words: g.titles.join(" "), more: g.asked.length, minutes: wholeMinutes(g.minutes), only: false });
    else if (last?.only) {
      last.words += `, ${g.part}`;
      last.more += g.asked.length;
    } else lines.push({ part: "If a look asks", words: g.part, more: g.asked.length, minutes: "0", only: true });
  }
  return lines;
}
