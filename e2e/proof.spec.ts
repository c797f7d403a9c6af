import { expect, test } from "@playwright/test";
import { ownServer } from "./ownServer";

test("a draft that rests is proven by itself, and the chair begins at the kept proof", async ({ page }) => {
  await ownServer(page, ["HV-081", "lower right second molar"], async (server) => {
    const steps = page.getByRole("region", { name: "Instruments" });
    await expect(steps.getByText(/Not proven yet/)).toBeVisible();
    const drawn = await steps.getByRole("listitem").count();
    await expect(steps.getByText("Proven by cutting")).toBeVisible();
    // A proof drops steps that there is nothing in for, and adds none.
    expect(await steps.getByRole("listitem").count()).toBeLessThanOrEqual(drawn);

    await server.stop();
    await server.start();
    await page.getByRole("link", { name: "At the chair" }).click();
    await expect(page.getByRole("button", { name: "Begin the first step" })).toBeVisible();
    await expect(page.getByText(/Not proven yet/)).toBeHidden();
    await page.getByRole("button", { name: "Begin the first step" }).click();
    await expect(page.getByRole("region", { name: "Step at hand" })).toBeVisible();
  });
});
