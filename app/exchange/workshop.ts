/** The whole workshop as one file. */
import { workshopFile } from "#services/exchange/workshopFile";
import type { Route } from "./+types/workshop";

export async function loader({ context }: Route.LoaderArgs) {
  const day = new Date(context.nowMs()).toISOString().slice(0, 10);
  return new Response(await workshopFile(context), {
    headers: {
      "Content-Type": "application/json; charset=utf-8",
      "Content-Disposition": `attachment; filename="workshop-${day}.json"`,
      "Cache-Control": "no-store",
    },
  });
}
