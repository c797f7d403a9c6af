import { test } from "@playwright/test";
import { signIn } from "./steps";

test("look", { tag: "@3d" }, async ({ page }) => {
  test.setTimeout(200_000);
  await page.setViewportSize({ width: 1280, height: 800 });
  await signIn(page);
  await page.goto("/kit");
  await page.waitForTimeout(1500);
  await page.screenshot({ path: "/tmp/kit1.png" });
  await page.locator("main").evaluate((m) => m.scrollTo(0, 1150));
  await page.waitForTimeout(300);
  await page.screenshot({ path: "/tmp/kit2.png" });
});
