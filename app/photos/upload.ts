/** Takes a photo's bytes and answers with the hash it is kept under. The body is the file itself, no form around it. */
import { data } from "react-router";
import { keep, MAX_PHOTO_BYTES, PhotoRefused } from "#services/photos";
import { isTrouble } from "#services/trouble";
import type { Route } from "./+types/upload";

export async function action({ request, context }: Route.ActionArgs) {
  try {
    const bytes = await readLimited(request);
    return { hash: await keep(context, bytes) };
  } catch (error) {
    if (error instanceof PhotoRefused) return data({ problem: error.message }, { status: 415 });
    // The device keeps its copy and sends it again.
    if (isTrouble(error)) return data({ problem: error.message }, { status: 507 });
    throw error;
  }
}

/** Read on and thrown away up to here, so that the sender hears why; beyond, the line is cut. */
const PATIENCE_BYTES = 64 * 1024 * 1024;

/** The body, kept only while it is no longer than a photo may be. */
async function readLimited(request: Request): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  let length = 0;
  if (request.body) {
    for await (const chunk of request.body as unknown as AsyncIterable<Uint8Array>) {
      length += chunk.length;
      if (length > PATIENCE_BYTES) break;
      if (length <= MAX_PHOTO_BYTES) chunks.push(chunk);
    }
  }
  if (length > MAX_PHOTO_BYTES) throw new PhotoRefused(`That photo is too large: ${MAX_PHOTO_BYTES / 1024 / 1024} MB at most.`);
  return new Uint8Array(Buffer.concat(chunks));
}
