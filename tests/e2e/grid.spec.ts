import { expect, type Page } from "@playwright/test";
import {
  COLUMN,
  cell,
  copied,
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

const nine = async (page: Page): Promise<string> => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await openInputs(page, id);
  return id;
};

const undoButton = (page: Page, name: string | RegExp) => page.getByRole("button", { name });

/** Drags with steps, as a hand does. */
const drag = async (page: Page, from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> => {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
};

const middle = async (target: ReturnType<typeof row>, at: { dx?: number; dy?: number } = {}) => {
  const box = await target.boundingBox();
  if (!box) throw new Error("expected to be shown");
  return { x: box.x + (at.dx ?? box.width / 2), y: box.y + (at.dy ?? box.height / 2) };
};

test("a block of forty rows from a spreadsheet lands in one paste and is gone in one undo", async ({ page }) => {
  const id = await makeTemplate(page, { rigId: "whole-mill" });
  await openInputs(page, id);
  const rows = Array.from(
    { length: 40 },
    (_, n) => `${n + 1}\tVoice ${n + 1}\tcondenser\t${n % 2 ? "Altos" : "Sopranos"}`,
  );
  await grid(page).focus();
  await paste(page, `Input\tSource\tMicrophone\tFolder\n${rows.join("\n")}\n`);
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "44");
  await page.keyboard.press("Control+Home");
  await expect(cell(page, "Voice 1", COLUMN.input)).toHaveText("1");
  await saved(page);
  const { document, revision } = await readTemplate(page, id);
  expect([tracksOf(document).length, Object.keys(document.folders).length, revision]).toEqual([40, 2, 2]);
  await undoButton(page, "Undo: Paste 40 rows").click();
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "2");
  await saved(page);
  expect(tracksOf((await readTemplate(page, id)).document)).toEqual([]);
});

test("what is no text lands without what can't be kept, and is saved", async ({ page }) => {
  const id = await makeTemplate(page, { rigId: "whole-mill" });
  await openInputs(page, id);
  await grid(page).focus();
  await paste(page, "Track\tInput\tGain\nSna\u0000re\u0007\t3\tloud\nTom\ud800\t999\t20\n");
  await expect(page.getByText(/“loud” is no gain/)).toBeVisible();
  await expect(row(page, "Snare")).toBeVisible();
  await saved(page);
  const { document } = await readTemplate(page, id);
  expect(tracksOf(document).map((track) => track.name)).toEqual(["Snare", "Tom\ufffd"]);
  expect(Object.values(document.lines).map((line) => [line.requestedInput, line.gainDb])).toEqual([
    [null, null],
    ["999", 20],
  ]);
  await expect(page.getByRole("button", { name: /problem/ }).first()).toBeVisible();
});

test("a range is copied, pasted, filled and emptied by keyboard", async ({ page }) => {
  const id = await nine(page);
  await cell(page, "Frame drum", COLUMN.name).click();
  for (const key of ["Shift+ArrowDown", "Shift+ArrowDown", "Shift+ArrowRight", "Shift+ArrowRight"])
    await page.keyboard.press(key);
  expect(await copied(page)).toBe(
    "Frame drum\tmono\tMoving-coil 1\nSnare\tmono\tMoving-coil 2\nShaker table\tmono\tMoving-coil 3",
  );
  await cell(page, "Frame drum", COLUMN.player).click();
  await page.keyboard.press("Shift+ArrowDown");
  await paste(page, "Tom Hallgarth");
  await expect(cell(page, "Snare", COLUMN.player)).toHaveText("Tom Hallgarth");
  await expect(cell(page, "Bass drum", COLUMN.player)).toHaveText("Pell Marrow");
  await cell(page, "Bass drum", COLUMN.note).click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Alt+j");
  await expect(cell(page, "Frame drum", COLUMN.note)).toHaveText("inside the shell");
  await page.keyboard.press("Backspace");
  await expect(cell(page, "Frame drum", COLUMN.note)).toHaveText("");
  await expect(undoButton(page, "Undo: Clear 2 cells")).toBeVisible();
  await cell(page, "Frame drum", COLUMN.microphone).click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Alt+k");
  await expect(cell(page, "Shaker table", COLUMN.microphone)).toHaveText("Moving-coil 3");
  await saved(page);
  expect(tracksOf((await readTemplate(page, id)).document)).toHaveLength(16);
});

test("typing below the last row makes tracks, one after the other", async ({ page }) => {
  const id = await makeTemplate(page);
  await openInputs(page, id);
  await grid(page).focus();
  for (const name of ["Fiddle", "Harp"]) {
    await page.keyboard.type(name);
    await page.keyboard.press("Enter");
    await expect(row(page, name)).toBeVisible();
  }
  await saved(page);
  expect(tracksOf((await readTemplate(page, id)).document).map((track) => track.name)).toEqual(["Fiddle", "Harp"]);
});

test("a duplicate asks what it records, and takes the next free input", async ({ page }) => {
  await nine(page);
  await cell(page, "Snare", COLUMN.name).click();
  await page.keyboard.press("Alt+c");
  const dialog = page.getByRole("dialog", { name: "Duplicate the track" });
  await dialog.getByRole("radio", { name: "The next free input that suits it" }).check();
  await dialog.getByRole("button", { name: "Duplicate" }).click();
  await expect(cell(page, "Snare 2", COLUMN.input)).toHaveText("E5");
  await expect(cell(page, "Snare 2", COLUMN.microphone)).toContainText(
    "Moving-coil 2 is asked for twice, by Snare and Snare 2, and the shelf has one.",
  );
  await expect(undoButton(page, "Undo: Duplicate Snare")).toBeVisible();
});

test("phantom is painted down a column in one drag, and one undo takes it back", async ({ page }) => {
  await nine(page);
  const from = await middle(cell(page, "Bass drum", COLUMN.phantom), { dx: 10 });
  const to = await middle(cell(page, "Shaker table", COLUMN.phantom), { dx: 10 });
  await drag(page, from, to);
  for (const name of ["Bass drum", "Frame drum", "Snare", "Shaker table"])
    await expect(cell(page, name, COLUMN.phantom)).toContainText("48 V");
  await undoButton(page, "Undo: Phantom on for 4 lines").click();
  await expect(cell(page, "Snare", COLUMN.phantom)).toContainText("off");
});

test("rows, folders and jacks are dragged", async ({ page }) => {
  await nine(page);
  const grip = async (name: string) => middle(row(page, name), { dx: 11 });
  const snare = await middle(row(page, "Snare"), { dx: 200, dy: 3 });
  await drag(page, await grip("Shaker table"), snare);
  await expect(undoButton(page, /^Undo: Put Shaker table in Percussion/)).toBeVisible();
  const order = await grid(page).getByRole("row").allInnerTexts();
  expect(order.findIndex((text) => text.includes("Shaker table"))).toBeLessThan(
    order.findIndex((text) => text.includes("Snare")),
  );
  await drag(page, await grip("Low strings"), await middle(row(page, "Percussion"), { dx: 300 }));
  await expect(undoButton(page, "Undo: Put the folder Low strings in Percussion")).toBeVisible();
  await undoButton(page, "Undo: Put the folder Low strings in Percussion").click();

  const rigInput = page.getByRole("button", { name: /^Input E5,/ });
  await drag(page, await middle(rigInput), await middle(cell(page, "Fiddle", COLUMN.microphone)));
  await expect(cell(page, "Fiddle", COLUMN.input)).toHaveText("E5");
  await drag(page, await middle(rigInput), await middle(page.getByRole("button", { name: /^Input E6,/ })));
  await expect(cell(page, "Fiddle", COLUMN.input)).toHaveText("E6");
  await drag(page, await grip("Fiddle"), await middle(page.getByRole("heading", { name: /Brindle Eight/ })));
  await expect(cell(page, "Fiddle", COLUMN.input)).toContainText("Fiddle has no input yet.");
});

test("the filter shows what is sought as one types, and the threads follow", async ({ page }) => {
  await nine(page);
  await page.keyboard.press("Alt+s");
  await page.keyboard.type("pell moving");
  await expect(page.getByText("4 tracks", { exact: true })).toBeVisible();
  await expect(row(page, "Snare")).toBeVisible();
  await expect(row(page, "Fiddle")).toHaveCount(0);
  await expect(page.locator("svg path[stroke-width='2.2']")).toHaveCount(4);
  await page.keyboard.press("Escape");
  await expect(row(page, "Fiddle")).toBeVisible();
});

test("a row that is half out of sight stays under the mouse that presses it: a still hand is no drag, and two presses open one cell", async ({
  page,
}) => {
  await page.setViewportSize({ width: 1280, height: 700 });
  const id = await nine(page);
  const list = page.locator("[class*=scroll]").filter({ has: grid(page) });
  const bottom = async (): Promise<number> =>
    list.evaluate((element) => element.getBoundingClientRect().top + element.clientHeight);
  await cell(page, "Fiddle", COLUMN.name).click();
  // The last row in sight is cut by the lower edge, whatever the height of the window.
  await list.evaluate((element) => element.scrollBy(0, 15 - (element.clientHeight % 30)));
  const half = await bottom();
  const [y, name] = await page.evaluate((edge) => {
    const under = document.elementFromPoint(600, edge - 4)?.closest("[role=row]");
    return [edge - 4, under?.querySelector("[id$=-name]")?.textContent ?? ""] as const;
  }, half);
  const before = await list.evaluate((element) => element.scrollTop);
  const { x, width } = (await cell(page, name, COLUMN.microphone).boundingBox()) ?? { x: 0, width: 0 };
  await page.mouse.move(x + width / 2, y);
  await page.mouse.down();
  await expect(row(page, name)).toHaveAttribute("aria-selected", "true");
  await page.waitForTimeout(200);
  expect(await list.evaluate((element) => element.scrollTop)).toBe(before);
  // Something else moves the list under the hand: another window, or what opens beside it.
  await list.evaluate((element) => element.scrollBy(0, 60));
  await page.waitForTimeout(300);
  await page.mouse.up();
  expect(await grid(page).locator("[role=row][aria-selected=true]").count()).toBe(1);
  await expect(row(page, name)).toHaveAttribute("aria-selected", "true");
  await expect(grid(page)).toHaveAttribute("aria-activedescendant", /-microphone$/);
  await list.evaluate((element) => element.scrollBy(0, -60));
  await page.mouse.dblclick(x + width / 2, y);
  await expect(row(page, name).getByRole("combobox")).toBeFocused();
  await page.keyboard.press("Escape");
  // A key brings it into sight.
  await page.keyboard.press("ArrowRight");
  await expect.poll(() => list.evaluate((element) => element.scrollTop)).toBeGreaterThan(before);
  expect((await readTemplate(page, id)).revision).toBe(1);
});

test("the cell that has the keys is in sight after a jump over many rows", async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 480 });
  await openInputs(page, await makeTemplate(page, { copyOf: "flood-cantata" }));
  const inSight = (): Promise<boolean> =>
    grid(page).evaluate((element) => {
      const active = document
        .getElementById(element.getAttribute("aria-activedescendant") ?? "")
        ?.getBoundingClientRect();
      const [box, heads] = [
        element.parentElement as HTMLElement,
        element.querySelector('[role="columnheader"]')?.getBoundingClientRect(),
      ];
      return (
        active !== undefined &&
        heads !== undefined &&
        active.top >= heads.bottom - 1 &&
        active.bottom <= box.getBoundingClientRect().top + box.clientHeight
      );
    });
  await cell(page, "Soprano 1", COLUMN.name).click();
  for (const key of ["Control+End", "PageUp", "Control+Home", "PageDown", "Control+End", "ArrowUp"]) {
    const before = await grid(page).getAttribute("aria-activedescendant");
    await page.keyboard.press(key);
    await expect(grid(page)).not.toHaveAttribute("aria-activedescendant", before ?? "");
    await expect.poll(inSight, key).toBe(true);
  }
});

test("columns are shown, widened and kept; rows are made to fit", async ({ page }) => {
  const id = await nine(page);
  await page.getByRole("button", { name: "Columns and rows" }).click();
  await page.getByRole("checkbox", { name: "Gain dB" }).check();
  await page.getByRole("checkbox", { name: "Note" }).uncheck();
  await page.getByText("All in view").click();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("columnheader", { name: /Gain dB/ })).toBeVisible();
  await expect(page.getByRole("columnheader", { name: "Note" })).toHaveCount(0);
  await expect(row(page, "Second voice")).toBeInViewport({ ratio: 0.9 });
  const edge = page.getByRole("button", { name: /^Width of Track/ });
  const at = await middle(edge);
  await drag(page, at, { x: at.x + 60, y: at.y });
  await expect(edge).toHaveAttribute("aria-label", /: 2\d\d pixels/);
  await page.reload();
  await openInputs(page, id);
  await expect(page.getByRole("button", { name: /^Width of Track: 2\d\d pixels/ })).toBeAttached();
  await expect(page.getByRole("columnheader", { name: /Gain dB/ })).toBeVisible();
});

test("gain is set and shifted, inputs are shifted, and what can't be is told", async ({ page }) => {
  const id = await nine(page);
  await cell(page, "Bass drum", COLUMN.name).click();
  await page.keyboard.press("Shift+ArrowDown");
  const change = async (text: string, how?: string) => {
    await page.keyboard.press("Alt+n");
    const dialog = page.getByRole("dialog", { name: "Gain of 2 tracks" });
    if (how) await dialog.getByRole("radio", { name: how }).check();
    await dialog.getByRole("textbox", { name: "Gain in dB" }).fill(text);
    await page.keyboard.press("Enter");
  };
  await change("32");
  await expect(undoButton(page, "Undo: Set the gain of 2 tracks to 32 dB")).toBeVisible();
  await change("-4", "Shift each by");
  await expect(undoButton(page, "Undo: Shift the gain of 2 lines by −4 dB")).toBeVisible();
  await page.keyboard.press("Alt+i");
  await page.getByRole("textbox", { name: "By how many inputs" }).fill("99");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Bass drum is on input 1, and Whole mill has none 99 further on.")).toBeVisible();
  await page.keyboard.press("Escape");
  await saved(page);
  expect(Object.values((await readTemplate(page, id)).document.lines).map((line) => line.gainDb)).toEqual(
    expect.arrayContaining([28, 28]),
  );
});

test("the menu of a row and the list of keys offer what can be done", async ({ page }) => {
  await nine(page);
  await cell(page, "Cimbalom", COLUMN.name).click({ button: "right" });
  await page.getByRole("menuitem", { name: /Make two mono tracks/ }).click();
  await expect(row(page, "Cimbalom L")).toBeVisible();
  await grid(page).focus();
  await page.keyboard.press("Shift+?");
  const sheet = page.getByRole("dialog", { name: "All keys of the input list" });
  await expect(sheet).toContainText("Fill ascending");
  await expect(sheet).toContainText("Put rows in input order");
});

test("an input gets a name of its own, which every template on the rig shows", async ({ page }) => {
  const made = await page.request.post("/api/rigs", { data: { copyOf: "whole-mill" } });
  const rigId = (await made.json()).document.id;
  const id = await makeTemplate(page, { rigId });
  await openInputs(page, id);
  await page.keyboard.press("Alt+a");
  await page.keyboard.type("1 mono from 7");
  await page.keyboard.press("Enter");
  await expect(row(page, "Input 7")).toBeVisible();
  await page.keyboard.press("Alt+r");
  await page.getByRole("textbox", { name: "Name" }).fill("Piano low");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: /^Input 7, Piano low/ })).toBeVisible();
});

test("a family sets name, colour and icon together; a pattern names from source and microphone", async ({ page }) => {
  const id = await makeTemplate(page);
  await openInputs(page, id);
  await page.keyboard.press("Alt+a");
  await page.keyboard.type("2 mono from 1");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Alt+m");
  await page.getByRole("button", { name: "Brass" }).click();
  await expect(cell(page, "Brass 2", COLUMN.colour)).toHaveText("ochre");
  await expect(cell(page, "Brass 2", COLUMN.icon)).toContainText("Brass");
  await cell(page, "Brass 1", COLUMN.microphone).click();
  await page.keyboard.type("Moving-coil 1");
  await page.keyboard.press("Enter");
  await cell(page, "Brass 1", COLUMN.name).click();
  await page.keyboard.press("Alt+t");
  await page.getByRole("textbox", { name: "Pattern" }).fill("Horn {microphone}");
  await page.keyboard.press("Enter");
  await expect(row(page, "Horn Moving-coil 1")).toBeVisible();
});

test("crossed threads: rows go in input order", async ({ page }) => {
  await nine(page);
  await grid(page).focus();
  await page.keyboard.press("Alt+Shift+r");
  await expect(undoButton(page, "Undo: Put rows in input order")).toBeVisible();
  const order = await grid(page).getByRole("row").allInnerTexts();
  expect(order.findIndex((text) => text.includes("Fiddle"))).toBeLessThan(
    order.findIndex((text) => text.includes("Cimbalom")),
  );
});

test("a finding is accepted with a reason, and comes back when its cause changes", async ({ page }) => {
  await nine(page);
  await page.getByRole("button", { name: "2 problems" }).click();
  const panel = page.getByRole("complementary", { name: "Findings" });
  await panel.getByRole("button", { name: "Accept with a reason…" }).first().click();
  await panel.getByRole("textbox", { name: "Why this is all right" }).fill("the preamp on the floor feeds it");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "1 problem" })).toBeVisible();
  await expect(panel.getByRole("region", { name: "Accepted" })).toContainText("the preamp on the floor feeds it");
  await panel.getByRole("button", { name: "Close the findings" }).click();
  await cell(page, "Clarinet", COLUMN.input).click();
  await page.keyboard.type("E5");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "2 problems" })).toBeVisible();
});

test("sends and chains are columns: typed, for a range at once, and a bus is recorded by typing its name as the input", async ({
  page,
}) => {
  const id = await nine(page);
  await page.getByRole("button", { name: "Columns and rows" }).click();
  for (const name of ["Sends", "Chain"]) await page.getByRole("checkbox", { name, exact: true }).check();
  await page.keyboard.press("Escape");
  const at = async (name: string): Promise<number> =>
    Number(
      await grid(page)
        .getByRole("columnheader", { name: new RegExp(`^${name}`) })
        .getAttribute("aria-colindex"),
    );
  const [sends, chain] = [await at("Sends"), await at("Chain")];
  await expect(cell(page, "Fiddle", sends)).toHaveText("Stair chamber −15");
  await expect(cell(page, "Fiddle", chain)).toHaveText("Equaliser, compressor");
  await cell(page, "Clarinet", sends).click();
  await page.keyboard.type("Plate -9 before");
  await page.keyboard.press("Enter");
  await expect(cell(page, "Clarinet", sends)).toHaveText("Plate −9 before");
  await cell(page, "Clarinet", sends).click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Alt+j");
  await expect(cell(page, "Sousaphone", sends)).toHaveText("Plate −9 before");
  await cell(page, "Trumpet", chain).click();
  await page.keyboard.type("Any voice");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect(cell(page, "Trumpet", chain)).toHaveText("High-pass, compressor");
  await cell(page, "Trumpet", sends).click();
  await page.keyboard.type("Hall -3");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/There is no return and no bus Hall/).first()).toBeVisible();
  await page.keyboard.press("Escape");
  // The list may still be bringing the cell with the keys into view: on a slow machine the row is elsewhere by the time
  // it is pressed.
  await expect(async () => {
    await cell(page, "Second voice", COLUMN.input).click();
    await expect(row(page, "Second voice")).toHaveAttribute("aria-selected", "true", { timeout: 1000 });
  }).toPass();
  await page.keyboard.type("Keys");
  await page.keyboard.press("Enter");
  await expect(cell(page, "Second voice", COLUMN.input)).toHaveText("Keys");
  await saved(page);
  const { document } = await readTemplate(page, id);
  const voice = tracksOf(document).find(({ name }) => name === "Second voice");
  expect(voice?.input.kind === "bus" && document.channels[voice.input.busId]?.name).toBe("Keys");
});

test("the output is shown as a column, and chosen by typing the name of a bus", async ({ page }) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await openInputs(page, id);
  await page.getByRole("button", { name: "Columns and rows" }).click();
  await page.getByRole("checkbox", { name: "Output", exact: true }).check();
  await page.keyboard.press("Escape");
  const at = await grid(page)
    .getByRole("columnheader", { name: /^Output/ })
    .getAttribute("aria-colindex");
  const output = cell(page, "Accordion", Number(at));
  await expect(output).toHaveText("Keys");
  await output.dblclick();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("win");
  await page.keyboard.press("Enter");
  await expect(output).toHaveText("Winds");
  await expect(page.getByRole("button", { name: "Undo: Route Accordion to Winds" })).toBeVisible();
  // Typed in one of several that are selected it goes to all of them: nobody is left going straight to the main bus.
  await cell(page, "Clarinet", Number(at)).click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.type("voi");
  await page.keyboard.press("Enter");
  for (const name of ["Clarinet", "Trumpet"]) await expect(cell(page, name, Number(at))).toHaveText("Voices");
  await page.keyboard.press("Control+z");
  for (const name of ["Clarinet", "Trumpet"]) await expect(cell(page, name, Number(at))).toHaveText("Winds");
});

test("a folder sums and no longer does by its switch in the inspector, and asks where its tracks go", async ({
  page,
}) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await openInputs(page, id);
  await grid(page).getByRole("row").filter({ hasText: "Winds" }).first().click();
  const sums = page.getByRole("complementary", { name: "Inspector" }).getByRole("switch", { name: "Sums" });
  await expect(sums).toBeChecked();
  await sums.click({ force: true });
  await expect(page.getByRole("dialog").locator("input").first()).toBeFocused();
  await page.keyboard.type("Nowhere");
  await page.keyboard.press("Enter");
  await expect(sums).not.toBeChecked();
  await saved(page);
  const outputs = async () =>
    tracksOf((await readTemplate(page, id)).document).flatMap((track) =>
      track.name === "Trumpet" ? track.output.kind : [],
    );
  expect(await outputs()).toEqual(["nowhere"]);
  await page.keyboard.press("Control+z");
  await expect(sums).toBeChecked();
  await saved(page);
  expect(await outputs()).toEqual(["channel"]);
});
