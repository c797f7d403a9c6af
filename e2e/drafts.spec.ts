import type { Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { ownServer } from "./ownServer";
import { fillCase, scanBothThemes, settled, signIn, startCase } from "./steps";

const isthmus = (page: Page) => page.locator('[data-dimension="isthmus_width"]').first();

async function wider(page: Page, times = 1) {
  await isthmus(page).focus();
  for (let n = 0; n < times; n++) await page.keyboard.press("ArrowUp");
}

async function caseOf(page: Page, url = page.url()) {
  const id = url.split("/cases/")[1]?.split("/")[0];
  const answer = await page.request.get(`/api/cases/${id}`);
  return await answer.json();
}

test("a slow server never brings an older figure back", async ({ page }) => {
  await signIn(page);
  await startCase(page, { code: "HV-851" });
  // The first save is slow, so that the next ones come while it is under way.
  let saves = 0;
  await page.route("**/draft", async (route) => {
    saves++;
    if (saves === 1) await new Promise((done) => setTimeout(done, 2500));
    await route.continue();
  });
  await wider(page);
  await page.waitForTimeout(900);
  await wider(page, 2);
  // Leaving within the pause, and coming back, shows the newest figure.
  await page.getByRole("link", { name: "Day sheet" }).click();
  await page
    .getByRole("row", { name: /HV-851/ })
    .getByRole("link")
    .click();
  await expect(isthmus(page)).toHaveAttribute("aria-valuenow", "1.4");
  await wider(page);
  await expect(page.getByText("Draft saved")).toBeVisible();
  expect((await caseOf(page)).document.overrides.isthmus_width).toBe(1.5);
  // What is fixed is what is shown, though it was not saved yet.
  await wider(page);
  await page.getByRole("button", { name: "Fix as revision" }).dblclick();
  await expect(page.getByText("Fixed as revision 1")).toBeVisible();
  const kept = await caseOf(page);
  expect(kept.revisions).toHaveLength(1);
  const plan = await page.request.get(`/api/cases/${kept.id}/files/plan.json?revision=1`);
  expect((await plan.json()).dimensions.isthmus_width).toBe(1.6);
});

test("a lost answer is no one else's draft", async ({ page }) => {
  await signIn(page);
  await startCase(page, { code: "HV-857" });
  // The server has the first change, but its answer never comes.
  let saves = 0;
  await page.route("**/draft", async (route) => {
    if (saves++ > 0) return route.continue();
    await route.fetch();
    await route.abort();
  });
  await wider(page);
  await expect(page.getByText("Not saved: no answer")).toBeVisible();
  await wider(page, 2);
  await expect(page.getByText("Draft saved")).toBeVisible();
  await expect(page.getByText("changed elsewhere")).toHaveCount(0);
  expect((await caseOf(page)).document.overrides.isthmus_width).toBe(1.4);
});

test("two windows that do not hear of each other do not overwrite each other", async ({ page, context }) => {
  await context.route("**/api/changes", (stream) => stream.abort()); // as behind a proxy that holds it back
  await signIn(page);
  await startCase(page, { code: "HV-852" });
  const other = await context.newPage();
  await other.goto(page.url());
  await settled(other);
  await wider(other, 3);
  await expect(other.getByText("Draft saved")).toBeVisible();
  // This window has changed nothing: fixing does not fix the other's design unseen.
  await page.getByRole("button", { name: "Fix as revision" }).click();
  await expect(page.getByText(/The draft has changed meanwhile/)).toBeVisible();
  await expect(isthmus(page)).toHaveAttribute("aria-valuenow", "1.4");
  // Both change: mine, theirs, or both drawn over each other.
  await settled(page);
  await wider(other);
  await expect(other.getByText("Draft saved")).toBeVisible();
  await wider(page, 4);
  await expect(page.getByText("The draft was changed elsewhere")).toBeVisible();
  expect((await caseOf(page)).document.overrides.isthmus_width).toBe(1.5);
  await page.getByRole("button", { name: "Choose which to keep" }).click();
  const choice = page.getByRole("dialog", { name: "Two drafts of this case" });
  await expect(choice.getByTestId("overlay-plan")).toBeVisible();
  await expect(choice.getByRole("row", { name: "Isthmus width 1.8 1.5" })).toBeVisible();
  await scanBothThemes(page, "two drafts of a case");
  await choice.getByRole("button", { name: "Keep mine" }).click();
  await expect(page.getByText("Draft saved")).toBeVisible();
  expect((await caseOf(page)).document.overrides.isthmus_width).toBe(1.8);
  // The other way round, and back with Undo.
  await wider(other);
  // It is not forgotten when the page is left.
  await expect(other.getByText("The draft was changed elsewhere")).toBeVisible();
  await other.getByRole("link", { name: "Day sheet" }).click();
  await other.getByRole("link", { name: "open the case" }).click();
  await other.getByRole("button", { name: "Choose which to keep" }).click();
  await other.getByRole("button", { name: "Take theirs" }).click();
  await expect(isthmus(other)).toHaveAttribute("aria-valuenow", "1.8");
  await other.getByRole("button", { name: "Undo" }).click();
  await expect(isthmus(other)).toHaveAttribute("aria-valuenow", "1.6");
  await expect(other.getByText("Draft saved")).toBeVisible();
});

test("an ended session asks for the password in place and goes on", async ({ page, context }) => {
  await signIn(page);
  await startCase(page, { code: "HV-853" });
  await context.clearCookies();
  await wider(page);
  const again = page.getByRole("dialog", { name: "Your session has ended" });
  await expect(again).toBeVisible();
  await expect(again.getByLabel("Sign-in name")).toHaveValue("dentist");
  await scanBothThemes(page, "sign-in in place");
  await again.getByLabel("Password").fill("wrong");
  await again.getByRole("button", { name: "Go on" }).click();
  await expect(again.getByText(/is wrong/)).toBeVisible();
  await again.getByLabel("Password").fill("halvarra-demo");
  await again.getByRole("button", { name: "Go on" }).click();
  await expect(again).toHaveCount(0);
  await expect(page.getByText("Draft saved")).toBeVisible();
  await settled(page);
  expect((await caseOf(page)).document.overrides.isthmus_width).toBe(1.2);
  // Coming back to the window finds it out as well, and stays on the page.
  await context.clearCookies();
  await page.evaluate(() => window.dispatchEvent(new Event("focus")));
  await again.getByLabel("Password").fill("halvarra-demo");
  await page.keyboard.press("Enter");
  await expect(again).toHaveCount(0);
  await expect(page.getByTestId("view-plan")).toBeVisible();
});

test("a refusal says what it is, and the change waits in the browser", async ({ page }) => {
  await signIn(page);
  await startCase(page, { code: "HV-854" });
  for (const [status, title, faults] of [
    [404, "Not found", []],
    [422, "The case has faults", [{ path: "$.patient.code", message: "another patient: look" }]],
    [500, "Something went wrong on the server", []],
  ] as const) {
    await page.route("**/draft", (route) =>
      route.fulfill({
        status,
        contentType: "application/problem+json",
        body: JSON.stringify({ status, title, faults }),
      }),
    );
    await wider(page);
    const notice = page.getByRole("alert").filter({ hasText: "Your change is not saved" });
    await expect(notice).toContainText(faults[0]?.message ?? title);
    await page.unroute("**/draft");
  }
  // The page is closed in that state; the change comes back with it.
  await page.route("**/draft", (route) => route.abort());
  await wider(page);
  await expect(page.getByText("Not saved: no answer")).toBeVisible();
  await page.unrouteAll();
  await page.goto("/cases");
  await expect(page.getByRole("heading", { name: "Day sheet" })).toBeVisible();
  await page
    .getByRole("row", { name: /HV-854/ })
    .getByRole("link")
    .click();
  await expect(isthmus(page)).toHaveAttribute("aria-valuenow", "1.5");
  await expect(page.getByText("Draft saved")).toBeVisible();
});

test("a case is started once, however often and however late", async ({ page }) => {
  await signIn(page);
  await fillCase(page, { code: "HV-855" });
  // The first answers are lost on their way, after the server has done the work.
  let sent = 0;
  await page.route("**/api/cases", async (route) => {
    if (route.request().method() !== "POST" || sent++ >= 2) return route.continue();
    await route.fetch();
    await route.abort();
  });
  await page.getByLabel("Birth year").focus();
  for (let n = 0; n < 3; n++) await page.keyboard.press("Enter");
  await expect(page.getByText("The case is started as soon as it does")).toBeVisible();
  await expect(page.getByRole("button", { name: "Waits for the server…" })).toBeDisabled();
  await settled(page);
  await page.getByRole("link", { name: "Day sheet" }).click();
  await expect(page.getByRole("row", { name: /HV-855/ })).toHaveCount(1);
});

test("a figure that cannot be built keeps the drawing and says so beside it", async ({ page }) => {
  await signIn(page);
  await startCase(page, { code: "HV-856", finding: "Proximal caries", site: "Distal" });
  const figure = page.getByRole("textbox", { name: /Buccal wall from contact centre/ });
  const proposed = await figure.inputValue();
  await figure.fill("5");
  await figure.press("Enter");
  await expect(page.getByText(/This cannot be built: Buccal wall from contact centre/)).toBeVisible();
  await expect(page.getByText(/Cannot be built: the box runs off the tooth/)).toBeVisible();
  await expect(figure).toHaveAttribute("aria-invalid", "true");
  await expect(page.getByTestId("view-plan")).toBeVisible();
  await expect(page.getByRole("button", { name: "Fix as revision" })).toBeDisabled();
  await expect(page.getByText("Draft saved")).toBeVisible();
  await page.reload();
  await expect(page.getByText(/This cannot be built: Buccal wall from contact centre/)).toBeVisible();
  await expect(page.getByTestId("view-plan")).toBeVisible();
  await page
    .getByRole("button", { name: /Buccal wall from contact centre.* back to the proposal/ })
    .first()
    .click();
  await settled(page);
  await expect(figure).toHaveValue(proposed);
  await expect(page.getByRole("button", { name: "Fix as revision" })).toBeEnabled();
});

test("a restarted server finds what was changed while it was gone", async ({ page }) => {
  await ownServer(page, ["HB-004", "lower left first molar"], async (server) => {
    const before = Number(await isthmus(page).getAttribute("aria-valuenow"));
    await server.stop();
    await wider(page, 2);
    await expect(page.getByText("Not saved: no answer")).toBeVisible();
    await expect(page.getByTestId("view-plan")).toBeVisible();
    // Fixing says that it waits, and goes on by itself.
    await page.keyboard.press("Control+k");
    await page.keyboard.type("fix");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("button", { name: "Fix waits for the server…" })).toBeDisabled();
    await server.start();
    await expect(page.getByText(/Fixed as revision/)).toBeVisible();
    await expect(page.getByText("Draft saved")).toBeVisible();
    const { origin, pathname } = new URL(page.url());
    const kept = await (await page.request.get(`${origin}/api${pathname}`)).json();
    expect(kept.document.overrides.isthmus_width).toBeCloseTo(before + 0.2, 5);
  });
});
