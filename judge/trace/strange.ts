/**
 * Worlds that differ from the simulator's own, as a workshop somewhere may: other faults are frequent, owners grade and tell otherwise, and
 * some questions are answered badly; eyes are mild, spares bad, owners out of patience, and some causes stand in no list. Nothing was tuned on them: an engine that knows one simulator by heart does worse here.
 */

import { seededRandom } from "#core/random";
import type { Report } from "../machines";
import type { World } from "./world";

/** So many of them, taken in turn: of a dozen some fault or other is frequent by chance, and with it the tube or the sheet. */
const WORLDS = 97;
/** How far (sd of a ln) rates, spreads of figures, how clear answers are, what each is given for, and slips differ; the share of slips, and at most. */
const RATE = 0.5;
const SPREAD = 0.3;
const CLEAR = 0.2;
const GIVEN = 0.25;
const SLIPS = 0.8;
const SLIP = 0.02;
const MOST_SLIPS = 0.12;

/** A factor of its own for everything in a world: the same whenever it is asked. */
function factorOf(world: number, what: string, sd: number): number {
  return Math.exp(sd * seededRandom(hashOf(world, what)).normal());
}

function hashOf(n: number, what: string): number {
  let hash = Math.imul(n + 1, 0x9e3779b1);
  for (let i = 0; i < what.length; i++) hash = Math.imul(hash ^ what.charCodeAt(i), 0x01000193);
  return hash;
}

/** Eyes that grade optics milder, in the mean, and how far they differ (grades); a share of what they see goes to the next grade. */
const EYE = 0.25;
const EYE_SD = 0.5;
const MOST_SHIFT = 0.6;
/** Another sheet cuts though the first was sound: another batch, a thinner corner. */
const SHEET_BY_CHANCE = 0.08;
/** Known good lenses that are not. */
const BAD_SPARES = 0.12;
/** Owners without patience, and what they answer of what takes hands. */
const IMPATIENT = 0.3;
const ANSWERED = 0.5;
/** What brings an owner here and stands in no list: a part of the supply that warms, a driver that fades. Its loss (ln), from and over. */
const OUTSIDE = 0.04;
const OUTSIDE_LN = 0.15;
const OUTSIDE_OVER = 0.25;
/** Ducts are longer and fans older than one thinks. */
const WEAK_EXHAUST = 2;

/** The world that a machine of this seed stands in. */
export function strangeWorld(world: World, seed: number): World {
  const n = seed % WORLDS;
  const eye = EYE + EYE_SD * seededRandom(Math.imul(n + 1, 0x85ebca6b)).normal();
  const luck = seededRandom(Math.imul(seed + 1, 0xc2b2ae35));
  const isImpatient = luck.uniform() < IMPATIENT;
  const hasBadSpare = luck.uniform() < BAD_SPARES;
  const outsideLn = luck.uniform() < OUTSIDE ? OUTSIDE_LN + OUTSIDE_OVER * luck.uniform() : undefined;
  const told = (check: string, { value, outcomes }: Report): Report => {
    const [name = ""] = check.split("@");
    return {
      ...(value ? { value: { ...value, sd: value.sd * factorOf(n, `${name} spread`, SPREAD) } } : {}),
      ...(outcomes ? { outcomes: toldOtherwise(n, name, seenBy(eye, name, byChance(name, hasBadSpare, outcomes))) } : {}),
    };
  };
  const rateFactor = (fault: string) => factorOf(n, fault, RATE) * (fault === "exhaust-weak" ? WEAK_EXHAUST : 1);
  const answers = isImpatient ? (check: string) => seededRandom(hashOf(seed, check)).uniform() < ANSWERED : undefined;
  return {
    ...world,
    spec: { ...world.spec, rateFactor },
    told,
    ...(answers ? { answers } : {}),
    ...(outsideLn === undefined ? {} : { outsideLn }),
  };
}

/** Grades of an optic as these eyes give them: milder where the eye is above nought, stricter below it. */
function seenBy(eye: number, check: string, outcomes: Readonly<Record<string, number>>): Readonly<Record<string, number>> {
  if (!/-look$/.test(check) || outcomes.clear === undefined) return outcomes;
  const names = Object.keys(outcomes);
  const share = Math.min(MOST_SHIFT, Math.abs(eye));
  const seen = Object.fromEntries(names.map((name) => [name, 0]));
  names.forEach((name, i) => {
    // What is broken is broken to anybody.
    const to = name === "damaged" ? name : (names[Math.min(names.length - 2, Math.max(0, i + (eye > 0 ? -1 : 1)))] ?? name);
    seen[name] = (seen[name] ?? 0) + (1 - share) * (outcomes[name] ?? 0);
    seen[to] = (seen[to] ?? 0) + share * (outcomes[name] ?? 0);
  });
  return seen;
}

function byChance(check: string, hasBadSpare: boolean, outcomes: Readonly<Record<string, number>>): Readonly<Record<string, number>> {
  const cuts = outcomes["cuts-now"];
  if (cuts === undefined) return outcomes;
  const now = check === "material-swap" ? cuts + SHEET_BY_CHANCE * (1 - cuts) : check === "lens-swap" && hasBadSpare ? 0.1 * cuts : cuts;
  const rest = cuts < 1 ? (1 - now) / (1 - cuts) : 0;
  return Object.fromEntries(Object.entries(outcomes).map(([o, p]) => [o, o === "cuts-now" ? now : p * rest]));
}

function toldOtherwise(n: number, check: string, outcomes: Readonly<Record<string, number>>): Record<string, number> {
  const clear = factorOf(n, `${check} clear`, CLEAR);
  const slip = Math.min(MOST_SLIPS, SLIP * factorOf(n, `${check} slips`, SLIPS));
  const given = Object.entries(outcomes).map(([o, p]) => [o, Math.max(1e-6, p) ** clear * factorOf(n, `${check} ${o}`, GIVEN)] as const);
  const sum = given.reduce((total, [, p]) => total + p, 0);
  return Object.fromEntries(given.map(([o, p]) => [o, ((1 - slip) * p) / sum + slip / given.length]));
}
