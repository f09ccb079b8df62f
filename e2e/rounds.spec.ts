/** Rounds at the machine: a full one on each layout, through a reload, a timer, a photo and a lost network; two devices; paper. */
import type { BrowserContext, Page } from "@playwright/test";
import { answerLadder, expect, expectAccessible, expectFits, test, walkTo, walkToProof, watchConsole } from "./support";

const PHOTO = "docs/screenshots/today-phone.png";

/** Another device sets the timer of a step to be over in a moment. */
async function endTimer(page: Page, stepId: string): Promise<void> {
  const url = `${page.url().replace(/[?#].*/, "")}/answers`;
  const { nowMs } = (await (await page.request.get(url, { headers: { accept: "application/json" } })).json()) as { nowMs: number };
  const answer = { timerEndsMs: nowMs + 500, atMs: nowMs };
  const sent = await page.request.post(url, {
    data: { items: [{ stepId, answer, requestKey: `ends-${stepId.replace(".", "-")}-${nowMs}` }] },
    headers: { origin: new URL(url).origin },
  });
  expect(sent.status()).toBe(200);
}

/** The network goes: answers and a photo wait here, and the work goes on. Then a timer that runs on across steps and a reload. */
async function throughLostNetworkAndTimer(page: Page, context: BrowserContext): Promise<void> {
  await context.setOffline(true);
  await page.getByRole("button", { name: /Done, next/ }).click();
  await expect(page.getByText(/no network: \d+ waiting here/)).toBeVisible();
  await walkTo(page, /^Inspect the lens before/);
  await page.getByRole("radio", { name: /haze/ }).click();
  await page.locator("input[type=file]").setInputFiles(PHOTO);
  await expect(page.getByRole("img", { name: "waiting to be sent" })).toBeVisible();
  await context.setOffline(false);
  await expect(page.getByRole("img", { name: "1 of this step" })).toBeVisible();
  await expect(page.getByText("saved", { exact: true })).toBeVisible();

  // A timer runs on across steps and a reload, and says when it is over. The soak is asked for by what the lens was left as.
  await walkTo(page, /Inspect the lens again, now that it is clean/);
  await page.getByRole("radio", { name: /film/ }).click();
  await page.getByRole("button", { name: /Done, next/ }).click();
  await expect(page.getByRole("heading", { name: /baked on/ })).toBeVisible();
  await page.getByRole("radio", { name: /clear/ }).click();
  await page.keyboard.press("t");
  await page.getByRole("button", { name: /Done, next/ }).click();
  await expect(page.getByRole("list", { name: "Timers" })).toContainText("soak");
  await page.reload();
  await expect(page.getByRole("button", { name: /[23]:\d\d soak/ })).toBeVisible();
  await endTimer(page, "lens.again");
  await expect(page.getByRole("button", { name: "time is over: soak" })).toBeVisible();
  await expect(page.getByRole("alert").filter({ hasText: "soak: time is over." })).toHaveCount(1);
  await page.getByRole("button", { name: "time is over: soak" }).click();
  await expect(page.getByRole("button", { name: "time is over: soak" })).toHaveCount(0);
}

const FOUND = "Inspect M1 before you wipe it.";

test("a full round ends in its proof, through a reload, a lost network and a photo", async ({ page, demo, context }) => {
  const complaints = watchConsole(page);
  await page.goto(`${demo.url}/larkspur/round?scope=full`);
  await expect(page.getByText("Optics tube first, along the beam")).toBeVisible();
  await page.getByRole("button", { name: "Start this round" }).click();

  // Dirt first: the exhaust is behind us before hands are washed for the optics.
  await walkTo(page, /Wash your hands/);
  await walkTo(page, new RegExp(FOUND.replace(".", "\\.")));
  await page.getByRole("radio", { name: /film/ }).click();
  await page.locator("input[type=file]").setInputFiles(PHOTO);
  await expect(page.getByRole("img", { name: "1 of this step" })).toBeVisible();
  await expect(page.getByText("saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("heading", { name: FOUND })).toBeVisible();
  await expect(page.getByRole("radio", { name: /film/ })).toBeChecked();
  await expect(page.getByRole("img", { name: "1 of this step" })).toBeVisible();
  await expectAccessible(page);

  await throughLostNetworkAndTimer(page, context);

  // What was wetted must dry before power.
  await walkTo(page, /Let it dry with the lid open/);
  await page.locator(".tick input").check();
  await expect(page.getByRole("button", { name: /Still drying/ })).toBeDisabled();
  await endTimer(page, "dry");
  await expect(page.getByRole("button", { name: /Done, next/ })).toBeEnabled();
  await walkTo(page, /Make two small cuts|Put the power limit back/);
  await expect(page.getByRole("button", { name: /Tick it first/ })).toBeDisabled();
  await walkToProof(page);
  await answerLadder(page, 5);
  await page.getByRole("button", { name: "Close with this test" }).click();
  await expect(page.getByRole("heading", { name: /(gained|power)/ })).toBeVisible();
  await expect(page.getByRole("listitem").filter({ hasText: "before cleaning" }).filter({ hasText: "film" }).getByRole("img")).toHaveCount(
    1,
  );
  await expectAccessible(page);
  await page.goto(`${demo.url}/larkspur/today`);
  await expect(page.getByText("Machine apart")).toHaveCount(0);
  expect(complaints.filter((c) => !/ERR_INTERNET_DISCONNECTED|Unable to preload CSS/.test(c))).toEqual([]);
});

test("answers given without a network outlive the page, and two devices do not undo each other", async ({
  page,
  demo,
  context,
  browser,
}) => {
  await page.goto(`${demo.url}/larkspur/round?scope=daily`);
  await page.getByRole("button", { name: "Start this round" }).click();
  await expect(page.getByText(/step 1 of/)).toBeVisible();
  const url = page.url();
  // Nothing behind a tick can be jumped to before it is given.
  await expect(page.getByRole("button", { name: "M3 in head" })).toBeDisabled();
  await context.setOffline(true);
  await page.locator(".tick input").check();
  await page.getByRole("button", { name: /Done, next/ }).click();
  await page.getByRole("radio", { name: /spots/ }).click();
  await expect(page.getByText(/Only a suspicion yet/)).toBeVisible();
  await page.close();

  // Meanwhile another device goes its own way in the same round.
  const elsewhere = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await elsewhere.goto(url);
  // A browser may still send what waits as its page closes; where it did not, this device ticks as well.
  await expect(elsewhere.getByText(/step \d+ of/)).toBeVisible();
  if (await elsewhere.getByRole("heading", { name: /Make it safe/ }).isVisible()) {
    await elsewhere.locator(".tick input").check();
    await elsewhere.getByRole("button", { name: /Done, next/ }).click();
  }
  await elsewhere.getByRole("button", { name: "M3 in head" }).click();
  await elsewhere.getByLabel("Your initials").fill("JK");
  await elsewhere.getByRole("radio", { name: /haze/ }).click();
  await expect(elsewhere.getByText("saved", { exact: true })).toBeVisible();

  await context.setOffline(false);
  const again = await context.newPage();
  await again.goto(url);
  await expect(again.getByRole("heading", { name: /^Inspect the lens\.$/ })).toBeVisible();
  await expect(again.getByRole("radio", { name: /spots/ })).toBeChecked();
  await expect(again.getByText("saved", { exact: true })).toBeVisible();
  await again.getByRole("button", { name: "M3 in head" }).first().click();
  await expect(again.getByRole("radio", { name: /haze/ })).toBeChecked();
  await elsewhere.getByRole("button", { name: "Lens" }).first().click();
  await expect(elsewhere.getByRole("radio", { name: /spots/ })).toBeChecked();

  // A round of looks closes with the first cut.
  await walkToProof(again);
  await again.getByRole("radio", { name: "through", exact: true }).check();
  await again.getByRole("button", { name: "Close with this test" }).click();
  await expect(again.getByRole("heading", { name: "Round closed." })).toBeVisible();
  await expect(again.getByText(/JK/)).toBeVisible();
  await expect(elsewhere.getByRole("heading", { name: "Round closed." })).toBeVisible();
  // What was found bad took the lens out: the look asked for it.
  await expect(again.getByRole("listitem").filter({ hasText: "Lens, before cleaning" }).first()).toContainText("spots");
});

test("a round that is loaded anew without a network still stands where it was, with every answer given since", async ({
  page,
  demo,
  context,
}) => {
  await page.goto(`${demo.url}/larkspur/round?scope=daily`);
  await page.getByRole("button", { name: "Start this round" }).click();
  await expect(page.getByText(/step 1 of/)).toBeVisible();
  // The page itself is kept as soon as the browser has it.
  await expect.poll(() => page.evaluate(async () => (await (await caches.open("clenor-rounds")).keys()).length)).toBe(1);
  await page.locator(".tick input").check();
  await page.getByRole("button", { name: /Done, next/ }).click();
  await page.getByRole("radio", { name: /haze/ }).click();
  await expect(page.getByText("saved", { exact: true })).toBeVisible();
  // The server knows of this one; of the next it does not yet.
  await context.setOffline(true);
  await page.getByRole("button", { name: /Done, next/ }).click();
  await page.getByRole("radio", { name: /sticky/ }).click();
  await expect(page.getByText(/no network: \d waiting here/)).toBeVisible();
  await page.reload();
  await expect(page.getByRole("radio", { name: /sticky/ })).toBeChecked();
  await page.getByRole("button", { name: "Back" }).click();
  await expect(page.getByRole("radio", { name: /haze/ })).toBeChecked();
  await context.setOffline(false);
  await expect(page.getByText("saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("radio", { name: /sticky/ })).toBeChecked();
  // Ended, it is kept no longer.
  await page.getByRole("button", { name: "Make safe" }).first().click();
  await page.getByRole("button", { name: "End the round" }).click();
  await page.getByLabel(/why/i).fill("no time");
  await page
    .locator("form")
    .filter({ has: page.getByLabel(/why/i) })
    .getByRole("button", { name: "End the round" })
    .click();
  await expect(page.getByText(/step \d+ of/)).toHaveCount(0);
  await expect.poll(() => page.evaluate(async () => (await (await caches.open("clenor-rounds")).keys()).length)).toBe(0);
});

test("a round of one's own choice takes along what is open anyway, and goes onto paper", async ({ page, shared: demo }) => {
  await page.goto(`${demo.url}/burdock/round?scope=own`);
  await page.getByRole("checkbox", { name: /^Upper mirror [\d.]/ }).check();
  // What lies behind a panel that is not for owners cannot be chosen.
  await expect(page.getByRole("checkbox", { name: /^Lower mirror/ })).toHaveCount(0);
  await page
    .getByRole("checkbox", { name: /^Rails [\d.\w %]*min/ })
    .first()
    .check();
  await page.getByRole("button", { name: "Plan these" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/minutes/);
  await expect(page.getByText("cabinet key")).toBeVisible();
  await page.getByRole("link", { name: "On paper" }).click();
  await expect(page.getByText("Loosen the captive screws and take the upper mirror out.")).toBeVisible();
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("button", { name: "Print" })).toBeHidden();
  await expectFits(page);
});

test("a damaged lens is replaced and the machine is fit again", async ({ page, demo }) => {
  await page.goto(`${demo.url}/larkspur/log?kind=grade&station=lens`);
  await page.getByRole("radio", { name: "damaged" }).check();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
  await page.goto(`${demo.url}/larkspur/today`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/Do not fire: the lens is damaged/);
  await page.getByRole("button", { name: "Start the round that fits it" }).click();
  await expect(page.getByText(/Lens · step 1/)).toBeVisible();
  await walkTo(page, /Inspect the spare lens/);
  await expect(page.getByText(/ladder before and after/)).toBeVisible();
  await walkToProof(page);
  const ladder = page.getByText("A ladder instead");
  if (await ladder.isVisible()) await ladder.click();
  await answerLadder(page, 6);
  await page.getByRole("checkbox", { name: /make this the new baseline/ }).check();
  await page.getByRole("button", { name: /^Close with this (test|ladder)/ }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/gained|less power|changed|closed/);
  await page.goto(`${demo.url}/larkspur/today`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/at \d+\smm\/s/);
  // The spare that went in is off the shelf.
  await page.getByRole("button", { name: /^Lens/ }).click();
  await expect(page.getByText("none in stock")).toBeVisible();
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test("the daily is nine steps at most, and its first cut closes it", async ({ page, demo }) => {
    await page.goto(`${demo.url}/teasel/round?scope=daily`);
    await expect(page.getByRole("heading", { level: 1 })).toHaveText(/Daily: [3-6](\.\d)? minutes, [1-9] steps/);
    await page.getByRole("button", { name: "Start this round" }).tap();
    await expect(page.getByText(/step 1 of [5-9] ·/)).toBeVisible();
    await page.locator(".tick input").check();
    for (let i = 0; i < 9; i++) {
      if (await page.getByRole("button", { name: "Close with this test" }).isVisible()) break;
      // Nothing that is answered lies behind the foot.
      const foot = await page.locator(".run-foot").boundingBox();
      const head = page.getByRole("heading", { level: 1 });
      const before = await head.textContent();
      for (const answer of [page.locator(".run-body .grade").first(), page.locator(".run-body .choices label").first()]) {
        if (!(await answer.isVisible())) continue;
        await answer.scrollIntoViewIfNeeded();
        const box = await answer.boundingBox();
        expect((box?.y ?? 0) + (box?.height ?? 0)).toBeLessThanOrEqual((foot?.y ?? 0) + 1);
        await answer.tap();
      }
      const tick = page.locator(".tick input");
      // A tick set while the page wakes up is unset for a moment: ticked again then, it would be taken back.
      if (await tick.isVisible())
        await expect(async () => {
          if (!(await tick.isChecked())) await tick.check({ timeout: 2000 });
          expect(await tick.isChecked()).toBe(true);
        }).toPass();
      await page.getByRole("button", { name: /Done, next/ }).tap();
      await expect(head).not.toHaveText(before ?? "");
    }
    await page.getByRole("radio", { name: "through", exact: true }).check();
    await page.getByRole("button", { name: "Close with this test" }).tap();
    await expect(page.getByRole("heading", { name: "Round closed." })).toBeVisible();
  });
});
