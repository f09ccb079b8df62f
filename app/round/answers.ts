/**
 * Answers of a round, by themselves: devices send what was answered, as often as it takes, and fetch what others answered. An answer
 * keeps the time it was given at, so one that was held back by a lost network does not undo a later one.
 */
import { data } from "react-router";
import { type RoundAnswer, roundAnswerSchema } from "#core/rounds";
import { appendEvents } from "#store/events";
import { knownPhotos } from "#store/photos";
import { findRound, type Round, saveAnswer } from "#store/rounds";
import { check } from "../server/forms";
import { findMachine, gather } from "../workshop/gather";
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
  const round = await findRound(context.store, machine.id, Number(params.roundId));
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

export async function action({ request, params, context }: Route.ActionArgs) {
  const { machine, round } = await roundOf(context, params);
  const items = readItems(await request.json().catch(() => undefined));
  if (!items) return data({ problem: "The answers cannot be read." }, { status: 400 });
  const nowMs = context.nowMs();
  const steps = new Set(planOfRound(tradeOf(machine), round).steps.map((s) => s.id));
  const kept: string[] = [];
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
      await saveAnswer(context.store, round.id, item.stepId, { ...checked.value, atMs }, item.requestKey, nowMs);
      kept.push(item.requestKey);
    }
  }
  const after = await findRound(context.store, machine.id, round.id);
  // Closed on another device meanwhile: what was found and done still goes into the log.
  if (after && after.status !== "open" && kept.length > 0) {
    const g = await gather(context, params.machine);
    const records = eventsOfRound(g, after).map((e) => ({ ...e, roundId: after.id }));
    await appendEvents(context.store, machine.id, records, nowMs);
  }
  return data({ ...told(after ?? round, nowMs), kept, refused }, { status: refused.length > 0 && kept.length === 0 ? 400 : 200 });
}
