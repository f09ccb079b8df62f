/**
 * What an owner would report when asked: for each check the probability of every answer, or the mean and spread of a figure, from the
 * body alone. Grading slips by some four tenths of a grade, measuring by its instrument, telling by memory.
 */
import { normalCdf } from "#core/normal";
import type { Random } from "#core/random";
import { BED, type Body, clipAt, effectiveLn, heatOf, lossesAlong, MIDDLE, offsetAt, spotFactor, tipOffMm, tubeLoss } from "./body";
import { bodyOf, strength, type TroubledMachine, takes } from "./troubled";

/** Answers with their probabilities, a figure with its spread, or both: then an owner who has the instrument tells the figure. */
export interface Report {
  readonly outcomes?: Readonly<Record<string, number>>;
  readonly value?: { readonly mean: number; readonly sd: number };
}

const step = (x: number, middle: number, width: number) => 1 / (1 + Math.exp(-(x - middle) / width));
const two = (first: string, second: string, p: number) => ({ outcomes: { [first]: 1 - p, [second]: p } });
const length = ([x, y]: readonly [number, number]) => Math.hypot(x, y);

const GRADE_NAMES = ["clear", "haze", "film", "spots", "damaged"] as const;
/** Loss (ln) in the middle of each grade up to spots. */
const GRADE_LN = [0.002, 0.02, 0.083, 0.2] as const;
const GRADING_SD = 0.4;

/** Grades an optic is given by a torch: its dirt on a scale of grades with a slip of some four tenths of a grade; harm shows as such half of the time. */
function lookOf(dirt: number, harm: number): Report {
  const above = GRADE_LN.findIndex((g) => dirt < g);
  const at =
    above === 0
      ? 0
      : above < 0
        ? 3 + Math.min(0.35, (dirt - 0.2) / 0.6)
        : above - 1 + (dirt - (GRADE_LN[above - 1] as number)) / ((GRADE_LN[above] as number) - (GRADE_LN[above - 1] as number));
  const p = GRADE_NAMES.map((_, g) => {
    const upper = g === 3 ? 1 : g === 4 ? 1 : normalCdf((g + 0.5 - at) / GRADING_SD);
    const lower = g === 0 ? 0 : g === 4 ? 1 : normalCdf((g - 0.5 - at) / GRADING_SD);
    return upper - lower;
  });
  if (harm > 0) {
    const shown = 0.72 + 0.2 * Math.min(1, harm / 0.3);
    const seen = [0.02, 0.05, 0.08, 0.3, 0.55];
    p.forEach((v, g) => {
      p[g] = (1 - shown) * v + shown * (seen[g] as number);
    });
  }
  return { outcomes: Object.fromEntries(GRADE_NAMES.map((g, i) => [g, p[i] as number])) };
}

/** Tape: how far a mark is out and how it looks, after so much clipping and with so odd a beam. */
function markOf(offMm: number, radiusMm: number, clippedLn: number, oddLn: number): Report {
  const mean = Math.hypot(offMm, 0.6);
  const clipped = step(clippedLn, 0.09, 0.03) * 0.85 + step(offMm, 0.75 * radiusMm, 0.8) * 0.5;
  const odd = Math.min(0.8, 3.2 * oddLn);
  const off = normalCdf((mean - 1.8) / 0.7);
  const none = step(offMm, 1.25 * radiusMm, 0.5);
  const rest = (1 - none) * (1 - Math.min(0.9, clipped)) * (1 - odd);
  return {
    outcomes: {
      none,
      clipped: (1 - none) * Math.min(0.9, clipped),
      misshapen: (1 - none) * (1 - Math.min(0.9, clipped)) * odd,
      off: rest * off,
      centred: rest * (1 - off),
    },
    value: { mean, sd: 0.7 },
  };
}

/** How far a coupon's ratio scatters from place to place, and what a further figure has to explain (ln) to be more than chance. */
const COUPON_SD = 0.05;
const FIGURE_COSTS = 2.4;

/** A coupon in the four corners and the middle, and how well even, falling, one-sided and one-cornered beds fit it. */
/** Strength (ln) at which even the slowest square of a coupon stays. */
const SLOWEST_LN = -0.7;

function bedMapOf({ spec }: TroubledMachine, body: Body): Report {
  const places = Object.values(BED);
  // Below the slowest square nothing is told apart.
  const ln = places.map((place) => Math.max(SLOWEST_LN, effectiveLn(spec, body, place)));
  const legs = spec.stations.filter((s) => s.travelMm > 0).length;
  // Light is clipped little at first and then at once, so what grows with the way is tried straight and bent.
  const fits = (by: (place: (typeof places)[number]) => number) =>
    Math.max(...[1, 2, 4].map((bend) => -misfit(raised(places.map(by), bend), ln) / (2 * COUPON_SD ** 2))) - FIGURE_COSTS;
  const corners = [BED.near, BED.side, BED.back, BED.far];
  const scores = {
    even: -misfit([0, 0, 0, 0, 0], ln) / (2 * COUPON_SD ** 2),
    // Where one leg is all that travels, it alone is the distance.
    "falls-with-distance": fits(({ travel: [first, second] }) => (legs === 1 ? first : first + second)),
    "one-side": Math.max(
      fits(({ travel: [, head] }) => head),
      fits(({ travel: [gantry] }) => gantry),
    ),
    "one-corner": Math.max(...corners.map((c) => fits((place) => Number(place === c)))),
    // Five figures fit everything.
    patchy: (4 * body.sheetPatches ** 2) / (2 * COUPON_SD ** 2) - 3 * FIGURE_COSTS,
  };
  const best = Math.max(...Object.values(scores));
  const weights = Object.entries(scores).map(([k, s]) => [k, Math.exp(Math.max(-5, s - best))] as const);
  const total = weights.reduce((sum, [, w]) => sum + w, 0);
  return { outcomes: Object.fromEntries(weights.map(([k, w]) => [k, w / total])) };
}

const raised = (x: readonly number[], power: number) => x.map((v) => v ** power);

/** Squares left of `y` after its mean and what rises with `x`. */
function misfit(x: readonly number[], y: readonly number[]): number {
  const mean = (v: readonly number[]) => v.reduce((a, b) => a + b, 0) / v.length;
  const dx = x.map((v) => v - mean(x));
  const dy = y.map((v) => v - mean(y));
  const along = dx.reduce((sum, v, i) => sum + v * (dy[i] as number), 0);
  const length = dx.reduce((sum, v) => sum + v * v, 0);
  return dy.reduce((sum, v) => sum + v * v, 0) - (length > 0 ? (along * along) / length : 0);
}

/** What is told of how it began, by what takes most. */
function storyOf(m: TroubledMachine): { sudden: number; newMaterial: number; cleaned: number; opened: number } {
  const parts = takes(m).map(({ fault, gain }) => ({ fault, gain: Math.max(0.005, gain) ** 1.5 }));
  const total = parts.reduce((sum, p) => sum + p.gain, 0);
  const of = (key: "sudden" | "newMaterial" | "cleaned" | "opened") =>
    parts.reduce((sum, p) => sum + (p.gain * p.fault.story[key]) / total, 0);
  const recent = m.usage.seatsOpened.some((s) => s.daysAgo < 3) ? 0.12 : 0;
  return { sudden: of("sudden"), newMaterial: of("newMaterial"), cleaned: of("cleaned"), opened: Math.min(0.9, of("opened") + recent) };
}

type Law = (m: TroubledMachine, body: Body, k: number) => Report;

/** What another lens, put in as it should be, does away with. */
const OF_THE_LENS = ["lens-dirty", "lens-damaged", "lens-flipped", "lens-loose"];

/** Whether the usual cut, which failed, drops with something else in its place. */
const cutsWith = (m: TroubledMachine, other: TroubledMachine): Report =>
  two("same", "cuts-now", normalCdf((strength(other) - m.needLn) / 0.05) * normalCdf((m.needLn - strength(m)) / 0.05));

const LAWS: Readonly<Record<string, Law>> = {
  "known-cut": (m) => {
    const gap = m.needLn - strength(m);
    const hangs = normalCdf(gap / 0.05);
    const part = normalCdf((gap - 0.08) / 0.05);
    const surface = normalCdf((gap - 0.6) / 0.08);
    return { outcomes: { through: 1 - hangs, hangs: hangs - part, "part-through": part - surface, "surface-only": surface } };
  },
  ladder: (m) => ({ value: { mean: Math.exp(strength(m)), sd: 0.06 * Math.exp(strength(m)) } }),
  "bed-map": (m, body) => bedMapOf(m, body),
  onset: (m) => {
    const { sudden, newMaterial } = storyOf(m);
    return { outcomes: { sudden: (1 - newMaterial) * sudden, gradual: (1 - newMaterial) * (1 - sudden), "new-material": newMaterial } };
  },
  "last-touched": (m) => {
    const { cleaned, opened } = storyOf(m);
    const left = Math.max(0.03, 1 - cleaned - opened);
    const sum = left + cleaned + opened;
    return { outcomes: { nothing: left / sum, cleaned: cleaned / sum, "seat-opened": opened / sum } };
  },
  "in-run": (_, body) => two("steady", "fades", 0.03 + 0.92 * step(heatOf(body), 0.045, 0.012)),
  "lens-look": (_, body) => lookOf(body.dirt.lens ?? 0, body.harm.lens ?? 0),
  "window-look": (_, body) => lookOf(body.dirt.window ?? 0, body.harm.window ?? 0),
  "side-window-look": (_, body) => lookOf(body.dirt["side-window"] ?? 0, body.harm["side-window"] ?? 0),
  "mirror-look": (_, body, k) => lookOf(body.dirt[`mirror-${k}`] ?? 0, body.harm[`mirror-${k}`] ?? 0),
  "mirror-seat": (_, body, k) => two("right", "turned", body.turned[`mirror-${k}`] ? 0.9 : 0.015),
  "lens-side": (_, body) => two("right", "flipped", body.lensFlipped ? 0.98 : 0.001),
  "lens-rattle": (_, body) => two("firm", "rattles", 0.01 + 0.95 * step(body.lensLoose, 0.2, 0.07)),
  tape: ({ spec }, body, k) => {
    const index = spec.stations.findIndex((s) => s.id === `mirror-${k}`);
    const before = spec.stations.slice(0, index);
    const clipped = before.reduce((sum, _, i) => sum + clipAt(spec, body, i), 0);
    const odd = body.modeLn + before.reduce((sum, s) => sum + 0.6 * (body.harm[s.id] ?? 0), 0);
    return markOf(length(offsetAt(spec, body, index)), (spec.stations[index]?.apertureMm ?? 20) / 2, clipped, odd);
  },
  "tape-travel": ({ spec }, body, k) => {
    const index = spec.stations.findIndex((s) => s.id === `mirror-${k}`);
    const near = offsetAt(spec, body, index, BED.near.travel);
    const far = offsetAt(spec, body, index, BED.far.travel);
    const apart = Math.hypot(far[0] - near[0], far[1] - near[1]);
    return { ...two("together", "apart", normalCdf((apart - 1.3) / 0.7)), value: { mean: Math.hypot(apart, 0.5), sd: 0.7 } };
  },
  "nozzle-mark": ({ spec }, body) => {
    const tip = spec.stations.length - 1;
    const cut = step(clipAt(spec, body, tip), 0.07, 0.025);
    const double = Math.min(0.6, 1.4 * (body.harm.lens ?? 0) + 0.25 * body.lensLoose + 1.2 * body.modeLn);
    const off = step(tipOffMm(spec, body) + 0.4 * body.lensLoose, 0.42, 0.1);
    const rest = (1 - cut) * (1 - double);
    return { outcomes: { crescent: cut, double: (1 - cut) * double, off: rest * off, centred: rest * (1 - off) } };
  },
  "nozzle-touch": ({ spec }, body) => {
    const heat = clipAt(spec, body, spec.stations.length - 1) + 0.16 * (body.dirt.lens ?? 0) + 0.22 * (body.harm.lens ?? 0);
    const warm = 0.06 + 0.9 * step(heat, 0.045, 0.014);
    const hot = 0.01 + 0.9 * step(heat, 0.15, 0.04);
    return { outcomes: { cool: Math.max(0, 1 - warm), warm: Math.max(0, warm - Math.min(warm, hot)), hot: Math.min(warm, hot) } };
  },
  "nozzle-bore": (_, body) => {
    const clear = step(body.bore, 0.82, 0.05);
    const blocked = 1 - step(body.bore, 0.4, 0.07);
    return { outcomes: { clear: clear * (1 - blocked), narrowed: (1 - clear) * (1 - blocked), blocked } };
  },
  "air-feel": (_, body) => {
    const blown = body.air * Math.min(1, 0.35 + 0.65 * body.bore);
    const strong = step(blown, 0.72, 0.07);
    const none = 1 - step(blown, 0.2, 0.05);
    return { outcomes: { strong, weak: (1 - strong) * (1 - none), none: (1 - strong) * none } };
  },
  flame: (_, body) => {
    const blown = body.air * Math.min(1, 0.35 + 0.65 * body.bore);
    return two("normal", "more", Math.min(0.97, 0.05 + 0.9 * step(0.7 - blown, 0, 0.07) + 0.4 * body.sheetLn));
  },
  "focus-gauge": (_, body) => {
    const off = Math.abs(body.focusMm) + 0.25 * body.bedMm;
    return { ...two("right", "off", normalCdf((off - 0.75) / 0.3)), value: { mean: Math.hypot(off, 0.2), sd: 0.3 } };
  },
  "focus-ramp": (_, body) => {
    const off = Math.abs(body.focusMm + body.lensShiftMm);
    return { ...two("at-setting", "shifted", normalCdf((off - 0.8) / 0.3)), value: { mean: Math.hypot(off, 0.2), sd: 0.35 } };
  },
  kerf: (_, body) => {
    const wide = 0.18 + 0.075 * (spotFactor(body, MIDDLE) - 1);
    return { ...two("usual", "wide", normalCdf((wide - 0.232) / 0.025)), value: { mean: wide, sd: 0.028 } };
  },
  engraving: (m, body) => {
    const blurred = step(spotFactor(body, MIDDLE), 1.32, 0.09);
    const faint = (1 - blurred) * step(-strength(m), 0.34, 0.07);
    return { outcomes: { crisp: Math.max(0, 1 - blurred - faint), blurred, faint } };
  },
  "tube-current": (_, body) => {
    const share = body.currentShare * Math.exp(body.limitLn);
    const low = normalCdf((22 * (1 - share) - 1.2) / 0.5);
    const unsteady = body.isUnsteady ? 0.7 : 0.015;
    return { outcomes: { normal: (1 - unsteady) * (1 - low), low: (1 - unsteady) * low, unsteady }, value: { mean: 22 * share, sd: 0.45 } };
  },
  "coolant-temp": (_, body) => ({ value: { mean: body.coolantC + 3 * body.airInTube, sd: 1.4 } }),
  "coolant-flow": (_, body) => {
    const flow = 2 * body.flowShare - 0.35 * body.airInTube - 2.5 * body.foulLn;
    return { ...two("good", "low", normalCdf((1.62 - flow) / 0.18)), value: { mean: Math.max(0, flow), sd: 0.2 } };
  },
  "water-look": (_, body) => {
    const foul = 0.04 + 0.92 * step(body.foulLn, 0.022, 0.008);
    return { outcomes: { clear: 1 - foul, cloudy: 0.5 * foul, coloured: 0.5 * foul } };
  },
  bubbles: (_, body) => two("no", "yes", 0.03 + 0.93 * step(body.airInTube, 0.18, 0.05)),
  pauses: (_, body) => two("none", "cools-down", 0.01 + 0.7 * step(heatOf(body), 0.11, 0.03)),
  "tube-mark": (_, body) => {
    const odd = 0.02 + 0.92 * step(body.modeLn + 0.7 * (body.harm.window ?? 0), 0.07, 0.02);
    const weak = (1 - odd) * (0.02 + 0.85 * step(tubeLoss(body) + (body.dirt.window ?? 0) + (body.harm.window ?? 0), 0.27, 0.06));
    return { outcomes: { round: Math.max(0, 1 - odd - weak), distorted: odd, weak } };
  },
  "power-limit": (_, body) => two("usual", "left-low", body.limitLn < -0.01 ? 0.97 : 0.002),
  settings: (_, body) => two("usual", "changed", body.settingsLn > 0.01 ? 0.94 : 0.03),
  "material-swap": (m) => cutsWith(m, { ...m, faults: m.faults.filter((f) => f.id !== "material-varies") }),
  "lens-swap": (m) => cutsWith(m, { ...m, film: { ...m.film, lens: 0.001 }, faults: m.faults.filter((f) => !OF_THE_LENS.includes(f.id)) }),
  "focus-set": (m) => cutsWith(m, { ...m, faults: m.faults.filter((f) => f.id !== "focus-off") }),
  // Half of what is wrong with the air is in its line, half in the pump.
  "air-line": (m) => {
    const { outcomes } = cutsWith(m, { ...m, faults: m.faults.filter((f) => f.id !== "air-weak") });
    const isAir = m.faults.some((f) => f.id === "air-weak");
    return two("same", "cuts-now", (isAir ? 0.5 : 1) * (outcomes?.["cuts-now"] ?? 0));
  },
  "bed-level": (_, body) => ({
    ...two("level", "off", normalCdf((body.bedMm - 1) / 0.35)),
    value: { mean: Math.hypot(body.bedMm, 0.35), sd: 0.3 },
  }),
};

/** Watts at full setting against those of the day it was good: what a probe shows after a station. */
function powerReport(m: TroubledMachine, body: Body, station: string, baselineW: number): Report {
  const index = m.spec.stations.findIndex((s) => s.id === station);
  const losses = lossesAlong(m.spec, body);
  const at =
    station === "tube"
      ? Math.max(
          0,
          m.spec.stations.findIndex((s) => s.role === "window"),
        )
      : index;
  const mean = baselineW * Math.exp(-(losses[at] as number));
  return { value: { mean, sd: 0.035 * mean } };
}

/** Slips of eye, hand and key. */
const SLIP = 0.015;

/**
 * What would be reported of a check, by its public id; undefined for one that has nothing to do with the beam. `baselineW` are the watts
 * after each station when the machine was good.
 */
export function reportOf(m: TroubledMachine, check: string, baselineW: Readonly<Record<string, number>>): Report | undefined {
  const [name = "", at = ""] = check.split("@");
  const body = bodyOf(m);
  if (name === "power") return baselineW[at] === undefined ? undefined : powerReport(m, body, at, baselineW[at] as number);
  const law = LAWS[name];
  if (!law) return undefined;
  const report = law(m, body, Number(at));
  if (!report.outcomes) return report;
  const n = Object.keys(report.outcomes).length;
  return { ...report, outcomes: Object.fromEntries(Object.entries(report.outcomes).map(([o, p]) => [o, (1 - SLIP) * p + SLIP / n])) };
}

/** One answer drawn from a report: a figure where `tellsFigures` and there is one. */
export function answerFrom(report: Report, tellsFigures: boolean, random: Random): { readonly outcome?: string; readonly value?: number } {
  if (report.value && (tellsFigures || !report.outcomes)) return { value: report.value.mean + report.value.sd * random.normal() };
  let u = random.uniform();
  const outcomes = Object.entries(report.outcomes ?? {});
  const found = outcomes.find(([, p]) => {
    u -= p;
    return u <= 0;
  });
  return { outcome: (found ?? outcomes.at(-1))?.[0] ?? "" };
}
