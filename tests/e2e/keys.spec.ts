import { expect, type Page } from "@playwright/test";
import { awake, COLUMN, cell, go, makeTemplate, openInputs, readTemplate, row, saved } from "./helpers";
import { test } from "./warm";

/** Each screen of a template, with what its list of keys is called. */
const SCREENS = [
  ["inputs", "the input list"],
  ["flow", "the signal flow"],
  ["cues", "the cues"],
  ["cues/passes", "the passes"],
  ["cues/levels", "the levels"],
  ["delay", "the delay"],
  ["hand-off", "the hand-off"],
] as const;

const node = (page: Page, name: string) => page.getByRole("button", { name, exact: true });

test("every screen has a list of its keys by ?, a menu by key, and says what a key is for that does nothing there", async ({
  page,
}) => {
  test.slow();
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  const pages = [
    ...SCREENS.map(([view, title]) => [`/templates/${id}/${view}`, title] as const),
    ["/", "the library"],
    ["/studio", "rooms, people and defaults"],
    ["/rigs/whole-mill", "the rig"],
  ] as const;
  for (const [path, title] of pages) {
    await go(page, path);
    await page.keyboard.press("Shift+?");
    const sheet = page.getByRole("dialog", { name: `All keys of ${title}` });
    await expect(sheet).toBeVisible();
    const keys = (await sheet.locator("dt").allTextContents()).filter((key) => /^(Alt |F2|Delete)/.test(key));
    expect(keys.length, title).toBeGreaterThan(0);
    await page.keyboard.press("Escape");
    await expect(sheet).toHaveCount(0);
    await page.getByRole("heading", { level: 1 }).first().click({ button: "right", force: true });
    await page.keyboard.press("Escape");
    await page.locator("main").click({ button: "right", position: { x: 5, y: 200 } });
    await expect(page.getByRole("menu", { name: "What can be done here" }), title).toBeVisible();
    await page.keyboard.press("Escape");
    await expect(page.getByRole("menu")).toHaveCount(0);
  }
  await go(page, `/templates/${id}/delay`);
  await expect(page.getByRole("link", { name: "Input list, 1 finding", exact: true })).toBeVisible();
  await page.keyboard.press("Alt+j");
  await expect(
    page.getByText("Alt J is “Fill down”, which this screen does not have. Press ? for its keys."),
  ).toBeVisible();
  // A notice stays on the screen that it speaks of.
  await page.getByRole("link", { name: "Hand-off" }).click();
  await awake(page);
  await expect(page.getByText("Alt J is “Fill down”")).toHaveCount(0);
});

test("what is typed before a dialog has the keys is not lost, and a range by keys holds its first member", async ({
  page,
}) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await go(page, `/templates/${id}/flow`);
  await node(page, "Fiddle, track").focus();
  await page.keyboard.press("Shift+ArrowUp");
  await expect(node(page, "Fiddle, track")).toHaveAttribute("aria-pressed", "true");
  await expect(node(page, "Cimbalom, track")).toHaveAttribute("aria-pressed", "true");
  await page.keyboard.press("Alt+w");
  // At once, while the dialog is only about to open.
  await page.keyboard.type("high-pass");
  const field = page.getByRole("dialog").getByRole("combobox");
  await expect(field).toHaveValue("high-pass");
  await page.keyboard.press("Enter");
  await expect(field).toHaveValue("High-pass");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Undo: Put a high-pass on 2 channels" })).toBeVisible();
  await page.keyboard.press("F2");
  await expect(page.getByText("Select one track, bus or return first.")).toBeVisible();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("F2");
  await expect(page.getByRole("complementary", { name: "Inspector" }).locator("input").first()).toBeFocused();
  await page.keyboard.press("Alt+i");
  await expect(node(page, "Fiddle, track")).toBeFocused();
});

test("what removes itself leaves the keys to what is beside it, and never to the page", async ({ page }) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await go(page, `/templates/${id}/flow`);
  await node(page, "Click, click").focus();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Delete");
  const sure = page.getByRole("dialog").getByRole("button", { name: /^Remove/ });
  await expect(sure.or(page.getByRole("button", { name: "Undo: Remove Click" })).first()).toBeVisible();
  if (await sure.isVisible()) await sure.press("Enter");
  await expect(node(page, "Click, click")).toHaveCount(0);
  await expect.poll(() => page.evaluate(() => document.activeElement?.tagName)).not.toBe("BODY");
});

test("a draft in a cell is kept when the page is loaded anew or left, and what can't be taken is told on the next", async ({
  page,
}) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await openInputs(page, id);
  await cell(page, "Fiddle", COLUMN.name).click();
  await page.keyboard.type("Viola");
  await page.reload();
  await awake(page);
  await expect(row(page, "Viola")).toBeVisible();
  await go(page, `/templates/${id}/cues`);
  await page.getByRole("gridcell", { name: /^Snare in Ilse/ }).click();
  await page.keyboard.type("-33");
  await page.reload();
  await awake(page);
  await expect(page.getByRole("gridcell", { name: /^Snare in Ilse: −33 dB/ })).toBeVisible();
  await page.getByRole("gridcell", { name: /^Snare in Ilse/ }).click();
  await page.keyboard.type("loud");
  await page.reload();
  await awake(page);
  await expect(page.getByRole("alert").filter({ hasText: "loud" })).toBeVisible();
  await go(page, `/templates/${id}/flow`);
  await node(page, "Lead voice, track").click();
  await page.getByRole("textbox", { name: "Fader in dB" }).fill("-7");
  // By the palette, from within the field.
  await page.keyboard.press("Control+k");
  await page.keyboard.type("go to the cues");
  await expect(page.locator("[data-action][data-selected]")).toContainText("Go to the cues");
  await page.keyboard.press("Enter");
  await awake(page);
  await saved(page);
  const { document } = await readTemplate(page, id);
  expect(Object.values(document.channels).find(({ name }) => name === "Lead voice")?.faderDb).toBe(-7);
});

test("a jump by the palette unfolds what it leads to, and takes the cursor there", async ({ page }) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await openInputs(page, id);
  await page.keyboard.press("Alt+b");
  await expect(row(page, "Trumpet")).toHaveCount(0);
  const jump = async (text: string): Promise<void> => {
    await page.keyboard.press("Control+k");
    await page.keyboard.type(text);
    await expect(page.locator("[data-action][data-selected]")).toContainText(text);
    await page.keyboard.press("Enter");
    await expect(page.getByRole("dialog")).toHaveCount(0);
  };
  await jump("Trumpet");
  await expect(row(page, "Trumpet")).toBeVisible();
  await expect(page.getByRole("grid")).toBeFocused();
  await page.keyboard.press("F2");
  await expect(page.getByRole("textbox", { name: /Track/ }).first()).toBeFocused();
  await page.keyboard.press("Escape");
  await jump("Plate");
  await expect(
    node(page, "Plate, 2 sends, return")
      .or(page.getByRole("button", { name: /^Plate, .*return$/ }))
      .first(),
  ).toBeFocused();
  await jump("Juno");
  await expect(page.getByRole("grid")).toBeFocused();
  await expect(page.locator("[role=columnheader][data-active]")).toContainText("Juno");
});
