/** The workshop's network: nobody comes in without the passphrase, a phone that has it walks a round, and signing out ends it. */
import { connect } from "node:net";
import { demoFolder, emptyFolder, startServer } from "./server";
import { expect, expectAccessible, expectFits, test, walkToProof } from "./support";

/** A second loopback address stands for the network, so that no real one is needed; it is treated as any other. */
const ADDRESS = "127.0.0.2";
const PASSPHRASE = "felt under the reed pan";
const lan = (folder: string) => startServer(folder, { args: [`--lan=${ADDRESS}`], env: { CLENOR_PASSPHRASE: PASSPHRASE }, host: ADDRESS });

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

test("a phone signs in, walks a round, and is out again after signing out", async ({ page }) => {
  const server = await lan(demoFolder());
  expect(server.said()).toContain(`${server.url}/`);
  await page.goto(`${server.url}/teasel/round?scope=daily`);
  await expect(page.getByRole("heading", { name: "This is a workshop's own Clenor." })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel("Passphrase").fill("let me in, please");
  await page.getByRole("button", { name: "Sign in" }).tap();
  await expect(page.getByText(/That is not the passphrase/)).toBeVisible();
  expect(server.said()).toMatch(/"address":"[^"]+".*"tries":1.*wrong passphrase/);
  expect(server.said()).not.toContain("let me in");
  await page.getByLabel("Passphrase").fill(PASSPHRASE);
  await page.getByRole("button", { name: "Sign in" }).tap();
  await expect(page.getByRole("heading", { name: /Daily: [\d.]+ minutes/ })).toBeVisible();
  await page.getByRole("button", { name: "Start this round" }).tap();
  await expect(page.getByText(/step 1 of/)).toBeVisible();
  await walkToProof(page);
  await expectFits(page);
  await page.getByRole("radio", { name: "hangs", exact: true }).check();
  await page.getByRole("button", { name: "Close with this test" }).tap();
  await expect(page.getByText(/circle and a square in 0.8 mm card, templates: it hangs/)).toBeVisible();

  await page.goto(`${server.url}/teasel/workshop?tab=devices`);
  await expect(page.getByRole("img", { name: `Code for ${server.url}/` })).toBeVisible();
  await page.getByRole("button", { name: /Teasel: other machines/ }).tap();
  await page.getByRole("menuitem", { name: "Sign out" }).tap();
  await expect(page.getByRole("heading", { name: "This is a workshop's own Clenor." })).toBeVisible();
  await page.goto(`${server.url}/teasel/today`);
  await expect(page).toHaveURL(/sign-in/);
  await server.stop();
});

/** Asks for a path letter by letter as it stands, which no browser would. */
function ask(url: string, line: string, headers: Record<string, string> = {}, address = ADDRESS): Promise<string> {
  const { port, host } = new URL(url);
  return new Promise((done) => {
    const socket = connect({ port: Number(port), host: address });
    let text = "";
    socket.on("data", (chunk) => {
      text += chunk.toString();
    });
    socket.on("close", () => done(text));
    socket.on("error", (error) => done(String(error)));
    const all = { Host: host, Connection: "close", ...headers };
    socket.write(
      `${line} HTTP/1.1\r\n${Object.entries(all)
        .map(([n, v]) => `${n}: ${v}\r\n`)
        .join("")}\r\n`,
    );
  });
}

test("no spelling of a path lets anybody in, and only the address that was named answers", async () => {
  const server = await lan(demoFolder());
  for (const way of ["/assets/%2e%2e", "/assets/..", "/assets/.%2e", "/assets/..\\..", "/mark.svg/..", "/sign-in/..", "//", "/."])
    for (const path of ["/larkspur/today", "/larkspur/today.data", "/_root.data", "/larkspur/round/1/answers"])
      for (const method of ["GET", "POST"]) {
        const answer = await ask(server.url, `${method} ${way}${path}`, { Origin: server.url, "Content-Length": "0" });
        expect(answer, `${method} ${way}${path}`).toMatch(/^HTTP\/1.1 (303|400|401|404|405|415)/);
        expect(answer).not.toContain("Larkspur");
      }
  expect(await ask(server.url, "GET /assets/nothing.js")).toMatch(/^HTTP\/1.1 404.*no such file/s);
  expect(await ask(server.url, "GET /larkspur/today", {}, "127.0.0.3")).toMatch(/ECONNREFUSED/);
  expect(
    await ask(server.url, "GET /larkspur/today", { Host: new URL(server.url).host, "X-Forwarded-For": "127.0.0.1" }, "127.0.0.1"),
  ).toMatch(/^HTTP\/1.1 403/);
  await server.stop();
});

test("after signing in one is led to a page of this server only; a session ends by its sign-out, and not by a restart", async ({
  page,
}) => {
  const folder = demoFolder();
  let server = await lan(folder);
  const signIn = async (to: string) => {
    const reply = await page.request.post(`${server.url}/sign-in`, {
      form: { passphrase: PASSPHRASE, to, device: "the phone at the bench" },
      headers: { origin: server.url },
      maxRedirects: 0,
    });
    return { to: reply.headers().location, cookie: reply.headers()["set-cookie"]?.split(";")[0] ?? "" };
  };
  for (const to of [
    "/\t/elsewhere.example",
    "//elsewhere.example",
    "/\\elsewhere.example",
    "/\r\nSet-Cookie: a=b",
    "/larkspur/nowhere",
    "/photos",
    "https://elsewhere.example/",
  ])
    expect((await signIn(to)).to, JSON.stringify(to)).toBe("/");
  expect((await ask(server.url, "GET /sign-in?to=%2F%09%2Felsewhere.example%0d%0aX: y")).split("\r\n")[0]).toMatch(/ (200|400) /);
  const { to, cookie } = await signIn("/teasel/round?scope=daily");
  expect(to).toBe("/teasel/round?scope=daily");
  const port = new URL(server.url).port;
  await server.stop();
  server = await startServer(folder, { args: [`--lan=${ADDRESS}`], env: { CLENOR_PASSPHRASE: PASSPHRASE, PORT: port }, host: ADDRESS });
  const today = () => ask(server.url, "GET /larkspur/today", { Cookie: cookie });
  server = { ...server, url: `http://${ADDRESS}:${port}` };
  expect(await today()).toMatch(/^HTTP\/1.1 200/);
  // From this machine's own list of devices; any copy of the cookie is worth nothing from then on.
  await page.goto(`http://127.0.0.1:${port}/larkspur/workshop?tab=devices`);
  await page.getByRole("button", { name: "Sign out the phone at the bench" }).first().click();
  await expect(page.getByText("It has to give the passphrase again.")).toBeVisible();
  expect(await today()).toMatch(/^HTTP\/1.1 (303|401)/);
  await server.stop();
});

test("nothing but the sign-in is open, to no other name, and no page elsewhere can act through a signed-in device", async ({ page }) => {
  const server = await lan(demoFolder());
  const get = (path: string, headers: Record<string, string> = {}) => page.request.get(server.url + path, { headers, maxRedirects: 0 });
  for (const path of ["/", "/larkspur/today", "/start"]) expect((await get(path, { accept: "text/html" })).status()).toBe(303);
  for (const path of ["/larkspur/today.data", `/photos/${"0".repeat(64)}`, "/larkspur/round/1/answers"])
    expect((await get(path, { accept: "application/json" })).status()).toBe(401);
  expect((await get("/sign-in", { host: "clenor.example" })).status()).toBe(421);
  const signIn = (origin: string) =>
    page.request.post(`${server.url}/sign-in`, {
      form: { passphrase: PASSPHRASE, to: "//elsewhere.example/" },
      headers: { origin },
      maxRedirects: 0,
    });
  expect((await signIn("http://elsewhere.example")).status()).toBe(403);
  const came = await signIn(server.url);
  expect(came.status()).toBe(302);
  expect(came.headers().location).toBe("/");
  expect((await get("/larkspur/today", { accept: "text/html" })).status()).toBe(200);
  const post = page.request.post(`${server.url}/larkspur/log`, {
    form: { kind: "note", note: "x", requestKey: "from-elsewhere" },
    headers: { origin: "http://elsewhere.example" },
  });
  expect((await post).status()).toBe(403);
  await server.stop();
});

test("--lan without a passphrase does not start, and says what to do", async () => {
  await expect(startServer(emptyFolder(), { args: ["--lan"] })).rejects.toThrow(/ended with 1.*needs a passphrase.*CLENOR_PASSPHRASE/s);
  await expect(startServer(emptyFolder(), { args: ["--lan"], env: { CLENOR_PASSPHRASE: "short" } })).rejects.toThrow(
    /at least 10 characters/,
  );
});
