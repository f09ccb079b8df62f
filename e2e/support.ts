/** Fixtures: a server on a fresh copy of the demo, or on an empty folder, and the axe check every place must pass. */
import AxeBuilder from "@axe-core/playwright";
import { test as base, expect, type Page } from "@playwright/test";
import { demoFolder, emptyFolder, type RunningServer, startServer } from "./server";

interface Places {
  readonly demo: RunningServer;
  readonly empty: RunningServer;
}

export const test = base.extend<Places>({
  // biome-ignore lint/correctness/noEmptyPattern: the fixture depends on nothing
  demo: async ({}, use) => {
    const server = await startServer(demoFolder());
    await use(server);
    await server.stop();
  },
  // biome-ignore lint/correctness/noEmptyPattern: the fixture depends on nothing
  empty: async ({}, use) => {
    const server = await startServer(emptyFolder());
    await use(server);
    await server.stop();
  },
});

export { expect };

/** Nothing that axe knows of may be wrong on the page as it stands. */
export async function expectAccessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`)).toEqual([]);
}

/** Fails a test on anything the browser complains of: script errors, refused scripts, hydration mismatches. */
export function watchConsole(page: Page): string[] {
  const complaints: string[] = [];
  page.on("console", (message) => {
    if (message.type() === "error" && !/Failed to load resource.*40\d/.test(message.text())) complaints.push(message.text());
  });
  page.on("pageerror", (error) => complaints.push(String(error)));
  return complaints;
}

/** The page must not scroll sideways. */
export async function expectFits(page: Page): Promise<void> {
  const over = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  expect(over).toBeLessThanOrEqual(1);
}

/** Enters how each rung of the ladder on screen ended: dropped up to a rung, the next hangs, the others stay. */
export async function answerLadder(page: Page, dropped: number): Promise<void> {
  const rungs = page.locator(".rung");
  for (let i = 0; i < (await rungs.count()); i++) {
    await rungs
      .nth(i)
      .getByRole("radio", { name: i < dropped ? "dropped" : i === dropped ? "hangs" : "stays" })
      .check();
  }
}

/** Walks an open round to its proof, grading everything clear and ticking what must be ticked. */
export async function walkToProof(page: Page): Promise<void> {
  const total = Number(/step \d+ of (\d+)/.exec((await page.getByText(/step \d+ of \d+ ·/).textContent()) ?? "")?.[1]);
  for (let i = 0; i < total; i++) {
    const step = await page.getByText(/step \d+ of \d+ ·/).textContent();
    if (await page.getByRole("button", { name: "Close with this proof" }).isVisible()) return;
    const tick = page.locator(".tick input");
    if (await tick.isVisible()) await tick.check();
    if (await page.getByRole("radiogroup").isVisible()) await page.getByRole("radio", { name: /clear/ }).click();
    await page.getByRole("button", { name: /Done, next/ }).click();
    await expect(page.getByText(step ?? "", { exact: true })).toHaveCount(0);
  }
}
