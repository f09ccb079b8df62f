/**
 * Machines that wear as machines do and not as the fit supposes: four ways a tube ages, dirt in bursts of which a clean leaves a part, aim
 * that creeps and is knocked, sheets in batches, coolant that follows the seasons, drop curves of their own width. Owners who keep the log
 * well, late, sparsely or wrong, with eyes of their own. Shares nothing with the fit.
 */
import type { EventKind, EventPayload } from "#core/events";
import { type Random, seededRandom } from "#core/random";
import { DAY_MS } from "#core/time";

export const TUBE_LAWS = ["even", "faster", "break-in", "leak"] as const;
export type TubeLaw = (typeof TUBE_LAWS)[number];
export const KEEPINGS = ["careful", "usual", "sparse", "late", "wrong", "dirty"] as const;
/** How an owner keeps machine and log. */
export type Keeping = (typeof KEEPINGS)[number];

interface Habits {
  readonly counterDays: number;
  readonly jobsLogged: number;
  readonly ladderDays: number;
  /** Multiple of the usual intervals at which optics are cleaned. */
  readonly cleans: number;
  readonly looks: number;
  readonly cutsLogged: number;
  readonly wattDays: number;
  readonly slip: number;
  readonly lateDays: number;
  readonly misread: number;
}
const HABITS: Readonly<Record<Keeping, Habits>> = {
  careful: {
    counterDays: 2,
    jobsLogged: 0.95,
    ladderDays: 9,
    cleans: 0.9,
    looks: 0.9,
    cutsLogged: 0.3,
    wattDays: 60,
    slip: 0.01,
    lateDays: 0,
    misread: 0,
  },
  usual: {
    counterDays: 12,
    jobsLogged: 0.5,
    ladderDays: 20,
    cleans: 1.2,
    looks: 0.6,
    cutsLogged: 0.15,
    wattDays: 0,
    slip: 0.02,
    lateDays: 0,
    misread: 0,
  },
  sparse: {
    counterDays: 55,
    jobsLogged: 0.05,
    ladderDays: 55,
    cleans: 2.2,
    looks: 0.3,
    cutsLogged: 0.05,
    wattDays: 0,
    slip: 0.02,
    lateDays: 0,
    misread: 0,
  },
  late: {
    counterDays: 10,
    jobsLogged: 0.6,
    ladderDays: 18,
    cleans: 1.2,
    looks: 0.5,
    cutsLogged: 0.2,
    wattDays: 0,
    slip: 0.02,
    lateDays: 6,
    misread: 0,
  },
  wrong: {
    counterDays: 9,
    jobsLogged: 0.5,
    ladderDays: 16,
    cleans: 1.3,
    looks: 0.6,
    cutsLogged: 0.2,
    wattDays: 90,
    slip: 0.07,
    lateDays: 0,
    misread: 0.05,
  },
  dirty: {
    counterDays: 9,
    jobsLogged: 0.6,
    ladderDays: 20,
    cleans: 5,
    looks: 0.2,
    cutsLogged: 0.2,
    wattDays: 0,
    slip: 0.02,
    lateDays: 0,
    misread: 0,
  },
};

/** Optics in the order of the path, with the smoke (ply-hours) after which an owner usually cleans them. */
export const OPTICS = [
  { id: "window", interval: 140 },
  { id: "mirror-1", interval: 42 },
  { id: "mirror-2", interval: 38 },
  { id: "mirror-3", interval: 11 },
  { id: "lens", interval: 8 },
] as const;

export interface Told {
  readonly kind: EventKind;
  readonly atMs: number;
  readonly payload: EventPayload[EventKind];
}

export interface Job {
  readonly speedMmPerS: number;
  readonly cutMinutes: number;
  /** Effective power at which half would drop, against the baseline day, and whether it did on its own sheet. */
  readonly drops: (speedShare: number, passes: number) => boolean;
  /** A cut in the margin of the same sheet. */
  readonly test: (speedShare: number) => boolean;
}

export interface PowerWorld {
  readonly law: TubeLaw;
  readonly keeping: Keeping;
  readonly told: readonly Told[];
  readonly nowMs: number;
  readonly startHours: number;
  /** Firing hours a day, weekends included. */
  readonly hoursPerDay: number;
  /** Loss per ply-hour of each optic (ln), before bursts. */
  readonly rates: readonly number[];
  readonly usualSpeedMmPerS: number;
  readonly truth: {
    /** ln power now against the baseline day, and the parts of it (losses, ln). */
    readonly lnRatio: number;
    readonly dirt: number;
    readonly tube: number;
    readonly other: number;
    /** The same sixty days on. */
    readonly kept: number;
    readonly dirty: number;
    /** Firing hours until the tube alone gives 0.8 of the baseline day; Infinity where it does not within 20,000. */
    readonly hoursLeft: number;
    /** Days until the usual cut no longer drops if nothing is cleaned, up to 200. */
    readonly stopsInDays: number;
    /** ln v50 of a middling sheet over the usual speed. */
    readonly spare: number;
    /** The same on a sheet of the batch that is in the shop. */
    readonly spareNow: number;
  };
  readonly jobs: readonly Job[];
}

export const SET_PERCENT = 60;
const V0 = 15.4;
const START = Date.parse("2025-09-01T08:00:00Z");

/** Loss of the tube alone, ln, after so many hours of its life. */
function tubeLaw(law: TubeLaw, random: Random): (hours: number) => number {
  const rate = 1.1e-4 * Math.exp(0.4 * random.normal());
  switch (law) {
    case "even":
      return (h) => rate * h;
    case "faster":
      return (h) => 0.3 * rate * h + 0.18 * (h / 2600) ** 3;
    case "break-in":
      return (h) => 0.05 * (1 - Math.exp(-h / 120)) + 0.6 * rate * h;
    case "leak": {
      const onset = 400 + 1600 * random.uniform();
      return (h) => 0.4 * rate * h + (h > onset ? 3.5e-4 * (h - onset) : 0);
    }
    default:
      return law satisfies never;
  }
}

/** One machine with its owner's log. */
export function powerWorld(seed: number, law: TubeLaw, keeping: Keeping, ladderless = false): PowerWorld {
  const random = seededRandom(seed);
  const habits = HABITS[keeping];
  const days = 200 + Math.floor(220 * random.uniform());
  const baselineDay = 6 + Math.floor(20 * random.uniform());
  const tube = tubeLaw(law, random);
  const startHours = Math.floor(random.pick([0, 150, 700, 1300]) * (0.7 + 0.6 * random.uniform()));
  const shop = Math.exp(0.35 * random.normal());
  const rates = OPTICS.map((o) => ((0.021 * shop) / o.interval) * Math.exp(0.4 * random.normal()));
  const slope = 0.03 + 0.05 * random.uniform();
  const hoursADay = 0.8 + 2.2 * random.uniform();
  const eye = 0.8 * random.normal();
  const creep = 0.006 * Math.exp(0.5 * random.normal());
  const residue = 0.04 + 0.22 * random.uniform();
  const state = { hours: startHours, dirt: OPTICS.map(() => 0), aim: 0, drift: 0, dose: OPTICS.map(() => 0), batch: 0, burst: 1 };
  const told: Told[] = [];
  let counterError = 0;

  const atMs = (day: number, hour = 9) => START + day * DAY_MS + (hour - 8) * 3_600_000;
  const say = <K extends EventKind>(kind: K, day: number, hour: number, payload: EventPayload[K]) => {
    const late = habits.lateDays > 0 && kind !== "ladder" && random.uniform() < 0.3 ? habits.lateDays * random.uniform() : 0;
    told.push({ kind, atMs: Math.round(Math.min(atMs(days, 7), atMs(day + late, hour))), payload });
  };
  const coolant = (day: number) => 0.007 * Math.max(0, 5 * Math.sin((2 * Math.PI * (day - 200)) / 365) + 2);
  const dirtSum = (s = state) => s.dirt.reduce((a, b) => a + b, 0);
  const lossOf = (day: number, s = state) => tube(s.hours) + dirtSum(s) + Math.max(0, s.aim + s.drift) + coolant(day);
  const lnV50 = (day: number) => Math.log(V0) - lossOf(day) + state.batch + 0.018 * random.normal();

  const oneCut = (lnV: number, speed: number, width = slope) => lnV + width * random.normal() > Math.log(speed);
  const ladder = (day: number, hour: number, baseline: boolean, expected: number) => {
    const lnV = lnV50(day);
    const rungs = Array.from({ length: 8 }, (_, i) => {
      const speedMmPerS = Math.max(1, Math.round(expected) - 3 + i);
      let end: "dropped" | "hangs" | "stays" = oneCut(lnV, speedMmPerS) ? "dropped" : oneCut(lnV + slope, speedMmPerS) ? "hangs" : "stays";
      if (random.uniform() < habits.slip) end = end === "dropped" ? "stays" : "dropped";
      return { speedMmPerS, end };
    });
    const ends = new Set(rungs.map((r) => r.end));
    if (baseline && (ends.size < 2 || !ends.has("dropped"))) return false;
    say("ladder", day, hour, { materialId: 1, setPercent: SET_PERCENT, rungs, ...(baseline ? { baseline: true } : {}) });
    return true;
  };
  const clean = (day: number, k: number, isTold = true) => {
    const loss = state.dirt[k] as number;
    const { id } = OPTICS[k] as (typeof OPTICS)[number];
    if (isTold && random.uniform() < habits.looks) {
      const seen = loss + 0.012 * random.normal();
      const grade = Math.round(
        Math.min(
          3,
          Math.max(
            0,
            (seen < 0.01 ? 0 : seen < 0.045 ? 1 : seen < 0.12 ? 2 : 3) + (random.uniform() < Math.abs(eye) / 2 ? Math.sign(eye) : 0),
          ),
        ),
      ) as 0 | 1 | 2 | 3;
      say("grade", day, 8.1, { station: id, phase: "as-found", grade });
    }
    state.dirt[k] = loss * residue * (0.4 + 1.2 * random.uniform());
    state.dose[k] = 0;
    if (isTold) say("service", day, 8.2, { station: id, what: "cleaned" });
  };
  const work = (day: number, s: typeof state, r: Random, isTold: boolean) => {
    const weekday = day % 7;
    if (weekday > 4 || day % 97 > 88) return;
    if (weekday === 0) s.burst = Math.exp(0.4 * r.normal());
    const hours = hoursADay * (0.3 + 1.4 * r.uniform());
    const smoke = r.uniform() < 0.25 ? 1.45 : 1;
    const rough = r.uniform() < 0.03 ? 5 : 1;
    for (const [k, rate] of rates.entries()) {
      s.dirt[k] = (s.dirt[k] as number) + rate * hours * smoke * s.burst * rough;
      s.dose[k] = (s.dose[k] as number) + hours * smoke;
    }
    s.hours += hours;
    s.drift = s.drift * 0.995 + creep * 0.4 * r.normal() + creep / 25;
    if (isTold && random.uniform() < habits.jobsLogged)
      say("job", day, 9 + hours, {
        materialId: smoke > 1 ? 2 : 1,
        minutes: Math.max(1, Math.round(60 * hours * (keeping === "wrong" ? 0.6 + 0.8 * random.uniform() : 1))),
      });
  };

  let usual = 0;
  let baselineLoss = { all: 0, dirt: 0, tube: 0 };
  let lastLadder = baselineDay;
  let expected = V0;
  for (let day = 0; day < days; day++) {
    if (random.uniform() < 1 / 38) state.batch = 0.04 * random.normal();
    if (day === 0) say("hours", 0, 8, { counterHours: startHours });
    if (day === baselineDay) {
      for (const k of OPTICS.keys()) clean(day, k);
      state.aim = 0;
      state.drift = 0;
      for (let tries = 0; tries < 5 && !ladder(day, 8.6, true, Math.exp(lnV50(day))); tries++);
      baselineLoss = { all: lossOf(day), dirt: dirtSum(), tube: tube(state.hours) };
      // What the owner takes for usual is by the sheet he had.
      usual = Math.round(2 * (0.9 + 0.05 * random.uniform()) * Math.exp(Math.log(V0) - baselineLoss.all + state.batch)) / 2;
      expected = Math.exp(Math.log(V0) - baselineLoss.all);
    }
    if (day > baselineDay) {
      let hasCleaned = false;
      for (const [k, o] of OPTICS.entries())
        if ((state.dose[k] as number) > o.interval * habits.cleans * (0.7 + 0.6 * random.uniform())) {
          clean(day, k);
          hasCleaned = true;
        }
      // A knock, or a mirror that slipped: found some days later.
      if (state.aim === 0 && random.uniform() < 1 / 170) state.aim = 0.04 + 0.16 * random.uniform();
      else if (state.aim > 0.06 && random.uniform() < 1 / 12) {
        state.aim = 0.01 * random.uniform();
        say("service", day, 8.3, { station: "mirror-3", what: "aimed" });
        hasCleaned = hasCleaned || random.uniform() < 0.5;
      }
      const due = day - lastLadder >= habits.ladderDays * (0.6 + 0.8 * random.uniform());
      if (!ladderless && (due || (hasCleaned && random.uniform() < 0.25))) {
        ladder(day, 8.7, false, expected * (0.97 + 0.06 * random.uniform()));
        expected = Math.exp(Math.log(V0) - lossOf(day));
        lastLadder = day;
      }
      if (habits.wattDays > 0 && (day - baselineDay) % habits.wattDays === 1)
        say("power", day, 8.5, {
          setPercent: 100,
          readings: [{ station: "tube", powerW: 80 * Math.exp(-tube(state.hours) - coolant(day) + 0.03 * random.normal()) }],
          ...(day - baselineDay === 1 ? { baseline: true } : {}),
        });
      if (usual > 0 && random.uniform() < habits.cutsLogged) {
        const passed = oneCut(lnV50(day), usual);
        say("cut", day, 10, {
          materialId: 1,
          speedMmPerS: usual,
          setPercent: SET_PERCENT,
          result: passed ? "through" : random.uniform() < 0.4 ? "hangs" : "part-through",
        });
        if (!passed && habits.cleans < 4 && random.uniform() < 0.4) {
          clean(day, 4);
          clean(day, 3);
        }
      }
    }
    work(day, state, random, true);
    if ((day + 1) % habits.counterDays === 0) {
      if (random.uniform() < habits.misread) counterError = random.pick([-10, 7, 10, 20]) * random.uniform();
      say("hours", day, 18, { counterHours: Math.round(10 * Math.max(0, state.hours + counterError)) / 10 });
      counterError = 0;
    }
  }
  const sheet = state.batch;
  const now = lossOf(days);
  const ahead = (isKept: boolean, until: number) => {
    const r = seededRandom(seed + (isKept ? 7_000_001 : 9_000_001));
    const s = { ...state, dirt: [...state.dirt], dose: [...state.dose] };
    let stops = 200;
    let at60 = 0;
    for (let day = days; day <= days + until; day++) {
      const loss = lossOf(day, s) - baselineLoss.all;
      if (day === days + 60) at60 = -loss;
      if (stops === 200 && Math.log(V0) - baselineLoss.all - loss < Math.log(usual)) stops = day - days;
      if (isKept)
        for (const [k, o] of OPTICS.entries())
          if ((s.dose[k] as number) > o.interval) {
            s.dirt[k] = (s.dirt[k] as number) * residue * (0.4 + 1.2 * r.uniform());
            s.dose[k] = 0;
          }
      work(day, s, r, false);
    }
    return { at60, stops };
  };
  const uncleaned = ahead(false, 200);
  let left = 0;
  const tubeNow = state.hours;
  while (left < 20_000 && tube(tubeNow + left) - baselineLoss.tube < -Math.log(0.8)) left += 10;
  const jobs = Array.from({ length: 6 }, (): Job => {
    const speedMmPerS = Math.round(10 * usual * (0.82 + 0.26 * random.uniform())) / 10;
    const lnV = Math.log(V0) - now + sheet + 0.018 * random.normal();
    const r = seededRandom(Math.floor(random.uniform() * 2 ** 31));
    return {
      speedMmPerS,
      cutMinutes: 4 + 14 * random.uniform(),
      drops: (share, passes) => lnV + Math.log(passes) + slope * r.normal() > Math.log(speedMmPerS * share),
      test: (share) => lnV + slope * r.normal() > Math.log(speedMmPerS * share),
    };
  });
  return {
    law,
    keeping,
    told,
    nowMs: atMs(days, 8),
    startHours,
    hoursPerDay: (hoursADay * 5 * 88) / (7 * 97),
    rates,
    usualSpeedMmPerS: usual,
    truth: {
      lnRatio: -(now - baselineLoss.all),
      dirt: dirtSum() - baselineLoss.dirt,
      tube: tube(state.hours) - baselineLoss.tube,
      other: now - baselineLoss.all - (dirtSum() - baselineLoss.dirt) - (tube(state.hours) - baselineLoss.tube),
      kept: ahead(true, 60).at60,
      dirty: uncleaned.at60,
      hoursLeft: left >= 20_000 ? Number.POSITIVE_INFINITY : left,
      stopsInDays: uncleaned.stops,
      spare: Math.log(V0) - now - Math.log(usual),
      spareNow: Math.log(V0) - now + sheet - Math.log(usual),
    },
    jobs,
  };
}
