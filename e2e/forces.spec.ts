import { expect, type Page, test } from "@playwright/test";
import { scanBothThemes, settled, signIn, startCase } from "./steps";

test.beforeEach(async ({ page }) => {
  await signIn(page);
});

async function openForces(page: Page) {
  await page.getByRole("navigation", { name: "Forms" }).getByRole("button", { name: "Forces" }).click();
  const panel = page.getByRole("complementary", { name: "Forces" });
  await expect(panel).toHaveAttribute("aria-busy", "false", { timeout: 60_000 });
  return panel;
}

test("a filling that would slide out is explained, and held by the change that is offered", async ({
  page,
}) => {
  test.slow();
  await startCase(page, {
    tooth: "45",
    answer: "lower right 5",
    code: "HV-887",
    finding: "Proximal caries",
    site: "Distal",
    material: "Amalgam",
  });
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
  await expect(panel).toHaveAttribute("aria-busy", "false", { timeout: 60_000 });
  await expect.poll(held).toBeGreaterThan(before + 0.05);
  await expect(pull).toHaveAttribute("data-state", "held");
  await pull.getByRole("button").click();
  await expect(pull).toContainText("held by the retention grooves");
});

test("the load is moved on the drawing, and the picture and the cusps follow", async ({ page }) => {
  test.slow();
  await startCase(page, {
    tooth: "47",
    answer: "lower right 7",
    code: "HV-888",
    finding: "Proximal caries",
    site: "Distal",
    material: "Amalgam",
  });
  await settled(page);
  const panel = await openForces(page);
  const picture = page.getByTestId("strain").locator("path").first();
  await expect(picture).toBeAttached({ timeout: 30_000 });
  const before = await picture.getAttribute("d");
  const cusps = await panel.getByTestId("parting").textContent();
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
  await expect(panel).toHaveAttribute("aria-busy", "false", { timeout: 60_000 });
  expect(down).not.toBe(0.7);
  await load.focus();
  await page.keyboard.press("ArrowLeft");
  await expect(load).toHaveAttribute("aria-valuenow", String(Math.round((down - 0.1) * 10) / 10));
  await expect(panel).toHaveAttribute("aria-busy", "false", { timeout: 60_000 });
  await expect.poll(() => picture.getAttribute("d")).not.toBe(before);
  await expect.poll(() => panel.getByTestId("parting").textContent()).not.toBe(cusps);

  // The same section with a bonded filling is strained less; a wrong load is told.
  await panel.getByRole("radio", { name: "bonded" }).check();
  await expect(panel.getByText(/In this section the two sides part by/)).toBeVisible();
  await panel.getByLabel("Load in newtons").fill("5000");
  await panel.getByLabel("Load in newtons").blur();
  await expect(panel.getByText(/1000/).first()).toBeVisible({ timeout: 30_000 });
  await panel.getByLabel("Load in newtons").fill("200");
  await panel.getByLabel("Load in newtons").blur();
  await expect(panel).toHaveAttribute("aria-busy", "false", { timeout: 60_000 });
  await scanBothThemes(page, "forces");
});
