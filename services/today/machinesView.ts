/** All machines of a workshop in a row: how each stands, what is first on it, and how long that takes. */
import type { Services } from "../context";
import { gather } from "../machine/gather";
import { todayView } from "./todayView";

export async function machinesView(services: Services, slugs: readonly string[]) {
  return Promise.all(
    slugs.map(async (slug) => {
      const g = await gather(services, slug);
      const { verdict, first } = await todayView(services, g);
      return { slug, name: g.machine.name, verdict: verdict.headline, first: first.title, minutes: first.minutes ?? "" };
    }),
  );
}
