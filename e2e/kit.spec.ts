import { readFile } from "node:fs/promises";
import { expect, test } from "@playwright/test";
import { scanBothThemes, settled, signIn, startCase } from "./steps";

test("a kit is counted, measured, kept and read, and its steps say what it lacks", async ({ page }) => {
  await signIn(page);
  await page.getByRole("link", { name: "Kit", exact: true }).click();
  await expect(page.getByRole("img", { name: "long pear, 3 mm long" })).toBeVisible();
  await expect(page.getByRole("row", { name: /fine ultrasonic margin tip/ })).toContainText(
    "none is left in stock",
  );
  const figure = (name: string) => page.getByLabel(name, { exact: true });
  const keep = page.getByRole("button", { name: "Keep the kit" });
  await expect(keep).toBeDisabled();
  await figure("football diamond: width").fill("2.4");
  await figure("shade guide: pieces").fill("0");
  await figure("shade guide: pieces").blur();
  await keep.click();
  await expect(page.getByRole("row", { name: /football diamond/ })).toContainText(
    "beyond that it is another instrument",
  );
  await scanBothThemes(page, "a kit with a fault");
  await figure("football diamond: width").fill("1.5");
  await figure("football diamond: width").blur();
  await keep.click();
  await expect(page.getByRole("row", { name: /shade guide/ })).toContainText("none is left in stock");

  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as a file" }).click();
  const file = await (await download).path();
  const kit = JSON.parse(await readFile(file, "utf8"));
  expect(kit.items).toContainEqual({ instrument: "football diamond", width_mm: 1.5 });
  await page
    .getByLabel("Kit file")
    .setInputFiles({ name: "x.json", mimeType: "application/json", buffer: Buffer.from("[]") });
  await expect(page.getByText("This is no kit file")).toBeVisible();

  await startCase(page, {
    code: "HV-391",
    tooth: "33",
    answer: "lower left 3",
    finding: "Cervical caries",
    site: "Facial",
  });
  await settled(page);
  const strip = page.getByRole("list", { name: "Instruments in order" });
  await expect(strip.getByRole("button", { name: /shade/i }).first()).toContainText("not in the kit");
  await page.getByRole("button", { name: "Prove by cutting" }).click();
  await expect(page.getByText("Proven by cutting")).toBeVisible({ timeout: 120_000 });
  await page
    .getByRole("list", { name: "Instruments in order" })
    .getByRole("button", { name: /shade/i })
    .first()
    .click();
  await expect(page.getByText(/The shade guide: none is left in stock/)).toBeVisible();

  await page.goto("/kit");
  await page.getByLabel("Kit file").setInputFiles({
    name: "kit.json",
    mimeType: "application/json",
    buffer: Buffer.from(
      JSON.stringify({
        ...kit,
        items: kit.items.filter((i: { instrument: string }) => i.instrument !== "shade guide"),
      }),
    ),
  });
  await keep.click();
  await expect(page.getByRole("row", { name: /shade guide/ })).not.toContainText("none is left in stock");
});
