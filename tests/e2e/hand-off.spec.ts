import { readFileSync } from "node:fs";
import { expect } from "@playwright/test";
import { TEMPLATE_SCHEMA } from "../../src/core/model/template";
import { go, makeTemplate, openInputs } from "./helpers";
import { test } from "./warm";

test("the patching sheet goes input by input, and says through what", async ({ page }) => {
  await page.goto("/templates/tidewrack-nine/hand-off");
  const sheet = page.getByRole("article", { name: "Patching sheet" });
  await expect(sheet.getByRole("heading", { level: 2 })).toHaveText([
    "Brindle 16",
    "Brindle Eight",
    "Processors asked for by name",
  ]);
  await expect(sheet.getByRole("row").filter({ hasText: "Fiddle" })).toContainText("Thistle Four 1");
  await expect(sheet.getByRole("row").filter({ hasText: "Large condenser B" })).toContainText("48 V");
  await expect(sheet).toContainText("18 lines, 9 with 48 V");
  await expect(page.getByText("2 problems are still open")).toBeVisible();
});

test("the files are made of the last edit", async ({ page }) => {
  const id = await makeTemplate(page, { copyOf: "pocket-sketch" });
  await openInputs(page, id);
  await page.getByRole("grid").focus();
  await expect(page.getByRole("complementary", { name: "Inspector" })).toBeVisible();
  await page.keyboard.type("Lute");
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "Hand-off" }).click();
  const save = async (name: string) => {
    const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("button", { name }).click()]);
    return { name: download.suggestedFilename(), body: readFileSync(await download.path()) };
  };
  const csv = await save("Input list (CSV)");
  expect(csv.body.toString()).toContain(
    "1,Lute,Guitar,,no,mono,Nadia Okonjo-Reyes,,weld,straight in at instrument level",
  );
  const json = await save("Template (JSON)");
  expect(JSON.parse(json.body.toString()).schema).toBe(TEMPLATE_SCHEMA);
  const pdf = await save("Patching sheet (PDF)");
  expect([pdf.body.subarray(0, 5).toString(), pdf.name]).toEqual([
    "%PDF-",
    expect.stringMatching(/patching sheet\.pdf$/),
  ]);
});

test("print asks the browser to print, and the frame stays off the paper", async ({ page }) => {
  await go(page, "/templates/tidewrack-nine/hand-off");
  await page.evaluate(() => {
    window.print = () => document.body.setAttribute("data-printed", "yes");
  });
  await page.getByRole("button", { name: "Print" }).click();
  await expect(page.locator("body")).toHaveAttribute("data-printed", "yes");
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("banner")).toBeHidden();
  await expect(page.getByRole("navigation", { name: "Stages" })).toBeHidden();
  await expect(page.getByRole("article", { name: "Patching sheet" })).toBeVisible();
});

test("the sheet can be worked down on a phone", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 800 });
  await page.goto("/templates/tidewrack-nine/hand-off");
  await expect(page.getByRole("article", { name: "Patching sheet" }).getByText("Bass drum")).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
});

test("a finding leads from the sheet to its cell in the input list", async ({ page }) => {
  await go(page, "/templates/tidewrack-nine/hand-off");
  await page.getByRole("button", { name: "2 problems" }).click();
  await page.getByRole("button", { name: /Clarinet is an active ribbon/ }).click();
  await expect(page).toHaveURL(/\/inputs$/);
  await expect(page.getByRole("grid", { name: "Input list" })).toHaveAttribute("aria-activedescendant", /-phantom$/);
});
