import { expect, type Page } from "@playwright/test";
import {
  COLUMN,
  cell,
  grid,
  importList,
  makeTemplate,
  openInputs,
  readTemplate,
  row,
  saved,
  tracksOf,
} from "./helpers";
import { test } from "./warm";

const undoNames = async (page: Page): Promise<string> =>
  (await page.getByRole("button", { name: /^Undo: |Nothing to undo/ }).getAttribute("aria-label")) ?? "";

const typeName = async (page: Page, name: string): Promise<void> => {
  await page.keyboard.type(name);
  await page.keyboard.press("Enter");
};

test.describe("by keyboard only", () => {
  test("from empty: eleven mono tracks, two pairs, all named and dyed, two moved, three folders; undone and redone", async ({
    page,
  }) => {
    const id = await makeTemplate(page);
    await openInputs(page, id);
    const before = (await readTemplate(page, id)).document;
    let acts = 0;

    await page.keyboard.press("Alt+a");
    await page.keyboard.type("11 mono from 3");
    await expect(page.getByText("11 mono tracks on inputs 3 to 13")).toBeVisible();
    await page.keyboard.press("Enter");
    acts += 1;
    await expect(grid(page).getByRole("row")).toHaveCount(13);

    // Inputs 5 and 6, then 7 and 8, become stereo. The cursor stands on the first track.
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Alt+p");
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Alt+p");
    acts += 2;
    await expect(grid(page).getByRole("row")).toHaveCount(11);

    await page.keyboard.press("Control+Home");
    for (const name of ["Bass drum", "Snare", "Above", "Shakers", "Fiddle", "Viola", "Cello", "Lead voice"])
      await typeName(page, name);
    await page.keyboard.type("Second voice");
    await page.keyboard.press("Enter");
    acts += 9;
    await expect(row(page, "Second voice")).toBeVisible();

    // Three folders, each made of a run of rows; their dyes come by family.
    const folders: readonly (readonly [string, number])[] = [
      ["Percussion", 4],
      ["Bowed strings", 3],
      ["Voices", 2],
    ];
    for (const [name, count] of folders) {
      await page.keyboard.press("Control+Home");
      for (let n = 1; n < count; n++) await page.keyboard.press("Shift+ArrowDown");
      await page.keyboard.press("Alt+g");
      await expect(page.getByRole("dialog").locator("input")).toBeFocused();
      await page.keyboard.type(name);
      await page.keyboard.press("Enter");
      await expect(page.getByRole("dialog")).toHaveCount(0);
      acts += 1;
    }

    // Two moved to other inputs.
    for (const [from, to] of [
      ["Lead voice", "14"],
      ["Second voice", "1"],
    ] as const) {
      await page.keyboard.press("Control+k");
      await page.getByRole("textbox", { name: "Do or find" }).fill(from);
      await page.keyboard.press("Enter");
      await expect(grid(page)).toHaveAttribute("aria-activedescendant", /-name$/);
      await grid(page).focus();
      for (let n = 0; n < 3; n++) await page.keyboard.press("ArrowRight");
      await page.keyboard.type(to);
      await page.keyboard.press("Enter");
      acts += 1;
    }

    expect(acts).toBeLessThanOrEqual(30);
    await saved(page);
    const after = await readTemplate(page, id);
    expect(after.revision).toBe(1 + acts);
    const tracks = tracksOf(after.document);
    expect(tracks).toHaveLength(9);
    expect(tracks.filter((track) => track.input.kind === "pair").map((track) => track.name)).toEqual([
      "Above",
      "Shakers",
    ]);
    expect(Object.values(after.document.folders).map((folder) => [folder.name, folder.colour])).toEqual([
      ["Percussion", "madder"],
      ["Bowed strings", "lichen"],
      ["Voices", "cochineal"],
    ]);
    expect(tracks.every((track) => track.folderId !== null)).toBe(true);
    const portOf = (name: string) => {
      const input = tracks.find((track) => track.name === name)?.input;
      return input?.kind === "line" ? after.document.lines[input.lineId]?.portId : null;
    };
    expect([portOf("Lead voice"), portOf("Second voice"), portOf("Fiddle")]).toEqual([
      "brindle:in:14",
      "brindle:in:1",
      "brindle:in:9",
    ]);

    for (let n = 0; n < acts; n++) await page.keyboard.press("Control+z");
    await expect(page.getByRole("heading", { name: "No tracks yet" })).toBeVisible();
    await saved(page);
    expect((await readTemplate(page, id)).document).toEqual(before);
    for (let n = 0; n < acts; n++) await page.keyboard.press("Control+Shift+z");
    await expect(row(page, "Second voice")).toBeVisible();
    await saved(page);
    await expect.poll(async () => (await readTemplate(page, id)).revision).toBe(1 + acts * 3);
    expect((await readTemplate(page, id)).document).toEqual(after.document);
  });

  test("cells are edited as in a spreadsheet: typing, F2, Enter, Tab, Esc, Backspace, Space", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
    await openInputs(page, id);
    await grid(page).focus();
    await expect(row(page, "Percussion")).toHaveAttribute("aria-selected", "true");
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("F2");
    await page.keyboard.press("End");
    await page.keyboard.type(" in");
    await page.keyboard.press("Escape");
    await expect(row(page, "Bass drum")).toBeVisible();
    await typeName(page, "Kick-drum");
    await expect(row(page, "Frame drum")).toHaveAttribute("aria-selected", "true");
    await page.keyboard.type("Bodhran");
    await page.keyboard.press("Tab");
    await page.keyboard.press("Tab");
    await page.keyboard.type("DI box passive 1");
    await page.keyboard.press("Tab");
    await expect(cell(page, "Bodhran", COLUMN.microphone)).toHaveText("DI box passive 1");
    await page.keyboard.press("ArrowRight");
    await page.keyboard.press("Space");
    await expect(cell(page, "Bodhran", COLUMN.phantom)).toContainText("48 V");
    await page.keyboard.press("ArrowLeft");
    await page.keyboard.press("Backspace");
    await expect(cell(page, "Bodhran", COLUMN.input)).toContainText("–");
    await page.keyboard.press("End");
    await page.keyboard.type("by the door");
    await page.keyboard.press("Enter");
    await expect(cell(page, "Bodhran", COLUMN.note)).toHaveText("by the door");
    await expect.poll(() => undoNames(page)).toBe("Undo: Note on Bodhran");
  });

  test("colour and icon are chosen by typing their names", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "pocket-sketch" });
    await openInputs(page, id);
    await grid(page).focus();
    await page.keyboard.press("ArrowLeft");
    await page.keyboard.type("ver");
    await expect(page.getByRole("option", { name: "verdigris" })).toBeVisible();
    await page.keyboard.press("Enter");
    await expect(cell(page, "Guitar", COLUMN.colour)).toHaveText("verdigris");
    await page.keyboard.press("ArrowLeft");
    await page.keyboard.press("Enter");
    await page.keyboard.type("keys");
    await page.keyboard.press("Enter");
    await expect(cell(page, "Guitar", COLUMN.icon)).toHaveText("Keys");
  });

  test("an input that the rig lacks is refused in its cell, with what there is", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "pocket-sketch" });
    await openInputs(page, id);
    await cell(page, "Guitar", COLUMN.input).click();
    await page.keyboard.type("9");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("alert").filter({ hasText: "Duo" })).toHaveText("Duo has no input 9. It has 1 to 2.");
    await page.keyboard.press("Escape");
    await expect(cell(page, "Guitar", COLUMN.input)).toHaveText("1");
    expect((await readTemplate(page, id)).revision).toBe(1);
  });

  test("folders fold and unfold, rows move, tracks go", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
    await openInputs(page, id);
    await grid(page).focus();
    await page.keyboard.press("ArrowLeft");
    await expect(row(page, "Snare")).toHaveCount(0);
    await page.keyboard.press("ArrowRight");
    await expect(row(page, "Snare")).toBeVisible();
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Alt+ArrowDown");
    await expect(grid(page).getByRole("row").nth(3)).toContainText("Bass drum");
    await page.keyboard.press("Delete");
    await expect(row(page, "Bass drum")).toHaveCount(0);
    await expect.poll(() => undoNames(page)).toBe("Undo: Remove Bass drum");
    await page.keyboard.press("Control+z");
    await expect(row(page, "Bass drum")).toBeVisible();
  });

  test("Escape gives the selection up, and Tab then leaves the grid", async ({ page }) => {
    await openInputs(page, "pocket-sketch");
    await grid(page).focus();
    await expect(page.getByRole("complementary", { name: "Inspector" })).toBeVisible();
    await page.keyboard.press("Escape");
    await expect(page.getByRole("complementary", { name: "Inspector" })).toHaveCount(0);
    await page.keyboard.press("Tab");
    await expect(page.getByRole("button", { name: "Add tracks" })).toBeFocused();
  });
});

test.describe("with the mouse", () => {
  test("several rows are changed in one act, and in one undo", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
    await openInputs(page, id);
    await cell(page, "Bass drum", COLUMN.name).click();
    await cell(page, "Shaker table", COLUMN.name).click({ modifiers: ["Shift"] });
    const inspector = page.getByRole("complementary", { name: "Inspector" });
    await expect(inspector.getByRole("heading", { level: 2 })).toHaveText("4 tracks");
    await inspector.getByRole("combobox", { name: "Player" }).fill("Nadia Okonjo-Reyes");
    await page.keyboard.press("Enter");
    for (const name of ["Bass drum", "Snare", "Shaker table"])
      await expect(cell(page, name, COLUMN.player)).toHaveText("Nadia Okonjo-Reyes");
    await page.getByRole("button", { name: /^Undo: Set the player of 4 lines/ }).click();
    await expect(cell(page, "Snare", COLUMN.player)).toHaveText("Pell Marrow");
  });

  test("a jack takes the selected track, and leads to the one that is on it", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
    await openInputs(page, id);
    await cell(page, "Fiddle", COLUMN.name).click();
    await page.getByRole("button", { name: "Input E5, mic: free" }).click();
    await expect(cell(page, "Fiddle", COLUMN.input)).toHaveText("E5");
    await page.getByRole("button", { name: "Input E3, mic: Lead voice" }).click();
    await expect(row(page, "Lead voice")).toHaveAttribute("aria-selected", "true");
    await expect(page.getByRole("button", { name: "Input 15, line ← Stair: carries the Stair" })).toBeDisabled();
  });

  test("the inspector edits everything and shows the way of the signal", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
    await openInputs(page, id);
    await cell(page, "Fiddle", COLUMN.name).click();
    const inspector = page.getByRole("complementary", { name: "Inspector" });
    const way = inspector.getByRole("region", { name: "The way of this signal" });
    await expect(way.getByRole("listitem")).toHaveText([
      "Input 9 Clip-on condenser 1, line ← Thistle 1, 48 V",
      "Fiddle records here",
      "Equaliser 2 bands",
      "Compressor 2 : 1, −16 dB",
      "Stair chamber by a send −15 dB, after the fader",
      "Strings sums 2",
      "Main trimmed by −12.5 dB, sums 8, reached after 190 samples, 4 ms; held back by 190 samples, 4 ms",
      "Outputs 1–2 out of the interface",
    ]);
    await inspector.getByRole("switch", { name: "Phantom" }).click({ force: true });
    await expect(page.getByRole("button", { name: "3 problems" })).toBeVisible();
    await inspector.getByRole("combobox", { name: "Output" }).click();
    await page.getByRole("option", { name: "Outputs 3–4" }).click();
    await expect(way).toContainText("Outputs 3–4");
    await inspector.getByRole("textbox", { name: "Position" }).fill("by the window");
    await page.keyboard.press("Enter");
    await saved(page);
    expect(
      Object.values((await readTemplate(page, id)).document.lines).find((line) => line.source === "Fiddle"),
    ).toMatchObject({ phantom: false, position: "by the window" });
  });

  test("a finding leads to its place, and its fix clears it", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
    await openInputs(page, id);
    await page.getByRole("button", { name: "2 problems" }).click();
    const panel = page.getByRole("complementary", { name: "Findings" });
    await panel.getByRole("button", { name: /Clarinet is an active ribbon/ }).click();
    await expect(grid(page)).toHaveAttribute("aria-activedescendant", /-phantom$/);
    await panel.getByRole("button", { name: "Switch phantom on for Clarinet" }).click();
    await panel.getByRole("button", { name: "Silence the computer's copy" }).click();
    await panel.getByRole("button", { name: "Ask for 1.2" }).click();
    await expect(panel).toContainText("Nothing to complain of");
    await expect(page.getByRole("button", { name: "Clear" })).toBeVisible();
  });

  test("a double click edits, a click beside it keeps what was typed", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
    await openInputs(page, id);
    await cell(page, "Snare", COLUMN.name).dblclick();
    await page.keyboard.type("Side drum");
    await cell(page, "Fiddle", COLUMN.note).click();
    await expect(row(page, "Side drum")).toBeVisible();
    await expect(grid(page)).toBeFocused();
    await cell(page, "Trumpet", COLUMN.name).dblclick();
    await page.keyboard.type("Cornet");
    await page.getByLabel("Filter the rows").click();
    await page.keyboard.type("cor");
    await expect(page.getByLabel("Filter the rows")).toHaveValue("cor");
    await expect(row(page, "Cornet")).toBeVisible();
  });

  test("rate, rig and name are changed in the frame", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
    await openInputs(page, id);
    await page.getByRole("button", { name: "Format and rig" }).click();
    await page.getByRole("combobox", { name: "Sample rate" }).click();
    await page.getByRole("option", { name: "192 kHz" }).click();
    await expect(page.getByRole("button", { name: "5 problems" })).toBeVisible();
    await expect(
      page.getByRole("button", { name: /^Input E3, .*not there at 192 kHz|Input E3, mic: Lead voice/ }),
    ).toBeVisible();
    await page.keyboard.press("Escape");
    await page.getByRole("button", { name: /^Rename the template/ }).click();
    await page.keyboard.type("Tidewrack, fast");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("button", { name: "Rename the template Tidewrack, fast" })).toBeVisible();
    await saved(page);
    await page.reload();
    await expect(page.getByRole("button", { name: "Rename the template Tidewrack, fast" })).toBeVisible();
  });

  test("at 1024 wide the cursor stays in sight, and nothing runs out of the page", async ({ page }) => {
    await page.setViewportSize({ width: 1024, height: 700 });
    await openInputs(page, "tidewrack-nine");
    await cell(page, "Fiddle", COLUMN.name).click();
    await page.keyboard.press("End");
    await expect(cell(page, "Fiddle", COLUMN.note)).toBeInViewport({ ratio: 0.9 });
    await page.keyboard.press("Home");
    await expect(cell(page, "Fiddle", COLUMN.icon)).toBeInViewport({ ratio: 0.9 });
    await page.keyboard.press("Control+End");
    await expect(row(page, "Second voice")).toBeInViewport();
    await page.keyboard.press("Control+Home");
    await expect(row(page, "Percussion")).toBeInViewport({ ratio: 0.5 });
    expect(
      await page.evaluate(
        () =>
          document.documentElement.scrollWidth <= window.innerWidth &&
          document.documentElement.scrollHeight <= window.innerHeight,
      ),
    ).toBe(true);
  });

  test("two tracks on one input are told, and become two passes of one line", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "pocket-sketch" });
    await openInputs(page, id);
    await cell(page, "Voice", COLUMN.input).click();
    await page.keyboard.type("1");
    await page.keyboard.press("Enter");
    await page.getByRole("button", { name: "1 problem" }).click();
    const panel = page.getByRole("complementary", { name: "Findings" });
    await expect(panel).toContainText("Guitar and Voice are both on input 1. Only one of them can be plugged in.");
    await panel.getByRole("button", { name: "It is one source: record both tracks by turns" }).click();
    await expect(panel).toContainText("Nothing to complain of");
    await panel.getByRole("button", { name: "Close the findings" }).click();
    await cell(page, "Guitar", COLUMN.name).click();
    await expect(page.getByRole("combobox", { name: "Line shared with Voice" })).toHaveValue("recorded by turns");
    await saved(page);
    expect(Object.keys((await readTemplate(page, id)).document.lines)).toHaveLength(1);
  });

  test("a stereo row becomes two mono rows and one again", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
    await openInputs(page, id);
    await cell(page, "Accordion", COLUMN.layout).dblclick();
    await expect(cell(page, "Accordion R", COLUMN.input)).toHaveText("14");
    await expect(cell(page, "Accordion L", COLUMN.microphone)).toHaveText("Moving-coil 4");
    await cell(page, "Accordion L", COLUMN.layout).dblclick();
    await expect(cell(page, "Accordion", COLUMN.input)).toHaveText("13–14");
    await expect(cell(page, "Accordion", COLUMN.microphone)).toHaveText("Moving-coil 4 + Moving-coil 5");
  });

  test("a folder is renamed, dyed and dissolved", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
    await openInputs(page, id);
    await row(page, "Winds").getByRole("gridcell").dblclick();
    await page.keyboard.type("Blown");
    await page.keyboard.press("Enter");
    await row(page, "Blown").getByRole("gridcell").click();
    const inspector = page.getByRole("complementary", { name: "Inspector" });
    await inspector.getByRole("combobox", { name: "Colour" }).click();
    await page.getByRole("option", { name: "woad" }).click();
    await expect(cell(page, "Clarinet", COLUMN.colour)).toHaveText("woad");
    await inspector.getByRole("button", { name: "Dissolve the folder Blown" }).click();
    await expect(row(page, "Blown")).toHaveCount(0);
    await expect(cell(page, "Clarinet", COLUMN.folder)).toHaveText("");
    await page.getByRole("button", { name: "Undo: Dissolve the folder Blown" }).click();
    await expect(cell(page, "Clarinet", COLUMN.folder)).toHaveText("Blown");
  });

  test("a list of hundreds of lines scrolls, and only the rows in view are drawn", async ({ page }) => {
    const csv = `Input,Source\n${Array.from({ length: 400 }, (_, n) => `${n + 1},Voice ${n + 1}`).join("\n")}\n`;
    const answer = await page.request.post("/api/templates/import", {
      multipart: { file: { name: "choir.csv", mimeType: "text/csv", buffer: Buffer.from(csv) }, rigId: "whole-mill" },
    });
    await openInputs(page, (await answer.json()).template.id);
    await expect(grid(page)).toHaveAttribute("aria-rowcount", "402");
    expect(await grid(page).getByRole("row").count()).toBeLessThan(80);
    await grid(page).focus();
    await page.keyboard.press("Control+End");
    await expect(row(page, "Voice 400")).toBeInViewport();
  });
});

test("the Nine keeps its order, its folders and its pairs on the screen", async ({ page }) => {
  const id = await importList(page, "01-tidewrack-nine.csv");
  await openInputs(page, id);
  await expect(grid(page).getByRole("row").filter({ hasText: "tracks" })).toHaveText([
    /Percussion5 tracks/,
    /Low strings2 tracks/,
    /Strings2 tracks/,
    /Winds3 tracks/,
    /Voices2 tracks/,
  ]);
  await expect(cell(page, "Cimbalom", COLUMN.input)).toHaveText("11–12");
  await expect(cell(page, "Cimbalom", COLUMN.phantom)).toContainText("off");
  await expect(cell(page, "Trumpet", COLUMN.phantom)).toContainText("Thistle 1–2 carries 48 V");
});
