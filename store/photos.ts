/** Photos: files in the data folder named by the hash of their content, with a row each. Checked by content before anything is kept. */
import { createHash, randomUUID } from "node:crypto";
import { existsSync, readdirSync, rmSync } from "node:fs";
import { mkdir, open, readFile, rename, rm } from "node:fs/promises";
import { dirname, join } from "node:path";
import type { Metadata } from "sharp";
import type { Store } from "./database";
import { troubleOf } from "./trouble";

export const MAX_PHOTO_BYTES = 6 * 1024 * 1024;
const MAX_PIXELS = 50_000_000;
/** No camera packs so many pixels into a byte: what does is made to unfold. */
const MAX_PIXELS_PER_BYTE = 2000;
const MIMES: Readonly<Record<string, string>> = { jpeg: "image/jpeg", png: "image/png", webp: "image/webp" };
const NOT_A_PHOTO = "That file is not a photo. JPEG, PNG or WebP would be right, whatever its name ends with.";

/** Not kept; the message says why and what would be right. */
export class PhotoRefused extends Error {
  override readonly name = "PhotoRefused";
}

export interface Photo {
  readonly mime: string;
  readonly bytes: Uint8Array<ArrayBuffer>;
}

/**
 * What an image's own bytes say it is, told by decoding it. Throws PhotoRefused for anything that is not a whole JPEG, PNG or WebP with
 * pixels in it, and for one that unfolds to more of them than any camera takes.
 */
export async function inspectPhoto(bytes: Uint8Array): Promise<{ mime: string; widthPx: number; heightPx: number }> {
  if (bytes.length > MAX_PHOTO_BYTES) throw new PhotoRefused(`That photo is too large: ${MAX_PHOTO_BYTES / 1024 / 1024} MB at most.`);
  // Loaded with the first photo: most starts of the server never see one.
  const { default: sharp } = await import("sharp");
  const open = () => sharp(bytes, { failOn: "truncated", limitInputPixels: MAX_PIXELS, sequentialRead: true });
  let found: Metadata;
  try {
    found = await open().metadata();
  } catch {
    throw new PhotoRefused(NOT_A_PHOTO);
  }
  const mime = MIMES[found.format ?? ""];
  const [widthPx, heightPx] = [found.width ?? 0, found.height ?? 0];
  if (!mime || widthPx < 1 || heightPx < 1 || (found.pages ?? 1) > 1) throw new PhotoRefused(NOT_A_PHOTO);
  if (widthPx * heightPx > MAX_PIXELS)
    throw new PhotoRefused(
      `That photo is too large: ${MAX_PIXELS / 1e6} million pixels at most, this one has ${Math.round((widthPx * heightPx) / 1e6)}.`,
    );
  if (widthPx * heightPx > MAX_PIXELS_PER_BYTE * bytes.length)
    throw new PhotoRefused("That is hardly a photo: it unfolds to far more than it holds. One from a camera would be right.");
  try {
    // Every pixel is decoded on the way to a few, and off the event loop.
    await open().resize(8, 8, { fit: "fill" }).raw().toBuffer();
  } catch {
    throw new PhotoRefused("That photo is damaged or cut off: send it once more.");
  }
  return { mime, widthPx, heightPx };
}

const photosOf = (folder: string) => join(folder, "photos");
const placeOf = (folder: string, hash: string) => join(photosOf(folder), hash.slice(0, 2), hash);
export const hashOf = (bytes: Uint8Array) => createHash("sha256").update(bytes).digest("hex");

/** Whether the file of a photo is there, whole. */
async function holds(place: string, hash: string): Promise<boolean> {
  try {
    return hashOf(await readFile(place)) === hash;
  } catch {
    return false;
  }
}

/**
 * Keeps a photo and gives its hash. Written beside its place, flushed, read back, then moved in: a power cut or a full disk leaves it
 * whole or not there, and one that was damaged before is made whole. Throws PhotoRefused for what is no photo, StoreTrouble when the
 * disk does not take it.
 */
export async function keepPhoto(store: Store, folder: string, bytes: Uint8Array, nowMs: number): Promise<string> {
  const { mime, widthPx, heightPx } = await inspectPhoto(bytes);
  const hash = hashOf(bytes);
  try {
    await writeWhole(placeOf(folder, hash), bytes, hash);
  } catch (error) {
    throw troubleOf(error) ?? error;
  }
  await store
    .insertInto("photo")
    .values({ hash, mime, byte_count: bytes.length, width_px: widthPx, height_px: heightPx, created_ms: nowMs })
    .onConflict((c) => c.column("hash").doNothing())
    .execute();
  return hash;
}

async function writeWhole(place: string, bytes: Uint8Array, hash: string): Promise<void> {
  if (await holds(place, hash)) return;
  const folder = dirname(place);
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const beside = `${place}.${randomUUID()}`;
  try {
    const file = await open(beside, "wx", 0o600);
    try {
      await file.writeFile(bytes);
      await file.sync();
    } finally {
      await file.close();
    }
    if (!(await holds(beside, hash))) throw Object.assign(new Error("it reads back otherwise than it was written"), { code: "EIO" });
    await rename(beside, place);
  } catch (error) {
    await rm(beside, { force: true }).catch(() => undefined);
    throw error;
  }
  // The name is safe on disk only when its folder is.
  const entry = await open(folder, "r");
  await entry.sync().finally(() => entry.close());
}

/** Removes what a power cut left half written. To be called before the first photo is taken. */
export function sweepPhotos(folder: string): void {
  const photos = photosOf(folder);
  if (!existsSync(photos)) return;
  for (const entry of readdirSync(photos, { recursive: true, withFileTypes: true })) {
    if (entry.isFile() && !/^[0-9a-f]{64}$/.test(entry.name)) rmSync(join(entry.parentPath, entry.name), { force: true });
  }
}

/** Removes the files of photos that are not among those known. */
export function removeUnknown(folder: string, known: ReadonlySet<string>): void {
  const photos = photosOf(folder);
  if (!existsSync(photos)) return;
  for (const entry of readdirSync(photos, { recursive: true, withFileTypes: true }))
    if (entry.isFile() && /^[0-9a-f]{64}$/.test(entry.name) && !known.has(entry.name))
      rmSync(join(entry.parentPath, entry.name), { force: true });
}

/** A kept photo; undefined when it is not here, or not whole any more. */
export async function findPhoto(store: Store, folder: string, hash: string): Promise<Photo | undefined> {
  const row = await store.selectFrom("photo").select(["mime", "byte_count"]).where("hash", "=", hash).executeTakeFirst();
  const bytes = row && (await readFile(placeOf(folder, hash)).catch(() => undefined));
  return bytes?.length === row?.byte_count && row && bytes ? { mime: row.mime, bytes: new Uint8Array(bytes) } : undefined;
}

/** Hashes among those given that are kept here. */
export async function knownPhotos(store: Store, hashes: readonly string[]): Promise<Set<string>> {
  if (hashes.length === 0) return new Set();
  const rows = await store.selectFrom("photo").select("hash").where("hash", "in", hashes).execute();
  return new Set(rows.map((r) => r.hash));
}

/** Hashes of all kept photos, oldest first. */
export const listPhotos = (store: Store): Promise<{ hash: string }[]> =>
  store.selectFrom("photo").select("hash").orderBy("created_ms").orderBy("hash").execute();
