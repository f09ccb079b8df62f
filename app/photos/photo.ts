/** Serves a kept photo. Its address is its content, so it never changes. */
import { find } from "#services/photos";
import type { Route } from "./+types/photo";

export async function loader({ params, context }: Route.LoaderArgs) {
  const photo = await find(context, params.hash);
  if (!photo) return new Response("There is no such photo here.", { status: 404 });
  return new Response(photo.bytes, {
    headers: { "Content-Type": photo.mime, "Cache-Control": "private, max-age=31536000, immutable" },
  });
}
