import { expect, type Locator, type Page } from "@playwright/test";
import type { Template } from "../../src/core/model/template";
import { go, makeTemplate, openInputs, readTemplate, saved } from "./helpers";
import { test } from "./warm";

const picture = (page: Page): Locator => page.getByRole("group", { name: /^Signal flow of / });
const node = (page: Page, name: string): Locator => picture(page).getByRole("button", { name: new RegExp(`^${name}`) });
const inspector = (page: Page): Locator => page.getByRole("complementary", { name: "Inspector" });
const dialogInput = (page: Page): Locator => page.getByRole("dialog").locator("input").first();

const doc = async (page: Page, id: string): Promise<Template> => {
  await saved(page);
  return (await readTemplate(page, id)).document;
};
/** Selects by keys: the first, and others below it with Shift. */
const select = async (page: Page, name: string, more = 0): Promise<void> => {
  await node(page, name).focus();
  await page.keyboard.press("Enter");
  for (let n = 0; n < more; n++) await page.keyboard.press("Shift+ArrowDown");
};
test("Harp & Lullaby from empty by keyboard, in no more than sixty acts", async ({ page }) => {
  const id = await makeTemplate(page, { rigId: "whole-mill" });
  await openInputs(page, id);
  const grid = page.getByRole("grid", { name: "Input list" });
  const row = (name: string): Locator =>
    grid
      .getByRole("row")
      .filter({ has: page.getByText(name, { exact: true }) })
      .first();
  const add = async (phrase: string): Promise<void> => {
    await page.keyboard.press("Alt+a");
    await expect(page.locator("#add-tracks-field")).toBeFocused();
    await page.keyboard.type(phrase);
    await page.keyboard.press("Control+Enter");
    await saved(page);
    await page.keyboard.press("Escape");
  };
  /** Types over the name of the row that has the cursor. */
  const call = async (was: string, name: string): Promise<void> => {
    await expect
      .poll(() =>
        page.evaluate(
          () =>
            document.getElementById(document.activeElement?.getAttribute("aria-activedescendant") ?? "")?.textContent,
        ),
      )
      .toBe(was);
    await page.keyboard.press("F2");
    await page.keyboard.press("Control+a");
    await page.keyboard.type(name);
    await page.keyboard.press("Enter");
    await expect(row(name)).toBeVisible();
    await saved(page);
  };
  await add("1 stereo from 1");
  await grid.focus();
  await page.keyboard.press("Control+Home");
  for (let n = 0; n < 2; n++) await page.keyboard.press("ArrowRight");
  await call("Input 1–2", "Backing");
  await add("1 mono from 13");
  await grid.focus();
  await page.keyboard.press("Control+Home");
  for (let n = 0; n < 2; n++) await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowDown");
  await call("Input 13", "Voice 1");
  // One, two, four, eight, and six of them once more: fourteen parts on one microphone.
  for (const [from, count] of [
    [1, 1],
    [1, 2],
    [1, 4],
    [1, 6],
  ] as const) {
    await page.keyboard.press("Control+Home");
    for (let n = 0; n < from; n++) await page.keyboard.press("ArrowDown");
    for (let n = 1; n < count; n++) await page.keyboard.press("Shift+ArrowDown");
    await page.keyboard.press("Alt+Shift+d");
    const dialog = page.getByRole("dialog");
    await expect(dialog).toBeVisible();
    await dialog.getByRole("radio").first().focus();
    await dialog.getByRole("radio", { name: /by turns/ }).press("Space");
    await dialog.getByRole("button", { name: "Duplicate" }).press("Enter");
    await expect(dialog).toHaveCount(0);
    await saved(page);
    await grid.focus();
  }
  const laid = await doc(page, id);
  const voices = Object.values(laid.channels).filter(
    (channel) => channel.kind === "track" && channel.name !== "Backing",
  );
  expect([
    voices.length,
    Object.keys(laid.lines).length,
    voices.every((track) => track.kind === "track" && track.sharing === "by-turns"),
  ]).toEqual([14, 3, true]);
  const inFolder = async (first: number, count: number, folder: string): Promise<void> => {
    await page.keyboard.press("Control+Home");
    for (let n = 0; n < first; n++) await page.keyboard.press("ArrowDown");
    for (let n = 1; n < count; n++) await page.keyboard.press("Shift+ArrowDown");
    await page.keyboard.press("Alt+g");
    await expect(dialogInput(page)).toBeFocused();
    await page.keyboard.type(folder);
    await page.keyboard.press("Enter");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("dialog")).toHaveCount(0);
    await saved(page);
    await grid.focus();
  };
  // What is put in a folder goes below what lies in none, so the first of those left are always on top.
  await inFolder(0, 1, "Backing");
  await inFolder(0, 4, "Lead");
  await inFolder(0, 10, "Choir");
  await go(page, `/templates/${id}/flow`);
  const families = Object.values((await doc(page, id)).folders).map(({ name }) => name);
  expect(families.sort()).toEqual(["Backing", "Choir", "Lead"]);
  for (const name of ["Backing", "Voice 1", "Voice 14"]) {
    await select(page, `${name}, track`);
    await page.keyboard.press("Alt+Shift+s");
    await saved(page);
  }
  await select(page, "Backing, .*bus");
  await inspector(page).getByLabel("Trim in dB").fill("−6");
  await page.keyboard.press("Enter");
  await saved(page);
  for (const [bus, to] of [
    ["Lead, bus", "Plate"],
    ["Choir, bus", "Echo"],
  ] as const) {
    await select(page, bus);
    await page.keyboard.press("Alt+s");
    await expect(dialogInput(page)).toBeFocused();
    await page.keyboard.type(to);
    await page.keyboard.press("Enter");
    await page.keyboard.press("Enter");
    await expect(node(page, `${to}, `)).toBeVisible();
    await saved(page);
  }
  const made = await doc(page, id);
  expect(
    ["Backing", "Lead", "Choir"].map((name) =>
      Object.values(made.channels).find((one) => one.kind === "bus" && one.name === name),
    ),
  ).toMatchObject([
    { trimDb: -6, output: { kind: "channel", channelId: "main" } },
    { output: { kind: "channel", channelId: "main" } },
    { output: { kind: "channel", channelId: "main" } },
  ]);
  expect(Object.values(made.channels).filter(({ kind }) => kind === "return")).toHaveLength(2);
  expect((await readTemplate(page, id)).revision - 1).toBeLessThanOrEqual(60);
});
