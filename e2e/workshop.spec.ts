/** The machine's own shape: editing the path without a mouse, what is refused, fittings that change the steps, materials, machines. */
import { awakeButton, expect, expectAccessible, test, watchConsole } from "./support";

test("a path is edited by keyboard, history kept, and what is no path is refused", async ({ page, demo }) => {
  const complaints = watchConsole(page);
  await page.goto(`${demo.url}/larkspur/workshop`);
  const names = () =>
    page
      .getByRole("list", { name: /^The beam path/ })
      .locator("b")
      .allTextContents();
  await expect.poll(names).toEqual(["Tube", "Exit window", "M1", "M2", "M3 in head", "Lens", "Nozzle"]);

  await page.getByRole("button", { name: "Add a mirror" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText("Added. Say how it is held.")).toBeVisible();
  await expect.poll(names).toEqual(["Tube", "Exit window", "M1", "M2", "M3 in head", "Mirror", "Lens", "Nozzle"]);

  // Lifted, carried up two places and put down by the keys alone.
  await page.getByRole("button", { name: "Move Mirror", exact: true }).focus();
  await page.keyboard.press("Space");
  for (let i = 0; i < 2; i++) {
    await page.waitForTimeout(150);
    await page.keyboard.press("ArrowUp");
  }
  await page.waitForTimeout(150);
  await page.keyboard.press("Space");
  await expect(page.getByText("Order saved.")).toBeVisible();
  await expect.poll(names).toEqual(["Tube", "Exit window", "M1", "Mirror", "M2", "M3 in head", "Lens", "Nozzle"]);

  await page.getByRole("link", { name: /^Mirror/ }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Mirror");
  await page.getByLabel("Name", { exact: true }).fill("Knee mirror");
  await page.getByLabel("Clear aperture").fill("wide");
  await page.keyboard.press("Enter");
  await expect(page.getByText('"wide" is not a number')).toBeVisible();
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Knee mirror");
  await page.getByLabel("Clear aperture").fill("1 in");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Knee mirror saved.")).toBeVisible();
  await expect(page.getByRole("navigation", { name: /Beam line/ }).getByText("Knee mirror")).toBeVisible();

  // What cannot be a path is said and changes nothing.
  await page.getByRole("button", { name: "Lens up" }).click();
  await expect(page.getByRole("alert")).toContainText(/A mirror after the lens cannot be.*Nothing was changed/);
  await expect.poll(names).toEqual(["Tube", "Exit window", "M1", "Knee mirror", "M2", "M3 in head", "Lens", "Nozzle"]);
  await page.getByRole("link", { name: /^Lens/ }).first().click();
  await page.getByRole("button", { name: "Take Lens off the path" }).click();
  await page.getByRole("button", { name: "Take it off" }).click();
  await expect(page.getByRole("alert")).toContainText("The path has no lens: add one.");

  // It is asked before it is done, and brought back as it was.
  for (const name of ["M2", "Knee mirror"]) {
    await page
      .getByRole("list", { name: /^The beam path/ })
      .getByRole("link", { name: new RegExp(`^${name}`) })
      .click();
    await expect(page.getByLabel("Name", { exact: true })).toHaveValue(name);
    await page.getByRole("button", { name: `Take ${name} off the path` }).click();
    await page.getByRole("button", { name: "Take it off" }).last().click();
    await expect(page.getByRole("list", { name: /^The beam path/ }).getByText(name, { exact: true })).toHaveCount(0);
  }
  await expect(page.getByRole("heading", { name: "Taken off", exact: true })).toBeVisible();
  await page.goto(`${demo.url}/larkspur/log?show=grade`);
  await expect(page.getByText(/M2: /).first()).toBeVisible();
  await page.goto(`${demo.url}/larkspur/trace/3`);
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  await page.goto(`${demo.url}/larkspur/workshop`);
  await awakeButton(page, "Bring back");
  await page.getByRole("listitem").filter({ hasText: "M2" }).getByRole("button", { name: "Bring back" }).click();
  await expect.poll(names).toEqual(["Tube", "Exit window", "M1", "M2", "M3 in head", "Lens", "Nozzle"]);
  await expectAccessible(page);
  expect(complaints).toEqual([]);
});

test("how a part is held and what is on the shelf change what a round asks for", async ({ page, demo }) => {
  const steps = async () => {
    await page.goto(`${demo.url}/larkspur/round?scope=own&part=mirror-2&part=rails`);
    return (await page.locator(".plan").last().textContent()) ?? "";
  };
  expect(await steps()).toContain("Clean M2 where it sits.");
  await page.goto(`${demo.url}/larkspur/workshop?station=mirror-2`);
  await page.getByLabel("Held by").click();
  await page.getByTitle("magnets with a notch (keeps its aim)").click();
  await page.getByLabel("Which way round").fill("notch at lower left");
  await page.locator("input[type=file]").setInputFiles("docs/screenshots/today-phone.png");
  await expect(page.getByRole("img", { name: "The right way round" })).toBeVisible();
  await page.getByRole("button", { name: "Save M2" }).click();
  await expect(page.getByText("M2 saved.")).toBeVisible();
  expect(await steps()).toMatch(/Tilt M2 off its magnets\..*Make two small cuts, one near and one far/);

  await page.goto(`${demo.url}/larkspur/workshop?tab=fittings`);
  await page.getByLabel("Rails and bearings").click();
  await page.getByTitle("open rails").click();
  await page.getByRole("button", { name: "Save fittings" }).click();
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
  expect(await steps()).toContain("Take the old grease off open rails first.");

  // The maker's manual stands where it is deferred to: a place as words, an address as a link.
  const manual = async (at: string) => {
    await page.goto(`${demo.url}/larkspur/workshop?tab=fittings`);
    await page.getByLabel("Maker's manual").fill(at);
    await page.getByRole("button", { name: "Save fittings" }).click();
    await expect(page.getByText(/^Saved/).first()).toBeVisible();
    await page.getByRole("button", { name: "Emergency" }).click();
  };
  await manual("red folder, left of the door");
  await expect(page.getByRole("dialog")).toContainText("The maker's manual: red folder, left of the door");
  await manual("javascript:alert(1)");
  await expect(page.getByRole("dialog").getByRole("link")).toHaveCount(0);
  await manual("https://127.0.0.1/larkspur.pdf");
  await expect(page.getByRole("dialog").getByRole("link", { name: "The maker's manual" })).toHaveAttribute("rel", "noreferrer");
  await page.keyboard.press("Escape");

  await page.goto(`${demo.url}/larkspur/workshop?tab=shelf`);
  for (const agent of ["isopropyl alcohol", "fresh swabs"]) await page.getByRole("checkbox", { name: agent }).check();
  await page.getByRole("button", { name: "Save the shelf" }).click();
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
  await steps();
  await expect(page.getByRole("listitem").filter({ hasText: /^lens tissue not on your shelf$/ })).toBeVisible();
});

test("forbidden materials are refused, others are added once and hidden with their history", async ({ page, demo }) => {
  await page.goto(`${demo.url}/teasel/workshop?tab=materials`);
  const name = page.getByLabel("Your own name for it");
  await name.fill("chrome-tanned leather offcuts");
  await page.getByLabel("Thickness").fill("1,5");
  await page.getByRole("button", { name: "Add it" }).click();
  await expect(page.getByText(/Do not cut this with a laser: chrome-tanned leather/)).toBeVisible();
  await expect(page.getByLabel("Thickness")).toHaveValue("1,5");
  await name.fill("bellows card");
  await page.getByRole("button", { name: "Add it" }).click();
  await expect(page.getByText("bellows card added.")).toBeVisible();
  await name.fill("bellows card");
  await page.getByLabel("Thickness").fill("1.5");
  await page.getByRole("button", { name: "Add it" }).click();
  await expect(page.getByText(/of this name and thickness already/)).toBeVisible();
  await page.getByText("0.8 mm card, templates", { exact: true }).click();
  await page.getByRole("button", { name: "No longer offer it" }).first().click();
  await expect(page.getByText("No longer offered; the log keeps it.")).toBeVisible();
  await page.goto(`${demo.url}/teasel/log?show=job`);
  await expect(page.getByText(/0.8 mm card, templates/).first()).toBeVisible();
});

test("machines are switched anywhere, and one more is added from a layout", async ({ page, demo }) => {
  await page.goto(`${demo.url}/larkspur/log`);
  await page.getByRole("button", { name: /Larkspur: other machines/ }).click();
  await page.getByRole("link", { name: "Burdock", exact: true }).click();
  await expect(page).toHaveURL(/burdock\/log/);
  await expect(page.getByRole("navigation", { name: /Beam line/ }).getByText("Gantry-end mirror")).toBeVisible();
  await page.getByRole("button", { name: /Burdock: other machines/ }).click();
  await page.getByRole("link", { name: "Add a machine" }).click();
  await page.getByRole("radio", { name: /moving head/i }).check();
  await expect(page.getByLabel("Rated power of the tube")).toHaveValue("45");
  await page.getByLabel("What do you call it?").fill("Sorrel");
  await page.getByLabel("Hours on the counter").fill("0");
  await page.getByRole("button", { name: "It cuts well" }).click();
  await expect(page).toHaveURL(/sorrel\/log/);
  await expect(page.getByRole("navigation", { name: /Beam line/ }).getByText("Side window")).toBeVisible();
});

test("the agents' box and the lens explorer answer as they are asked", async ({ page, shared: demo }) => {
  await page.goto(`${demo.url}/larkspur/mixes`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/Never/);
  await page.getByRole("button", { name: /isopropyl alcohol/ }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/Yes/);
  await page.getByRole("radio", { name: "With another agent" }).check();
  await page.getByLabel("together with, or after").click();
  await page.keyboard.type("bleach");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/Bleach with alcohol/)).toBeVisible();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/Never/);
  await expectAccessible(page);

  await page.goto(`${demo.url}/larkspur/mixes?tab=lens`);
  await page.getByRole("radio", { name: "Bulge down" }).check();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/Upside down: \d\d % of the power density, out of focus/);
  const sheet = page.getByRole("slider", { name: "Sheet below the gauge's height" });
  await sheet.focus();
  for (let i = 0; i < 15; i++) await page.keyboard.press("ArrowRight");
  await expect(page.getByText("+1.5 mm", { exact: true })).toBeVisible();
  await expect(page.getByRole("heading", { level: 1 })).not.toHaveText(/out of focus/);
  const fan = page.locator(".fan");
  const box = await fan.boundingBox();
  if (!box) throw new Error("no drawing");
  await page.mouse.move(box.x + 100, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 100, box.y + box.height / 4, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByText("−2.0 mm", { exact: true })).toBeVisible();
  await expectAccessible(page);
});

test("units are chosen once and read everywhere; what was kept comes back to the digit", async ({ page, demo }) => {
  const complaints = watchConsole(page);
  await page.goto(`${demo.url}/larkspur/workshop?tab=machine`);
  for (const unit of ["in", "in/min", "°F", "gal", "cfm"])
    await page.getByRole("radio", { name: unit, exact: true }).check({ force: true });
  await page.getByRole("button", { name: "Save the units" }).click();
  await expect(page.locator("html")).toHaveAttribute("data-units", /cfm/);
  await page.goto(`${demo.url}/larkspur/today`);
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/0\.118\sin birch ply.*33\.1\sin\/min/);
  await expect(page.getByLabel("Speed", { exact: true })).toHaveValue("33.07");
  await expectAccessible(page);
  // Sent as it stands, and once more in the other unit.
  await page.getByRole("radio", { name: "hangs" }).check({ force: true });
  await page.getByRole("button", { name: "Save cut" }).click();
  await expect(page.getByText(/^Saved: .*33\.1 in\/min.*it hangs/)).toBeVisible();
  await page.goto(`${demo.url}/larkspur/log?kind=ladder`);
  const squares = page.locator(".coupon-square");
  await expect(squares.first()).toHaveAttribute("aria-label", /^\d+ in\/min: not told/);
  await page.goto(`${demo.url}/larkspur/log?kind=coolant`);
  await awakeButton(page, "Save");
  await page.getByLabel("Temperature").fill("212");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText(/Must be .* °F or less/)).toBeVisible();
  await page.getByLabel("Temperature").fill("20 °C");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText(/^Saved: .*68 °F/)).toBeVisible();
  await page.goto(`${demo.url}/larkspur/workshop?tab=machine`);
  for (const unit of ["mm", "mm/s", "°C"]) await page.getByRole("radio", { name: unit, exact: true }).check({ force: true });
  await page.getByRole("button", { name: "Save the units" }).click();
  await expect(page.locator("html")).toHaveAttribute("data-units", /mm\/s/);
  await page.goto(`${demo.url}/larkspur/log`);
  await expect(page.getByText(/3 mm birch ply at 14 mm\/s, 60 %: it hangs/).first()).toBeVisible();
  await expect(page.getByText(/^20 °C$/).first()).toBeVisible();
  expect(complaints).toEqual([]);
});
