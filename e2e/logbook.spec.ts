/** The logbook that measures: one line, a ladder from its file to Outlook, a map of the bed, the book and the gate. */
import { readFileSync } from "node:fs";
import { awakeButton, expect, expectAccessible, expectFits, test, watchConsole } from "./support";

test("one line is understood, says what is missing, and is kept as it was understood", async ({ page, shared: demo }) => {
  const complaints = watchConsole(page);
  await page.goto(`${demo.url}/larkspur/log`);
  await awakeButton(page, "Save line");
  const line = page.getByLabel("In one line");
  await line.pressSequentially("3 mm bir");
  await page
    .locator(".ant-select-item-option")
    .filter({ hasText: /^3 mm birch ply$/ })
    .click();
  await line.pressSequentially(" 13,5 60");
  await expect(page.getByText("Still missing: how it went.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Save line" })).toBeHidden();
  await line.pressSequentially(" hangs at the far corner");
  await expect(page.getByText("Cut: 3 mm birch ply, 13.5 mm/s, 60 %, it hangs. Note: far corner")).toBeVisible();
  await expectAccessible(page);
  await line.press("Escape");
  await line.press("Enter");
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
  await expect(page.getByRole("row").filter({ hasText: "13.5 mm/s" }).first()).toContainText("it hangs “far corner”");
  // Hours that run backwards are asked about, and a new tube explains them.
  await page.getByLabel("In one line").fill("12 h");
  await expect(page.getByText(/it showed [\d.]+ h before/)).toBeVisible();
  await expect(page.getByRole("button", { name: "Save line" })).toBeHidden();
  await page.getByLabel("In one line").fill("12 h new tube");
  await expect(page.getByText("Hours: 12 h on the counter, new tube")).toBeVisible();
  await expect(page.getByRole("button", { name: "Save line" })).toBeEnabled();
  // What was kept is found again, by its words and its part, and the address carries it.
  await page.goto(`${demo.url}/larkspur/log?find=far+corner`);
  await expect(page.getByText("far corner”")).toBeVisible();
  await page.goto(`${demo.url}/larkspur/log?show=coolant&at=coolant`);
  await expect(page.getByRole("heading", { name: "Over time: coolant" })).toBeVisible();
  await expect(page.getByRole("img", { name: /temperature: last [\d.]+ °C/ })).toBeVisible();
  await expectFits(page);
  expect(complaints).toEqual([]);
});

test("a form left half-filled is as it was when one comes back to it, and empty once it was sent", async ({ page, shared: demo }) => {
  await page.goto(`${demo.url}/burdock/log?kind=job`);
  await awakeButton(page, "Save");
  const minutes = page.getByLabel("Beam on for");
  const material = page.getByRole("combobox", { name: "Material" });
  await minutes.fill("37");
  await material.click();
  await page.locator(".ant-select-item-option").filter({ hasText: "pear veneer" }).click();
  await page.getByRole("radio", { name: "more" }).check();
  const away = async () => {
    await page.getByRole("link", { name: "Outlook" }).click();
    await page.waitForURL(/outlook/);
    await page.goBack();
  };
  for (const leave of [away, () => page.reload()]) {
    await leave();
    await expect(minutes).toHaveValue("37");
    await expect(page.locator(".ant-select").filter({ has: material })).toContainText("pear veneer");
    await expect(page.getByRole("radio", { name: "more" })).toBeChecked();
  }
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
  await page.goBack();
  await expect(minutes).toHaveValue("");
});

test("a ladder goes from its file to Outlook, told on its own drawing by keyboard", async ({ page, shared: demo }) => {
  const complaints = watchConsole(page);
  await page.goto(`${demo.url}/teasel/log?kind=ladder`);
  await page.getByRole("link", { name: "Make the file" }).click();
  await page.getByLabel("Speeds, slowest first").fill("44 48 52 56 60 64 x");
  await expect(page.getByText("Some figure cannot be read yet.")).toBeVisible();
  await page.getByRole("button", { name: "Make the file" }).click();
  await expect(page.getByText('"x" is not a speed', { exact: false })).toBeVisible();
  await page.getByLabel("Speeds, slowest first").fill("44 48 52 56 60 64");
  await expect(page.getByRole("img", { name: /Ladder, 0.8 mm card, templates, \d+ by \d+ mm/ })).toBeVisible();
  await page.getByRole("button", { name: "Make the file" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Cut it, then tell how it went.");
  for (const [name, wanted] of [
    ["SVG", /<svg [\s\S]*id="s64-p45"/],
    ["DXF", /AC1009[\s\S]*S64-P45[\s\S]*EOF/],
  ] as const) {
    const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name, exact: true }).click()]);
    expect(download.suggestedFilename()).toMatch(/^teasel-ladder-0-8-mm-card-templates-\d+\.(svg|dxf)$/);
    expect(readFileSync(await download.path(), "utf8")).toMatch(wanted);
  }
  const squares = page.locator(".coupon-square");
  await expect(squares).toHaveCount(6);
  await squares.first().focus();
  for (const key of ["1", "1", "1", "2"]) await page.keyboard.press(key);
  await expect(squares.nth(3)).toHaveAccessibleName("56 mm/s: hangs");
  await page.getByRole("button", { name: "The rest: slower dropped, faster stay" }).click();
  await expect(squares.nth(5)).toHaveAccessibleName("64 mm/s: stays");
  await expectAccessible(page);
  await page.getByRole("button", { name: "Keep this result" }).click();
  await expect(page.getByRole("row").filter({ hasText: "Ladder" }).first()).toContainText(/0.8 mm card, templates at 45 %: drops to 5[45]/);
  await page.goto(`${demo.url}/teasel/outlook`);
  await expect(page.getByRole("img", { name: /Effective power: last ladder \d+ %; in 60 days/ })).toBeVisible();
  await expect(page.getByText(/Gone for good/)).toBeVisible();
  await expectAccessible(page);
  await expectFits(page);
  expect(complaints).toEqual([]);
});

test("a map of a bed that falls away tells the gate, and the book what to use", async ({ page, shared: demo }) => {
  await page.goto(`${demo.url}/burdock/coupons?form=bed-map`);
  await page.getByLabel("Speeds, slowest first").fill("8 9.5 11 12.5");
  await page.getByRole("button", { name: "Make the file" }).click();
  await page.locator(".coupon-square").first().waitFor();
  // Further from the corner the beam comes in at, fewer fall.
  for (const [place, fell] of [
    ["back left", 4],
    ["back right", 2],
    ["middle", 2],
    ["front left", 2],
    ["front right", 0],
  ] as const) {
    const sheet = page.getByRole("group", { name: `The coupon ${place}` });
    for (let i = 0; i < 4; i++)
      await sheet
        .locator(".coupon-square")
        .nth(i)
        .press(i < fell ? "1" : "3");
  }
  await page.getByRole("button", { name: "Keep this result" }).click();
  await expect(page.getByText(/weaker the longer the beam's way \(\d+ %\)/).first()).toBeVisible();
  await page.goto(`${demo.url}/burdock/outlook?tab=bed`);
  await expect(page.getByRole("img", { name: /front right: [3-8]\d %/ })).toBeVisible();
  await expectAccessible(page);

  // What works is noted in the book; the gate starts from it, at the weakest place unless another is named.
  await page.goto(`${demo.url}/burdock/log`);
  await page.getByRole("link", { name: "More kinds" }).click();
  await page.getByRole("link", { name: "Setting" }).click();
  await page.getByLabel("Speed").fill("9.5");
  await page.getByLabel("Power").fill("75");
  await page.getByRole("radio", { name: "cut" }).check();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
  await page.goto(`${demo.url}/burdock/outlook?tab=book`);
  const row = page.getByRole("row").filter({ hasText: "3 mm birch ply" });
  await expect(row).toContainText("9.5 mm/s, 75 %");
  await expect(row).toContainText(/[\d.]+ mm\/s.*98 % sure, by the ladder/);
  await expectAccessible(page);
  await page.getByRole("link", { name: "Will it cut through?" }).click();
  await expect(page.getByLabel("Speed")).toHaveValue("9.5");
  await page.getByRole("button", { name: "Will it cut through?" }).click();
  await expect(page.getByText(/its weakest place, front right/)).toBeVisible();
  const odds = async () => Number(/drops out:\s(?:under\s|over\s)?(\d+)\s%/.exec((await page.locator(".lead").textContent()) ?? "")?.[1]);
  const weakest = await odds();
  await page.getByLabel("Where on the bed").click();
  await page.getByTitle("back left").click();
  await page.getByRole("button", { name: "Will it cut through?" }).click();
  await expect(page.getByText(/, and back left,\s\d+\s% of that/)).toBeVisible();
  expect(await odds()).toBeGreaterThan(weakest);
});

test("a probe run streams from the practice bench, can be cancelled, and is kept with its fit; a field is read from the bench", async ({
  page,
  demo,
}) => {
  const complaints = watchConsole(page);
  await page.goto(`${demo.url}/larkspur/log?kind=probe&more=1`);
  await awakeButton(page, "Run the practice probe");
  await page.getByRole("button", { name: "Run the practice probe" }).click();
  await expect(page.getByText(/Heating, \d+ s/)).toBeVisible();
  await page.getByRole("button", { name: "Cancel the run" }).click();
  await expect(page.getByText(/Heating, \d+ s/)).toBeHidden();
  await page.getByRole("button", { name: "Run the practice probe" }).click();
  await expect(page.getByText(/Cooling, \d+ s/)).toBeVisible();
  await expect(page.getByText(/[\d.]+ W, give or take [\d.]+\./)).toBeVisible();
  await expect(page.getByText(/it would read [\d.]+ W/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
  await expect(page.getByRole("row").filter({ hasText: "Probe run" }).first()).toContainText(/Lens at 100 %: [\d.]+ W, give or take/);
  // A curve that is pasted says which of its lines is wrong.
  await page.goto(`${demo.url}/larkspur/log?kind=probe&more=1`);
  await awakeButton(page, "Run the practice probe");
  await page.getByLabel("The curve: seconds and °C, a line each").fill("s;°C\n0;22\n1;22.6;7\n2;23.2");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Line 3 of the curve")).toBeVisible();
  await page.goto(`${demo.url}/larkspur/log?kind=coolant&more=1`);
  await awakeButton(page, "Read from the bench");
  await page.getByRole("button", { name: "Read from the bench" }).click();
  await expect(page.getByLabel("Temperature")).toHaveValue(/^[12]\d(\.\d)?$/);
  await expect(page.getByText("simulated, not your machine")).toBeVisible();
  expect(complaints).toEqual([]);
});
