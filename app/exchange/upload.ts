/** Takes a file in to be looked at; answers with what it would change, or with what is wrong in it and where. Nothing is kept yet. */
import { data } from "react-router";
import { EVENT_KINDS } from "#core/events";
import { reading } from "../server/reading";
import type { Route } from "./+types/upload";

export const MAX_FILE_BYTES = 128 * 1024 * 1024;

export const action = reading(async ({ request, params, context }: Route.ActionArgs) => {
  const chunks: Uint8Array[] = [];
  let length = 0;
  for await (const chunk of (request.body ?? []) as unknown as AsyncIterable<Uint8Array>) {
    length += chunk.length;
    if (length > MAX_FILE_BYTES) break;
    chunks.push(chunk);
  }
  if (length > MAX_FILE_BYTES)
    return data(
      { problems: [{ line: 1, column: 1, words: `Files of up to ${MAX_FILE_BYTES / 1024 / 1024} MB are taken. Split this one.` }] },
      { status: 413 },
    );
  if (request.signal.aborted) return data({ problems: [] }, { status: 499 });
  const asked = new URL(request.url).searchParams.get("kind");
  return context.importer.look(
    params.machine,
    new Uint8Array(Buffer.concat(chunks)),
    EVENT_KINDS.find((k) => k === asked),
    request.signal,
  );
});
