import { expect, type Page, test } from "@playwright/test";
import { ownServer } from "./ownServer";

test("a draft that rests is proven by itself, the chair begins at the kept proof, and two windows at it lose nothing", async ({
  page,
  context,
}) => {
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
    const at = (window: Page) => window.getByRole("region", { name: "Step at hand" });
    await expect(at(page)).toBeVisible();

    // Two windows at one run: each shows what the other notes.
    const other = await context.newPage();
    await other.goto(page.url());
    await expect(at(other).getByText(/^1 of/)).toBeVisible();
    await page.keyboard.press("s");
    await expect(at(other).getByText(/^2 of/)).toBeVisible();
    // The server is gone: both go on alone, and in both the same step is skipped.
    await server.stop();
    await page.keyboard.press("s");
    await page.keyboard.press("n");
    await other.keyboard.press("s");
    await other.keyboard.press("u");
    for (const window of [page, other]) {
      await expect(at(window).getByText(/^3 of/)).toBeVisible();
      await expect(window.getByText(/not sent yet: 2/)).toBeVisible();
    }
    await server.start();
    for (const window of [page, other]) {
      await expect(window.getByText(/not sent yet/)).toBeHidden();
      await expect(at(window).getByText(/^3 of/)).toBeVisible();
    }
    const run = await page.request.get(
      page
        .url()
        .replace(/^(https?:\/\/[^/]+)\/(.*)$/, "$1/api/$2")
        .replace("/chair/", "/runs/"),
    );
    const kept = (await run.json()).events.map((e: { kind: string; step: number }) => `${e.kind} ${e.step}`);
    expect(kept.sort()).toEqual([
      "neighbour_touched 2",
      "pulp_seen 2",
      "skipped 0",
      "skipped 1",
      "skipped 1",
    ]);
  });
});
