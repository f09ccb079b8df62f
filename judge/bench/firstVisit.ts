/**
 * A phone's first visit: a processor four times slower, 12 Mbit/s and 60 ms each way, nothing kept. When something is drawn, when the page is
 * awake (its own code answers), how long the processor was held up at a stretch, and how many kB had come by then and in all.
 */
import type { Browser } from "@playwright/test";

export interface Visit {
  readonly paintMs: number;
  readonly awakeMs: number;
  readonly blockedMs: number;
  readonly kB: number;
  readonly kBInAll: number;
}

const SLOWER = 4;
const NETWORK = { offline: false, latency: 60, downloadThroughput: 12e6 / 8, uploadThroughput: 12e6 / 8 };
/** After this long nothing more is fetched by itself. */
const SETTLED_MS = 4000;

async function visit(browser: Browser, url: string): Promise<Visit> {
  const context = await browser.newContext({
    ...{ viewport: { width: 390, height: 844 }, deviceScaleFactor: 2, isMobile: true, serviceWorkers: "block" as const },
  });
  const page = await context.newPage();
  const cdp = await context.newCDPSession(page);
  await cdp.send("Network.enable");
  await cdp.send("Network.emulateNetworkConditions", NETWORK);
  await cdp.send("Emulation.setCPUThrottlingRate", { rate: SLOWER });
  let bytes = 0;
  cdp.on("Network.loadingFinished", (e) => {
    bytes += e.encodedDataLength;
  });
  await page.addInitScript(() => {
    const seen = window as unknown as { held: number; awake?: number };
    seen.held = 0;
    new PerformanceObserver((list) => {
      for (const e of list.getEntries()) seen.held += Math.max(0, e.duration - 50);
    }).observe({ type: "longtask", buffered: true });
    const looking = setInterval(() => {
      const part = document.querySelector("main, header");
      if (!part || !Object.keys(part).some((k) => k.startsWith("__reactProps"))) return;
      seen.awake = performance.now();
      clearInterval(looking);
    }, 10);
  });
  await page.goto(url, { waitUntil: "load" });
  await page.waitForFunction(() => (window as unknown as { awake?: number }).awake !== undefined);
  const kB = bytes / 1024;
  const seen = await page.evaluate(() => ({
    paintMs: performance.getEntriesByName("first-contentful-paint")[0]?.startTime ?? 0,
    awakeMs: (window as unknown as { awake: number }).awake,
    blockedMs: (window as unknown as { held: number }).held,
  }));
  await page.waitForTimeout(SETTLED_MS);
  await context.close();
  return { ...seen, kB, kBInAll: bytes / 1024 };
}

/** The middle one, by when it was awake, of some visits to each address in turns, so that a busy minute is everybody's. */
export async function visits(browser: Browser, urls: readonly string[], times: number): Promise<Visit[]> {
  const runs: Visit[][] = urls.map(() => []);
  for (let i = 0; i < times; i++) for (const [n, url] of urls.entries()) runs[n]?.push(await visit(browser, url));
  return runs.map((of) => of.sort((a, b) => a.awakeMs - b.awakeMs)[times >> 1] as Visit);
}
