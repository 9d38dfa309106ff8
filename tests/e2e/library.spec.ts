import { readFileSync } from "node:fs";
import { expect } from "@playwright/test";
import { dropFile, fixturePath, go, makeTemplate, openInputs, readTemplate, tracksOf, uniqueName } from "./helpers";
import { test } from "./warm";

const templateRow = (page: import("@playwright/test").Page, name: string) =>
  page.getByRole("listitem").filter({ has: page.getByRole("link", { name, exact: true }) });

test("the library shows the demo: how big each template is, of what, and what is wrong", async ({ page }) => {
  await go(page, "/");
  await page.getByRole("textbox", { name: "Search the library" }).fill("Tidewrack Nine");
  const nine = templateRow(page, "The Tidewrack Nine");
  await expect(nine).toContainText("Band · 48 kHz · 24 bit · Whole mill");
  await expect(nine).toContainText("18 in");
  // A change of the studio by another test has everything judged anew, one after the other.
  await expect(nine).toContainText("2 problems", { timeout: 45_000 });
  await expect(nine.getByRole("img", { name: /threads/ })).toHaveAttribute("aria-label", /^16 threads: 5 madder/);
});

test("search and kind narrow the list, and say when nothing is found", async ({ page }) => {
  await go(page, "/");
  await page.getByRole("button", { name: "Solo" }).click();
  await expect(page.getByRole("link", { name: "Pocket sketch", exact: true })).toBeVisible();
  await expect(page.getByRole("link", { name: "The Tidewrack Nine", exact: true })).toHaveCount(0);
  await page.getByRole("button", { name: "All", exact: true }).click();
  await page.keyboard.press("/");
  await page.keyboard.type("no such thing");
  await expect(page.getByRole("heading", { name: "Nothing found" })).toBeVisible();
});

test("a new template of a kind on a rig, by keyboard", async ({ page }) => {
  const name = uniqueName("Night session");
  await go(page, "/");
  await page.keyboard.press("Alt+a");
  await expect(page.getByRole("dialog", { name: "New template" })).toBeVisible();
  await expect(page.getByRole("textbox", { name: "Name" })).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByText("A template needs a name.")).toBeVisible();
  await page.getByRole("textbox", { name: "Name" }).focus();
  await page.keyboard.type(name);
  await page.keyboard.press("Tab");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/inputs$/);
  await expect(page.getByRole("heading", { name: "No tracks yet" })).toBeVisible();
  const id = page.url().split("/").at(-2) ?? "";
  expect((await readTemplate(page, id)).document).toMatchObject({
    name,
    kind: "spoken-word",
    rigId: "wheelhouse-cart",
  });
});

test("rename, duplicate, delete and undo of it", async ({ page }) => {
  const name = uniqueName("Rehearsal");
  await makeTemplate(page, { name });
  await go(page, "/");
  await page.getByRole("textbox", { name: "Search the library" }).fill(name);
  await page.getByRole("button", { name: `More for ${name}` }).click();
  await page.getByRole("menuitem", { name: "Rename…" }).click();
  await page.getByRole("textbox", { name: "Name" }).fill(`${name} again`);
  await page.getByRole("button", { name: "Rename", exact: true }).click();
  await expect(templateRow(page, `${name} again`)).toBeVisible();

  await page.getByRole("button", { name: `More for ${name} again` }).click();
  await page.getByRole("menuitem", { name: "Duplicate" }).click();
  await expect(templateRow(page, `${name} again, copy`)).toBeVisible();

  await page.getByRole("button", { name: `More for ${name} again, copy` }).click();
  await page.getByRole("menuitem", { name: "Delete" }).click();
  await expect(templateRow(page, `${name} again, copy`)).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(templateRow(page, `${name} again, copy`)).toBeVisible();
});

test("the Nine dropped on the library for the Wheelhouse cart: 18 lines on 15 tracks, told and fixed", async ({
  page,
}) => {
  await go(page, "/");
  await dropFile(page, "01-tidewrack-nine.csv");
  const dialog = page.getByRole("dialog");
  await dialog
    .getByRole("combobox", { name: "Rig", exact: true })
    .selectOption({ label: "Wheelhouse cart, 14 inputs" });
  await expect(dialog).toContainText("Left out: 4");
  await expect(dialog).toContainText("Lead voice: Wheelhouse cart has no input 17");
  await expect(dialog).toContainText("Clarinet: input 15 carries the Stair");
  await page.getByRole("button", { name: "Make template of 15 tracks" }).click();
  await expect(page).toHaveURL(/\/inputs$/);
  await page.getByRole("button", { name: "4 problems" }).click();
  const panel = page.getByRole("complementary", { name: "Findings" });
  await expect(panel.getByRole("listitem")).toHaveCount(4);
  await expect(panel).toContainText(
    "Clarinet (Active ribbon) is on input 15, which takes line level only and carries the Stair.",
  );
  await expect(panel).toContainText("Lead voice asks for input 17, and Wheelhouse cart has no such input.");

  const id = page.url().split("/").at(-2) ?? "";
  const { document } = await readTemplate(page, id);
  expect([Object.keys(document.lines).length, tracksOf(document).length, Object.keys(document.folders).length]).toEqual(
    [18, 15, 6],
  );
  expect(tracksOf(document).filter((track) => track.input.kind === "pair")).toHaveLength(3);

  await panel.getByRole("button", { name: "Fit to Whole mill, which has that input" }).first().click();
  await panel.getByRole("button", { name: "Move Clarinet to Brindle Eight input 3" }).click();
  await panel.getByRole("button", { name: "Move Sousaphone to Brindle Eight input 4" }).click();
  await expect(panel).toContainText("Nothing to complain of");
  await page.getByRole("button", { name: /^Undo: / }).click();
  await expect(panel.getByRole("listitem")).toHaveCount(1);
});

test("a German list is understood without help, and its columns can be corrected", async ({ page }) => {
  await go(page, "/");
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "From an input list" }).click(),
  ]);
  await chooser.setFiles(fixturePath("02-choir-evening.csv"));
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("combobox", { name: "What Mikrofon means" })).toHaveValue("microphone");
  await expect(dialog.getByRole("combobox", { name: "Mono or stereo of Orgelpositiv" })).toHaveValue("stereo");
  await dialog.getByRole("combobox", { name: "What Stativ means" }).selectOption("note");
  await expect(dialog.getByRole("textbox", { name: "Note of Solistin" })).toHaveValue("hoch");
  await dialog.getByRole("combobox", { name: "What Instrument means" }).selectOption("ignore");
  await expect(dialog).toContainText("No column says what is recorded");
  await expect(dialog.getByRole("button", { name: /^Make template/ })).toBeDisabled();
  await dialog.getByRole("combobox", { name: "What Instrument means" }).selectOption("source");
  await expect(dialog.getByRole("button", { name: "Make template of 7 tracks" })).toBeEnabled();
});

test("a file that is no list is answered with what to do, and nothing is made", async ({ page }) => {
  await go(page, "/");
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "From an input list" }).click(),
  ]);
  await chooser.setFiles({
    name: "photo.csv",
    mimeType: "text/csv",
    buffer: Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 1]),
  });
  await expect(page.getByRole("dialog").getByRole("alert")).toContainText("This is no text file. Save the list as CSV");
  await expect(page.getByRole("button", { name: "Make template" })).toBeDisabled();
});

test("a template that is not there says so and leads back", async ({ page }) => {
  expect((await page.goto("/templates/nope/inputs"))?.status()).toBe(404);
  await page.getByRole("link", { name: "Go to the library" }).click();
  await expect(page.getByRole("heading", { name: "Library" })).toBeVisible();
});

test("the palette finds templates beyond those that the page shows, and leads to them", async ({ page }) => {
  await go(page, "/");
  await page.getByRole("button", { name: "Band", exact: true }).click();
  await expect(page.getByRole("link", { name: "Pocket sketch" })).toHaveCount(0);
  await page.keyboard.press("Control+k");
  await expect(page.getByRole("textbox", { name: "Do or find" })).toBeFocused();
  await page.keyboard.type("Pocket");
  await expect(page.getByRole("button", { name: /^Pocket/ }).first()).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/templates\/pocket-sketch\/inputs$/);
});

test("the saved JSON of a template, dropped on the library, is a new template", async ({ page }) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine", name: uniqueName("Kept") });
  const body = await (await page.request.get(`/api/templates/${id}/export?format=json`)).body();
  await go(page, "/");
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "From an input list" }).click(),
  ]);
  await chooser.setFiles({ name: "kept.json", mimeType: "application/json", buffer: body });
  await page.getByRole("button", { name: "Make template" }).click();
  await expect(page).toHaveURL(/\/inputs$/);
  const made = page.url().split("/").at(-2) ?? "";
  expect(made).not.toBe(id);
  await openInputs(page, made);
  expect({ ...(await readTemplate(page, made)).document, id }).toEqual((await readTemplate(page, id)).document);
});

test("a template renamed from a list that is older than it loses nothing", async ({ page }) => {
  const name = uniqueName("Older");
  const id = await makeTemplate(page, { name });
  await go(page, "/");
  await page.getByRole("textbox", { name: "Search the library" }).fill(name);
  await expect(templateRow(page, name)).toBeVisible();
  await page.request.post(`/api/templates/${id}/commands`, {
    data: {
      base: 1,
      batch: "elsewhere",
      commands: [{ kind: "set", table: "document", values: { [id]: { note: "from elsewhere" } } }],
    },
  });
  await page.getByRole("button", { name: `More for ${name}` }).click();
  await page.getByRole("menuitem", { name: "Rename…" }).click();
  await page.getByRole("textbox", { name: "Name" }).fill(`${name}, renamed`);
  await page.keyboard.press("Enter");
  await expect(templateRow(page, `${name}, renamed`)).toBeVisible();
  expect((await readTemplate(page, id)).document).toMatchObject({ name: `${name}, renamed`, note: "from elsewhere" });
});

test("a template document made for a rig that is not here is put on one that is", async ({ page }) => {
  const state = await readTemplate(page, "pocket-sketch");
  await go(page, "/");
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "From an input list" }).click(),
  ]);
  await chooser.setFiles({
    name: "elsewhere.json",
    mimeType: "application/json",
    buffer: Buffer.from(JSON.stringify({ ...state.document, name: uniqueName("Elsewhere"), rigId: "another-house" })),
  });
  await page.getByRole("button", { name: "Make template" }).click();
  await expect(page.getByRole("dialog").getByRole("alert")).toContainText("Choose one of the rigs here");
  await page.getByRole("combobox", { name: "Rig" }).click();
  await page.getByRole("option", { name: /^Duo/ }).click();
  await page.getByRole("button", { name: "Make template" }).click();
  await expect(page).toHaveURL(/\/inputs$/);
});

test("a damaged template document is answered with its place, and nothing is made", async ({ page }) => {
  await go(page, "/");
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "From an input list" }).click(),
  ]);
  await chooser.setFiles({
    name: "damaged.json",
    mimeType: "application/json",
    buffer: Buffer.from('{"schema": 2, "id": "x", "name": 5}'),
  });
  await page.getByRole("button", { name: "Make template" }).click();
  await expect(page.getByRole("dialog").getByRole("alert")).toContainText("The template is damaged at /");
});

test("the menu of a row saves it as JSON", async ({ page }) => {
  await go(page, "/");
  await page.getByRole("textbox", { name: "Search the library" }).fill("Pocket sketch");
  await page.getByRole("button", { name: "More for Pocket sketch", exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("menuitem", { name: "Save as JSON" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("Pocket sketch.json");
});

const openList = async (page: import("@playwright/test").Page, name: string, buffer: Buffer) => {
  await go(page, "/");
  await page.locator('input[aria-label="Input list to read"]').setInputFiles({ name, mimeType: "text/csv", buffer });
  return page.getByRole("dialog", { name: `Reading ${name}` });
};

test("the brass evening: 31 inputs, sections as folders, pairs as stereo, title lines left out and told", async ({
  page,
}) => {
  const dialog = await openList(page, "04-brass-evening.csv", readFileSync(fixturePath("04-brass-evening.csv")));
  await expect(dialog).toContainText("31 inputs on 24 rows");
  await expect(dialog).toContainText("stands before the heading");
  await expect(dialog).toContainText("stands alone and is taken as a folder");
  await dialog.getByRole("combobox", { name: "Rig", exact: true }).selectOption({ label: "Whole mill, 22 inputs" });
  await dialog.getByRole("button", { name: /^Make template/ }).click();
  await expect(page.getByRole("heading", { level: 1, name: /^Input list of/ })).toBeAttached();
  const { document } = await readTemplate(page, page.url().split("/").at(-2) ?? "");
  expect(Object.keys(document.lines)).toHaveLength(31);
  expect(Object.keys(document.folders).length).toBeGreaterThanOrEqual(3);
  expect(tracksOf(document).some((track) => track.input.kind === "pair")).toBe(true);
});

test("the messy list: everything kept, the double input and the one beyond the rig told", async ({ page }) => {
  const dialog = await openList(page, "05-messy.csv", readFileSync(fixturePath("05-messy.csv")));
  await dialog
    .getByRole("combobox", { name: "Rig", exact: true })
    .selectOption({ label: "Wheelhouse cart, 14 inputs" });
  await expect(dialog).toContainText("2 twice");
  await dialog.getByRole("button", { name: /^Make template of 6 tracks/ }).click();
  await expect(page.getByRole("button", { name: /problems$/ })).toBeVisible();
  await page.getByRole("button", { name: /problems$/ }).click();
  const panel = page.getByRole("complementary", { name: "Findings" });
  await expect(panel).toContainText("are both on input 2. Only one of them can be plugged in.");
  await expect(panel).toContainText("asks for input 17, and Wheelhouse cart has no such input.");
  await expect(panel).toContainText("asks for input A5, and Wheelhouse cart has no such input.");
  await expect(page.getByText("Voice – Zoë").first()).toBeVisible();
});

for (const [what, buffer, words] of [
  ["empty", Buffer.from(""), "The file is empty"],
  ["a heading and nothing else", Buffer.from("Input,Source,Mic\n"), "nothing below it"],
  ["a picture", Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 13, 0, 1]), "no text file"],
  ["far too large", Buffer.alloc(5 * 1024 * 1024, "1,Voice\n"), "larger than 4 MiB"],
] as const)
  test(`a file that is ${what} gets a clear answer`, async ({ page }) => {
    const failed: string[] = [];
    page.on("response", (response) => response.status() >= 500 && failed.push(response.url()));
    const dialog = await openList(page, "list.csv", buffer);
    await expect(dialog.getByRole("alert")).toContainText(words);
    expect(failed).toEqual([]);
  });
