import type { Grade } from "#core/beam";
import type { EventKind, EventPayload } from "#core/events";
import { type Random, seededRandom } from "#core/random";
import { DAY_MS, HOUR_MS } from "#core/time";
import { BenchMachine, type SimulatedStation } from "./machine";
import { type SideReadings, sideReader } from "./readings";

export interface SimulatedEvent {
  readonly kind: EventKind;
  readonly atMs: number;
  readonly payload: EventPayload[EventKind];
}

/** A round as it was walked: parts, grades per station, and the ladder that closed it. */
export interface SimulatedRound {
  readonly atMs: number;
  readonly minutes: number;
  readonly title: string;
  readonly parts: readonly string[];
  readonly grades: Readonly<Record<string, { readonly found: Grade; readonly left: Grade }>>;
  readonly ladder: EventPayload["ladder"] | undefined;
  readonly forCase?: string;
}

/** A case of the history: when it came up, when it was settled, what it was. */
export interface SimulatedCase {
  readonly id: string;
  readonly onsetMs: number;
  readonly openedMs: number;
  readonly closedMs: number | undefined;
}

export interface SimulatedHistory {
  readonly startMs: number;
  readonly events: readonly SimulatedEvent[];
  readonly rounds: readonly SimulatedRound[];
  readonly cases: readonly SimulatedCase[];
  /** True effective power at the end, for tests. */
  readonly trueEffective: number;
  readonly tubeHours: number;
}

/** What is cut, in the order of the materials the history is loaded with. */
export interface SimulatedMaterial {
  readonly materialId: number;
  readonly share: number;
  readonly optics: number;
  readonly nozzle: number;
}

export interface HistoryOptions {
  readonly seed: number;
  /** The last moment of the history (ms). */
  readonly endMs: number;
  readonly months: number;
  readonly tubePowerW: number;
  readonly startTubeHours: number;
  readonly materials: readonly SimulatedMaterial[];
  /** Ladder material: the first one; its v50 (mm/s) on a perfect machine and its power setting. */
  readonly v50: number;
  readonly setPercent: number;
  /** Along the beam after the tube. */
  readonly stations: readonly SimulatedStation[];
  /** When this owner cleans what: smoke since the last time, in ply-hours, lens first. */
  readonly habits: readonly { readonly part: string; readonly plyHours: number }[];
  /** Where the watt meter is held on a walk. */
  readonly walk: readonly string[];
  /** Everything else that is done by the calendar. */
  readonly chores: readonly SimulatedChore[];
  /** Optic that is looked at every sixth day. */
  readonly weeklyLook?: string;
  readonly hasCoolant: boolean;
  /** Fewest and most jobs of a working day. */
  readonly jobsPerDay: readonly [number, number];
  /** The three cases of the demo happen on this machine. */
  readonly withCases: boolean;
  /** What else its owner reads and notes. */
  readonly side?: SideReadings;
}

export interface SimulatedChore {
  readonly station: string;
  /** Left out at a station of the path: that one is then cleaned by it. */
  readonly task?: string;
  readonly what: EventPayload["service"]["what"];
  readonly note?: string;
  readonly everyDays: number;
  /** Which day of that many; the last where left out. */
  readonly onDay?: number;
}

/** First moment of a history of so many months (ms). */
export function historyStartMs(endMs: number, months: number): number {
  return Math.floor(endMs / DAY_MS) * DAY_MS - Math.round(months * 30.4) * DAY_MS + 8 * HOUR_MS;
}

/** Days before the end at which the three cases of the demo come up. */
const FLIPPED_DAYS = 276;
const HOSE_DAYS = 118;
const FAR_CORNER_DAYS = 4;

/** Working days by their distance from the end, two in seven free: the story is the same whatever day of the week it ends on. */
const isWorkday = (daysLeft: number): boolean => daysLeft % 7 !== 2 && daysLeft % 7 !== 3;

/**
 * Fourteen months (or as many as asked) of one machine: jobs, counter readings, rounds with grades and ladders, power
 * walks, coolant, chores. On the machine that has the cases: two settled cases (a lens put back upside down, an assist-air hose full of gum) and an open one: the
 * gantry was moved for rail cleaning and M1 no longer hits M2 well, which carries some film besides.
 */
export function simulateHistory(options: HistoryOptions): SimulatedHistory {
  const random = seededRandom(options.seed);
  const machine = new BenchMachine(random, options.tubePowerW, options.startTubeHours, options.stations);
  const events: SimulatedEvent[] = [];
  const rounds: SimulatedRound[] = [];
  const cases: SimulatedCase[] = [];
  const days = Math.round(options.months * 30.4);
  const startMs = historyStartMs(options.endMs, options.months);
  const add = <K extends EventKind>(kind: K, atMs: number, payload: EventPayload[K]): void => {
    events.push({ kind, atMs, payload });
  };
  const smokeSince = new Map<string, number>();
  const speeds = Array.from({ length: 8 }, (_, i) => Math.round(options.v50) - 4 + i);

  const lensesToFit = [...(options.side?.lenses ?? [])];
  const ladder = (baseline?: boolean): EventPayload["ladder"] => {
    // A careful owner moves the ladder down when the lowest rungs stop dropping.
    const shift = Math.round(options.v50 * (1 - machine.effective()));
    return {
      materialId: options.materials[0]?.materialId ?? 1,
      setPercent: options.setPercent,
      rungs: machine.cutLadder(
        speeds.map((s) => s - Math.max(0, shift - 1)),
        options.v50,
      ),
      ...(baseline ? { baseline: true } : {}),
    };
  };
  const walk = (atMs: number, baseline?: boolean) => {
    const shared = 0.015 * random.normal();
    const readings = options.walk.map((station) => ({
      station,
      powerW: machine.readPower(station, shared),
    }));
    add("power", atMs, { setPercent: 100, readings, ...(baseline ? { baseline: true } : {}) });
  };
  const round = (atMs: number, title: string, parts: readonly string[], forCase?: string) => {
    const grades: Record<string, { found: Grade; left: Grade }> = {};
    for (const part of parts) {
      if (options.stations.some((s) => s.id === part)) {
        const found = machine.look(part);
        machine.clean(part);
        smokeSince.set(part, 0);
        if (part !== "nozzle") grades[part] = { found, left: machine.look(part) };
      } else smokeSince.set(part, 0);
    }
    // A lens that was bought meanwhile goes in where this one came out.
    const bought = parts.includes("lens") ? lensesToFit.find((l) => startMs + l.day * DAY_MS <= atMs) : undefined;
    if (bought) {
      lensesToFit.splice(lensesToFit.indexOf(bought), 1);
      const { day: _, ...lens } = bought;
      add("service", atMs + 5 * 60_000, { station: "lens", what: "replaced", ...lens });
    }
    rounds.push({
      atMs,
      minutes: 12 + 4 * parts.length + random.integer(0, 5),
      title,
      parts,
      grades,
      ladder: ladder(bought !== undefined),
      ...(forCase ? { forCase } : {}),
    });
  };
  const overdue = (part: string, plyHours: number) => (smokeSince.get(part) ?? 0) > plyHours;
  const [lensHabit, ...otherHabits] = options.habits;

  // First day: a good machine, a baseline, a walk with the meter.
  let counter = options.startTubeHours;
  add("hours", startMs, { counterHours: counter });
  if (options.hasCoolant) add("service", startMs + 0.2 * HOUR_MS, { station: "coolant", what: "replaced" });
  for (const station of [...options.stations.map((s) => s.id), "motion", "exhaust"]) {
    add("service", startMs + 0.3 * HOUR_MS, { station, what: "cleaned" });
  }
  add("ladder", startMs + 0.5 * HOUR_MS, ladder(true));
  walk(startMs + 0.7 * HOUR_MS, true);

  const noteSide = options.side && sideReader(options.side, add);
  let ductDay = 0;
  let sinceReading = 0;
  for (let d = 0; d < days; d++) {
    const dayMs = startMs + d * DAY_MS;
    const left = days - d;
    if (options.withCases) caseDays(left, dayMs);
    if (d === 140 || d === 300) ductDay = d;
    if (left > FAR_CORNER_DAYS + 1) noteSide?.({ day: d, dayMs, effective: machine.effective(), ductDays: d - ductDay });
    for (const { everyDays, onDay = everyDays - 1, ...chore } of options.chores) {
      if (d % everyDays !== onDay || left <= FAR_CORNER_DAYS) continue;
      add("service", dayMs + 0.1 * HOUR_MS, chore);
      if (chore.task !== undefined || chore.what !== "cleaned") continue;
      machine.clean(chore.station);
      smokeSince.set(chore.station, 0);
    }
    if (options.weeklyLook && d % 6 === 1 && left > FAR_CORNER_DAYS)
      add("grade", dayMs + 0.1 * HOUR_MS, { station: options.weeklyLook, phase: "as-found", grade: machine.look(options.weeklyLook) });
    if (!isWorkday(left) || random.uniform() < 0.12) continue;
    // Rounds come in the morning, before the first job.
    if (left > FAR_CORNER_DAYS && lensHabit && overdue("lens", lensHabit.plyHours * (0.9 + 0.5 * random.uniform()))) {
      const parts = ["lens", ...otherHabits.filter((h) => overdue(h.part, h.plyHours)).map((h) => h.part)];
      round(dayMs + 0.3 * HOUR_MS, parts.length > 2 ? "What is due" : "Lens", parts);
    } else if (overdue("clean-rails", 40)) {
      smokeSince.set("clean-rails", 0);
      add("service", dayMs + 0.2 * HOUR_MS, { station: "motion", what: "cleaned" });
    }
    if (d > 20 && d % 92 === 0) walk(dayMs + 0.8 * HOUR_MS);
    if (options.hasCoolant && (d === 183 || d === 366)) add("service", dayMs + 0.4 * HOUR_MS, { station: "coolant", what: "replaced" });
    if (d === 140 || d === 300) add("service", dayMs + 0.5 * HOUR_MS, { station: "exhaust", what: "cleaned" });
    if (left <= 1) continue;
    const jobs = random.integer(...options.jobsPerDay);
    for (let j = 0; j < jobs; j++) {
      const material = pickMaterial(options.materials, random);
      const minutes = Math.round(20 + 55 * random.uniform());
      add("job", dayMs + (2 + 2 * j) * HOUR_MS + random.integer(0, 40) * 60_000, { materialId: material.materialId, minutes });
      fire(minutes / 60, material);
    }
    // Small things nobody logs.
    fire(0.15 * random.uniform(), options.materials[0] as SimulatedMaterial);
    if (++sinceReading >= 2 || left < 4) {
      sinceReading = 0;
      counter = machine.tubeHours;
      add("hours", dayMs + 9 * HOUR_MS, { counterHours: Math.round(counter * 10) / 10 });
    }
  }

  function fire(hours: number, material: SimulatedMaterial): void {
    machine.fire(hours, material.optics, material.nozzle);
    for (const part of [...options.stations.map((s) => s.id), "clean-rails"]) {
      const smoke = part === "nozzle" ? material.nozzle : material.optics;
      smokeSince.set(part, (smokeSince.get(part) ?? 0) + hours * smoke);
    }
  }

  function caseDays(left: number, dayMs: number): void {
    if (left === FLIPPED_DAYS) {
      round(dayMs + 0.2 * HOUR_MS, "Lens", ["lens"]);
      machine.disturb("flipped", { station: "lens", lnLoss: 0.31, cutOnly: true });
      cases.push({ id: "flipped", onsetMs: dayMs, openedMs: dayMs + 2 * HOUR_MS, closedMs: dayMs + 3 * HOUR_MS });
      add("ladder", dayMs + 2.3 * HOUR_MS, ladder());
      machine.mend("flipped");
      round(dayMs + 2.6 * HOUR_MS, "Turn the lens bulge up", ["turn-lens"], "flipped");
    }
    if (left === HOSE_DAYS) {
      machine.disturb("hose", { station: "air", lnLoss: 0.17, cutOnly: true });
      cases.push({ id: "hose", onsetMs: dayMs - 2 * DAY_MS, openedMs: dayMs + 1 * HOUR_MS, closedMs: dayMs + 2 * HOUR_MS });
      add("ladder", dayMs + 1.3 * HOUR_MS, ladder());
      machine.mend("hose");
      round(dayMs + 1.6 * HOUR_MS, "Get the air back", ["restore-air"], "hose");
    }
    if (left === FAR_CORNER_DAYS) {
      // Rails cleaned with the gantry pushed to its end; since then M1 misses a little, and M2 has caught film.
      add("service", dayMs + 1 * HOUR_MS, { station: "motion", what: "cleaned", note: "gantry pushed to the far end" });
      machine.disturb("aim", { station: "mirror-2", lnLoss: 0.17, cutOnly: false });
      machine.add("mirror-2", 0.05);
      cases.push({ id: "far-corner", onsetMs: dayMs, openedMs: dayMs + 6 * HOUR_MS, closedMs: undefined });
      add("ladder", dayMs + 7 * HOUR_MS, ladder());
    }
  }

  events.sort((a, b) => a.atMs - b.atMs);
  return { startMs, events, rounds, cases, trueEffective: machine.effective(), tubeHours: machine.tubeHours };
}

function pickMaterial(materials: readonly SimulatedMaterial[], random: Random): SimulatedMaterial {
  let at = random.uniform();
  for (const m of materials) {
    at -= m.share;
    if (at <= 0) return m;
  }
  return materials[0] as SimulatedMaterial;
}
