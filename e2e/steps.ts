import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { expect } from "@playwright/test";

export async function signIn(page: Page, name = "Dentist on duty") {
  await page.goto("/sign-in");
  await page.getByRole("button", { name }).click();
  await expect(page.getByRole("heading", { name: "Day sheet" })).toBeVisible();
}

export interface Answers {
  tooth?: string;
  answer?: string;
  code?: string;
  birthYear?: string;
  finding?: string;
  site?: string;
  depth?: string;
  /** Of an old filling; left out, one that is entered has caries beside it. */
  fault?: string;
  material?: string;
  school?: string;
}

export async function fillCase(page: Page, a: Answers = {}) {
  await page.goto("/cases/new");
  await page.getByLabel("Tooth", { exact: true }).fill(a.tooth ?? "46");
  await page.getByLabel("Arch, side and count").fill(a.answer ?? "lower right 6");
  await page.getByLabel("Patient code").fill(a.code ?? "HV-301");
  await page.getByLabel("Birth year").fill(a.birthYear ?? "1990");
  if (a.finding) await page.getByLabel("Finding", { exact: true }).selectOption({ label: a.finding });
  if (a.site) await page.getByLabel("Where", { exact: true }).selectOption({ label: a.site });
  if (a.depth) await page.getByLabel("Depth", { exact: true }).selectOption({ label: a.depth });
  if (a.finding === "Old filling")
    await page.getByLabel("Fault", { exact: true }).selectOption({ label: a.fault ?? "Caries beside it" });
  // Posterior teeth of these tests are amalgam by the board, unless they say otherwise; "" leaves the proposal.
  const posterior = Number((a.tooth ?? "46")[1]) > 3;
  const material = a.material ?? (posterior ? "Amalgam" : "");
  if (material) await page.getByLabel("Material", { exact: true }).selectOption({ label: material });
  const school = a.school ?? (a.material === undefined && posterior ? "board" : "");
  if (school) await page.getByLabel("School", { exact: true }).selectOption(school);
}

/** Waits until the drawing shows the answer to the newest change. */
export async function settled(page: Page) {
  await expect(page.getByTestId("sheet")).toHaveAttribute("data-settled", "true");
}

export async function startCase(page: Page, a: Answers = {}) {
  await fillCase(page, a);
  await page.getByRole("button", { name: "Start the case" }).click();
  // On a busy machine the first model of a tooth takes its time.
  await expect(page.getByTestId("sheet")).toBeVisible();
  await settled(page);
}

/** The measured value that a check of the panel shows. */
export async function measured(page: Page, check: string) {
  const text = await page.locator(`[data-check="${check}"] b`).first().textContent();
  return Number.parseFloat(text ?? "");
}

/** Expects that the accessibility scan finds nothing on the screen as it is, or on a part of it. */
export async function scan(page: Page, screen: string, part?: string, rules?: string[]) {
  // No screen has frames: they need not be gathered on a page of their own.
  const axe = new AxeBuilder({ page }).setLegacyMode(true);
  if (part) axe.include(part);
  if (rules) axe.withRules(rules);
  const { violations } = await axe.analyze();
  expect(violations.map((v) => `${screen}: ${v.id} ${v.nodes.map((n) => n.target).join(" ")}`)).toEqual([]);
}

/** The same in the light theme; of the dark one, which differs in colours alone, the contrasts. */
export async function scanBothThemes(page: Page, screen: string, part?: string) {
  for (const [theme, rules] of [
    ["dark", ["color-contrast"]],
    ["light", undefined],
  ] as const) {
    await page.evaluate((name) => {
      document.documentElement.dataset.theme = name;
      window.dispatchEvent(new Event("themechange"));
    }, theme);
    await scan(page, `${screen}, ${theme}`, part, rules && [...rules]);
  }
}

/** Opens a case from the day sheet, by its patient and tooth. */
export async function openCase(page: Page, patient: string, tooth: string) {
  await page
    .getByRole("row")
    .filter({ hasText: patient })
    .filter({ hasText: tooth })
    .getByRole("link")
    .click();
  await settled(page);
}
