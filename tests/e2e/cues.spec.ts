import { expect, type Locator, type Page } from "@playwright/test";
import type { Template } from "../../src/core/model/template";
import { awake, cleanOnBoth, go, makeTemplate, readTemplate, saved } from "./helpers";
import { test } from "./warm";

const matrix = (page: Page): Locator => page.getByRole("grid", { name: "How loud everybody hears what" });
const head = (page: Page, name: string): Locator =>
  matrix(page).getByRole("columnheader", { name: new RegExp(`^${name},`) });
const at = (page: Page, source: string, cue: string): Locator =>
  matrix(page).getByRole("gridcell", { name: new RegExp(`^${source} in ${cue}: `) });
const draft = (page: Page): Locator => page.getByRole("grid", { name: "Which tracks are armed in which pass" });

const open = async (page: Page, copyOf: string, view = ""): Promise<string> => {
  const id = await makeTemplate(page, { copyOf });
  await go(page, `/templates/${id}/cues${view}`);
  return id;
};

const document = async (page: Page, id: string): Promise<Template> =>
  (await readTemplate(page, id)).document as unknown as Template;
/** How loud a source is in a cue, as it was saved. */
const levelOf = async (page: Page, id: string, source: string, cue: string) => {
  const { channels, cues, cueLevels } = await document(page, id);
  const cueId = Object.values(cues).find(({ name }) => name === cue)?.id;
  return Object.values(cueLevels).find((level) => level.cueId === cueId && channels[level.sourceId]?.name === source);
};
/** Waits for a dialog and that its first field has the keys. */
const asked = (page: Page): Promise<void> => expect(page.getByRole("dialog").locator("input").first()).toBeFocused();

/** Puts the keys onto a cell of the matrix. */
const goTo = async (page: Page, cell: Locator): Promise<void> => {
  await cell.click();
  await expect(matrix(page)).toHaveAttribute("aria-activedescendant", (await cell.getAttribute("id")) ?? "");
};

/** Goes on by a key, and sees each time that what has the keys then is in sight, below the headings. */
const steps = async (page: Page, grid: Locator, key: string, times: number): Promise<void> => {
  const inSight = (): Promise<boolean> =>
    grid.evaluate((element) => {
      const active = element.ownerDocument
        .getElementById(element.getAttribute("aria-activedescendant") ?? "")
        ?.getBoundingClientRect();
      const [box, heads] = [
        element.getBoundingClientRect(),
        element.querySelector('[role="columnheader"]')?.getBoundingClientRect(),
      ];
      return (
        active !== undefined &&
        heads !== undefined &&
        active.top >= heads.bottom &&
        active.bottom <= box.top + element.clientHeight
      );
    });
  for (let n = 0; n < times; n++) {
    const before = await grid.getAttribute("aria-activedescendant");
    await page.keyboard.press(key);
    await expect(grid).not.toHaveAttribute("aria-activedescendant", before ?? "");
    await expect.poll(inSight, `${key}, ${n + 1}`).toBe(true);
  }
};

test("a bar is dragged to a level, and what is typed below the matrix is kept", async ({ page }) => {
  const id = await open(page, "tidewrack-nine");
  const cell = at(page, "Fiddle", "Pell and Bram");
  const box = await cell.boundingBox();
  if (!box) throw new Error("expected the cell to be seen");
  await page.mouse.move(box.x + 40, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x + 60, box.y + 12, { steps: 4 });
  await page.mouse.move(box.x + 100, box.y + 12, { steps: 4 });
  await page.mouse.up();
  await saved(page);
  const dragged = (await levelOf(page, id, "Fiddle", "Pell and Bram"))?.levelDb ?? 0;
  expect(dragged).toBeGreaterThan(-10);
  expect(dragged).toBeLessThan(2);
  const pan = page.getByRole("textbox", { name: "Pan" });
  await pan.fill("L 30");
  await pan.press("Enter");
  await page.getByRole("combobox", { name: "Before or after the fader" }).click();
  await page.getByRole("option", { name: "after the fader" }).click();
  await saved(page);
  expect(await levelOf(page, id, "Fiddle", "Pell and Bram")).toMatchObject({
    pan: -30,
    tap: "after",
    levelDb: dragged,
  });
});

test("a source that is half out of sight is opened by two presses, not the one that would come under the mouse", async ({
  page,
}) => {
  await open(page, "flood-cantata");
  await goTo(page, at(page, "Soprano 1", "Conductor"));
  const cut = await matrix(page).evaluate((grid) => {
    const edge = grid.getBoundingClientRect().top + grid.clientHeight;
    const below = [...grid.querySelectorAll('[role="gridcell"]')].find(
      (cell) => cell.id.startsWith("cue-") && cell.getBoundingClientRect().bottom > edge,
    );
    if (below) grid.scrollBy(0, Math.round(below.getBoundingClientRect().top + 12 - edge));
    const box = below?.getBoundingClientRect();
    return { id: below?.id ?? "", x: (box?.left ?? 0) + 30, y: edge - 5, top: grid.scrollTop };
  });
  await page.mouse.dblclick(cut.x, cut.y);
  await expect(matrix(page).getByRole("textbox")).toBeFocused();
  await page.keyboard.press("Escape");
  await expect(matrix(page)).toHaveAttribute("aria-activedescendant", cut.id);
});

test("a crossing of a pass that is half out of sight is armed and no longer by two presses", async ({ page }) => {
  await page.setViewportSize({ width: 480, height: 720 });
  const id = await open(page, "harp-and-lullaby", "/passes");
  const before = (await document(page, id)).passes;
  const cut = await draft(page).evaluate((grid) => {
    const edge = grid.getBoundingClientRect().left + grid.clientWidth;
    const beside = [...grid.querySelectorAll('[role="gridcell"][data-is="none"]')].find(
      (cell) => cell.getBoundingClientRect().right > edge,
    );
    if (beside) grid.scrollBy(Math.round(beside.getBoundingClientRect().left + 8 - edge), 0);
    const box = beside?.getBoundingClientRect();
    return { id: beside?.id ?? "", x: edge - 4, y: (box?.top ?? 0) + (box?.height ?? 0) / 2, left: grid.scrollLeft };
  });
  const is = await page.locator(`[id="${cut.id}"]`).getAttribute("data-is");
  await page.mouse.click(cut.x, cut.y);
  await expect(page.locator(`[id="${cut.id}"]`)).not.toHaveAttribute("data-is", is ?? "");
  expect(await draft(page).evaluate((grid) => grid.scrollLeft)).toBe(cut.left);
  await page.mouse.click(cut.x, cut.y);
  await expect(page.locator(`[id="${cut.id}"]`)).toHaveAttribute("data-is", is ?? "");
  await expect.poll(async () => (await readTemplate(page, id)).revision).toBe(3);
  expect((await document(page, id)).passes).toEqual(before);
});

test("the cell that has the keys is in sight, below the heads and above the lower edge, wherever the arrows go", async ({
  page,
}) => {
  await page.setViewportSize({ width: 700, height: 620 });
  await open(page, "flood-cantata");
  await goTo(page, at(page, "Soprano 1", "Conductor"));
  await steps(page, matrix(page), "ArrowDown", 20);
  await steps(page, matrix(page), "ArrowUp", 17);
  await go(page, `${new URL(page.url()).pathname}/levels`);
  const gains = page.getByRole("grid", { name: "Gain of each line" });
  await gains.getByRole("row").nth(1).click();
  await steps(page, gains, "ArrowDown", 14);
  await steps(page, gains, "ArrowUp", 13);
  await open(page, "harp-and-lullaby", "/passes");
  await draft(page).getByRole("rowheader").first().click();
  await steps(page, draft(page), "ArrowDown", 13);
  await steps(page, draft(page), "ArrowUp", 12);
});

test("sixty-four sources and twelve cues are seen at once, with every head readable, and axe has nothing to say, in both themes", async ({
  page,
}) => {
  const id = await open(page, "flood-cantata");
  for (let n = 0; n < 11; n++) {
    await page.keyboard.press("Alt+a");
    await asked(page);
    await page.keyboard.press("Tab");
    await page.keyboard.type(`Desk ${n + 1}`);
    await page.keyboard.press("Enter");
    await expect(head(page, `Desk ${n + 1}`)).toBeVisible();
  }
  await expect(head(page, "Desk 11")).toBeInViewport({ ratio: 0.99 });
  await expect(matrix(page)).toHaveAttribute("aria-colcount", "13");
  const box = await head(page, "Desk 5").boundingBox();
  expect(box?.width).toBeGreaterThan(70);
  await matrix(page).evaluate((grid) => grid.scrollTo({ top: 600 }));
  await goTo(page, at(page, "Altos", "Desk 4"));
  await page.keyboard.type("-30");
  await page.keyboard.press("Enter");
  await expect(at(page, "Altos", "Desk 4")).toHaveAccessibleName(/−30 dB/);
  await cleanOnBoth(page, "cues");
  await saved(page);
  expect(Object.keys((await document(page, id)).cues)).toHaveLength(12);
});

test("passes: planned for one input, one key goes to the next, armed by keyboard, moved, and taken back", async ({
  page,
}) => {
  const id = await open(page, "harp-and-lullaby", "/passes");
  await expect(draft(page).getByRole("row")).toHaveCount(15);
  await expect(page.getByText(/14 tracks through 1 input · 14 passes · 168 minutes of takes/)).toBeVisible();
  await cleanOnBoth(page, "passes");
  await draft(page).focus();
  await page.keyboard.press("n");
  await expect(page.getByRole("region", { name: "Pass 2, now" })).toContainText("Shadow");
  await expect(page.getByRole("region", { name: "Pass 2, now" })).toContainText("12 tracks");
  await draft(page).focus();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press(" ");
  await expect(draft(page).getByRole("gridcell", { name: /^Lead in Shadow: armed$/ })).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(draft(page).getByRole("gridcell", { name: /^Lead in Shadow: recorded$/ })).toBeVisible();
  await page.keyboard.press("Alt+ArrowUp");
  await saved(page);
  const order = async () =>
    Object.values((await document(page, id)).passes)
      .sort((a, b) => (a.order < b.order ? -1 : 1))
      .map(({ name }) => name)
      .slice(0, 2);
  expect(await order()).toEqual(["Shadow", "Lead"]);
  await page.keyboard.press("Alt+Shift+a");
  await asked(page);
  await page.keyboard.type("0");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/Say how many inputs there are/)).toBeVisible();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("1");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog")).toBeHidden();
  await saved(page);
  expect(await order()).toEqual(["Lead", "Shadow"]);
  await page.getByRole("textbox", { name: "Free on the disk, GB" }).fill("1");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "1 problem" })).toBeVisible();
});

test("a level that is being typed is kept when its row is scrolled away, and told when another window removes its cue", async ({
  page,
  context,
}) => {
  const id = await open(page, "flood-cantata");
  await goTo(page, at(page, "Soprano 1", "Conductor"));
  await page.keyboard.type("-31");
  await matrix(page).evaluate((grid) => grid.scrollTo({ top: 3000 }));
  await expect.poll(async () => (await levelOf(page, id, "Soprano 1", "Conductor"))?.levelDb).toBe(-31);
  await matrix(page).evaluate((grid) => grid.scrollTo({ top: 0 }));
  await goTo(page, at(page, "Soprano 2", "Conductor"));
  await page.keyboard.type("-32");
  const other = await context.newPage();
  await other.goto(`/templates/${id}/cues`);
  await awake(other);
  await head(other, "Conductor").click();
  await other.keyboard.press("Alt+x");
  await expect(other.getByRole("dialog").getByRole("button", { name: /^Remove/ })).toBeFocused();
  await other.keyboard.press("Enter");
  await saved(other);
  await page.bringToFront();
  await expect(page.getByRole("alert").filter({ hasText: "“-32”, typed as Soprano 2 in Conductor" })).toBeVisible();
});
