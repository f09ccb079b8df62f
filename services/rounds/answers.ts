/**
 * Keeps answers of a round: devices send what was answered, as often as it takes. An answer keeps the time it was given at, so one that
 * was held back by a lost network does not undo a later one.
 */
import { GRADES } from "#core/beam";
import { ANYWAY, isGuard, NOT_SEEN, type RoundAnswer, roundAnswerSchema, type Step } from "#core/rounds";
import { check } from "#store/check";
import { atOnce, type Store } from "#store/database";
import { appendLate } from "#store/events";
import { knownPhotos } from "#store/photos";
import { findRound, type Round, type SentAnswer, saveAnswers, statusOfRound } from "#store/rounds";
import type { Services } from "../context";
import { unkeepableIn } from "../forms/keepable";
import { findMachine } from "../machine/gather";
import { planOfRound } from "../machine/plans";
import { type Trade, tradeOf } from "../machine/trade";
import { eventsOfRound } from "./close";
import { roundOf } from "./roundView";

const MOST_AT_ONCE = 100;
/** A device's clock may run this far ahead of the server's. */
const ENOUGH_AHEAD_MS = 60_000;

interface Item {
  readonly stepId: string;
  readonly answer: unknown;
  readonly requestKey: string;
}

/** What every device is told: how the round stands. */
export interface RoundState {
  readonly status: Round["status"];
  readonly answers: Readonly<Record<string, RoundAnswer>>;
  readonly nowMs: number;
}

export interface KeptAnswers extends RoundState {
  readonly kept: readonly string[];
  readonly refused: readonly Refused[];
  /** What this device has to know of another's grade. */
  readonly notices: readonly string[];
}

interface Refused {
  readonly requestKey: string;
  readonly because: string;
}

const stateOf = (round: Round, nowMs: number): RoundState => ({ status: round.status, answers: Object.fromEntries(round.answers), nowMs });

/** How a round stands. Throws NotHere. */
export async function roundState(services: Services, slug: string, roundId: number | undefined): Promise<RoundState> {
  const { machine } = await findMachine(services, slug);
  return stateOf(await roundOf(services, machine.id, roundId), services.nowMs());
}

/** Answers as a device sends them; undefined where the body is none. */
export function readItems(body: unknown): Item[] | undefined {
  const items = (body as { items?: unknown } | null)?.items;
  if (!Array.isArray(items) || items.length === 0 || items.length > MOST_AT_ONCE) return undefined;
  const whole = items.every(
    (i: Partial<Item> | null) => typeof i?.stepId === "string" && typeof i.requestKey === "string" && /^[\w-]{8,80}$/.test(i.requestKey),
  );
  return whole && unkeepableIn(items).next().done ? (items as Item[]) : undefined;
}

/** Keeps all sound answers in one transaction and says of each of the others why not. Throws NotHere. */
export async function keepAnswers(
  services: Services,
  slug: string,
  roundId: number | undefined,
  items: readonly Item[],
): Promise<KeptAnswers> {
  const { machine } = await findMachine(services, slug);
  const round = await roundOf(services, machine.id, roundId);
  const nowMs = services.nowMs();
  const trade = tradeOf(machine);
  const { sound, refused } = await sorted(services, trade, round, items, nowMs);
  const outcomes = await atOnce(services.store, async (tx) => {
    const outcomes = await saveAnswers(tx, round.id, sound, nowMs);
    if ((await statusOfRound(tx, round.id)) !== "open") await addToLog(tx, machine.id, trade, round, sound, nowMs);
    return outcomes;
  });
  const after = (await findRound(services.store, machine.id, round.id)) ?? round;
  const usedBefore = outcomes.filter((o) => !o.kept);
  return {
    ...stateOf(after, nowMs),
    kept: outcomes.filter((o) => o.kept).map((o) => o.requestKey),
    refused: [
      ...refused,
      ...usedBefore.map((o) => ({ requestKey: o.requestKey, because: "It was sent before and said something else then." })),
    ],
    notices: outcomes.flatMap(({ worse }) =>
      worse
        ? [
            `Graded ${GRADES[worse.over]} on another device meanwhile: ${GRADES[worse.grade]} is worse and counts until someone inspects it again.`,
          ]
        : [],
    ),
  };
}

/** Whether a choice is among what a step offers: an answer of its own, not seen, or clean it anyway. */
const isAnswerOf = (step: Step, choice: string): boolean =>
  step.seen?.some((o) => o.id === choice) === true ||
  (choice === NOT_SEEN && step.unseen !== undefined) ||
  (choice === ANYWAY && step.anyway !== undefined);

/** Answers that can be kept, with their times within the round, and the others with the reason. */
async function sorted(services: Services, trade: Trade, round: Round, items: readonly Item[], nowMs: number) {
  const steps = new Map(planOfRound(trade, round).steps.map((s) => [s.id, s]));
  const sound: SentAnswer[] = [];
  const refused: Refused[] = [];
  const read = items.map((item) => ({ ...item, checked: check<RoundAnswer>(roundAnswerSchema, item.answer) }));
  const known = await knownPhotos(
    services.store,
    read.flatMap((r) => (r.checked.ok ? (r.checked.value.photos ?? []) : [])),
  );
  for (const { stepId, requestKey, checked } of read) {
    const refuse = (because: string) => refused.push({ requestKey, because });
    const step = steps.get(stepId);
    if (!step) refuse("This round has no such step.");
    else if (checked.ok && checked.value.skipped !== undefined && isGuard(step))
      refuse(`“${step.title}” protects you and cannot be skipped. Do it, or end the round.`);
    else if (checked.ok && checked.value.choice !== undefined && !isAnswerOf(step, checked.value.choice))
      refuse("That was not among the answers.");
    else if (checked.ok && checked.value.airMps !== undefined && step.reading !== "air") refuse("No air is read at this step.");
    else if (!checked.ok) {
      const [field, words] = Object.entries(checked.errors)[0] ?? ["", ""];
      refuse(field === "skipped" ? "Say why in a few words." : `${field} ${words}`.trim());
    } else if (checked.value.photos?.some((p) => !known.has(p))) refuse("Its photo is not here.");
    else {
      const atMs = checked.value.atMs > nowMs + ENOUGH_AHEAD_MS ? nowMs : Math.max(round.startedMs, checked.value.atMs);
      sound.push({ stepId, answer: { ...checked.value, atMs }, requestKey });
    }
  }
  return { sound, refused };
}

/**
 * Closed on another device meanwhile: what was found and done still goes into the log, and says so where it says something else. Only
 * of the steps that were answered now: what was corrected by hand since stays as it is.
 */
async function addToLog(
  tx: Store,
  machineId: number,
  trade: Trade,
  round: Round,
  sound: readonly SentAnswer[],
  nowMs: number,
): Promise<void> {
  const ended = (await findRound(tx, machineId, round.id)) ?? round;
  const late = new Map(sound.map((s) => [s.stepId, s.requestKey]));
  const records = eventsOfRound(trade, ended).flatMap(({ stepId, ...event }) => {
    const lateKey = late.get(stepId);
    return lateKey === undefined ? [] : [{ ...event, roundId: ended.id, lateKey }];
  });
  await appendLate(tx, machineId, records, nowMs);
}
