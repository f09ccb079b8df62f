import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { openStore } from "#store/database";
import { findPhoto, inspectPhoto, keepPhoto, knownPhotos, MAX_PHOTO_BYTES, PhotoRefused, sweepPhotos } from "#store/photos";

/** One grey pixel, as PNG. */
const PNG = Buffer.from("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==", "base64");
const jpeg = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: "#a52" } })
    .jpeg()
    .toBuffer();
/** The head of a JPEG of 3 x 2 pixels with an empty scan and its end mark. */
const EMPTY_JPEG = Buffer.from("ffd8ffe000104a46494600010100000100010000ffc0000b080002000301011100ffda0008010100003f00d2cfffd9", "hex");

const folder = () => mkdtempSync(join(tmpdir(), "clenor-photos-"));
const filesIn = (place: string) => readdirSync(join(place, "photos"), { recursive: true, withFileTypes: true }).filter((f) => f.isFile());

describe("a photo", () => {
  it("is what its bytes say, whatever it is called", async () => {
    await expect(inspectPhoto(PNG)).resolves.toEqual({ mime: "image/png", widthPx: 1, heightPx: 1 });
    await expect(inspectPhoto(await jpeg(3, 2))).resolves.toEqual({ mime: "image/jpeg", widthPx: 3, heightPx: 2 });
  });

  it.each([
    ["an empty file", Buffer.alloc(0), /not a photo/],
    ["a page", Buffer.from("<!doctype html><script>alert(1)</script>"), /not a photo/],
    ["a drawing that can hold scripts", Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'), /not a photo/],
    ["a moving picture", Buffer.from("474946383961010001000000002c000000000100010000", "hex"), /not a photo/],
    ["half a photo", PNG.subarray(0, 45), /cut off/],
    ["a JPEG without pixels", EMPTY_JPEG, /not a photo|cut off/],
    ["a PNG without pixels", Buffer.concat([PNG.subarray(0, 33), PNG.subarray(PNG.length - 12)]), /not a photo|cut off/],
    ["a WebP without pixels", Buffer.from("524946460a000000574542505650385800000000", "hex"), /not a photo|cut off/],
    ["too large a file", Buffer.alloc(MAX_PHOTO_BYTES + 1), /6 MB at most/],
  ])("is refused when it is %s", async (_, bytes, why) => {
    const refused = await inspectPhoto(bytes).catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(PhotoRefused);
    expect((refused as Error).message).toMatch(why);
  });

  it("is refused when a small file unfolds to more pixels than any camera takes", async () => {
    const bomb = await sharp({ create: { width: 12_000, height: 12_000, channels: 3, background: "#fff" } })
      .png()
      .toBuffer();
    expect(bomb.length).toBeLessThan(1_000_000);
    await expect(inspectPhoto(bomb)).rejects.toThrow(/50 million pixels at most, this one has 144|not a photo/);
  });

  it("refuses any bytes with a message, never with a crash", async () => {
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 300 }), fc.constantFrom(PNG, EMPTY_JPEG, Buffer.from("RIFF")), async (noise, head) => {
        for (const bytes of [noise, Buffer.concat([head.subarray(0, 12), noise])]) {
          await inspectPhoto(bytes).catch((error: unknown) => expect(error).toBeInstanceOf(PhotoRefused));
        }
      }),
    );
  });

  it("is kept once under its hash, and given back as it came", async () => {
    const place = folder();
    const store = await openStore(place);
    const hash = await keepPhoto(store, place, PNG, 1);
    expect(await keepPhoto(store, place, PNG, 2)).toBe(hash);
    expect(await keepPhoto(store, place, await jpeg(3, 2), 3)).not.toBe(hash);
    expect(filesIn(place)).toHaveLength(2);
    const photo = await findPhoto(store, place, hash);
    expect(photo?.mime).toBe("image/png");
    expect(Buffer.from(photo?.bytes ?? []).equals(PNG)).toBe(true);
    expect(await knownPhotos(store, [hash, "0".repeat(64)])).toEqual(new Set([hash]));
    expect(await knownPhotos(store, [])).toEqual(new Set());
    expect(await findPhoto(store, place, "0".repeat(64))).toBeUndefined();
  });

  it("cut short on disk is not shown as if it were whole, and is made whole when it is sent again", async () => {
    const place = folder();
    const store = await openStore(place);
    const bytes = await jpeg(40, 30);
    const hash = await keepPhoto(store, place, bytes, 1);
    const file = join(place, "photos", hash.slice(0, 2), hash);
    writeFileSync(file, bytes.subarray(0, 100));
    expect(await findPhoto(store, place, hash)).toBeUndefined();
    expect(await keepPhoto(store, place, bytes, 2)).toBe(hash);
    expect(readFileSync(file).equals(bytes)).toBe(true);
  });

  it("half written by a power cut goes at the next start, and nothing else does", async () => {
    const place = folder();
    const hash = await keepPhoto(await openStore(place), place, PNG, 1);
    writeFileSync(join(place, "photos", hash.slice(0, 2), `${hash}.half`), "half");
    sweepPhotos(place);
    expect(filesIn(place).map((f) => f.name)).toEqual([hash]);
  });

  it("that was refused leaves nothing, and one half written by a power cut is no photo", async () => {
    const place = folder();
    const store = await openStore(place);
    await expect(keepPhoto(store, place, Buffer.from("no"), 1)).rejects.toThrow(PhotoRefused);
    const hash = await keepPhoto(store, place, PNG, 1);
    const half = join(place, "photos", hash.slice(0, 2), `${"1".repeat(64)}.torn`);
    writeFileSync(half, PNG.subarray(0, 20));
    expect(await findPhoto(store, place, "1".repeat(64))).toBeUndefined();
    expect(await findPhoto(store, place, hash)).toBeDefined();
  });
});
