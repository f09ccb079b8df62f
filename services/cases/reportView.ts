/** View model of a case on paper: its story from the sign to the proof, with what it took. */
import { listFindings } from "#store/cases";
import type { Services } from "../context";
import type { Gathered } from "../machine/gathered";
import { dayAndTime, moneyWords, number } from "../words";
import { caseOf } from "./caseOf";
import { caseView } from "./caseView";
import { costOf } from "./story";
import { findingWords } from "./words";

/** Throws NotHere. */
export async function reportView(services: Services, g: Gathered, caseId: number | undefined) {
  const found = await caseOf(services, g, caseId);
  const stored = await listFindings(services.store, found.id);
  const [shown, cost] = [await caseView(services, g, caseId, null), await costOf(services, g, found)];
  const { view } = shown;
  const names = g.trade.layout.names;
  return {
    slug: g.machine.slug,
    id: found.id,
    title: `Case ${found.number}, ${g.machine.name}: ${found.title.toLowerCase()}`,
    sign: `Noticed ${shown.since}; opened ${shown.opened}.`,
    outcome: shown.closed ? (shown.closed.repair ? `Repaired: ${shown.closed.repair}.` : `It was: ${shown.closed.was}.`) : view.headline,
    closed: shown.closed,
    budget: view.budget ?? [],
    findings: [
      ...view.history.map((h) => ({
        key: h.key,
        atMs: h.atMs ?? 0,
        day: h.atMs === undefined ? h.day : dayAndTime(h.atMs),
        words: h.words,
        struck: false,
      })),
      ...stored
        .filter((f) => f.withdrawn)
        .map((f) => ({ key: `w${f.id}`, atMs: f.atMs, day: dayAndTime(f.atMs), words: findingWords(g.trade, f), struck: true })),
    ].sort((a, b) => a.atMs - b.atMs),
    faults: view.faults.map((f) => ({
      id: f.id,
      name: f.name,
      chance: f.chance,
      reasons: f.evidence.map((e) => `${e.words} (${e.weight} ${e.decibans > 0 ? "for" : "against"})`).join("; ") || f.reason,
    })),
    none: view.none,
    rounds: [
      ...cost.rounds.map((r) => ({
        id: String(r.id),
        words: `${r.title}: ${r.minutes} min${r.endedMs === undefined ? " so far" : ""}`,
        day:
          r.endedMs === undefined
            ? "still open"
            : `${r.isClosed ? "closed with its proof" : "ended without proof"}, ${dayAndTime(r.endedMs)}`,
      })),
      ...(view.mended ?? []).map((m) => ({ id: `m${m.atMs}`, words: m.words, day: `in the log, ${dayAndTime(m.atMs)}` })),
    ],
    parts: cost.parts.map((p) => `${names[p.station] ?? p.station}${p.price === undefined ? "" : `, ${moneyWords(p.price, g.currency)}`}`),
    minutes: number(cost.minutes, 0),
    money: cost.money > 0 ? moneyWords(cost.money, g.currency) : undefined,
  };
}
