/** Fixtures: a server on a fresh copy of the demo, or on an empty folder, and the axe check every place must pass. */
import AxeBuilder from "@axe-core/playwright";
import { test as base, expect, type Page } from "@playwright/test";
import { demoFolder, emptyFolder, type RunningServer, startServer } from "./server";

interface Places {
  readonly demo: RunningServer;
  readonly empty: RunningServer;
}

/** One server for the tests of a worker that only look, or write what no other of them looks at. */
interface Shared {
  readonly shared: RunningServer;
}

export const test = base.extend<Places, Shared>({
  shared: [
    // biome-ignore lint/correctness/noEmptyPattern: the fixture depends on nothing
    async ({}, use) => {
      const server = await startServer(demoFolder());
      await use(server);
      await server.stop();
    },
    { scope: "worker" },
  ],
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
  // Without frames there is nothing that its newer, slower way would find.
  const { violations } = await new AxeBuilder({ page })
    .options({ resultTypes: ["violations"] })
    .setLegacyMode()
    .analyze();
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
  const squares = page.locator(".coupon-square");
  await squares.first().waitFor();
  for (let i = 0; i < (await squares.count()); i++) await squares.nth(i).press(i < dropped ? "1" : i === dropped ? "2" : "3");
}

/**
 * Walks an open round on to a step whose title matches, or to its proof: grades clear what has no grade, ticks what must be ticked, waits for nothing to
 * dry. Done in the page in one go, since a full round has some eighty steps; single steps are pressed for real in the tests themselves.
 */
export async function walkTo(page: Page, title?: RegExp): Promise<void> {
  await expect(page.getByText(/step \d+ of \d+ ·/)).toBeVisible();
  const ended = await page.evaluate(
    async ([pattern, flags]) => {
      const wanted = pattern === undefined ? undefined : new RegExp(pattern, flags);
      const button = (label: RegExp) => [...document.querySelectorAll("button")].find((b) => label.test(b.textContent ?? ""));
      const until = async (holds: () => boolean) => {
        for (let i = 0; i < 400 && !holds(); i++) await new Promise((done) => setTimeout(done, 10));
        return holds();
      };
      // A click before the page has woken up is lost.
      await until(() => Object.keys(button(/^Back$/) ?? {}).some((key) => key.startsWith("__reactProps")));
      for (let i = 0; i < 120; i++) {
        const heading = () => document.querySelector("h1")?.textContent ?? "";
        const counter = () => document.querySelector(".run-head p")?.textContent ?? "";
        const [title, step] = [heading(), counter()];
        if (wanted?.test(title) || button(/^Close with this test/)) return title;
        // Another device says that the wait is over.
        if (document.querySelector(".drying")) {
          const url = `${location.pathname}/answers`;
          const { nowMs } = (await (await fetch(url)).json()) as { nowMs: number };
          const item = { stepId: "dry", answer: { timerEndsMs: nowMs, atMs: nowMs }, requestKey: `walk-dries-${nowMs}` };
          await fetch(url, { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify({ items: [item] }) });
          await until(() => !document.querySelector(".drying"));
        }
        if (!document.querySelector(".run-body .choices input:checked"))
          document.querySelector<HTMLInputElement>(".run-body .choices input")?.click();
        const tick = document.querySelector<HTMLInputElement>(".tick input");
        if (tick && !tick.checked) tick.click();
        if (!document.querySelector(".grade[aria-checked=true]")) document.querySelector<HTMLButtonElement>(".grade")?.click();
        if (!(await until(() => button(/^Done, next/)?.disabled === false))) return `stuck at: ${title}`;
        button(/^Done, next/)?.click();
        if (!(await until(() => counter() !== step))) return `did not go on from: ${title}`;
      }
      return "too many steps";
    },
    [title?.source, title?.flags] as const,
  );
  if (title) expect(ended).toMatch(title);
  else expect(ended, "walked to").not.toMatch(/^stuck at|^did not go on|^too many/);
}

export const walkToProof = (page: Page): Promise<void> => walkTo(page);

/** Waits until a button of the page does what it says: before its page has woken up, a click is lost. */
export const awakeButton = (page: Page, label: string) =>
  page.waitForFunction(
    (words) =>
      [...document.querySelectorAll("button")].some(
        (b) => b.textContent?.includes(words) && Object.keys(b).some((key) => key.startsWith("__reactProps")),
      ),
    label,
  );
