import { mkdtempSync, readdirSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { openStore } from "#store/database";
import { findPhoto, inspectPhoto, keepPhoto, knownPhotos, MAX_PHOTO_BYTES, PhotoRefused } from "#store/photos";

/** One grey pixel, as PNG. */
const PNG = Buffer.from("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==", "base64");
/** The head of a JPEG of 3 x 2 pixels with an empty scan and its end mark. */
const JPEG = Buffer.from("ffd8ffe000104a46494600010100000100010000ffc0000b080002000301011100ffda0008010100003f00d2cfffd9", "hex");

const folder = () => mkdtempSync(join(tmpdir(), "clenor-photos-"));
const filesIn = (place: string) => readdirSync(join(place, "photos"), { recursive: true, withFileTypes: true }).filter((f) => f.isFile());

describe("a photo", () => {
  it("is what its bytes say, whatever it is called", () => {
    expect(inspectPhoto(PNG)).toEqual({ mime: "image/png", widthPx: 1, heightPx: 1 });
    expect(inspectPhoto(JPEG)).toEqual({ mime: "image/jpeg", widthPx: 3, heightPx: 2 });
  });

  it.each([
    ["an empty file", Buffer.alloc(0), /not a photo/],
    ["a page", Buffer.from("<!doctype html><script>alert(1)</script>"), /not a photo/],
    ["a drawing that can hold scripts", Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'), /not a photo/],
    ["a moving picture", Buffer.from("474946383961010001000000002c000000000100010000", "hex"), /not a photo/],
    ["half a photo", PNG.subarray(0, PNG.length - 12), /cut off/],
    ["a JPEG without its end", JPEG.subarray(0, JPEG.length - 2), /cut off/],
    ["too large a file", Buffer.alloc(MAX_PHOTO_BYTES + 1), /6 MB at most/],
  ])("is refused when it is %s", (_, bytes, why) => {
    expect(() => inspectPhoto(bytes)).toThrow(PhotoRefused);
    expect(() => inspectPhoto(bytes)).toThrow(why);
  });

  it("refuses any bytes with a message, never with a crash", () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), fc.constantFrom(PNG, JPEG, Buffer.from("RIFF")), (noise, head) => {
        for (const bytes of [noise, Buffer.concat([head.subarray(0, 12), noise])]) {
          try {
            inspectPhoto(bytes);
          } catch (error) {
            expect(error).toBeInstanceOf(PhotoRefused);
          }
        }
      }),
    );
  });

  it("is kept once under its hash, and given back as it came", async () => {
    const place = folder();
    const store = openStore(place);
    const hash = await keepPhoto(store, place, PNG, 1);
    expect(await keepPhoto(store, place, PNG, 2)).toBe(hash);
    expect(await keepPhoto(store, place, JPEG, 3)).not.toBe(hash);
    expect(filesIn(place)).toHaveLength(2);
    const photo = await findPhoto(store, place, hash);
    expect(photo?.mime).toBe("image/png");
    expect(Buffer.from(photo?.bytes ?? []).equals(PNG)).toBe(true);
    expect(await knownPhotos(store, [hash, "0".repeat(64)])).toEqual(new Set([hash]));
    expect(await knownPhotos(store, [])).toEqual(new Set());
    expect(await findPhoto(store, place, "0".repeat(64))).toBeUndefined();
  });

  it("that was refused leaves nothing, and one half written by a power cut is no photo", async () => {
    const place = folder();
    const store = openStore(place);
    await expect(keepPhoto(store, place, Buffer.from("no"), 1)).rejects.toThrow(PhotoRefused);
    const hash = await keepPhoto(store, place, PNG, 1);
    const half = join(place, "photos", hash.slice(0, 2), `${"1".repeat(64)}.torn`);
    writeFileSync(half, PNG.subarray(0, 20));
    expect(await findPhoto(store, place, "1".repeat(64))).toBeUndefined();
    expect(await findPhoto(store, place, hash)).toBeDefined();
  });
});
