/** Reads a device of the practice bench once. */
import { benchOf } from "#services/bench";
import { gatherOnce } from "#services/machine/gather";
import { NotHere } from "#services/refusal";
import { reading } from "../server/reading";
import type { Route } from "./+types/read";

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => {
  const bench = benchOf(await gatherOnce(context, params.machine), Date.now());
  const { device } = params;
  const read = device === "hours" || device === "current" || device === "coolant" ? await bench.read(device) : undefined;
  if (!read) throw new NotHere("This machine has no such device.");
  return Response.json(read, { headers: { "Cache-Control": "no-store" } });
});
