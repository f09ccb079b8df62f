/** All photos as one archive. */
import { photoArchive } from "#services/exchange/exportFiles";
import type { Route } from "./+types/photos";

export function loader({ context }: Route.LoaderArgs) {
  return new Response(photoArchive(context), {
    headers: { "Content-Type": "application/zip", "Content-Disposition": 'attachment; filename="photos.zip"', "Cache-Control": "no-store" },
  });
}
