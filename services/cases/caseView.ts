/** View model of one case: open with the next checks, or closed as its report. */
import { listFindings, type TraceCase } from "#store/cases";
import type { Services } from "../context";
import type { Gathered } from "../machine/gathered";
import { dayAndTime, lowerFirst, shortDay, sinceDay } from "../words";
import { type AnswerView, answerView } from "./answerView";
import { caseOf } from "./caseOf";
import { cardText } from "./nextChecks";
import { costOf, costWords, earlierCases, seenBefore } from "./story";
import { faultName, signsOf } from "./words";

/** Throws NotHere. `asked` is the check to show; the best next one without it. */
export async function caseView(services: Services, g: Gathered, caseId: number | undefined, asked: string | null) {
  const found = await caseOf(services, g, caseId);
  // A closed case says what it was when it closed, and does not argue with what came later.
  const report = found.closing?.report as AnswerView | undefined;
  const stored = await listFindings(services.store, found.id);
  const earlier = await earlierCases(services, g.machine.id);
  const view = report ? datedReport(report, g.nowMs) : await answerView(services, g, found, stored, earlier);
  const cost = await costOf(services, g, found);
  const chosen = asked && g.trade.model.checks.some((c) => c.id === asked) ? cardText(g, asked) : undefined;
  return {
    slug: g.machine.slug,
    machine: g.machine.name,
    id: found.id,
    number: found.number,
    title: found.title,
    since: sinceDay(found.onsetMs, g.nowMs),
    opened: dayAndTime(found.openedMs),
    closed:
      found.closedMs === undefined
        ? undefined
        : {
            at: dayAndTime(found.closedMs),
            was: wasWords(g, found),
            repair: found.closing?.repair ? lowerFirst(found.closing.repair) : undefined,
            proof: found.closing?.proof ?? "",
            cost: costWords(g, cost),
            before: [
              ...new Set(
                (found.closing?.faults ?? []).flatMap((f) => {
                  const words = seenBefore(earlier, f, found);
                  return words === undefined ? [] : `${faultName(g.trade, f)}: ${words}`;
                }),
              ),
            ].join("; "),
          },
    signs: signsOf(g.trade).map((s) => ({ value: s.id, label: s.name })),
    openRound: g.openRound && { id: g.openRound.id, title: g.openRound.title },
    chosen: chosen && {
      ...chosen,
      minutes: String(view.next.find((n) => n.id === chosen.id)?.minutes ?? view.others.find((n) => n.id === chosen.id)?.minutes ?? ""),
    },
    view,
  };
}

/** A kept report with the days its answers were given on: what was "today" when it closed is not any more. */
const datedReport = (report: AnswerView, nowMs: number): AnswerView => ({
  ...report,
  // Reports of before say it in one: "something 38 %".
  suspicion: Object.fromEntries(
    Object.entries(report.suspicion).map(([id, s]) => [id, { ...s, chance: s.chance ?? s.words.replace(/^something /, "") }]),
  ),
  history: report.history.map((h) => (h.atMs === undefined ? h : { ...h, day: shortDay(h.atMs, nowMs) })),
});

/** What a closed case was, as the end of a sentence; M1 and M2 stay what they are. */
function wasWords(g: Gathered, closed: TraceCase): string {
  const faults = (closed.closing?.faults ?? []).map((f) => faultName(g.trade, f));
  if (faults.length === 0) return "closed by hand";
  return faults
    .join(" and ")
    .toLowerCase()
    .replace(/\bm(\d)/g, "M$1");
}
