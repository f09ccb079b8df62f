import { randomBytes } from "node:crypto";
import type { NextFunction, Request, Response } from "express";
import helmet from "helmet";

/**
 * Refuses requests that do not name this server as their host: a web page elsewhere cannot reach a local service by giving its
 * own name this address. State-changing requests must also come from one of our own pages. `moreNames` are those this machine has
 * in the workshop's network.
 */
export function sameOriginOnly(port: number, moreNames: () => readonly string[] = () => []) {
  const own = new Set([`127.0.0.1:${port}`, `localhost:${port}`, `[::1]:${port}`]);
  return (request: Request, response: Response, next: NextFunction): void => {
    const host = (request.headers.host ?? "").toLowerCase();
    // Asked anew when unknown: a network gives out addresses when it likes.
    const hosts = own.has(host) ? own : new Set([...own, ...moreNames().map((name) => `${name}:${port}`)]);
    if (!hosts.has(host)) {
      response
        .status(421)
        .type("text")
        .send(`This server answers to ${[...hosts].join(", ")} only.\n`);
      return;
    }
    if (request.method !== "GET" && request.method !== "HEAD") {
      const origin = request.headers.origin;
      if (origin !== `http://${host}`) {
        response.status(403).type("text").send("Changes are taken from this server's own pages only.\n");
        return;
      }
    }
    next();
  };
}

/** Content security policy with a fresh nonce per response, and the usual headers. Ant Design needs inline styles. */
export function securityHeaders({ overPlainHttp }: { overPlainHttp: boolean } = { overPlainHttp: false }) {
  const policy = helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'", (_request, response) => `'nonce-${(response as Response).locals.nonce as string}'`],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", "data:", "blob:"],
        fontSrc: ["'self'"],
        // A silent film keeps a phone awake where the browser has no wake lock.
        mediaSrc: ["'self'", "data:"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    // Plain http on loopback: a promise of https would lock the browser out.
    strictTransportSecurity: false,
    // Browsers ignore these, loudly, where the address is not their own machine's.
    ...(overPlainHttp ? { crossOriginOpenerPolicy: false, originAgentCluster: false } : {}),
    referrerPolicy: { policy: "same-origin" },
  });
  return (request: Request, response: Response, next: NextFunction): void => {
    response.locals.nonce = randomBytes(16).toString("base64");
    policy(request, response, next);
  };
}
