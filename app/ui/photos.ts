/** Photos in the browser: made small enough for a workshop's network, then handed to the server, which answers with their hash. */
const LONGEST_SIDE_PX = 1600;

/** A JPEG no longer than 1600 px a side. Rejects with words when the file is no image this browser can read. */
export async function shrinkPhoto(file: Blob): Promise<Blob> {
  let bitmap: ImageBitmap;
  try {
    bitmap = await createImageBitmap(file, { imageOrientation: "from-image" });
  } catch {
    throw new Error("That file is not a photo. JPEG, PNG or WebP would be right.");
  }
  const scale = Math.min(1, LONGEST_SIDE_PX / Math.max(bitmap.width, bitmap.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(bitmap.width * scale));
  canvas.height = Math.max(1, Math.round(bitmap.height * scale));
  canvas.getContext("2d")?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  return new Promise((done, fail) =>
    canvas.toBlob((blob) => (blob ? done(blob) : fail(new Error("This browser cannot write the photo."))), "image/jpeg", 0.85),
  );
}

/** Sends a photo. Resolves to its hash, or to why the server refused it; rejects, with words, when it was not kept and is to be sent again. */
export async function sendPhoto(blob: Blob): Promise<{ readonly hash: string } | { readonly problem: string }> {
  const reply = await fetch("/photos", { method: "POST", headers: { "Content-Type": "application/octet-stream" }, body: blob });
  if (reply.status === 401) throw new Error("signed out");
  if (reply.status === 413) return { problem: "That photo is too large. Take it anew at a smaller size." };
  if (reply.status >= 500) {
    const { problem } = (await reply.json().catch(() => ({}))) as { problem?: string };
    throw new Error(problem ?? `The server could not keep the photo (${reply.status}).`);
  }
  return (await reply.json()) as { hash: string } | { problem: string };
}
