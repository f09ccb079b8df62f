/** Test support: what a loader is handed by a server on this machine. */
import pino from "pino";
import type { AppLoadContext } from "react-router";
import type { Services } from "#services/context";
import { importerHere } from "#services/exchange/importer";
import "./context";

export function contextOn(services: Services): AppLoadContext {
  let keys = 0;
  return {
    ...services,
    lanUrls: [],
    signedIn: false,
    sessionId: undefined,
    isPage: () => true,
    now: String(services.nowMs()),
    freshKey: () => `key-${keys++}`,
    personal: () => undefined,
    door: undefined,
    address: "127.0.0.1",
    local: true,
    nonce: "",
    log: pino({ level: "silent" }),
    importer: importerHere(services),
  };
}
