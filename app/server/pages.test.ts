/** A page is made once for all who ask; one that knows who asks is made for him alone, whether its loader says so or not. */
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import express from "express";
import type { LoaderFunctionArgs, ServerBuild } from "react-router";
import { afterEach, describe, expect, it } from "vitest";
import { TestWorkshop } from "../../services/testWorkshop";
import { servePages, type Visit } from "./pages";
import { contextOn } from "./testContext";

let server: Server | undefined;
afterEach(() => server?.close());

/** A server of one page, whose loader writes what it likes; each visitor is named by a header that stands for his session. */
async function serving(load: (args: LoaderFunctionArgs) => string | Promise<string>) {
  const w = await TestWorkshop.open();
  let made = 0;
  const loader = async (args: LoaderFunctionArgs) => {
    made += 1;
    const text = await load(args);
    return new Response(`${text} nonce=${args.context.nonce} key=${args.context.freshKey()}`, { headers: { "Content-Type": "text/html" } });
  };
  const build = {
    ...{ entry: { module: {} }, assets: { routes: {}, entry: {}, url: "", version: "" }, publicPath: "/", assetsBuildDirectory: "" },
    ...{ future: {}, ssr: true, isSpaMode: false, prerender: [], routeDiscovery: { mode: "initial" } },
    routes: { page: { id: "page", path: "page", module: { loader } } },
  } as unknown as ServerBuild;
  const app = express();
  app.use((_, response, next) => {
    response.locals.nonce = `n${Math.random()}`;
    next();
  });
  app.use(
    servePages(build, (request): Visit => {
      const session = Number(request.headers["x-session"] ?? 1);
      return { ...contextOn(w.services), sessionId: session, signedIn: true, local: session === 1, address: `10.0.0.${session}` };
    }),
  );
  server = createServer(app).listen(0);
  const { port } = server.address() as AddressInfo;
  const ask = async (session: number) => {
    const reply = await fetch(`http://127.0.0.1:${port}/page`, { headers: { "x-session": String(session), cookie: `c=${session}` } });
    return reply.text();
  };
  return { w, ask, made: () => made };
}

describe("a page", () => {
  it("is made once while nothing changes, with a nonce and keys of its own for everybody", async () => {
    const { w, ask, made } = await serving(() => "the same");
    const [one, two] = [await ask(1), await ask(2)];
    expect(made()).toBe(1);
    expect(one.startsWith("the same")).toBe(true);
    expect(one.replace(/nonce=.*/, "")).toBe(two.replace(/nonce=.*/, ""));
    expect(one).not.toBe(two);
    expect(one).not.toMatch(/stamp-/);
    await w.log("note", { note: "something new" });
    await ask(1);
    expect(made()).toBe(2);
  });

  it.each(["sessionId", "address", "local", "door"] as const)(
    "whose loader reads %s is made for each who asks, though it says nothing of it",
    async (name) => {
      const { ask, made } = await serving(({ context }) => `for ${String(context[name])}`);
      const [one, two, again] = [await ask(1), await ask(2), await ask(1)];
      expect(made()).toBe(3);
      const said = (text: string) => text.replace(/ nonce=.*/, "");
      expect(said(one)).toBe(said(again));
      if (name !== "door") expect(said(one)).not.toBe(said(two));
    },
  );

  it("is not shown who asks by any header, so that no loader can forget it", async () => {
    const { ask, made } = await serving(({ request }) => `${request.headers.get("cookie")} ${request.headers.get("x-session")}`);
    expect(await ask(1)).toMatch(/^null null /);
    await ask(2);
    expect(made()).toBe(1);
  });

  it("takes nothing of who asks along where its context is copied for a service", async () => {
    const { ask, made } = await serving(({ context }) => {
      const copied = { ...context };
      return `${copied.sessionId} ${copied.door} ${copied.store === context.store}`;
    });
    expect(await ask(1)).toMatch(/^undefined undefined true /);
    await ask(2);
    expect(made()).toBe(1);
  });
});
