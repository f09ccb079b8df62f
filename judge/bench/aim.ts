/**
 * `npm run bench -- aim`: simulated machines out of aim, their screws of unknown sense, marks read with an error of 0.3 mm, brought back by
 * Clenor and by the fixed habit (a quarter turn by trial, one screw until it looks better). What counts as together is judged by where
 * the beam truly lands. `-- --machines=300` a row.
 */
import { layouts } from "#catalog/layouts";
import {
  type Across,
  type AimEntry,
  type AimPath,
  aimPathOf,
  remembered,
  type Screw,
  type ScrewMemory,
  type Spot,
  sessionOf,
  solve,
  startOf,
  WORK,
} from "#core/aim";
import type { Path } from "#core/machine";
import { seededRandom } from "#core/random";
import { type AimMachine, aimMachine, USUAL_MISALIGNMENT } from "../machines";

const machines = Number(process.argv.find((a) => a.startsWith("--machines="))?.split("=")[1] ?? 300);
const READING_SD_MM = Number(process.argv.find((a) => a.startsWith("--sd="))?.split("=")[1] ?? 0.3);
/** How far off mirrors stand before, mrad; beyond the reach of the tape a pulse leaves no mark. */
const OFF_MRAD = Number(process.argv.find((a) => a.startsWith("--off="))?.split("=")[1] ?? USUAL_MISALIGNMENT.mirrorMrad);
/** Share of misses of which the side was seen. */
const SIDE_SEEN = 0.5;
const MOST_MOVES = 60;

type Kind = "right-angle" | "three-at-120" | "two-and-spring";

/** A layout whose mirrors all stand on screws of one kind. */
function pathWith(layout: string, kind: Kind): AimPath {
  const found = layouts[layout];
  if (!found) throw new RangeError(`no layout ${layout}`);
  const { path, fittings } = found;
  const screws = { kind, pitchMm: 0.5, armMm: kind === "three-at-120" ? 24 : 40 };
  const turned: Path = path.map((s) =>
    s.role === "mirror"
      ? { ...s, screwKind: screws.kind, screwPitchMm: screws.pitchMm, screwArmMm: screws.armMm }
      : s.role === "nozzle"
        ? { ...s, travelMm: 60 }
        : s,
  );
  return aimPathOf(turned, { corner: fittings.beamCorner });
}

interface Run {
  readonly good: boolean;
  /** Without the error of a reading on top. */
  readonly strictly: boolean;
  readonly said: boolean;
  /** Ended with the word that these marks cannot tell. */
  readonly vague: boolean;
  /** Ended with the word that the beam is lost before a mirror that no owner turns. */
  readonly booked: boolean;
  /** All marks truly within a millimetre. */
  readonly within1: boolean;
  readonly moves: number;
  readonly marks: number;
  readonly shifts: number;
}

/** The ways whose marks must lie together, with what counts as together. */
function ways(path: AimPath) {
  return solve(sessionOf(path, [])).legs.flatMap((leg) => {
    if (leg.aim !== "parallel" || !path.elements.find((e) => e.id === leg.element)?.mount) return [];
    const way = leg.endsAt;
    return [{ element: leg.element, near: { at: way, far: [] }, far: { at: way, far: [way] }, toleranceMm: leg.toleranceMm }];
  });
}
type Way = ReturnType<typeof ways>[number];

const apart = (m: AimMachine, way: Way, sd = 0) => {
  const [near, far] = [m.mark(way.near, sd), m.mark(way.far, sd)];
  return Math.hypot(far.right - near.right, far.up - near.up);
};
/** Truly together, to within what one reading says. */
function ending(m: AimMachine, path: AimPath) {
  const within = (slackMm: number) => ways(path).every((w) => apart(m, w) <= w.toleranceMm + slackMm);
  return { good: within(READING_SD_MM), strictly: within(0), within1: ways(path).every((w) => apart(m, w) <= 1) };
}

function clenor(machine: AimMachine, path: AimPath, memory: ScrewMemory = {}): Run & { readonly memory: ScrewMemory } {
  const entries: AimEntry[] = [];
  const count = { moves: 0, marks: 0, shifts: 0 };
  let said = false;
  let vague = false;
  let booked = false;
  for (let i = 0; i < 200 && count.moves < MOST_MOVES; i++) {
    const { next } = solve(sessionOf(path, entries, memory));
    if (next.kind === "good") {
      said = true;
      break;
    }
    if (next.kind === "vague") {
      vague = true;
      break;
    }
    if (next.kind === "seat") {
      booked = next.isLost === true;
      break;
    }
    if (next.kind === "mark") {
      count.marks += 1;
      const mark = machine.mark(next.spot, READING_SD_MM);
      entries.push(reaches(path, next.spot, mark) ? { kind: "mark", spot: next.spot, mark } : missOf(next.spot, mark));
    } else if (next.kind === "turn") {
      count.moves += 1;
      machine.turn(next.element, next.screw, next.turns);
      entries.push({ kind: "turn", element: next.element, screw: next.screw, turns: next.turns });
    } else {
      count.shifts += 1;
      const { shift } = next;
      if (shift.of === "tube") machine.raiseTube(shift.mm);
      else if (shift.of === "mount") machine.shim(shift.station, shift.mm);
      else machine.slide(shift.element, shift.mm);
      entries.push({ kind: "shift", shift });
    }
  }
  return { ...ending(machine, path), said, vague, booked, ...count, memory: remembered(sessionOf(path, entries, memory).state) };
}

/** Whether a beam lands on the tape over a part at all: a little further out than the part reaches. */
function reaches(path: AimPath, spot: Spot, { right, up }: Across): boolean {
  const station = path.stations.find((s) => s.id === spot.at);
  return spot.at === WORK || Math.hypot(right, up) < 0.65 * (station?.apertureMm ?? 20) || spot.at === "nozzle";
}
let seen = 0;
/** A pulse that left no mark: now and then the side it went by is seen. */
function missOf(spot: Spot, { right, up }: Across): AimEntry {
  seen = (seen + 0.618) % 1;
  if (seen > SIDE_SEEN) return { kind: "miss", spot };
  const side = Math.abs(right) > Math.abs(up) ? (right > 0 ? "right" : "left") : up > 0 ? "up" : "down";
  return { kind: "miss", spot, side };
}

/** Quarter turns by trial: on while it looks better, back and to the other screw when it does not, eighths in the second pass. */
function habit(machine: AimMachine, path: AimPath): Run {
  const count = { moves: 0, marks: 0, shifts: 0 };
  const read = (way: Way) => {
    count.marks += 2;
    return apart(machine, way, READING_SD_MM);
  };
  for (const way of ways(path)) {
    const screws = startOf(path).screws.filter((s) => path.elements[s.element]?.id === way.element);
    let best = read(way);
    for (let step = 0.25; step >= 1 / 16 && best > way.toleranceMm; step /= 2) {
      for (const { screw } of screws) {
        for (const sense of [1, -1]) {
          let improved = false;
          while (count.moves < MOST_MOVES && best > way.toleranceMm) {
            turn(way.element, screw, sense * step);
            const now = read(way);
            if (now >= best) {
              turn(way.element, screw, -sense * step);
              break;
            }
            best = now;
            improved = true;
          }
          if (improved) break;
        }
      }
    }
  }
  function turn(element: string, screw: Screw, turns: number) {
    count.moves += 1;
    machine.turn(element, screw, turns);
  }
  return { ...ending(machine, path), said: true, vague: false, booked: false, ...count };
}

const at = (sorted: readonly number[], share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
const percent = (n: number, of: number) => `${((100 * n) / of).toFixed(1)} %`.padStart(8);
function line(name: string, runs: readonly Run[]): number {
  const moves = runs.map((r) => r.moves).sort((a, b) => a - b);
  const marks = runs.map((r) => r.marks).sort((a, b) => a - b);
  const mean = moves.reduce((a, b) => a + b, 0) / moves.length;
  console.info(
    `${name.padEnd(42)}${percent(runs.filter((r) => r.good).length, runs.length)}${percent(runs.filter((r) => r.strictly).length, runs.length)}${percent(runs.filter((r) => r.said).length, runs.length)}${percent(runs.filter((r) => r.vague).length, runs.length)}${percent(runs.filter((r) => r.booked).length, runs.length)}${percent(runs.filter((r) => r.said && r.within1).length, Math.max(1, runs.filter((r) => r.said).length))}` +
      `${mean.toFixed(1).padStart(8)}${String(at(moves, 0.5)).padStart(8)}${String(at(moves, 0.9)).padStart(6)}${String(at(marks, 0.5)).padStart(8)}`,
  );
  return mean;
}

console.info(
  `${machines} machines a row, marks read to ${READING_SD_MM} mm; together: truly, to within one reading's error; strictly: without it\n`,
);
console.info(
  `${"".padEnd(42)}${"together".padStart(8)}${"strictly".padStart(9)}${"ended".padStart(7)}   vague  booked  1mm,said   moves  median   p90   marks`,
);
for (const [layout, kind] of [
  ["three-mirror", "right-angle"],
  ["three-mirror", "three-at-120"],
  ["three-mirror", "two-and-spring"],
  ["periscope", "right-angle"],
] as const) {
  const path = pathWith(layout, kind);
  const each = <T>(run: (machine: AimMachine, seed: number) => T) =>
    Array.from({ length: machines }, (_, seed) =>
      run(aimMachine(seededRandom(1 + seed), path, { ...USUAL_MISALIGNMENT, mirrorMrad: OFF_MRAD }), seed),
    );
  const name = `${layout}, ${kind}`;
  const ends: Run[] = [];
  const yearAfter = each((m) => {
    const { memory, ...run } = clenor(m, path);
    ends.push(run);
    return clenor(knocked(m, path), path, memory);
  });
  const ours = line(`${name}: Clenor`, ends);
  line("  the year after, screws remembered", yearAfter);
  const theirs = line(
    "  by habit",
    each((m) => habit(m, path)),
  );
  console.info(`  moves against the habit's: ${(ours / theirs).toFixed(2)}\n`);
}

/** Out of aim again by turns nobody wrote down. */
function knocked(machine: AimMachine, path: AimPath): AimMachine {
  for (const [i, s] of startOf(path).screws.entries())
    machine.turn(s.key.slice(0, s.key.lastIndexOf(".")), s.screw, i % 2 === 0 ? 0.3 : -0.25);
  return machine;
}
