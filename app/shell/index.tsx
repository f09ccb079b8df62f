/** A machine's bare address leads to its Today. */
import { redirect } from "react-router";
import type { Route } from "./+types/index";

export function loader({ params }: Route.LoaderArgs) {
  return redirect(`/${params.machine}/today`);
}
