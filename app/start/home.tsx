/** The bare address: to Today of the first machine, or to the first start. */
import { redirect } from "react-router";
import { listMachines } from "#store/machines";
import type { Route } from "./+types/home";

export async function loader({ context }: Route.LoaderArgs) {
  const [first] = await listMachines(context.store);
  return redirect(first ? `/${first.slug}/today` : "/start");
}
