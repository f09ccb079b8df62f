/** Answers once the open cases of a machine are weighed, for a page that came before that: what Today says of them. */
import { gatherOnce } from "#services/machine/gather";
import { weighedToday } from "#services/today/todayView";
import { reading } from "../server/reading";
import type { Route } from "./+types/weighed";

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => {
  const weighed = await weighedToday(context, await gatherOnce(context, params.machine));
  return Response.json(weighed, { headers: { "Cache-Control": "no-store" } });
});
