/** View model of a round on paper: of one that was started, or of parts as they would be done. */
import { findRound } from "#store/rounds";
import type { Services } from "../context";
import { recordId } from "../forms/fields";
import type { Gathered } from "../machine/gather";
import { planOf, planOfRound, titleOf } from "../machine/plans";
import { NotHere } from "../refusal";
import { dayAndTime, number } from "../words";
import { validParts } from "./scopes";

/** `search` of the page: `round` by id, or `part`s with `title` and `order`. Throws NotHere. */
export async function sheetView(services: Services, g: Gathered, search: URLSearchParams) {
  const roundId = recordId(search.get("round"));
  const round = roundId !== undefined ? await findRound(services.store, g.machine.id, roundId) : undefined;
  const parts = round ? undefined : validParts(g.trade, search.getAll("part"));
  if (!round && !parts) throw new NotHere("This sheet names no round and no parts of this machine.");
  const order = search.get("order") === "tube-first" ? "tube-first" : "head-first";
  const plan = round ? planOfRound(g.trade, round) : planOf(g.trade, parts ?? [], { direction: order, grades: g.grades });
  return {
    slug: g.machine.slug,
    machine: g.machine.name,
    title: (round?.title ?? search.get("title") ?? titleOf(g.trade, parts ?? [])).slice(0, 80),
    day: dayAndTime(g.nowMs),
    minutes: number(plan.minutes),
    fetch: plan.fetch,
    steps: plan.steps,
    back: round ? `/${g.machine.slug}/round/${round.id}` : `/${g.machine.slug}/round`,
  };
}
