/** `--lan`: which addresses this machine has in the workshop's network, and who may come in over them. */
import { isIPv4 } from "node:net";
import { hostname, networkInterfaces } from "node:os";
import type { NextFunction, Request, Response } from "express";
import { rateLimit } from "express-rate-limit";
import type { Door } from "./door";

/** What was asked for on the command line: undefined without --lan, else the one address named, or all. Throws on what is no address. */
export function lanAsked(argv: readonly string[]): { readonly address: string | undefined } | undefined {
  const flag = argv.find((a) => a === "--lan" || a.startsWith("--lan="));
  const address = flag?.split("=")[1];
  if (address !== undefined && !isIPv4(address))
    throw new RangeError(`--lan takes an address of this machine such as 192.168.1.20, found "${address}". Without one it serves all.`);
  return flag === undefined ? undefined : { address };
}

/** IPv4 addresses of this machine that other devices can reach. */
export function lanAddresses(): string[] {
  return Object.values(networkInterfaces()).flatMap((list) =>
    (list ?? []).filter((a) => a.family === "IPv4" && !a.internal && !a.address.startsWith("169.254.")).map((a) => a.address),
  );
}

/** Names other devices may call this machine by. */
export function lanNames(addresses: readonly string[]): string[] {
  const name = hostname().toLowerCase();
  return [...addresses, name, name.includes(".") ? name : `${name}.local`];
}

const isLoopback = (address: string | undefined) => address === "127.0.0.1" || address === "::1" || address === "::ffff:127.0.0.1";

/** A request made on this very machine, to its loopback address. */
export const isLocal = (request: Request): boolean => isLoopback(request.socket.remoteAddress) && isLoopback(request.socket.localAddress);

/** Open without a passphrase: the sign-in itself, and what its page is made of, which is served by files alone. Everything else is closed. */
const isOpen = (path: string) => path === "/sign-in" || path === "/sign-in.data" || path === "/mark.svg";

/** Lets in who sits at this machine or signed in; others are led to the sign-in, their scripts told so. */
export function signedInOnly(door: Door) {
  return async (request: Request, response: Response, next: NextFunction): Promise<void> => {
    const session = isLocal(request) ? undefined : await door.sessionOf(request.headers.cookie, request.socket.remoteAddress ?? "");
    response.locals.sessionId = session?.id;
    if (isLocal(request) || session || isOpen(request.path)) return next();
    response.setHeader("Cache-Control", "no-store");
    if (request.method === "GET" && request.accepts(["html", "json"]) === "html" && !request.path.endsWith(".data")) {
      response.redirect(303, `/sign-in?to=${encodeURIComponent(request.originalUrl)}`);
    } else response.status(401).type("text").send("Sign in first.\n");
  };
}

/** At most so many tries at the passphrase from one address, right or wrong. */
export const limitSignIn = () =>
  rateLimit({
    windowMs: 15 * 60_000,
    limit: 30,
    standardHeaders: "draft-8",
    legacyHeaders: false,
    // Going out is no try: nothing is weighed at that address.
    skip: (request) => "out" in request.query,
    message: "Too many tries from this device. Wait a quarter of an hour.\n",
  });
