/** What a sitting that ended good leaves behind: answers in the round it belongs to, findings in its case, or services in the log. */

import { type LegAnswer, solve } from "#core/aim";
import { idAt, mirrorNumberOf } from "#core/machine";
import type { RoundAnswer } from "#core/rounds";
import { endSitting } from "#store/aim";
import { addFinding } from "#store/cases";
import { appendEvents, type NewEvent } from "#store/events";
import { findRound, saveAnswers, startRound } from "#store/rounds";
import type { Services } from "../context";
import type { Gathered, OpenCase } from "../machine/gathered";
import { planOf, planOfRound, procedureOf } from "../machine/plans";
import { unmendedOf } from "../machine/unmended";
import { withUnit } from "../units";
import { number } from "../words";
import { type Aiming, caseFor } from "./sitting";
import { nameOf } from "./words";

/** Mirrors whose screws were turned, in the order of the path. */
function turnedIn({ path, session }: Aiming): string[] {
  const turned = new Set(session.entries.flatMap((e) => (e.kind === "turn" ? [e.element] : [])));
  return path.elements.map((e) => e.id).filter((id) => turned.has(id));
}

/** The part of a round that brings a mirror's aim back. */
const partOf = (mirror: string) => idAt("aim", mirrorNumberOf(mirror) ?? 0);

/** `services` works within the transaction that the sitting ends in. Gives the place to go on at. */
export async function finishGood(services: Services, g: Gathered, aiming: Aiming, sittingId: number, key: string): Promise<{ to: string }> {
  const { store } = services;
  const turned = turnedIn(aiming);
  const names = turned.map((id) => nameOf(g.trade, id)).join(" and ");
  const turns = aiming.session.entries.filter((e) => e.kind === "turn").length;
  const { legs, goodEnough } = solve(aiming.session);
  const met = goodEnough ? "All marks met" : `All marks within about ${withUnit(1, "mm")}, good enough for today`;
  const words =
    turned.length === 0
      ? `${met}: nothing was turned.`
      : `${names} brought back in ${turns} ${turns === 1 ? "turn" : "turns"}${goodEnough ? "" : `: marks within about ${withUnit(1, "mm")}, good enough for today`}.`;
  const openCase = caseFor(g, aiming.sitting?.caseId);
  const ended = await endSitting(store, sittingId, { good: true, words }, g.nowMs);
  if (!ended) return { to: "aim" };
  await findingsOfCase(services, g, openCase, legs, key);
  const parts = turned.map(partOf).filter((p) => procedureOf(g.trade, p) !== undefined);
  const roundId = parts.length === 0 ? undefined : await roundFor(services, g, openCase, parts, key);
  const inRound = roundId === undefined ? new Set<string>() : await answerRound(services, g, roundId, turned, key);
  await appendEvents(
    store,
    g.machine.id,
    servicesOf(
      g,
      turned.filter((id) => !inRound.has(id)),
      words,
      key,
    ),
    g.nowMs,
  );
  // A round that has nothing to do with the aim is not where it goes on.
  if (inRound.size > 0) return { to: `round/${roundId}` };
  return { to: openCase ? `trace/${openCase.id}` : "aim" };
}

/** The round a sitting belongs to: the one that is open; in a case without one, the repair that proves it, with what was seen bad in it. */
async function roundFor(
  services: Services,
  g: Gathered,
  openCase: OpenCase | undefined,
  parts: readonly string[],
  key: string,
): Promise<number | undefined> {
  if (g.openRound) return g.openRound.id;
  if (!openCase) return undefined;
  const all = [...new Set([...parts, ...unmendedOf(g).flatMap((u) => (u.clean === undefined ? [] : [u.clean]))])];
  const plan = planOf(g.trade, all, { isRepair: true, grades: g.grades, out: g.out });
  const title = parts.map((p) => procedureOf(g.trade, p)?.name ?? p).join(", ");
  return startRound(services.store, g.machine.id, { title, parts: all, plan, caseId: openCase.id, requestKey: `${key}:round` }, g.nowMs);
}

/** Answers the steps of a round that this sitting did; gives the mirrors it did them for. */
async function answerRound(services: Services, g: Gathered, roundId: number, turned: readonly string[], key: string): Promise<Set<string>> {
  const round = await findRound(services.store, g.machine.id, roundId);
  const done = new Set<string>();
  if (!round) return done;
  const steps = new Set(planOfRound(g.trade, round).steps.map((s) => s.id));
  const told: { readonly step: string; readonly answer: RoundAnswer }[] = turned.flatMap((mirror) => {
    const part = partOf(mirror);
    const at = { done: true as const, atMs: g.nowMs };
    const said = [
      { step: `${part}.tape`, answer: at },
      { step: `${part}.marks`, answer: { ...at, choice: "apart" } },
      { step: `${part}.turn`, answer: { ...at, note: "by Aim" } },
      { step: `${part}.again`, answer: { ...at, choice: "meet" } },
    ].filter(({ step }) => steps.has(step) && !round.answers.get(step)?.done);
    if (steps.has(`${part}.again`)) done.add(mirror);
    return said;
  });
  await saveAnswers(
    services.store,
    roundId,
    told.map(({ step, answer }, i) => ({ stepId: step, answer, requestKey: `${key.replace("/", "-").replaceAll(" ", "-")}-${i}` })),
    g.nowMs,
  );
  return done;
}

/** In the log: each mirror that was aimed, and that the aim was looked at. */
function servicesOf(g: Pick<Gathered, "nowMs">, mirrors: readonly string[], words: string, key: string): NewEvent[] {
  const aimed = mirrors.map(
    (station): NewEvent => ({
      kind: "service",
      atMs: g.nowMs,
      payload: { station, what: "aimed", note: words },
      requestKey: `${key}:${station}`,
    }),
  );
  return [
    ...aimed,
    {
      kind: "grade",
      atMs: g.nowMs,
      payload: { station: "aim-check", phase: "as-left", grade: 0, note: words },
      requestKey: `${key}:marks`,
    },
    {
      kind: "service",
      atMs: g.nowMs,
      payload: { station: "mirror-1", what: "checked", task: "aim-check", note: words },
      requestKey: `${key}:check`,
    },
  ];
}

/** What the marks say of each mirror, as findings of the open case: near against far where something moves. */
async function findingsOfCase(
  services: Services,
  g: Gathered,
  openCase: OpenCase | undefined,
  legs: readonly LegAnswer[],
  key: string,
): Promise<void> {
  if (!openCase) return;
  const known = new Set(g.trade.model.checks.map((c) => c.id));
  for (const leg of legs) {
    const k = mirrorNumberOf(leg.endsAt);
    if (k === undefined || leg.aim !== "parallel" || leg.status !== "good") continue;
    const check = idAt("tape-travel", k);
    if (!known.has(check)) continue;
    await addFinding(services.store, openCase.id, { check, value: Number(number(leg.apartMm)) }, `${key}:${check}`, g.nowMs);
  }
}
