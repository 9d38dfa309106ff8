import { readFileSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { evaluate } from "../../src/core/checks";
import { writeDocument } from "../../src/core/formats/document-json";
import type { RigId } from "../../src/core/model/ids";
import type { Rig } from "../../src/core/model/rig";
import { rigThatFits } from "../../src/core/planning/rig-that-fits";
import { go, makeTemplate, noViolations, openInputs, readTemplate, row, saved, tracksOf, uniqueName } from "./helpers";
import { test } from "./warm";

/** A rig of shipped devices with at least so many inputs, kept in the studio under a name of its own. */
const makeRig = async (page: Page, inputs: number): Promise<string> => {
  const rig = rigThatFits({ id: "new" as RigId, name: uniqueName("Large cart"), inputs });
  const answer = await page.request.post("/api/rigs/import", {
    multipart: { file: { name: "rig.json", mimeType: "application/json", buffer: Buffer.from(writeDocument(rig)) } },
  });
  const made = await answer.json();
  return made.document?.id ?? made.rig?.id ?? made.id;
};

const rigOf = async (page: Page, id: string): Promise<Rig> =>
  (await (await page.request.get(`/api/rigs/${id}`)).json()).document;

/** Counts what a person does by keyboard: a key, a name typed, a paste. */
const counting = (page: Page) => {
  let acts = 0;
  return {
    press: async (key: string): Promise<void> => {
      acts++;
      await page.keyboard.press(key);
    },
    type: async (text: string): Promise<void> => {
      acts++;
      await page.keyboard.type(text);
    },
    paste: async (text: string): Promise<void> => {
      acts++;
      await page.keyboard.insertText(text);
    },
    acts: (): number => acts,
  };
};

const BAND = `Kick in/out, Sn T/B, HH, Rack tom, Floor tom, OH L/R
Bass DI + amp
Gtr 1-2, Ac Gtr DI
Keys (stereo)
Tpt, Tbn, Tenor sax, Bari sax
Lead vox LDC, BV x3`;

test("a band of 24 inputs from one paste: named, dyed, in folders, routed to family buses, in three cues, in 30 acts", async ({
  page,
}) => {
  test.slow();
  const rigId = await makeRig(page, 32);
  const id = await makeTemplate(page, { rigId, name: uniqueName("Saturday band") });
  const { press, type, paste, acts } = counting(page);
  await openInputs(page, id);
  const walk = async (screen: string): Promise<void> => {
    await press("Control+k");
    await expect(page.getByRole("textbox", { name: "Do or find" })).toBeFocused();
    await type(screen);
    await press("Enter");
  };
  await walk("Go to the cues");
  await expect(page.getByRole("heading", { level: 1, name: /Cues/ })).toBeAttached();
  for (const name of ["Drums", "Band", "Singers"]) {
    await press("Alt+a");
    await expect(page.getByRole("dialog").getByRole("textbox", { name: "Name" })).toBeVisible();
    await expect(page.getByRole("dialog").getByLabel("Who hears it")).toBeFocused();
    await press("Tab");
    await type(name);
    await press("Enter");
    await expect(page.getByRole("dialog")).toHaveCount(0);
  }
  await walk("Go to the input list");
  await expect(page.getByRole("heading", { level: 1, name: /^Input list of/ })).toBeAttached();
  await press("Alt+a");
  await expect(page.getByRole("textbox", { name: "Tracks to add" })).toBeFocused();
  await paste(BAND);
  await expect(page.getByText("22 tracks on 24 inputs")).toBeVisible();
  await press("Control+Enter");
  await expect(row(page, "Kick in")).toBeVisible();
  await saved(page);
  const { document } = await readTemplate(page, id);
  const tracks = tracksOf(document);
  expect([tracks.length, Object.keys(document.lines).length]).toEqual([22, 24]);
  expect(Object.values(document.lines).every(({ portId }) => portId !== null)).toBe(true);
  expect(new Set(Object.values(document.lines).map(({ portId }) => portId)).size).toBe(24);
  for (const track of tracks) {
    const folder = track.folderId ? document.folders[track.folderId] : null;
    expect(track.output, track.name).toEqual({ kind: "channel", channelId: folder?.busId });
    expect(track.colour ?? folder?.colour, track.name).not.toBeNull();
    expect(
      Object.values(document.cueLevels).filter(({ sourceId }) => sourceId === track.id),
      track.name,
    ).toHaveLength(3);
  }
  const problems = evaluate({ doc: document, rig: await rigOf(page, rigId), otherRigs: [] }).filter(
    ({ rule, severity }) => severity === "problem" && !rule.startsWith("cue"),
  );
  expect(problems.map(({ message }) => message)).toEqual([]);
  expect(acts()).toBeLessThanOrEqual(30);
  await press("Control+z");
  await expect(row(page, "Kick in")).toHaveCount(0);
});

test("a radio play of nine from one paste", async ({ page }) => {
  const id = await makeTemplate(page, { rigId: "whole-mill", name: uniqueName("Radio play") });
  const { press, paste, acts } = counting(page);
  await openInputs(page, id);
  await press("Alt+a");
  await expect(page.getByRole("textbox", { name: "Tracks to add" })).toBeFocused();
  await paste("Narrator LDC, Actor x3 LDC\nFoley table L/R SDC\nPhone line\nAtmosphere, Music bed");
  await expect(page.getByText("9 tracks on 10 inputs")).toHaveCount(0);
  await expect(page.getByText(/^8 tracks on 9 inputs$/)).toBeVisible();
  await press("Control+Enter");
  await expect(row(page, "Narrator")).toBeVisible();
  await saved(page);
  const { document } = await readTemplate(page, id);
  const speech = Object.values(document.folders).find(({ name }) => name === "Speech");
  const inSpeech = tracksOf(document).filter(({ folderId }) => folderId === speech?.id);
  expect(inSpeech.map(({ name }) => name)).toEqual(["Narrator", "Actor 1", "Actor 2", "Actor 3", "Phone"]);
  expect(acts()).toBeLessThanOrEqual(4);
});

test("a choir of forty with soloists from one paste of rows, those that find no input told before it is done", async ({
  page,
}) => {
  test.slow();
  const rigId = await makeRig(page, 64);
  const id = await makeTemplate(page, { rigId, name: uniqueName("Choir") });
  const { press, paste, acts } = counting(page);
  await openInputs(page, id);
  await press("Alt+a");
  await expect(page.getByRole("textbox", { name: "Tracks to add" })).toBeFocused();
  await paste(
    "Soprano x10 SDC\nAlto x10 SDC\nTenor x10 SDC\nBass x10 SDC\nSolo soprano LDC, Solo tenor LDC\nOrgan (stereo) SDC",
  );
  await expect(page.getByText(/^43 tracks on \d+ inputs$/)).toBeVisible();
  await expect(page.getByText(/without an input, as none fits/)).toBeVisible();
  const told = await page.getByText("no free input fits").count();
  await press("Control+Enter");
  await expect(row(page, "Soprano 1")).toBeVisible();
  await saved(page);
  const { document } = await readTemplate(page, id);
  const voices = Object.values(document.folders).find(({ name }) => name === "Voices");
  expect(tracksOf(document).filter(({ folderId }) => folderId === voices?.id)).toHaveLength(42);
  const without = tracksOf(document).filter(({ input }) => {
    const lineId = input.kind === "line" ? input.lineId : input.kind === "pair" ? input.leftId : null;
    return lineId !== null && document.lines[lineId]?.portId === null;
  });
  expect(without.length).toBe(told);
  expect(acts()).toBeLessThanOrEqual(4);
});

test("adding by writing: axe, on a phone and at 640 px; each cell by keyboard; Escape keeps what is written", async ({
  page,
}) => {
  test.slow();
  const id = await makeTemplate(page, { rigId: "whole-mill", name: uniqueName("Written") });
  await openInputs(page, id);
  await page.keyboard.press("Alt+a");
  await page.keyboard.insertText("Kick, Tpt ribbon\nreturn Plate");
  await expect(page.getByText("2 tracks on 2 inputs")).toBeVisible();
  await noViolations(page, "adding");
  for (const width of [640, 390]) {
    await page.setViewportSize({ width, height: 800 });
    await expect(page.getByRole("button", { name: /^Add 2 tracks/ })).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
    await noViolations(page, `adding at ${width}`);
  }
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole("combobox", { name: "Family of Trumpet" }).selectOption("woodwind");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Alt+a");
  await expect(page.getByRole("combobox", { name: "Family of Trumpet" })).toHaveValue("woodwind");
  await page.keyboard.press("Control+Enter");
  await expect(page.getByRole("textbox", { name: "Tracks to add" })).toHaveCount(0);
  await saved(page);
  const made = (await readTemplate(page, id)).document;
  expect(Object.values(made.channels).some(({ kind, name }) => kind === "return" && name === "Plate")).toBe(true);
  expect(Object.values(made.folders).map(({ name }) => name)).toContain("Woodwind");
});

const handList = (name: string): Buffer => readFileSync(new URL(`../fixtures/lists-by-hand/${name}`, import.meta.url));

const openList = async (page: Page, name: string, buffer = handList(name)) => {
  await go(page, "/");
  await page.locator('input[aria-label="Input list to read"]').setInputFiles({ name, mimeType: "text/plain", buffer });
  return page.getByRole("dialog", { name: `Reading ${name}` });
};

test("a list on its way in: questions, columns in their headings, rows off, several cells at once, outputs as places", async ({
  page,
}) => {
  test.slow();
  const dialog = await openList(page, "two-languages.csv");
  await expect(dialog).toContainText("11 inputs on 10 rows");
  await expect(dialog.getByRole("button", { name: "Make template of 9 tracks, 3 questions open" })).toBeEnabled();
  await dialog.getByRole("group", { name: "● means 48 V?" }).getByRole("button", { name: "No" }).press("Enter");
  await expect(dialog.getByRole("combobox", { name: "48 V of Lead vox" })).toHaveValue("no");
  await dialog.getByRole("group", { name: "● means 48 V?" }).getByRole("button", { name: "Yes" }).press("Enter");
  await dialog.getByRole("button", { name: "Make 3 places" }).press("Enter");
  await dialog.getByRole("checkbox", { name: "Read row 9" }).uncheck();
  await expect(dialog.getByRole("button", { name: /^Make template of 8 tracks/ })).toBeVisible();
  await dialog.getByRole("checkbox", { name: "Choose Lead vox" }).check();
  await dialog.getByRole("checkbox", { name: "Choose BV" }).check();
  const player = dialog.getByRole("textbox", { name: "Folder of BV" });
  await player.fill("Singers");
  await player.press("Enter");
  await expect(dialog.getByRole("textbox", { name: "Folder of Lead vox" })).toHaveValue("Singers");
  await dialog.getByRole("button", { name: /^Make template of 8 tracks/ }).press("Enter");
  await expect(page).toHaveURL(/\/inputs$/);
  const { document } = await readTemplate(page, page.url().split("/").at(-2) ?? "");
  expect(
    Object.values(document.cues)
      .map(({ name }) => name)
      .sort(),
  ).toEqual(["IEM drummer", "Wedge 1", "Wedge 2"]);
  expect(tracksOf(document)).toHaveLength(8);
});

test("headings that nobody knows: their meaning is chosen there, remembered for the next list, and can be forgotten", async ({
  page,
}) => {
  test.slow();
  const odd = uniqueName("Whatnot").replace(/\d/g, (digit) => "abcdefghij"[Number(digit)] ?? "");
  const list = Buffer.from(`${odd};Zap;Zip\nplum;3;red\npear;4;blue\n`);
  const dialog = await openList(page, "odd.csv", list);
  await dialog.getByRole("combobox", { name: `What ${odd} means` }).selectOption("source");
  await dialog.getByRole("combobox", { name: "What Zap means" }).selectOption("input");
  await dialog.getByRole("combobox", { name: "Family of plum" }).selectOption("keys");
  await dialog.getByRole("button", { name: /^Make template of 2 tracks/ }).press("Enter");
  await expect(page.getByText(/The studio remembers/)).toBeVisible();
  const again = await openList(page, "odd again.csv", list);
  await expect(again).toContainText("Columns as they were corrected before");
  await expect(again.getByRole("textbox", { name: "Input of plum" })).toHaveValue("3");
  await expect(again.getByRole("combobox", { name: "Family of plum" })).toHaveValue("keys");
  await again.getByRole("button", { name: "Read it without" }).press("Enter");
  await expect(again).not.toContainText("Columns as they were corrected before");
});

test("the preview: axe in both surfaces, at 640 px and on a phone", async ({ page }) => {
  test.slow();
  for (const colorScheme of ["light", "dark"] as const) {
    await page.emulateMedia({ colorScheme });
    const dialog = await openList(page, "two-languages.csv");
    await expect(dialog).toContainText("11 inputs on 10 rows");
    await noViolations(page, `reading, ${colorScheme}`, '[role="dialog"]');
    await dialog.getByRole("button", { name: "Cancel" }).press("Enter");
  }
  for (const width of [640, 390]) {
    await page.setViewportSize({ width, height: 800 });
    const dialog = await openList(page, "two-languages.csv");
    await expect(dialog.getByRole("button", { name: /^Make template of 9 tracks/ })).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
    await noViolations(page, `reading at ${width}`, '[role="dialog"]');
    await dialog.getByRole("button", { name: "Cancel" }).press("Enter");
  }
});

test("a spreadsheet with a cover sheet and joined cells: its likeliest sheet is read, another can be chosen", async ({
  page,
}) => {
  const { utils, write } = await import("@e965/xlsx");
  const sheet = utils.aoa_to_sheet([
    ["Grp", "Ch", "Source", "Mic", "+48"],
    ["Drums", 1, "Kick in", "dyn", ""],
    ["", 2, "Sn T", "dyn", ""],
    ["", "3-4", "OH", "SDC", "●"],
    ["Vox", 5, "Lead", "LDC", "●"],
  ]);
  sheet["!merges"] = [{ s: { r: 1, c: 0 }, e: { r: 3, c: 0 } }];
  const book = utils.book_new();
  utils.book_append_sheet(book, utils.aoa_to_sheet([["Harbour hall"], ["Doors 20:00"]]), "Cover");
  utils.book_append_sheet(book, sheet, "Inputs");
  const dialog = await openList(
    page,
    "saturday_v3 FINAL.xlsx",
    Buffer.from(write(book, { type: "buffer", bookType: "xlsx" })),
  );
  await expect(dialog).toContainText("5 inputs on 4 rows");
  await expect(dialog.getByRole("combobox", { name: "Sheet" })).toHaveValue("1");
  await expect(dialog.getByRole("textbox", { name: "Folder of OH" })).toHaveValue("Drums");
  await expect(dialog.getByRole("combobox", { name: "48 V of OH" })).toHaveValue("yes");
  await dialog.getByRole("combobox", { name: "Sheet" }).selectOption({ label: "Cover" });
  await expect(dialog).not.toContainText("5 inputs on 4 rows");
  await dialog.getByRole("combobox", { name: "Sheet" }).selectOption({ label: "Inputs" });
  await dialog.getByRole("button", { name: /^Make template of 4 tracks/ }).press("Enter");
  await expect(page).toHaveURL(/\/inputs$/);
});

test("what the studio remembers of a name is changed and forgotten where its defaults are", async ({ page }) => {
  const id = await makeTemplate(page, { rigId: "whole-mill", name: uniqueName("Taught") });
  const odd = uniqueName("Zither")
    .replace(/\d/g, (digit) => "abcdefghij"[Number(digit)] ?? "")
    .replace("Zither", "Zorp");
  await openInputs(page, id);
  await page.keyboard.press("Alt+a");
  await page.keyboard.insertText(odd);
  await page.getByRole("combobox", { name: `Family of ${odd}` }).selectOption("brass");
  await page.keyboard.press("Control+Enter");
  await expect(page.getByText(/The studio remembers the family of 1 name/)).toBeVisible();
  await go(page, "/studio");
  await expect(page.getByRole("combobox", { name: `Family of ${odd}` })).toHaveValue("brass");
  await page.getByRole("button", { name: `Remove ${odd}` }).press("Enter");
  await expect(page.getByRole("combobox", { name: `Family of ${odd}` })).toHaveCount(0);
  await saved(page);
});
