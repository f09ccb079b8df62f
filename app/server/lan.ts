/** `--lan`: which addresses this machine has in the workshop's network, and who may come in over them. */
import { hostname, networkInterfaces } from "node:os";
import type { NextFunction, Request, Response } from "express";
import { rateLimit } from "express-rate-limit";
import type { Door } from "./door";

/** What was asked for on the command line: undefined without --lan, else the one address named, or all. */
export function lanAsked(argv: readonly string[]): { readonly address: string | undefined } | undefined {
  const flag = argv.find((a) => a === "--lan" || a.startsWith("--lan="));
  return flag === undefined ? undefined : { address: flag.split("=")[1] || undefined };
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

/** Open without a passphrase: the sign-in itself and what its page is made of. */
const isOpen = (path: string) => path === "/sign-in" || path === "/sign-in.data" || path.startsWith("/assets/") || path === "/mark.svg";

/** Lets in who sits at this machine or signed in; others are led to the sign-in, their scripts told so. */
export function signedInOnly(door: Door) {
  return async (request: Request, response: Response, next: NextFunction): Promise<void> => {
    response.locals.signedIn = !isLocal(request) && (await door.knows(request.headers.cookie));
    if (isLocal(request) || response.locals.signedIn || isOpen(request.path)) return next();
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
    message: "Too many tries from this device. Wait a quarter of an hour.\n",
  });
