import { expect, type Page, test } from "@playwright/test";
import { fillCase, measured, settled, signIn, startCase } from "./steps";

test.beforeEach(async ({ page }) => {
  await signIn(page);
});

/** Fixes the case and reads its card. */
async function card(page: Page) {
  await page.getByRole("button", { name: "Fix as revision" }).click();
  await expect(page.getByText("Fixed as revision 1")).toBeVisible();
  const id = page.url().split("/").pop();
  const file = await page.request.get(`/api/cases/${id}/files/card.pdf?revision=1`);
  expect(file.headers()["content-type"]).toContain("application/pdf");
  expect((await file.body()).length).toBeGreaterThan(10_000);
}

async function form(page: Page, name: string) {
  await page.getByRole("navigation", { name: "Forms" }).getByRole("button", { name }).click();
}

test("a Class III from a tapped face to the card, its finishes side by side", async ({ page }) => {
  await fillCase(page, { tooth: "13", answer: "upper right 3", code: "HV-381" });
  await page.getByRole("button", { name: "Distal on the drawing" }).click();
  await expect(page.getByLabel("Finding", { exact: true })).toHaveValue("proximal_caries");
  await expect(page.getByLabel("Where", { exact: true })).toHaveValue("distal");
  await page.getByLabel("Shows on").selectOption("lingual");
  await expect(page.getByLabel("Material", { exact: true })).toHaveValue("");
  await expect(page.getByText(/amalgam shows on a front tooth/)).toBeVisible();
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByTestId("sheet")).toBeVisible();
  await settled(page);
  await expect(page.getByText(/Class III DL, composite, adhesive/)).toBeVisible();
  for (const view of ["lingual", "level", "along"])
    await expect(page.getByTestId(`view-distal_face_${view}`)).toBeVisible();

  const margins = page.getByRole("region", { name: "Margins" });
  await expect(margins.getByRole("row")).toHaveCount(3);
  const bonded = async (style: string) =>
    Number.parseFloat(
      (await margins.getByRole("row", { name: style }).getByRole("cell").nth(1).textContent()) ?? "",
    );
  expect(await bonded("Long")).toBeGreaterThan((await bonded("Short")) + 5);
  await margins.getByRole("button", { name: "Long" }).click();
  await settled(page);
  await expect(page.getByLabel("Finish of the enamel margin")).toHaveValue("long");
  await form(page, "Finish");
  await expect.poll(() => measured(page, "finish.feather_width distal")).toBeGreaterThan(1.7);
  await card(page);
});

test("a Class IV: what broke off, the facial finish and the lock", async ({ page }) => {
  await startCase(page, {
    tooth: "42",
    answer: "lower right 2",
    code: "HV-382",
    finding: "Broken off",
    site: "Distal incisal angle",
  });
  await expect(page.getByText(/Class IV DFLI, composite/)).toBeVisible();
  await expect(page.getByRole("columnheader", { name: "edge index" })).toBeVisible();
  await expect(page.getByText(/broken off before/)).toBeVisible();
  await form(page, "Finish");
  expect(await measured(page, "corner.facial_bevel distal incisal angle")).toBeGreaterThan(0.8);
  await page.getByLabel("Finish of the enamel margin").selectOption("scalloped");
  await settled(page);
  await expect.poll(() => measured(page, "corner.facial_bevel distal incisal angle")).toBeGreaterThan(1.6);
  await page.getByRole("checkbox", { name: /^Lingual lock/ }).check();
  await settled(page);
  await expect(
    page.getByRole("list", { name: "Instruments in order" }).getByText(/Lingual lock/),
  ).toBeVisible();
  await expect(page.getByRole("textbox", { name: /Lingual lock depth/ })).toHaveValue("0.4");
  await card(page);
});

test("a Class V against the gingiva, which is moved", async ({ page }) => {
  await fillCase(page, {
    tooth: "43",
    answer: "lower right 3",
    code: "HV-383",
    birthYear: "1966",
    finding: "Cervical caries",
    site: "Facial",
  });
  await page.getByLabel("The tooth shows when smiling").check();
  await page.getByLabel("Gingiva, facial").fill("0.5");
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByText(/give all three, or none/)).toBeVisible();
  await page.getByLabel("Gingiva, lingual").fill("0.5");
  await page.getByLabel("Gingiva, papilla").fill("1");
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByTestId("sheet")).toBeVisible();
  await settled(page);
  await expect(page.getByText(/Class V F, composite/)).toBeVisible();
  // The margin stays over the gingiva; hiding it is a wish.
  await expect(page.locator('[data-check="neck.gingiva facial cervical"]')).toContainText(
    "not asked for here",
  );
  await page.getByLabel("Hide the margin under the gingiva").check();
  await settled(page);
  await expect.poll(() => measured(page, "neck.gingiva facial cervical")).toBeLessThan(0);
  const over = await measured(page, "neck.gingiva facial cervical");
  const gingiva = page.getByLabel("Gingiva, facial, millimetres above the CEJ");
  await expect(gingiva).toHaveValue("0.5");
  await gingiva.fill("1.5");
  await gingiva.press("Enter");
  await settled(page);
  await expect.poll(() => measured(page, "neck.gingiva facial cervical")).toBeLessThan(over - 0.5);
  await card(page);
});

test("cervical cavities of a quadrant are one sitting", async ({ page }) => {
  for (const [tooth, answer] of [
    ["23", "upper left 3"],
    ["22", "upper left 2"],
  ] as const)
    await startCase(page, { tooth, answer, code: "HV-384", finding: "Cervical caries", site: "Facial" });
  const sitting = page.getByRole("region", { name: "One sitting" });
  await expect(sitting).toContainText("22, 23");
  await expect(
    sitting.getByRole("listitem").filter({ hasText: "Dam and cord" }).getByText("once", { exact: true }),
  ).toBeVisible();
  await sitting.getByRole("link", { name: "23" }).click();
  await expect(page.getByText("upper left canine")).toBeVisible();
});

test("a molar's buccal pit with its fissure", async ({ page }) => {
  await fillCase(page, { tooth: "47", answer: "lower right 7", code: "HV-385", material: "Composite" });
  await page.getByRole("button", { name: "Central fissure on the drawing" }).click();
  await page.getByRole("button", { name: "Buccal pit on the drawing" }).click();
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByTestId("sheet")).toBeVisible();
  await settled(page);
  await expect(page.getByText(/Class I OB/)).toBeVisible();
  await expect(page.getByTestId("view-plan")).toBeVisible();
  await page.getByLabel("View from the side").selectOption({ label: "From facial, buccal pit" });
  await expect(page.getByTestId("view-buccal_pit_facial")).toBeVisible();
  await expect(page.locator('[data-check="pit.width buccal pit"]')).toBeVisible();
  await card(page);
});

test("a primary canine's Class III with the keyboard alone", async ({ page }) => {
  await page.goto("/cases/new");
  const type = async (text: string) => page.keyboard.type(text);
  const tab = async (times = 1) => {
    for (let n = 0; n < times; n++) await page.keyboard.press("Tab");
  };
  const reach = async (name: string | RegExp) => {
    const control = page.getByLabel(name, { exact: typeof name === "string" }).first();
    for (let n = 0; n < 60; n++) {
      if (await control.evaluate((e) => e === document.activeElement)) return;
      await tab();
    }
    throw new Error(`${name} is not reached with Tab`);
  };
  await reach("Tooth");
  await type("53");
  await expect(page.getByText(/primary upper right canine:/)).toBeVisible();
  await reach("Say it a second way");
  await type("Quadrant");
  await reach("Quadrant and place");
  await type("URC");
  // The drawing is reached and answers to Enter.
  const distal = page.getByRole("button", { name: "Distal on the drawing" });
  for (let n = 0; n < 40 && !(await distal.evaluate((e) => e === document.activeElement)); n++) await tab();
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Where", { exact: true })).toHaveValue("distal");
  await reach("Patient code");
  await type("HV-387");
  await reach("Birth year");
  await type("2020");
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("sheet")).toBeVisible();
  await settled(page);
  await expect(page.getByText(/Class III DL, composite, primary/)).toBeVisible();
  const depth = page.getByRole("textbox", { name: /^Width/ });
  for (let n = 0; n < 60 && !(await depth.evaluate((e) => e === document.activeElement)); n++) await tab();
  await page.keyboard.press("ControlOrMeta+A");
  await type("1.5");
  await page.keyboard.press("Enter");
  await settled(page);
  const fix = page.getByRole("button", { name: "Fix as revision" });
  for (let n = 0; n < 120 && !(await fix.evaluate((e) => e === document.activeElement)); n++)
    await page.keyboard.press("Shift+Tab");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Fixed as revision 1")).toBeVisible();
});
