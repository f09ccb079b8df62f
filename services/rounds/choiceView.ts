/** View model of choosing a round: the scopes, the chosen one's plan, and the rounds done. */
import type { Step } from "#core/rounds";
import { endedRounds } from "#store/rounds";
import type { Services } from "../context";
import type { Gathered } from "../machine/gather";
import { planOf, titleOf } from "../machine/plans";
import { number, shortDay } from "../words";
import { openAnyway, partChoices, scopeChoices, validParts } from "./scopes";

/** `search` of the page: `scope` by id, or `part`s of one's own. */
/** Rounds done that are listed. */
const PAST = 8;

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
  const plan = chosen && chosen.parts.length > 0 ? planOf(g.trade, chosen.parts, chosen.order) : undefined;
  return {
    slug: g.machine.slug,
    open: g.openRound && { id: g.openRound.id, title: g.openRound.title },
    choices,
    chosen: chosen && { id: chosen.id, name: chosen.name, parts: chosen.parts, order: chosen.order },
    plan: plan && {
      minutes: number(plan.minutes, 0),
      most: (plan.minutesMost ?? plan.minutes) > plan.minutes + 1 ? number(plan.minutesMost ?? 0, 0) : undefined,
      cut: plan.cut && {
        title: plan.steps.find((s) => s.id === plan.cut?.before)?.title ?? "",
        before: number(plan.cut.minutes, 0),
        after: number(plan.minutes - plan.cut.minutes, 0),
      },
      fetch: plan.fetch,
      groups: grouped(plan.steps),
      count: plan.steps.filter((s) => s.when === undefined).length,
    },
    openAnyway: chosen ? openAnyway(g, chosen.parts) : [],
    parts: chosen?.id === "own" ? partChoices(g, chosen.parts) : undefined,
    direction: g.trade.layout.fittings.opticsOrder === "by-scope" ? undefined : g.trade.layout.fittings.opticsOrder,
    past: (await endedRounds(services.store, g.machine.id, PAST)).map((r) => ({
      id: r.id,
      title: r.title,
      day: shortDay(r.startedMs),
      ended: r.status,
    })),
  };
}

/** Steps under the part they belong to, in order. */
function grouped(steps: readonly Step[]) {
  const groups: { part: string; titles: string[]; asked: string[]; minutes: number }[] = [];
  for (const s of steps) {
    let last = groups.at(-1);
    if (last?.part !== s.part) {
      last = { part: s.part, titles: [], asked: [], minutes: 0 };
      groups.push(last);
    }
    if (s.when === undefined) {
      last.titles.push(s.title);
      last.minutes += s.minutes;
    } else last.asked.push(s.title);
  }
  return groups.map((g) => ({ ...g, minutes: number(g.minutes) }));
}
