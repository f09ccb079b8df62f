import { layouts } from "#catalog/layouts";
import { type AimEntry, aimPathOf, sessionOf, solve, WORK } from "#core/aim";
import { aimMachine, USUAL_MISALIGNMENT } from "#core/practice";
import { seededRandom } from "#core/random";
const found = layouts["three-mirror"]!;
const path = aimPathOf(found.path.map((s) => (s.role === "mirror" ? { ...s, screwKind: "right-angle", screwPitchMm: 0.5, screwArmMm: 40 } : s.role === "nozzle" ? { ...s, travelMm: 60 } : s)) as any, { corner: found.fittings.beamCorner });
const off = Number(process.argv[3] ?? 2.5);
const verbose = process.argv[2] !== "all";
for (let seed = verbose ? Number(process.argv[2]) : 1; seed <= (verbose ? Number(process.argv[2]) : 40); seed++) {
  const m = aimMachine(seededRandom(seed), path, { ...USUAL_MISALIGNMENT, mirrorMrad: off });
  const entries: AimEntry[] = []; let moves = 0; let end = "ran out"; let misses = 0;
  for (let i = 0; i < 140 && moves < 60; i++) {
    const s = sessionOf(path, entries); const a = solve(s); const n = a.next;
    if (n.kind === "good" || n.kind === "vague" || n.kind === "seat") { end = n.kind; break; }
    if (n.kind === "mark") {
      const mark = m.mark(n.spot, 0.3); const ap = path.stations.find((x) => x.id === n.spot.at)?.apertureMm ?? 20;
      const hit = n.spot.at === WORK || n.spot.at === "nozzle" || Math.hypot(mark.right, mark.up) < 0.65 * ap;
      if (verbose) console.log(i, hit ? "mark" : "MISS", n.spot.at, n.spot.far.join("+"), n.why, mark.right.toFixed(1), mark.up.toFixed(1));
      if (hit) entries.push({ kind: "mark", spot: n.spot, mark } as any); else { misses++; entries.push({ kind: "miss", spot: n.spot, ...(seed % 2 ? { side: Math.abs(mark.right) > Math.abs(mark.up) ? (mark.right > 0 ? "right" : "left") : mark.up > 0 ? "up" : "down" } : {}) } as any); }
    } else if (n.kind === "turn") { moves++; if (verbose) console.log(i, "turn", n.element, n.screw, n.turns, n.isTrial ? "trial" : "", n.isSearch ? "search" : "", a.legs.map((l) => `${l.endsAt}:${l.status}:${l.apartMm.toFixed(1)}`).join(" ")); m.turn(n.element, n.screw, n.turns); entries.push({ kind: "turn", element: n.element, screw: n.screw, turns: n.turns }); }
    else if (n.kind === "shift") { if (verbose) console.log(i, "shift", JSON.stringify(n.shift)); const { shift } = n; if (shift.of === "tube") m.raiseTube(shift.mm); else if (shift.of === "mount") m.shim(shift.station, shift.mm); else m.slide(shift.element, shift.mm); entries.push({ kind: "shift", shift } as any); }
  }
  console.log(seed, end, "moves", moves, "entries", entries.length, "misses", misses);
}
