import { spawn } from "node:child_process";
import { expect, type Page, test } from "@playwright/test";
import { scan, scanBothThemes, settled, signIn, startCase } from "./steps";

test.beforeEach(async ({ page }) => {
  await signIn(page);
});

async function fill(page: Page) {
  await page.getByRole("navigation", { name: "Forms" }).getByRole("button", { name: "Fill" }).click();
  const panel = page.getByRole("complementary", { name: "Filling" });
  await expect(panel).toHaveAttribute("aria-busy", "false");
  return panel;
}

test("a composite box is laid in increments, by the practice's own products", async ({ page }) => {
  await startCase(page, {
    tooth: "36",
    answer: "lower left 6",
    code: "HV-893",
    finding: "Proximal caries",
    site: "Distal",
    material: "Composite",
  });
  await page.getByLabel(/^School/).selectOption("traditional");
  await settled(page);
  await page.getByRole("combobox", { name: /^Form/ }).selectOption("conventional");
  await settled(page);
  let panel = await fill(page);
  await expect(panel.getByText("Sectional band with a ring").first()).toBeVisible();
  const layers = panel.getByText(/^\d+\. Layer/);
  const before = await layers.count();
  expect(before).toBeGreaterThan(1);
  // Each stands in the section with its number, and is laid and cured in the order of the work.
  const section = page.getByTestId("view-mesiodistal");
  await expect(section.getByText(String(before), { exact: true })).toBeVisible();
  await expect(panel.getByText(/Cure layer 1$/)).toBeVisible();
  await expect(panel.getByText(/fallen from 1180 to 930/)).toBeVisible();
  await scanBothThemes(page, "the filling", "aside");

  await panel.getByRole("link", { name: "Materials" }).click();
  await scan(page, "the materials");
  const depth = page.getByLabel(/^Cures to: Composite, dentin shades/);
  await depth.fill("0.4");
  await page.getByLabel("Day of the reading: Room one").fill("2026-11-20");
  await page.getByLabel("Reading: Room one", { exact: true }).fill("0");
  await page.getByRole("button", { name: "Add the reading: Room one" }).click();
  await page.getByRole("button", { name: "Keep the materials" }).click();
  await expect(page.getByText(/Cures to is 0.4: give 0.5 to 6 mm/)).toBeVisible();
  await expect(page.getByText(/a lamp of 0 mW\/cm² cures nothing/)).toBeVisible();
  await page.getByRole("button", { name: "Discard changes" }).click();
  await depth.fill("1.2");
  await depth.blur();
  await page.getByRole("button", { name: "Keep the materials" }).click();
  await expect(page.getByText("The materials are kept.").first()).toBeVisible();
  await page.goBack();
  panel = await fill(page);
  await expect.poll(() => layers.count()).toBeGreaterThan(before);
});

test("an amalgam is weighed, and its loads have their places", async ({ page }) => {
  await startCase(page, {
    tooth: "47",
    answer: "lower right 7",
    code: "HV-896",
    finding: "Proximal caries",
    site: "Distal",
  });
  const panel = await fill(page);
  await expect(panel.getByText(/a capsule of \d+ mg alloy for \d+ loads/)).toBeVisible();
  await expect(panel.getByRole("row").filter({ hasText: "in the distal box" }).first()).toBeVisible();
  await expect(page.getByTestId("view-mesiodistal").getByText("1", { exact: true })).toBeVisible();
  await expect(panel.getByText(/\d+. Condense$/).first()).toBeVisible();
  const id = page.url().split("/").pop();
  const solid = await page.request.get(`/api/cases/${id}/files/filling.stl`);
  expect((await solid.body()).subarray(0, 80).toString()).toMatch(/^obturon tooth \d\d, mm, .*; filling/);
});

test("a lamp is read by a radiometer, and dentin is left moist by a tick", async ({ page }) => {
  const radiometer = spawn("../bin/obturon", ["radiometer", "--output", "0"], {
    stdio: ["pipe", "ignore", "inherit"],
  });
  try {
    await page.goto("/materials");
    await page.getByRole("button", { name: "Use a radiometer: Room one" }).click();
    await expect(page.getByText("Radiometer connected: hold the tip to it")).toBeVisible();
    const reading = page.getByLabel("Reading: Room one", { exact: true });
    radiometer.stdin?.write("900\n\n");
    await expect(reading).toHaveValue(/^(8[789]\d|9[012]\d)$/);
    const read = await reading.inputValue();
    await expect(page.getByLabel("Day of the reading: Room one")).toHaveValue(/^20\d\d-\d\d-\d\d$/);
    await page.getByRole("button", { name: "Add the reading: Room one" }).click();
    await expect(
      page.getByRole("region", { name: "Curing lamp" }).getByRole("cell", { name: read, exact: true }),
    ).toBeVisible();
    const moist = page.getByRole("checkbox", { name: /^Dentin left moist/ }).first();
    await expect(moist).toBeChecked();
    await moist.uncheck();
    await expect(page.getByRole("button", { name: "Keep the materials" })).toBeEnabled();
    await page.getByRole("button", { name: "Discard changes" }).click();
    await expect(moist).toBeChecked();
  } finally {
    radiometer.kill();
  }
});
