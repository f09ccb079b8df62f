/** What the application says of a machine of `world.ts`: its log is kept in a real database, and the places' own functions are asked. */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { neededLnRatio, throughProbability, waysOn } from "#core/cuts";
import { type Condition, daysUntil, isTooEarly, type PowerWord, powerIn, type Range, tubeHoursLeft, wordsOf } from "#core/wear";
import { gather } from "#services/machine/gather";
import { cutBase, knownPower, toldBy } from "#services/machine/known";
import { paceOf } from "#services/machine/pace";
import { type Spare, spareOf } from "#services/machine/spare";
import { SPENT } from "#services/outlook/tube";
import { openStore } from "#store/database";
import { appendEvents, type NewEvent } from "#store/events";
import { addMachine, addMaterial } from "#store/machines";
import { type PowerWorld, SET_PERCENT } from "./world";

export interface Said {
  readonly condition: Condition;
  readonly words: readonly PowerWord[];
  readonly spare: Spare | undefined;
  readonly kept: { readonly mean: number; readonly sd: number };
  readonly dirty: { readonly mean: number; readonly sd: number };
  readonly left: Range;
  readonly tooEarly: boolean;
  readonly stopsInDays: number;
  readonly paceHours: number;
  /** ln ratios of its ladders, oldest first, with their days. */
  readonly ladders: readonly { readonly day: number; readonly ln: number }[];
  readonly jobs: readonly { readonly through: number; readonly ways: ReturnType<typeof waysOn> }[];
}

/** What a failed job loses, and what an hour is worth. */
export const LOST = { minutes: 40, money: 12, perHour: 30 } as const;
const SLOWEST_SHARE = 0.4;

/** Undefined where the owner never got a baseline. */
export async function ask(w: PowerWorld): Promise<Said | undefined> {
  const folder = mkdtempSync(join(tmpdir(), "clenor-power-"));
  const store = await openStore(folder);
  try {
    const start = (w.told[0]?.atMs ?? 0) - 1000;
    const material = {
      name: "birch ply",
      kind: "birch-ply",
      thicknessMm: 3,
      usualSpeedMmPerS: w.usualSpeedMmPerS,
      usualSetPercent: SET_PERCENT,
    };
    await addMachine(
      store,
      { name: "Larkspur", layout: "three-mirror", ratedPowerW: 80, ratedTubeHours: 3000, tubeHours: w.startHours, material },
      "m",
      start,
    );
    await addMaterial(store, 1, { name: "MDF", kind: "mdf", thicknessMm: 3, usualSpeedMmPerS: 10, usualSetPercent: SET_PERCENT });
    const events = w.told.toSorted((a, b) => a.atMs - b.atMs).map((e, k) => ({ ...e, requestKey: `k${k}` }) as NewEvent);
    await appendEvents(store, 1, events, w.nowMs);
    const g = await gather({ store, folder, nowMs: () => w.nowMs }, "larkspur");
    const { condition, baseline } = g;
    const birch = g.materials.find((m) => m.id === 1);
    const base = birch && cutBase(g, birch);
    const known = base && knownPower(g, base, birch);
    if (!condition || !baseline || !base || !known) return undefined;
    const { fit, moment } = condition;
    const pace = paceOf(g);
    const left = tubeHoursLeft(fit, moment, SPENT);
    const need = (speedMmPerS: number) => neededLnRatio({ speedMmPerS, setPercent: SET_PERCENT, passes: 1 }, base, birch.beta);
    return {
      condition,
      words: wordsOf(condition),
      spare: spareOf(g).find((s) => s.material.id === 1),
      kept: powerIn(fit, moment, pace, 60, true),
      dirty: powerIn(fit, moment, pace, 60),
      left,
      tooEarly: isTooEarly(fit, left),
      paceHours: pace.hoursPerDay,
      stopsInDays: daysUntil(fit, moment, pace, need(w.usualSpeedMmPerS), false, toldBy(g, base, birch)) ?? 200,
      ladders: Array.from(g.ladders).flatMap((l) =>
        l.effective.kind === "ratio" && l.event.atMs > baseline.atMs
          ? [{ day: (l.event.atMs - baseline.atMs) / 86_400_000, ln: Math.log(l.effective.ratio) }]
          : [],
      ),
      jobs: w.jobs.map((job) => {
        const lnNeed = need(job.speedMmPerS);
        const asked = {
          lnNeed,
          beta: 1,
          passes: 1,
          cutMinutes: job.cutMinutes,
          lostMinutes: LOST.minutes,
          lostMoney: LOST.money,
          moneyPerHour: LOST.perHour,
          slowestShare: SLOWEST_SHARE,
        };
        return { through: throughProbability(known, lnNeed), ways: waysOn(known, asked) };
      }),
    };
  } finally {
    await store.destroy();
    rmSync(folder, { recursive: true });
  }
}
