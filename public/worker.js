/**
 * Keeps the page of an open round at hand, so that it can be loaded anew where there is no network. Nothing else is answered here: every other
 * page, every form and every answer goes to the server as if this were not there.
 */
const KEPT = "clenor-rounds";
const FILES = "clenor-files";
const PATIENCE_MS = 4000;

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

/** The server's page, or the one that was kept where it gives none in time. */
async function page(request) {
  try {
    return await fetch(request, { signal: AbortSignal.timeout(PATIENCE_MS) });
  } catch (error) {
    const kept = await (await caches.open(KEPT)).match(request.url, { ignoreVary: true });
    if (kept) return kept;
    throw error;
  }
}

/** Built files never change under their name: what was fetched once is good. */
async function file(request) {
  const files = await caches.open(FILES);
  const kept = await files.match(request.url);
  if (kept) return kept;
  const answer = await fetch(request);
  if (answer.ok) await files.put(request.url, answer.clone());
  return answer;
}

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== "GET" || origin !== self.location.origin) return;
  if (request.mode === "navigate" && /^\/[^/]+\/round\/\d+$/.test(pathname)) event.respondWith(page(request));
  else if (pathname.startsWith("/assets/")) event.respondWith(file(request));
});
