/** The workshop's network: nobody comes in without the passphrase, a phone that has it walks a round, and signing out ends it. */
import { demoFolder, emptyFolder, startServer } from "./server";
import { expect, expectAccessible, expectFits, test, walkToProof } from "./support";

/** A second loopback address stands for the network, so that no real one is needed; it is treated as any other. */
const ADDRESS = "127.0.0.2";
const PASSPHRASE = "felt under the reed pan";
const lan = (folder: string) => startServer(folder, { args: [`--lan=${ADDRESS}`], env: { CLENOR_PASSPHRASE: PASSPHRASE }, host: ADDRESS });

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

test("a phone signs in, walks a round, and is out again after signing out", async ({ page }) => {
  test.setTimeout(120_000);
  const server = await lan(demoFolder());
  expect(server.said()).toContain(`${server.url}/`);
  await page.goto(`${server.url}/teasel/round?scope=quick`);
  await expect(page.getByRole("heading", { name: "This is a workshop's own Clenor." })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel("Passphrase").fill("let me in, please");
  await page.getByRole("button", { name: "Sign in" }).tap();
  await expect(page.getByText(/That is not the passphrase/)).toBeVisible();
  expect(server.said()).toMatch(/"address":"[^"]+".*"tries":1.*wrong passphrase/);
  expect(server.said()).not.toContain("let me in");
  await page.getByLabel("Passphrase").fill(PASSPHRASE);
  await page.getByRole("button", { name: "Sign in" }).tap();
  await expect(page.getByRole("heading", { name: /Quick look: \d+ minutes/ })).toBeVisible();
  await page.getByRole("button", { name: "Start this round" }).tap();
  await expect(page.getByText(/step 1 of/)).toBeVisible();
  await walkToProof(page);
  await expectFits(page);
  await page.getByRole("radio", { name: "hangs", exact: true }).check();
  await page.getByRole("button", { name: "Close with this proof" }).tap();
  await expect(page.getByText(/circle and a square in 0.8 mm card, templates: it hangs/)).toBeVisible();

  await page.goto(`${server.url}/teasel/workshop?tab=devices`);
  await expect(page.getByRole("img", { name: `Code for ${server.url}/` })).toBeVisible();
  await page.getByRole("button", { name: /Teasel: other machines/ }).tap();
  await page.getByRole("button", { name: "Sign out", exact: true }).tap();
  await expect(page.getByRole("heading", { name: "This is a workshop's own Clenor." })).toBeVisible();
  await page.goto(`${server.url}/teasel/today`);
  await expect(page).toHaveURL(/sign-in/);
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
