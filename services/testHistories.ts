/** Test support: what owners may log of a machine, as random histories, and what is bad at their end, told without reading the log. */
import fc from "fast-check";
import type { Grade } from "#core/beam";
import { TestWorkshop } from "./testWorkshop";

export const OPTICS = ["window", "mirror-1", "mirror-2", "mirror-3", "lens"] as const;

const step = fc.oneof(
  fc.record({ what: fc.constant("ladder" as const), dropped: fc.integer({ min: 7, max: 18 }) }),
  fc.record({ what: fc.constant("cut" as const), result: fc.constantFrom("through" as const, "hangs" as const, "part-through" as const) }),
  fc.record({
    what: fc.constant("grade" as const),
    station: fc.constantFrom(...OPTICS),
    grade: fc.constantFrom<Grade>(0, 1, 2, 3, 4),
    phase: fc.constantFrom("as-found" as const, "as-left" as const),
  }),
  fc.record({ what: fc.constant("clean" as const), station: fc.constantFrom(...OPTICS) }),
  fc.record({ what: fc.constant("spare" as const), station: fc.constantFrom(...OPTICS) }),
  fc.record({ what: fc.constant("hours" as const), by: fc.integer({ min: 1, max: 30 }) }),
);
type Step = typeof step extends fc.Arbitrary<infer S> ? S : never;

/** Up to `most` steps, a day apart. */
export const histories = (most: number): fc.Arbitrary<Step[]> => fc.array(step, { maxLength: most });

export interface Lived {
  readonly w: TestWorkshop;
  /** The last cut since the last ladder. */
  readonly cut: string | undefined;
  /** Optics last seen with film or worse and not mended since. */
  readonly bad: ReadonlyMap<string, Grade>;
  /** The beam must not be used. */
  readonly stops: boolean;
}

/** A workshop with a baseline after such a history. */
export async function lived(steps: readonly Step[]): Promise<Lived> {
  const w = await TestWorkshop.open();
  await w.ladder(14, true);
  const seen = new Map<string, { grade: Grade; left: boolean }>();
  let counterHours = 900;
  let cut: string | undefined;
  for (const [i, s] of steps.entries()) {
    w.day(i + 1);
    switch (s.what) {
      case "ladder":
        await w.ladder(s.dropped);
        cut = undefined;
        break;
      case "cut":
        await w.log("cut", { materialId: 1, result: s.result, speedMmPerS: 14, setPercent: 60 });
        cut = s.result;
        break;
      case "grade":
        await w.log("grade", { station: s.station, grade: s.grade, phase: s.phase });
        seen.set(s.station, { grade: s.grade, left: s.phase === "as-left" });
        break;
      case "clean": {
        await w.log("service", { station: s.station, what: "cleaned" });
        const was = seen.get(s.station);
        // What was left so is not clean by a note of a clean, and no clean mends damage.
        if (was && was.grade < 4 && !was.left) seen.delete(s.station);
        break;
      }
      case "spare":
        await w.log("service", { station: s.station, what: "replaced" });
        seen.delete(s.station);
        break;
      case "hours":
        counterHours += s.by;
        await w.log("hours", { counterHours });
    }
  }
  w.day(steps.length + 1);
  const bad = new Map([...seen].flatMap(([station, { grade }]) => (grade >= 2 ? [[station, grade] as const] : [])));
  // Spots on the window are a suspicion until they stayed.
  const stops = [...seen].some(([station, { grade, left }]) => grade === 4 || (station === "window" && grade === 3 && left));
  return { w, cut, bad, stops };
}
