/** Takes in a file that was looked at, or stops that; asked meanwhile, it says how far it is. */
import { data } from "react-router";
import { trouble } from "#services/forms/fields";
import { saving } from "../server/saving";
import type { Route } from "./+types/takeIn";

export const loader = ({ request, context }: Route.LoaderArgs) =>
  Response.json(
    { share: context.importer.share(new URL(request.url).searchParams.get("file") ?? "") ?? null },
    { headers: { "Cache-Control": "no-store" } },
  );

export const action = saving(async (reader, { context }: Route.ActionArgs) => {
  const id = reader.text("file") ?? "";
  if (reader.text("intent") === "stop") {
    context.importer.stop(id);
    return {};
  }
  const taken = await context.importer.takeIn(id);
  return "problem" in taken ? data(trouble(reader, { "": taken.problem }), { status: 400 }) : taken;
});
