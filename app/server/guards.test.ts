import type { Request, Response } from "express";
import { describe, expect, it } from "vitest";
import { sameOriginOnly, securityHeaders } from "./guards";

/** Puts a request through a guard: the status it was refused with, or "passed". */
function through(method: string, headers: Record<string, string>): number | "passed" {
  let status: number | "passed" = 200;
  const response = {
    status(code: number) {
      status = code;
      return this;
    },
    type() {
      return this;
    },
    send() {
      return this;
    },
  };
  sameOriginOnly(4173)({ method, headers } as unknown as Request, response as unknown as Response, () => {
    status = "passed";
  });
  return status;
}

describe("who may talk to the server", () => {
  it.each([
    ["GET", { host: "127.0.0.1:4173" }, "passed"],
    ["GET", { host: "localhost:4173" }, "passed"],
    ["HEAD", { host: "[::1]:4173" }, "passed"],
    ["GET", { host: "clenor.example:4173" }, 421],
    ["GET", { host: "127.0.0.1" }, 421],
    ["GET", {}, 421],
    ["POST", { host: "127.0.0.1:4173", origin: "http://127.0.0.1:4173" }, "passed"],
    ["POST", { host: "127.0.0.1:4173", origin: "http://localhost:4173" }, 403],
    ["POST", { host: "127.0.0.1:4173", origin: "https://127.0.0.1:4173" }, 403],
    ["POST", { host: "127.0.0.1:4173", origin: "null" }, 403],
    ["DELETE", { host: "127.0.0.1:4173" }, 403],
  ] as [string, Record<string, string>, number | "passed"][])("%s from %j: %s", (method, headers, outcome) => {
    expect(through(method, headers)).toBe(outcome);
  });

  it("gets a fresh script nonce with every page", () => {
    const nonces = [1, 2].map(() => {
      const response = { locals: {} as { nonce?: string }, setHeader() {}, removeHeader() {} };
      securityHeaders()({} as Request, response as unknown as Response, () => undefined);
      return response.locals.nonce;
    });
    expect(nonces[0]).toHaveLength(24);
    expect(nonces[0]).not.toBe(nonces[1]);
  });
});
