/**
 * One who knows the simulator: machines drawn from it, each weighed by the simulator's own probabilities of what was answered. Shows
 * what can be told from answers at all.
 */

import { type Random, seededRandom } from "#core/random";
import type { TraceFinding } from "#core/trace";
import { drawTroubled, mainFaults, oddsOf, type Report, reportOf, strength, type TroubledMachine } from "../machines";
import { keptBy, type RoundDone, repairedMachine, type World } from "./world";

/** A machine that may be the one at hand, with all it would report as it is now. */
interface Particle {
  readonly machine: TroubledMachine;
  readonly reports: Map<string, Report | undefined>;
  needs?: readonly number[];
}

/** Of all machines those it may be still, with their weights, which sum to 1. */
export interface Believed {
  readonly at: Int32Array;
  readonly weights: Float64Array;
}

export class Oracle {
  readonly particles: readonly Particle[];
  /** Ln of how likely its own use made its faults. */
  private readonly own: Float64Array;

  constructor(
    readonly world: World,
    count: number,
    seed: number,
  ) {
    const random = seededRandom(seed);
    this.particles = Array.from({ length: count }, () => {
      const machine = drawTroubled(world.spec, random);
      return { machine, reports: new Map() };
    });
    this.own = Float64Array.from(this.particles, ({ machine }) => this.lnOdds(machine, machine));
  }

  /** Ln odds that use made of a machine's faults. */
  private lnOdds(faulty: TroubledMachine, used: TroubledMachine): number {
    const odds = this.oddsOfUse(used);
    return faulty.faults.reduce((sum, f) => sum + Math.log(odds.get(f.id) ?? 1e-9), 0);
  }

  private readonly odds = new WeakMap<TroubledMachine, ReadonlyMap<string, number>>();
  private oddsOfUse(used: TroubledMachine): ReadonlyMap<string, number> {
    const known = this.odds.get(used);
    if (known) return known;
    const list = oddsOf(this.world.spec, used.usage);
    const total = list.reduce((sum, o) => sum + o.odds, 0);
    const shares = new Map(list.map((o) => [o.id, o.odds / total]));
    this.odds.set(used, shares);
    return shares;
  }

  /** Ln weights of the machines by use alone. */
  fromUse = (used: TroubledMachine): Float64Array =>
    Float64Array.from(this.particles, ({ machine }, i) => this.lnOdds(machine, used) - (this.own[i] as number));

  /** The repair most likely to mend what takes most, given a machine's use and what was answered. */
  best(used: TroubledMachine, findings: readonly TraceFinding[]): string {
    const belief = new Belief(this, used);
    for (const f of findings) {
      belief.see(f);
      belief.keeps(f, SURELY);
    }
    const { at, weights } = belief.now();
    const sums = new Map<string, number>();
    at.forEach((n, i) => {
      const { machine } = belief.particle(n);
      for (const r of new Set(mainFaults(machine).map((f) => repairOf(this.world, f))))
        sums.set(r, (sums.get(r) ?? 0) + (weights[i] as number));
    });
    return [...sums].sort((a, b) => b[1] - a[1])[0]?.[0] ?? "";
  }
}

const repairOf = (world: World, fault: string): string => world.model.faults.find((f) => f.id === fault)?.repair ?? "";
/** Every repair succeeds. */
const SURELY = { uniform: () => 0 };

/**
 * Repairs that a machine needs until its cut drops again, by their place in the model, what takes most first: at most `most` of them, none
 * where it drops as it is.
 */
export function needsOf(world: World, machine: TroubledMachine, most = 2): number[] {
  const needs: number[] = [];
  let left = machine;
  while (needs.length < most && left.faults.length > 0 && (needs.length === 0 || strength(left) < left.needLn)) {
    // Where two hide each other, as a table too high does a focus too low, mending either alone makes it worse: both are needed.
    const main = mainFaults(left)[0] ?? (strength(left) < left.needLn ? left.faults[0]?.id : undefined);
    if (main === undefined) break;
    needs.push(world.model.repairs.findIndex((r) => r.id === repairOf(world, main)));
    left = repairedMachine(world, left, [repairOf(world, main)], [], SURELY);
  }
  return needs;
}

/** Lighter machines than this, against the heaviest, are left out. */
const LIGHTEST = 1e-5;
const MOST = 500;

/** What one who knows the simulator believes of one machine, from answer to answer and from round to round. */
export class Belief {
  private readonly ln: Float64Array;
  private particles: (Particle | undefined)[];

  constructor(
    private readonly oracle: Oracle,
    used: TroubledMachine,
  ) {
    this.ln = oracle.fromUse(used);
    this.particles = [...oracle.particles];
  }

  particle = (n: number): Particle => this.particles[n] as Particle;

  report(n: number, check: string): Report | undefined {
    const { machine, reports } = this.particle(n);
    if (!reports.has(check)) reports.set(check, reportOf(machine, check, this.oracle.world.watts));
    return reports.get(check);
  }

  /** What a machine needs until its cut drops again. */
  needs(n: number): readonly number[] {
    const particle = this.particle(n);
    particle.needs ??= needsOf(this.oracle.world, particle.machine);
    return particle.needs;
  }

  see(finding: TraceFinding): void {
    for (let n = 0; n < this.ln.length; n++)
      if (this.particles[n]) this.ln[n] = (this.ln[n] as number) + lnReport(this.report(n, finding.check), finding);
  }

  now(): Believed {
    const top = this.ln.reduce((most, w, n) => (this.particles[n] && w > most ? w : most), Number.NEGATIVE_INFINITY);
    const heavy = [...this.ln.keys()]
      .filter((n) => this.particles[n] && (this.ln[n] as number) > top + Math.log(LIGHTEST))
      .sort((p, q) => (this.ln[q] as number) - (this.ln[p] as number))
      .slice(0, MOST);
    const weights = Float64Array.from(heavy, (n) => Math.exp((this.ln[n] as number) - top));
    const total = weights.reduce((a, b) => a + b, 0);
    return { at: Int32Array.from(heavy), weights: weights.map((w) => w / total) };
  }

  /** What was tried in vain stays as it was tried: the machine is another since. */
  keeps(found: TraceFinding, random: Pick<Random, "uniform">): void {
    const { world } = this.oracle;
    const kept = keptBy(world, found);
    if (kept === undefined) return;
    // Of most machines that was not the trouble: they are as they were, with what they were known to report.
    const isOther = ({ machine }: Particle) => machine.faults.some((f) => repairOf(world, f.id) === kept);
    this.particles = this.particles.map((p) =>
      p && isOther(p) ? { machine: repairedMachine(world, p.machine, [kept], [], random), reports: new Map() } : p,
    );
  }

  /** A round was made: what was found on the way speaks of the machine before, what was left and the cut of the machine since. */
  round({ done, alone, again, asFound, asLeft, cut }: RoundDone, seen: ReadonlySet<string>, random: Pick<Random, "uniform">): void {
    for (const f of asFound) if (!seen.has(f.check)) this.see(f);
    const { world } = this.oracle;
    const kept = new Set(this.now().at);
    this.particles = this.particles.map((p, n) => {
      if (!p || !kept.has(n)) return undefined;
      const once = repairedMachine(world, p.machine, done, alone, random);
      const machine = again.length > 0 ? repairedMachine(world, once, again, [], random) : once;
      return { machine, reports: new Map() };
    });
    // What was left alone is as it was found.
    for (const f of [...asLeft.filter((f) => !asFound.includes(f)), cut]) this.see(f);
  }
}

function lnReport(report: Report | undefined, { outcome, value }: TraceFinding): number {
  if (!report) return 0;
  if (value !== undefined && report.value) {
    const z = (value - report.value.mean) / report.value.sd;
    return Math.max(-18, -0.5 * z * z - Math.log(report.value.sd));
  }
  return Math.log(Math.max(1e-6, report.outcomes?.[outcome ?? ""] ?? 1e-6));
}
