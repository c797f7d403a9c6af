import { expect, test } from "@playwright/test";
import { settled, signIn, startCase } from "./steps";

test.beforeEach(async ({ page }) => {
  await signIn(page);
});

test("a revision is shown as it was fixed and cannot be changed", async ({ page }) => {
  // The first page may be full of others.
  const { cases } = await (await page.request.get("/api/cases?q=HB-004")).json();
  await page.goto(`/cases/${cases[0].id}`);
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

test("the form starts from the proposal, and from what is known of the patient", async ({ page }) => {
  await page.goto("/cases/new");
  await expect(page.getByRole("button", { name: "Start the case" })).toBeDisabled();
  await page.getByLabel("Tooth", { exact: true }).fill("LL7");
  // Before anything is known of the patient: the proposal for most, and why, in a line.
  const material = page.getByLabel("Material", { exact: true });
  await expect(material.locator("option:checked")).toHaveText("As proposed: composite");
  await expect(
    page.getByText(
      /^Composite proposed: bonding spares tooth. Isolation was not entered.*for a patient of 35/,
    ),
  ).toBeVisible();
  await expect(page.getByLabel("School", { exact: true }).locator("option:checked")).toContainText(
    "As proposed: lesion-led",
  );
  await page.getByLabel("Isolation").selectOption({ label: "Doubtful" });
  await expect(page.getByText(/^Amalgam proposed: isolation is doubtful/)).toBeVisible();
  await page.getByLabel("Birth year").fill(String(new Date().getFullYear() - 10));
  await expect(page.getByText("amalgam is commonly barred under 15")).toBeVisible();

  // With a patient who is known, three answers start a case.
  await startCase(page, { code: "HV-388", birthYear: "1984" });
  await page.getByRole("link", { name: "Day sheet" }).click();
  const row = page.getByRole("row", { name: /HV-388/ });
  await row.getByRole("button", { name: /^Actions/ }).click();
  await page.getByRole("menuitem", { name: "New case of HV-388" }).click();
  await expect(page.getByLabel("Birth year")).toHaveValue("1984");
  await expect(page.getByText("Known here")).toBeVisible();
  await page.getByLabel("Tooth", { exact: true }).fill("37");
  await page.getByLabel("Arch, side and count").fill("lower left 7");
  await page.getByRole("button", { name: "Start the case" }).click();
  await settled(page);
  await expect(page.getByRole("heading", { name: /HV-388.*lower left second molar/ })).toBeVisible();
});

test("findings and contacts are placed by keyboard", async ({ page }) => {
  await page.goto("/cases/new");
  await page.getByLabel("Tooth", { exact: true }).fill("47");
  const chart = page.getByRole("group", { name: /^Places on the tooth/ });
  await chart.getByRole("button", { name: "Distal on the drawing" }).press("Enter");
  await expect(page.getByLabel("Where", { exact: true })).toHaveValue("distal");
  await page.getByLabel("Mark contacts").press("Space");
  const cross = chart.getByRole("button", { name: /^Cross for contacts, 0.0 mm/ });
  await cross.focus();
  for (const key of ["ArrowRight", "Shift+ArrowUp", "Enter", "ArrowLeft", "ArrowLeft", "Enter"])
    await page.keyboard.press(key);
  await expect(chart.getByText("Marked 0.2 mm distal, 1.0 mm lingual")).toBeAttached();
  await expect(page.getByRole("button", { name: "Clear 2 contacts" })).toBeVisible();
});
