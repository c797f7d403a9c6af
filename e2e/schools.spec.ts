import { expect, test } from "@playwright/test";
import { measured, scanBothThemes, settled, signIn, startCase } from "./steps";

test.beforeEach(async ({ page }) => {
  await signIn(page);
});

test("house rules are copied, changed, kept, and judge the open cases", async ({ page }) => {
  await page.getByRole("link", { name: "Schools" }).click();
  await page.getByRole("button", { name: "Copy Board" }).click();
  await scanBothThemes(page, "copying a school");
  await page.getByLabel("Name of the rules").fill("Wide isthmus bench");
  await page.getByRole("button", { name: "Make the copy" }).click();
  await expect(page.getByRole("heading", { name: "Wide isthmus bench" })).toBeVisible();
  const figure = (name: string) => page.getByLabel(`Isthmus width: ${name}`, { exact: true });
  await figure("target from").fill("1.6");
  await figure("target to").fill("1.2");
  await figure("target to").blur();
  await page.getByRole("button", { name: "Keep as version 2" }).click();
  await expect(page.getByText(/a range's min is above its max/)).toBeVisible();
  await scanBothThemes(page, "house rules with a fault");
  await figure("target to").fill("1.9");
  await figure("limits from").fill("1.5");
  await figure("limits to").fill("2");
  await figure("aim").fill("1.7");
  await figure("aim").blur();
  await page.getByRole("button", { name: "Keep as version 2" }).click();
  await expect(page.getByRole("button", { name: "Keep as version 3" })).toBeVisible();
  await page.getByRole("button", { name: "Judge the open cases" }).click();
  await expect(page.getByText(/would be judged differently/)).toBeVisible();
  await scanBothThemes(
    page,
    "open cases judged by house rules",
    "section[aria-label='Open cases under these rules']",
  );
  await expect(page.getByText(/Isthmus width:/).first()).toBeVisible();

  await startCase(page, { code: "HV-367" });
  await page.getByLabel(/^School/).selectOption({ label: "Wide isthmus bench" });
  await settled(page);
  await expect.poll(() => measured(page, "outline.isthmus_width")).toBeGreaterThan(1.5);
});

test("a school opens to read, and another lies beside it", async ({ page }) => {
  await page.goto("/schools");
  await page.getByRole("link", { name: "Board", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Board");
  const rows = page.locator("tbody tr");
  const all = await rows.count();
  expect(all).toBeGreaterThan(30);
  await page.getByRole("searchbox", { name: "Search" }).fill("isthmus");
  await expect(rows.first()).toContainText("Isthmus width");
  await expect.poll(() => rows.count()).toBeLessThan(all);
  await page.getByRole("combobox", { name: "Beside it" }).selectOption("adhesive");
  await expect(page.getByRole("columnheader", { name: "Adhesive" })).toBeVisible();
  await page.getByRole("searchbox", { name: "Search" }).fill("");
  await expect(rows).toHaveCount(all);
  await page.getByLabel("Only where they differ").check();
  await expect.poll(() => rows.count()).toBeLessThan(all);
  const differing = await rows.count();
  expect(differing).toBeGreaterThan(5);
  // Open ends read as words.
  await expect(page.locator("tbody")).toContainText(/at (least|most) \d/);
  await expect(page.locator("tbody")).not.toContainText("undefined");
  // The address holds what is shown.
  await page.reload();
  await expect(rows).toHaveCount(differing);
});
