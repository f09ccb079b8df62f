/** A case to download, as the trace command reads it. */
import { caseFile } from "#services/cases/caseFile";
import { recordId } from "#services/forms/fields";
import { gatherOnce } from "#services/machine/gather";
import { reading } from "../server/reading";
import type { Route } from "./+types/file";

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => {
  const g = await gatherOnce(context, params.machine);
  const file = await caseFile(context, g, recordId(params.caseId));
  return new Response(`${JSON.stringify(file, null, 1)}\n`, {
    headers: {
      "Content-Type": "application/json; charset=utf-8",
      "Content-Disposition": `attachment; filename="${g.machine.slug}-case-${params.caseId}.json"`,
      "Cache-Control": "no-store",
    },
  });
});
