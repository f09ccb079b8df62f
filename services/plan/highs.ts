/** HiGHS, compiled to WebAssembly, as the planner's solver. Reads nothing but its own module. */
import highs from "highs";
import type { Solver } from "#core/plan";

/** A plan within this share of the least is as good. */
const GAP = 0.002;

/** `seconds` is how long it may look; what it found until then counts. */
export async function highsSolver(seconds: number): Promise<Solver> {
  const engine = await highs();
  return async (program) => {
    if (program === "") return new Map();
    const found = engine.solve(program, { time_limit: seconds, mip_rel_gap: GAP, output_flag: false });
    const values = new Map(
      Object.entries(found.Columns).map(([name, column]) => [name, "Primal" in column ? (column.Primal as number) : Number.NaN]),
    );
    return [...values.values()].some((v) => !Number.isFinite(v)) ? undefined : values;
  };
}
