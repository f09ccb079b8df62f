/** Promises about data and doors: saved is saved, twice is once, strangers stay out. */
import { spawnSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { demoFolder, emptyFolder, startServer, TODAY } from "./server";
import { expect, expectFits, test, walkTo } from "./support";

test("what was acknowledged just before the power went is there after", async ({ page }) => {
  const folder = demoFolder();
  const server = await startServer(folder);
  const notes = Array.from({ length: 20 }, (_, i) => `note ${i} ${randomUUID()}`);
  for (const note of notes) {
    const reply = await page.request.post(`${server.url}/larkspur/log?_data=1`, {
      form: { kind: "note", note, requestKey: randomUUID(), here: "1" },
      headers: { origin: server.url },
      maxRedirects: 0,
    });
    expect(reply.status()).toBe(302);
  }
  await server.kill();
  const again = await startServer(folder);
  await page.goto(`${again.url}/larkspur/log?show=note`);
  for (const note of notes) await expect(page.getByText(note)).toBeVisible();
  await again.stop();
});

test("a double click or a re-sent form makes one entry", async ({ page, demo }) => {
  const form = { kind: "job", materialId: "1", minutes: "33", requestKey: randomUUID(), here: "1" };
  const send = () => page.request.post(`${demo.url}/larkspur/log`, { form, headers: { origin: demo.url }, maxRedirects: 0 });
  await Promise.all([send(), send(), send()]);
  await page.goto(`${demo.url}/larkspur/log?show=job`);
  await expect(page.getByRole("row", { name: /birch ply, 33 min/ })).toHaveCount(1);

  await page.goto(`${demo.url}/larkspur/log?kind=note`);
  await page.getByLabel("Note", { exact: true }).fill("clicked twice in gloves");
  await page.getByRole("button", { name: "Save", exact: true }).dblclick();
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
  await page.goto(`${demo.url}/larkspur/log?show=note`);
  await expect(page.getByText("clicked twice in gloves")).toHaveCount(1);
});

test("a database it cannot trust is refused with what to do, and left as it was", () => {
  const folder = emptyFolder();
  const file = join(folder, "clenor.sqlite");
  writeFileSync(file, "these are not the bytes of a database");
  const { status, stderr } = spawnSync(process.execPath, ["build/run/main.mjs"], {
    env: { ...process.env, CLENOR_DATA: folder },
    encoding: "utf8",
  });
  expect(status).toBe(1);
  expect(stderr).toMatch(/cannot be read.*Move it aside.*Nothing was changed/);
  expect(readFileSync(file, "utf8")).toBe("these are not the bytes of a database");
});

test("only its own pages may talk to it", async ({ page, demo }) => {
  const get = (headers: Record<string, string>) => page.request.get(`${demo.url}/larkspur/today`, { headers });
  expect((await get({})).status()).toBe(200);
  expect((await get({ host: "somewhere.example" })).status()).toBe(421);
  const post = (headers: Record<string, string>) =>
    page.request.post(`${demo.url}/larkspur/log`, { form: { kind: "note", note: "x", requestKey: "k" }, headers });
  expect((await post({ origin: "http://somewhere.example" })).status()).toBe(403);
  expect((await post({})).status()).toBe(403);
  const headers = (await get({})).headers();
  expect(headers["content-security-policy"]).toMatch(/script-src 'self' 'nonce-[^']+';/);
  expect(headers["content-security-policy"]).not.toMatch(/script-src[^;]*unsafe/);
  expect(headers["x-content-type-options"]).toBe("nosniff");
  expect((await page.request.get(`${demo.url}/nowhere/today`)).status()).toBe(404);
  await page.goto(`${demo.url}/larkspur/round/4711`);
  await expect(page.getByRole("heading", { name: "There is nothing at this address." })).toBeVisible();
});

test("a photo that is none is refused by its content, one too large by its size, and nothing is kept of either", async ({ page, demo }) => {
  const send = (body: Buffer) =>
    page.request.post(`${demo.url}/photos`, { data: body, headers: { origin: demo.url, "content-type": "application/octet-stream" } });
  const problem = async (body: Buffer) => ((await (await send(body)).json()) as { problem: string }).problem;
  const png = readFileSync("docs/screenshots/today-phone.png");
  expect(await problem(Buffer.from("<svg onload=alert(1)>"))).toMatch(/not a photo.*JPEG, PNG or WebP/);
  expect(await problem(Buffer.concat([Buffer.from([0xff, 0xd8, 0xff]), Buffer.from("no picture follows")]))).toMatch(/not a photo/);
  expect(await problem(png.subarray(0, png.length - 500))).toMatch(/cut off/);
  expect(await problem(Buffer.alloc(7 * 1024 * 1024))).toMatch(/too large: 6 MB at most/);
  const { hash } = (await (await send(png)).json()) as { hash: string };
  const kept = await page.request.get(`${demo.url}/photos/${hash}`);
  expect(kept.headers()).toMatchObject({ "content-type": "image/png", "x-content-type-options": "nosniff" });
  expect(await kept.body()).toEqual(png);
  expect((await page.request.get(`${demo.url}/photos/${hash.replace(/./g, "0")}`)).status()).toBe(404);
  expect((await page.request.get(`${demo.url}/photos/..%2fclenor.sqlite`)).status()).toBe(400);
});

test("broken answers to a round are refused and change nothing", async ({ page, demo }) => {
  const post = (path: string, form: Record<string, string>) =>
    page.request.post(`${demo.url}/larkspur/${path}`, { form, headers: { origin: demo.url }, maxRedirects: 0 });
  expect((await post("round", { part: "flux-capacitor", requestKey: randomUUID() })).status()).toBe(400);
  const started = await post("round", { part: "lens", requestKey: randomUUID() });
  const id = /round\/(\d+)/.exec(started.headers().location ?? "")?.[1];
  expect(id).toBeDefined();
  const send = (data: string) =>
    page.request.post(`${demo.url}/larkspur/round/${id}/answers`, {
      data,
      headers: { origin: demo.url, "content-type": "application/json" },
    });
  const answer = (stepId: string, given: object) =>
    send(JSON.stringify({ items: [{ stepId, answer: { atMs: Date.parse(TODAY) + 1000, ...given }, requestKey: randomUUID() }] }));
  expect((await send("{not json")).status()).toBe(400);
  expect((await send('{"items":[{"stepId":1}]}')).status()).toBe(400);
  expect((await answer("lens.found", { grade: 9 })).status()).toBe(400);
  expect((await answer("lens.found", { photos: ["x"] })).status()).toBe(400);
  expect((await answer("no-such-step", { done: true })).status()).toBe(400);
  expect((await answer("make-safe", { done: true })).status()).toBe(200);
  await page.goto(`${demo.url}/larkspur/round/${id}`);
  await expect(page.getByText(/step 2 of/)).toBeVisible();
});

test("a broken optic is said in every place, and nothing that fires is offered until another is in", async ({ page, demo }) => {
  const keep = (form: Record<string, string>) =>
    page.request.post(`${demo.url}/burdock/log?_data=1`, {
      form: { ...form, requestKey: randomUUID(), here: "1" },
      headers: { origin: demo.url },
      maxRedirects: 0,
    });
  expect((await keep({ kind: "grade", station: "lens", grade: "4" })).status()).toBe(302);
  const banner = page.getByRole("status").filter({ hasText: "Do not fire: the lens is damaged." });
  for (const place of ["log", "trace", "outlook", "coupons", "workshop"]) {
    await page.goto(`${demo.url}/burdock/${place}`);
    await expect(banner).toBeVisible();
  }
  await page.goto(`${demo.url}/burdock/gate`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Not now: the lens is damaged.");
  await expect(page.getByRole("button", { name: "Will it cut through?" })).toHaveCount(0);
  await page.goto(`${demo.url}/burdock/aim`);
  await expect(page.getByRole("button", { name: "Start aiming" })).toHaveCount(0);
  await page.getByRole("main").getByRole("link", { name: "What to do" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Do not fire: the lens is damaged.");
  await page.goto(`${demo.url}/larkspur/today`);
  await expect(page.getByRole("navigation", { name: "Machines" })).toContainText("do not fire: the lens is damaged");
  expect((await keep({ kind: "service", part: "lens", what: "replaced" })).status()).toBe(302);
  await page.goto(`${demo.url}/burdock/aim`);
  await expect(page.getByRole("button", { name: "Start aiming" })).toBeVisible();
  await expect(banner).toHaveCount(0);
});

test("a round that has seen a broken optic is proven by no cut, and ends without", async ({ page, demo }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  const headers = { origin: demo.url };
  const started = await page.request.post(`${demo.url}/burdock/round`, {
    form: { part: "mirror-2", requestKey: randomUUID() },
    headers,
    maxRedirects: 0,
  });
  const id = /round\/(\d+)/.exec(started.headers().location ?? "")?.[1];
  const items = [{ stepId: "mirror-2.found", answer: { done: true, grade: 4, atMs: Date.parse(TODAY) + 1000 }, requestKey: randomUUID() }];
  const kept = await page.request.post(`${demo.url}/burdock/round/${id}/answers`, {
    data: JSON.stringify({ items }),
    headers: { ...headers, "content-type": "application/json" },
  });
  expect(kept.status()).toBe(200);
  await page.goto(`${demo.url}/burdock/round/${id}`);
  await walkTo(page, /ends here/);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("This round ends here: the upper mirror is damaged.");
  await expect(page.getByRole("button", { name: "Close with this test" })).toHaveCount(0);
  await expectFits(page);
  await page.getByRole("button", { name: "End the round, the machine stays apart" }).click();
  await expect(page.getByText(/then tick it/).first()).toBeVisible();
  await page.getByRole("checkbox", { name: /Unplugged, with a note on the lid/ }).check();
  await page.getByRole("button", { name: "End the round, the machine stays apart" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Round ended without a final test.");
  await expect(page.getByRole("button", { name: "Replace it" })).toBeVisible();
  await page.goto(`${demo.url}/burdock/today`);
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/Do not fire: .* is damaged/);
});
