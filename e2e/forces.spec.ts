import { expect, type Page, test } from "@playwright/test";
import { ownServer } from "./ownServer";
import { scanBothThemes, settled, signIn, startCase } from "./steps";

/** Starts a distal amalgam box. */
async function startBox(page: Page, tooth: string, answer: string, code: string) {
  await signIn(page);
  await startCase(page, {
    tooth,
    answer,
    code,
    finding: "Proximal caries",
    site: "Distal",
    material: "Amalgam",
  });
}

async function openForces(page: Page) {
  await page.getByRole("navigation", { name: "Forms" }).getByRole("button", { name: "Forces" }).click();
  const panel = page.getByRole("complementary", { name: "Forces" });
  await expect(panel).toHaveAttribute("aria-busy", "false");
  return panel;
}

test("a filling that would slide out is explained, and held by the change that is offered", async ({
  page,
}) => {
  await startBox(page, "45", "lower right 5", "HV-887");
  await page.getByRole("combobox", { name: /^Form/ }).selectOption("slot");
  await settled(page);
  const depth = page.getByRole("textbox", { name: /Retention groove depth/ });
  await depth.fill("0");
  await depth.press("Enter");
  await settled(page);
  const panel = await openForces(page);
  const pull = panel.locator('[data-pull="Pulled towards distal"]');
  const held = async () => Number.parseFloat((await pull.locator("b").textContent()) ?? "") || 0;
  const before = await held();
  await panel
    .getByRole("listitem")
    .filter({ hasText: /^A pair of grooves.*pulled towards distal/ })
    .getByRole("button", { name: /^Set/ })
    .click();
  await settled(page);
  await expect(panel).toHaveAttribute("aria-busy", "false");
  await expect.poll(held).toBeGreaterThan(before + 0.05);
  await expect(pull).toHaveAttribute("data-state", "held");
  await pull.getByRole("button").click();
  await expect(pull).toContainText("held by the retention grooves");
});

test("the load is moved on the drawing, and the picture and the cusps follow", async ({ page }) => {
  await startBox(page, "47", "lower right 7", "HV-888");
  await settled(page);
  const panel = await openForces(page);
  const picture = page.getByTestId("strain").locator("path").first();
  await expect(picture).toBeAttached();
  const before = await picture.getAttribute("d");
  const cusps = await panel.getByTestId("deflection").textContent();
  const load = page.getByRole("slider", { name: /Load on the facial incline/ });
  const handle = load.locator("line").first();
  const box = await handle.boundingBox();
  if (!box) throw new Error("the load is not drawn");
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  const middle = await page.getByTestId("view-buccolingual").boundingBox();
  const inwards = (middle?.x ?? 0) + (middle?.width ?? 0) / 2 > box.x ? 1 : -1;
  await page.mouse.move(box.x + box.width / 2 + inwards * 12, box.y + box.height / 2, { steps: 3 });
  await page.mouse.up();
  const down = Number(await load.getAttribute("aria-valuenow"));
  await expect(panel).toHaveAttribute("aria-busy", "false");
  expect(down).not.toBe(0.7);
  await load.focus();
  await page.keyboard.press("ArrowLeft");
  await expect(load).toHaveAttribute("aria-valuenow", String(Math.round((down - 0.1) * 10) / 10));
  await expect(panel).toHaveAttribute("aria-busy", "false");
  await expect.poll(() => picture.getAttribute("d")).not.toBe(before);
  await expect.poll(() => panel.getByTestId("deflection").textContent()).not.toBe(cusps);

  // A pull of one's own is turned on the drawing, by key and by figure.
  await panel.getByRole("button", { name: "Pull another way" }).click();
  const own = panel.getByRole("region", { name: "Your own pull" });
  await expect(own.getByText(/Pulled out along the bur/)).toBeVisible();
  const head = page.getByRole("slider", { name: "Your own pull, degrees towards facial" });
  const knob = await head.boundingBox();
  if (!knob) throw new Error("the pull is not drawn");
  await page.mouse.move(knob.x + knob.width / 2, knob.y + knob.height / 2);
  await page.mouse.down();
  await page.mouse.move(knob.x + knob.width / 2 + 30, knob.y + knob.height / 2 + 6, { steps: 3 });
  await page.mouse.up();
  expect(Math.abs(Number(await head.getAttribute("aria-valuenow")))).toBeGreaterThan(5);
  await page.getByRole("slider", { name: "Your own pull, degrees towards mesial" }).focus();
  await page.keyboard.press("ArrowRight");
  await expect(own.getByText(/Pulled out 5° towards mesial and \d+° towards (facial|lingual)/)).toBeVisible();
  await own.getByLabel("Your own pull, towards mesial").fill("120");
  await own.getByLabel("Your own pull, towards mesial").blur();
  await expect(own.getByText(/80/)).toBeVisible();
  await own.getByRole("button", { name: "Leave it" }).click();
  await expect(head).toBeHidden();

  // Its tail turned, it slants; a flat antagonist meets the tips alone.
  const slant = page.getByRole("slider", { name: /Slant of the load on the facial side/ });
  const tail = await slant.boundingBox();
  if (!tail) throw new Error("the load's tail is not drawn");
  await page.mouse.move(tail.x + tail.width / 2, tail.y + tail.height / 2);
  await page.mouse.down();
  await page.mouse.move(tail.x + tail.width / 2 + 14, tail.y + tail.height / 2 + 4, { steps: 3 });
  await page.mouse.up();
  const turned = Number(await slant.getAttribute("aria-valuenow"));
  expect(Math.abs(turned)).toBeGreaterThan(5);
  await slant.focus();
  await page.keyboard.press("ArrowRight");
  await expect(slant).toHaveAttribute("aria-valuenow", String(Math.min(turned + 5, 45)));
  await expect(panel.getByText(/It slants \d+ degrees/).first()).toBeVisible();
  await panel.getByLabel("Where it presses").selectOption("antagonist");
  await expect(panel.getByText(/by a flat antagonist, on the \d tips that reach it/)).toBeVisible();
  await panel.getByLabel("Where it presses").selectOption("between_cusps");
  await panel.getByLabel(/Slant of the load/).fill("");
  await panel.getByLabel(/Slant of the load/).blur();
  await expect(panel).toHaveAttribute("aria-busy", "false");

  // The same section with a bonded filling is strained less; a wrong load is told.
  await panel.getByRole("radio", { name: "bonded" }).check();
  await expect(
    panel.getByText(/In this section the two sides deflect (apart|towards each other) by/),
  ).toBeVisible();
  await panel.getByLabel("Load in newtons").fill("5000");
  await panel.getByLabel("Load in newtons").blur();
  await expect(panel.getByText(/1000/).first()).toBeVisible();
  await panel.getByLabel("Load in newtons").fill("200");
  await panel.getByLabel("Load in newtons").blur();
  await expect(panel).toHaveAttribute("aria-busy", "false");
  await scanBothThemes(page, "forces");
});

test("sound and cut, two radii, two schools: the section side by side", async ({ page }) => {
  await startBox(page, "25", "upper left 5", "HV-892");
  await settled(page);
  const panel = await openForces(page);
  await panel.getByRole("button", { name: "Side by side" }).click();
  const dialog = page.getByRole("dialog", { name: "The section under load" });
  const picture = (name: string | RegExp) => dialog.getByRole("figure", { name });
  for (const name of ["Sound", /^As cut/, "With a bonded composite", /^Line angles/, /^By the/])
    await expect(picture(name).getByRole("img")).toBeVisible();
  const said = (name: string | RegExp) => picture(name).locator("p").last().textContent();
  const drawn = (name: string | RegExp) => picture(name).locator("path").first().getAttribute("d");
  const micrometres = async (name: string | RegExp) =>
    Number.parseFloat(/opens by ([\d.]+)/.exec((await said(name)) ?? "")?.[1] ?? "");
  expect(await micrometres("Sound")).toBeLessThan(await micrometres(/^As cut/));
  expect(await micrometres("With a bonded composite")).toBeLessThan(await micrometres(/^As cut/));
  expect(await drawn(/^Line angles/)).not.toBe(await drawn(/^As cut/));
  expect(await said(/^Line angles/)).not.toBe(await said(/^As cut/));
  await expect(
    dialog.getByText(/a radius of [\d.]+ instead of [\d.]+ mm would take the tension/),
  ).toBeVisible();
  const before = await drawn(/^By the/);
  await dialog.getByLabel("The other school").selectOption({ index: 1 });
  await expect.poll(() => drawn(/^By the/)).not.toBe(before);
  await scanBothThemes(page, "sections side by side");
});

test("finer cells are computed while the server is away; constants are the practice's own", async ({
  page,
}) => {
  await ownServer(page, ["HV-081", "lower right second molar"], async (server) => {
    const panel = await openForces(page);
    const fine = panel.getByRole("region", { name: "On finer cells" });
    await fine.getByRole("button", { name: "Compute" }).click();
    await expect(fine.getByRole("progressbar")).toBeVisible();
    await fine.getByRole("button", { name: "End it" }).click();
    await expect(fine.getByText("It was ended before it was done.")).toBeVisible();
    await fine.getByRole("button", { name: "Compute" }).click();
    const share = async () => Number((await fine.getByRole("progressbar").getAttribute("value")) ?? 0);
    await expect.poll(share).toBeGreaterThan(0);
    await server.stop();
    await server.start();
    await expect(fine.getByText(/^sound [\d.]+, as cut [\d.]+, bonded composite [\d.]+ µm$/)).toBeVisible();

    const deflection = panel.getByTestId("deflection");
    const before = await deflection.textContent();
    await panel.getByRole("button", { name: "Constants and their sources" }).click();
    const dialog = page.getByRole("dialog", { name: "Constants of strength" });
    const dentin = dialog.getByLabel("Modulus of dentin", { exact: true });
    await dentin.fill("300");
    await dentin.blur();
    await dialog.getByRole("button", { name: "Keep" }).click();
    await expect(dialog.getByText(/Modulus of dentin is 300: give 8 to 30 GPa/)).toBeVisible();
    await dentin.fill("12");
    await dentin.blur();
    await dialog.getByLabel("Source of: Modulus of dentin").fill("The bench's own tests");
    await scanBothThemes(page, "constants");
    await dialog.getByRole("button", { name: "Keep" }).click();
    await expect(dialog).toBeHidden();
    await expect.poll(() => deflection.textContent()).not.toBe(before);
    await expect(panel.getByText(/dentin 12/).first()).toBeVisible();
    await expect(fine.getByText(/under other constants/)).toBeVisible();
    await panel.getByRole("button", { name: "Constants and their sources" }).click();
    await expect(dialog.getByLabel("Source of: Modulus of dentin")).toHaveValue("The bench's own tests");
    await dialog.getByRole("button", { name: "As shipped: Modulus of dentin" }).click();
    await dialog.getByRole("button", { name: "Keep" }).click();
    await expect.poll(() => deflection.textContent()).toBe(before);
  });
});
