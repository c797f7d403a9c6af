import { expect, test } from "@playwright/test";
import { settled, signIn, startCase } from "./steps";

test.beforeEach(async ({ page }) => {
  await signIn(page);
});

test("a revision is shown as it was fixed and cannot be changed", async ({ page }) => {
  await page
    .getByRole("row", { name: /HB-004/ })
    .getByRole("link")
    .click();
  await settled(page);
  await page.getByRole("button", { name: /^Draft/ }).click();
  await page.getByRole("menuitem", { name: /Revision 1/ }).click();
  await expect(page).toHaveURL(/revisions\/1$/);
  await settled(page);
  await expect(page.getByText(/revision 1 fixed by/)).toBeVisible();
  await expect(page.getByRole("button", { name: "Fix as revision" })).toHaveCount(0);
  await expect(page.locator('[data-dimension="isthmus_width"][role="slider"]')).toHaveCount(0);
  await page.goBack();
  await expect(page.getByRole("button", { name: "Fix as revision" })).toBeVisible();
});

test("files are made of what is shown", async ({ page, context }) => {
  await startCase(page, { code: "HV-341" });
  await page.locator('[data-dimension="isthmus_width"]').first().focus();
  await page.keyboard.press("ArrowUp");
  await page.getByRole("button", { name: "Print and export" }).click();
  const saved = page.waitForEvent("download");
  await page.getByRole("menuitem", { name: "Case (JSON)" }).click();
  expect((await saved).suggestedFilename()).toBe("HV-341-46-draft-case.json");
  // The draft was saved before the file was made.
  const id = page.url().split("/").pop();
  const document = await (await page.request.get(`/api/cases/${id}/files/case.json`)).json();
  expect(document.overrides.isthmus_width).toBe(1.2);
  await page.getByRole("button", { name: "Print and export" }).click();
  const opened = context.waitForEvent("page");
  await page.getByRole("menuitem", { name: "Card, A4 (PDF)" }).click();
  await (await opened).close().catch(() => undefined);
  const card = await page.request.get(`/api/cases/${id}/files/card.pdf`);
  expect(card.headers()["content-disposition"]).toContain("inline");
});

test("a typed dimension out of reach is not taken", async ({ page }) => {
  await startCase(page, { code: "HV-343" });
  const figure = page.getByRole("textbox", { name: /Isthmus width/ });
  await figure.fill("99");
  await expect(figure).toHaveAttribute("aria-invalid", "true");
  await figure.press("Enter");
  await expect(figure).toHaveValue("1.1");
  await figure.fill("1,4");
  await figure.press("Enter");
  await settled(page);
  await expect(page.getByText("your value")).toBeVisible();
  await page.getByRole("button", { name: "Isthmus width back to the proposal" }).click();
  await expect(figure).toHaveValue("1.1");
});

test("the palette and the list of shortcuts open by key", async ({ page }) => {
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Shortcuts" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+k");
  await page.keyboard.type("light or dark");
  await page.keyboard.press("Enter");
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
});
