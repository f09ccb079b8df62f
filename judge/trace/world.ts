/** The world a policy is judged in: a simulated machine, its owner, and what everything takes. */

import { type Layout, layouts } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { powerAlong } from "#core/beam";
import { type LayoutId, lookCheckOf, traceSpec } from "#core/machine";
import { type Random, seededRandom } from "#core/random";
import {
  type CheckSpec,
  coversOf,
  expandModel,
  isDear,
  isMendedBy,
  type RepairSpec,
  type TraceFinding,
  type TraceModel,
} from "#core/trace";
import {
  answerFrom,
  drawTroubled,
  mainFaults,
  mended,
  type Report,
  reportOf,
  soundStrength,
  strength,
  type TroubledMachine,
  type TroubleSpec,
} from "../machines";

export interface World {
  readonly id: LayoutId;
  readonly spec: TroubleSpec;
  readonly model: TraceModel;
  /** Watts after each station on the day it was good. */
  readonly watts: Readonly<Record<string, number>>;
  /** How owners of this world tell what the simulator reports, where they do it otherwise. */
  readonly told?: (check: string, report: Report) => Report;
  /** Whether this owner answers a question that takes hands; every one where it is left out. */
  readonly answers?: (check: string) => boolean;
  /** What a cause that stands in no list takes of the light (ln), where that is the trouble. */
  readonly outsideLn?: number;
}

/** The id of a cause that no list holds. */
export const OUTSIDE = "outside";

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
/** A look at what is open, and back with it. */
const LOOK_MINUTES = 2;
/** Chance that whoever cleans a part sees that it is damaged. */
const HARM_SEEN = 0.85;

/** The cut that failed, made again. */
export interface Proof {
  readonly holds: boolean;
  readonly cut: TraceFinding;
}

/** What a round showed besides: the grades of what it cleaned, as they were found and as they were left. */
export interface RoundDone extends Proof {
  readonly done: readonly string[];
  /** Cleans of what was found clear, and so was not wiped. */
  readonly alone: readonly string[];
  /** Cleans of what was left with film, made twice. */
  readonly again: readonly string[];
  readonly asFound: readonly TraceFinding[];
  readonly asLeft: readonly TraceFinding[];
}

/** What minutes are spent on. */
export type Spent = Readonly<Record<"asked" | "mended" | "proven", number>>;

/** One case as it goes on: what is asked, mended and proven, and the minutes it takes. */
export class Case {
  private readonly spentOn = { asked: 0, mended: 0, proven: 0 };
  asked = 0;
  /** Nothing is left to be done by a routine: it is charged all the time there was. */
  gaveUp = false;
  /** All that was asked and done, in order, to read. */
  readonly story: string[] = [];
  /** Repairs of each round so far. */
  readonly rounds: string[][] = [];
  opened: string[] = [];
  /** Stations opened in vain. */
  readonly needless = new Set<string>();
  /** Dear repairs that were done, a tube or a supply, and those of them of a part that was sound. */
  readonly dear = { done: 0, inVain: 0 };
  machine: TroubledMachine;
  mains: ReadonlySet<string>;
  /** Repairs that would mend a main fault. */
  mainRepairs: ReadonlySet<string>;
  readonly hasMeter: boolean;
  private readonly tellsFigures: boolean;
  /** Stations of which its owner has a known good spare. */
  readonly spares: readonly string[];
  private readonly faulty: ReadonlySet<string>;
  private readonly truth: ReadonlyMap<string, string>;

  constructor(
    readonly world: World,
    readonly seed: number,
    /** Share of answers that are plain mistakes, besides the simulator's own slips: any answer alike, a figure four times as far off. */
    private readonly mistakes = 0,
  ) {
    const random = seededRandom(seed);
    this.machine = withOutside(world, drawTroubled(world.spec, random));
    this.hasMeter = random.uniform() < 0.3;
    this.tellsFigures = random.uniform() < 0.5;
    this.spares = random.uniform() < 0.5 ? ["lens"] : [];
    this.mains = new Set(mainFaults(this.machine));
    const { faults } = world.model;
    this.truth = new Map(faults.map((f) => [f.id, f.repair]));
    this.mainRepairs = new Set([...this.mains].map((f) => this.truth.get(f) ?? ""));
    this.faulty = new Set(this.machine.faults.map((f) => faults.find((x) => x.id === f.id)?.station ?? ""));
  }

  get minutes(): number {
    const spent = this.spentOn.asked + this.spentOn.mended + this.spentOn.proven;
    return this.gaveUp ? Math.max(LIMIT_MINUTES, spent) : spent;
  }
  get spent(): Spent {
    return this.spentOn;
  }

  /** Chance of its own for everything that is asked or done, so that the same question gets the same answer whatever was asked before. */
  private randomOf(what: string): Random {
    let hash = this.seed ^ (this.rounds.length * 0x9e3779b1);
    for (let i = 0; i < what.length; i++) hash = Math.imul(hash ^ what.charCodeAt(i), 0x01000193);
    return seededRandom(hash);
  }

  /** What the case is opened with: the cut that fails, and how it began. */
  signs(): TraceFinding[] {
    const cut = this.failedCut();
    const onset = this.ask("onset", true);
    return [cut, onset].filter((f) => f !== undefined);
  }

  /** The cut that brought the owner here: one that failed. */
  private failedCut(): TraceFinding {
    const { through = 0, ...failed } = reportOf(this.machine, "known-cut", this.world.watts)?.outcomes ?? {};
    const outcomes = Object.fromEntries(Object.entries(failed).map(([outcome, p]) => [outcome, p / (1 - through)]));
    const cut = { check: "known-cut", complaint: true, ...answerFrom({ outcomes }, false, this.randomOf("known-cut")) };
    this.story.push(told(cut));
    return cut;
  }

  check = (id: string): CheckSpec => this.world.model.checks.find((c) => c.id === id) as CheckSpec;
  repair = (id: string): RepairSpec => this.world.model.repairs.find((r) => r.id === id) as RepairSpec;

  /** Asks one check, with its minutes; undefined where this owner cannot answer it. */
  ask(id: string, free = false): TraceFinding | undefined {
    if (id.startsWith("power@") && !this.hasMeter) {
      this.spentOn.asked += 0.5;
      return undefined;
    }
    const check = this.check(id);
    if (!free && check.minutes > 0 && this.world.answers?.(id) === false) {
      this.spentOn.asked += 0.5;
      return undefined;
    }
    if (check.needsSpare !== undefined && !this.spares.includes(check.needsSpare)) return undefined;
    const isOpen = check.needsOpen !== undefined && this.opened.includes(check.needsOpen);
    if (!free) {
      this.asked += 1;
      this.spentOn.asked += isOpen ? (check.minutesOpened ?? check.minutes) : check.minutes;
    }
    if (check.needsOpen) this.open(check.needsOpen);
    // Everything is closed for it.
    if (check.fires) this.opened = [];
    const found = this.answer(id);
    this.story.push(told(found));
    return found;
  }

  /** What this owner answers to a check. */
  private answer(id: string): TraceFinding {
    const reported = reportOf(this.machine, id, this.world.watts);
    const report = reported && (this.world.told?.(id, reported) ?? reported);
    // What has nothing to do with the beam is as it always is.
    if (!report) return { check: id, outcome: this.check(id).outcomes[0] ?? "" };
    return { check: id, ...answerFrom(this.mistaken(report, this.randomOf(`mistake ${id}`)), this.tellsFigures, this.randomOf(id)) };
  }

  private mistaken(report: Report, random: Random): Report {
    if (random.uniform() >= this.mistakes) return report;
    const names = Object.keys(report.outcomes ?? {});
    return {
      ...(report.outcomes ? { outcomes: Object.fromEntries(names.map((name) => [name, 1 / names.length])) } : {}),
      ...(report.value ? { value: { ...report.value, sd: 4 * report.value.sd } } : {}),
    };
  }

  private open(station: string): void {
    if (!this.opened.includes(station)) this.opened = [...this.opened, station];
    if (!this.faulty.has(station)) this.needless.add(station);
  }

  /**
   * Does repairs in one round and proves them by the cut that failed; says what was done, as one thing led to another, and seen. Who looks
   * first (`looks`) leaves alone what is clear; `known` are the looks that were had already.
   */
  round(repairs: readonly string[], looks = false, known: readonly TraceFinding[] = []): RoundDone {
    const done = [...repairs];
    if (repairs.some((id) => this.repair(id).madeSafe)) this.spentOn.mended += SAFE_MINUTES;
    const isOpen = new Set(this.opened);
    const alone = looks ? repairs.filter((id) => this.isClear(id, known)) : [];
    const mend = (id: string) => {
      const { minutes, opens, openingMinutes } = this.repair(id);
      const opening = opens !== undefined && isOpen.has(opens) ? 0 : openingMinutes;
      // Who replaces a lens does not clean it first.
      const own = repairs.some((r) => r !== id && this.covers(r, id)) ? 0 : alone.includes(id) ? LOOK_MINUTES : minutes - openingMinutes;
      this.spentOn.mended += opening + own;
      if (opens !== undefined) isOpen.add(opens);
    };
    for (const id of repairs) {
      mend(id);
      for (const harmed of alone.includes(id) ? [] : this.harmSeen(id)) {
        if (done.includes(harmed)) continue;
        done.push(harmed);
        mend(harmed);
      }
    }
    this.story.push(`[${done.join(" ")}]`);
    const asFound = this.gradesOf(done);
    for (const id of done.filter((r) => isDear(this.repair(r)))) {
      this.dear.done += 1;
      if (!this.machine.faults.some((f) => this.truth.get(f.id) === id)) this.dear.inVain += 1;
    }
    const asClear = asFound.filter((f) => alone.some((id) => this.isLook(f, id)));
    this.apply(done, alone);
    this.opened = [];
    this.rounds.push(done);
    const wiped = done.filter((id) => !alone.includes(id));
    let asLeft = [...asClear, ...this.gradesOf(wiped)];
    // What is left with film is wiped once more while it is open.
    const again = wiped.filter(
      (id) => id.startsWith("clean-") && asLeft.some((f) => this.isLook(f, id) && /film|spots/.test(f.outcome ?? "")),
    );
    if (again.length > 0) {
      for (const id of again) this.spentOn.mended += this.repair(id).minutes - this.repair(id).openingMinutes;
      this.apply(again);
      asLeft = [...asClear, ...this.gradesOf(wiped)];
    }
    return { ...this.prove(), done, alone, again, asFound, asLeft };
  }

  /** Whether a clean finds its part clear, where nobody has looked yet. */
  private isClear(repair: string, known: readonly TraceFinding[]): boolean {
    const [grade] = /^clean-/.test(repair) ? this.gradesOf([repair]) : [];
    return grade?.outcome === "clear" && !known.some((f) => f.check === grade.check);
  }

  private covers(repair: string, other: string): boolean {
    const { repairs } = this.world.model;
    const [r, o] = [repair, other].map((id) => repairs.findIndex((x) => x.id === id)) as [number, number];
    return coversOf(this.world.model)[r]?.includes(o) ?? false;
  }

  /**
   * Whether what was tried brought it back: then it is repair and proof in one. Where it did not, it stays all the same, but for a spare:
   * the known sheet is cut on, the focus is set, the air line is blown through.
   */
  brings(found: TraceFinding): boolean {
    const { tries } = this.check(found.check);
    if (tries === undefined) return false;
    if (tries.outcome !== found.outcome) {
      const kept = keptBy(this.world, found);
      if (kept !== undefined) this.machine = repairedMachine(this.world, this.machine, [kept], [], this.randomOf(`kept ${kept}`));
      const left = mainFaults(this.machine);
      // What takes most is what took most when the first repair was begun.
      if (left.length > 0 && this.rounds.length === 0) this.call(left);
      return false;
    }
    this.story.push(`[${tries.repair}, tried]`);
    this.apply([tries.repair]);
    this.rounds.push([tries.repair]);
    return true;
  }

  /** Names what takes most, and what would mend it. */
  private call(mains: readonly string[]): void {
    this.mains = new Set(mains);
    this.mainRepairs = new Set(mains.map((f) => this.truth.get(f) ?? ""));
  }

  /** Takes from the machine what repairs mend; what was left alone is not wiped, but it goes back as it should. */
  private apply(done: readonly string[], alone: readonly string[] = []): void {
    const served = new Set(this.world.model.faults.filter((f) => done.includes(f.repair)).map((f) => f.station));
    for (const station of served) if (!this.faulty.has(station)) this.needless.add(station);
    this.machine = repairedMachine(this.world, this.machine, done, alone, this.randomOf(`round ${done.join()}`));
  }

  /** Grades of the optics that repairs clean or replace, as they are now. */
  private gradesOf(done: readonly string[]): TraceFinding[] {
    const cleaned = new Set(cleanedBy(this.world, done));
    return this.world.spec.stations
      .filter((s) => cleaned.has(s.id))
      .map((s) => lookCheckOf(s))
      .filter((check) => check !== undefined && this.world.model.checks.some((c) => c.id === check))
      .map((check) => this.answer(check as string));
  }

  /** Stations that looks grade so. */
  stationsGraded(looks: readonly TraceFinding[], grade: RegExp): ReadonlySet<string> {
    const bad = looks.filter((f) => grade.test(f.outcome ?? "")).map((f) => f.check);
    return new Set(this.world.spec.stations.filter((s) => bad.includes(lookCheckOf(s) ?? "")).map((s) => s.id));
  }

  private isLook({ check }: TraceFinding, repair: string): boolean {
    const [cleaned] = cleanedBy(this.world, [repair]);
    return this.world.spec.stations.some((s) => s.id === cleaned && lookCheckOf(s) === check);
  }

  /** Makes the usual cut: the proof of every routine alike. */
  prove(): Proof {
    this.spentOn.proven += this.check("known-cut").minutes;
    const report = reportOf(this.machine, "known-cut", this.world.watts);
    const cut = { check: "known-cut", ...answerFrom(report ?? {}, false, this.randomOf(`proof ${this.minutes}`)) };
    this.story.push(told(cut));
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

/** The machine with nothing wrong with it but a cause that stands in no list, where its world says so. */
function withOutside({ outsideLn }: World, machine: TroubledMachine): TroubledMachine {
  if (outsideLn === undefined) return machine;
  const act = (body: { tubeLn: number }) => {
    body.tubeLn += outsideLn;
  };
  return { ...machine, faults: [{ id: OUTSIDE, act, story: { sudden: 0.5, newMaterial: 0.02, cleaned: 0.2, opened: 0.1 } }] };
}

/** The repair that is done by what was tried in vain. */
export function keptBy({ model }: World, { check, outcome }: TraceFinding): string | undefined {
  const { tries, needsSpare } = model.checks.find((c) => c.id === check) ?? {};
  return tries !== undefined && outcome !== tries.outcome && needsSpare === undefined ? tries.repair : undefined;
}

/** Stations whose optic repairs clean or replace. */
const cleanedBy = ({ model }: World, done: readonly string[]): string[] =>
  done.flatMap((id) => (/^(clean|replace)-/.test(id) ? (model.faults.find((f) => f.repair === id)?.station ?? []) : []));

/** The machine after repairs; of those `alone` the part was found clear: it is not wiped, but goes back as it should. */
export function repairedMachine(
  world: World,
  machine: TroubledMachine,
  done: readonly string[],
  alone: readonly string[],
  random: Pick<Random, "uniform">,
): TroubledMachine {
  const faults = world.model.faults.filter((f) => isMendedBy(f, done) && !alone.includes(f.repair));
  const wiped = done.filter((id) => !alone.includes(id));
  return mended(machine, new Set(faults.map((f) => f.id)), cleanedBy(world, wiped), random);
}

const told = ({ check, outcome, value }: TraceFinding): string => `${check}=${outcome ?? value?.toFixed(2)}`;
