import { expect } from "@playwright/test";
import { awake, COLUMN, cell, dropFile, go, grid, importList, makeTemplate, noViolations, openInputs } from "./helpers";
import { test } from "./warm";

const DIALOG = '[role="dialog"]';

test.describe("every state, on cloth", () => {
  test.use({ colorScheme: "light" });

  test("library, its dialogs and its palette", async ({ page }) => {
    await go(page, "/");
    await noViolations(page, "library");
    await page.keyboard.press("Alt+a");
    await expect(page.getByRole("dialog")).toBeVisible();
    await noViolations(page, "new template", DIALOG);
    await page.keyboard.press("Escape");
    await expect(page.getByRole("dialog")).toHaveCount(0);
    await dropFile(page, "01-tidewrack-nine.csv");
    await page.getByRole("combobox", { name: "Rig", exact: true }).selectOption({ label: "Duo, 2 inputs" });
    await expect(page.getByRole("dialog")).toContainText("Left out: 13");
    await noViolations(page, "import", DIALOG);
    await page.getByRole("button", { name: "Cancel" }).click();
    await page.keyboard.press("Control+k");
    await noViolations(page, "palette", DIALOG);
  });

  test("input list, empty and at rest", async ({ page }) => {
    await openInputs(page, await makeTemplate(page));
    await noViolations(page, "empty");
    await openInputs(page, await importList(page, "01-tidewrack-nine.csv"));
    await noViolations(page, "at rest");
  });

  test("input list, selected and edited", async ({ page }) => {
    await openInputs(page, await importList(page, "01-tidewrack-nine.csv"));
    await cell(page, "Clarinet", COLUMN.name).click();
    await noViolations(page, "selected");
    await cell(page, "Clarinet", COLUMN.microphone).click();
    await page.keyboard.press("Enter");
    await expect(page.getByRole("option").first()).toBeVisible();
    await noViolations(page, "edited");
  });

  test("input list with findings and format", async ({ page }) => {
    await openInputs(page, await importList(page, "01-tidewrack-nine.csv"));
    await page.getByRole("button", { name: /problems$/ }).click();
    await page.getByRole("button", { name: "Format and rig" }).click();
    await noViolations(page, "findings and format");
  });

  test("input list: range, menu, filter, dialogs of acts, list of keys, history", async ({ page }) => {
    test.slow();
    await openInputs(page, await makeTemplate(page, { copyOf: "tidewrack-nine" }));
    await cell(page, "Fiddle", COLUMN.microphone).click();
    await page.keyboard.press("Shift+ArrowUp");
    await page.keyboard.press("Shift+ArrowRight");
    await noViolations(page, "range");
    await cell(page, "Snare", COLUMN.name).click({ button: "right" });
    await noViolations(page, "menu", '[role="menu"]');
    await page.keyboard.press("Escape");
    for (const [key, where] of [
      ["Alt+Shift+d", "duplicate"],
      ["Alt+m", "family"],
      ["Shift+?", "keys"],
    ] as const) {
      await grid(page).focus();
      await page.keyboard.press(key);
      await expect(page.getByRole("dialog")).toBeVisible();
      await noViolations(page, where, DIALOG);
      await page.keyboard.press("Escape");
      await expect(page.getByRole("dialog")).toHaveCount(0);
    }
    await page.getByRole("button", { name: "Columns and rows" }).click();
    await noViolations(page, "columns", DIALOG);
    await page.keyboard.press("Escape");
    await page.getByRole("button", { name: "What was done" }).click();
    await page.mouse.move(640, 790);
    await noViolations(page, "history", DIALOG);
  });

  test("rig and studio", async ({ page }) => {
    await go(page, "/rigs/whole-mill?template=tidewrack-nine");
    await noViolations(page, "rig as a whole");
    await page
      .getByRole("navigation", { name: "Devices of the rig" })
      .getByRole("button", { name: /^Oxbow Pair/ })
      .click();
    await noViolations(page, "device");
    await page.getByRole("button", { name: "Add a device" }).click();
    await noViolations(page, "add a device", DIALOG);
    await page.keyboard.type("scratch");
    await page.keyboard.press("Enter");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("button", { name: "Add it" })).toBeVisible();
    await noViolations(page, "from scratch", DIALOG);
    await go(page, "/studio");
    await noViolations(page, "studio");
  });

  test("signal flow: at rest, selected, its dialogs", async ({ page }) => {
    await go(page, "/templates/tidewrack-nine/flow");
    await noViolations(page, "signal flow");
    await page.getByRole("button", { name: "Fiddle, track" }).click();
    await noViolations(page, "signal flow, selected");
    await page.keyboard.press("Alt+s");
    await noViolations(page, "send", DIALOG);
    await page.getByRole("button", { name: "Cancel" }).click();
    await page.keyboard.press("Alt+a");
    await noViolations(page, "add a bus", DIALOG);
  });

  test("hand-off", async ({ page }) => {
    await go(page, "/templates/tidewrack-nine/hand-off");
    await noViolations(page, "hand-off");
  });
});

test.describe("on night", () => {
  test.use({ colorScheme: "dark" });

  test("the colours of the screens that most is done on", async ({ page }) => {
    await go(page, "/");
    await noViolations(page, "library");
    await openInputs(page, await makeTemplate(page, { copyOf: "tidewrack-nine" }));
    await cell(page, "Clarinet", COLUMN.name).click();
    await noViolations(page, "input list, selected");
    await go(page, "/templates/tidewrack-nine/flow");
    await page.getByRole("button", { name: "Fiddle, track" }).click();
    await noViolations(page, "signal flow, selected");
    await go(page, "/rigs/whole-mill?template=tidewrack-nine");
    await noViolations(page, "rig");
  });
});

test("a dark room is remembered", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "Dark surface" }).click();
  await expect(page.locator("html")).toHaveAttribute("data-mantine-color-scheme", "dark");
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-mantine-color-scheme", "dark");
  await expect(page.getByRole("button", { name: "Light surface" })).toBeVisible();
});

test("what opens over a screen comes after it for whoever reads or tabs, also where one came there by a link", async ({
  page,
}) => {
  await page.goto("/");
  await awake(page);
  await page.keyboard.press("Control+k");
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "The Tidewrack Nine", exact: true }).click();
  await expect(grid(page)).toBeVisible();
  await page.keyboard.press("Control+k");
  const order = await page
    .getByRole("dialog")
    .evaluate((dialog) => document.querySelector("main")?.compareDocumentPosition(dialog));
  expect(order).toBe(4); // DOCUMENT_POSITION_FOLLOWING
});

test("no page breaks its content security policy or writes an error", async ({ page }) => {
  const complaints: string[] = [];
  page.on("console", (message) => {
    if (message.type() === "error") complaints.push(message.text());
  });
  page.on("pageerror", (error) => complaints.push(error.message));
  for (const path of [
    "/",
    "/templates/tidewrack-nine/flow",
    "/templates/tidewrack-nine/cues",
    "/templates/tidewrack-nine/hand-off",
    "/rigs/whole-mill",
    "/studio",
    "/templates/tidewrack-nine/inputs",
  ]) {
    await page.goto(path);
    await awake(page);
  }
  await grid(page).focus();
  await page.keyboard.press("Control+k");
  await page.keyboard.press("Escape");
  for (const path of ["/templates/tidewrack-nine/flow", "/rigs/whole-mill", "/templates/tidewrack-nine/cues", "/"])
    await go(page, path);
  expect(complaints).toEqual([]);
});

for (const [what, viewport] of [
  ["at 200 % zoom", { width: 640, height: 400 }],
  ["on a phone", { width: 390, height: 800 }],
] as const) {
  test.describe(what, () => {
    test.use({ viewport });

    test("pages are no wider than the window, and a track can be chosen, named and seen", async ({ page }) => {
      for (const path of ["/", "/rigs/wheelhouse-cart", "/studio", "/templates/tidewrack-nine/flow"]) {
        await go(page, path);
        expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
      }
      await openInputs(page, await makeTemplate(page, { copyOf: "tidewrack-nine" }));
      await cell(page, "Snare", COLUMN.name).click();
      await page.keyboard.type("Side drum");
      await page.keyboard.press("Enter");
      await expect(cell(page, "Side drum", COLUMN.name)).toBeInViewport();
      await expect(
        page.getByRole("complementary", { name: "Inspector" }).getByRole("textbox", { name: "Track", exact: true }),
      ).toBeInViewport();
      expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
      await noViolations(page, what);
    });
  });
}
