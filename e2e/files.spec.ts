/** Everything out as a file, and into an empty workshop on another computer; a table in, a copy and back. */
import LibsqlDatabase from "libsql";
import { databaseFile } from "#store/database";
import { expect, expectAccessible, test, watchConsole } from "./support";

test("a workshop goes out as a file and into an empty one, where everything reads the same", async ({ page, demo, empty }) => {
  const complaints = watchConsole(page);
  await page.goto(`${demo.url}/larkspur/workshop?tab=files`);
  await expectAccessible(page);
  const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name: "Everything, as JSON" }).click()]);
  const file = await download.path();
  const saysOf = async (url: string) => {
    await page.goto(`${url}/larkspur/outlook`);
    // The curve, its legend and its table come last.
    await expect(page.getByText("The days to come as a table")).toBeVisible();
    return page.locator("main").textContent();
  };
  const here = await saysOf(demo.url);

  await page.goto(empty.url, { waitUntil: "networkidle" });
  await page.getByText("I have a workshop's file").click();
  await page.locator("input[type=file]").setInputFiles(file);
  await expect(page.getByText(/3 machines, 11 materials, \d+ rounds, 3 cases, \d+ records would be added/)).toBeVisible({
    timeout: 30_000,
  });
  await page.getByRole("button", { name: "Take it in" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/Weak: .* no longer drops at \d+\smm\/s/, { timeout: 60_000 });
  expect(await saysOf(empty.url)).toBe(here);
  // The same file twice changes nothing.
  await page.goto(`${empty.url}/larkspur/workshop?tab=files`);
  await page.locator("input[type=file]").setInputFiles(file);
  await expect(page.getByText("nothing would change")).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole("button", { name: "Take it in" })).toBeHidden();
  expect(complaints).toEqual([]);
});

test("a table with a mistake names it, one without is taken in, and a copy brings all back", async ({ page, demo }) => {
  await page.goto(`${demo.url}/teasel/workshop?tab=files`);
  await page.getByRole("button", { name: "Make a copy now" }).click();
  await expect(page.getByText(/^Copied: copy-/)).toBeVisible();
  await expect(page.getByText("made by hand")).toBeVisible();
  const table = (speed: string) => ({
    name: "cuts.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(
      `when,material,speed_mm_per_s,set_percent,result,note\n2026-11-23 10:00,0.8 mm card\\, templates,1,1,through,x\n`.replace(
        "0.8 mm card\\, templates,1,1",
        `"0.8 mm card, templates",${speed},45`,
      ),
    ),
  });
  await page.locator("input[type=file]").setInputFiles(table("quick"));
  await expect(page.getByText('Line 2, column 3: "quick" is not a number.')).toBeVisible();
  await expect(page.getByText("Nothing was taken in.")).toBeVisible();
  await page.locator("input[type=file]").setInputFiles(table("52.5"));
  await expect(page.getByText("1 record would be added.")).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Take it in" }).click();
  await expect(page.getByText("1 record was added.")).toBeVisible();
  await page.goto(`${demo.url}/teasel/log?show=cut`);
  await expect(page.getByText(/52.5 mm\/s, 45 %/)).toBeVisible();
  await page.goto(`${demo.url}/teasel/workshop?tab=files`);
  await page.getByRole("button", { name: "Go back to it" }).last().click();
  await page.getByRole("button", { name: "Yes, go back" }).click();
  await expect(page.getByText(/Restored./)).toBeVisible();
  await page.goto(`${demo.url}/teasel/log?show=cut`);
  await expect(page.getByText(/52.5 mm\/s, 45 %/)).toBeHidden();
});

test("where a machine's pages cannot be read the others stand, and the way back leads to a copy", async ({ page, demo }) => {
  await page.goto(`${demo.url}/larkspur/workshop?tab=files`);
  await page.getByRole("button", { name: "Make a copy now" }).click();
  await expect(page.getByText(/^Copied: copy-/)).toBeVisible();
  const database = new LibsqlDatabase(databaseFile(demo.folder));
  database.exec("UPDATE machine SET layout = 'no-such-layout' WHERE slug = 'burdock'");
  database.close();
  await page.goto(`${demo.url}/larkspur/today`);
  await expect(page.getByRole("link", { name: /Burdock cannot be read/ })).toBeVisible();
  await page.goto(`${demo.url}/burdock/today`);
  await expect(page.getByRole("heading", { name: "Something went wrong here." })).toBeVisible();
  await page.getByRole("link", { name: "Copies on this computer" }).click();
  await expect(page.getByRole("heading", { name: "Copies on this computer." })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Go back to it" }).first().click();
  await page.getByRole("button", { name: "Yes, go back" }).click();
  await expect(page.getByText(/^Restored/)).toBeVisible();
  await page.goto(`${demo.url}/burdock/today`);
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/at \d+\smm\/s/);
});

test("a file that is chosen before the page is awake is looked at once it is", async ({ page, empty }) => {
  // The page's code is held back until the file is chosen.
  let letGo: () => void = () => undefined;
  const held = new Promise<void>((done) => {
    letGo = done;
  });
  await page.route(/\/assets\/.*\.js$/, async (route) => {
    await held;
    await route.continue();
  });
  await page.goto(`${empty.url}/start`, { waitUntil: "commit" });
  await page
    .locator("input[type=file]")
    .setInputFiles({ name: "x.json", mimeType: "application/json", buffer: Buffer.from("{ not a workshop") });
  letGo();
  await expect(page.getByText("Nothing was taken in.")).toBeAttached({ timeout: 30_000 });
  await page.getByText("I have a workshop's file").click();
  await expect(page.getByText("Nothing was taken in.")).toBeVisible();
});
