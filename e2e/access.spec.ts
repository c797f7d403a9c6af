import AxeBuilder from "@axe-core/playwright";
import { expect, test } from "@playwright/test";
import { settled, signIn, startCase } from "./steps";

for (const scheme of ["light", "dark"] as const) {
  test.describe(scheme, () => {
    test.use({ colorScheme: scheme });

    test("every screen passes the accessibility scan", { tag: "@3d" }, async ({ page }) => {
      async function scan(screen: string) {
        const result = await new AxeBuilder({ page }).analyze();
        const found = result.violations.map(
          (v) => `${screen}: ${v.id} ${v.nodes.map((n) => n.target).join(" ")}`,
        );
        expect(found).toEqual([]);
      }
      await page.goto("/sign-in");
      await expect(page.getByRole("button", { name: "Dentist on duty" })).toBeVisible();
      await scan("sign-in");
      await signIn(page);
      await expect(page.getByRole("table")).toBeVisible();
      await scan("day sheet");
      await page.goto("/cases/new");
      await expect(page.getByRole("heading", { name: "New case" })).toBeVisible();
      await scan("new case");
      await page.goto("/study/46");
      await expect(page.getByTestId("view-buccolingual")).toBeVisible();
      await scan("study page");
      await startCase(page, { code: scheme === "light" ? "HV-331" : "HV-332" });
      await settled(page);
      await scan("design sheet");
    });
  });
}

test("pages need a sign-in, and lead back after it", async ({ page }) => {
  await page.goto("/cases/new");
  await expect(page).toHaveURL(/sign-in/);
  await page.getByLabel("Sign-in name").fill("dentist");
  await page.getByLabel("Password").fill("wrong");
  await page.getByRole("button", { name: "Sign in", exact: true }).click();
  await expect(page.getByText("Sign-in name or password is wrong")).toBeVisible();
  await page.getByLabel("Password").fill("halvarra-demo");
  await page.getByRole("button", { name: "Sign in", exact: true }).click();
  await expect(page).toHaveURL(/cases\/new/);
});
