/** Photos: files in the data folder named by the hash of their content, with a row each. Checked by content before anything is kept. */
import { createHash, randomUUID } from "node:crypto";
import { closeSync, existsSync, fsyncSync, mkdirSync, openSync, readFileSync, renameSync, writeSync } from "node:fs";
import { join } from "node:path";
import { imageSize } from "image-size";
import type { Store } from "./database";

export const MAX_PHOTO_BYTES = 6 * 1024 * 1024;
const MAX_PIXELS_A_SIDE = 12_000;
const MIMES: Readonly<Record<string, string>> = { jpg: "image/jpeg", png: "image/png", webp: "image/webp" };

/** Not kept; the message says why and what would be right. */
export class PhotoRefused extends Error {
  override readonly name = "PhotoRefused";
}

export interface Photo {
  readonly mime: string;
  readonly bytes: Uint8Array<ArrayBuffer>;
}

/** What an image's own bytes say it is. Throws PhotoRefused for anything that is not a whole JPEG, PNG or WebP. */
export function inspectPhoto(bytes: Uint8Array): { mime: string; widthPx: number; heightPx: number } {
  const megabytes = MAX_PHOTO_BYTES / 1024 / 1024;
  if (bytes.length > MAX_PHOTO_BYTES) throw new PhotoRefused(`That photo is too large: ${megabytes} MB at most.`);
  const refusal = new PhotoRefused("That file is not a photo. JPEG, PNG or WebP would be right, whatever its name ends with.");
  let found: ReturnType<typeof imageSize>;
  try {
    found = imageSize(bytes);
  } catch {
    throw refusal;
  }
  const mime = MIMES[found.type ?? ""];
  if (!mime || !(found.width > 0) || !(found.height > 0)) throw refusal;
  if (Math.max(found.width, found.height) > MAX_PIXELS_A_SIDE)
    throw new PhotoRefused(`That photo is too large: ${MAX_PIXELS_A_SIDE} pixels a side at most.`);
  if (!isWhole(bytes, mime)) throw new PhotoRefused("That photo is cut off: send it once more.");
  return { mime, widthPx: found.width, heightPx: found.height };
}

/** Whether the file goes on to its own end mark. */
function isWhole(bytes: Uint8Array, mime: string): boolean {
  const tail = Buffer.from(bytes.subarray(Math.max(0, bytes.length - 64)));
  if (mime === "image/jpeg") return tail.includes(Buffer.from([0xff, 0xd9]));
  if (mime === "image/png") return tail.includes("IEND");
  return new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(4, true) + 8 <= bytes.length;
}

const placeOf = (folder: string, hash: string) => join(folder, "photos", hash.slice(0, 2), hash);

/** Keeps a photo and gives its hash. Written beside its place, flushed, then moved in: a power cut leaves it whole or not there. */
export async function keepPhoto(store: Store, folder: string, bytes: Uint8Array, nowMs: number): Promise<string> {
  const { mime, widthPx, heightPx } = inspectPhoto(bytes);
  const hash = createHash("sha256").update(bytes).digest("hex");
  const place = placeOf(folder, hash);
  if (!existsSync(place)) {
    mkdirSync(join(place, ".."), { recursive: true });
    const beside = `${place}.${randomUUID()}`;
    const file = openSync(beside, "w");
    writeSync(file, bytes);
    fsyncSync(file);
    closeSync(file);
    renameSync(beside, place);
  }
  await store
    .insertInto("photo")
    .values({ hash, mime, byte_count: bytes.length, width_px: widthPx, height_px: heightPx, created_ms: nowMs })
    .onConflict((c) => c.column("hash").doNothing())
    .execute();
  return hash;
}

export async function findPhoto(store: Store, folder: string, hash: string): Promise<Photo | undefined> {
  const row = await store.selectFrom("photo").select("mime").where("hash", "=", hash).executeTakeFirst();
  if (!row || !existsSync(placeOf(folder, hash))) return undefined;
  return { mime: row.mime, bytes: new Uint8Array(readFileSync(placeOf(folder, hash))) };
}

/** Hashes among those given that are kept here. */
export async function knownPhotos(store: Store, hashes: readonly string[]): Promise<Set<string>> {
  if (hashes.length === 0) return new Set();
  const rows = await store.selectFrom("photo").select("hash").where("hash", "in", hashes).execute();
  return new Set(rows.map((r) => r.hash));
}
