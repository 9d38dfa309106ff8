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
    await expect(page.getByRole("textbox", { name: "Tracks to add" })).toBeFocused();
    await page.keyboard.type("11 mono from 3");
    await expect(page.getByText("11 mono tracks on inputs 3 to 13")).toBeVisible();
    await page.keyboard.press("Control+Enter");
    acts += 1;
    await expect(grid(page).getByRole("row")).toHaveCount(13);
    // The keys are back in the grid a moment after its rows are.
    await page.waitForFunction(() => Boolean(document.activeElement?.closest("[role=grid]")));

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
});

test.describe("with the mouse", () => {
  test("rate, rig and name are changed in the frame", async ({ page }) => {
    const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
    await openInputs(page, id);
    await page.getByRole("button", { name: "Format and rig" }).click();
    await page.getByRole("combobox", { name: "Sample rate" }).click();
    await page.getByRole("option", { name: "192 kHz" }).click();
    await expect(page.getByRole("button", { name: "5 problems" })).toBeVisible();
    await expect(
      page.getByRole("button", { name: /^Input E3, .*not there at 192 kHz|Input E3, 3 mic: Lead voice/ }),
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
