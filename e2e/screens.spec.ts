import type { Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { fillCase, settled, signIn, startCase } from "./steps";

test("without three dimensions only that pane says so", async ({ page }) => {
  await signIn(page);
  await startCase(page, { code: "HV-871" });
  await expect(page.getByText(/draws nothing in three dimensions/)).toBeVisible();
  await expect(page.getByTestId("view-plan")).toBeVisible();
  await page.goto("/study/46");
  await expect(page.getByText(/draws nothing in three dimensions/)).toBeVisible();
  await expect(page.getByTestId("view-buccolingual")).toBeVisible();
});

async function fits(page: Page, screen: string) {
  const wider = await page.evaluate(
    () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
  );
  expect(wider, `${screen} is wider than its window`).toBeLessThanOrEqual(0);
}

test("at 200 % everything reflows and stays within reach", { tag: "@3d" }, async ({ page }) => {
  await page.setViewportSize({ width: 640, height: 400 }); // 1280 x 800 at 200 %
  await signIn(page);
  await fits(page, "day sheet");
  await startCase(page, { code: "HV-872" });
  await fits(page, "design sheet");
  for (const what of [
    page.getByTestId("view-plan"),
    page.getByTestId("tooth-3d"),
    page.getByTestId("view-mesiodistal"),
    page.locator('[data-check="outline.isthmus_width"]'),
    page.getByRole("textbox", { name: /Isthmus width/ }),
    page.getByRole("button", { name: "Fix as revision" }),
  ]) {
    await what.scrollIntoViewIfNeeded();
    await expect(what).toBeInViewport({ ratio: 0.3 });
  }
  await page.goto("/cases/new");
  await expect(page.getByRole("heading", { name: "New case" })).toBeVisible();
  await fits(page, "new case");
  await page.goto("/schools");
  await expect(page.getByRole("heading", { name: "Schools" })).toBeVisible();
  await fits(page, "schools");
});

test("focus comes back to where it was", async ({ page }) => {
  await signIn(page);
  await fillCase(page, { code: "HV-873", finding: "Proximal caries", site: "Distal" });
  await page.getByRole("button", { name: "Measure on a bitewing" }).click();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Measure on a bitewing" })).toBeFocused();
  await page.getByRole("button", { name: "Add a finding" }).click();
  await page.getByRole("button", { name: "Remove finding 2" }).click();
  await expect(page.getByLabel("Finding", { exact: true })).toBeFocused();
  // Sizes that are none say so.
  for (const size of ["0", "Infinity", "wide"]) {
    await page.getByLabel("Millimetres high").fill(size);
    await page.getByRole("button", { name: "Start the case" }).click();
    await expect(page.getByLabel("Row 1").getByText(/must be|out of range|more than/)).toBeVisible();
  }
  await page.getByLabel("Millimetres high").fill("");
  await page.getByRole("button", { name: "Start the case" }).click();
  await settled(page);
  const figure = page.getByRole("textbox", { name: /Isthmus width/ });
  await figure.fill("1.3");
  await figure.press("Enter");
  await page.getByRole("button", { name: "Isthmus width back to the proposal" }).click();
  await expect(figure).toBeFocused();
  await page.locator('[data-dimension="isthmus_width"]').first().focus();
  await page.keyboard.press("?");
  await page.keyboard.press("Escape");
  await expect(page.locator('[data-dimension="isthmus_width"]').first()).toBeFocused();
});

test("a scale of no length says so", async ({ page }) => {
  await signIn(page);
  await fillCase(page, { code: "HV-874", finding: "Proximal caries", site: "Distal" });
  await page.getByRole("button", { name: "Measure on a bitewing" }).click();
  const film = page.getByTestId("film");
  await expect(film).toBeVisible();
  await page.locator('input[type="file"][accept*="png"]').setInputFiles({
    name: "own.png",
    mimeType: "image/png",
    buffer: await film.screenshot(),
  });
  await expect(page.getByText(/Click both ends of a length you know/)).toBeVisible();
  await film.focus();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Set the scale" }).click();
  await expect(page.getByText(/Both ends lie on one point/)).toBeVisible();
  await film.focus();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Shift+ArrowRight");
  await page.keyboard.press("Enter");
  for (const known of ["0", "Infinity", "-3", "x"]) {
    await page.getByLabel("That length is").fill(known);
    await page.getByRole("button", { name: "Set the scale" }).click();
    await expect(page.getByText(/must be a number of millimetres above 0/)).toBeVisible();
  }
});
