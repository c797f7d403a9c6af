import { expect, test } from "@playwright/test";
import { fillCase, openCase, settled, signIn } from "./steps";

/** Refreshes docs/screenshots from the demonstration: make screenshots. */
test.skip(process.env.OBTURON_SHOTS === undefined, "only on request");

const shots = "../docs/screenshots";

/** Patient, tooth, picture and form shown of cavities on faces and edges. */
const faces = {
  light: [
    ["HV-081", "lower right second molar", "filling", "Fill"],
    ["HV-081", "lower right second molar", "forces", "Forces"],
    ["HV-081", "lower right second molar", "tray", "Tray"],
  ],
  dark: [["HV-088", "upper left lateral incisor", "class-four", "Finish"]],
} as const;

for (const scheme of ["light", "dark"] as const) {
  test.describe(scheme, () => {
    test.use({ colorScheme: scheme });
    test("main views", { tag: "@3d" }, async ({ page }) => {
      await page.goto("/sign-in");
      await expect(page.getByRole("button", { name: "Dentist on duty" })).toBeVisible();
      await signIn(page);
      await expect(page.getByRole("table")).toBeVisible();
      await expect(page.getByText("being planned")).toHaveCount(0);
      if (scheme === "light") await page.screenshot({ path: `${shots}/day-sheet.png` });
      await page
        .getByRole("row", { name: /HV-031/ })
        .getByRole("link")
        .click();
      await settled(page);
      await page.waitForTimeout(1500); // the 3D view draws its first frame
      if (scheme === "light") {
        await page.screenshot({ path: `${shots}/design-sheet-light.png` });
        await page.goto("/materials");
        await expect(page.getByRole("region", { name: "Curing lamp" })).toBeVisible();
        await page.screenshot({ path: `${shots}/materials.png` });
        await page.goBack();
        await settled(page);
        await page.goto("/kit");
        await expect(page.getByRole("img", { name: "long pear, 3 mm long" })).toBeVisible();
        await page.screenshot({ path: `${shots}/kit.png` });
        await page.goBack();
        await settled(page);
        await page.getByRole("button", { name: "Prove by cutting" }).click();
        await expect(page.getByText("Proven by cutting")).toBeVisible({ timeout: 120_000 });
        await page
          .getByRole("list", { name: "Instruments in order" })
          .getByRole("button", { name: /Outline at depth/ })
          .click();
        await expect(page.getByText(/drawing…/)).toBeHidden();
        await page.waitForTimeout(1500);
        await page.screenshot({ path: `${shots}/steps-light.png` });
        await page.getByRole("link", { name: "Your hands" }).click();
        await page.getByLabel("Cuts", { exact: true }).fill("100");
        await page.getByRole("button", { name: "Cut it" }).click();
        await expect(page.getByText("Finished")).toBeVisible({ timeout: 200_000 });
        await page.screenshot({ path: `${shots}/hands.png` });
        await fillCase(page, {
          tooth: "26",
          answer: "upper left 6",
          code: "HV-397",
          finding: "Old filling",
          fault: "Stained or open margin",
          material: "",
        });
        await page.getByRole("button", { name: "Start the case" }).click();
        await expect(page.getByRole("heading", { name: "Repair" })).toBeVisible();
        await page.screenshot({ path: `${shots}/ways.png` });
        await page.goto("/cases");
        await page
          .getByRole("row", { name: /HB-007/ })
          .getByRole("link")
          .click();
        await settled(page);
        await page.waitForTimeout(1500);
        await page.getByRole("link", { name: "At the chair" }).click();
        await page.getByRole("button", { name: /Begin/ }).click();
        // Past what comes before the bur, into the box.
        for (const [n, key] of ["Space", "s", "s", "Space", "Space", "Space"].entries()) {
          await expect(page.getByText(new RegExp(`^${n + 1} of \\d+$`))).toBeVisible();
          await page.keyboard.press(key);
        }
        await expect(page.getByText("Drawing…")).toBeHidden();
        await page.waitForTimeout(1500);
        await page.screenshot({ path: `${shots}/chair-light.png` });
        await page.goBack();
        await page.getByRole("link", { name: "Back to the drawing" }).click();
        await page.getByRole("link", { name: "Compare schools" }).click();
        await expect(page.getByTestId("overlay-plan")).toBeVisible();
        await page.screenshot({ path: `${shots}/schools-side-by-side.png` });
      }
      for (const [patient, tooth, name, form] of faces[scheme]) {
        await page.goto("/cases");
        await openCase(page, patient, tooth);
        await page.getByRole("navigation", { name: "Forms" }).getByRole("button", { name: form }).click();
        const margins = page.getByRole("region", {
          name: name.startsWith("class-five") ? "One sitting" : "Margins",
        });
        if (name === "forces") {
          const forces = page.getByRole("complementary", { name: "Forces" });
          await expect(forces.getByTestId("deflection")).toBeVisible();
          await expect(forces).toHaveAttribute("aria-busy", "false");
        } else if (name === "filling") {
          const filling = page.getByRole("complementary", { name: "Filling" });
          await expect(filling).toHaveAttribute("aria-busy", "false");
          await filling.getByRole("table").evaluate((e) => e.scrollIntoView({ block: "center" }));
        } else if (name === "tray") {
          const tray = page.getByRole("complementary", { name: "Tray" });
          await expect(tray).toHaveAttribute("aria-busy", "false");
          await tray.getByRole("region").evaluate((e) => e.scrollIntoView());
        } else {
          await expect(margins).toBeVisible();
          await margins.evaluate((e) => e.scrollIntoView({ block: "end" }));
        }
        await page.waitForTimeout(1500);
        await page.screenshot({ path: `${shots}/${name}-${scheme}.png` });
      }
      if (scheme === "dark") return;
      await page.goto("/study/16?age=16");
      await expect(page.getByTestId("view-buccolingual")).toBeVisible();
      await page.getByLabel("See through").check();
      await page.getByLabel("Neighbours").check();
      await page.waitForTimeout(2500);
      await page.screenshot({ path: `${shots}/study-light.png` });
      await page.goto("/cases/new");
      await page.getByLabel("Tooth", { exact: true }).fill("46");
      await expect(page.getByText("lower right first molar:")).toBeVisible();
      await page.getByRole("button", { name: "Distal on the drawing" }).click();
      await page.screenshot({ path: `${shots}/new-case.png` });
      await page.getByRole("button", { name: "Measure on a bitewing" }).click();
      await expect(page.getByTestId("film")).toBeVisible();
      await page.getByRole("button", { name: "Another simulated film" }).click();
      await page.waitForTimeout(2500);
      const film = await page.getByTestId("film").boundingBox();
      if (!film) throw new Error("the film has no place");
      await page.mouse.click(film.x + film.width * 0.29, film.y + film.height * 0.36);
      await page.mouse.click(film.x + film.width * 0.33, film.y + film.height * 0.38);
      await expect(page.getByTestId("film-reading")).toBeVisible();
      await page.screenshot({ path: `${shots}/bitewing.png` });
      await page.goto("/schools/board/figures?beside=adhesive");
      await expect(page.getByRole("columnheader", { name: "Adhesive" })).toBeVisible();
      await page.screenshot({ path: `${shots}/school-figures.png` });
      await page.goto("/schools");
      await page.getByRole("button", { name: "Copy Board" }).click();
      await page.getByLabel("Name of the rules").fill("Halvarra bench");
      await page.getByRole("button", { name: "Make the copy" }).click();
      await expect(page.getByRole("heading", { name: "Halvarra bench" })).toBeVisible();
      await page.getByLabel("Isthmus width: aim", { exact: true }).fill("1.2");
      await page.getByLabel("Isthmus width: aim", { exact: true }).blur();
      await page.screenshot({ path: `${shots}/house-rules.png` });
    });
  });
}
