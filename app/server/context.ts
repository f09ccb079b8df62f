import type { Logger } from "pino";
import type { Store } from "#store/database";
import type { Door } from "./door";

/** What every loader and action is handed: the store, the clock and this response's script nonce. */
export interface ServerContext {
  readonly store: Store;
  /** Present time in ms. Injected, so that tests and pictures have a fixed day. */
  readonly nowMs: () => number;
  /** Data folder, where photos lie beside the database. */
  readonly folder: string;
  /** Addresses other devices reach this server at; empty on loopback only. */
  readonly lanUrls: readonly string[];
  /** The door of a server in the workshop's network; undefined on loopback only. */
  readonly door: Door | undefined;
  /** Where the request came from, and whether from this very machine. */
  readonly address: string;
  readonly local: boolean;
  /** True where this request came in with a passphrase: there is something to sign out of. */
  readonly signedIn: boolean;
  readonly nonce: string;
  readonly log: Logger;
}

declare module "react-router" {
  interface AppLoadContext extends ServerContext {}
}
