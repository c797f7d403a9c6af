import { expect, test } from "@playwright/test";
import { fillCase, measured, settled, signIn, startCase } from "./steps";

test.beforeEach(async ({ page }) => {
  await signIn(page);
});

test("an amalgam MOD from places tapped on the tooth to the card", async ({ page }) => {
  await fillCase(page, { tooth: "47", answer: "lower right 7", code: "HV-361" });
  await page.getByRole("button", { name: "Mesial on the drawing" }).click();
  await page.getByRole("button", { name: "Distal on the drawing" }).click();
  await expect(page.getByLabel("Where", { exact: true })).toHaveValue("mesial");
  await expect(page.getByLabel("Where 2")).toHaveValue("distal");
  // The usual sizes are shown, and can be overruled.
  await expect(page.getByLabel("Millimetres wide", { exact: true })).toHaveAttribute("placeholder", /\d\.\d/);
  await page.getByLabel("Mark contacts").check();
  await page.getByLabel(/^Places on the tooth/).click({ position: { x: 70, y: 60 } });
  await expect(page.getByText("Clear 1 contact")).toBeVisible();
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByTestId("sheet")).toBeVisible();
  await settled(page);
  await expect(page.getByText(/Class II MOD, amalgam, board/)).toBeVisible();
  await expect(page.locator('[data-check="outline.contact_stress"]')).toBeVisible();

  await expect(page.getByTestId("view-proximal_mesial")).toBeVisible();
  await page.getByRole("tab", { name: "From the distal" }).click();
  await expect(page.getByTestId("view-proximal_distal")).toBeVisible();

  const check = "box.clearance_buccal mesial";
  const before = await measured(page, check);
  expect(before).toBeGreaterThan(0.25);
  const tag = page.locator('[data-dimension="mesial_box_buccal"]').first();
  await tag.focus();
  await page.keyboard.press("Shift+ArrowUp");
  await settled(page);
  await expect.poll(() => measured(page, check)).toBeGreaterThan(before + 0.1);
  await expect(page.locator(`[data-check="${check}"]`)).toHaveAttribute("data-verdict", /^(near|missed)$/);
  await page.getByRole("button", { name: "Undo" }).click();
  await settled(page);
  await expect.poll(() => measured(page, check)).toBeCloseTo(before, 2);

  const section = page.getByTestId("view-mesiodistal").locator('path[fill="url(#enamel)"]').first();
  const drawn = await section.getAttribute("d");
  expect(drawn).toBeTruthy();
  await page.getByLabel("Section along, moved").fill("1");
  await settled(page);
  await expect(section).not.toHaveAttribute("d", drawn ?? "");

  await page.getByRole("button", { name: "Fix as revision" }).click();
  await expect(page.getByText("Fixed as revision 1")).toBeVisible();
  const id = page.url().split("/").pop();
  const card = await page.request.get(`/api/cases/${id}/files/card.pdf?revision=1`);
  expect(card.headers()["content-type"]).toContain("application/pdf");
  expect((await card.body()).length).toBeGreaterThan(10_000);
});

test("a composite slot leaves the fissures alone", async ({ page }) => {
  await startCase(page, {
    tooth: "25",
    answer: "upper left 5",
    code: "HV-362",
    finding: "Proximal caries",
    site: "Distal",
    material: "Composite",
  });
  await page.getByLabel(/^School/).selectOption("adhesive");
  await settled(page);
  await expect(page.getByText(/Class II DO, composite, adhesive/)).toBeVisible();
  // Of the outline the boxes' criteria stand there, that of an isthmus does not.
  await page.getByRole("navigation", { name: "Forms" }).getByRole("button", { name: "Outline" }).click();
  await expect(page.locator('[data-check="box.clearance_buccal distal"]')).toBeVisible();
  await expect(page.locator('[data-check="outline.isthmus_width"]')).toHaveCount(0);
  await expect(page.locator('[data-dimension="distal_box_buccal"]').first()).toBeVisible();
  // No bevel on the occlusal surface of a permanent tooth; the fissures left are sealed.
  await page.getByRole("button", { name: "Retain" }).click();
  await expect(page.locator('[data-check="retain.bevel_width"]')).toContainText("not asked for here");
  await expect(page.getByText("Seal the other fissures")).toBeVisible();
  await page.getByRole("combobox", { name: /^Form/ }).selectOption("conventional");
  await settled(page);
  await page.getByRole("combobox", { name: /^Form/ }).selectOption("slot");
  await settled(page);
  await page.getByLabel("Your reason, kept with the plan").fill("small lesion, dry field");
  await page.getByLabel("Your reason, kept with the plan").blur();
  await settled(page);
  await expect(page.getByText("Draft saved")).toBeVisible();
  const id = page.url().split("/").pop();
  const plan = await (await page.request.get(`/api/cases/${id}/files/plan.json`)).json();
  expect(plan.decision_reason).toBe("small lesion, dry field");
  expect(plan.surfaces).toEqual(["occlusal", "distal"]);
});

test("an old filling and a weak cusp, tapped on the tooth, become a plan", async ({ page }) => {
  await fillCase(page, { tooth: "46", answer: "lower right 6", code: "HV-367", finding: "Old filling" });
  await page.getByRole("button", { name: "Mesiobuccal cusp on the drawing" }).click();
  await expect(page.getByLabel("Finding 2", { exact: true })).toHaveValue("undermined_cusp");
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByTestId("sheet")).toBeVisible();
  await settled(page);
  await expect(page.getByRole("button", { name: /Old filling out/ })).toBeVisible();
  await expect(page.getByText(/; old filling/)).toBeVisible();
  // Covered, since it was entered so; kept by hand, against the advice.
  await expect(page.getByText(/MB cusp covered/)).toBeVisible();
  await expect(page.getByText("Reduce MB")).toBeVisible();
  await page.getByRole("button", { name: "Resist" }).click();
  expect(await measured(page, "resist.cusp_clearance")).toBeGreaterThan(1.9);
  await page.getByLabel("Keep the weak cusps, against the advice").check();
  await settled(page);
  await expect(page.getByText(/MB cusp found undermined: \d\.\d mm is left/)).toBeVisible();
  await expect(page.getByText("Reduce MB")).toHaveCount(0);
});

test("a primary molar takes its own school, and its mesial horn refuses a box", async ({ page }) => {
  await fillCase(page, {
    tooth: "85",
    answer: "lower right 5",
    code: "HV-368",
    birthYear: "2019",
    finding: "Proximal caries",
    site: "Distal",
    material: "Composite",
  });
  await expect(page.getByLabel("School", { exact: true }).locator("option:checked")).toHaveText(
    "As proposed: primary molars",
  );
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByTestId("sheet")).toBeVisible();
  await settled(page);
  await expect(page.getByText(/Class II DO, composite, primary/)).toBeVisible();
  await expect(
    page.getByText(/The tooth narrows towards the cervical line, and the distal seat/),
  ).toBeVisible();
  await fillCase(page, {
    tooth: "84",
    answer: "lower right 4",
    code: "HV-368",
    birthYear: "2019",
    finding: "Proximal caries",
    site: "Mesial",
    material: "Composite",
  });
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByText(/mesial horn of a primary first molar/).first()).toBeVisible();
  await expect(page.locator('[data-way="refer"]')).toContainText("advised");
});

test("a lesion within enamel is not drilled until the dentist decides so", async ({ page }) => {
  await fillCase(page, { code: "HV-363", depth: "Inner enamel" });
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByRole("heading", { name: "Seal" })).toBeVisible();
  await expect(page.getByText(/Not drilled. Advised: seal/)).toBeVisible();
  await page.getByRole("button", { name: "Plan it: restore" }).click();
  await expect(page.getByTestId("sheet")).toBeVisible();
});

test("schools are laid side by side with their differences and reasons", async ({ page }) => {
  await startCase(page, {
    tooth: "36",
    answer: "lower left 6",
    code: "HV-364",
    finding: "Proximal caries",
    site: "Distal",
  });
  await page.getByRole("link", { name: "Compare schools" }).click();
  await expect(page.getByTestId("overlay-plan")).toBeVisible();
  const table = page.getByTestId("differences");
  await expect(table.getByRole("columnheader")).toHaveText(["Figure", "Board", "Traditional", "Adhesive"]);
  await expect(table.getByRole("row", { name: /Enamel spent/ })).toContainText("+");
  const row = table.getByRole("row", { name: /Line angle radius/ });
  await row.getByRole("button", { name: "why?" }).click();
  await expect(table.getByText(/Sharp line angles resist displacement/)).toBeVisible();
  await page.getByLabel("Adhesive").uncheck();
  await expect(table.getByRole("columnheader")).toHaveCount(3);
  await page.getByRole("link", { name: "To the sheet" }).click();
  await settled(page);
});

test("a bitewing is measured with two clicks, the simulated one and one's own", async ({ page }) => {
  await fillCase(page, {
    tooth: "36",
    answer: "lower left 6",
    code: "HV-365",
    finding: "Proximal caries",
    site: "Distal",
  });
  await page.getByRole("button", { name: "Measure on a bitewing" }).click();
  const film = page.getByTestId("film");
  await expect(film).toBeVisible();
  const box = await film.boundingBox();
  if (!box) throw new Error("the film has no place");
  const click = (x: number, y: number) => page.mouse.click(box.x + x * box.width, box.y + y * box.height);
  await click(0.6, 0.4);
  await click(0.52, 0.4);
  const reading = page.getByTestId("film-reading");
  await expect(reading).toContainText(/\d\.\d\d mm: (outer|middle) dentin/);
  await page.getByRole("button", { name: "Measure again" }).click();
  await expect(reading).toHaveCount(0);
  // By keyboard alone: a point, 20 steps along, a second point.
  await film.focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  for (let n = 0; n < 20; n++) await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("Enter");
  await expect(reading).toContainText("mm");

  // A picture of one's own: 400 pixels wide, of which 200 are said to be 10 mm.
  const picture = await page.evaluate(() => {
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [400, 300];
    const paint = canvas.getContext("2d");
    if (paint) paint.fillRect(0, 0, 400, 300);
    return canvas.toDataURL("image/png").split(",")[1] ?? "";
  });
  await page
    .getByLabel("Load your own")
    .setInputFiles({ name: "film.txt", mimeType: "text/plain", buffer: Buffer.from("no film") });
  await expect(page.getByText(/Only PNG and JPEG/)).toBeVisible();
  await page
    .getByLabel("Load your own")
    .setInputFiles({ name: "film.png", mimeType: "image/png", buffer: Buffer.from(picture, "base64") });
  await expect(page.getByText(/both ends of a length you know/)).toBeVisible();
  // The picture is shown whole: a unit of the film is known from its height.
  const shown = await film.boundingBox();
  if (!shown) throw new Error("the film has no place");
  const unit = Math.min(shown.width / 400, shown.height / 300);
  const at = (x: number, y: number) =>
    page.mouse.click(
      shown.x + shown.width / 2 + (x - 200) * unit,
      shown.y + shown.height / 2 + (y - 150) * unit,
    );
  await at(100, 150);
  await at(300, 150);
  await page.getByRole("button", { name: "Set the scale" }).click();
  await at(100, 200);
  await at(130, 200);
  await expect(reading).toContainText(/1\.(4[5-9]|5[0-5]) mm: outer dentin/);
  await page.getByRole("button", { name: "Take this depth" }).click();
  await expect(page.getByLabel("Depth", { exact: true })).toHaveValue("outer_dentin");
});

test("a broken case file is refused with its faults, a sound one fills the form", async ({ page }) => {
  await page.goto("/cases/new");
  const file = (text: string) => ({
    name: "case.json",
    mimeType: "application/json",
    buffer: Buffer.from(text),
  });
  const input = page.getByLabel("Read a case file");
  await input.setInputFiles(file("{ not json"));
  await expect(page.getByText(/this is not JSON/)).toBeVisible();
  const sound = {
    schema: "obturon.case/1",
    tooth: "37",
    patient: { code: "HV-366", age_years: 41, isolation: "secure" },
    findings: [{ kind: "proximal_caries", site: "distal", depth: "outer_dentin", width_mm: 2.6 }],
    choice: { material: "amalgam", school: "traditional", form: "slot" },
    overrides: { distal_axial_depth: 1.6 },
  };
  await input.setInputFiles(
    file(
      JSON.stringify({ ...sound, findings: [{ kind: "proximal_caries", site: "central", depth: "deep" }] }),
    ),
  );
  await expect(page.getByText("$.findings[0].depth")).toBeVisible();
  await expect(page.getByText("$.findings[0].site")).toBeVisible();
  await expect(page.getByLabel("Tooth", { exact: true })).toHaveValue("");

  await input.setInputFiles(file(JSON.stringify(sound)));
  await expect(page.getByLabel("Tooth", { exact: true })).toHaveValue("37");
  await expect(page.getByLabel("Millimetres wide", { exact: true })).toHaveValue("2.6");
  await page.getByLabel("Arch, side and count").fill("lower left 7");
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByTestId("sheet")).toBeVisible();
  await settled(page);
  await expect(page.getByText(/Class II DO, amalgam, traditional/)).toBeVisible();
  await expect(page.getByRole("combobox", { name: /^Form/ })).toHaveValue("slot");
  await expect(page.getByRole("textbox", { name: "Axial depth, distal" })).toHaveValue("1.6");
});

test("a conflict is read and settled by hand; what is not there says so", async ({ page }) => {
  await startCase(page, {
    tooth: "17",
    answer: "upper right 7",
    code: "HV-963",
    finding: "Proximal caries",
    depth: "Outer dentin",
    material: "Composite",
    school: "traditional",
  });
  await page.getByRole("button", { name: "Resist" }).click();
  const into = page.locator('[data-check^="box.axial_into_dentin"]');
  await expect(into).toContainText("cannot both be met here");
  await expect(into).toContainText("The seat's width comes first");
  const gone = page.locator('[data-verdict="not_measurable"]').first();
  await expect(gone).toContainText("nothing to measure");
  // The dentist settles it the other way: the wall stands back, and the seat is narrow.
  const depth = page.getByRole("textbox", { name: /^Axial depth/ });
  await depth.fill("0.9");
  await depth.blur();
  await settled(page);
  await expect(into).not.toContainText("cannot both be met here");
  await expect(page.locator('[data-check^="box.axial_depth"]')).toHaveAttribute(
    "data-verdict",
    /near|missed/,
  );
});

test("a plan that comes near the pulp leads through it", async ({ page }) => {
  await startCase(page, {
    tooth: "36",
    answer: "lower left 6",
    code: "HV-964",
    birthYear: "2008",
    finding: "Fissure caries",
    depth: "Inner dentin",
  });
  await expect(page.getByText(/Before cutting: history, cold test, percussion, and a film/)).toBeVisible();
  await expect(page.getByText(/If the pulp is laid open: dam on/)).toBeVisible();
  // What stays over the pulp is a choice, kept with the plan.
  await page.getByLabel("Caries over the pulp").selectOption({ label: "To firm dentin everywhere" });
  await settled(page);
  await expect(page.getByText(/over the pulp soft dentin stays/)).toHaveCount(0);
});

test("a proposal is fitted behind its first drawing, and what is set by hand stays", async ({ page }) => {
  await startCase(page, {
    tooth: "35",
    answer: "lower left 5",
    code: "HV-965",
    finding: "Proximal caries",
    site: "Distal",
    depth: "Outer dentin",
    material: "Amalgam",
    school: "traditional",
  });
  const solution = page.getByTestId("solution");
  await expect(solution).toContainText(/\d+ figures? moved, \d+ checks? better/);
  await solution.locator("summary").click();
  await expect(solution).toContainText("Now met:");
  const width = page.getByRole("textbox", { name: "Dovetail width" });
  await width.fill("1.6");
  await width.press("Enter");
  await settled(page);
  await page.reload();
  await expect(page.getByTestId("sheet")).toBeVisible();
  await settled(page);
  await expect(width).toHaveValue("1.6");
  await expect(solution).toBeVisible();
});

test("what decides can be entered on the sheet, and a sound filling is not cut", async ({ page }) => {
  await fillCase(page, {
    tooth: "26",
    answer: "upper left 6",
    code: "HV-395",
    finding: "Old filling",
    fault: "None: sound",
  });
  await page.getByRole("button", { name: "Start the case" }).click();
  await expect(page.getByRole("heading", { name: "Watch" })).toBeVisible();
  await page.getByLabel(/Fault of the old filling/).selectOption({ label: "Stained or open margin" });
  await expect(page.locator('[data-way="repair"]')).toContainText("advised");
  await page.getByRole("button", { name: "Plan it: replace" }).click();
  await expect(page.getByTestId("sheet")).toBeVisible();
  await page.getByText("Against the advice: repair").click();
  await page.getByRole("button", { name: "Choose" }).first().click();
  await expect(page.getByRole("heading", { name: "Repair" })).toBeVisible();
});

test("soft dentin stays over the pulp of a deep lesion, and is named", async ({ page }) => {
  await startCase(page, {
    tooth: "35",
    answer: "lower left 5",
    code: "HV-396",
    finding: "Proximal caries",
    site: "Distal",
    depth: "Inner dentin",
    material: "Composite",
  });
  await expect(page.getByText(/Selective removal: walls, junction/)).toBeVisible();
  await page.getByText(/^Not entered: surface, pulp/).click();
  await page.getByLabel(/Pulp not tested/).selectOption({ label: "Irreversible or dead" });
  await expect(page.getByText(/root canal treatment or extraction comes first/).first()).toBeVisible();
  await expect(page.getByTestId("sheet")).toHaveCount(0);
});
