/**
 * Between Express and React Router. A page is made once for all who ask for it while nothing changes: what differs from one answer to
 * the next (the script nonce, the one-time keys of forms, the present moment) is left open in it and filled in as it is sent.
 */

import { randomBytes, randomUUID } from "node:crypto";
import { Readable } from "node:stream";
import { writeReadableStreamToWritable } from "@react-router/node";
import type { Request as ExpressRequest, Response as ExpressResponse, NextFunction } from "express";
import { LRUCache } from "lru-cache";
import { type AppLoadContext, createRequestHandler, type ServerBuild } from "react-router";
import { MINUTE_MS } from "#core/time";
import { plansMade } from "#services/plan/planned";
import { takeUnits } from "#services/workshop/units";
import { stateWord } from "#store/database";
import type { ServerContext } from "./context";

const KEPT_BYTES = 32 * 1024 * 1024;
/** Tables that no page made for all shows anything of. */
const UNSEEN = new Set(["session", "sent_form"]);

/** Marks that cannot be in anybody's data: they hold a secret of this process. */
const secret = randomBytes(12).toString("hex");
const MARK = new RegExp(`stamp-${secret}-(nonce|now|k\\d+)-`);
const mark = (what: string) => `stamp-${secret}-${what}-`;

/** What loaders may leave open in a page. */
export interface Open {
  readonly nonce: string;
  /** The present moment in ms, as text. */
  readonly now: string;
  /** A new one-time key for a form. */
  readonly freshKey: () => string;
}

function leaveOpen(): Open {
  let keys = 0;
  return { nonce: mark("nonce"), now: mark("now"), freshKey: () => mark(`k${keys++}`) };
}

/** A page with its open places: text and mark by turns. */
interface Page {
  readonly status: number;
  readonly headers: readonly (readonly [string, string])[];
  readonly parts: readonly (Buffer | string)[];
  readonly bytes: number;
  /** Whether everybody who may ask for it gets the same. */
  readonly forAll: boolean;
}

async function toPage(response: Response, personal: boolean): Promise<Page> {
  const { status, headers } = response;
  const text = await response.text();
  const parts = text.split(MARK).map((part, i) => (i % 2 === 0 ? Buffer.from(part) : part));
  const forAll = status === 200 && !personal && !headers.has("Set-Cookie");
  return { status, headers: [...headers.entries()], parts, bytes: 2 * text.length + 1000, forAll };
}

function fillIn(page: Page, nonce: string, nowMs: number): Buffer {
  const keys = new Map<string, Buffer>([
    ["nonce", Buffer.from(nonce)],
    ["now", Buffer.from(String(nowMs))],
  ]);
  const filled = page.parts.map((part) => {
    if (typeof part !== "string") return part;
    const value = keys.get(part) ?? Buffer.from(randomUUID());
    keys.set(part, value);
    return value;
  });
  return Buffer.concat(filled);
}

/** What a request brings to a page besides its address. */
export type Visit = Omit<ServerContext, keyof Open | "personal">;

/** Who asks, and all that hangs on it: a loader that reads any of it makes a page for this visitor alone, whether it says so or not. */
const OF_ONE = ["sessionId", "address", "local", "door"] as const satisfies readonly (keyof Visit)[];

/** A context that knows when it is asked who is there. What is copied out of it for a service has nothing of it. */
function contextFor(visit: Visit, personal: () => void): AppLoadContext {
  const context: AppLoadContext = { ...visit, ...leaveOpen(), personal };
  for (const name of OF_ONE) {
    const get = () => {
      personal();
      return visit[name];
    };
    Object.defineProperty(context, name, { get, enumerable: false });
  }
  return context;
}

const isPage = (headers: Headers) => /^text\/(html|x-script)/.test(headers.get("Content-Type") ?? "");

export function servePages(build: ServerBuild, visitOf: (request: ExpressRequest, response: ExpressResponse) => Visit) {
  const handle = createRequestHandler(build, process.env.NODE_ENV);
  const kept = new LRUCache<string, Page>({ maxSize: KEPT_BYTES, sizeCalculation: (page) => page.bytes });
  const making = new Map<string, Promise<Page | Response>>();

  async function make(request: Request, visit: Visit, key: string | undefined): Promise<Page | Response> {
    let personal = false;
    const forOne = () => {
      personal = true;
    };
    await takeUnits(visit.store);
    const response = await handle(request, contextFor(visit, forOne));
    if (!isPage(response.headers)) return response;
    const page = await toPage(response, personal);
    if (key !== undefined && page.forAll) kept.set(key, page);
    return page;
  }

  /** The page of an address, from those kept, or together with whoever asks for it at the same time. */
  async function pageFor(request: Request, visit: Visit, key: string): Promise<Page | Response> {
    const known = kept.get(key);
    if (known) return known;
    const already = making.get(key);
    if (already) {
      const made = await already;
      return !(made instanceof Response) && made.forAll ? made : make(request, visit, undefined);
    }
    const made = make(request, visit, key).finally(() => making.delete(key));
    making.set(key, made);
    return made;
  }

  return async (incoming: ExpressRequest, outgoing: ExpressResponse, next: NextFunction): Promise<void> => {
    try {
      const visit = visitOf(incoming, outgoing);
      const request = toRequest(incoming, outgoing);
      const url = new URL(request.url);
      const key =
        incoming.method === "GET"
          ? [
              visit.signedIn,
              visit.lanUrls.join(),
              Math.floor(visit.nowMs() / MINUTE_MS),
              stateWord(visit.store, UNSEEN),
              plansMade(visit.store),
              url.pathname,
              url.search,
            ].join(" ")
          : undefined;
      const answer = await (key === undefined ? make(request, visit, undefined) : pageFor(request, visit, key));
      if (answer instanceof Response) return await sendResponse(outgoing, answer);
      outgoing.status(answer.status);
      for (const [name, value] of answer.headers) outgoing.append(name, value);
      // Nobody in between keeps a workshop's pages, and a browser asks whether they still hold.
      if (!outgoing.hasHeader("Cache-Control")) outgoing.setHeader("Cache-Control", "private, no-cache");
      // The moment it is sent at: a page may have taken seconds to make.
      const body = fillIn(answer, outgoing.locals.nonce as string, visit.nowMs());
      outgoing.setHeader("Content-Length", body.length);
      outgoing.end(body);
    } catch (error) {
      next(error);
    }
  };
}

/** What a page is asked with: nothing that tells one visitor from another. */
const SHOWN_TO_PAGES = new Set(["host", "accept"]);

/**
 * The request as React Router takes it. The body was read by the gate where it is a form, and streams where it is a photo. Where a page is
 * asked for its loaders see no cookie, no device and no language.
 */
function toRequest(incoming: ExpressRequest, outgoing: ExpressResponse): Request {
  const headers = new Headers();
  for (let i = 0; i < incoming.rawHeaders.length; i += 2) {
    const name = incoming.rawHeaders[i] as string;
    if (incoming.method !== "GET" || SHOWN_TO_PAGES.has(name.toLowerCase())) headers.append(name, incoming.rawHeaders[i + 1] as string);
  }
  const gone = new AbortController();
  outgoing.on("close", () => {
    if (!outgoing.writableFinished) gone.abort();
  });
  const init: RequestInit & { duplex?: "half" } = { method: incoming.method, headers, signal: gone.signal };
  if (incoming.method === "POST") {
    const held = outgoing.locals.body as Buffer | undefined;
    init.body = held ? new Uint8Array(held) : (Readable.toWeb(incoming) as ReadableStream);
    init.duplex = "half";
  }
  return new Request(`http://${incoming.headers.host}${incoming.originalUrl}`, init);
}

async function sendResponse(outgoing: ExpressResponse, response: Response): Promise<void> {
  if (outgoing.destroyed) return void (await response.body?.cancel());
  outgoing.status(response.status);
  for (const [name, value] of response.headers) outgoing.append(name, value);
  if (response.body) await writeReadableStreamToWritable(response.body, outgoing);
  else outgoing.end();
}
