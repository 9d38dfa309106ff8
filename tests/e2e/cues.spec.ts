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

test("four cues for nine people from the main mix, each with more of own sound, by keyboard", async ({ page }) => {
  const id = await open(page, "tidewrack-nine");
  await expect(matrix(page)).toBeFocused();
  // Begin with none: the four of the demo go in one act.
  await page.keyboard.press("Shift+End");
  await page.keyboard.press("Alt+x");
  await expect(page.getByRole("dialog")).toContainText("levels go with it");
  await expect(page.getByRole("dialog").getByRole("button", { name: /^Remove/ })).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Nobody hears anything yet" })).toBeVisible();
  for (const people of [["Ilse"], ["Juno", "Pell"], ["Bram", "Hob"], ["Wynn", "Odile", "Kester", "Mab"]]) {
    await page.keyboard.press("Alt+a");
    await asked(page);
    for (const person of people) {
      await page.keyboard.type(person);
      await expect(page.getByRole("option").first()).toContainText(person);
      await page.keyboard.press("Enter");
    }
    await page.keyboard.press("Tab");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("dialog")).toBeHidden();
    await expect(head(page, people.length > 2 ? "Wynn and 3 more" : people.join(" and "))).toBeVisible();
    await page.keyboard.press("Alt+m");
  }
  await saved(page);
  const { cues, history } = {
    cues: Object.values((await document(page, id)).cues),
    history: (await readTemplate(page, id)).revision,
  };
  expect(cues.map(({ portIds }) => portIds.join())).toEqual(
    [3, 5, 7, 9].map((n) => `brindle:out:${n},brindle:out:${n + 1}`),
  );
  // One act to begin with none, one for each cue and one for more of each: nine of the forty there may be.
  expect(history).toBe(10);
  expect((await levelOf(page, id, "Lead voice", "Ilse"))?.levelDb).toBe(3);
  expect((await levelOf(page, id, "Sousaphone", "Bram and Hob"))?.levelDb).toBe(3);
  expect((await levelOf(page, id, "Fiddle", "Ilse"))?.levelDb).toBe(0);
});

test("somebody whom nobody knows yet is kept as typed, and it is said that nothing is their own sound", async ({
  page,
}) => {
  const id = await open(page, "tidewrack-nine");
  await page.keyboard.press("Alt+a");
  await asked(page);
  await page.keyboard.type("Quill the guest");
  await page.keyboard.press("Tab");
  await expect(page.getByRole("dialog")).toContainText(
    "No line of this list is played by Quill the guest: nothing is marked as their own sound.",
  );
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog")).toBeHidden();
  await expect(head(page, "Quill")).toBeVisible();
  await saved(page);
  expect(Object.values((await document(page, id)).cues).map(({ people }) => people.join())).toContain(
    "Quill the guest",
  );
});

test("levels are typed, nudged, put before or after the fader, taken out, for a range and for a folded folder; each is taken back", async ({
  page,
}) => {
  const id = await open(page, "tidewrack-nine");
  await goTo(page, at(page, "Snare", "Ilse"));
  await page.keyboard.type("-20.5 a");
  await page.keyboard.press("Enter");
  await expect(at(page, "Snare", "Ilse")).toHaveAccessibleName("Snare in Ilse: −20.5 dB, after the fader");
  await expect(matrix(page)).toHaveAttribute(
    "aria-activedescendant",
    (await at(page, "Shaker table", "Ilse").getAttribute("id")) ?? "",
  );
  await page.keyboard.press("Shift+ArrowRight");
  await page.keyboard.press("Alt+ArrowUp");
  await expect(at(page, "Shaker table", "Juno")).toHaveAccessibleName(/−14 dB/);
  await expect(at(page, "Shaker table", "Ilse")).toHaveAccessibleName(/−17 dB/);
  await page.keyboard.press("Alt+b");
  await expect(at(page, "Shaker table", "Juno")).toHaveAccessibleName(/after the fader/);
  await page.keyboard.press("Alt+o");
  await expect(at(page, "Shaker table", "Ilse")).toHaveAccessibleName(/off$/);
  await page.keyboard.press("Delete");
  await expect(at(page, "Shaker table", "Ilse")).toHaveAccessibleName("Shaker table in Ilse: not heard");
  await page.keyboard.press("Control+z");
  await expect(at(page, "Shaker table", "Ilse")).toHaveAccessibleName(/off$/);
  await page.keyboard.press("Control+z");
  await expect(at(page, "Shaker table", "Ilse")).toHaveAccessibleName(/−17 dB, after the fader$/);
  // A whole folder: the loudest of it comes to what is typed, the others keep their distance.
  await goTo(page, at(page, "Percussion", "Ilse"));
  await page.keyboard.press(" ");
  await expect(at(page, "Percussion", "Ilse")).toHaveAccessibleName(/up to −17 dB/);
  await expect(at(page, "Snare", "Ilse")).toHaveCount(0);
  await page.keyboard.type("-10");
  await page.keyboard.press("Enter");
  await saved(page);
  expect((await levelOf(page, id, "Shaker table", "Ilse"))?.levelDb).toBe(-10);
  expect((await levelOf(page, id, "Snare", "Ilse"))?.levelDb).toBe(-13.5);
  await goTo(page, at(page, "Fiddle", "Ilse"));
  await page.keyboard.type("loud");
  await expect(page.getByRole("textbox", { name: "Fiddle in Ilse" })).toHaveValue("loud");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/“loud” is no level/)).toBeVisible();
  await expect(page.getByRole("textbox", { name: "Fiddle in Ilse" })).toHaveValue("loud");
  await page.keyboard.press("Escape");
  await expect(at(page, "Fiddle", "Ilse")).toHaveAccessibleName(/−12 dB/);
});

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
  await page.getByRole("combobox", { name: "Where it is tapped" }).click();
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

test("somebody who hears themself twice is told how far apart, and one act silences the copy", async ({ page }) => {
  await open(page, "tidewrack-nine");
  await expect(head(page, "Juno")).toHaveAccessibleName(/late$/);
  await head(page, "Juno").click();
  await expect(
    page.getByText("Juno Ashby hears Cimbalom, Second voice twice, 3.1 ms apart: a hollow at 163.8 Hz."),
  ).toBeVisible();
  await page.getByRole("button", { name: "2 problems" }).click();
  const panel = page.getByRole("complementary", { name: "Findings" });
  await expect(panel).toContainText(
    "Juno Ashby hears Second voice twice in Juno, direct and 3.1 ms later through the computer: with the first hollow at 163.8 Hz, down to nothing.",
  );
  await panel.getByRole("button", { name: "Silence the computer's copy" }).click();
  await expect(head(page, "Juno")).toHaveAccessibleName(/own sound after 0.9 ms of \d · direct, on time$/);
});

test("a far guest's cue, a loudspeaker's, and one mixed in the interface are made by keyboard", async ({ page }) => {
  const id = await open(page, "ferrymans-ghost");
  await page.keyboard.press("Alt+a");
  await asked(page);
  await page.keyboard.type("Far");
  await page.keyboard.press("Enter");
  await page.getByRole("combobox", { name: "Heard" }).click();
  await page.getByRole("option", { name: /at the far end/ }).click();
  await page.getByRole("combobox", { name: "Mixed in" }).click();
  await page.getByRole("option", { name: "the interface's own mixer" }).click();
  await expect(page.getByRole("dialog")).toContainText("heard before the computer has it");
  await page.getByRole("button", { name: "Add the cue" }).click();
  await saved(page);
  const { cues, cueLevels, channels } = await document(page, id);
  const made = Object.values(cues).find(({ name, hearing }) => name === "Far" && hearing === "far");
  expect(made).toMatchObject({ mixedIn: "interface", people: ["Far guest"] });
  expect(
    Object.values(cueLevels)
      .filter(({ cueId }) => cueId === made?.id)
      .map(({ sourceId }) => channels[sourceId]?.name),
  ).not.toContain("Far guest");
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
  await page.keyboard.press("Alt+p");
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

test("levels: headroom with what contributes most, and a gain planned from how loud and how far", async ({ page }) => {
  const id = await open(page, "tidewrack-nine", "/levels");
  await page.getByRole("option", { name: /^Ilse, cue/ }).click();
  await expect(
    page.getByRole("region", { name: "What contributes most to Ilse, cue" }).getByRole("listitem").first(),
  ).toContainText("Lead voice");
  const gains = page.getByRole("grid", { name: "Gain of each line" });
  await gains.getByRole("gridcell", { name: "Fiddle", exact: true }).click();
  const panel = page.getByRole("complementary", { name: "Line" });
  await expect(panel.getByRole("textbox", { name: "Loudness at 1 m, dB SPL" })).toHaveAttribute(
    "placeholder",
    "82, as usual",
  );
  // The worked figure: 2.0 mV/Pa would be another microphone; what is typed here is judged at once.
  await panel.getByRole("textbox", { name: "Loudness at 1 m, dB SPL" }).fill("114");
  await page.keyboard.press("Enter");
  await panel.getByRole("textbox", { name: "Microphone at, m" }).fill("1");
  await page.keyboard.press("Enter");
  await expect(panel).toContainText("114 dB SPL at the microphone, −22.22 dBu at the socket.");
  await panel.getByRole("textbox", { name: "Gain, dB" }).fill("50");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "2 problems" })).toBeVisible();
  await saved(page);
  expect(Object.values((await document(page, id)).lines).find(({ source }) => source === "Fiddle")).toMatchObject({
    loudnessDb: 114,
    distanceM: 1,
    gainDb: 50,
  });
  await cleanOnBoth(page, "levels");
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
