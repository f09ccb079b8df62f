import type { Logger } from "pino";
import type { Services } from "#services/context";
import type { Importer } from "#services/exchange/importer";
import type { Door } from "./door";

/** What every loader and action is handed: what services need, who asks, and what a page leaves open until it is sent. */
export interface ServerContext extends Services {
  /** Addresses other devices reach this server at; empty on loopback only. */
  readonly lanUrls: readonly string[];
  /** The door of a server in the workshop's network; undefined on loopback only. */
  readonly door: Door | undefined;
  /** Where the request came from, and whether from this very machine. */
  readonly address: string;
  readonly local: boolean;
  /** True where this request came in with a passphrase: there is something to sign out of. */
  readonly signedIn: boolean;
  /** The session it came in with. */
  readonly sessionId: number | undefined;
  /** Whether a path with its search is one of this server's pages, to be led to after signing in. */
  readonly isPage: (path: string) => boolean;
  readonly nonce: string;
  /** The present moment as it is when the page is sent, as text. */
  readonly now: string;
  /** A one-time key for a form, new for every answer. */
  readonly freshKey: () => string;
  /** Says that the page is for this visitor alone. */
  readonly personal: () => void;
  readonly log: Logger;
  /** Takes files in. */
  readonly importer: Importer;
}

declare module "react-router" {
  interface AppLoadContext extends ServerContext {}
}
