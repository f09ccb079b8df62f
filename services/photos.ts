/** Photos: kept under the hash of their content, found by it. */
import { findPhoto, keepPhoto } from "#store/photos";
import type { Services } from "./context";

export { MAX_PHOTO_BYTES, PhotoRefused } from "#store/photos";

/** Keeps a photo and gives the hash it is found by. Throws PhotoRefused for what is none. */
export const keep = ({ store, folder, nowMs }: Services, bytes: Uint8Array): Promise<string> => keepPhoto(store, folder, bytes, nowMs());

/** A kept photo by its hash; undefined where there is none, or the name cannot be one. */
export async function find({ store, folder }: Services, hash: string) {
  return /^[0-9a-f]{64}$/.test(hash) ? findPhoto(store, folder, hash) : undefined;
}
