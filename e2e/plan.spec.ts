/** Plan: a round is dragged and moved by keyboard, a task follows another school and its own history, and the calendar is taken out. */
import { readFileSync } from "node:fs";
import ICAL from "ical.js";
import { demoFolder, startServer } from "./server";
import { expect, expectAccessible, expectFits, test, watchConsole } from "./support";

test("a round is put on another day by hand and by keyboard, and Today says the same", async ({ page, demo }) => {
  const complaints = watchConsole(page);
  await page.goto(`${demo.url}/larkspur/plan`, { waitUntil: "networkidle" });
  const own = page.locator("a.plan-chip:not(.other)");
  const first = own.first();
  await expect(first).toBeVisible();
  const minutes = (await first.textContent())?.match(/\d+/)?.[0];
  const cells = page.locator("table.plan-weeks td");
  const from = await cells.filter({ has: first }).first().boundingBox();
  const to = await cells.nth(10).boundingBox();
  if (!from || !to) throw new Error("the calendar is not on the page");
  const chip = await first.boundingBox();
  if (!chip) throw new Error("no round is on the page");
  await page.mouse.move(chip.x + chip.width / 2, chip.y + chip.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 8 });
  await page.mouse.up();
  await expect(page.getByText(/^Moved to .*: it (costs|saves)/)).toBeVisible();
  await expect(cells.nth(10).locator("a.plan-chip:not(.other)")).toBeVisible();
  await page.goto(`${demo.url}/larkspur/today`);
  await expect(page.getByText(/Next round: |Nothing to do before |Next in turn: /).first()).toBeVisible();
  // Back, without a mouse.
  await page.goto(`${demo.url}/larkspur/plan`);
  await page.locator("a.plan-chip:not(.other)").filter({ hasText: "⇥" }).first().focus();
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Let the plan decide its day again" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText("The plan decides its day again.")).toBeVisible();
  await expect(page.getByRole("heading", { level: 1 })).toContainText(`${minutes} minutes`);
  await expectAccessible(page);
  await expectFits(page);
  expect(complaints).toEqual([]);
});

test("a task follows another school, its own history and an own figure, with the picture of why", async ({ page, demo }) => {
  await page.goto(`${demo.url}/larkspur/plan?tab=tasks&task=lens`);
  const card = page.getByRole("region", { name: "Lens: how often" });
  await expect(card.getByText(/inspections found it/)).toBeVisible();
  await expect(card.getByRole("img", { name: /Chance of finding it bad/ })).toBeVisible();
  await card.getByRole("radio", { name: "learned" }).check();
  await card.getByRole("button", { name: "Follow this" }).click();
  await expect(page.getByText("Lens follows learned.")).toBeVisible();
  await card.getByRole("radio", { name: "your own" }).check();
  await card.getByLabel("Every", { exact: true }).fill("0");
  await card.getByRole("button", { name: "Follow this" }).click();
  await expect(card.getByText(/More than nought/)).toBeVisible();
  await card.getByLabel("Every", { exact: true }).fill("6,5");
  await card.getByRole("button", { name: "Follow this" }).click();
  await expect(page.getByText("Lens follows your own: every 6.5 smoke hours.")).toBeVisible();
  await page.goto(`${demo.url}/larkspur/plan?tab=days`);
  await page.getByLabel("Days without rounds and without work").fill("next week");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText(/Line 1, “next week”, is no day/)).toBeVisible();
  await expect(page.getByLabel("Days without rounds and without work")).toHaveValue("next week");
});

test("the plan goes into a calendar as a file, and as a feed that can be revoked", async ({ page }) => {
  const server = await startServer(demoFolder(), {
    args: ["--lan=127.0.0.2"],
    env: { CLENOR_PASSPHRASE: "felt under the reed pan" },
    host: "127.0.0.2",
  });
  await page.goto(`${server.url}/larkspur/plan`);
  await page.getByLabel("Passphrase").fill("felt under the reed pan");
  await page.getByRole("button", { name: "Sign in" }).click();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "A file for your calendar" }).click(),
  ]);
  const text = readFileSync(await download.path(), "utf8");
  const events = new ICAL.Component(ICAL.parse(text)).getAllSubcomponents("vevent");
  expect(events.length).toBeGreaterThan(3);
  await page.getByRole("button", { name: "An address to subscribe to" }).click();
  const address = (await page.locator("code.plan-feed").textContent()) ?? "";
  const read = (url: string) => fetch(url).then(async (r) => ({ status: r.status, text: await r.text() }));
  const feed = await read(address);
  expect(feed.status).toBe(200);
  expect(new ICAL.Component(ICAL.parse(feed.text)).getAllSubcomponents("vevent")).toHaveLength(events.length);
  expect((await read(address.replace(/.{6}\.ics$/, "aaaaaa.ics"))).status).toBe(404);
  await page.getByRole("button", { name: "Revoke it" }).click();
  await expect(page.getByText(/Revoked/)).toBeVisible();
  expect((await read(address)).status).toBe(404);
  expect(server.said()).not.toContain(address.split("/").at(-1)?.slice(0, 12));
  await server.stop();
});

test("supplies are counted, run low at the planned rounds, and are on a list", async ({ page, demo }) => {
  await page.goto(`${demo.url}/larkspur/plan?tab=supplies`);
  await page.getByLabel("On the shelf").fill("12");
  await page.getByLabel("A pack costs").fill("8");
  await page.getByRole("button", { name: "Save the count" }).click();
  await expect(page.getByText("Swabs: 12 swabs on the shelf.")).toBeVisible();
  await expect(page.getByRole("region", { name: "Shopping list" })).toContainText(/Swabs: \d+ × 100 swabs, \d+\.00/);
  await expectAccessible(page);
});
