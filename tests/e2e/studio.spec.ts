import { expect, type Page } from "@playwright/test";
import {
  awake,
  COLUMN,
  cell,
  go,
  makeTemplate,
  openInputs,
  readTemplate,
  row,
  saved,
  tracksOf,
  uniqueName,
} from "./helpers";
import { test } from "./warm";

const openStudio = (page: Page): Promise<void> => go(page, "/studio");

test.describe.configure({ mode: "serial" });

test("rooms and people are kept, and offered where a line asks for them", async ({ page }) => {
  await openStudio(page);
  await page.getByRole("button", { name: "Add a room" }).click();
  const room = uniqueName("Granary");
  await page
    .getByRole("textbox", { name: /^Room of Room/ })
    .last()
    .fill(room);
  await page.keyboard.press("Tab");
  await saved(page);
  const id = await makeTemplate(page, { copyOf: "pocket-sketch" });
  await openInputs(page, id);
  await cell(page, "Guitar", COLUMN.name).click();
  await page.getByRole("combobox", { name: "Room" }).fill(room.slice(0, 7));
  await page.getByRole("option", { name: room }).click();
  await saved(page);
  expect(Object.values((await readTemplate(page, id)).document.lines).map((line) => line.room)).toContain(room);
});

test("two people of one name, a bad target and a dye that does not stand out are told", async ({ page }) => {
  await openStudio(page);
  await page.getByRole("textbox", { name: "Name of Tom Hallgarth" }).fill("Pell Marrow");
  await page.keyboard.press("Tab");
  await expect(page.getByText("there are two people called Pell Marrow")).toBeVisible();
  await expect(page.getByRole("textbox", { name: "Name of Tom Hallgarth" })).toHaveValue("Tom Hallgarth");
  await page.getByRole("textbox", { name: /Target, ms of Keys/ }).fill("soon");
  await page.keyboard.press("Tab");
  await expect(page.getByText("Type milliseconds, from 0.5 to 100.")).toBeVisible();
  await page.getByRole("button", { name: "Add a dye" }).click();
  const cloth = page.getByLabel(/^On cloth of Dye/).last();
  await cloth.fill("#ffe9a0");
  await cloth.blur();
  await expect(page.getByText(/against cloth, and a thread needs 3 : 1\. Make it darker/)).toBeVisible();
  await page.getByRole("button", { name: /^Undo: Add Dye/ }).click();
  await saved(page);
});

test("an own dye and a family's new default reach the templates, and windows that are open", async ({
  page,
  context,
}) => {
  await openStudio(page);
  await page.getByRole("button", { name: "Add a dye" }).click();
  const name = uniqueName("heather");
  await page
    .getByRole("textbox", { name: /^Dye of Dye/ })
    .last()
    .fill(name);
  await page.keyboard.press("Tab");
  await page.getByLabel(`On cloth of ${name}`).fill("#7a4f8f");
  await page.getByLabel(`On cloth of ${name}`).blur();
  await page.getByRole("combobox", { name: "Dye of Keys" }).selectOption({ label: name });
  await saved(page);
  const id = await makeTemplate(page);
  await openInputs(page, id);
  await page.keyboard.press("Alt+a");
  await page.keyboard.type("1 mono from 1");
  await page.keyboard.press("Control+Enter");
  await expect(row(page, "Input 1")).toBeVisible();
  await page.keyboard.press("Alt+m");
  await expect(page.getByRole("dialog").getByRole("combobox")).toBeFocused();
  await page.keyboard.type("piano");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await expect(row(page, "Keys")).toBeVisible();
  await saved(page);
  expect(tracksOf((await readTemplate(page, id)).document)[0]?.colour).toMatch(/^own-/);
  await expect(cell(page, "Keys", COLUMN.colour).locator("span").first()).toHaveCSS(
    "border-color",
    "rgb(122, 79, 143)",
  );
  const other = await context.newPage();
  await openInputs(other, id);
  await openStudio(page);
  await page.getByLabel(`On cloth of ${name}`).fill("#8f4a4f");
  await page.getByLabel(`On cloth of ${name}`).blur();
  await expect(cell(other, "Keys", COLUMN.colour).locator("span").first()).toHaveCSS(
    "border-color",
    "rgb(143, 74, 79)",
  );
  await other.close();
  await page.getByRole("combobox", { name: "Dye of Keys" }).selectOption("verdigris");
  await saved(page);
  // How far removing it reaches is said before.
  await page.getByRole("button", { name: `Remove ${name}` }).click();
  await expect(page.getByRole("dialog")).toContainText("1 template has something dyed so.");
  await page
    .getByRole("dialog")
    .getByRole("button", { name: `Remove ${name}` })
    .press("Enter");
  await expect(page.getByRole("textbox", { name: `Dye of ${name}` })).toHaveCount(0);
  await saved(page);
});

test("a starter becomes a template on the rig that is chosen, and can be hidden", async ({ page }) => {
  await go(page, "/");
  await page.keyboard.press("Alt+a");
  const dialog = page.getByRole("dialog", { name: "New template" });
  const name = uniqueName("Quartet");
  await dialog.getByRole("textbox", { name: "Name" }).fill(name);
  await dialog.getByRole("radio", { name: "Four players around a pair" }).check();
  await dialog.getByRole("button", { name: "Make template" }).click();
  await expect(page.getByRole("button", { name: `Rename the template ${name}` })).toBeVisible();
  await awake(page);
  await expect(cell(page, "Main pair", COLUMN.input)).toHaveText("1–2");
  await expect(page.getByRole("button", { name: "No findings" })).toBeVisible();
  await openStudio(page);
  await page.getByRole("combobox", { name: "In the library of Four players around a pair" }).selectOption("hidden");
  await saved(page);
  await go(page, "/");
  await page.keyboard.press("Alt+a");
  await expect(dialog.getByRole("radio", { name: "Small band in one room" })).toBeVisible();
  await expect(dialog.getByRole("radio", { name: "Four players around a pair" })).toHaveCount(0);
  await openStudio(page);
  await page.getByRole("combobox", { name: "In the library of Four players around a pair" }).selectOption("offered");
  await saved(page);
});

test("a list is pasted as text", async ({ page }) => {
  await go(page, "/");
  await page.getByRole("button", { name: "Paste a list" }).click();
  await page
    .getByRole("textbox", { name: "Rows of the list" })
    .fill("Kanal;Quelle;Mikrofon\n1;Geige;Kondensator\n2;Bratsche;Bändchen\n");
  await page.getByRole("button", { name: "Read the list" }).click();
  const dialog = page.getByRole("dialog", { name: /^Reading Pasted list/ });
  await expect(dialog).toContainText("2 inputs on 2 rows");
  await dialog.getByRole("button", { name: /Make template/ }).click();
  await expect(row(page, "Bratsche")).toBeVisible();
});

test("kept chains are listed with what they hold, and renamed", async ({ page }) => {
  await openStudio(page);
  await expect(page.getByRole("region", { name: "Chains kept" })).toContainText("Equaliser, compressor");
  await page.getByRole("textbox", { name: "Name of Fiddle, close" }).fill("Fiddle, from near");
  await page.keyboard.press("Tab");
  await expect(page.getByRole("textbox", { name: "Name of Fiddle, from near" })).toHaveValue("Fiddle, from near");
  await saved(page);
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("textbox", { name: "Name of Fiddle, close" })).toBeVisible();
  await saved(page);
});
