/** The bare address: to Today of the first machine, or to the first start. */
import { redirect } from "react-router";
import { firstMachine } from "#services/start/start";
import type { Route } from "./+types/home";

export async function loader({ context }: Route.LoaderArgs) {
  const slug = await firstMachine(context);
  return redirect(slug ? `/${slug}/today` : "/start");
}
