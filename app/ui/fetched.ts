/** Parts of a page that are fetched when they are needed. */
import { type ComponentType, type LazyExoticComponent, lazy } from "react";

const RETRY_MS = 3000;

/** Asks again until it comes: a part that cannot be fetched must not take the page and what was typed in it away. */
async function patiently<T>(load: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await load();
    } catch {
      await new Promise((done) => setTimeout(done, RETRY_MS));
    }
  }
}

/** A part that comes by itself; until then the page shows what the server made of it, or nothing. */
export const fetched = <P extends object>(load: () => Promise<ComponentType<P>>): LazyExoticComponent<ComponentType<P>> =>
  lazy(async () => ({ default: await patiently(load) }));
