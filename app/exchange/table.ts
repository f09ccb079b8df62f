/** One kind of record of one machine as a table. */
import { EVENT_KINDS } from "#core/events";
import { tableOf } from "#services/exchange/exportFiles";
import { NotHere } from "#services/refusal";
import { reading } from "../server/reading";
import type { Route } from "./+types/table";

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => {
  const kind = EVENT_KINDS.find((k) => `${k}.csv` === params.file);
  if (!kind) throw new NotHere("There is no such table.");
  return new Response(await tableOf(context, params.machine, kind), {
    headers: {
      "Content-Type": "text/csv; charset=utf-8",
      "Content-Disposition": `attachment; filename="${params.machine}-${kind}.csv"`,
      "Cache-Control": "no-store",
    },
  });
});
