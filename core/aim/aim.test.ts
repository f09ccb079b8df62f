import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  type AimEntry,
  type AimEvent,
  type AimPath,
  aimPathOf,
  correctionOf,
  finestStepMm,
  NoAimPath,
  outdatedMarks,
  remembered,
  rotationPerTurnMrad,
  roundTurns,
  sessionOf,
  solve,
  spotId,
  spotsOf,
  throughMirror,
  turnsFor,
  turnWords,
} from "#core/aim";
import type { Path, PathStation } from "#core/machine";
import { seededRandom } from "#core/random";
import { type AimMachine, aimMachine, USUAL_MISALIGNMENT } from "../../judge/machines";

const station = (id: string, role: PathStation["role"], distanceMm: number, travelMm = 0): PathStation => ({
  id,
  role,
  name: id,
  mount: role === "mirror" ? "screw-cell" : "fixed",
  coating: "unknown",
  apertureMm: role === "nozzle" ? 2.5 : 20,
  distanceMm,
  travelMm,
});
const threeMirrors: Path = [
  station("tube", "tube", 0),
  station("window", "window", 150),
  station("mirror-1", "mirror", 150, 600),
  station("mirror-2", "mirror", 100, 900),
  station("mirror-3", "mirror", 60),
  station("lens", "lens", 50),
  station("nozzle", "nozzle", 4),
];
const path = aimPathOf(threeMirrors);
const at = (stationId: string, ...far: string[]) => ({ at: stationId, far });
const mark = (spot: { at: string; far: string[] }, right: number, up: number): AimEntry => ({ kind: "mark", spot, mark: { right, up } });
const mount = { kind: "right-angle", pitchMm: 0.5, armMm: 40 } as const;

describe("rays and mirrors", () => {
  it("turns right into left and keeps up at a horizontal turn", () => {
    expect(throughMirror("left", "front")).toEqual([-1, 0, 0, 1]);
    expect(throughMirror("front", "right")).toEqual([-1, 0, 0, 1]);
  });

  it("maps every pair of directions by a reflection: lengths stay, two mirrors alike undo each other", () => {
    const all = ["left", "right", "front", "rear", "up", "down"] as const;
    fc.assert(
      fc.property(fc.constantFrom(...all), fc.constantFrom(...all), (before, after) => {
        fc.pre(before.length > 0 && Math.abs(all.indexOf(before) - all.indexOf(after)) > 0);
        let m: readonly number[];
        try {
          m = throughMirror(before, after);
        } catch (error) {
          expect(error).toBeInstanceOf(RangeError);
          return;
        }
        const [a = 0, b = 0, c = 0, d = 0] = m;
        expect(Math.abs(a * d - b * c)).toBe(1);
        expect(a * a + c * c).toBe(1);
        const back = throughMirror(after, before);
        expect([back[0] * a + back[1] * c, back[0] * b + back[1] * d].map(Math.abs)).toEqual([1, 0]);
      }),
    );
  });

  it("works out the textbook example: 3.2 right and 1.8 low over 600 mm", () => {
    const deviation = { right: (1000 * 3.2) / 600, up: (1000 * -1.8) / 600 };
    const { inPlane, across } = correctionOf(deviation, "right");
    expect(inPlane).toBeCloseTo(-2.667, 3);
    expect(across).toBeCloseTo(2.121, 3);
    const turns = [turnsFor(mount, inPlane), turnsFor(mount, across)];
    expect(Math.abs(turns[0]!)).toBeCloseTo(0.213, 3);
    expect(turns[1]).toBeCloseTo(0.17, 3);
    expect(turns.map((t) => Math.abs(roundTurns(t)))).toEqual([3 / 16, 3 / 16]);
    const left = [
      3.2 - (3 / 16) * 2 * (rotationPerTurnMrad(mount) / 1000) * 600,
      1.8 - (3 / 16) * Math.SQRT2 * (rotationPerTurnMrad(mount) / 1000) * 600,
    ];
    expect(Math.hypot(...left)).toBeCloseTo(0.43, 2);
    expect((1 / 8) * 2 * (rotationPerTurnMrad(mount) / 1000) * 600).toBeCloseTo(1.875, 3);
  });

  it("turns about the line through the other two screws at 120°, one and a half radii away", () => {
    expect(rotationPerTurnMrad({ kind: "three-at-120", pitchMm: 0.5, armMm: 20 })).toBeCloseTo(500 / 30, 9);
  });

  it("rounds to eighths, to sixteenths below a quarter, and never by more than half of them", () => {
    fc.assert(
      fc.property(fc.double({ min: -2, max: 2, noNaN: true }), (turns) => {
        const rounded = roundTurns(turns);
        const step = Math.abs(turns) < 0.25 ? 1 / 16 : 1 / 8;
        expect(Number.isInteger(rounded / step)).toBe(true);
        expect(Math.abs(rounded - turns)).toBeLessThanOrEqual(step / 2 + 1e-12);
      }),
    );
    expect([turnWords(-3 / 16), turnWords(0.5), turnWords(1.25)]).toEqual([
      "3/16 turn anticlockwise",
      "1/2 turn clockwise",
      "1 1/4 turns clockwise",
    ]);
  });
});

describe("the path to aim", () => {
  it("knows the usual way of each layout from its mirrors and the corner the beam comes in at", () => {
    expect(path.elements.map((e) => e.beamTo)).toEqual(["left", "front", "right", "down"]);
    const one = threeMirrors.filter((s) => !["mirror-2", "mirror-3"].includes(s.id));
    expect(aimPathOf(one, { corner: "back-right" }).elements.map((e) => e.beamTo)).toEqual(["left", "down"]);
    const four = [...threeMirrors.slice(0, 5), station("mirror-4", "mirror", 50), ...threeMirrors.slice(5)];
    expect(aimPathOf(four).elements.map((e) => e.beamTo)).toEqual(["left", "up", "front", "right", "down"]);
  });

  it("asks for tape near and far where something moves, and the head in four corners", () => {
    expect(spotsOf(path).map(spotId)).toEqual([
      "mirror-1",
      "mirror-2",
      "mirror-2+mirror-2",
      "mirror-3",
      "mirror-3+mirror-3",
      "mirror-3+mirror-2",
      "mirror-3+mirror-2+mirror-3",
      "lens",
      "lens+mirror-2+mirror-3",
      "nozzle",
    ]);
  });

  it("asks for no tape behind a panel that is not for owners, and turns nothing there", () => {
    const closed = aimPathOf(threeMirrors.map((s) => (s.id === "mirror-1" ? { ...s, warranty: true } : s)));
    expect(spotsOf(closed).map((s) => s.at)).not.toContain("mirror-1");
    const { next, legs } = solve(sessionOf(closed, []));
    expect(next).toMatchObject({ kind: "mark", spot: { at: "mirror-2", far: [] } });
    expect(legs.map((l) => l.element)).toEqual(["mirror-1", "mirror-2", "mirror-3"]);
    const entries = [mark(at("mirror-2"), 0, 0), mark(at("mirror-2", "mirror-2"), 5, 0)];
    expect(solve(sessionOf(closed, entries)).next).toMatchObject({ kind: "seat", element: "mirror-1" });
  });

  it("refuses a path without a mirror, and a mirror that would send the beam straight on, and says what would be right", () => {
    expect(() => aimPathOf(threeMirrors.filter((s) => s.role !== "mirror"))).toThrow(NoAimPath);
    const straight = threeMirrors.map((s) => (s.id === "mirror-1" ? { ...s, beamTo: "left" as const } : s));
    expect(() => aimPathOf(straight)).toThrow(/mirror-1 gets the beam going left and cannot send it left/);
  });
});

describe("what to do next", () => {
  it("asks for the mark that is missing before anything is turned", () => {
    const asked = (entries: AimEntry[]) => {
      const { next } = solve(sessionOf(path, entries));
      return next.kind === "mark" ? spotId(next.spot) : next.kind;
    };
    expect(asked([])).toBe("mirror-1");
    expect(asked([mark(at("mirror-1"), 0, 0)])).toBe("mirror-2");
    expect(asked([mark(at("mirror-1"), 0, 0), mark(at("mirror-2"), 0.4, 0)])).toBe("mirror-2+mirror-2");
    expect(asked([mark(at("mirror-1"), 0, 0), mark(at("mirror-2"), 0.4, 0), mark(at("mirror-2", "mirror-2"), 6, 0)])).toBe("turn");
  });

  it("turns the mirror before the marks, by what they say, and foretells where the mark will sit", () => {
    const entries = [mark(at("mirror-1"), 0, 0), mark(at("mirror-2"), 0.8, -0.4), mark(at("mirror-2", "mirror-2"), 4, -2.2)];
    const { next, legs, turns } = solve(sessionOf(path, entries));
    expect(next).toMatchObject({ kind: "turn", element: "mirror-1", screw: "A", isTrial: true });
    const leg = legs.find((l) => l.element === "mirror-1");
    expect(leg?.deviation?.right).toBeCloseTo(5.3, 0);
    expect(leg?.deviation?.up).toBeCloseTo(-3, 0);
    const far = turns[0]?.expected.find((e) => e.spot.far.length > 0);
    expect(Math.abs((far?.mark.right ?? 9) - 0.8)).toBeLessThan(1);
  });

  it("says good at once where all marks meet in the middle, and names what lies outside the middle half", () => {
    const all = spotsOf(path).map((s) => mark({ at: s.at, far: [...s.far] }, 0.1, -0.1));
    const twice = [...all, ...all];
    expect(solve(sessionOf(path, twice)).goodEnough).toBe(true);
    const high = twice.map((e) => (e.kind === "mark" && e.spot.at === "mirror-2" ? { ...e, mark: { right: 0, up: 8 } } : e));
    const answer = solve(sessionOf(path, high));
    expect(answer.outside).toContain("mirror-2");
    // A height is no matter of screws.
    expect(answer.next).toMatchObject({ kind: "shift", shift: { of: "mount", station: "mirror-2" } });
    expect(answer.goodEnough).toBe(false);
  });

  it("names a mirror without screws as one to seat again", () => {
    const seated = aimPathOf(threeMirrors.map((s) => (s.id === "mirror-1" ? { ...s, mount: "captive" as const } : s)));
    const entries = [mark(at("mirror-1"), 0, 0), mark(at("mirror-2"), 0, 0), mark(at("mirror-2", "mirror-2"), 5, 0)];
    expect(solve(sessionOf(seated, entries)).next).toMatchObject({ kind: "seat", element: "mirror-1" });
  });

  it("always knows the way back to the best state", () => {
    const entries: AimEntry[] = [
      mark(at("mirror-1"), 0, 0),
      mark(at("mirror-2"), 0, 0),
      mark(at("mirror-2", "mirror-2"), 2, 0),
      { kind: "turn", element: "mirror-1", screw: "A", turns: 0.25 },
      mark(at("mirror-2", "mirror-2"), 6, 0),
      { kind: "turn", element: "mirror-1", screw: "B", turns: -0.125 },
      mark(at("mirror-2", "mirror-2"), 6, 2),
    ];
    expect(solve(sessionOf(path, entries)).back).toEqual([
      { element: "mirror-1", screw: "B", turns: 0.125 },
      { element: "mirror-1", screw: "A", turns: -0.25 },
    ]);
  });

  it("takes a mark far from where it was expected as a surprise: kept, named, and weighed less", () => {
    const calm = [mark(at("mirror-1"), 0, 0), mark(at("mirror-2"), 0, 0), ...Array(4).fill(mark(at("mirror-2", "mirror-2"), 0.2, 0))];
    const session = sessionOf(path, [...calm, mark(at("mirror-2", "mirror-2"), 7, 0)]);
    expect(session.surprises).toHaveLength(1);
    expect(solve(session).legs.find((l) => l.element === "mirror-1")?.apartMm).toBeLessThan(3.5);
  });
});

describe("screws", () => {
  const trial: AimEntry[] = [
    mark(at("mirror-1"), 0, 0),
    mark(at("mirror-2"), 0, 0),
    mark(at("mirror-2", "mirror-2"), 6, 0),
    { kind: "turn", element: "mirror-1", screw: "A", turns: 0.25 },
    mark(at("mirror-2", "mirror-2"), 10.6, 0.1),
  ];

  it("learns the sense and the size of a screw from the mark before and after one turn", () => {
    const session = sessionOf(path, trial);
    expect(session.trials[0]).toMatchObject({ element: "mirror-1", screw: "A", turns: 0.25, conflict: false });
    // 4.6 mm over 750 mm by a quarter turn.
    expect(session.trials[0]?.effect.right).toBeCloseTo(4600 / 750 / 0.25, 3);
    const memory = remembered(session.state);
    expect(Object.keys(memory)).toEqual(["mirror-1.A"]);
    expect(memory["mirror-1.A"]?.mean.right).toBeGreaterThan(20);
    const { next } = solve(session);
    expect(next).toMatchObject({ kind: "turn", screw: "A", isTrial: false });
    expect(next.kind === "turn" && next.turns).toBeLessThan(0);
  });

  it("uses on another day what it learned, and flags a trial that says the opposite", () => {
    const memory = remembered(sessionOf(path, trial).state);
    const other = trial.map((e, i) => (i === 4 ? mark(at("mirror-2", "mirror-2"), 1.4, 0) : e));
    expect(sessionOf(path, trial, memory).trials[0]?.conflict).toBe(false);
    const session = sessionOf(path, other, memory);
    expect(session.trials[0]?.conflict).toBe(true);
    // From then on it does what it was seen to do.
    const { next } = solve(session);
    expect(next).toMatchObject({ kind: "turn", screw: "A" });
    expect(next.kind === "turn" && next.turns).toBeGreaterThan(0);
  });
});

/** Walks a simulated machine back to the middle by what the solver says. */
function walk(machine: AimMachine, on: AimPath) {
  const entries: AimEntry[] = [];
  let turns = 0;
  for (let i = 0; i < 150; i++) {
    const { next } = solve(sessionOf(on, entries));
    if (next.kind === "good" || next.kind === "seat") return { entries, turns, ended: next.kind };
    if (next.kind === "mark") entries.push({ kind: "mark", spot: next.spot, mark: machine.mark(next.spot, 0.3) });
    if (next.kind === "turn") {
      turns += 1;
      machine.turn(next.element, next.screw, next.turns);
      entries.push({ kind: "turn", element: next.element, screw: next.screw, turns: next.turns });
    }
    if (next.kind === "shift") {
      const { shift } = next;
      if (shift.of === "tube") machine.raiseTube(shift.mm);
      else if (shift.of === "mount") machine.shim(shift.station, shift.mm);
      else machine.slide(shift.element, shift.mm);
      entries.push({ kind: "shift", shift });
    }
  }
  return { entries, turns, ended: "not" };
}

describe("a simulated machine whose screws can be turned", () => {
  it.each(["right-angle", "three-at-120", "two-and-spring"] as const)("comes back to one spot with screws %s", (kind) => {
    const screws = { kind, pitchMm: 0.5, armMm: kind === "three-at-120" ? 24 : 40 };
    const on = aimPathOf(
      threeMirrors.map((s) =>
        s.role === "mirror" ? { ...s, screwKind: screws.kind, screwPitchMm: screws.pitchMm, screwArmMm: screws.armMm } : s,
      ),
    );
    let together = 0;
    for (let seed = 1; seed <= 12; seed++) {
      const machine = aimMachine(seededRandom(seed), on);
      const { ended, turns } = walk(machine, on);
      expect(ended).toBe("good");
      expect(turns).toBeLessThan(30);
      const apart = (way: string) => {
        const [near, far] = [machine.mark(at(way)), machine.mark(at(way, way))];
        return Math.hypot(far.right - near.right, far.up - near.up);
      };
      const within = (way: string, travelMm: number) => apart(way) <= Math.max(0.5, finestStepMm(screws, travelMm) / 2) + 0.3;
      if (within("mirror-2", 600) && within("mirror-3", 900)) together += 1;
    }
    expect(together).toBeGreaterThanOrEqual(11);
  });
});

describe("a pulse that leaves no mark", () => {
  const spot = { at: "mirror-2", far: [] };
  it("is asked for once more before anything is turned after it; one whose side was seen is believed", () => {
    const first = mark({ at: "mirror-1", far: [] }, 0, 0);
    expect(solve(sessionOf(path, [first, { kind: "miss", spot }])).next).toMatchObject({ kind: "mark", why: "no-mark", spot });
    const twice = solve(sessionOf(path, [first, { kind: "miss", spot }, { kind: "miss", spot }])).next;
    expect(twice).toMatchObject({ kind: "turn", element: "mirror-1", isSearch: true });
    expect(solve(sessionOf(path, [first, { kind: "miss", spot, side: "left" }])).next).toMatchObject({ kind: "turn", isSearch: true });
  });

  it("far off is looked for until it is found, and no round of turns comes back to where it began", () => {
    let found = 0;
    for (let seed = 1; seed <= 12; seed++) {
      const machine = aimMachine(seededRandom(seed), path, { ...USUAL_MISALIGNMENT, mirrorMrad: 8 });
      const entries: AimEvent[] = [];
      let turns = 0;
      for (let i = 0; i < 110 && turns < 50; i++) {
        const { next } = solve(sessionOf(path, entries));
        if (next.kind === "good") {
          found += 1;
          break;
        }
        if (next.kind === "mark") {
          const seen = machine.mark(next.spot, 0.3);
          const aperture = path.stations.find((s) => s.id === next.spot.at)?.apertureMm ?? 20;
          const isHit = next.spot.at === "work" || next.spot.at === "nozzle" || Math.hypot(seen.right, seen.up) < 0.65 * aperture;
          entries.push(isHit ? { kind: "mark", spot: next.spot, mark: seen } : { kind: "miss", spot: next.spot });
        } else if (next.kind === "turn") {
          turns += 1;
          machine.turn(next.element, next.screw, next.turns);
          entries.push({ kind: "turn", element: next.element, screw: next.screw, turns: next.turns });
        } else if (next.kind === "shift") {
          const { shift } = next;
          if (shift.of === "tube") machine.raiseTube(shift.mm);
          else if (shift.of === "mount") machine.shim(shift.station, shift.mm);
          else machine.slide(shift.element, shift.mm);
          entries.push({ kind: "shift", shift });
        } else break;
      }
    }
    expect(found).toBeGreaterThanOrEqual(11);
  });

  it("learns how well marks are read from how they agree", () => {
    const spots = [
      { at: "mirror-2", far: [] },
      { at: "mirror-2", far: ["mirror-2"] },
    ];
    const session = (sd: number) => {
      const random = seededRandom(4);
      return sessionOf(
        path,
        Array.from({ length: 14 }, (_, i) =>
          mark(spots[i % 2] as (typeof spots)[number], 1 + sd * random.normal(), -1 + sd * random.normal()),
        ),
      ).readingSdMm;
    };
    expect(session(0.2)).toBeLessThan(0.4);
    expect(session(1)).toBeGreaterThan(0.65);
    expect(session(1)).toBeLessThan(1.5);
  });
});

describe("a mirror that was out in between", () => {
  const opened = { kind: "opened", element: "mirror-2" } as const;
  const reaches = (spot: { at: string }) => threeMirrors.findIndex((p) => p.id === spot.at) > 3;
  const good = Array.from({ length: 3 }, () => spotsOf(path).map((s) => mark({ at: s.at, far: [...s.far] }, 0.1, -0.1))).flat();

  it("leaves nothing good that lies behind it until that was marked again, and all before it as it was", () => {
    expect(solve(sessionOf(path, good)).goodEnough).toBe(true);
    const out = solve(sessionOf(path, [...good, opened]));
    expect(out.goodEnough).toBe(false);
    const behind = spotsOf(path).filter(reaches).map(spotId);
    expect([...outdatedMarks(sessionOf(path, [...good, opened]))].sort()).toEqual(behind.sort());
    expect(out.next).toMatchObject({ kind: "mark", why: "opened", spot: { at: "mirror-3" } });
    expect(out.legs.find((l) => l.element === "mirror-1")?.status).toBe("good");
    expect(out.legs.filter((l) => l.element === "mirror-2").map((l) => l.status)).toEqual(["unknown"]);
    const again = good.filter((e) => e.kind === "mark" && reaches(e.spot));
    expect(solve(sessionOf(path, [...good, opened, ...again])).goodEnough).toBe(true);
  });

  it("asks in its order for each mark that no longer holds, and turns nothing before", () => {
    const entries: Parameters<typeof sessionOf>[1][number][] = [...good, opened];
    const asked: string[] = [];
    for (let n = 0; n < 30; n++) {
      const { next } = solve(sessionOf(path, entries));
      if (next.kind !== "mark") break;
      asked.push(spotId(next.spot));
      entries.push(mark({ at: next.spot.at, far: [...next.spot.far] }, 0.1, -0.1));
    }
    expect(solve(sessionOf(path, entries)).next.kind).toBe("good");
    const behind = spotsOf(path).filter(reaches);
    expect(asked.filter((id) => !behind.some((spot) => spotId(spot) === id))).toEqual([]);
    expect(asked).toEqual(expect.arrayContaining(behind.filter((spot) => spot.at === "mirror-3").map(spotId)));
  });

  it.each(["lens", "nozzle"])("asks for the mark at the nozzle alone where the %s was out", (element) => {
    const out = sessionOf(path, [...good, { kind: "opened", element }]);
    expect([...outdatedMarks(out)]).toEqual(["nozzle"]);
    expect(solve(out)).toMatchObject({ goodEnough: false, next: { kind: "mark", why: "opened", spot: { at: "nozzle" } } });
    const made = sessionOf(path, [...out.entries, mark({ at: "nozzle", far: [] }, 0.1, -0.1)]);
    expect(solve(made).goodEnough).toBe(true);
    const turned = [...good, { kind: "turn", element: "mirror-2", screw: "A", turns: 0.5 } as const, { kind: "opened", element } as const];
    expect(solve(sessionOf(path, turned)).back).toHaveLength(1);
  });

  it("undoes no turn that was made before it was out", () => {
    const turned: Parameters<typeof sessionOf>[1] = [...good, { kind: "turn", element: "mirror-2", screw: "A", turns: 0.5 }];
    expect(solve(sessionOf(path, turned)).back).toHaveLength(1);
    expect(solve(sessionOf(path, [...turned, opened])).back).toEqual([]);
  });
});
