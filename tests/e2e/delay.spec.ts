import { expect, type Locator, type Page } from "@playwright/test";
import type { Template } from "../../src/core/model/template";
import { cleanOnBoth, go, makeTemplate, readTemplate, saved } from "./helpers";
import { test } from "./warm";

const thread = (page: Page, name: RegExp): Locator => page.getByRole("option", { name });
/** The chosen thread, part by part. */
const parts = (page: Page): Locator =>
  page.getByRole("region", { name: "How late each hears their own sound" }).getByRole("status");
const whatIf = (page: Page): Locator => page.getByRole("complementary", { name: "What if" });
const document = async (page: Page, id: string): Promise<Template> =>
  (await readTemplate(page, id)).document as unknown as Template;
const lead = async (page: Page, id: string) => {
  const found = Object.values((await document(page, id)).channels).find(
    (channel) => channel.kind === "track" && channel.name === "Lead",
  );
  return found?.kind === "track" ? found : undefined;
};

const open = async (page: Page, copyOf: string): Promise<string> => {
  const id = await makeTemplate(page, { copyOf });
  await go(page, `/templates/${id}/delay`);
  return id;
};

test("the singer of the lullabies: direct below 1 ms; tried through the computer at 256 she is late, part by part, and what would help is told; taken over and taken back", async ({
  page,
}) => {
  const id = await open(page, "harp-and-lullaby");
  await expect(thread(page, /^Ilse, Lead, direct, dry: 0.9 ms, 0.3 m, on time, target 3 ms/)).toBeVisible();
  await thread(page, /^Ilse, Lead, direct, dry/).click();
  await expect(parts(page)).toContainText(
    "Ilse, Lead, direct, dry: converter, 0.3 ms · interface's mixer, 0.3 ms · converter, 0.3 ms",
  );
  await whatIf(page).getByRole("radiogroup", { name: "How it is monitored" }).getByText("computer").click();
  await whatIf(page).getByRole("radiogroup", { name: "Buffer" }).getByText("256").click();
  await expect(thread(page, /^Ilse, Lead, computer, dry: 1\d\.\d ms, \d\.\d m, late, target 3 ms/)).toBeVisible();
  await expect(parts(page)).toContainText(
    /converter, 0.3 ms · buffer and driver, 5.7 ms · .*buffer and driver, 5.7 ms · converter, 0.3 ms/,
  );
  await expect(whatIf(page)).toContainText("Even with all of them off the latest stays");
  await expect(whatIf(page)).toContainText("A buffer of 32 would do with them off.");
  await expect(whatIf(page).getByRole("checkbox", { name: "Limiter of the fewest" })).toBeVisible();
  await expect(whatIf(page).getByRole("list", { name: "What becomes of it" })).toContainText(
    /Ilse Lead 0.9 → 1\d\.\d ms of 3/,
  );
  // Nothing changed yet.
  expect([(await lead(page, id))?.monitor, (await document(page, id)).buffers.recordingSamples]).toEqual([
    "direct",
    64,
  ]);
  await whatIf(page).getByRole("button", { name: "Take it over" }).click();
  await saved(page);
  expect([(await lead(page, id))?.monitor, (await document(page, id)).buffers.recordingSamples]).toEqual([
    "computer",
    256,
  ]);
  await expect(page.getByRole("button", { name: "1 problem" })).toBeVisible();
  await page.keyboard.press("Control+z");
  await saved(page);
  expect([(await lead(page, id))?.monitor, (await document(page, id)).buffers.recordingSamples]).toEqual([
    "direct",
    64,
  ]);
});

test("the fewest are switched off by one act, with what goes and comes back named", async ({ page }) => {
  const id = await open(page, "tidewrack-nine");
  await thread(page, /^Ilse, Lead voice, direct, dry/).click();
  await whatIf(page).getByRole("radiogroup", { name: "How it is monitored" }).getByText("computer").click();
  await whatIf(page).getByRole("radiogroup", { name: "Buffer" }).getByText("32").click();
  await expect(whatIf(page)).toContainText(/The fewest that bring all on time: 1 of \d\./);
  await whatIf(page).getByRole("button", { name: "Try the one off" }).click();
  await expect(whatIf(page)).toContainText("Off while a take runs, on again for mixing: Equaliser (Lead voice).");
  await expect(thread(page, /^Ilse, Lead voice, computer, dry: 2\.6 ms/)).toBeVisible();
  await whatIf(page).getByRole("button", { name: "Take it over" }).click();
  await saved(page);
  expect(
    Object.values((await document(page, id)).processors)
      .filter(({ use }) => use === "not-while-recording")
      .map(({ kind }) => kind),
  ).toContain("equaliser");
  await whatIf(page).getByRole("switch", { name: "All effects off" }).press("Space");
  await expect(whatIf(page).getByRole("button", { name: "Put back" })).toBeEnabled();
  await whatIf(page).getByRole("button", { name: "Put back" }).click();
  expect((await document(page, id)).buffers.allOff).toBe(false);
});

test("a cell of the table of rates and buffers is tried; the comb of what is heard twice is shown, and its fix clears it", async ({
  page,
}) => {
  await open(page, "tidewrack-nine");
  await page.getByRole("button", { name: /^96 kHz, 64 samples: \d\.\d on time/ }).click();
  await expect(page.getByRole("button", { name: /^96 kHz, 64 samples/ })).toHaveAttribute("aria-pressed", "true");
  await whatIf(page).getByRole("button", { name: "Put back" }).click();
  const comb = page.getByRole("region", { name: "Heard twice" });
  await expect(comb.getByRole("img", { name: /^Response/ })).toHaveAccessibleName(
    /from silence to 6.01 dB, the first notch at 163.8 Hz, then every 327.5 Hz/,
  );
  await comb.getByRole("button", { name: "Silence the computer's copy" }).click();
  await expect(comb).toContainText("Nobody hears themself twice.");
  await cleanOnBoth(page, "delay");
  await page.getByRole("textbox", { name: "Buffer while recording" }).fill("a lot");
  await page.keyboard.press("Enter");
  await expect(page.getByText("“a lot” is no whole number from 1 to 65536.")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("textbox", { name: "Buffer while recording" })).toHaveValue("64");
});

test("threads are gone through by arrows; without cues the way to them is shown", async ({ page }) => {
  const id = await open(page, "tidewrack-nine");
  // What is on time or wet is folded away where there is much of it, and shown by one press.
  await expect(thread(page, /^Ilse, Lead voice, Plate, wet/)).toHaveCount(0);
  await page.getByRole("button", { name: /on time, .*wet: show them/ }).click();
  await thread(page, /^Ilse, Lead voice, direct/).focus();
  await page.keyboard.press("ArrowDown");
  await expect(thread(page, /^Ilse, Lead voice, Plate, wet/)).toBeFocused();
  await expect(parts(page)).toContainText("Ilse, Lead voice, Plate, wet:");
  await go(page, `/templates/${id}/cues`);
  await page.getByRole("grid").focus();
  await page.keyboard.press("Shift+End");
  await page.keyboard.press("Alt+x");
  await expect(page.getByRole("dialog")).toContainText("levels go with it");
  await expect(page.getByRole("dialog").getByRole("button", { name: /^Remove/ })).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Nobody hears anything yet" })).toBeVisible();
  await page.getByRole("link", { name: "Delay" }).click();
  await expect(page.getByText("Nobody hears themself yet:")).toBeVisible();
});

test("all on a phone and at 200 % zoom: no page is wider than the window", async ({ page }) => {
  for (const [width, height] of [
    [390, 800],
    [640, 400],
  ] as const) {
    await page.setViewportSize({ width, height });
    for (const view of ["cues", "cues/passes", "cues/levels", "delay"]) {
      await go(page, `/templates/tidewrack-nine/${view}`);
      await expect(page.getByRole("heading", { level: 1 })).toBeAttached();
      expect(
        await page.evaluate(() => window.document.documentElement.scrollWidth <= window.innerWidth),
        `${view} at ${width}`,
      ).toBe(true);
    }
  }
});
