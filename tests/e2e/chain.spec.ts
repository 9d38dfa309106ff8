import { expect, type Locator, type Page } from "@playwright/test";
import { GESTURE_VERSION } from "../../src/core/commands/gesture-version";
import type { Template } from "../../src/core/model/template";
import { cleanOnBoth, go, makeTemplate, readTemplate, saved } from "./helpers";
import { test } from "./warm";

const thread = (page: Page): Locator => page.getByRole("group", { name: /^Thread of / });
const processor = (page: Page, name: string): Locator =>
  thread(page).getByRole("button", { name: new RegExp(`^${name}`) });
const panel = (page: Page, name: string): Locator => page.getByRole("region", { name: `Settings of ${name}` });
const kept = (page: Page): Locator => page.getByRole("region", { name: "Chains kept" });

/** What is on the thread, from left to right. */
const onThread = async (page: Page): Promise<readonly string[]> => {
  const boxes = await thread(page)
    .getByRole("button")
    .filter({ hasNot: page.locator(".tabler-icon-plus") })
    .all();
  const placed = await Promise.all(
    boxes.map(async (box) => ({
      x: (await box.boundingBox())?.x ?? 0,
      label: (await box.getAttribute("aria-label")) ?? "",
    })),
  );
  return placed.sort((a, b) => a.x - b.x).map(({ label }) => label.split(",")[0] ?? "");
};

const channelNamed = (doc: Template, name: string) =>
  Object.values(doc.channels).find((channel) => channel.name === name);
const chainOf = (doc: Template, name: string) => {
  const channel = channelNamed(doc, name);
  return Object.values(doc.processors)
    .filter(({ channelId }) => channelId === channel?.id)
    .sort((a, b) => (a.order < b.order ? -1 : 1));
};

const openChain = async (page: Page, name: string, copyOf = "tidewrack-nine"): Promise<string> => {
  const id = await makeTemplate(page, { copyOf });
  const { document } = await readTemplate(page, id);
  await go(page, `/templates/${id}/flow/${channelNamed(document, name)?.id}`);
  await expect(thread(page)).toBeVisible();
  return id;
};

/** Chooses in the dialog that asks for one of several, by typing. */
const choose = async (page: Page, text: string): Promise<void> => {
  await expect(page.getByRole("dialog").locator("input").first()).toBeFocused();
  await page.keyboard.press("Control+a");
  await page.keyboard.type(text);
  await expect(page.getByRole("option").first()).toContainText(text);
  await page.keyboard.press("Enter");
};

test("by keyboard: from the picture into a chain, a processor put in, set, moved, bypassed, taken off, and all of it taken back", async ({
  page,
}) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await go(page, `/templates/${id}/flow`);
  await page.getByRole("button", { name: /^Lead voice/ }).focus();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Alt+c");
  await expect(thread(page)).toBeVisible();
  await expect(page.getByRole("heading", { level: 1, name: "Lead voice" })).toBeVisible();
  expect(await onThread(page)).toEqual(["High-pass", "Compressor", "Equaliser", "De-esser"]);
  await page.keyboard.press("Alt+a");
  await choose(page, "Gate");
  await page.getByRole("dialog").getByRole("button", { name: "Add it" }).press("Enter");
  await expect(panel(page, "Gate")).toBeVisible();
  await expect(processor(page, "Gate")).toBeFocused();
  await page.keyboard.press("Shift+ArrowLeft");
  await page.keyboard.press("Shift+ArrowLeft");
  await expect.poll(() => onThread(page)).toEqual(["High-pass", "Compressor", "Gate", "Equaliser", "De-esser"]);
  await expect(processor(page, "Gate")).toBeFocused();
  await page.keyboard.press("Space");
  await expect(panel(page, "Gate").getByRole("button", { name: "Bypassed" })).toBeVisible();
  const threshold = panel(page, "Gate").getByLabel("Threshold, dB");
  await threshold.fill("−48 dB");
  await threshold.press("Enter");
  await expect(threshold).toHaveValue("−48");
  await saved(page);
  expect(chainOf((await readTemplate(page, id)).document, "Lead voice")[2]).toMatchObject({
    kind: "gate",
    thresholdDb: -48,
    bypassed: true,
  });
  await threshold.fill("loud");
  await threshold.press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "“loud” is no number from −80 to 0." })).toBeVisible();
  await threshold.press("Escape");
  await expect(threshold).toHaveValue("−48");
  await processor(page, "Gate").focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await expect(processor(page, "Equaliser")).toBeFocused();
  await page.keyboard.press("Delete");
  await expect(processor(page, "De-esser")).toBeFocused();
  for (let n = 0; n < 6; n++) await page.keyboard.press("Control+z");
  await expect.poll(() => onThread(page)).toEqual(["High-pass", "Compressor", "Equaliser", "De-esser"]);
  await saved(page);
});

test("an equaliser: bands added, typed, moved by keys and dragged; its curve tells its highest point", async ({
  page,
}) => {
  const id = await openChain(page, "Lead voice");
  await processor(page, "Equaliser").click();
  const eq = panel(page, "Equaliser");
  await expect(eq.getByText("Lowest point −3.6 dB at 3 kHz.")).toBeVisible();
  await eq.getByRole("button", { name: "Add a band" }).click();
  const fourth = eq.getByRole("button", { name: /^Band 4, bell at 1 kHz, 0 dB/ });
  await fourth.focus();
  for (let n = 0; n < 12; n++) await page.keyboard.press("ArrowUp");
  await page.keyboard.press("ArrowRight");
  await expect(eq.getByRole("button", { name: /^Band 4, bell at 1\.06 kHz, 6 dB/ })).toBeFocused();
  const hz = eq.getByLabel("Hz of band 4");
  await hz.fill("500");
  await hz.press("Enter");
  const handle = eq.getByRole("button", { name: /^Band 4, bell at 500 Hz/ });
  const box = await handle.boundingBox();
  if (!box) throw new Error("expected the point of the band");
  await page.mouse.move(box.x + 12, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x + 72, box.y - 20, { steps: 5 });
  await page.mouse.up();
  await expect(eq.getByRole("button", { name: /^Band 4, bell at 500 Hz/ })).toHaveCount(0);
  await saved(page);
  const { document } = await readTemplate(page, id);
  const band = Object.values(document.bands).find(
    ({ frequencyHz, processorId }) =>
      frequencyHz > 501 && frequencyHz < 3000 && processorId === chainOf(document, "Lead voice")[2]?.id,
  );
  expect([(band?.gainDb ?? 0) > 6, (band?.frequencyHz ?? 0) > 600]).toEqual([true, true]);
  await expect(eq.getByText(/^Highest point/)).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(eq.getByRole("button", { name: /^Band 4, bell at 500 Hz/ })).toBeVisible();
});

test("a chain is kept in the studio, put on another channel in place of what is there, dragged onto one, and copied to many", async ({
  page,
}) => {
  const id = await openChain(page, "Fiddle");
  await page.getByRole("button", { name: "Keep as a chain…" }).click();
  await expect(page.getByRole("dialog").locator("input").first()).toBeFocused();
  await page.keyboard.type("Mill fiddle");
  await page.keyboard.press("Enter");
  await expect(kept(page).getByText("Mill fiddle")).toBeVisible();
  await page.getByRole("button", { name: "Copy to…" }).click();
  await expect(page.getByRole("dialog").locator("input").first()).toBeFocused();
  for (const name of ["Clarinet", "Second voice"]) {
    await page.keyboard.type(name);
    await page.keyboard.press("Enter");
  }
  await expect(page.getByRole("dialog")).toContainText("The chain of Second voice is replaced.");
  await page.getByRole("button", { name: "Copy the chain" }).click();
  await saved(page);
  const copied = (await readTemplate(page, id)).document;
  expect(["Clarinet", "Second voice"].map((name) => chainOf(copied, name).map(({ kind }) => kind))).toEqual([
    ["equaliser", "compressor"],
    ["equaliser", "compressor"],
  ]);
  const { document } = await readTemplate(page, id);
  await go(page, `/templates/${id}/flow/${channelNamed(document, "Trumpet")?.id}`);
  await expect(page.getByText("Trumpet passes nothing on its way.")).toBeVisible();
  const [from, to] = [
    await kept(page).getByText("Mill fiddle").boundingBox(),
    await thread(page).getByRole("button", { name: "Add a processor at the end" }).boundingBox(),
  ];
  if (!from || !to) throw new Error("expected both to be seen");
  await page.mouse.move(from.x + 20, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x - 60, from.y + 8, { steps: 4 });
  await page.mouse.move(to.x + 10, to.y + 10, { steps: 8 });
  await expect(thread(page).getByRole("button", { name: "Add a processor at the end" })).toHaveAttribute(
    "data-over",
    "true",
  );
  await page.mouse.up();
  await expect.poll(() => onThread(page)).toEqual(["Equaliser", "Compressor"]);
  await kept(page).getByRole("button", { name: "Put Any voice, first take on Trumpet" }).click();
  await expect(page.getByRole("dialog")).toContainText("The chain of Trumpet is replaced.");
  // Enter before the dialog has the keys does nothing: nobody agrees to what they can't have read.
  await expect(page.getByRole("dialog").locator("button:focus")).toHaveCount(1);
  await page.keyboard.press("Enter");
  await expect.poll(() => onThread(page)).toEqual(["High-pass", "Compressor"]);
  await kept(page).getByRole("button", { name: "No longer keep Mill fiddle" }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Remove Mill fiddle" }).click();
  await expect(kept(page).getByText("Mill fiddle")).toHaveCount(0);
});

test("a channel steers a compressor with the band that is heard; a circle is refused in words; a split lies beside the line", async ({
  page,
}) => {
  const id = await openChain(page, "Lead voice");
  await processor(page, "Compressor").click();
  const open = panel(page, "Compressor");
  await open.getByRole("button", { name: "Let another channel steer it…" }).click();
  await expect(page.getByRole("dialog").locator("input").first()).toBeFocused();
  await page.keyboard.type("Fiddle");
  await page.keyboard.press("Enter");
  await page.getByLabel("The detector hears from, Hz").fill("200");
  await page.getByLabel("The detector hears up to, Hz").fill("4 kHz");
  await page.getByRole("button", { name: "Let them steer it" }).click();
  await expect(thread(page).getByText("steered by Fiddle, 200 Hz–4 kHz")).toBeVisible();
  await expect(open.getByText(/^Ducks by/)).toBeVisible();
  await saved(page);
  const { document } = await readTemplate(page, id);
  const lead = channelNamed(document, "Lead voice")?.id ?? "";
  const target = chainOf(document, "Fiddle").find(({ kind }) => kind === "compressor")?.id;
  const refused = await page.request.post(`/api/templates/${id}/commands`, {
    data: {
      base: (await readTemplate(page, id)).revision,
      batch: "circle-of-steering",
      made: GESTURE_VERSION,
      name: "Steer",
      commands: [
        {
          kind: "add",
          table: "sideChains",
          entries: [{ id: "round", fromId: lead, processorId: target, lowHz: null, highHz: null }],
        },
      ],
    },
  });
  expect([refused.status(), (await refused.json()).detail]).toEqual([
    422,
    "That can't be: the sound would go round for ever: Lead voice → (by a side-chain) Fiddle → (by a side-chain) Lead voice.",
  ]);
  await open.getByRole("button", { name: "Put it beside the line as it comes" }).click();
  await expect.poll(() => onThread(page)).toContain("Split");
  await expect(panel(page, "Compressor").getByLabel("Lies in")).toHaveValue("second branch of the split");
});

test("has no violation of accessibility, with a processor open and with none, in both themes", async ({ page }) => {
  await openChain(page, "Lead voice");
  for (const name of ["Equaliser", "Compressor"]) {
    await processor(page, name).click();
    await expect(panel(page, name)).toBeVisible();
    await cleanOnBoth(page, name);
  }
});

test("a throw that makes its tail itself is told, and its fix puts the delay where it goes on ringing", async ({
  page,
}) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  await go(page, `/templates/${id}/flow`);
  await page.getByRole("button", { name: "Clarinet, track" }).focus();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Alt+Shift+e");
  await choose(page, "Plate");
  await page.getByRole("dialog").locator("button[type=submit]").press("Enter");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.keyboard.press("Alt+c");
  await expect(page.getByRole("heading", { level: 1, name: "Clarinet" })).toBeVisible();
  await page.keyboard.press("Alt+a");
  await choose(page, "Delay in the chain");
  await page.getByRole("dialog").getByRole("button", { name: "Add it" }).press("Enter");
  await expect(processor(page, "Delay")).toBeFocused();
  await page.getByRole("button", { name: /^\d+ problems?$/ }).click();
  const told = page.getByRole("listitem").filter({
    hasText: "Clarinet is a throw, and Delay in its own chain is cut off with it: only what rings in a return goes on.",
  });
  await expect(told).toBeVisible();
  await told.getByRole("button", { name: /^Put Delay on / }).click();
  await expect(told).toHaveCount(0);
  await expect(processor(page, "Delay")).toHaveCount(0);
  await page.keyboard.press("Control+z");
  await expect(told).toBeVisible();
});
