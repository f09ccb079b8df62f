/** The story on the demo: read Today, walk a round through a reload, log, trace the open case to its repair and proof. */
import { answerLadder, expect, expectAccessible, expectFits, test, walkToProof, watchConsole } from "./support";

test("Today answers first, and every place is clean for axe and the console", async ({ page, shared: demo }) => {
  const complaints = watchConsole(page);
  for (const [path, answer] of [
    ["/", /mm\/s/],
    ["/larkspur/round", /What is due: \d+ minutes/],
    ["/larkspur/round?scope=own&part=lens&part=rails", /Lens, Rails/],
    ["/burdock/round?scope=full", /Full: \d+ minutes/],
    ["/burdock/today", /mm\/s/],
    ["/teasel/trace", /What did you notice/],
    ["/larkspur/plan", /(Today|day \d+ \w+), \d+ minutes\./],
    ["/larkspur/plan?tab=tasks&task=lens", /, \d+ minutes\./],
    ["/larkspur/plan?tab=supplies", /, \d+ minutes\./],
    ["/larkspur/plan?tab=days", /, \d+ minutes\./],
    ["/teasel/mixes", /Never/],
    ["/teasel/mixes?tab=lens", /a spot of \d+ µm/],
    ["/larkspur/outlook?tab=costs", /Find the cause before you buy/],
    ["/larkspur/coupons?form=bed-map", /as strong in every corner/],
    ["/burdock/workshop", /Burdock, 60 W/],
    ["/burdock/workshop?tab=fittings", /Burdock/],
    ["/burdock/workshop?tab=materials", /Burdock/],
    ["/burdock/workshop?tab=shelf", /Burdock/],
    ["/larkspur/log?kind=ladder", /What happened/],
    ["/larkspur/trace/3", /nozzle/],
    ["/larkspur/trace/1", /^Repaired: /],
    ["/larkspur/trace/1/report", /^Repaired: /],
    ["/larkspur/trace", /is being traced/],
  ] as const) {
    await page.goto(demo.url + path);
    await expect(page.getByRole("heading", { level: 1 })).toHaveText(answer);
    await expectAccessible(page);
    await expectFits(page);
  }
  expect(complaints).toEqual([]);
});

test("a round survives a reload, warns everywhere that the machine is apart, and closes with what it bought", async ({ page, demo }) => {
  const complaints = watchConsole(page);
  await page.goto(`${demo.url}/larkspur/round?scope=own&part=lens&part=nozzle&part=mirror-3`);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/Lens and head mirror: [\d.]+ minutes/);
  await page.getByRole("button", { name: "Start this round" }).click();
  await expect(page.getByRole("heading", { name: "Make it safe before you open it." })).toBeVisible();

  // A step that protects cannot be passed without its tick.
  await expect(page.getByRole("button", { name: /Tick it first/ })).toBeDisabled();
  await page.locator(".tick input").check();
  await expectAccessible(page);
  await page.getByRole("heading", { level: 1 }).click();
  await page.keyboard.press("Space");
  await expect(page.getByRole("heading", { name: /Fetch it all now/ })).toBeVisible();
  await page.keyboard.press("Space");
  await expect(page.getByRole("heading", { name: /Wash your hands/ })).toBeVisible();
  for (const title of [
    "Take the hose, the elbow and the nozzle off, in the order this head allows.",
    "Take the ring out, then the lens.",
  ]) {
    await page.keyboard.press("Space");
    await expect(page.getByRole("heading", { name: title })).toBeVisible();
  }
  await page.keyboard.press("Space");
  await expect(page.getByRole("heading", { name: "Inspect the lens before you wipe it." })).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press("4");
  await expect(page.getByRole("radio", { name: /spots/ })).toBeChecked();
  await expect(page.getByText(/Only a suspicion yet/)).toBeVisible();
  await expect(page.getByText("saved", { exact: true })).toBeVisible();

  await page.reload();
  await expect(page.getByRole("heading", { name: "Inspect the lens before you wipe it." })).toBeVisible();
  await expect(page.getByRole("radio", { name: /spots/ })).toBeChecked();
  await page.keyboard.press("3");
  await page.keyboard.press("Space");
  await expect(page.getByRole("heading", { name: "Blow, brush, then make one damp pass." })).toBeVisible();
  await expect(page.getByText("Zinc selenide can give off toxic hydrogen selenide")).toBeVisible();
  await page.keyboard.press("Backspace");
  await expect(page.getByRole("heading", { name: "Inspect the lens before you wipe it." })).toBeVisible();

  for (const place of ["today", "log", "trace", "trace/3"]) {
    await page.goto(`${demo.url}/larkspur/${place}`);
    await expect(page.getByText("Machine apart: do not fire.")).toBeVisible();
  }
  await page.getByRole("link", { name: "To the open round" }).click();
  await walkToProof(page);
  await page.getByRole("button", { name: "Close with this test" }).click();
  await expect(page.getByText(/Say in which material, and how it went/)).toBeVisible();
  // The first cut would do here; a ladder says more.
  await page.getByText("A ladder instead").click();
  await page.getByRole("button", { name: "Close with this ladder" }).click();
  await expect(page.getByText(/at least one rung/)).toBeVisible();
  await answerLadder(page, 5);
  await expectAccessible(page);
  await page.getByRole("button", { name: "Close with this ladder" }).click();
  await expect(page.getByRole("heading", { name: /(gained|power)/ })).toBeVisible();
  await expect(page.getByText("Lens, before cleaning")).toBeVisible();
  await expectAccessible(page);
  await page.goto(`${demo.url}/larkspur/today`);
  await expect(page.getByText("Machine apart")).toHaveCount(0);
  await expect(page.getByRole("button", { name: /^Lens/ }).locator("..").getByText(/clear/)).toBeVisible();
  expect(complaints).toEqual([]);
});

test("the open case goes from answers to the repair, and its proof closes it", async ({ page, demo }) => {
  await page.goto(`${demo.url}/larkspur/trace/3`);
  const reasons = page.getByRole("region", { name: "What it could be, and why" });
  await expect(reasons).toContainText("M1 out of alignment");
  await expect(reasons).toContainText("worse with distance");
  const before = await page.getByRole("heading", { level: 1 }).textContent();

  // The two marks on M2 settle it: another check is chosen, answered with a number, and everything moves at once.
  await page.goto(`${demo.url}/larkspur/trace/3?check=tape-travel%402`);
  await expect(page.getByText(/lid and panels shut for every pulse/)).toBeVisible();
  await page.getByRole("button", { name: "a number in mm…" }).click();
  await page.getByLabel("mm apart").fill("far");
  await page.getByRole("button", { name: "Enter" }).click();
  await expect(page.getByText(/"far" is not a number/)).toBeVisible();
  await page.getByLabel("mm apart").fill("5,5");
  await page.getByRole("button", { name: "Enter" }).click();
  await expect(page.getByText("marks on M2 5.5 mm apart").first()).toBeVisible();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/M1/);

  await page.getByRole("button", { name: "undo last" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(before ?? "");
  await page.getByRole("button", { name: "bring back" }).click();
  await expect(page.getByRole("button", { name: "bring back" })).toHaveCount(0);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/M1/);

  // Sitting right in its seat leaves the aim itself.
  await page.goto(`${demo.url}/larkspur/trace/3?check=mirror-seat%401`);
  await page.getByRole("button", { name: "right", exact: true }).click();
  await page.goto(`${demo.url}/larkspur/trace/3?check=tape%401`);
  await page.getByRole("button", { name: "centred", exact: true }).click();
  await expect(page.getByText("mark on M1 centred").first()).toBeVisible();
  // The page came before it was weighed; what follows from it comes by itself.
  await expect(page.getByText("Working out what your result means.")).toBeHidden();
  if (!(await page.getByRole("button", { name: "Start the repair round" }).isVisible())) {
    await page.getByText("Another check, another repair, or close").click();
    await page.getByRole("button", { name: /Repair anyway: Align M1/ }).click();
  } else {
    // All that was seen bad is done with it.
    await expect(page.getByText(/In the same round:.*M2/)).toBeVisible();
    await page.getByRole("button", { name: "Start the repair round" }).click();
  }
  await expect(page.getByText(/Align M1 · step/)).toBeVisible();
  await walkToProof(page);
  // A weak ladder proves nothing: the case goes on with it as a finding.
  await answerLadder(page, 1);
  await page.getByRole("button", { name: "Close with this test" }).click();
  await expect(page.getByText("The case stays open")).toBeVisible();
  await page.getByRole("link", { name: "Go on with the case" }).click();
  // The case goes on to what else it could be: what was found before still speaks, but what was done is not named again.
  await expect(page.getByRole("heading", { level: 2, name: /Possibly|Probably|Very likely|Almost certainly/ })).toBeVisible();
  await expect(page.getByText("marks on M2 5.5 mm apart, before the repair")).toBeVisible();
  await page.getByText("Another check, another repair, or close").click();
  await expect(page.getByRole("button", { name: /Repair anyway|Start the repair round/ }).first()).not.toHaveText(/M1's aim|Clean M2/);
  await page
    .getByRole("button", { name: /Repair anyway|Start the repair round/ })
    .first()
    .click();
  await walkToProof(page);
  await page.getByText("I cut other speeds").click();
  for (let i = 0; i < 5; i++) await page.getByRole("button", { name: "One rung more" }).click();
  await answerLadder(page, 9);
  await page.getByRole("button", { name: "Close with this test" }).click();
  await expect(page.getByText("The final test closed the case.")).toBeVisible();
  await page.getByRole("link", { name: "See the case report" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/^Repaired: /);
  await expectAccessible(page);
  await page.getByRole("link", { name: "Report to print" }).click();
  await expect(page.getByRole("heading", { name: "What was done" })).toBeVisible();
  await expect(page.getByText(/^Align M1: \d+ min$/)).toBeVisible();
  const file = await page.request.get(`${demo.url}/larkspur/trace/3/case.json`);
  expect(await file.json()).toMatchObject({ machine: { preset: "three-mirror" }, symptom: "power" });

  // It came back: the case goes on, and another that has nothing to do with it beside it.
  await page.getByRole("link", { name: "Back" }).click();
  await page.getByRole("button", { name: "It came back: open it again" }).click();
  await expect(page.getByRole("heading", { level: 1 })).not.toHaveText(/^Repaired: /);
  await page.goto(`${demo.url}/larkspur/trace`);
  await page.getByRole("checkbox", { name: "Jerky travel, gaps in an engraved face" }).check();
  await page.getByRole("checkbox", { name: "Engraved edges wave, lines shift" }).check();
  await page.getByRole("button", { name: "Start tracing" }).click();
  await expect(page.getByText(/^Case 4, Larkspur/)).toBeVisible();
  await page.goto(`${demo.url}/larkspur/today`);
  await expect(page.getByText(/1 more open case/)).toBeVisible();
});

test("the log takes entries fast, asks about odd hours, and corrects without losing history", async ({ page, demo }) => {
  await page.goto(`${demo.url}/larkspur/today`);
  const hours = page.getByLabel("Hours on the counter");
  await hours.fill("12");
  await page.getByRole("button", { name: "Save hours" }).click();
  await expect(page.getByText(/The counter showed/)).toBeVisible();
  await expect(hours).toHaveValue("12");
  await page.getByRole("radio", { name: "new tube" }).check();
  await page.getByRole("button", { name: "Save hours" }).click();
  await expect(page.getByRole("button", { name: /^Tube/ }).locator("..").getByText("12 h")).toBeVisible();

  await page.goto(`${demo.url}/larkspur/log?kind=job`);
  await page.getByLabel("Beam on for").fill("1 h");
  await page.getByLabel("When").fill("2027-01-01T08:00");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("That is in the future")).toBeVisible();
  await page.getByLabel("When").fill("2026-11-24T08:00");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
  const line = page.getByRole("row", { name: /3 mm birch ply, 60 min/ });
  await line.getByRole("link").click();
  await expect(page.getByRole("heading", { name: "Correct this entry." })).toBeVisible();
  await page.getByLabel("Beam on for").fill("45");
  await page.getByRole("button", { name: "Save the correction" }).click();
  await expect(page.getByText("Corrected. The first version stays")).toBeVisible();
  await expect(page.getByRole("row", { name: /3 mm birch ply, 45 min · corrected/ })).toBeVisible();

  await page.goto(`${demo.url}/larkspur/log?kind=power`);
  await page.getByLabel("After M1").fill("70 W");
  await page.getByLabel("After Tube").fill("50");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("row", { name: /Tube 50 W, M1 70 W/ })).toBeVisible();
  await page.goto(`${demo.url}/larkspur/trace/3`);
  await expect(page.getByText(/Doubtful readings/)).toBeVisible();
  await expect(page.getByText(/more light after M1 than after Exit window/).first()).toBeVisible();
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test("Today, Round and Trace fit one hand", async ({ page, demo }) => {
    for (const path of [
      "today",
      "round",
      "trace/3",
      "workshop",
      "workshop?tab=fittings",
      "workshop?tab=files",
      "mixes?tab=lens",
      "outlook",
      "outlook?tab=book",
      "coupons",
    ]) {
      await page.goto(`${demo.url}/larkspur/${path}`);
      await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
      await expectFits(page);
      // What is laid out anew for a phone; the rest is what it is at a desk.
      if (path === "today" || path === "trace/3") await expectAccessible(page);
    }
    await page.goto(`${demo.url}/larkspur/round?scope=daily`);
    await page.getByRole("button", { name: "Start this round" }).tap();
    await expect(page.getByText(/step 1 of/)).toBeVisible();
    await page.locator(".tick input").check();
    await page.getByRole("button", { name: /Done, next/ }).tap();
    await expect(page.getByRole("radiogroup")).toBeVisible();
    // All five grades and the way on are in reach at once.
    await expect(page.getByRole("radio", { name: "damaged" })).toBeInViewport();
    await expect(page.getByRole("button", { name: /Say its condition/ })).toBeInViewport();
    for (const target of await page.locator(".grade, .run-foot .ant-btn, .way button, .who .ant-input-affix-wrapper").all()) {
      const box = await target.boundingBox();
      expect(box?.height).toBeGreaterThanOrEqual(44);
    }
    await expectFits(page);
  });
});

test("a spare lens that cuts ends the case, stays in, and is gone from the shelf", async ({ page, demo }) => {
  await page.goto(`${demo.url}/larkspur/trace/3?check=lens-swap`);
  await expect(page.getByRole("heading", { name: "Try the spare lens" })).toBeVisible();
  await expect(page.getByText(/Unplug the machine first and wear gloves/)).toBeVisible();
  await page.getByRole("button", { name: "cuts now" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Tried, and it cuts through.");
  await expect(page.getByRole("heading", { name: "Fit the spare lens: done" })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Close the case with it" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/^Repaired: /);
  await page.goto(`${demo.url}/larkspur/trace/3/report`);
  await expect(page.getByText("Fit the spare lens: tried, and what had failed passed.")).toBeVisible();
  await expect(page.getByText(/New part: Lens/)).toBeVisible();
  await page.goto(`${demo.url}/larkspur/workshop?station=lens`);
  await expect(page.getByLabel("Spares in stock")).toHaveValue("0");
});

test("a clean told to the log is an event of the open case: the tests that failed come first", async ({ page, demo }) => {
  await page.goto(`${demo.url}/larkspur/log`);
  await page.getByLabel("In one line").fill("M2 cleaned");
  await page.getByRole("button", { name: "Save line" }).click();
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
  await page.goto(`${demo.url}/larkspur/trace/3`);
  const verdict = page.getByRole("heading", { level: 1 });
  await expect(verdict).toHaveText("First repeat the test that failed.");
  await expect(page.getByText("Done since it failed: Clean M2.")).toBeVisible();
  await page.getByRole("button", { name: "drops through" }).click();
  await expect(page.getByRole("heading", { name: "Cut a speed ladder" })).toBeVisible();
  await expect(verdict).toHaveText("First repeat the test that failed.");
  await expectAccessible(page);
});
