/**
 * One who knows the simulator: machines drawn from it, each weighed by the simulator's own probabilities of what was answered. Shows
 * what can be told from answers at all.
 */
import { drawTroubled, mainFaults, oddsOf, type Report, reportOf, type TroubledMachine } from "#core/practice";
import { seededRandom } from "#core/random";
import type { TraceFinding } from "#core/trace";
import type { World } from "./world";

interface Particle {
  readonly machine: TroubledMachine;
  readonly repairs: readonly string[];
  /** Ln of how likely its own use made its faults. */
  readonly own: number;
}

export class Oracle {
  private readonly particles: readonly Particle[];
  private readonly reports = new Map<string, readonly (Report | undefined)[]>();
  private readonly truth: ReadonlyMap<string, string>;

  constructor(
    private readonly world: World,
    count: number,
    seed: number,
  ) {
    this.truth = new Map(world.model.faults.map((f) => [f.id, f.repair]));
    const random = seededRandom(seed);
    this.particles = Array.from({ length: count }, () => {
      const machine = drawTroubled(world.spec, random);
      const repairs = mainFaults(machine).map((f) => this.truth.get(f) ?? "");
      return { machine, repairs, own: this.lnOdds(machine, machine) };
    });
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

  private reportsOf(check: string): readonly (Report | undefined)[] {
    const known = this.reports.get(check) ?? this.particles.map((p) => reportOf(p.machine, check, this.world.watts));
    this.reports.set(check, known);
    return known;
  }

  /** The repair most likely to mend what takes most, given a machine's use and what was answered. */
  best(used: TroubledMachine, findings: readonly TraceFinding[]): string {
    const weights = Float64Array.from(this.particles, (p) => this.lnOdds(p.machine, used) - p.own);
    for (const f of findings) {
      const reports = this.reportsOf(f.check);
      for (let i = 0; i < weights.length; i++) weights[i] = (weights[i] as number) + lnReport(reports[i], f);
    }
    let top = Number.NEGATIVE_INFINITY;
    for (const w of weights) top = Math.max(top, w);
    const sums = new Map<string, number>();
    this.particles.forEach((p, i) => {
      const w = Math.exp((weights[i] as number) - top);
      if (w > 1e-9) for (const r of new Set(p.repairs)) sums.set(r, (sums.get(r) ?? 0) + w);
    });
    return [...sums].sort((a, b) => b[1] - a[1])[0]?.[0] ?? "";
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
