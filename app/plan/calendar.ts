/** The plan as a file for the owner's calendar. A form asks for it, since handing it out is kept. */
import { gather } from "#services/machine/gather";
import { planCalendar } from "#services/plan/calendar";
import type { Route } from "./+types/calendar";

export async function action({ params, context }: Route.ActionArgs) {
  const g = await gather(context, params.machine);
  return new Response(await planCalendar(context, g), {
    headers: {
      "Content-Type": "text/calendar; charset=utf-8",
      "Content-Disposition": `attachment; filename="${g.machine.slug}-rounds.ics"`,
      "Cache-Control": "no-store",
    },
  });
}
