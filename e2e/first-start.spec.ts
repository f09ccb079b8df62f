/** The story on an empty database: from first start to a first verdict, both ways in. */
import { cpSync } from "node:fs";
import { join } from "node:path";
import { demoFolder, emptyFolder, startServer } from "./server";
import { answerLadder, expect, expectAccessible, expectFits, test, walkToProof, watchConsole } from "./support";

test("a new owner with a good machine gets a verdict from one ladder", async ({ page, empty }) => {
  const complaints = watchConsole(page);
  await page.goto(empty.url);
  await expect(page.getByRole("heading", { name: "Tell me about your machine." })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel("What do you call it?").fill("Larkspur");
  await page.getByLabel("Hours on the counter").fill("a lot");
  await page.getByRole("button", { name: "It cuts well: cut a ladder now" }).click();
  await expect(page.getByText('"a lot" is not a number')).toBeVisible();
  await expect(page.getByLabel("What do you call it?")).toHaveValue("Larkspur");
  await page.getByLabel("Hours on the counter").fill("1060");
  await page.getByLabel("Your own name for it, if any").fill("soft PVC sheet");
  await page.getByRole("button", { name: "It cuts well: cut a ladder now" }).click();
  await expect(page.getByText(/PVC or vinyl gives off chlorine/)).toBeVisible();
  await page.getByLabel("Your own name for it, if any").fill("");
  await page.getByRole("button", { name: "It cuts well: cut a ladder now" }).click();

  await expect(page.locator(".coupon-square").first()).toHaveAccessibleName(/^[\d.]+ mm\/s: not told$/);
  await expect(page.getByLabel("Known good: make this the baseline")).toBeChecked();
  await answerLadder(page, 4);
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/^(Fit to cut|On the edge): .* drop.* at \d+\smm\/s|^At 100\s% of best/);
  await expectAccessible(page);
  await expectFits(page);
  await page.getByText("Show the sum").click();
  await expect(page.getByText("typical tube")).toBeVisible();
  expect(complaints).toEqual([]);
});

test("an emptied data folder is not taken for a new one: the copies in it are offered first", async ({ page }) => {
  const folder = emptyFolder();
  const from = await startServer(demoFolder());
  await page.goto(`${from.url}/larkspur/workshop?tab=files`);
  await page.getByRole("button", { name: "Make a copy now" }).click();
  await expect(page.getByText(/^Copied: copy-/)).toBeVisible();
  await from.stop();
  cpSync(join(from.folder, "copies"), join(folder, "copies"), { recursive: true });
  const server = await startServer(folder);
  await page.goto(server.url);
  await expect(page.getByText(/copies of a workshop lie in it/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("link", { name: "Go back to one of them" }).click();
  await page.getByRole("button", { name: "Go back to it" }).first().click();
  await page.getByRole("button", { name: "Yes, go back" }).click();
  await expect(page.getByText(/^Restored/)).toBeVisible();
  await page.getByRole("link", { name: "To Today" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/at \d+\smm\/s/);
  await server.stop();
});

test("a new owner with a weak cut is led from the sign to a repair and its proof", async ({ page, empty }) => {
  await page.goto(empty.url);
  await page.getByLabel("What do you call it?").fill("Larkspur");
  await page.getByLabel("Hours on the counter").fill("400");
  await page.getByLabel("Speed that usually cuts it").fill("14");
  await page.getByLabel("at power").fill("60");
  await page.getByRole("button", { name: "Something is weak" }).click();
  await expect(page.getByRole("heading", { name: "What did you notice?" })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Start tracing" }).click();
  await expect(page.getByText("Choose what you noticed.")).toBeVisible();
  await page.getByRole("checkbox", { name: "Weak right after cleaning" }).check();
  await page.getByRole("button", { name: "Start tracing" }).click();
  await expect(page.getByRole("region", { name: "Next check" })).toBeVisible();
  await expectAccessible(page);
  await page.goto(`${page.url()}?check=lens-side`);
  await page.getByRole("button", { name: "upside down" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Turn the lens bulge up");
  await expect(page.getByRole("heading", { level: 2, name: /the lens is upside down/i })).toBeVisible();
  await page.getByRole("button", { name: "Start the repair round" }).click();
  await walkToProof(page);
  await expect(page.getByText("Or repeat the test that failed.")).toBeVisible();
  await page.getByRole("button", { name: "drops through" }).click();
  await expect(page.getByText("The final test closed the case.")).toBeVisible();
  await page.getByRole("link", { name: "See the case report" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/^Repaired: /);
});
