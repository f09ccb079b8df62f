/** View model of Trace's first page: the signs to choose from and the cases closed. */
import { signList } from "#catalog/subjects/index";
import { closedCases } from "#store/cases";
import type { Services } from "../context";
import type { Gathered } from "../machine/gather";
import { shortDay } from "../words";
import { SINCE } from "./open";
import { faultName } from "./words";

/** Closed cases that are listed. */
const PAST = 30;

export async function casesView(services: Services, g: Gathered) {
  const checks = new Set(g.trade.model.checks.map((c) => c.id));
  return {
    since: SINCE.map(({ days, label }) => ({ value: String(days), label })),
    slug: g.machine.slug,
    open: g.openCase && { id: g.openCase.id, title: g.openCase.title },
    signs: signList.filter((s) => s.findings.every((f) => checks.has(f.check))).map((s) => ({ value: s.id, label: s.name })),
    past: (await closedCases(services.store, g.machine.id, PAST)).map((c) => ({
      id: c.id,
      number: c.number,
      title: c.title,
      day: shortDay(c.openedMs),
      was: c.closing?.faults.map((f) => faultName(g.trade, f)).join(", ") || "left open-ended",
    })),
  };
}
