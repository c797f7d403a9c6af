import { expect, test } from "@playwright/test";
import { signIn, startCase } from "./steps";

test("the day sheet shows what drafts lead to, and is searched and sorted by keyboard", async ({ page }) => {
  await signIn(page);
  await startCase(page, { code: "HV-881" });
  await startCase(page, {
    code: "HV-882",
    tooth: "12",
    answer: "upper right 2",
    depth: "Outer dentin",
    finding: "Proximal caries",
    site: "Distal",
  });
  await page.getByRole("link", { name: "Day sheet" }).click();
  const molar = page.getByRole("row", { name: /HV-881/ });
  const incisor = page.getByRole("row", { name: /HV-882/ });
  // Drafts are planned by themselves: class, surfaces, verdict and the tooth's own outline.
  await expect(molar).toContainText("Class I O, amalgam, board");
  await expect(incisor).toContainText("Class III DL, composite, adhesive");
  await expect(molar.getByRole("img", { name: /^(met|near|missed)$/ })).toBeVisible();
  await expect(molar.locator("td svg path[d^=M]")).not.toHaveCount(0);

  await page.keyboard.press("/");
  for (const [words, found] of [
    ["#7 HV-882", incisor],
    ["UR2, class iii", incisor],
    ["lower right first molar HV-88", molar],
    ["hv-881 amalgam draft", molar],
  ] as const) {
    await page.getByLabel("Search").fill(words);
    await expect(found).toHaveCount(1);
    await expect(page.getByRole("row", { name: /HV-88[12]/ })).toHaveCount(1);
  }
  await page.getByLabel("Search").fill("HV-881 refused");
  await expect(page.getByText('Nothing is found by "HV-881 refused"')).toBeVisible();
  await page.getByLabel("Search").fill("HV-88");
  await expect(page.getByRole("row", { name: /HV-88/ })).toHaveCount(2);
  await page.getByLabel("Sort").selectOption("tooth");
  await expect(page.getByRole("row", { name: /HV-88/ }).first()).toContainText("HV-882");
  await expect(page).toHaveURL(/q=HV-88&sort=tooth/);

  await page.getByLabel("Search").press("ArrowDown");
  await page.keyboard.press("ArrowDown");
  await expect(molar.locator("[data-case]")).toBeFocused();
  await page.keyboard.press("Home");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: /HV-882/ })).toBeVisible();
  await page.goBack();
  await expect(page.getByLabel("Search")).toHaveValue("HV-88");
});
