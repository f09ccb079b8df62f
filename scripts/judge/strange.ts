/**
 * Worlds that differ from the simulator's own, as a workshop somewhere may: other faults are frequent, owners grade and tell otherwise, and
 * some questions are answered badly. Nothing was tuned on them: an engine that knows one simulator by heart does worse here.
 */
import type { Report } from "#core/practice";
import { seededRandom } from "#core/random";
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
  let hash = Math.imul(world + 1, 0x9e3779b1);
  for (let i = 0; i < what.length; i++) hash = Math.imul(hash ^ what.charCodeAt(i), 0x01000193);
  return Math.exp(sd * seededRandom(hash).normal());
}

/** The world that a machine of this seed stands in. */
export function strangeWorld(world: World, seed: number): World {
  const n = seed % WORLDS;
  const told = (check: string, { value, outcomes }: Report): Report => {
    const [name = ""] = check.split("@");
    return {
      ...(value ? { value: { ...value, sd: value.sd * factorOf(n, `${name} spread`, SPREAD) } } : {}),
      ...(outcomes ? { outcomes: toldOtherwise(n, name, outcomes) } : {}),
    };
  };
  return { ...world, spec: { ...world.spec, rateFactor: (fault) => factorOf(n, fault, RATE) }, told };
}

function toldOtherwise(n: number, check: string, outcomes: Readonly<Record<string, number>>): Record<string, number> {
  const clear = factorOf(n, `${check} clear`, CLEAR);
  const slip = Math.min(MOST_SLIPS, SLIP * factorOf(n, `${check} slips`, SLIPS));
  const given = Object.entries(outcomes).map(([o, p]) => [o, Math.max(1e-6, p) ** clear * factorOf(n, `${check} ${o}`, GIVEN)] as const);
  const sum = given.reduce((total, [, p]) => total + p, 0);
  return Object.fromEntries(given.map(([o, p]) => [o, ((1 - slip) * p) / sum + slip / given.length]));
}
