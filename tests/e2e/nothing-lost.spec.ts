import { expect, type Page } from "@playwright/test";
import {
  COLUMN,
  cell,
  go,
  makeTemplate,
  noViolations,
  openInputs,
  readTemplate,
  row,
  saved,
  tracksOf,
  uniqueName,
} from "./helpers";
import { test } from "./warm";

const selection = (page: Page) => page.getByText(/^\d+ tracks selected/);

test("after a jump by the palette, Shift and an arrow reach from there and no further", async ({ page }) => {
  await openInputs(page, await makeTemplate(page, { copyOf: "tidewrack-nine" }));
  await cell(page, "Bass drum", COLUMN.name).click();
  await page.keyboard.press("Control+k");
  await page.getByPlaceholder(/do or find/i).fill("Sousaphone");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("complementary", { name: "Inspector" })).toContainText("Sousaphone");
  await page.keyboard.press("Shift+ArrowUp");
  await expect(selection(page)).toHaveText("2 tracks selected");
});

test("what removes rows out of view says so, and which, before it does", async ({ page }) => {
  const id = await makeTemplate(page, { copyOf: "flood-cantata" });
  await openInputs(page, id);
  await cell(page, "Soprano 1", COLUMN.name).click();
  for (let n = 0; n < 22; n++) await page.keyboard.press("Shift+ArrowDown");
  // What is in view is known once the list has come to rest where the cursor is.
  await expect(row(page, "Soprano 23")).toBeInViewport();
  await expect(row(page, "Soprano 1")).not.toBeInViewport();
  await expect(selection(page)).toHaveText(/^23 tracks selected, \d+ out of view$/);
  await page.keyboard.press("Delete");
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText(/\d+ of them are out of view: Soprano 1, .* and /);
  await page.keyboard.press("Escape");
  expect(tracksOf((await readTemplate(page, id)).document).some((track) => track.name === "Soprano 1")).toBe(true);
});

/** The Nine, with the fiddle's note in the inspector. */
const noteOfFiddle = async (page: Page) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await openInputs(page, id);
  await cell(page, "Fiddle", COLUMN.name).click();
  return { id, note: page.getByRole("complementary", { name: "Inspector" }).getByRole("textbox", { name: "Note" }) };
};

test("Ctrl Z that follows Enter at once takes back the edit, also while the inspector has not taken it up yet", async ({
  page,
}) => {
  const { id, note } = await noteOfFiddle(page);
  await note.fill("near the wall");
  await note.evaluate(async (field) => {
    const press = (init: KeyboardEventInit) =>
      field.dispatchEvent(new KeyboardEvent("keydown", { bubbles: true, cancelable: true, ...init }));
    press({ key: "Enter" });
    // As long as the page takes to answer a key, and no longer.
    await Promise.resolve();
    await Promise.resolve();
    press({ key: "z", ctrlKey: true });
  });
  await expect(note).toHaveValue("");
  await expect(page.getByRole("button", { name: /^Redo: / })).toBeEnabled();
  await saved(page);
  expect(tracksOf((await readTemplate(page, id)).document).find((track) => track.name === "Fiddle")?.note).toBe("");
});

test("Ctrl Z in a field of rig and studio takes back the edit it kept, and what is typed and not kept only there", async ({
  page,
}) => {
  const made = await page.request.post("/api/rigs", { data: { copyOf: "wheelhouse-cart", name: uniqueName("Rig") } });
  const rigId = (await made.json()).document.id;
  await go(page, `/rigs/${rigId}`);
  await page
    .getByRole("navigation", { name: "Devices of the rig" })
    .getByRole("button", { name: /^Brindle 16/ })
    .click();
  const name = page.getByRole("textbox", { name: "Name of input 1", exact: true });
  const was = await name.inputValue();
  await name.fill("Wall 1");
  await page.keyboard.press("Enter");
  await saved(page);
  await page.keyboard.press("Control+z");
  await expect(name).toHaveValue(was);
  await name.focus();
  await page.keyboard.type("Wall 2");
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("button", { name: /^Redo: / })).toBeEnabled();
  await page.keyboard.press("Escape");
  await expect(name).toHaveValue(was);

  await go(page, "/studio");
  await page.getByRole("button", { name: "Add a person" }).click();
  const person = page.getByRole("textbox", { name: /^Name of Person/ }).last();
  await person.fill(uniqueName("Lark Ostler"));
  await page.keyboard.press("Enter");
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("textbox", { name: /^Name of Lark Ostler/ })).toHaveCount(0);
  await page.getByRole("combobox", { name: "Icon of Keys" }).selectOption({ index: 2 });
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("textbox", { name: /^Name of Person/ })).toHaveCount(0);
  await saved(page);
});

test("what is typed in a row that another window removes is told, and can be typed again", async ({
  page,
  context,
}) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  const other = await context.newPage();
  await Promise.all([openInputs(page, id), openInputs(other, id)]);
  await cell(page, "Snare", COLUMN.note).click();
  await page.keyboard.type("a new head");
  await cell(other, "Snare", COLUMN.name).click();
  await other.keyboard.press("Delete");
  await expect(page.getByText(/“a new head”, typed as Note of Snare: the row was removed/)).toBeVisible();
  await expect(row(page, "Snare")).toHaveCount(0);
});

test("a template deleted elsewhere is told in its window, keeps what is edited, and is brought back from there", async ({
  page,
}) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await openInputs(page, id);
  await expect(page.getByText(/^Saved · revision/)).toBeVisible();
  await page.request.delete(`/api/templates/${id}`);
  const notice = page.getByRole("alert").filter({ hasText: "no longer in the library" });
  await expect(notice).toBeVisible();
  await cell(page, "Snare", COLUMN.name).click();
  await page.keyboard.type("Side drum");
  await page.keyboard.press("Enter");
  await expect(notice).toContainText("1 edit of it was not saved anywhere else");
  await notice.getByRole("button", { name: "Bring the template back" }).click();
  await saved(page);
  await expect(notice).toHaveCount(0);
  expect(tracksOf((await readTemplate(page, id)).document).map((track) => track.name)).toContain("Side drum");
});

test("a window whose server has another past says so, and its edits become a template of their own", async ({
  page,
}) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  let posts = 0;
  await page.route(`**/api/templates/${id}/commands`, (route) => {
    posts++;
    return route.fulfill({
      status: 409,
      contentType: "application/problem+json",
      body: JSON.stringify({ status: 409, title: "x", detail: "x", parted: true, head: 1, newer: [] }),
    });
  });
  await openInputs(page, id);
  await cell(page, "Snare", COLUMN.name).click();
  await page.keyboard.type("Side drum");
  await page.keyboard.press("Enter");
  const notice = page.getByRole("alert").filter({ hasText: "restored from before" });
  await expect(notice).toBeVisible();
  await page.waitForTimeout(1500);
  expect(posts).toBe(1);
  await notice.getByRole("button", { name: "Save as a template of its own" }).click();
  await expect(page).not.toHaveURL(new RegExp(id));
  await expect(page.getByRole("button", { name: /Rename the template .*as one window had it/ })).toBeVisible();
  await expect(row(page, "Side drum")).toBeVisible();
});

test("a window older than its server says to reload, keeps its edits, and has them after it", async ({ page }) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  const path = `**/api/templates/${id}/commands`;
  await page.route(path, (route) =>
    route.fulfill({
      status: 409,
      contentType: "application/problem+json",
      body: JSON.stringify({ status: 409, title: "Wandel was renewed", detail: "x", renewed: true }),
    }),
  );
  await openInputs(page, id);
  await cell(page, "Snare", COLUMN.name).click();
  await page.keyboard.type("Side drum");
  await page.keyboard.press("Enter");
  const notice = page.getByRole("alert").filter({ hasText: "Wandel was renewed" });
  await expect(notice).toContainText("1 edit of it was not saved anywhere else");
  await expect(row(page, "Side drum")).toBeVisible();
  await page.unroute(path);
  await notice.getByRole("button", { name: "Reload" }).click();
  await expect(row(page, "Side drum")).toBeVisible();
  await saved(page);
  expect(tracksOf((await readTemplate(page, id)).document).map((track) => track.name)).toContain("Side drum");
});

test("an edit that the server does not take stays shown until a person leaves it out", async ({ page }) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  const path = `**/api/templates/${id}/commands`;
  await page.route(path, (route) =>
    route.fulfill({
      status: 422,
      contentType: "application/problem+json",
      body: JSON.stringify({ status: 422, title: "x", detail: "The rig was deleted meanwhile." }),
    }),
  );
  await openInputs(page, id);
  await cell(page, "Snare", COLUMN.name).click();
  await page.keyboard.type("Side drum");
  await page.keyboard.press("Enter");
  const notice = page.getByRole("alert").filter({ hasText: "The rig was deleted meanwhile." });
  await expect(row(page, "Side drum")).toBeVisible();
  await page.unroute(path);
  await notice.getByRole("button", { name: /^Leave out “Rename Snare to Side drum”/ }).click();
  await expect(row(page, "Snare")).toBeVisible();
  await saved(page);
  await expect(page.getByText(/Rename Snare to Side drum: the server did not take it/)).toBeVisible();
});

test("a template that is brought back brings its rig back as well", async ({ page }) => {
  const rig = (
    await (
      await page.request.post("/api/rigs", { data: { copyOf: "wheelhouse-cart", name: uniqueName("Short-lived") } })
    ).json()
  ).document;
  const id = await makeTemplate(page, { rigId: rig.id });
  await page.request.delete(`/api/templates/${id}`);
  expect((await page.request.delete(`/api/rigs/${rig.id}`)).status()).toBe(204);
  const back = await (await page.request.post(`/api/templates/${id}/restore`)).json();
  expect(back.rigBroughtBack).toBe(rig.name);
  await openInputs(page, id);
  await expect(page.getByRole("button", { name: "Format and rig" })).toContainText(rig.name);
});

test("edits that are not saved yet when their screen is left are saved behind the next one, and are there when it is opened again", async ({
  page,
}) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await openInputs(page, id);
  await page.route(`**/api/templates/${id}/commands`, async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 400));
    await route.continue();
  });
  const names = async () => tracksOf((await readTemplate(page, id)).document).map((track) => track.name);
  const renameFast = async (from: string, ...to: readonly string[]) => {
    await cell(page, from, COLUMN.name).click();
    for (const name of to) {
      await page.keyboard.type(name);
      await page.keyboard.press("Enter");
    }
  };
  await renameFast("Snare", "One", "Two", "Three", "Four");
  await page.getByRole("link", { name: "Library", exact: true }).click();
  await expect(page).toHaveURL(/\/$/);
  await expect.poll(names).toContain("Four");
  await page.goBack();
  await expect(row(page, "Four")).toBeVisible();
  // Gone and back before it is all sent.
  await renameFast("Fiddle", "Five", "Six", "Seven", "Eight");
  await page.getByRole("link", { name: "Library", exact: true }).click();
  await expect(page).toHaveURL(/\/$/);
  await page.goBack();
  await expect(row(page, "Eight")).toBeVisible();
  await saved(page);
  expect(await names()).toEqual(expect.arrayContaining(["Four", "Eight"]));
});

const notSaved = (page: Page) => page.getByRole("region", { name: "Edits that are not saved" });

test("an edit that is not taken after its screen was left is told on the next one, and stands on the library until a person decides", async ({
  page,
}) => {
  const name = uniqueName("Left");
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine", name });
  await openInputs(page, id);
  const path = `**/api/templates/${id}/commands`;
  await page.route(path, async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 500));
    await route.fulfill({
      status: 422,
      contentType: "application/problem+json",
      body: JSON.stringify({ status: 422, title: "x", detail: "The rig was deleted meanwhile." }),
    });
  });
  await cell(page, "Snare", COLUMN.name).click();
  await page.keyboard.type("Side drum");
  await page.keyboard.press("Enter");
  await go(page, "/studio");
  await expect(page.getByText(`Not all edits of “${name}” are saved.`)).toBeVisible();
  await go(page, "/");
  await expect(notSaved(page)).toContainText(`1 edit of “${name}” is not saved: Rename Snare to Side drum`);
  await expect(notSaved(page)).toContainText("The rig was deleted meanwhile.");
  await noViolations(page, "library with edits that are not saved");
  await notSaved(page)
    .getByRole("link", { name: `Open “${name}”` })
    .click();
  await expect(row(page, "Side drum")).toBeVisible();
  await expect(page.getByRole("button", { name: "Leave out “Rename Snare to Side drum”" })).toBeVisible();
  await page.getByRole("link", { name: "Library", exact: true }).click();
  await notSaved(page).getByRole("button", { name: "Give it up…" }).click();
  await expect(page.getByRole("dialog")).toContainText(
    "It is kept in this browser and nowhere else, and can’t be had back:Rename Snare to Side drum",
  );
  await page.getByRole("button", { name: "Give it up", exact: true }).click();
  await expect(notSaved(page)).toHaveCount(0);
  await openInputs(page, id);
  await saved(page);
  await expect(row(page, "Snare")).toBeVisible();
});

test("edits of a window that was closed before they were saved stand on the library, and are saved once the template is opened", async ({
  page,
  context,
}) => {
  const name = uniqueName("Closed");
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine", name });
  const other = await context.newPage();
  await openInputs(other, id);
  await other.route("**/commands", (route) => route.abort());
  await cell(other, "Snare", COLUMN.name).click();
  for (const text of ["Side drum", "Left hand", "Right hand", "Bellows"]) {
    await other.keyboard.type(text);
    await other.keyboard.press("Enter");
  }
  await go(page, "/");
  await expect(row(other, "Bellows")).toBeVisible();
  await expect(notSaved(page)).toHaveCount(0);
  await other.close();
  await expect(notSaved(page)).toContainText(`4 edits of “${name}” are not saved: Rename Snare to Side drum · `);
  await expect(notSaved(page)).toContainText("· and 1 more");
  await notSaved(page)
    .getByRole("link", { name: `Open “${name}”` })
    .click();
  await expect(row(page, "Bellows")).toBeVisible();
  await saved(page);
  expect(tracksOf((await readTemplate(page, id)).document).map((track) => track.name)).toEqual(
    expect.arrayContaining(["Side drum", "Bellows"]),
  );
  await go(page, "/");
  await expect(notSaved(page)).toHaveCount(0);
});

test("edits of a template that was deleted after its screen was left are saved once it is brought back from the library", async ({
  page,
}) => {
  const name = uniqueName("Deleted");
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine", name });
  await openInputs(page, id);
  const path = `**/api/templates/${id}/commands`;
  await page.route(path, (route) => route.abort());
  await cell(page, "Snare", COLUMN.name).click();
  await page.keyboard.type("Side drum");
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "Library", exact: true }).click();
  await expect(notSaved(page)).toContainText(`1 edit of “${name}” is not saved`);
  await expect(notSaved(page).getByRole("button")).toHaveCount(0);
  await page.request.delete(`/api/templates/${id}`);
  await page.unroute(path);
  await notSaved(page).getByRole("button", { name: "Bring the template back" }).click();
  await expect(notSaved(page)).toHaveCount(0);
  const names = async () => tracksOf((await readTemplate(page, id)).document).map((track) => track.name);
  await expect.poll(names).toContain("Side drum");
});

test("three hundred edits that can't be kept are told in a notice that leaves room for the template", async ({
  page,
}) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await go(page, "/studio");
  await page.evaluate((about) => {
    const edits = Array.from({ length: 300 }, (_, at) => ({
      id: `edit-${at}`,
      name: `Edit ${at}`,
      made: 99,
      commands: [{ kind: "x" }],
    }));
    localStorage.setItem(`wandel:pending:${about}:gone.0`, JSON.stringify(edits));
  }, `template:${id}`);
  await openInputs(page, id);
  const notice = page.getByRole("alert").filter({ hasText: "300 edits made here could not be kept" });
  await expect(notice).toContainText("Edit 299: it was made with a newer Wandel than this one.");
  await expect(row(page, "Snare")).toBeInViewport({ ratio: 1 });
  await noViolations(page, "input list below a long notice");
  await page.getByRole("button", { name: "Dismiss this notice" }).click();
  await expect(notice).toHaveCount(0);
});
