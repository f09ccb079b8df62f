import type { Grade } from "#core/beam";
import type { EventKind, EventPayload } from "#core/events";
import { type Random, seededRandom } from "#core/random";
import { BenchMachine } from "./machine";

const DAY_MS = 86_400_000;
const HOUR_MS = 3_600_000;

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
}

/** Days before the end at which the three cases of the demo come up. */
const FLIPPED_DAYS = 276;
const HOSE_DAYS = 118;
const FAR_CORNER_DAYS = 4;

/** Nearest working day at or before a given day count before the end. */
function isWorkday(ms: number): boolean {
  const day = new Date(ms).getUTCDay();
  return day !== 0 && day !== 6;
}

/**
 * Fourteen months (or as many as asked) of one three-mirror machine: jobs, counter readings, rounds with grades and ladders, power
 * walks, coolant. Two settled cases (a lens put back upside down, an assist-air hose full of gum) and an open one: the
 * gantry was moved for rail cleaning and M1 no longer hits M2 well, which carries some film besides.
 */
export function simulateHistory(options: HistoryOptions): SimulatedHistory {
  const random = seededRandom(options.seed);
  const machine = new BenchMachine(random, options.tubePowerW, options.startTubeHours);
  const events: SimulatedEvent[] = [];
  const rounds: SimulatedRound[] = [];
  const cases: SimulatedCase[] = [];
  const midnight = Math.floor(options.endMs / DAY_MS) * DAY_MS;
  const days = Math.round(options.months * 30.4);
  const startMs = midnight - days * DAY_MS + 8 * HOUR_MS;
  const add = <K extends EventKind>(kind: K, atMs: number, payload: EventPayload[K]): void => {
    events.push({ kind, atMs, payload });
  };
  const smokeSince = new Map<string, number>();
  const speeds = Array.from({ length: 8 }, (_, i) => Math.round(options.v50) - 4 + i);

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
    const readings = ["tube", "mirror-1", "mirror-2", "mirror-3", "lens"].map((station) => ({
      station,
      powerW: machine.readPower(station, shared),
    }));
    add("power", atMs, { setPercent: 100, readings, ...(baseline ? { baseline: true } : {}) });
  };
  const round = (atMs: number, title: string, parts: readonly string[], forCase?: string) => {
    const grades: Record<string, { found: Grade; left: Grade }> = {};
    for (const part of parts) {
      if (part === "nozzle" || part === "lens" || part === "window" || part.startsWith("mirror-")) {
        const found = machine.look(part);
        machine.clean(part);
        smokeSince.set(part, 0);
        if (part !== "nozzle") grades[part] = { found, left: machine.look(part) };
      } else smokeSince.set(part, 0);
    }
    rounds.push({
      atMs,
      minutes: 12 + 4 * parts.length + random.integer(0, 5),
      title,
      parts,
      grades,
      ladder: ladder(),
      ...(forCase ? { forCase } : {}),
    });
  };
  const overdue = (part: string, plyHours: number, patience: number) => (smokeSince.get(part) ?? 0) > plyHours * patience;

  // First day: a good machine, a baseline, a walk with the meter.
  let counter = options.startTubeHours;
  add("hours", startMs, { counterHours: counter });
  add("service", startMs + 0.2 * HOUR_MS, { station: "coolant", what: "replaced" });
  for (const station of ["window", "mirror-1", "mirror-2", "mirror-3", "lens", "nozzle", "motion", "exhaust"]) {
    add("service", startMs + 0.3 * HOUR_MS, { station, what: "cleaned" });
  }
  add("ladder", startMs + 0.5 * HOUR_MS, ladder(true));
  walk(startMs + 0.7 * HOUR_MS, true);

  let sinceReading = 0;
  for (let d = 0; d < days; d++) {
    const dayMs = startMs + d * DAY_MS;
    const left = days - d;
    caseDays(left, dayMs);
    if (!isWorkday(dayMs) || random.uniform() < 0.12) continue;
    // Rounds come in the morning, before the first job.
    if (left > FAR_CORNER_DAYS && overdue("lens", 8, 0.9 + 0.5 * random.uniform())) {
      const parts = ["lens"];
      if (overdue("nozzle", 16, 0.7)) parts.push("nozzle");
      if (overdue("mirror-3", 16, 0.7)) parts.push("mirror-3");
      if (overdue("mirror-2", 40, 0.95)) parts.push("mirror-2");
      if (overdue("mirror-1", 40, 1.05)) parts.push("mirror-1");
      if (overdue("window", 140, 1)) parts.push("window");
      round(dayMs + 0.3 * HOUR_MS, parts.length > 2 ? "What is due" : "Lens", parts);
    } else if (overdue("clean-rails", 40, 1)) {
      smokeSince.set("clean-rails", 0);
      add("service", dayMs + 0.2 * HOUR_MS, { station: "motion", what: "cleaned" });
    }
    if (d > 20 && d % 92 === 0) walk(dayMs + 0.8 * HOUR_MS);
    if (d === 183 || d === 366) add("service", dayMs + 0.4 * HOUR_MS, { station: "coolant", what: "replaced" });
    if (d === 140 || d === 300) add("service", dayMs + 0.5 * HOUR_MS, { station: "exhaust", what: "cleaned" });
    if (left <= 1) continue;
    const jobs = random.integer(2, 4);
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
    for (const part of ["lens", "nozzle", "mirror-3", "mirror-2", "mirror-1", "window", "clean-rails"]) {
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
