/**
 * The gate every request passes first. It decides once, on the path as it stands: an address that the router would resolve to another
 * one is refused, so that nothing behind the gate can be reached under a second spelling. Then what a request may carry, before a byte
 * of it is read.
 */
import type { NextFunction, Request, Response } from "express";

const METHODS = new Set(["GET", "HEAD", "POST"]);
/** What a proxy or a tunnel adds: its visitors would count as people at this machine. */
const FORWARDED = /^(forwarded|via|x-real-ip|x-forwarded-.*|cf-connecting-ip|true-client-ip)$/;

/** The path of a request target when it is spelled exactly as it resolves; undefined for every other spelling. */
export function plainPath(target: string): string | undefined {
  if (!target.startsWith("/") || target.startsWith("//")) return undefined;
  const raw = target.split(/[?#]/, 1)[0] as string;
  try {
    if (new URL(`http://host${target}`).pathname !== raw) return undefined;
    // biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is looked for
    return raw.includes("//") || /[\u0000-\u001f\u007f\\]|\/\.{1,2}(\/|$)/.test(decodeURIComponent(raw)) ? undefined : raw;
  } catch {
    return undefined;
  }
}

function refuse(response: Response, status: number, words: string): void {
  response.status(status).setHeader("Cache-Control", "no-store").type("text").send(`${words}\n`);
}

/** Why a request is refused before anything is looked up; undefined for one that may go on. */
function objection({ headers, method, url }: Request): readonly [number, string] | undefined {
  if (Object.keys(headers).some((name) => FORWARDED.test(name)))
    return [403, "This server takes no requests that were passed on by another one. Ask it directly."];
  if (!METHODS.has(method)) return [405, "This server reads pages and takes forms; nothing else."];
  return plainPath(url) === undefined ? [400, "This address is not spelled as any page of this server is."] : undefined;
}

export function onlyPlain(request: Request, response: Response, next: NextFunction): void {
  const refused = objection(request);
  if (refused?.[0] === 405) response.setHeader("Allow", [...METHODS].join(", "));
  if (refused) refuse(response, ...refused);
  else next();
}

interface Allowance {
  readonly type: RegExp;
  readonly says: string;
  readonly bytes: number;
  readonly fields?: number;
  /** Handed on as it comes instead of being held: its reader keeps the limit. */
  readonly streamed?: boolean;
}

const kB = 1024;
const FORM: Allowance = { type: /^application\/x-www-form-urlencoded$/, says: "a form", bytes: 256 * kB, fields: 2000 };
const SIGN_IN: Allowance = { ...FORM, bytes: 4 * kB };
const ANSWERS: Allowance = { type: /^application\/json$/, says: "JSON", bytes: 256 * kB };
const PHOTO: Allowance = {
  type: /^(application\/octet-stream|image\/[a-z.+-]+)$/,
  says: "a photo's own bytes",
  bytes: 64 * kB * kB,
  streamed: true,
};

/** A file to be looked at before it is taken in. */
const FILE: Allowance = { type: /^application\/octet-stream$/, says: "a file's own bytes", bytes: 160 * kB * kB, streamed: true };

function allowanceOf(path: string): Allowance {
  if (/^\/[^/]+\/exchange\/upload$/.test(path)) return FILE;
  if (path === "/photos") return PHOTO;
  if (path === "/sign-in" || path === "/sign-in.data") return SIGN_IN;
  return /^\/[^/]+\/round\/[^/]+\/answers$/.test(path) ? ANSWERS : FORM;
}

/** Lets a body in up to what its address takes; one that is held waits whole in `response.locals.body`. */
export async function limitBody(request: Request, response: Response, next: NextFunction): Promise<void> {
  if (request.method !== "POST") return next();
  const allowed = allowanceOf(request.path);
  const type = (request.headers["content-type"] ?? "").split(";", 1)[0]?.trim().toLowerCase() ?? "";
  if (!allowed.type.test(type)) return cut(request, response, 415, `This address takes ${allowed.says} and nothing else.`);
  const tooMuch = `That is too much: ${Math.round(allowed.bytes / kB)} kB at most.`;
  if (Number(request.headers["content-length"] ?? 0) > allowed.bytes) return cut(request, response, 413, tooMuch);
  if (allowed.streamed) return next();
  const chunks: Buffer[] = [];
  let length = 0;
  try {
    for await (const chunk of request.iterator({ destroyOnReturn: false }) as AsyncIterable<Buffer>) {
      length += chunk.length;
      if (length > allowed.bytes) return cut(request, response, 413, tooMuch);
      chunks.push(chunk);
    }
  } catch {
    // The sender went away in the middle: there is nobody to answer.
    return void response.destroy();
  }
  const body = Buffer.concat(chunks);
  if (allowed.fields !== undefined && body.filter((byte) => byte === 0x26).length >= allowed.fields)
    return refuse(response, 413, `That is too much: ${allowed.fields} fields at most.`);
  response.locals.body = body;
  next();
}

const PATIENCE_BYTES = 1024 * kB;
const PATIENCE_MS = 2000;

/** Refuses a body without reading it: the sender gets a moment to hear why, then the line is cut. */
function cut(request: Request, response: Response, status: number, words: string): void {
  response.setHeader("Connection", "close");
  refuse(response, status, words);
  let more = 0;
  const hangUp = () => request.socket.destroy();
  const timer = setTimeout(hangUp, PATIENCE_MS).unref();
  request.on("data", (chunk: Buffer) => {
    more += chunk.length;
    if (more > PATIENCE_BYTES) hangUp();
  });
  request.on("end", () => clearTimeout(timer));
  request.on("error", () => clearTimeout(timer));
  request.resume();
}
