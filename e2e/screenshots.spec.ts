import { expect, test } from "@playwright/test";
import { settled, signIn } from "./steps";

/** Refreshes docs/screenshots from the demonstration: make screenshots. */
test.skip(process.env.OBTURON_SHOTS === undefined, "only on request");

const shots = "../docs/screenshots";

for (const scheme of ["light", "dark"] as const) {
  test.describe(scheme, () => {
    test.use({ colorScheme: scheme });
    test("main views", async ({ page }) => {
      await page.goto("/sign-in");
      await expect(page.getByRole("button", { name: "Dentist on duty" })).toBeVisible();
      if (scheme === "light") await page.screenshot({ path: `${shots}/sign-in.png` });
      await signIn(page);
      await expect(page.getByRole("table")).toBeVisible();
      if (scheme === "light") await page.screenshot({ path: `${shots}/day-sheet.png` });
      await page
        .getByRole("row", { name: /HV-031/ })
        .getByRole("link")
        .click();
      await settled(page);
      await page.waitForTimeout(1500); // the 3D view draws its first frame
      await page.screenshot({ path: `${shots}/design-sheet-${scheme}.png` });
      await page.goto(scheme === "light" ? "/study/16?age=16" : "/study/85");
      await expect(page.getByTestId("view-buccolingual")).toBeVisible();
      await page.getByLabel(scheme === "light" ? "See through" : "Cut open").check();
      if (scheme === "light") await page.getByLabel("Neighbours").check();
      await page.waitForTimeout(2500);
      await page.screenshot({ path: `${shots}/study-${scheme}.png` });
      if (scheme === "dark") return;
      await page.goto("/cases/new");
      await page.getByLabel("Tooth", { exact: true }).fill("46");
      await expect(page.getByText("lower right first molar:")).toBeVisible();
      await page.screenshot({ path: `${shots}/new-case.png` });
    });
  });
}
