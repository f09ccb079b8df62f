/** All machines of a workshop in a row: how each stands, what is first on it, and how long that takes. */
import type { Machine } from "#store/machines";
import type { Services } from "../context";
import { gather } from "../machine/gather";
import { todayView } from "./todayView";

export async function machinesView(services: Services, machines: readonly Pick<Machine, "slug" | "name">[]) {
  return Promise.all(
    machines.map(async ({ slug, name }) => {
      try {
        const { verdict, first } = await todayView(services, await gather(services, slug));
        return { slug, name, verdict: verdict.headline, first: first.title, minutes: first.minutes ?? "" };
      } catch {
        // It keeps nobody from the others.
        return { slug, name, verdict: "It cannot be read.", first: "Go back to a copy", minutes: "" };
      }
    }),
  );
}
