/** Light and dark: as the device wishes, by hand and kept; print is always light; and the sums under Kit, down to the log. */
import { expect, expectAccessible, expectFits, test, watchConsole } from "./support";

const DARK_GROUND = "rgb(19, 26, 22)";
const LIGHT_GROUND = "rgb(230, 235, 229)";

test.describe("by night", () => {
  test.use({ colorScheme: "dark" });

  test("every kind of place is dark, and clean for axe", async ({ page, shared }) => {
    const complaints = watchConsole(page);
    for (const path of [
      "larkspur/today",
      "larkspur/plan",
      "larkspur/plan?tab=tasks&task=lens",
      "larkspur/trace/3",
      "larkspur/log?kind=ladder",
      "teasel/outlook",
      "larkspur/round?scope=daily",
      "larkspur/workshop?tab=fittings",
      "larkspur/aim",
      "larkspur/mixes?tab=coolant&roomC=24&humidity=60",
      "larkspur/mixes?tab=wash",
      "larkspur/mixes?tab=airflow",
    ]) {
      await page.goto(`${shared.url}/${path}`);
      await expect(page.locator("body")).toHaveCSS("background-color", DARK_GROUND);
      await expectAccessible(page);
    }
    await page.emulateMedia({ media: "print" });
    await expect(page.locator("body")).toHaveCSS("background-color", LIGHT_GROUND);
    expect(complaints).toEqual([]);
  });
});

test("a look chosen by hand is kept on this device, from the first moment of a page on", async ({ page, shared }) => {
  await page.goto(`${shared.url}/larkspur/today`);
  await expect(page.locator("body")).toHaveCSS("background-color", LIGHT_GROUND);
  await page.getByRole("button", { name: /Larkspur: other machines/ }).click();
  await page.getByRole("menuitem", { name: "Dark", exact: true }).click();
  await expect(page.locator("body")).toHaveCSS("background-color", DARK_GROUND);
  await page.goto(`${shared.url}/teasel/today`, { waitUntil: "commit" });
  await page.waitForFunction(() => document.body !== null);
  expect(await page.evaluate(() => document.documentElement.dataset.look)).toBe("dark");
  await page.getByRole("button", { name: /Teasel: other machines/ }).click();
  await page.getByRole("menuitem", { name: "Light or dark as this device" }).click();
  await expect(page.locator("body")).toHaveCSS("background-color", LIGHT_GROUND);
});

test("each sum goes down to the log: a fill, a reading of the air, a bed's own figures", async ({ page, demo }) => {
  await page.goto(`${demo.url}/larkspur/mixes?tab=coolant`);
  await page.getByLabel("The loop holds").fill("10");
  await page.getByLabel("Coldest night in the room").fill("-60,5");
  await page.getByRole("button", { name: "Save loop and night" }).click();
  await expect(page.getByText(/lies between −60 and 40/)).toBeVisible();
  await page.getByLabel("Coldest night in the room").fill("-9");
  await page.getByRole("button", { name: "Save loop and night" }).click();
  await expect(page.getByText(/first 3 L of propylene glycol, then 7 L/)).toBeVisible();
  await page.getByLabel("Filled anew").fill("10");
  await page.getByLabel("Glycol in it").fill("30");
  await page.getByRole("button", { name: "Save in the log" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Safe for −9 °C: it freezes at −14 °C.");
  // Written once: the form is empty again.
  await expect(page.getByLabel("Filled anew")).toHaveValue("");
  await expectFits(page);

  await page.goto(`${demo.url}/larkspur/mixes?tab=airflow`);
  await page.getByLabel("Air speed").fill("4,1");
  await page.getByLabel("Suction at the fan").fill("140");
  await page.getByRole("button", { name: "Save in the log" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/The air is weak/);
  await page.goto(`${demo.url}/larkspur/log?show=airflow`);
  await expect(page.getByText(/4.1 m\/s in the duct, 140 Pa suction/)).toBeVisible();

  await page.goto(`${demo.url}/larkspur/mixes?tab=wash`);
  await page.getByLabel("Oven cleaner's strength").fill("20");
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(page.getByText(/Water makes nothing stronger/)).toBeVisible();
  for (const tab of ["coolant", "wash", "airflow"]) {
    await page.setViewportSize({ width: 390, height: 844 });
    await page.goto(`${demo.url}/larkspur/mixes?tab=${tab}`);
    await expectFits(page);
  }
  await expectAccessible(page);
});
