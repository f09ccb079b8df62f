/** View model of Today: the verdict, the round offered, the open case, the days to come, and the other machines in a line each. */

import dayjs from "dayjs";
import { DAY_MS } from "#core/time";
import type { Machine } from "#store/machines";
import { readSetting } from "#store/settings";
import { ableFaults } from "../cases/headline";
import { weighed } from "../cases/weighed";
import { faultName } from "../cases/words";
import type { Services } from "../context";
import { COPY_TROUBLE, type CopyTrouble } from "../exchange/daily";
import { vocabularyOf } from "../log/vocabulary";
import { stateOf } from "../machine/gather";
import type { Gathered, MachineState } from "../machine/gathered";
import { planOf } from "../machine/plans";
import { powerSeries } from "../machine/powerSeries";
import { cutStopOf } from "../machine/stop";
import { unmendedOf } from "../machine/unmended";
import { roundMinutes } from "../plan/minutes";
import { type Offer, offerOf } from "../rounds/offer";
import { dailyParts } from "../rounds/scopes";
import { boundWords, chance, lowerFirst, materialName, number, onDay, ratioWords, shortDay, sinceDay, theStation } from "../words";
import { firstOf } from "./first";
import { verdict } from "./verdict";

const CHART_DAYS = 17 * 7;

/** Cuts in a row that failed since the last ladder: they speak louder than any estimate, with a baseline or without. */
function failedInARow(g: Gathered): number {
  const sinceMs = g.log.kinds.ladder.at(-1)?.atMs ?? Number.NEGATIVE_INFINITY;
  const cuts = g.log.kinds.cut.slice(g.log.kinds.cut.firstIndex((e) => e.atMs > sinceMs)).reverse();
  const passed = cuts.findIndex((e) => e.payload.result === "through");
  return passed < 0 ? cuts.length : passed;
}

function lastCutWords(g: Gathered): string | undefined {
  const failed = failedInARow(g);
  if (failed === 0) return undefined;
  const last = g.log.kinds.cut.at(-1)?.payload.result === "hangs" ? "hung" : "did not go through";
  if (failed === 1) return `${g.baseline ? "But the" : "The"} last cut ${last}: find the cause, or cut a ladder.`;
  return `${g.baseline ? "But the" : "The"} last ${failed} cuts failed: find the cause.`;
}

/** A proof without a baseline: the usual cut dropped, lately. */
function cutThroughLately(g: Gathered): string | undefined {
  const cut = g.log.kinds.cut.at(-1);
  if (cut?.payload.result !== "through" || g.nowMs - cut.atMs > LATELY_MS) return undefined;
  return `${materialName(g.materials.find((m) => m.id === cut.payload.materialId))} dropped through ${onDay(cut.atMs, g.nowMs)}.`;
}
const LATELY_MS = 7 * DAY_MS;

const lowered = (title: string) => `${title.charAt(0).toLowerCase()}${title.slice(1)}`;

const tracesWords = (cases: readonly { readonly title: string }[]) =>
  cases.length === 1
    ? `Case open: ${lowered(cases[0]?.title ?? "")}.`
    : `${cases.length} cases open: ${cases.map((c) => lowered(c.title)).join("; ")}.`;

/** What of Today depends on how the open cases are weighed: the first thing to do, and what each case stands at. */
export async function weighedToday(services: Services, g: Gathered) {
  const openCases = await Promise.all(
    [...g.openCases].reverse().map(async (c) => {
      const answer = await weighed(services, g, c);
      const lead = ableFaults(g, answer)
        .slice(0, 2)
        .map((f, i) => `${i === 0 ? faultName(g.trade, f.id) : lowerFirst(faultName(g.trade, f.id))} ${chance(f.probability)}`);
      return { id: c.id, title: c.title, since: sinceDay(c.onsetMs, g.nowMs), words: `${lead.join(", ")}.` };
    }),
  );
  return { openCases, first: await firstOf(services, g, offerOf(g), failedInARow(g)) };
}

export type WeighedToday = Awaited<ReturnType<typeof weighedToday>>;

export async function todayView(services: Services, g: Gathered) {
  const offer = offerOf(g);
  const ofCases = await weighedToday(services, g);
  const lastLadder = g.ladders.findLast((l) => l.event.atMs <= g.nowMs);
  const coming = comingOf(g);
  return {
    slug: g.machine.slug,
    ...ofCases,
    verdict: verdict(g, g.openCases.length > 0 ? tracesWords(ofCases.openCases) : lastCutWords(g), cutThroughLately(g)),
    vocabulary: vocabularyOf(g),
    hasCounter: g.trade.layout.fittings.counter !== "none",
    hasBaseline: g.baseline !== undefined,
    /** A ladder may be cut now. */
    mayFire: cutStopOf(g) === undefined,
    /** Every machine of the workshop in a few words, this one among them; none where there is but one. */
    machines:
      g.machines.length < 2
        ? []
        : await Promise.all(g.machines.map(async (m) => ({ ...(await wordOf(services, m)), here: m.id === g.machine.id }))),
    openRoundId: g.openRound?.id,
    /** Why the daily copy failed, until one succeeds. */
    copyTrouble: await copyTroubleWords(services, g),
    offer,
    bad: unmendedOf(g),
    shorter: shorterRounds(g, offer),
    counter: g.usage.lastCounter && { hours: number(g.usage.lastCounter.counterHours), since: onDay(g.usage.lastCounter.atMs, g.nowMs) },
    lastProof: lastLadder && {
      day: sinceDay(lastLadder.event.atMs, g.nowMs),
      words: `${ratioWords(lastLadder.effective)}${boundWords(lastLadder.effective)}`,
      material: materialName(lastLadder.material),
      baseline: lastLadder.event.payload.baseline === true,
    },
    chart: await powerSeries(services, g, g.nowMs - CHART_DAYS * DAY_MS),
    coming,
    materials: g.materials
      .filter((m) => !m.hidden)
      .map((m) => ({
        id: m.id,
        label: materialName(m),
        speed: m.usualSpeedMmPerS === undefined ? "" : number(m.usualSpeedMmPerS),
        setPercent: m.usualSetPercent === undefined ? "" : number(m.usualSetPercent, 0),
      })),
  };
}

const COMING_DAYS = 7;
const NAMED = 3;

/** The seven days to come: the planned rounds, and what is to be booked. */
function comingOf(g: Gathered): { id: string; day: string; text: string; minutes: number }[] {
  const nameOf = (id: string) => g.trade.tasks.find((t) => t.id === id)?.name ?? id;
  const rounds = g.plan.rounds.flatMap((r) => {
    const days = dayjs(r.date).diff(dayjs(g.nowMs).startOf("day"), "day");
    if (days > COMING_DAYS) return [];
    const names = r.tasks.map(nameOf);
    const more = names.length - NAMED;
    return [
      {
        id: r.date,
        day: days === 0 ? "Today" : shortDay(dayjs(r.date).valueOf(), g.nowMs),
        text: more > 0 ? `${names.slice(0, NAMED).join(", ")} and ${more} more` : names.join(", "),
        minutes: roundMinutes(g, r.tasks),
      },
    ];
  });
  const booked = g.due
    .filter((d) => d.byOthers && d.dueMs !== undefined && d.dueMs - g.nowMs < COMING_DAYS * DAY_MS)
    .map((d) => {
      const rule = g.trade.tasks.find((t) => t.id === d.id);
      const day = (d.dueMs as number) < g.nowMs ? "to book" : shortDay(d.dueMs as number, g.nowMs);
      return { id: d.id, day, text: `${rule?.name}: ${rule?.does}`, minutes: d.minutes };
    });
  return [...rounds, ...booked];
}

/** Rounds that are shorter than the one offered: the five minutes of a day, and the lens alone where it is in it. */
function shorterRounds(g: Gathered, offer: Offer): { id: string; label: string; parts: readonly string[]; minutes: number }[] {
  const rounds = [
    { id: "daily", label: "Daily round", parts: dailyParts(g) },
    ...(offer.lines.some((l) => l.id === "lens") ? [{ id: "lens", label: "Only the lens", parts: ["lens"] }] : []),
  ];
  return rounds
    .map((r) => ({ ...r, minutes: planOf(g.trade, r.parts, { grades: g.grades, out: g.out }).minutes }))
    .filter((r) => r.minutes < offer.minutes);
}

async function copyTroubleWords({ store }: Services, g: Gathered): Promise<string | undefined> {
  const trouble = await readSetting<CopyTrouble>(store, COPY_TROUBLE);
  return trouble && `The copy by itself failed ${onDay(trouble.atMs, g.nowMs)}. ${trouble.words}`;
}

/** What cannot be read of one machine keeps nobody from another. */
const wordOf = (services: Services, m: Machine) =>
  stateOf(services, m).then(
    (state) => inAWord(m, state),
    () => ({ slug: m.slug, name: m.name, words: "cannot be read: go back to a copy", hot: true }),
  );

/** A machine of the workshop in a few words: what matters most about it now. */
function inAWord({ slug, name }: Machine, state: MachineState): { slug: string; name: string; words: string; hot: boolean } {
  const line = (words: string, hot = false) => ({ slug, name, words, hot });
  const stop = cutStopOf(state);
  if (stop) return line(stop.because === "turned-down" ? `do not cut: ${stop.what}` : `do not fire: ${stop.what}`, true);
  const seen = badWords(state);
  if (state.openRound) return line(`a round is open${seen}`);
  if (state.openCases.length > 0) return line(`case open: ${state.openCases.map((c) => lowered(c.title)).join("; ")}${seen}`);
  const due = state.due.filter((d) => d.state === "due" && !d.byOthers).length;
  return line(`${due === 0 ? "nothing due" : due === 1 ? "one thing due" : `${due} things due`}${seen}`);
}

/** What was seen bad on another machine and is not mended, to go on a line. */
function badWords(state: MachineState): string {
  const [first, ...more] = unmendedOf(state);
  if (!first) return "";
  return more.length === 0 ? `, ${theStation(first.name)} still needs work` : `, ${more.length + 1} parts still need work`;
}
