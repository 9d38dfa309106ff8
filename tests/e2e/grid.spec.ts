import { expect, type Page } from "@playwright/test";
import { COLUMN, cell, grid, makeTemplate, openInputs, readTemplate, row } from "./helpers";
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

test("an input gets a name of its own, which every template on the rig shows", async ({ page }) => {
  const made = await page.request.post("/api/rigs", { data: { copyOf: "whole-mill" } });
  const rigId = (await made.json()).document.id;
  const id = await makeTemplate(page, { rigId });
  await openInputs(page, id);
  await page.keyboard.press("Alt+a");
  await page.keyboard.type("1 mono from 7");
  await page.keyboard.press("Control+Enter");
  await expect(row(page, "Input 7")).toBeVisible();
  await page.keyboard.press("Alt+Shift+n");
  await page.getByRole("textbox", { name: "Name" }).fill("Piano low");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: /^Input 7, 7 Piano low/ })).toBeVisible();
});
