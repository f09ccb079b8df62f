/** `npm run screenshots`: one current picture of each main view, from the demo data on its fixed day, into docs/screenshots. */
import { chromium, type Page } from "@playwright/test";
import prepare from "../e2e/prepare";
import { demoFolder, emptyFolder, startServer } from "../e2e/server";
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
  await page.goto(url, { waitUntil: "networkidle" });
  await act?.(page);
  await page.waitForTimeout(300);
  await page.screenshot({ path: `${FOLDER}/${name}.png` });
  await page.close();
  process.stdout.write(`${name}\n`);
}

const startRound = async (page: Page) => {
  await page.locator("section", { hasText: "Lens and head mirror" }).getByRole("button", { name: "Start" }).click();
  await page.locator(".tick input").check();
  for (const title of ["Wash hands", "Take the lens out", "Look at the lens"]) {
    await page.getByRole("button", { name: /Done, next/ }).click();
    await page.getByRole("heading", { name: title }).waitFor();
  }
  await page.keyboard.press("3");
  await page.getByText("saved", { exact: true }).waitFor();
};

await shoot("start", WIDE, `${empty.url}/start`);
await shoot("today", WIDE, `${demo.url}/larkspur/today`);
await shoot("today-phone", PHONE, `${demo.url}/larkspur/today`);
await shoot("log", WIDE, `${demo.url}/larkspur/log?kind=cut`);
await shoot("ladder", WIDE, `${demo.url}/larkspur/log?kind=ladder`);
await shoot("case-report", WIDE, `${demo.url}/larkspur/trace/2`);
await shoot("trace", WIDE, `${demo.url}/larkspur/trace/3`);
await shoot("trace-check", WIDE, `${demo.url}/larkspur/trace/3?check=tape-travel%402`);
await shoot("trace-phone", PHONE, `${demo.url}/larkspur/trace/3`);
await shoot("rounds", WIDE, `${demo.url}/larkspur/round`);
await shoot("round-look", WIDE, `${demo.url}/larkspur/round`, startRound);
await shoot("round-phone", PHONE, `${demo.url}/larkspur/round`, async (page) => {
  await page.getByRole("link", { name: "Go on with it" }).click();
  await page.getByText(/step 4 of/).waitFor();
});
await shoot("round-clean", WIDE, `${demo.url}/larkspur/round`, async (page) => {
  await page.getByRole("link", { name: "Go on with it" }).click();
  await page.getByRole("button", { name: /Done, next/ }).click();
  await page.getByRole("heading", { name: "Clean the lens." }).waitFor();
});

await browser.close();
await demo.stop();
await empty.stop();
