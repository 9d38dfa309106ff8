import { expect, type Locator, type Page } from "@playwright/test";
import type { Template } from "../../src/core/model/template";
import {
  COLUMN,
  cell,
  cleanOnBoth,
  copied,
  go,
  grid,
  makeTemplate,
  openInputs,
  paste,
  readTemplate,
  row,
  saved,
  tracksOf,
} from "./helpers";
import { test } from "./warm";

const matrix = (page: Page): Locator => page.getByRole("grid", { name: "How loud everybody hears what" });
const at = (page: Page, source: string, cue: string): Locator =>
  matrix(page).getByRole("gridcell", { name: new RegExp(`^${source} in ${cue}: `) });
const node = (page: Page, name: string): Locator =>
  page.getByRole("group", { name: /^Signal flow of / }).getByRole("button", { name: new RegExp(`^${name}`) });
const inspector = (page: Page): Locator => page.getByRole("complementary", { name: "Inspector" });
const dialog = (page: Page): Locator => page.getByRole("dialog");

const open = async (page: Page, copyOf: string, view: string): Promise<string> => {
  const id = await makeTemplate(page, { copyOf });
  await go(page, `/templates/${id}/${view}`);
  return id;
};
const doc = async (page: Page, id: string): Promise<Template> => {
  await saved(page);
  return (await readTemplate(page, id)).document as unknown as Template;
};
const named = (of: Template, name: string) => {
  const found = Object.values(of.channels).find((channel) => channel.name === name);
  if (!found) throw new Error(`expected a channel called ${name}`);
  return found;
};
const heard = (of: Template, name: string): number =>
  Object.values(of.cueLevels).filter(({ sourceId }) => sourceId === named(of, name).id).length;
const keys = async (page: Page, ...names: readonly string[]): Promise<void> => {
  for (const name of names) await page.keyboard.press(name);
};

test("new tracks come into the cues as their neighbour is, or into none, as it is answered once; a duplicate is where its original is", async ({
  page,
}) => {
  const id = await open(page, "tidewrack-nine", "inputs");
  await page.getByRole("textbox", { name: "Tracks to add" }).fill("mono, at −6, not monitored");
  await expect(page.getByText("1 mono track on input E5, at −6 dB, not monitored")).toBeVisible();
  await expect(
    page.getByRole("radiogroup", { name: "In the cues" }).getByText(/^in cues as .+ is, in 4 cues$/),
  ).toBeVisible();
  await page.keyboard.press("Enter");
  const first = await doc(page, id);
  expect(named(first, "Input E5")).toMatchObject({ faderDb: -6, monitor: "off" });
  expect(heard(first, "Input E5")).toBe(4);
  await page.getByRole("textbox", { name: "Tracks to add" }).fill("mono");
  await page.getByText("in no cue", { exact: true }).click();
  await page.getByRole("button", { name: "Add tracks" }).click();
  expect(heard(await doc(page, id), "Input E6")).toBe(0);
  await page.getByRole("button", { name: /^Undo: Add/ }).click();
  await expect(row(page, "Input E6")).toHaveCount(0);
});

test("cells of the matrix are copied and pasted; a letter opens the field and switches nothing; everyone who plays gets a cue in one act", async ({
  page,
}) => {
  const id = await open(page, "tidewrack-nine", "cues");
  await at(page, "Fiddle", "Ilse").click();
  expect(await copied(page)).toMatch(/^−\d+(\.\d)? b$/);
  await page.keyboard.press("o");
  await expect(page.getByRole("textbox", { name: "Fiddle in Ilse" })).toHaveValue("o");
  await page.keyboard.press("Escape");
  await expect(at(page, "Fiddle", "Ilse")).not.toHaveAccessibleName(/off$/);
  await paste(page, "-3 a L30\t-4 b\nloud\t");
  await expect(page.getByText("“loud” is no level")).toBeVisible();
  await expect(at(page, "Fiddle", "Ilse")).toHaveAccessibleName(/^Fiddle in Ilse: −3 dB, after the fader/);
  await expect(at(page, "Fiddle", "Juno")).toHaveAccessibleName(/−4 dB/);
  await page.getByRole("button", { name: /^Undo: Paste 3 levels of cues/ }).click();
  await expect(at(page, "Fiddle", "Ilse")).toHaveAccessibleName(/−12 dB/);
  await expect(matrix(page).getByRole("columnheader")).toHaveCount(5);
  await matrix(page)
    .getByRole("columnheader", { name: /^Juno,/ })
    .click();
  await keys(page, "Shift+End", "Alt+x");
  await expect(dialog(page).getByRole("button", { name: "Remove 3 cues" })).toBeFocused();
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Add a cue for everyone who plays…" }).click();
  await expect(dialog(page)).toContainText("get a cue each, begun as the main mix");
  await page.keyboard.press("Enter");
  const people = Object.values((await doc(page, id)).cues).flatMap((cue) => cue.people);
  expect(people).toHaveLength(9);
  await expect(page.getByRole("button", { name: "Add a cue for everyone who plays…" })).toHaveCount(0);
});

test("a held pair goes to −∞ and comes back with its balance; one that was silent by itself is said to stay", async ({
  page,
}) => {
  const id = await open(page, "tidewrack-nine", "flow");
  const before = await doc(page, id);
  const balance = (of: Template): number =>
    (named(of, "Double bass").faderDb ?? 0) - (named(of, "Double bass DI").faderDb ?? 0);
  await node(page, "Double bass DI, track").click();
  const fader = inspector(page).getByRole("textbox", { name: "Fader in dB" });
  await fader.fill("−∞");
  await fader.press("Enter");
  const silent = await doc(page, id);
  expect([named(silent, "Double bass").faderDb, named(silent, "Double bass DI").faderDb]).toEqual([null, null]);
  await expect(inspector(page)).toContainText(/Double bass stood at .* dB before silence/);
  await node(page, "Double bass, track").click();
  await fader.fill("-9");
  await fader.press("Enter");
  const back = await doc(page, id);
  expect(named(back, "Double bass").faderDb).toBe(-9);
  expect(balance(back)).toBeCloseTo(balance(before), 1);
});

test("a microphone is never taken by the first match: its whole name, or chosen, the free ones first", async ({
  page,
}) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await openInputs(page, id);
  await cell(page, "Snare", COLUMN.microphone).click();
  await page.keyboard.type("moving");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "“moving”: it is not on the shelf" })).toBeVisible();
  await keys(page, "ArrowDown", "Enter");
  const track = tracksOf(await doc(page, id)).find(({ name }) => name === "Snare");
  const lineId = track?.input.kind === "line" ? track.input.lineId : "";
  expect((await doc(page, id)).lines[lineId as never]?.microphone).toMatchObject({ kind: "shelf" });
  await grid(page).focus();
  await cell(page, "Snare", COLUMN.name).click();
  await page.keyboard.type("Lead alto voice");
  await page.keyboard.press("Enter");
  expect(named(await doc(page, id), "Lead alto voice")).toMatchObject({ icon: "voice" });
});

test("106 findings are one, opened to see each, fixed in one act and brought back by one undo", async ({ page }) => {
  await open(page, "flood-cantata", "inputs");
  await page.getByRole("button", { name: "1 problem" }).click();
  const panel = page.getByRole("complementary", { name: "Findings" });
  await expect(panel).toContainText("106 lines ask for inputs this rig has not.");
  await panel.getByRole("button", { name: "Show each" }).click();
  await expect(panel.getByText(/asks for input/).first()).toBeVisible();
  await panel.getByRole("button", { name: /^Fix all 106 alike/ }).click();
  // They are off the inputs that are not there, and told to have none.
  await expect(page.getByRole("button", { name: "1 hint" })).toBeVisible();
  await expect(panel).toContainText("106 lines have no input yet.");
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("button", { name: "1 problem" })).toBeVisible();
});

test("levels are asked while recording, mixed and for a listening copy; what falls out in mono is told", async ({
  page,
}) => {
  const id = await open(page, "tidewrack-nine", "cues/levels");
  const main = page.getByRole("region", { name: "What contributes most to Main" });
  await expect(main).toContainText("Nothing falls out.");
  const recording = (await main.getByRole("paragraph").first().textContent()) ?? "";
  await page.getByText("Mixed", { exact: true }).click();
  await expect(main.getByRole("paragraph").first()).not.toHaveText(recording);
  await cleanOnBoth(page, "levels, mixed");
  await go(page, `/templates/${id}/flow`);
  await node(page, "Fiddle, track").click();
  const pan = inspector(page).getByRole("textbox", { name: "Pan" });
  await pan.fill("L 100");
  await pan.press("Enter");
  await saved(page);
  await go(page, `/templates/${id}/cues/levels`);
  await expect(page.getByRole("region", { name: "Main in mono" })).toContainText(/Fiddle.*off the middle.*−3\.01 dB/);
});

test("a processor on several at once, a chain behind others, and colour, icon and note of several, by keyboard; each is one undo", async ({
  page,
}) => {
  const id = await open(page, "tidewrack-nine", "flow");
  await node(page, "Lead voice, track").focus();
  await keys(page, "Enter", "Shift+ArrowDown", "Alt+j");
  await expect(dialog(page).locator("input").first()).toBeFocused();
  await page.keyboard.type("Gate");
  await keys(page, "Enter", "Enter");
  await expect(dialog(page)).toHaveCount(0);
  const kinds = async (name: string) => {
    const now = await doc(page, id);
    return Object.values(now.processors).flatMap(({ channelId, kind }) =>
      channelId === named(now, name).id ? [kind] : [],
    );
  };
  expect(await kinds("Lead voice")).toContain("gate");
  expect(await kinds("Second voice")).toContain("gate");
  const note = inspector(page).getByRole("textbox", { name: "Note" });
  await note.fill("close");
  await note.press("Enter");
  const noted = await doc(page, id);
  expect(["Lead voice", "Second voice"].map((name) => named(noted, name).note)).toEqual(["close", "close"]);
  await page.getByRole("button", { name: /^Undo/ }).click();
  await page.getByRole("button", { name: /^Undo: Put a gate on 2 channels/ }).click();
  expect(await kinds("Second voice")).not.toContain("gate");
  const had = (await kinds("Trumpet")).length;
  await node(page, "Fiddle, track").focus();
  await keys(page, "Enter", "Alt+z");
  await expect(dialog(page).locator("input").first()).toBeFocused();
  await page.keyboard.type("Trumpet");
  await keys(page, "ArrowDown", "Enter", "Tab");
  await dialog(page).getByRole("button", { name: "Add the chain" }).click();
  await expect(dialog(page)).toHaveCount(0);
  expect((await kinds("Trumpet")).length).toBe(had + (await kinds("Fiddle")).length);
});

test("several instruments come in one act, into a folder and to a bus; what a template asks for stands on the sheet", async ({
  page,
}) => {
  const id = await open(page, "tidewrack-nine", "flow");
  await expect(node(page, "Main, main bus")).toBeVisible();
  await keys(page, "Alt+v");
  await dialog(page).getByRole("textbox", { name: "Name" }).fill("Pad, Bells");
  await dialog(page).getByRole("combobox", { name: "Folder of the tracks" }).fill("Machines");
  await cleanOnBoth(page, "instruments");
  await dialog(page).getByRole("button", { name: "Add the instruments" }).click();
  const now = await doc(page, id);
  const folder = Object.values(now.folders).find(({ name }) => name === "Machines");
  expect([named(now, "Pad"), named(now, "Bells")].map((track) => track.kind === "track" && track.folderId)).toEqual([
    folder?.id,
    folder?.id,
  ]);
  expect([heard(now, "Pad"), heard(now, "Bells")]).toEqual([4, 4]);
  await go(page, `/templates/${id}/hand-off`);
  const asked = page.getByRole("row", { name: /House de-esser/ });
  await expect(asked).toContainText("1.4");
  await expect(asked).toContainText("older than asked for: 1.2");
});

test("reduction is typed and the threshold follows; three bands add up, drawn as one", async ({ page }) => {
  const id = await open(page, "tidewrack-nine", "flow");
  const lead = named(await doc(page, id), "Lead voice").id;
  await go(page, `/templates/${id}/flow/${lead}`);
  await page
    .getByRole("button", { name: /^Compressor/ })
    .first()
    .click();
  const off = page.getByRole("textbox", { name: /^Takes off at/ });
  await off.fill("4");
  await off.press("Enter");
  await expect(page.getByText(/^Takes 4 dB off at the usual/)).toBeVisible();
  await go(page, `/templates/${id}/flow`);
  await node(page, "Fiddle, track").focus();
  await keys(page, "Enter", "Alt+p");
  await dialog(page).getByRole("textbox", { name: "The low one up to" }).fill("250 Hz");
  await dialog(page).getByRole("textbox", { name: "The next from" }).fill("250 Hz");
  await dialog(page).getByRole("textbox", { name: "A third from" }).fill("2.5 kHz");
  await dialog(page)
    .getByRole("button", { name: /^Split/ })
    .click();
  await expect(dialog(page)).toHaveCount(0);
  const filters = Object.values((await doc(page, id)).processors).filter(
    (one) => one.kind === "filter" && one.pass === "all-pass",
  );
  expect(filters.length).toBeGreaterThan(0);
});

test("tracks that are pasted and typed below the last are told to be in no cue, and come in together by one press, taken back by one undo", async ({
  page,
}) => {
  const id = await open(page, "tidewrack-nine", "inputs");
  await grid(page).focus();
  await page.keyboard.press("Control+End");
  await page.keyboard.press("ArrowDown");
  await paste(page, "Bassoon\nOboe\n");
  await expect(page.getByText("2 new tracks in no cue yet.")).toBeVisible();
  expect(heard(await doc(page, id), "Oboe")).toBe(0);
  await page.getByRole("button", { name: /^Bring in as .+ is, in 4 cues$/ }).click();
  const now = await doc(page, id);
  expect([heard(now, "Bassoon"), heard(now, "Oboe")]).toEqual([4, 4]);
  await page.getByRole("button", { name: /^Undo: Bring 2 new tracks into the cues/ }).click();
  expect(heard(await doc(page, id), "Oboe")).toBe(0);
});
