import type { Logger } from "pino";
import type { Store } from "#store/database";

/** What every loader and action is handed: the store, the clock and this response's script nonce. */
export interface ServerContext {
  readonly store: Store;
  /** Present time in ms. Injected, so that tests and pictures have a fixed day. */
  readonly nowMs: () => number;
  /** Data folder, where photos lie beside the database. */
  readonly folder: string;
  readonly nonce: string;
  readonly log: Logger;
}

declare module "react-router" {
  interface AppLoadContext extends ServerContext {}
}
