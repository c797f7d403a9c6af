import { expect, test } from "@playwright/test";
import { settled, signIn, startCase } from "./steps";

test.beforeEach(async ({ page }) => {
  await signIn(page);
});

test("a tag says what it is, names stay as they were left, steps open", async ({ page }) => {
  await startCase(page, { code: "HV-341" });
  const plan = page.getByTestId("view-plan");
  const tag = plan.locator('[data-dimension="isthmus_width"]').first();
  await tag.hover();
  const note = page.getByRole("tooltip");
  await expect(note).toContainText("Isthmus width");
  await expect(note).toContainText(/target 0\.\d+ to 1\.\d+ mm/);
  await page.mouse.move(2, 2);
  await expect(note).toHaveCount(0);

  // Another form's check: the panel turns to it and brings it into sight.
  await page.getByRole("button", { name: "Finish" }).click();
  await tag.focus();
  await expect(note).toContainText("Isthmus width");
  await page.keyboard.press("Enter");
  await expect(page.locator('[data-check^="outline.isthmus_width"]')).toBeInViewport();

  const list = page.getByRole("list", { name: "Instruments in order" });
  await list.getByRole("button", { name: /Punch cut/ }).click();
  await expect(page.getByRole("region", { name: "Step 2" })).toContainText("Gauge");
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("region", { name: "Step 3" })).toBeVisible();
  await page.keyboard.press("End");
  await expect(list.getByRole("button").last()).toBeInViewport();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("region", { name: /^Step/ })).toHaveCount(0);
  // The whole name of every step is to be read.
  const cut = await list
    .getByRole("button")
    .evaluateAll((all) => all.filter((b) => b.scrollWidth > b.clientWidth + 1).map((b) => b.textContent));
  expect(cut).toEqual([]);

  await expect(plan.getByText("isthmus", { exact: true })).toHaveCount(0);
  await page.keyboard.press("n");
  await expect(plan.getByText("isthmus", { exact: true }).first()).toBeVisible();
  const names = page.getByRole("button", { name: "Names" });
  await expect(names).toHaveAttribute("aria-pressed", "true");
  await page.reload();
  await settled(page);
  await expect(plan.getByText("isthmus", { exact: true }).first()).toBeVisible();
  await names.click();
  await expect(plan.getByText("isthmus", { exact: true })).toHaveCount(0);
});

test("names and title of a box stand whole at 1280", async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await startCase(page, {
    tooth: "47",
    answer: "lower right 7",
    finding: "Proximal caries",
    site: "Distal",
    code: "HV-345",
  });
  const heading = page.getByRole("heading", { level: 1 });
  await expect(heading).toContainText("lower right second molar");
  expect(await heading.evaluate((h) => h.scrollWidth <= h.clientWidth + 1)).toBe(true);
  await expect(page.getByText("Class II DO, amalgam, board")).toBeInViewport();

  // Tags that move nothing say what they are too.
  const note = page.getByRole("tooltip");
  await page.getByTestId("view-mesiodistal").getByRole("button", { name: /pulp/ }).first().focus();
  await expect(note).toContainText("measured");
  await page.keyboard.press("n");
  // No label leaves its pane, and none lies on another.
  for (const id of ["plan", "proximal_distal", "mesiodistal"]) {
    const view = page.getByTestId(`view-${id}`);
    const pane = await view.boundingBox();
    const boxes = await view
      .locator("rect[rx]")
      .evaluateAll((all) => all.map((r) => r.getBoundingClientRect().toJSON()));
    if (!pane) throw new Error(`${id} has no place`);
    expect(boxes.length).toBeGreaterThan(0);
    for (const [n, box] of boxes.entries()) {
      expect(box.left).toBeGreaterThanOrEqual(pane.x - 1);
      expect(box.right).toBeLessThanOrEqual(pane.x + pane.width + 1);
      for (const other of boxes.slice(n + 1))
        expect(
          box.left >= other.right ||
            other.left >= box.right ||
            box.top >= other.bottom - 1 ||
            other.top >= box.bottom - 1,
        ).toBe(true);
    }
  }
});

test("the cut tooth turns to standard views by key and by button", { tag: "@3d" }, async ({ page }) => {
  await startCase(page, { code: "HV-344" });
  const tooth = page.getByTestId("tooth-3d");
  await expect(tooth).toBeVisible();
  const picture = () => tooth.locator("canvas").evaluate((c) => (c as HTMLCanvasElement).width);
  await expect.poll(picture).toBeGreaterThan(0);
  for (const [key, view] of [
    ["1", "occlusal"],
    ["2", "facial"],
    ["3", "lingual"],
    ["4", "mesial"],
    ["5", "distal"],
    ["6", "mirror"],
  ] as const) {
    await page.keyboard.press(key);
    await expect(tooth).toHaveAttribute("data-view", view);
    await expect(page.getByRole("button", { name: view, exact: true })).toHaveAttribute(
      "aria-pressed",
      "true",
    );
  }
  const before = await tooth.screenshot();
  await page.getByRole("button", { name: "Closer" }).click();
  await expect.poll(async () => before.equals(await tooth.screenshot())).toBe(false);
  await page.keyboard.press("0");
  await expect(tooth).not.toHaveAttribute("data-view", /.+/);
});
