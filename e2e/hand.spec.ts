import { expect, type Page, test } from "@playwright/test";
import { signIn, startCase } from "./steps";

test.beforeEach(async ({ page }) => {
  await signIn(page);
});

const views = [
  ["1", "occlusal"],
  ["2", "facial"],
  ["3", "lingual"],
  ["6", "mirror"],
] as const;

/** Where the mesiobuccal cusp lies as seen from the distobuccal one; the cheek is up on upper teeth, the tongue on lower ones. */
const sides = {
  "16": { occlusal: "right", facial: "left", lingual: "right", mirror: "left" },
  "26": { occlusal: "left", facial: "right", lingual: "left", mirror: "right" },
  "36": { occlusal: "left", facial: "left", lingual: "right", mirror: "right" },
  "46": { occlusal: "right", facial: "right", lingual: "left", mirror: "left" },
};

/** The middle of the name of a cusp on the turnable tooth. */
async function cusp(page: Page, letters: string) {
  const name = page
    .getByTestId("study-3d")
    .locator("..")
    .locator("span", { hasText: new RegExp(`^${letters}$`) });
  const box = await name.evaluate((s) => s.getBoundingClientRect().toJSON()); // covered by another name or not
  return { x: box.x + box.width / 2, under: box.y + box.height + 8 };
}

for (const [tooth, wanted] of Object.entries(sides))
  test(`${tooth} stands as in the mouth, and only the mirror turns it over`, { tag: "@3d" }, async ({
    page,
  }) => {
    await page.goto(`/study/${tooth}?age=34`);
    await expect(page.getByTestId("study-3d").locator("canvas")).toBeVisible();
    for (const [key, view] of views) {
      await page.keyboard.press(key);
      await expect(page.getByTestId("study-3d")).toHaveAttribute("data-view", view);
      await expect(async () => {
        const [mesial, distal] = [await cusp(page, "MB"), await cusp(page, "DB")];
        expect(mesial.x > distal.x ? "right" : "left", `MB from ${view}`).toBe(wanted[view]);
      }).toPass();
    }
    // The tooth lies under its names: what a finger meets under MB is mesial and facial.
    await page.keyboard.press("1");
    await expect(page.getByTestId("study-3d")).toHaveAttribute("data-view", "occlusal");
    await expect(async () => {
      const at = await cusp(page, "MB");
      const touched = page.waitForRequest(/\/touch\?/, { timeout: 15_000 });
      await page.mouse.click(at.x, at.under);
      const place = new URL((await touched).url()).searchParams;
      expect(Number(place.get("x"))).toBeGreaterThan(0.5);
      expect(Number(place.get("y"))).toBeGreaterThan(0.5);
    }).toPass();
  });

/** On which side of the picture cut dentin comes nearer to the edge of the tooth: that of its box. */
async function sideOfTheBox(page: Page) {
  const png = await page.getByTestId("tooth-3d").locator("canvas").screenshot();
  return page.evaluate(async (base64) => {
    const image = new Image();
    image.src = `data:image/png;base64,${base64}`;
    await image.decode();
    const canvas = new OffscreenCanvas(image.width, image.height);
    const context = canvas.getContext("2d");
    if (!context) throw new Error("no canvas");
    context.drawImage(image, 0, 0);
    const { data } = context.getImageData(0, 0, image.width, image.height);
    const [ground0 = 0, ground1 = 0, ground2 = 0] = data;
    const tooth = [image.width, 0] as [number, number];
    const dentin = [image.width, 0] as [number, number];
    const grow = (range: [number, number], x: number) => {
      range[0] = Math.min(range[0], x);
      range[1] = Math.max(range[1], x);
    };
    for (let n = 0; n < data.length; n += 4) {
      const [r = 0, g = 0, b = 0] = data.slice(n, n + 3);
      if (Math.abs(r - ground0) + Math.abs(g - ground1) + Math.abs(b - ground2) < 24) continue;
      const x = (n / 4) % image.width;
      grow(tooth, x);
      if (r - b > 40) grow(dentin, x); // straw
    }
    if (dentin[1] < dentin[0]) return "nothing is cut";
    return dentin[0] - tooth[0] > tooth[1] - dentin[1] ? "right" : "left";
  }, png.toString("base64"));
}

for (const [tooth, answer, distal, inMirror] of [
  ["36", "lower left 6", "right", "left"],
  ["17", "upper right 7", "left", "right"],
] as const)
  test(`a distal box of ${tooth} is cut on its ${distal} from above, as the plan has it`, {
    tag: "@3d",
  }, async ({ page }) => {
    const lesion = { finding: "Proximal caries", site: "Distal", depth: "Middle dentin" };
    await startCase(page, { tooth, answer, code: `HV-9${tooth}`, ...lesion });
    await expect(page.getByTestId("tooth-3d")).toBeVisible();
    for (const [key, side] of [
      ["1", distal],
      ["6", inMirror],
    ] as const) {
      await page.keyboard.press(key);
      await expect.poll(() => sideOfTheBox(page)).toBe(side);
    }
  });
