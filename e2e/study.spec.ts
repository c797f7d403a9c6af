import { expect, test } from "@playwright/test";
import { signIn } from "./steps";

test.beforeEach(async ({ page }) => {
  await signIn(page);
});

test("a tooth is chosen on its own outline, by hand and by keys", async ({ page }) => {
  await page.getByRole("link", { name: "Teeth" }).click();
  await expect(page.getByRole("heading", { name: "Lower right first molar" })).toBeVisible();
  await page.getByRole("button", { name: /upper left canine/ }).click();
  await expect(page).toHaveURL(/study\/23$/);
  await expect(page.getByRole("heading", { name: "Upper left canine" })).toBeVisible();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("heading", { name: "Upper left first premolar" })).toBeVisible();
  await page.keyboard.press("ArrowDown");
  await expect(page.getByRole("heading", { name: "Lower left first premolar" })).toBeVisible();
  await page.getByLabel("Primary").check();
  await page.getByRole("button", { name: /primary lower right first molar/ }).click();
  await expect(page.getByRole("heading", { name: "Primary lower right first molar" })).toBeVisible();
  await page.goBack();
  await expect(page.getByRole("heading", { name: "Lower left first premolar" })).toBeVisible();
});

test("touching the tooth tells enamel and the way to the pulp", { tag: "@3d" }, async ({ page }) => {
  await page.goto("/study/46?age=34");
  const tooth = page.getByTestId("study-3d").locator("canvas");
  await expect(tooth).toBeVisible();
  await expect(page.getByText("Click the tooth anywhere")).toBeVisible();
  const finger = page.locator("section", { hasText: "Under your finger" }).last();
  // The canvas grows to its pane only once that is measured.
  const middle = async () => {
    const box = await tooth.boundingBox();
    if (!box) throw new Error("the tooth has no place on the page");
    return { x: box.x + box.width / 2, y: box.y + box.height * 0.45 };
  };
  await expect(async () => {
    const { x, y } = await middle();
    await page.mouse.click(x, y);
    await expect(finger).toContainText(/Enamel\s*[01]\.\d\d mm/, { timeout: 15_000 });
  }).toPass();
  // A drag turns the tooth and feels nothing new.
  const felt = await finger.textContent();
  const { x, y } = await middle();
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 80, y, { steps: 4 });
  await page.mouse.up();
  expect(await finger.textContent()).toBe(felt);
});

test("the section moves through the tooth and the neighbours touch", async ({ page }) => {
  await page.goto("/study/16?age=34");
  const section = page.getByTestId("view-buccolingual");
  const enamel = section.locator('path[fill="url(#enamel)"]').first();
  const before = await enamel.getAttribute("d");
  expect(before).toBeTruthy();
  await page.getByLabel("Place of the section, mm").fill("2");
  await expect(enamel).not.toHaveAttribute("d", before ?? "");
  await page.getByLabel("Section", { exact: true }).selectOption("Along the arch");
  await page.getByLabel("Neighbours").check();
  await expect(page.getByText("Gap to 15, mesial")).toBeVisible();
  await expect(page.getByText("Gap to 17, distal")).toBeVisible();
});

test("the patient's own sizes replace the averages, and nonsense is refused", async ({ page }) => {
  await page.goto("/study/35?age=20");
  await expect(page.getByText("7.00 mm").first()).toBeVisible();
  await page.getByText("This patient's own sizes").click();
  await page.getByLabel("Mesiodistal, mm").fill("7.8");
  await expect(page.getByText(/7\.(79|80|81) mm/)).toBeVisible();
  await expect(page).toHaveURL(/mesiodistal=7\.8/);
  await page.getByLabel("Mesiodistal, mm").fill("22");
  await expect(page.getByText(/mesiodistal size 22 mm is outside/)).toBeVisible();
  await page.getByLabel("Mesiodistal, mm").fill("");
  await expect(page.getByText("7.00 mm").first()).toBeVisible();
});

test("an age shows in the pulp", async ({ page }) => {
  const horn = async () => {
    const text = await page
      .getByText(/Highest horn above the CEJ/)
      .locator("xpath=following-sibling::dd")
      .textContent();
    return Number.parseFloat(text ?? "");
  };
  await page.goto("/study/46?age=14");
  await expect(page.getByText(/Highest horn/)).toBeVisible();
  const young = await horn();
  await page.getByLabel("Age").fill("75");
  await expect.poll(horn).toBeLessThan(young - 0.5);
});

test("a case starts from the tooth pointed at", async ({ page }) => {
  await page.goto("/cases/new");
  await page.getByRole("button", { name: /lower left second premolar/ }).click();
  await expect(page.getByLabel("Tooth", { exact: true })).toHaveValue("35");
  await expect(page.getByText("lower left second premolar:")).toBeVisible();
  await page.getByRole("link", { name: "Study 35" }).click();
  await expect(page.getByRole("heading", { name: "Lower left second premolar" })).toBeVisible();
});

test("the quiz asks, grades by the model and keeps the results", { tag: "@3d" }, async ({ page }) => {
  await page.goto("/study/26?age=20");
  await expect(page.getByTestId("study-3d")).toBeVisible();
  await page.getByRole("button", { name: "Quiz", exact: true }).click();
  const quiz = page.getByRole("region", { name: "Quiz" });
  await expect(page.getByRole("heading", { name: "Landmarks" })).toHaveCount(0);
  const answered = new Set<string>();
  for (let n = 0; n < 40 && answered.size < 3; n++) {
    const name = quiz.getByRole("button", { name: /cusp|pit|ridge|contact|contour/ });
    const touch = quiz.getByRole("button", { name: "Touch the tooth" });
    const figure = quiz.getByLabel("Thickness, mm");
    await expect(name.or(touch).or(figure).first()).toBeVisible();
    if (await figure.count()) {
      await figure.fill("1,0");
      await quiz.getByRole("button", { name: "Answer" }).click();
      await expect(quiz.getByRole("status")).toContainText("On this model");
      answered.add("thickness");
    } else if (await touch.count()) {
      // The tooth may be drawn anew just then, and take the focus with it.
      await expect(async () => {
        await page.getByRole("group", { name: /^Finger/ }).focus();
        await page.keyboard.press("ArrowDown");
        await expect(page.getByTestId("finger")).toBeVisible({ timeout: 15_000 });
      }).toPass();
      await page.keyboard.press("Enter");
      await quiz.getByRole("button", { name: "That is the place" }).click();
      await expect(quiz.getByRole("status")).toContainText("from where you touched");
      answered.add("touch");
    } else {
      await name.first().click();
      await expect(quiz.getByRole("status")).toContainText("It is the");
      answered.add("name");
    }
    await expect(quiz.getByRole("status")).toContainText(/^(Right|Not right)\./);
    await expect(quiz.getByRole("button", { name: "Next question" })).toBeFocused();
    await page.keyboard.press("Enter");
  }
  expect([...answered].sort()).toEqual(["name", "thickness", "touch"]);
  await expect(quiz.getByRole("row", { name: /^You/ })).toContainText("of");
  await quiz.getByRole("button", { name: "End the quiz" }).click();
  await expect(page.getByRole("heading", { name: "Landmarks" })).toBeVisible();
});
