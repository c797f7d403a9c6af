import { expect, test } from "@playwright/test";
import { fillCase, settled, signIn, startCase } from "./steps";

test("learners work on their own cases, teachers look at them", async ({ page }) => {
  await signIn(page, "Bench learner");
  await expect(page.getByRole("row", { name: /HB-004/ })).toBeVisible();
  await expect(page.getByRole("row", { name: /HV-0/ })).toHaveCount(1); // started at the bench
  await page
    .getByRole("button", { name: /^Actions for HB-004/ })
    .first()
    .click();
  await expect(page.getByRole("menuitem", { name: "Open" })).toBeVisible();
  await expect(page.getByRole("menuitem", { name: "Archive" })).toHaveCount(0);
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Schools" }).click();
  await expect(page.getByRole("heading", { name: "Schools" })).toBeVisible();
  await expect(page.getByRole("button", { name: /^Copy/ })).toHaveCount(0);
  await page.getByRole("button", { name: "Bench learner" }).click();
  await page.getByRole("menuitem", { name: "Sign out" }).click();
  await page.waitForURL("**/sign-in");

  await signIn(page, "Bench teacher");
  await page
    .getByRole("row", { name: /HB-007/ })
    .getByRole("link")
    .click();
  await settled(page);
  await expect(page.getByText("Started by Bench learner: to look at")).toBeVisible();
  await expect(page.getByRole("button", { name: "Fix as revision" })).toHaveCount(0);
  await expect(page.locator('[role="slider"][data-dimension]')).toHaveCount(0);
  await page.getByRole("button", { name: "Bench teacher" }).click();
  await page.getByRole("menuitem", { name: "Sign out" }).click();
  await page.waitForURL("**/sign-in");

  await signIn(page, "Clinic office");
  await expect(page.getByRole("link", { name: "New case" })).toHaveCount(0);
  // The newest case, whoever started it, can be archived; none can be started.
  await page
    .getByRole("button", { name: /^Actions for / })
    .first()
    .click();
  await expect(page.getByRole("menuitem", { name: "Archive" })).toBeVisible();
});

test("archived cases are read, undone and brought back", async ({ page }) => {
  await signIn(page);
  await startCase(page, { code: "HV-861" });
  const address = page.url();
  await page.getByRole("button", { name: "Fix as revision" }).click();
  await expect(page.getByText("Fixed as revision 1")).toBeVisible();
  await page.getByRole("link", { name: "Day sheet" }).click();
  const row = page.getByRole("row", { name: /HV-861/ });
  const choose = async (action: string) => {
    // A row that is drawn anew, as its plan's summary comes, closes its menu.
    await expect(async () => {
      await page.keyboard.press("Escape");
      await row.getByRole("button", { name: /^Actions/ }).click({ timeout: 3_000 });
      await page.getByRole("menuitem", { name: action }).click({ timeout: 3_000 });
    }).toPass();
  };
  await choose("Archive");
  await expect(row).toHaveCount(0);
  // The row is gone: the next one has the focus.
  await expect(page.locator("[data-case]:focus")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(row).toHaveCount(1);
  await choose("Archive");
  await expect(row).toHaveCount(0);
  await page.goto(`${address}/revisions/1`);
  await settled(page);
  await expect(page.getByText(/revision 1 fixed by/)).toBeVisible();
  await page.goto(address);
  await expect(page.getByText("Archived: bring it back to change it")).toBeVisible();
  await page.goto("/cases");
  await page.getByLabel("Archive", { exact: true }).check();
  await choose("Bring back");
  await expect(row).toHaveCount(0);
  await page.getByLabel("Archive", { exact: true }).uncheck();
  await expect(row).toHaveCount(1);
});

test("birth years are years, and can be corrected", async ({ page }) => {
  await signIn(page);
  await fillCase(page, { code: "HV-862", birthYear: "1990abc" });
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByText(/"1990abc" is no year/)).toBeVisible();
  await page.getByLabel("Birth year").fill("2090");
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByText(/2090 is still to come/)).toBeVisible();
  await page.getByLabel("Birth year").fill("1990");
  await page.getByRole("button", { name: "Start the case" }).click();
  await settled(page);
  await page.getByRole("button", { name: "HV-862" }).click();
  const dialog = page.getByRole("dialog", { name: "Patient HV-862" });
  await dialog.getByLabel("Birth year").fill("1985");
  await dialog.getByRole("button", { name: "Correct it" }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.getByText(/was born in 1985/)).toBeVisible();
  // The draft has followed; work goes on from there.
  await settled(page);
  await expect(page.getByRole("button", { name: "HV-862" })).toBeFocused();
  await page.locator('[data-dimension="isthmus_width"]').first().focus();
  await page.keyboard.press("ArrowUp");
  await expect(page.getByText("Draft saved")).toBeVisible();
  const id = page.url().split("/").pop();
  const kept = await (await page.request.get(`/api/cases/${id}`)).json();
  expect(kept.document.patient.age_years).toBe(new Date().getFullYear() - 1985);
  expect(kept.document.overrides.isthmus_width).toBe(1.2);
});

test("changed house rules are not left by mistake", async ({ page }) => {
  await signIn(page);
  await page.goto("/schools");
  await page.getByRole("button", { name: "Copy Board" }).click();
  await page.getByLabel("Name of the rules").fill("Left rules");
  await page.getByRole("button", { name: "Make the copy" }).click();
  const depth = page
    .getByLabel("Pulpal depth, molar, premolar: aim")
    .or(page.getByLabel(/^Pulpal depth.*: aim/))
    .first();
  await depth.fill("15");
  await depth.blur();
  await page.getByRole("button", { name: "Keep as version 2" }).click();
  await expect(page.getByText(/aim 15 cannot be built: use 0.3 to 5 mm/)).toBeVisible();
  let asked = 0;
  page.on("dialog", (d) => (asked++ === 0 ? d.dismiss() : d.accept()));
  await page.getByRole("link", { name: "Day sheet" }).click();
  await expect(depth).toHaveValue("15");
  await page.getByRole("button", { name: "Discard changes" }).click();
  await page.getByRole("button", { name: "Archive" }).click();
  await expect(page.getByRole("button", { name: "Bring back" })).toBeVisible();
  await page.getByRole("link", { name: "Schools" }).click();
  await expect(page.getByText("Archived: Left rules")).toBeVisible();
  await page.getByRole("link", { name: "Left rules" }).click();
  await page.getByRole("button", { name: "Bring back" }).click();
  await expect(page.getByRole("button", { name: "Archive" })).toBeVisible();
  expect(asked).toBe(1);
});
