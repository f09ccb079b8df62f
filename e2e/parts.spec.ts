/** Parts that every place shares: station cards, the emergency card, keys, the sum behind a number, the table behind a chart. */
import { expect, expectAccessible, test, walkTo, watchConsole } from "./support";

test("a station's card, the emergency card and the keys are one step away, without a mouse", async ({ page, shared: demo }) => {
  const complaints = watchConsole(page);
  await page.goto(`${demo.url}/larkspur/today`);
  await page.getByRole("button", { name: /^M2/ }).focus();
  await page.keyboard.press("Enter");
  const card = page.getByRole("dialog");
  await expect(card).toContainText("Last cleaned");
  await expect(card).toContainText("smoke hours");
  await expectAccessible(page);
  await page.keyboard.press("Escape");
  await expect(card).toBeHidden();

  await page.keyboard.press("e");
  await expect(page.getByRole("dialog")).toContainText("Do not blow, wipe or vacuum");
  await expectAccessible(page);
  await page.keyboard.press("Escape");
  await page.goto(`${demo.url}/larkspur/log`);
  // The page answers to keys once its scripts have taken over.
  await expect(async () => {
    await page.keyboard.press("?");
    await expect(page.getByRole("dialog")).toContainText("the grades", { timeout: 1000 });
  }).toPass();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toBeHidden();
  await page.keyboard.press("g");
  await expect(page).toHaveURL(/today$/);
  // Keys stay letters while somebody types.
  await page.getByLabel("Hours on the counter").fill("");
  await page.getByLabel("Hours on the counter").pressSequentially("ge?");
  await expect(page.getByLabel("Hours on the counter")).toHaveValue("ge?");
  expect(complaints).toEqual([]);
});

test("every number can be opened: the verdict's sum, the curve's table, the loss per station", async ({ page, shared: demo }) => {
  await page.goto(`${demo.url}/larkspur/today`);
  await page.getByText("Show the sum").click();
  await expect(page.getByRole("row", { name: /^Together/ })).toContainText("90 % range");
  await page.getByText("The same as a table").click();
  await expect(page.getByRole("row", { name: /ladder in 3 mm birch ply/ }).first()).toContainText("%");
  await expectAccessible(page);
  await page.goto(`${demo.url}/larkspur/trace/3`);
  await expect(page.locator(".budget > li").filter({ hasText: /^M2/ })).toContainText(/takes \d+ %, between \d+ and \d+/);
});

test("a step can be skipped with a reason, and noted", async ({ page, demo }) => {
  await page.goto(`${demo.url}/larkspur/round?scope=own&part=lens`);
  await page.getByRole("button", { name: "Start this round" }).click();
  await walkTo(page, /Inspect the lens before/);
  await page.getByRole("radio", { name: /film/ }).click();
  await walkTo(page, /Blow, brush/);
  await page.getByRole("button", { name: /Note/ }).click();
  await page.getByLabel("Note to this step").fill("veil came off dry");
  await page.getByRole("button", { name: "Keep the note" }).click();
  await expect(page.getByText("Note: veil came off dry")).toBeVisible();
  await page.getByRole("button", { name: /Skip/ }).click();
  await page.getByLabel("Why skip this step?").fill("new this morning");
  await page.getByRole("button", { name: "Skip this step" }).click();
  await expect(page.getByRole("heading", { name: /Inspect the lens again, now that it is clean/ })).toBeVisible();
  await expect(page.getByText("saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("heading", { name: /Inspect the lens again, now that it is clean/ })).toBeVisible();
  await page.getByRole("button", { name: "Back", exact: true }).click();
  await expect(page.getByText("Skipped: new this morning")).toBeVisible();
});

test("what is typed before the page is awake counts as soon as it is", async ({ page, shared: demo }) => {
  // Held back, the page's script comes after the typing.
  let wake: () => void = () => undefined;
  const awake = new Promise<void>((done) => {
    wake = done;
  });
  await page.route(/\/assets\/.*\.js/, async (route) => {
    await awake;
    await route.continue();
  });
  await page.goto(`${demo.url}/teasel/coupons?form=ladder`, { waitUntil: "commit" });
  await page.getByLabel("Speeds, slowest first").fill("44 48 52 x");
  wake();
  await expect(page.getByText("Some figure cannot be read yet.")).toBeVisible();
  await expect(page.getByLabel("Speeds, slowest first")).toHaveValue("44 48 52 x");
  // Nor is it lost where only a part of the page is still asleep.
  await page.unroute(/\/assets\/.*\.js/);
  await page.route(/\/assets\/MoreForms.*\.js/, async (route) => {
    await new Promise((done) => setTimeout(done, 1500));
    await route.continue();
  });
  await page.goto(`${demo.url}/teasel/log?kind=airflow`);
  await page.getByLabel("Speed in the duct").fill("5.5");
  await page.waitForTimeout(3000);
  await expect(page.getByLabel("Speed in the duct")).toHaveValue("5.5");
});
