import { expect, test } from "@playwright/test";
import { settled, signIn, startCase } from "./steps";

test("what is changed in another window shows in this one, and nothing typed here is lost", async ({
  page,
  context,
}) => {
  await signIn(page);
  await startCase(page, { code: "HV-398" });
  const isthmus = page.locator('[data-dimension="isthmus_width"]').first();
  const other = await context.newPage();
  await other.goto(page.url());
  await settled(other);

  // A draft that nobody changes here follows.
  await isthmus.focus();
  const before = await isthmus.getAttribute("aria-valuenow");
  await page.keyboard.press("ArrowUp");
  await expect(isthmus).not.toHaveAttribute("aria-valuenow", before ?? "");
  const wider = (await isthmus.getAttribute("aria-valuenow")) ?? "";
  await expect(other.getByText(/changed elsewhere/)).toBeVisible();
  await expect(other.locator('[data-dimension="isthmus_width"]').first()).toHaveAttribute(
    "aria-valuenow",
    wider,
  );

  // The day sheet counts a revision as soon as it is fixed elsewhere.
  await other.goto("/cases");
  const row = other.getByRole("row").filter({ hasText: "HV-398" });
  await expect(row).toBeVisible();
  await settled(page);
  await page.getByRole("button", { name: "Fix as revision" }).click();
  await expect(row).toContainText("1");

  // A kit that is being changed here stays as it is typed; whose counts is decided here.
  await other.goto("/kit");
  const pieces = other.getByLabel("football diamond: pieces", { exact: true });
  await pieces.fill("7");
  await pieces.blur();
  const kit = await (await page.request.get("/api/kit")).json();
  await page.request.put("/api/kit", { data: { version: kit.version, kit: kit.kit } });
  await expect(other.getByText("Kept elsewhere meanwhile")).toBeVisible();
  await expect(pieces).toHaveValue("7");
  await expect(other.getByRole("button", { name: "Keep the kit" })).toBeDisabled();
  await other.getByRole("button", { name: "Use my changes" }).click();
  await other.getByRole("button", { name: "Keep the kit" }).click();
  await expect(other.getByText("The kit is kept")).toBeVisible();
  const kept = await (await page.request.get("/api/kit")).json();
  expect(kept.version).toBe(kit.version + 2);
  expect(kept.kit.items).toContainEqual(
    expect.objectContaining({ instrument: "football diamond", pieces: 7 }),
  );
  await page.request.put("/api/kit", { data: { version: kept.version, kit: kit.kit } });
});
