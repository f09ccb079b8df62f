/** The shopping list as plain text: it prints and it is copied anywhere. */
import { gather } from "#services/machine/gather";
import { shoppingText, suppliesView } from "#services/supplies/suppliesView";
import { shortDay } from "#services/words";
import { reading } from "../server/reading";
import type { Route } from "./+types/shopping";

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => {
  const g = await gather(context, params.machine);
  const { list } = await suppliesView(context, g);
  return new Response(shoppingText(list, shortDay(g.nowMs, g.nowMs)), {
    headers: { "Content-Type": "text/plain; charset=utf-8", "Cache-Control": "no-store" },
  });
});
