/**
 * The page of an open round kept on this device, so that it opens again without a network. A browser does that only where the address is its own
 * machine's or is encrypted; where it does not, that is said.
 */
import { useEffect } from "react";

const KEPT = "clenor-rounds";

export const canKeepPages = (): boolean => typeof navigator !== "undefined" && "serviceWorker" in navigator && "caches" in globalThis;

/** While the round is open its page is kept; once it is over, it is not. */
export function useKeptPage(path: string, open: boolean): void {
  useEffect(() => {
    if (!canKeepPages()) return;
    const url = new URL(path, location.origin).href;
    const gone = new AbortController();
    const keep = async () => {
      await navigator.serviceWorker.register("/worker.js");
      await navigator.serviceWorker.ready;
      const answer = await fetch(url, { headers: { Accept: "text/html" }, signal: gone.signal });
      const pages = await caches.open(KEPT);
      if (answer.ok && !answer.redirected) await pages.put(url, answer);
      // The files this page was made of came before anybody kept them.
      const files = performance.getEntriesByType("resource").map((e) => e.name);
      for (const name of files)
        if (new URL(name).pathname.startsWith("/assets/")) void fetch(name, { signal: gone.signal }).catch(() => undefined);
    };
    const forget = async () => void (await (await caches.open(KEPT)).delete(url));
    // Without it the round goes on as it is.
    (open ? keep() : forget()).catch(() => undefined);
    return () => gone.abort();
  }, [path, open]);
}
