import { type ChildProcess, spawn } from "node:child_process";
import { expect, type Page, test } from "@playwright/test";
import { ownServer } from "./ownServer";
import { fillCase, scanBothThemes, settled, signIn, startCase } from "./steps";

const cervical = {
  tooth: "33",
  answer: "lower left 3",
  birthYear: "1970",
  finding: "Cervical caries",
  site: "Facial",
};

const stepAtHand = (page: Page) => page.getByRole("region", { name: "Step at hand" });

async function begin(page: Page) {
  await page.getByRole("link", { name: "At the chair" }).click();
  await page.getByRole("button", { name: "Begin the first step" }).click();
  await expect(stepAtHand(page).getByText(/^1 of/)).toBeVisible();
}

/** Leaves the step at hand; where time decides, the first press has started its clock. */
async function onward(page: Page, key: string) {
  const clocked = await page.getByRole("button", { name: "Start the clock" }).isVisible();
  await page.keyboard.press(key);
  if (!clocked) return;
  await expect(page.getByRole("button", { name: "Done" })).toBeVisible();
  await page.keyboard.press(key);
}

/** Does all steps from the one at hand to the last, and finishes; gives what was done. */
async function toTheEnd(page: Page) {
  const at = stepAtHand(page);
  const heading = at.getByRole("heading", { level: 1 });
  const done: string[] = [];
  for (;;) {
    const step = (await heading.textContent()) ?? "";
    if (step === "All steps done") break;
    done.push(step);
    const number = (await at.getByText(/^\d+ of \d+$/).textContent()) ?? "";
    await onward(page, "Space");
    await expect(at.getByText(number, { exact: true })).toBeHidden();
  }
  await page.keyboard.press("Space");
  await expect(heading).toHaveText("Finished");
  return done;
}

/** Goes on to the step of a name, all before it skipped. */
async function skipTo(page: Page, name: string) {
  const at = stepAtHand(page);
  const here = at.getByRole("heading", { name, exact: true });
  for (;;) {
    const number = (await at.getByText(/^\d+ of \d+$/).textContent()) ?? "";
    if (await here.isVisible()) return;
    await page.keyboard.press("s");
    await expect(at.getByText(number, { exact: true })).toBeHidden();
  }
}

test("steps are proven by cutting, and scrubbed through in the drawings", async ({ page }) => {
  await signIn(page);
  await startCase(page, { ...cervical, code: "HV-911" });
  const drawn = await page
    .getByTestId(/^view-.*facial$/)
    .first()
    .locator("path")
    .count();
  await page.getByRole("button", { name: "Prove by cutting" }).click();
  await expect(page.getByText("Proven by cutting")).toBeVisible();
  await page
    .getByRole("list", { name: "Instruments in order" })
    .getByRole("button", { name: /Open to size/ })
    .click();
  const step = page.getByRole("complementary", { name: "Step" });
  await expect(step.getByRole("heading", { name: "Open to size" })).toBeVisible();
  await expect(step.getByText(/turning with the surface/)).toBeVisible();
  await expect(step.getByText(/make it within 0.05 mm/)).toBeVisible();
  // The bur stands in the drawing, its head and its shank.
  await expect(step.getByText(/^After step 3 of \d+$/)).toBeVisible();
  await expect
    .poll(() =>
      page
        .getByTestId(/^view-.*facial$/)
        .first()
        .locator("path")
        .count(),
    )
    .not.toBe(drawn);
  const slider = step.getByRole("slider", { name: "Step of the sequence" });
  await slider.focus();
  await page.keyboard.press("Home");
  await expect(step.getByRole("heading", { name: /Confirm/ })).toBeVisible();
  await page.keyboard.press("End");
  await expect(step.getByRole("heading", { name: "Clean and inspect" })).toBeVisible();
  await step.getByRole("button", { name: "Back to the checks" }).click();
  await expect(page.getByRole("complementary", { name: "Checks" })).toBeVisible();
  // Another figure needs another proof.
  const depth = page.getByRole("textbox", { name: /^Depth/ }).first();
  await depth.fill("1.3");
  await depth.press("Enter");
  await expect(page.getByRole("button", { name: "Prove by cutting" })).toBeVisible();
});

test("a whole sequence at the chair by keyboard alone, with a reload and slips", async ({ page }) => {
  await signIn(page);
  await startCase(page, { ...cervical, code: "HV-912" });
  await begin(page);
  const at = stepAtHand(page);
  const of = Number((await at.getByText(/^1 of/).textContent())?.split(" ").pop());
  const press = async (...keys: string[]) => {
    for (const key of keys) await page.keyboard.press(key);
  };
  await press("Space", "Space", "Space", "Space");
  await expect(at.getByText(`5 of ${of}`)).toBeVisible();
  await press("ArrowLeft");
  await expect(at.getByText(`4 of ${of}`)).toBeVisible();
  await press("Space", "d", "3");
  await expect(at.getByText(/0.3 mm too deep leaves about/)).toBeVisible();
  await press("n");
  await expect(at.getByText(/finest disc/)).toBeVisible();
  await press("1", "2");
  await expect(at.getByText("Read: 1.2 mm.")).toBeVisible();
  await press("p");
  await expect(page.getByText("Paused")).toBeVisible();
  await expect(page.getByText(/not sent yet/)).toBeHidden();
  await page.reload();
  await expect(at.getByText(`5 of ${of}`)).toBeVisible();
  await expect(page.getByText("Paused")).toBeVisible();
  await expect(at.getByText(/finest disc/)).toBeVisible();
  await press("p", "s");
  for (let n = 6; n <= of; n++) {
    await expect(at.getByText(`${n} of ${of}`)).toBeVisible();
    await onward(page, "PageDown"); // as a foot switch sends it
  }
  await expect(at.getByRole("heading", { name: "All steps done" })).toBeVisible();
  await expect(at.getByText(/^Skipped: Open to size/)).toBeVisible();
  await press("Space");
  await expect(at.getByRole("heading", { name: "Finished" })).toBeVisible();
  await page.getByRole("button", { name: "Close" }).click();
  await expect(page.getByRole("region", { name: "Earlier runs" }).getByText("2 slips")).toBeVisible();
});

test("two windows of one run lose nothing, online or cut off", async ({ page, context }) => {
  await signIn(page);
  await startCase(page, { ...cervical, code: "HV-916" });
  await begin(page);
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(stepAtHand(other).getByText(/^1 of/)).toBeVisible();
  // Both note their first event.
  await page.keyboard.press("n");
  await expect(page.getByText("Noted: neighbour touched.")).toBeVisible();
  await expect(page.getByText(/not sent yet/)).toBeHidden();
  await other.keyboard.press("u");
  await expect(other.getByText("Noted: pulp seen.")).toBeVisible();
  // What is done then stands there, in its order.
  const exposed = other.getByRole("list", { name: "What to do now" }).getByRole("listitem");
  await expect(exposed.first()).toContainText("Stop cutting");
  await expect(exposed.nth(3)).toContainText("calcium silicate");
  await expect(other.getByText(/not sent yet/)).toBeHidden();
  // Both are cut off, note more, and are closed.
  await context.setOffline(true);
  for (const [window, key] of [
    [page, "d"],
    [page, "2"],
    [other, "1"],
    [other, "3"],
  ] as const)
    await window.keyboard.press(key);
  await expect(page.getByText(/not sent yet: 1/)).toBeVisible();
  await expect(other.getByText(/not sent yet: 1/)).toBeVisible();
  const address = page.url();
  await page.close();
  await other.close();
  await context.setOffline(false);
  const again = await context.newPage();
  await again.goto(address);
  await expect(stepAtHand(again).getByText(/^1 of/)).toBeVisible();
  await expect(again.getByText(/not sent yet/)).toBeHidden();
  const run = await again.request.get(
    address.replace(/^(https?:\/\/[^/]+)\/(.*)$/, "$1/api/$2").replace("/chair/", "/runs/"),
  );
  const kept = (await run.json()).events.map((e: { kind: string; mm?: number }) =>
    `${e.kind} ${e.mm ?? ""}`.trim(),
  );
  expect(kept.sort()).toEqual(["neighbour_touched", "pulp_seen", "reading 1.3", "too_deep 0.2"]);
});

test("a foot switch that speaks WebSocket takes the steps, and comes back after it was gone", async ({
  page,
}) => {
  const switches: ChildProcess[] = [];
  const footSwitch = () => {
    const one = spawn("../bin/obturon", ["pedal"], { stdio: ["pipe", "ignore", "inherit"] });
    switches.push(one);
    return one;
  };
  try {
    await signIn(page);
    await startCase(page, { ...cervical, code: "HV-392" });
    await begin(page);
    const at = stepAtHand(page);
    await page.getByRole("button", { name: "Use a foot switch" }).click();
    await expect(page.getByText("Foot switch: none answers yet")).toBeVisible();
    const first = footSwitch();
    await expect(page.getByText("Foot switch connected")).toBeVisible();
    first.stdin?.write("\n\nb\nnonsense\n");
    await expect(at.getByText(/^2 of/)).toBeVisible();
    first.stdin?.write("p\n");
    await expect(page.getByText("Paused")).toBeVisible();
    first.kill();
    await expect(page.getByText("Foot switch: none answers yet")).toBeVisible();
    footSwitch().stdin?.write("p\n"); // pressed before anybody listens: nothing happens
    await expect(page.getByText("Foot switch connected")).toBeVisible();
    await expect(page.getByText("Paused")).toBeVisible();
    await page.getByRole("button", { name: "Foot switch connected" }).click();
    await expect(page.getByText("Use a foot switch")).toBeVisible();
  } finally {
    for (const one of switches) one.kill();
  }
});

test("the chair is read from a metre and a half, in both themes; an examination gives no hints", async ({
  page,
}) => {
  await signIn(page);
  await startCase(page, { ...cervical, code: "HV-913" });
  await begin(page);
  for (let n = 0; n < 4; n++) await page.keyboard.press("Space"); // numb and dry
  const at = stepAtHand(page);
  await expect(at.getByText(/turning with the surface/)).toBeVisible();
  const small = await at
    .locator("p, h1, b, span")
    .evaluateAll((all) => all.filter((e) => Number.parseFloat(getComputedStyle(e).fontSize) < 32).length);
  expect(small).toBe(0);
  await scanBothThemes(page, "at the chair");
  await page.goBack();
  await page.getByRole("checkbox", { name: /As in an examination/ }).check();
  await page.getByLabel("Limit, minutes").fill("0");
  await page.getByRole("button", { name: /Begin/ }).click();
  await expect(page.getByText("Whole minutes from 1 to 600")).toBeVisible();
  await page.getByLabel("Limit, minutes").fill("45");
  await page.getByRole("button", { name: /Begin/ }).click();
  await expect(page.getByText("Examination: no hints.")).toBeVisible();
  await expect(page.getByText("of 45:00")).toBeVisible();
  await expect(at.getByText("pencil")).toBeHidden();
});

test("a neck is filled at the chair: two clocks at once, and a reload in mid-exposure", async ({ page }) => {
  await signIn(page);
  await startCase(page, { ...cervical, code: "HV-894" });
  await begin(page);
  const at = stepAtHand(page);
  const clocks = at.getByRole("list", { name: "Clocks" }).getByRole("listitem");
  const left = async (n: number) =>
    Number.parseInt((await clocks.nth(n).locator("b").textContent()) ?? "", 10);
  await skipTo(page, "Etch enamel");
  await expect(clocks).toHaveCount(0);
  await onward(page, "Space"); // left at once, its clock goes on
  await expect(at.getByRole("heading", { name: "Etch dentin" })).toBeVisible();
  await page.keyboard.press("Space");
  await expect(clocks).toHaveCount(2);
  expect(await left(1)).toBeLessThanOrEqual(await left(0)); // the step at hand has the first
  await expect(page.getByText(/not sent yet/)).toBeHidden();
  const before = await left(1);
  await page.reload();
  await expect(clocks).toHaveCount(2);
  await expect.poll(() => left(1)).toBeLessThan(before);
  await page.getByRole("button", { name: "Stop the clock: Etch enamel" }).click();
  await expect(clocks).toHaveCount(1);
  for (const next of ["Rinse", "Dry", "Bond", "Air-thin", "Cure the bond", "Lay flowable at the neck"]) {
    await page.keyboard.press("s");
    await expect(at.getByRole("heading", { name: next })).toBeVisible();
  }
  await page.keyboard.press("s");
  await page.keyboard.press("c"); // the clock has a key of its own
  await expect(clocks.filter({ hasText: "Cure flowable at the neck" })).toHaveCount(1);
  await expect(page.getByText(/not sent yet/)).toBeHidden();
  await page.reload();
  await expect(clocks.filter({ hasText: "Cure flowable at the neck" }).getByText(/to go/)).toBeVisible();
  await expect(page.getByTestId("view-along").or(page.getByTestId(/^view-.*along$/))).toBeVisible();
  await scanBothThemes(page, "clocks at the chair");
});

test("an amalgam is packed at the chair, its clocks from the end of trituration", async ({ page }) => {
  await signIn(page);
  await startCase(page, { tooth: "37", answer: "lower left 7", code: "HV-895", finding: "Fissure caries" });
  await begin(page);
  const at = stepAtHand(page);
  const clocks = at.getByRole("list", { name: "Clocks" }).getByRole("listitem");
  await skipTo(page, "Triturate");
  await onward(page, "Space");
  await expect(at.getByRole("heading", { name: "Condense" })).toBeVisible();
  await expect(clocks.filter({ hasText: "Condense" })).toHaveCount(1);
  await expect(clocks.filter({ hasText: "Carve" })).toHaveCount(1);
  await toTheEnd(page);
  await expect(clocks).toHaveCount(0);
});

test("a composite box and an amalgam MOD are filled by keyboard, from clean cavity to done", async ({
  page,
}) => {
  await signIn(page);
  await startCase(page, {
    tooth: "46",
    answer: "lower right 6",
    code: "HV-898",
    finding: "Proximal caries",
    site: "Distal",
    material: "Composite",
  });
  await begin(page);
  await skipTo(page, "Sectional band with a ring");
  const box = await toTheEnd(page);
  for (const step of [
    "Etch enamel",
    "Bond",
    /^Lay /,
    /^Cure /,
    "Matrix off",
    "Floss",
    "Check occlusion",
    "Tell the patient",
  ])
    expect(box).toContainEqual(typeof step === "string" ? step : expect.stringMatching(step));

  await fillCase(page, { tooth: "47", answer: "lower right 7", code: "HV-899" });
  await page.getByRole("button", { name: "Mesial on the drawing" }).click();
  await page.getByRole("button", { name: "Distal on the drawing" }).click();
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByTestId("sheet")).toBeVisible();
  await settled(page);
  await begin(page);
  await skipTo(page, "Band round the tooth, in a retainer");
  const mod = await toTheEnd(page);
  for (const step of [
    "Triturate",
    "Condense",
    "Burnish",
    "Matrix off",
    "Carve",
    "Floss",
    "Check occlusion",
    "Tell the patient",
  ])
    expect(mod).toContain(step);
});

test("two necks are filled in one sitting: all etched, all bonded, then each filled", async ({ page }) => {
  await signIn(page);
  for (const [tooth, answer] of [
    ["43", "lower right 3"],
    ["44", "lower right 4"],
  ] as const)
    await startCase(page, { ...cervical, tooth, answer, code: "HV-891", material: "Composite" });
  const sitting = page.getByRole("region", { name: "One sitting" });
  await expect(sitting).toContainText("44, 43");
  await sitting.getByRole("link", { name: "Begin the sitting" }).click();
  await expect(page.getByRole("checkbox", { name: /With 43 in one sitting/ })).toBeChecked();
  await page.getByRole("button", { name: "Begin the first step" }).click();
  const at = stepAtHand(page);
  await expect(at.getByText(/^1 of/)).toBeVisible();
  await skipTo(page, "Open to size, 44");
  await expect(page.getByTestId(/^view-/).first()).toBeVisible();
  await skipTo(page, "Etch enamel, 44");
  // The first tooth's clock runs while the second is reached.
  await onward(page, "Space");
  await expect(at.getByRole("heading", { name: "Etch enamel, 43" })).toBeVisible();
  await page.keyboard.press("Space");
  await expect(at.getByRole("list", { name: "Clocks" }).getByText(/^Etch enamel, 4[34]/)).toHaveCount(2);
  const done = await toTheEnd(page);
  const of = (name: string) => done.flatMap((d, n) => (d.startsWith(name) ? [n] : []));
  expect(of("Rinse, 44 and 43")).toHaveLength(1);
  const [last, first] = [Math.max(...of("Cure the bond")), Math.min(...of("Lay "))];
  expect(of("Cure the bond")).toHaveLength(2);
  expect(last).toBeLessThan(first);
  expect(Math.max(...of("Cure second addition, 44"))).toBeLessThan(
    Math.min(...of("Lay flowable at the neck, 43")),
  );
  await page.getByRole("button", { name: "Close" }).click();
  await expect(page.getByRole("region", { name: "Earlier runs" }).getByText("44 and 43")).toBeVisible();
});

test("a run at the chair and a tolerance run go on while the server is gone", async ({ page }) => {
  await ownServer(page, ["HV-089", "lower left canine"], async (server) => {
    const sheet = page.url();
    await begin(page);
    const at = stepAtHand(page);
    await server.stop();
    for (let n = 0; n < 3; n++) await page.keyboard.press("Space");
    await expect(at.getByText(/^4 of/)).toBeVisible();
    await expect(page.getByText(/not sent yet: 3/)).toBeVisible();
    await server.start();
    await expect(page.getByText(/not sent yet/)).toBeHidden();
    await page.reload();
    await expect(at.getByText(/^4 of/)).toBeVisible();

    await page.goto(`${sheet}/hands`);
    await page.getByLabel("Cuts", { exact: true }).fill("20");
    await page.getByRole("button", { name: "Cut it" }).click();
    const run = page.getByRole("region", { name: "Tolerance run" });
    await expect(run.getByText(/^[1-9]\d* of/)).toBeVisible();
    await server.stop();
    const done = async () => Number.parseInt((await run.getByText(/^[1-9]\d* of/).textContent()) ?? "", 10);
    const before = await done();
    await server.start();
    await expect.poll(done).toBeGreaterThan(before);
  });
});

test("a hand as numbers: cut, given up, cut to the end", async ({ page }) => {
  await signIn(page);
  await startCase(page, { ...cervical, code: "HV-914" });
  await page.getByRole("link", { name: "Your hands" }).click();
  const cuts = page.getByLabel("Cuts", { exact: true });
  const tilt = page.getByLabel(/The bur leans off by/);
  await tilt.fill("40");
  await page.getByRole("button", { name: "Cut it" }).click();
  await expect(page.getByText("From 0 to 15")).toBeVisible();
  await tilt.fill("3");
  await cuts.fill("2000");
  await page.getByRole("button", { name: "Cut it" }).click();
  const run = page.getByRole("region", { name: "Tolerance run" });
  await expect(run.getByText(/^[1-9]\d* of 2140$/)).toBeVisible();
  await run.getByRole("button", { name: "Cancel" }).click();
  await expect(run.getByText("Cancelled")).toBeVisible();
  await cuts.fill("10");
  await page.getByRole("button", { name: "Cut it" }).click();
  await expect(run.getByText("Finished")).toBeVisible({ timeout: 120_000 });
  await expect(run.getByText("80 of 80")).toBeVisible();
  await expect(run.getByRole("row", { name: /Dentin over the pulp/ })).toBeVisible();
  await scanBothThemes(page, "your hands");
  await page.reload();
  await expect(run.getByText("Finished")).toBeVisible();
  await expect(tilt).toHaveValue("3");
});
