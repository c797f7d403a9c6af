import { expect, test } from "@playwright/test";

test("the sign-in page comes in at most 150 kB", async ({ page }) => {
  const sent = await page.context().newCDPSession(page);
  await sent.send("Network.enable");
  let bytes = 0;
  const heavy: string[] = [];
  sent.on("Network.loadingFinished", (e) => {
    bytes += e.encodedDataLength;
  });
  page.on("response", (r) => {
    if (/three|ToothView|Study/i.test(r.url())) heavy.push(r.url());
  });
  await page.goto("/sign-in");
  await expect(page.getByRole("button", { name: "Dentist on duty" })).toBeVisible();
  await page.waitForLoadState("networkidle");
  console.log(`sign-in page: ${(bytes / 1000).toFixed(0)} kB on the wire`);
  expect(bytes).toBeGreaterThan(10_000);
  expect(bytes).toBeLessThan(150_000);
  expect(heavy).toEqual([]);
});
