/** The world a policy is judged in: a simulated machine, its owner, and what everything takes. */
import { type Layout, layouts } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { powerAlong } from "#core/beam";
import { traceSpec } from "#core/machine";
import {
  answerFrom,
  drawTroubled,
  mainFaults,
  mended,
  reportOf,
  soundStrength,
  strength,
  type TroubledMachine,
  type TroubleSpec,
} from "#core/practice";
import { type Random, seededRandom } from "#core/random";
import { type CheckSpec, expandModel, type RepairSpec, type TraceFinding, type TraceModel } from "#core/trace";

export const LAYOUTS = ["three-mirror", "moving-head", "periscope"] as const;
export type LayoutId = (typeof LAYOUTS)[number];

export interface World {
  readonly id: LayoutId;
  readonly spec: TroubleSpec;
  readonly model: TraceModel;
  /** Watts after each station on the day it was good. */
  readonly watts: Readonly<Record<string, number>>;
}

export function worldOf(id: LayoutId): World {
  const layout = layouts[id] as Layout;
  const spec = traceSpec(layout, INTERVAL_PLY_HOURS);
  const model = expandModel(spec, faultTemplates, checkTemplates, repairTemplates);
  const watts = Object.fromEntries(powerAlong(spec.stations, layout.ratedPowerW * 0.96).map((p) => [p.station, p.powerW]));
  return { id, spec, model, watts };
}

/** Making safe for a round and closing after it. */
const SAFE_MINUTES = 4;
export const LIMIT_MINUTES = 120;
/** Checks that fire: everything is closed for them. */
const FIRES =
  /^(known-cut|ladder|power|bed-map|kerf|engraving|tape|tape-travel|nozzle-mark|focus-ramp|tube-mark|material-swap|nozzle-touch)(@|$)/;
/** Chance that whoever cleans a part sees that it is damaged. */
const HARM_SEEN = 0.85;

/** The cut that failed, made again. */
export interface Proof {
  readonly holds: boolean;
  readonly cut: TraceFinding;
}

/** One case as it goes on: what is asked, mended and proven, and the minutes it takes. */
export class Case {
  minutes = 0;
  asked = 0;
  /** Repairs of each round so far. */
  readonly rounds: string[][] = [];
  opened: string[] = [];
  /** Stations opened in vain. */
  readonly needless = new Set<string>();
  machine: TroubledMachine;
  readonly mains: ReadonlySet<string>;
  /** Repairs that would mend a main fault. */
  readonly mainRepairs: ReadonlySet<string>;
  readonly hasMeter: boolean;
  private readonly tellsFigures: boolean;
  private readonly faulty: ReadonlySet<string>;
  private readonly truth: ReadonlyMap<string, string>;

  constructor(
    readonly world: World,
    readonly seed: number,
  ) {
    const random = seededRandom(seed);
    this.machine = drawTroubled(world.spec, random);
    this.hasMeter = random.uniform() < 0.3;
    this.tellsFigures = random.uniform() < 0.5;
    this.mains = new Set(mainFaults(this.machine));
    const { faults } = world.model;
    this.truth = new Map(faults.map((f) => [f.id, f.repair]));
    this.mainRepairs = new Set([...this.mains].map((f) => this.truth.get(f) ?? ""));
    this.faulty = new Set(this.machine.faults.map((f) => faults.find((x) => x.id === f.id)?.station ?? ""));
  }

  /** Chance of its own for everything that is asked or done, so that the same question gets the same answer whatever was asked before. */
  private randomOf(what: string): Random {
    let hash = this.seed ^ (this.rounds.length * 0x9e3779b1);
    for (let i = 0; i < what.length; i++) hash = Math.imul(hash ^ what.charCodeAt(i), 0x01000193);
    return seededRandom(hash);
  }

  /** What the case is opened with: the cut that fails, and how it began. */
  signs(): TraceFinding[] {
    const cut = this.ask("known-cut", true);
    const onset = this.ask("onset", true);
    return [cut, onset].filter((f) => f !== undefined);
  }

  check = (id: string): CheckSpec => this.world.model.checks.find((c) => c.id === id) as CheckSpec;
  repair = (id: string): RepairSpec => this.world.model.repairs.find((r) => r.id === id) as RepairSpec;

  /** Asks one check, with its minutes; undefined where this owner cannot answer it. */
  ask(id: string, free = false): TraceFinding | undefined {
    if (id.startsWith("power@") && !this.hasMeter) {
      this.minutes += 0.5;
      return undefined;
    }
    const check = this.check(id);
    if (FIRES.test(id)) this.opened = [];
    if (!free) {
      this.asked += 1;
      const isOpen = check.needsOpen !== undefined && this.opened.includes(check.needsOpen);
      this.minutes += isOpen ? (check.minutesOpened ?? check.minutes) : check.minutes;
    }
    if (check.needsOpen) this.open(check.needsOpen);
    const report = reportOf(this.machine, id, this.world.watts);
    // What has nothing to do with the beam is as it always is.
    if (!report) return check.outcomes[0] === undefined ? undefined : { check: id, outcome: check.outcomes[0] };
    return { check: id, ...answerFrom(report, this.tellsFigures, this.randomOf(id)) };
  }

  private open(station: string): void {
    if (!this.opened.includes(station)) this.opened = [...this.opened, station];
    if (!this.faulty.has(station)) this.needless.add(station);
  }

  /** Does repairs in one round and proves them by the cut that failed; says what was done, as one thing led to another. */
  round(repairs: readonly string[]): Proof & { readonly done: readonly string[] } {
    const done = [...repairs];
    if (repairs.some((id) => this.repair(id).madeSafe)) this.minutes += SAFE_MINUTES;
    const isOpen = new Set(this.opened);
    const mend = (id: string) => {
      const { minutes, opens, openingMinutes } = this.repair(id);
      this.minutes += minutes - (opens !== undefined && isOpen.has(opens) ? openingMinutes : 0);
      if (opens !== undefined) isOpen.add(opens);
    };
    for (const id of repairs) {
      mend(id);
      for (const harmed of this.harmSeen(id)) {
        if (done.includes(harmed)) continue;
        done.push(harmed);
        mend(harmed);
      }
    }
    const faults = this.world.model.faults.filter((f) => done.includes(f.repair));
    for (const station of new Set(faults.map((f) => f.station))) if (!this.faulty.has(station)) this.needless.add(station);
    const cleaned = done.flatMap((id) => (/^(clean|replace)-/.test(id) ? (faults.find((f) => f.repair === id)?.station ?? []) : []));
    this.machine = mended(this.machine, new Set(faults.map((f) => f.id)), cleaned, this.randomOf(`round ${repairs.join()}`));
    this.opened = [];
    this.rounds.push(done);
    return { ...this.prove(), done };
  }

  /** Makes the usual cut: the proof of every routine alike. */
  prove(): Proof {
    this.minutes += this.check("known-cut").minutes;
    const report = reportOf(this.machine, "known-cut", this.world.watts);
    const cut = { check: "known-cut", ...answerFrom(report ?? {}, false, this.randomOf(`proof ${this.minutes}`)) };
    return { holds: cut.outcome === "through", cut };
  }

  /** Repairs that a clean leads on to: of damage seen as it was left. */
  private harmSeen(repair: string): string[] {
    const station = /^clean-/.test(repair) ? this.world.model.faults.find((f) => f.repair === repair)?.station : undefined;
    const harm = this.world.model.faults.find((f) => f.station === station && /damaged/.test(f.id));
    const isThere = harm !== undefined && this.machine.faults.some((f) => f.id === harm.id);
    return isThere && this.randomOf(`harm ${repair}`).uniform() < HARM_SEEN ? [harm.repair] : [];
  }

  /** Whether every fault that took most is gone. */
  get mainMended(): boolean {
    return ![...this.mains].some((id) => this.machine.faults.some((f) => f.id === id)) || this.isNearlySound;
  }

  private get isNearlySound(): boolean {
    return this.machine.faults.length === 0 || soundStrength(this.machine) - strength(this.machine) < 0.04;
  }
}
