/**
 * Answers of a round, by themselves: devices send what was answered, as often as it takes, and fetch what others answered. An answer
 * keeps the time it was given at, so one that was held back by a lost network does not undo a later one.
 */
import { data } from "react-router";
import { GRADES } from "#core/beam";
import { type RoundAnswer, roundAnswerSchema } from "#core/rounds";
import { atOnce } from "#store/database";
import { appendLate } from "#store/events";
import { knownPhotos } from "#store/photos";
import { findRound, type Round, type SentAnswer, saveAnswers, statusOfRound } from "#store/rounds";
import { isTrouble } from "#store/trouble";
import { check } from "../server/forms";
import { recordId } from "../server/saving";
import { findMachine } from "../workshop/gather";
import { planOfRound, tradeOf } from "../workshop/trade";
import type { Route } from "./+types/answers";
import { eventsOfRound } from "./close";

const MOST_AT_ONCE = 100;
/** A device's clock may run this far ahead of the server's. */
const ENOUGH_AHEAD_MS = 60_000;

interface Item {
  readonly stepId: string;
  readonly answer: unknown;
  readonly requestKey: string;
}

async function roundOf(context: Route.LoaderArgs["context"], params: Route.LoaderArgs["params"]) {
  const { machine } = await findMachine(context, params.machine);
  const round = await findRound(context.store, machine.id, recordId(params.roundId) ?? 0);
  if (!round) throw data("There is no such round on this machine.", { status: 404 });
  return { machine, round };
}

const told = (round: Round, nowMs: number) => ({ status: round.status, answers: Object.fromEntries(round.answers), nowMs });

export async function loader({ params, context }: Route.LoaderArgs) {
  const { round } = await roundOf(context, params);
  return told(round, context.nowMs());
}

function readItems(body: unknown): Item[] | undefined {
  const items = (body as { items?: unknown } | null)?.items;
  if (!Array.isArray(items) || items.length === 0 || items.length > MOST_AT_ONCE) return undefined;
  const whole = items.every(
    (i: Partial<Item> | null) => typeof i?.stepId === "string" && typeof i.requestKey === "string" && /^[\w-]{8,80}$/.test(i.requestKey),
  );
  return whole ? (items as Item[]) : undefined;
}

export async function action(args: Route.ActionArgs) {
  try {
    return await keepAnswers(args);
  } catch (error) {
    // The device keeps its answers and sends them again.
    if (isTrouble(error)) return data({ problem: error.message }, { status: 503 });
    throw error;
  }
}

async function keepAnswers({ request, params, context }: Route.ActionArgs) {
  const { machine, round } = await roundOf(context, params);
  const items = readItems(await request.json().catch(() => undefined));
  if (!items) return data({ problem: "The answers cannot be read." }, { status: 400 });
  const nowMs = context.nowMs();
  const trade = tradeOf(machine);
  const steps = new Set(planOfRound(trade, round).steps.map((s) => s.id));
  const sound: SentAnswer[] = [];
  const refused: { requestKey: string; because: string }[] = [];
  const read = items.map((item) => ({ item, checked: check<RoundAnswer>(roundAnswerSchema, item.answer) }));
  const known = await knownPhotos(
    context.store,
    read.flatMap((r) => (r.checked.ok ? (r.checked.value.photos ?? []) : [])),
  );
  for (const { item, checked } of read) {
    if (!steps.has(item.stepId)) refused.push({ requestKey: item.requestKey, because: "This round has no such step." });
    else if (!checked.ok) {
      const [field, words] = Object.entries(checked.errors)[0] ?? ["", ""];
      refused.push({ requestKey: item.requestKey, because: field === "skipped" ? "Say why in a few words." : `${field} ${words}`.trim() });
    } else if (checked.value.photos?.some((p) => !known.has(p)))
      refused.push({ requestKey: item.requestKey, because: "Its photo is not here." });
    else {
      const atMs = checked.value.atMs > nowMs + ENOUGH_AHEAD_MS ? nowMs : Math.max(round.startedMs, checked.value.atMs);
      sound.push({ stepId: item.stepId, answer: { ...checked.value, atMs }, requestKey: item.requestKey });
    }
  }
  const outcomes = await atOnce(context.store, async (tx) => {
    const outcomes = await saveAnswers(tx, round.id, sound, nowMs);
    // Closed on another device meanwhile: what was found and done still goes into the log, and says so where it says something else.
    // Only of the steps that were answered now: what was corrected by hand since stays as it is.
    if ((await statusOfRound(tx, round.id)) !== "open") {
      const ended = (await findRound(tx, machine.id, round.id)) ?? round;
      const late = new Map(sound.map((s) => [s.stepId, s.requestKey]));
      const records = eventsOfRound(trade, ended).flatMap(({ stepId, ...event }) => {
        const lateKey = late.get(stepId);
        return lateKey === undefined ? [] : [{ ...event, roundId: ended.id, lateKey }];
      });
      await appendLate(tx, machine.id, records, nowMs);
    }
    return outcomes;
  });
  const after = (await findRound(context.store, machine.id, round.id)) ?? round;
  const kept = outcomes.filter((o) => o.kept).map((o) => o.requestKey);
  for (const o of outcomes)
    if (!o.kept) refused.push({ requestKey: o.requestKey, because: "It was sent before and said something else then." });
  const notices = outcomes.flatMap(({ worse }) =>
    worse
      ? [
          `Graded ${GRADES[worse.over]} on another device meanwhile: ${GRADES[worse.grade]} counts, as the worse, until somebody looks again.`,
        ]
      : [],
  );
  return data({ ...told(after, nowMs), kept, refused, notices }, { status: refused.length > 0 && kept.length === 0 ? 400 : 200 });
}
