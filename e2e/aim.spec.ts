/** Aim from its marks to good enough, by keyboard, on a simulated machine whose screws are turned as the page says; and on a phone. */
import type { Page } from "@playwright/test";
import { layouts } from "#catalog/layouts";
import { aimPathOf, type Screw } from "#core/aim";
import { seededRandom } from "#core/random";
import { aimMachine } from "../judge/machines";
import { expect, expectAccessible, expectFits, test, walkToProof, watchConsole } from "./support";

const { path, fittings } = layouts["three-mirror"] ?? { path: [], fittings: { beamCorner: undefined } };

const value = (page: Page, name: string) =>
  page.locator(`form:has(input[name=intent]) input[type=hidden][name=${name}]`).first().inputValue();
const headline = (page: Page) => page.getByRole("heading", { level: 1 }).textContent();

test("aim from marks to good enough by keyboard, with its round and the case", async ({ page, demo }) => {
  const complaints = watchConsole(page);
  const machine = aimMachine(seededRandom(1), aimPathOf(path, { corner: fittings.beamCorner }));
  await page.goto(`${demo.url}/larkspur/aim`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Bring the beam back to the middle.");
  await expectAccessible(page);
  const start = page.getByRole("button", { name: "Start aiming" });
  // Nothing is fired before it is safe to.
  await start.press("Enter");
  await expect(page.getByText(/Tick it when it is so/)).toBeVisible();
  await page.getByLabel(/Panels on, interlock working/).press("Space");
  await start.press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Make a mark at M1.");
  await expectAccessible(page);

  // The arrow keys move the mark, with shift by a millimetre; the fields say where it is.
  const handle = page.getByRole("slider", { name: /The mark/ });
  await handle.press("Shift+ArrowRight");
  await handle.press("ArrowDown");
  await expect(page.getByLabel("To the right")).toHaveValue("1");
  await expect(page.getByLabel("Up", { exact: true })).toHaveValue("-0.1");

  // What cannot be is asked about, not swallowed.
  await page.getByLabel("To the right").fill("45");
  await page.getByLabel("Up", { exact: true }).press("Enter");
  await expect(page.getByText(/lies far outside M1/)).toBeVisible();
  await expect(page.getByLabel("To the right")).toHaveValue("45");

  const seen = new Set<string>();
  let turns = 0;
  for (let i = 0; i < 80; i++) {
    const before = await page.getByText(/· \d+ entr/).textContent();
    if (await page.getByRole("button", { name: /^Finish/ }).isVisible()) break;
    const intent = await page.getByRole("region").or(page.locator(".ant-card")).first().locator("input[name=intent]").first().inputValue();
    seen.add(intent);
    if (intent === "mark") {
      const [at = "", ...far] = (await value(page, "spot")).split("+");
      const mark = machine.mark({ at, far }, 0.3);
      await page.getByLabel("To the right").fill(mark.right.toFixed(1));
      await page.getByLabel("Up", { exact: true }).fill(mark.up.toFixed(1));
      await page.getByLabel("Up", { exact: true }).press("Enter");
    } else if (intent === "turn") {
      const [element, screw] = [await value(page, "element"), (await value(page, "screw")) as Screw];
      const amount = Number(await value(page, "amount")) * ((await value(page, "sense")) === "anticlockwise" ? -1 : 1);
      machine.turn(element, screw, amount);
      turns += 1;
      if (turns === 1) {
        await expectAccessible(page);
        // Left and come back to: it stands where it stood.
        const was = await headline(page);
        await page.goto(`${demo.url}/larkspur/today`);
        await expect(page.getByText(/Power limit is still low from alignment/)).toBeVisible();
        await page.goto(`${demo.url}/larkspur/aim`);
        await expect(page.getByRole("heading", { level: 1 })).toHaveText(was ?? "");
      }
      await page.getByRole("button", { name: /^Turned:/ }).press("Enter");
    } else {
      await page.getByRole("button", { name: "Shifted" }).press("Enter");
    }
    await expect(page.getByText(/· \d+ entr/)).not.toHaveText(before ?? "");
  }
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/^Good enough/);
  expect([...seen].sort().slice(0, 1)).toEqual(["mark"]);
  expect(turns).toBeGreaterThan(2);
  expect(turns).toBeLessThan(25);
  await expectAccessible(page);

  // The power limit left at test level looks like a dying tube: it cannot be jumped.
  const finish = page.getByRole("button", { name: /^Finish/ });
  await finish.press("Enter");
  await expect(page.getByText(/Put the power limit back, then tick it/)).toBeVisible();
  await page.getByLabel("The power limit is back where it was").press("Space");
  await finish.press("Enter");

  // Its round knows what was done; what is left is tape off, power back and the proof.
  await expect(page.getByText(/Alignment of .* · step/)).toBeVisible();
  await walkToProof(page);
  await page.goto(`${demo.url}/larkspur/trace/3`);
  await expect(page.getByText(/marks on M2 .* mm apart/).first()).toBeVisible();
  expect(complaints).toEqual([]);
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test("a mark is dragged on its ring, noted, and taken back", async ({ page, demo }) => {
    await page.goto(`${demo.url}/burdock/aim`);
    await page.getByLabel(/Panels on, interlock working/).check();
    await page.getByRole("button", { name: "Start aiming" }).click();
    await expectFits(page);
    const pad = page.getByRole("group", { name: /^Mark at/ });
    await pad.scrollIntoViewIfNeeded();
    const box = await pad.boundingBox();
    if (!box) throw new Error("no pad");
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.6, box.y + box.height * 0.4, { steps: 4 });
    await page.mouse.up();
    expect(Number(await page.getByLabel("To the right").inputValue())).toBeGreaterThan(0.5);
    expect(Number(await page.getByLabel("Up", { exact: true }).inputValue())).toBeGreaterThan(0.5);
    await page.getByRole("button", { name: "Save this mark" }).click();
    await expect(page.getByText("· 1 entry")).toBeVisible();
    await expectFits(page);
    await page.getByRole("button", { name: "Take the last entry back" }).click();
    await expect(page.getByText("· 0 entries")).toBeVisible();
  });
});
