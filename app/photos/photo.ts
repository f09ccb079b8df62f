/** Serves a kept photo. Its address is its content, so it never changes. */
import { findPhoto } from "#store/photos";
import type { Route } from "./+types/photo";

export async function loader({ params, context }: Route.LoaderArgs) {
  const photo = /^[0-9a-f]{64}$/.test(params.hash) ? await findPhoto(context.store, context.folder, params.hash) : undefined;
  if (!photo) return new Response("There is no such photo here.", { status: 404 });
  return new Response(photo.bytes, {
    headers: { "Content-Type": photo.mime, "Cache-Control": "private, max-age=31536000, immutable" },
  });
}
