import { readFileSync } from "node:fs";
import { expect, type Locator, type Page } from "@playwright/test";
import { go, makeTemplate, readTemplate, saved } from "./helpers";
import { test } from "./warm";

const picture = (page: Page): Locator => page.getByRole("group", { name: /^Signal flow of / });
/** Something in the picture, by its name and what it is. */
const node = (page: Page, name: string): Locator => picture(page).getByRole("button", { name: new RegExp(`^${name}`) });
const openFlow = async (page: Page, id: string): Promise<void> => {
  await go(page, `/templates/${id}/flow`);
  await expect(node(page, "Main, main bus")).toBeVisible();
};

const openCopy = async (page: Page, copyOf = "tidewrack-nine"): Promise<string> => {
  const id = await makeTemplate(page, { copyOf });
  await openFlow(page, id);
  return id;
};

/** Opens a dialog by its key, and types into it once it has the keys. */
const ask = async (page: Page, key: string, text: string): Promise<void> => {
  await page.keyboard.press(key);
  await expect(page.getByRole("dialog").locator("input").first()).toBeFocused();
  await page.keyboard.type(text);
};

const drag = async (page: Page, from: Locator, to: Locator): Promise<void> => {
  const [a, b] = [await from.boundingBox(), await to.boundingBox()];
  if (!a || !b) throw new Error("expected both to be seen");
  await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
  await page.mouse.down();
  await page.mouse.move(a.x + a.width / 2 + 20, a.y + a.height / 2, { steps: 4 });
  await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 8 });
  // Let go once it is seen to be over it, as a hand would.
  await expect(to).toHaveAttribute("data-over", "true");
  await page.mouse.up();
};

/** Where a channel goes, by name. */
const outputOf = async (page: Page, id: string, name: string): Promise<string> => {
  const { document } = await readTemplate(page, id);
  const channel =
    Object.values(document.channels).find((one) => one.name === name && one.kind === "track") ??
    Object.values(document.channels).find((one) => one.name === name);
  return channel?.output.kind === "channel"
    ? (document.channels[channel.output.channelId]?.name ?? "")
    : (channel?.output.kind ?? "not there");
};

test.describe("by keyboard only", () => {});

test("a loop is refused with its whole way in words, typed and dragged, and nothing changes", async ({ page }) => {
  const id = await openCopy(page, "ferrymans-ghost");
  await node(page, "Speech, bus").click();
  await ask(page, "Alt+r", "Actors");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await expect(
    page.getByRole("alert").filter({ hasText: "the sound would go round for ever: Speech → Actors → Speech" }),
  ).toBeVisible();
  await page.getByRole("button", { name: "Cancel" }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await drag(page, node(page, "Speech, bus"), node(page, "Actors, bus"));
  await expect(page.getByRole("alert").filter({ hasText: "Speech → Actors → Speech" }).last()).toBeVisible();
  expect(await outputOf(page, id, "Speech")).toBe("Main");
});

test("dragged onto a bus a track is routed there, onto a return it is sent there", async ({ page }) => {
  const id = await openCopy(page);
  await drag(page, node(page, "Accordion"), node(page, "Winds, bus"));
  await expect(page.getByRole("button", { name: "Undo: Route Accordion to Winds" })).toBeVisible();
  await drag(page, node(page, "Accordion"), node(page, "Plate, "));
  await expect(node(page, "Plate, 3 sends, return")).toBeVisible();
  await saved(page);
  expect(await outputOf(page, id, "Accordion")).toBe("Winds");
});

test("many tracks begin folded by family and fit; unfolding one leaves the others; the picture is saved as it is seen", async ({
  page,
}) => {
  await openCopy(page, "flood-cantata");
  await expect(picture(page).getByRole("button", { name: /family, folded/ })).toHaveCount(6);
  await node(page, "Tenors, .*family").click();
  await page.keyboard.press("Enter");
  await expect(picture(page).getByRole("button", { name: /^Tenor \d+, track/ })).toHaveCount(20);
  await expect(picture(page).getByRole("button", { name: /family, folded/ })).toHaveCount(5);
  await expect(node(page, "Winds, .*family")).toBeInViewport({ ratio: 0.99 });
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "SVG" }).click(),
  ]);
  const svg = readFileSync(await download.path(), "utf8");
  expect(download.suggestedFilename()).toMatch(/signal flow\.svg$/);
  for (const name of ["Tenor 12", "Sopranos", "Nave", "Outputs 1–2"]) expect(svg).toContain(`>${name}<`);
  expect(svg).not.toContain("var(");
  await page.getByRole("button", { name: "Unfold all" }).click();
  // Drawn is what is around the window; keys lead through all of them.
  await expect(
    picture(page)
      .getByRole("button", { name: /, track$/ })
      .nth(30),
  ).toBeAttached();
  expect(
    await picture(page)
      .getByRole("button", { name: /, track$/ })
      .count(),
  ).toBeLessThan(128);
  await node(page, "Soprano 1, track").click();
  for (let at = 0; at < 140; at++) await page.keyboard.press("ArrowDown");
  const last = page.locator("g:focus");
  await expect(last).toBeInViewport({ ratio: 0.99 });
  await expect(last).toHaveAttribute("aria-pressed", "true");
  const [whole] = await Promise.all([page.waitForEvent("download"), page.getByRole("button", { name: "SVG" }).click()]);
  const all = readFileSync(await whole.path(), "utf8");
  for (const name of ["Soprano 1", "Tenor 12", "Nave", "Main"]) expect(all).toContain(`>${name}<`);
});

test("what is lit follows what is selected: all ways, dry only, sent only", async ({ page }) => {
  await openFlow(page, "tidewrack-nine");
  await node(page, "Fiddle").click();
  const dimmed = (name: string) => expect(node(page, name)).toHaveAttribute("opacity", "0.4");
  const lit = (name: string) => expect(node(page, name)).toHaveAttribute("opacity", "1");
  await lit("Stair chamber");
  await dimmed("Cimbalom");
  await page.getByText("Dry only").click();
  await dimmed("Stair chamber");
  await lit("Strings, bus");
  await page.getByText("Wet only").click();
  await lit("Stair chamber");
  await dimmed("Strings, bus");
});

test("of two returns of one name a track is sent to the one that it is dragged onto, and thrown into the one that is chosen", async ({
  page,
}) => {
  const id = await openCopy(page);
  const twin: object = {
    base: 1,
    batch: "twin",
    commands: [{ kind: "set", table: "channels", values: { "return-2": { name: "Plate" } } }],
  };
  expect((await page.request.post(`/api/templates/${id}/commands`, { data: twin })).ok()).toBe(true);
  const second = page.locator("[id='flow-return-2']");
  await expect(second).toHaveAttribute("aria-label", /^Plate/);
  await drag(page, node(page, "Snare"), second);
  await expect(page.getByRole("button", { name: "Undo: Send Snare to Plate" })).toBeVisible();
  await saved(page);
  const { document } = await readTemplate(page, id);
  const snare = Object.values(document.channels).find(({ name }) => name === "Snare");
  expect(
    Object.values(document.sends).flatMap((send) => (send.fromId === snare?.id ? [send.toId as string] : [])),
  ).toEqual(["return-2"]);
  for (const at of [0, 1]) {
    await node(page, "Clarinet, track").click();
    await page.keyboard.press("Alt+Shift+e");
    await page.getByRole("dialog").getByRole("combobox").or(page.getByRole("dialog").locator("input")).first().click();
    await page.getByRole("option", { name: "Plate", exact: true }).nth(at).click();
    await page.getByRole("dialog").locator("button[type=submit]").press("Enter");
    await expect(page.getByRole("dialog")).toHaveCount(0);
  }
  await saved(page);
  const after = Object.values((await readTemplate(page, id)).document.sends).filter(
    ({ fromId }) => document.channels[fromId]?.name === "Clarinet",
  );
  expect(after.map(({ toId }) => toId as string).sort()).toEqual(["return-1", "return-2"]);
});

test("one chord means one thing on each screen", async ({ page }) => {
  const id = await openCopy(page);
  const chords = async () => {
    await page.keyboard.press("Control+k");
    const palette = page.getByRole("dialog", { name: "Do or find" });
    await expect(palette.locator("kbd").first()).toBeVisible();
    const all = await palette.locator("kbd").allTextContents();
    await page.keyboard.press("Escape");
    await expect(palette).toBeHidden();
    return all;
  };
  const doubled = (all: readonly string[]) => all.filter((chord, at) => all.indexOf(chord) !== at);
  await node(page, "Fiddle").click();
  const flow = await chords();
  expect(flow.length).toBeGreaterThan(12);
  expect(doubled(flow)).toEqual([]);
  for (const [screen, least] of [
    ["cues", 3],
    ["cues/passes", 2],
    ["inputs", 5],
  ] as const) {
    await go(page, `/templates/${id}/${screen}`);
    const all = await chords();
    expect(all.length, screen).toBeGreaterThanOrEqual(least);
    expect(doubled(all), screen).toEqual([]);
  }
});
