import { expect, type Page, test } from "@playwright/test";
import { scanBothThemes, scan as scanPage, settled, signIn, startCase } from "./steps";

test("every page and dialog passes the accessibility scan", async ({ page }) => {
  const scan = (screen: string) => scanBothThemes(page, screen);
  const button = (name: string | RegExp) => page.getByRole("button", { name });
  const scanOver = over(page, scan);
  await page.goto("/sign-in");
  await expect(button("Dentist on duty")).toBeVisible();
  await scan("sign-in");
  await signIn(page);
  await expect(page.getByRole("table")).toBeVisible();
  await scan("day sheet");
  await scanOver(
    "a case's menu",
    () =>
      button(/^Actions for/)
        .first()
        .click(),
    "menu",
  );
  await scanOver("the user's menu", () => button("Dentist on duty").click(), "menu");
  await scanOver("actions by name", () => page.keyboard.press("Control+k"));
  await scanOver("shortcuts", () => page.keyboard.press("?"));
  await page.getByLabel("Search").fill("nothing of that name");
  await expect(page.getByText(/^Nothing is found/)).toBeVisible();
  await scan("an empty day sheet");
  await page.goto("/cases/new");
  await page.getByLabel("Tooth", { exact: true }).fill("36");
  await page.getByRole("group", { name: /^Places/ }).waitFor();
  await page.getByLabel("Finding", { exact: true }).selectOption({ label: "Proximal caries" });
  await page.getByLabel("Mark contacts").check();
  await scan("new case");
  await scanOver("bitewing", () => button("Measure on a bitewing").click());
  await page.goto("/cases/new?patient=nobody");
  await page.getByLabel("Tooth", { exact: true }).fill("12");
  await page
    .getByRole("group", { name: /^Places/ })
    .first()
    .waitFor();
  await page.getByLabel("Arch, side and count").fill("upper right 2");
  await page.getByLabel("Birth year").fill("abc");
  await button("Start the case").click();
  await expect(page.getByText(/is no year/)).toBeVisible();
  await scan("new case with faults");
  await page.goto("/schools");
  await expect(page.getByRole("heading", { name: "Schools" })).toBeVisible();
  await scan("schools");
  await page.goto("/schools/board/figures?beside=adhesive");
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  await scan("a school's figures");
  await page.goto("/nowhere");
  await expect(page.getByText("There is no such page")).toBeVisible();
  await scan("no such page");
  await startCase(page, { code: "HV-333" });
  await page.getByRole("link", { name: "Compare schools" }).click();
  await expect(page.getByText("schools side by side")).toBeVisible();
  await settledComparison(page);
  await scan("schools side by side");
});

for (const scheme of ["light", "dark"] as const) {
  test.describe(scheme, () => {
    test.use({ colorScheme: scheme });

    test("pages with a tooth in three dimensions pass the accessibility scan", { tag: "@3d" }, async ({
      page,
    }) => {
      // One theme at a time: a tooth is coloured anew when it changes.
      const scan = (screen: string) =>
        scanPage(page, screen, undefined, scheme === "dark" ? ["color-contrast"] : undefined);
      const button = (name: string | RegExp) => page.getByRole("button", { name });
      const scanOver = over(page, scan);
      await signIn(page);
      await page.goto("/study/46");
      await expect(page.getByTestId("view-buccolingual")).toBeVisible();
      await scan("study page");
      await button("Quiz").click();
      await expect(page.getByRole("region", { name: "Quiz" })).toBeVisible();
      await scan("quiz");
      await startCase(page, { code: `HV-33${scheme === "light" ? 1 : 2}` });
      await settled(page);
      await scan("design sheet");
      await page.keyboard.press("n");
      await scan("design sheet with names");
      await scanOver("print and export", () => button("Print and export").click(), "menu");
      await scanOver("patient", () => button(/^HV-33/).click());
    });
  });
}

/** Opens something over the page, scans it, and closes it by key. */
function over(page: Page, scan: (screen: string) => Promise<void>) {
  return async (name: string, open: () => Promise<void>, role: "dialog" | "menu" = "dialog") => {
    await open();
    await expect(page.getByRole(role)).toBeVisible();
    await scan(name);
    await page.keyboard.press("Escape");
    await expect(page.getByRole(role)).toHaveCount(0);
  };
}

/** Waits until the drawings of a comparison stand. */
async function settledComparison(page: Page) {
  await expect(page.locator("main svg").first()).toBeVisible();
}

test("a system that wishes for dark gets it", async ({ page }) => {
  await page.emulateMedia({ colorScheme: "dark" });
  await page.goto("/sign-in");
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
});

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
