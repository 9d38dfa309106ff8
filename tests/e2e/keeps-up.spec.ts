import { expect, type Locator, type Page } from "@playwright/test";
import type { Template } from "../../src/core/model/template";
import { cleanOnBoth, go, makeTemplate, readTemplate, saved } from "./helpers";
import { test } from "./warm";

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
  await expect(page.getByRole("region", { name: "Main in mono" })).toContainText(/Fiddle.*off centre.*−3\.01 dB/);
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
  const off = page.getByRole("textbox", { name: /^Reduction at/ });
  await off.fill("4");
  await off.press("Enter");
  await expect(page.getByText(/^Reduces by 4 dB at the usual/)).toBeVisible();
  await go(page, `/templates/${id}/flow`);
  await node(page, "Fiddle, track").focus();
  await keys(page, "Enter", "Alt+Shift+p");
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
