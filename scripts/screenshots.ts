/** `npm run screenshots`: one current picture of each main view, from the demo data on its fixed day, into docs/screenshots. */
import { chromium, type Page } from "@playwright/test";
import prepare from "../e2e/prepare";
import { demoFolder, emptyFolder, startServer } from "../e2e/server";
import { walkTo } from "../e2e/support";
import config from "../playwright.config";

const FOLDER = "docs/screenshots";
const WIDE = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };

prepare();
const browser = await chromium.launch(config.use?.launchOptions ?? {});
const demo = await startServer(demoFolder());
const empty = await startServer(emptyFolder());

async function shoot(name: string, viewport: typeof WIDE, url: string, act?: (page: Page) => Promise<unknown>): Promise<void> {
  const page = await browser.newPage({ viewport });
  // The runner names functions by a helper of its own, which functions handed to the page would miss.
  await page.addInitScript("window.__name = (named) => named;");
  await page.goto(url, { waitUntil: "networkidle" });
  await act?.(page);
  await page.waitForTimeout(300);
  await page.screenshot({ path: `${FOLDER}/${name}.png` });
  await page.close();
  process.stdout.write(`${name}\n`);
}

const onto = (title: RegExp) => async (page: Page) => {
  await page.getByRole("link", { name: "Go on with it" }).click();
  await walkTo(page, title);
};

await shoot("start", WIDE, `${empty.url}/start`);
await shoot("today", WIDE, `${demo.url}/larkspur/today`);
await shoot("today-dark", WIDE, `${demo.url}/larkspur/today`, async (page) => {
  await page.emulateMedia({ colorScheme: "dark" });
  await page.reload({ waitUntil: "networkidle" });
});
await shoot("today-phone", PHONE, `${demo.url}/teasel/today`);
await shoot("log", WIDE, `${demo.url}/larkspur/log?kind=cut`);
await shoot("outlook", WIDE, `${demo.url}/teasel/outlook`, (page) => page.locator("canvas").first().waitFor());
await shoot("gate", WIDE, `${demo.url}/larkspur/gate?materialId=1&speedMmPerS=10&setPercent=60&lostMinutes=40&lostMoney=12`);
await shoot("case-report", WIDE, `${demo.url}/larkspur/trace/1/report`);
await shoot("trace", WIDE, `${demo.url}/larkspur/trace/3`);
await shoot("trace-phone", PHONE, `${demo.url}/larkspur/trace/3`);
await shoot("coolant", WIDE, `${demo.url}/larkspur/mixes?tab=coolant`, async (page) => {
  const save = async (fields: Record<string, string>, button: string, said: string) => {
    for (const [label, value] of Object.entries(fields)) await page.getByLabel(label).fill(value);
    await page.getByRole("button", { name: button }).click();
    await page.getByText(said, { exact: true }).waitFor();
  };
  await save({ "The loop holds": "10", "Coldest night in the room": "-9" }, "Save loop and night", "Saved.");
  await save({ "Filled anew": "10", "Glycol in it": "30" }, "Save in the log", "Saved in the log.");
  await page.getByText(/^Safe for/).waitFor();
  await page.evaluate("scrollTo(0, 0)");
});
await shoot("airflow", WIDE, `${demo.url}/larkspur/mixes?tab=airflow`, (page) => page.locator("canvas").first().waitFor());
await shoot("plan", WIDE, `${demo.url}/larkspur/plan`);
await shoot("plan-task", WIDE, `${demo.url}/larkspur/plan?tab=tasks&task=lens`, (page) => page.locator("canvas").first().waitFor());
await shoot("aim", WIDE, `${demo.url}/larkspur/aim`, async (page) => {
  await page.getByLabel(/Panels on, interlock working/).check();
  await page.getByRole("button", { name: "Start aiming" }).click();
  let entries = 0;
  const noted = () => page.getByText(`· ${++entries} entr`).waitFor();
  const mark = async (right: string, up: string) => {
    await page.getByLabel("To the right").fill(right);
    await page.getByLabel("Up", { exact: true }).fill(up);
    await page.getByRole("button", { name: "Save this mark" }).click();
    await noted();
  };
  await mark("0.4", "-0.6");
  await mark("0.8", "-0.4");
  await mark("4", "-2.2");
  await page.getByRole("button", { name: /^Turned:/ }).click();
  await noted();
  await mark("7.6", "-2.0");
});
await shoot("rounds", WIDE, `${demo.url}/burdock/round?scope=monthly`);
await shoot("workshop", WIDE, `${demo.url}/burdock/workshop?station=mirror-3`);
await shoot("round-look", WIDE, `${demo.url}/burdock/round?scope=monthly`, async (page) => {
  await page.getByRole("button", { name: "Start this round" }).click();
  await walkTo(page, /^Inspect the upper mirror/);
  await page.keyboard.press("3");
  await page.getByText("saved", { exact: true }).waitFor();
});
await shoot("round-phone", PHONE, `${demo.url}/burdock/round`, onto(/^Inspect the upper mirror/));

await browser.close();
await demo.stop();
await empty.stop();
