/** View model of Trace's first page: the signs to choose from and the cases closed. */
import type { Services } from "../context";
import type { Gathered } from "../machine/gathered";
import { shortDay, sinceDay } from "../words";
import { SINCE } from "./open";
import { type CaseCost, costsOf, costWords, earlierCases, seenBefore } from "./story";
import { faultName, signsOf } from "./words";

/** Closed cases that are listed. */
const PAST = 30;

export async function casesView(services: Services, g: Gathered) {
  const earlier = await earlierCases(services, g.machine.id);
  const past = [...earlier].reverse().slice(0, PAST);
  const costs = await costsOf(services, g, past);
  return {
    since: SINCE.map(({ days, label }) => ({ value: String(days), label })),
    slug: g.machine.slug,
    open: [...g.openCases].reverse().map((c) => ({ id: c.id, number: c.number, title: c.title, since: sinceDay(c.onsetMs, g.nowMs) })),
    signs: signsOf(g.trade).map((s) => ({ value: s.id, label: s.name })),
    past: past.map((c) => ({
      id: c.id,
      number: c.number,
      title: c.title,
      day: shortDay(c.openedMs, g.nowMs),
      was: c.closing?.faults.map((f) => faultName(g.trade, f)).join(", ") || "left open-ended",
      cost: costWords(g, costs.get(c.id) as CaseCost),
      before: [...new Set((c.closing?.faults ?? []).flatMap((f) => seenBefore(earlier, f, c) ?? []))].join("; ") || "first time",
    })),
  };
}
