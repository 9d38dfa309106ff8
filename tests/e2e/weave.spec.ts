import { expect, type Locator, type Page } from "@playwright/test";
import type { Template } from "../../src/core/model/template";
import { processorsOf } from "../../src/core/queries/chains";
import { go, makeTemplate, openInputs, readTemplate, saved } from "./helpers";
import { test } from "./warm";

const picture = (page: Page): Locator => page.getByRole("group", { name: /^Signal flow of / });
const node = (page: Page, name: string): Locator => picture(page).getByRole("button", { name: new RegExp(`^${name}`) });
const inspector = (page: Page): Locator => page.getByRole("complementary", { name: "Inspector" });
const dialogInput = (page: Page): Locator => page.getByRole("dialog").locator("input").first();

const openFlow = async (page: Page, fields: Parameters<typeof makeTemplate>[1]): Promise<string> => {
  const id = await makeTemplate(page, fields);
  await go(page, `/templates/${id}/flow`);
  await expect(node(page, "Main, main bus")).toBeVisible();
  return id;
};

const missing = (name: string): never => {
  throw new Error(`expected a channel called ${name}`);
};
const named = (doc: Template, name: string) =>
  Object.values(doc.channels).find((channel) => channel.name === name) ?? missing(name);
const doc = async (page: Page, id: string): Promise<Template> => {
  await saved(page);
  return (await readTemplate(page, id)).document;
};
/** Selects by keys: the first, and others below it with Shift. */
const select = async (page: Page, name: string, more = 0): Promise<void> => {
  await node(page, name).focus();
  await page.keyboard.press("Enter");
  for (let n = 0; n < more; n++) await page.keyboard.press("Shift+ArrowDown");
};
const pickSeveral = async (page: Page, names: readonly string[]): Promise<void> => {
  await expect(dialogInput(page)).toBeFocused();
  for (const name of names) {
    await page.keyboard.type(name);
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Enter");
  }
};

test("five sources with two microphones each: each pair blended to one track in one act, by a share, and held together", async ({
  page,
}) => {
  const id = await makeTemplate(page, { rigId: "whole-mill" });
  const tracks = ["Bass", "Fiddle", "Tuba", "Cimbalom", "Voice"].flatMap((name) => [`${name} near`, `${name} far`]);
  await openInputs(page, id);
  await page.getByRole("grid", { name: "Input list" }).focus();
  await page.evaluate(
    (plain) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData("text/plain", plain);
      (document.activeElement ?? document.body).dispatchEvent(
        new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }),
      );
    },
    `Input\tSource\n${tracks.map((name, at) => `${at + 1}\t${name}`).join("\n")}\n`,
  );
  await saved(page);
  await go(page, `/templates/${id}/flow`);
  const before = (await readTemplate(page, id)).revision;
  for (const name of ["Bass", "Fiddle", "Tuba", "Cimbalom", "Voice"]) {
    await select(page, `${name} near, track`, 1);
    await page.keyboard.press("Alt+b");
    await expect(dialogInput(page)).toBeFocused();
    await expect(dialogInput(page)).toHaveValue(name);
    await page.keyboard.press("Tab");
    await page.keyboard.type("70 %");
    await expect(page.getByRole("dialog")).toContainText(`${name} far gets the rest, 30 %, −10.46 dB.`);
    await page.keyboard.press("Enter");
    await expect(node(page, `${name} blend, bus`)).toBeVisible();
  }
  const made = await doc(page, id);
  expect([(await readTemplate(page, id)).revision - before <= 5, Object.keys(made.gangs).length]).toEqual([true, 5]);
  expect(["Bass near", "Bass far"].map((name) => named(made, name).faderDb)).toEqual([-3.1, -10.46]);
  expect(named(made, "Bass")).toMatchObject({
    kind: "track",
    input: { kind: "bus", busId: named(made, "Bass blend").id },
    output: { kind: "channel", channelId: "main" },
  });
  // One fader of a pair moves both, at the end stop too, and back to the same difference.
  await select(page, "Bass far, track");
  const fader = inspector(page).getByLabel("Fader in dB");
  const set = async (text: string): Promise<void> => {
    await fader.fill(text);
    await fader.press("Enter");
  };
  await set("8");
  expect(named(await doc(page, id), "Bass near")).toMatchObject({ faderDb: 12, pastEndDb: 3.36 });
  await select(page, "Bass near, track");
  await expect(inspector(page).getByText("Bass near would stand 3.36 dB past the end of its fader")).toBeVisible();
  await select(page, "Bass far, track");
  await set("−10.46");
  const back = await doc(page, id);
  expect(["Bass near", "Bass far"].map((name) => named(back, name).faderDb)).toEqual([-3.1, -10.46]);
  await inspector(page).getByRole("switch", { name: "Next move alone" }).press("Space");
  await set("−6");
  const alone = await doc(page, id);
  expect(["Bass near", "Bass far"].map((name) => named(alone, name).faderDb)).toEqual([-3.1, -6]);
  await expect(inspector(page).getByRole("switch", { name: "Next move alone" })).not.toBeChecked();
});

test("the narrator dry and through two chains at once: the words tell for each track what it passes", async ({
  page,
}) => {
  const id = await openFlow(page, { rigId: "whole-mill" });
  await openInputs(page, id);
  await page.getByRole("grid", { name: "Input list" }).focus();
  await page.evaluate(() => {
    const clipboardData = new DataTransfer();
    clipboardData.setData("text/plain", "Input\tSource\n1\tNarrator\n");
    (document.activeElement ?? document.body).dispatchEvent(
      new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }),
    );
  });
  await saved(page);
  await go(page, `/templates/${id}/flow`);
  await select(page, "Narrator, track");
  await page.keyboard.press("Alt+w");
  await pickSeveral(page, ["Close speech", "Telephone"]);
  await expect(page.getByRole("dialog")).toContainText("2 further tracks on the same line");
  await page.getByRole("dialog").getByRole("button", { name: "Record it so" }).press("Enter");
  const way = inspector(page).getByRole("region", { name: "Down: where it goes" }).getByRole("listitem");
  await select(page, "Narrator Telephone, track");
  await expect(way).toHaveText([
    /^Input 1/,
    "Narrator Telephone records here after its chain",
    "High-pass 400 Hz, 24 dB/oct",
    "Low-pass 3.2 kHz, 24 dB/oct",
    "Saturation drive 9 dB",
    "Nowhere it is recorded, and not heard",
  ]);
  await select(page, "Narrator, track");
  await expect(way).toHaveText([/^Input 1/, "Narrator records here", "Main sums 1", /^Outputs 1–2/]);
  const made = await doc(page, id);
  expect(Object.values(made.lines)).toHaveLength(1);
});

test("music and effects duck under three actors in one act; the picture shows the side-chains, and an actor who goes takes theirs", async ({
  page,
}) => {
  const id = await openFlow(page, { copyOf: "ferrymans-ghost" });
  await select(page, "Foley table, track", 1);
  await page.keyboard.press("Alt+y");
  await pickSeveral(page, ["Ferryman", "Widow", "Boy"]);
  await page.getByLabel("By how many dB").fill("6");
  await page.getByRole("dialog").getByRole("button", { name: "Duck 2 channels" }).press("Enter");
  const made = await doc(page, id);
  const ducked = ["Foley table", "Foley steps"].map((name) => processorsOf(made, named(made, name).id));
  expect(ducked.map(([only]) => only)).toMatchObject([
    { kind: "compressor", name: "Ducking", rangeDb: 6 },
    { kind: "compressor", rangeDb: 6 },
  ]);
  expect(Object.values(made.sideChains)).toHaveLength(12);
  await expect(page.locator("[data-laid] path[stroke-linecap=round][stroke-dasharray='0.1 5']")).toHaveCount(12);
  await select(page, "Boy, track");
  await expect(inspector(page).getByRole("region", { name: "Down: where it goes" })).toContainText(
    "Steers Foley table its ducking",
  );
  await openInputs(page, id);
  await page.getByRole("row").filter({ hasText: "Boy" }).first().getByText("Boy", { exact: true }).first().click();
  await page.keyboard.press("Delete");
  await saved(page);
  expect(Object.values((await doc(page, id)).sideChains)).toHaveLength(8);
});

test("control faders: laid over a selection, riding on one another, told at a channel, and a circle refused", async ({
  page,
}) => {
  const id = await openFlow(page, { copyOf: "tidewrack-nine" });
  await select(page, "Voices, bus");
  await page.keyboard.press("Alt+o");
  await expect(dialogInput(page)).toBeFocused();
  await page.getByRole("dialog").getByRole("button", { name: "Put Voices under it" }).press("Enter");
  await expect(inspector(page).getByText("They add nothing now.")).toBeVisible();
  await page.getByRole("button", { name: "Control faders 1" }).click();
  const panel = page.getByRole("complementary", { name: "Control faders" });
  const fader = panel.getByLabel("Fader in dB");
  await fader.fill("−6");
  await fader.press("Enter");
  await panel.getByRole("button", { name: "Add a control fader…" }).click();
  await expect(dialogInput(page)).toBeFocused();
  await page.keyboard.type("Everything");
  await page.keyboard.press("Enter");
  const first = panel.getByRole("listitem").filter({ hasText: "All but voices" }).first();
  await first.getByLabel("Rides on").click();
  await page.getByRole("option", { name: "Everything" }).click();
  await panel.getByRole("listitem").nth(1).getByLabel("Rides on").click();
  await page.getByRole("option", { name: "All but voices" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "lies in itself" })).toBeVisible();
  await panel.getByRole("button", { name: "Close" }).click();
  await select(page, "Voices, bus");
  await expect(inspector(page).getByText("They add −6 dB.")).toBeVisible();
  const made = await doc(page, id);
  expect(Object.values(made.controls).map(({ name, faderDb }) => [name, faderDb])).toEqual([
    ["All but voices", -6],
    ["Everything", 0],
  ]);
});

test("alone keeps one way lit whatever is selected; two bands, a bus beside, a throw and an amplifier are one act each", async ({
  page,
}) => {
  const id = await openFlow(page, { copyOf: "tidewrack-nine" });
  await select(page, "Fiddle, track");
  await page.keyboard.press("Alt+q");
  await expect(page.getByRole("button", { name: "Alone: Fiddle" })).toBeVisible();
  await select(page, "Snare, track");
  await expect(node(page, "Snare, track")).toHaveAttribute("opacity", "0.4");
  await expect(node(page, "Fiddle, track")).toHaveAttribute("opacity", "1");
  await page.keyboard.press("Alt+q");
  await expect(node(page, "Snare, track")).toHaveAttribute("opacity", "1");
  // Only what is sent: five sends and the lines at the left are drawn, and all stands where it stood.
  const drawn = page.locator("[data-laid] path[stroke-opacity]");
  const all = await drawn.count();
  await page.getByRole("button", { name: "Outputs", exact: true }).click();
  await expect(page.locator("[data-laid] path[stroke-dasharray]")).toHaveCount(5);
  expect(await drawn.count()).toBeLessThan(all);
  await page.getByRole("button", { name: "Outputs", exact: true }).click();
  await expect(drawn).toHaveCount(all);
  const accept = async (key: string): Promise<void> => {
    await page.keyboard.press(key);
    await expect(dialogInput(page)).toBeFocused();
    await page.getByRole("dialog").locator("button[type=submit]").press("Enter");
    await expect(page.getByRole("dialog")).toHaveCount(0);
  };
  await accept("Alt+p");
  await expect(node(page, "Snare high, bus")).toBeVisible();
  await select(page, "Trumpet, track");
  await accept("Alt+l");
  await expect(node(page, "Parallel, bus")).toBeVisible();
  await select(page, "Clarinet, track");
  await accept("Alt+t");
  await expect(inspector(page).getByLabel("Output")).toHaveValue("Nowhere");
  await select(page, "Cimbalom, track");
  await page.keyboard.press("Alt+m");
  await expect(page.getByRole("dialog")).toContainText("A passage at −18 dBFS leaves at −10 dBu.");
  await page.getByRole("dialog").locator("button[type=submit]").press("Enter");
  await expect(node(page, "Cimbalom to amplifier, bus")).toBeVisible();
  const made = await doc(page, id);
  expect(named(made, "Cimbalom amplified")).toMatchObject({ kind: "track", input: { kind: "line" } });
  for (let n = 0; n < 4; n++) await page.keyboard.press("Control+z");
  await expect(node(page, "Snare high, bus")).toHaveCount(0);
  expect(Object.keys((await doc(page, id)).processors)).toHaveLength(
    Object.keys((await readTemplate(page, "tidewrack-nine")).document.processors).length,
  );
});

test("a send is moved to another channel with its level; an instrument comes with tracks for its outputs", async ({
  page,
}) => {
  const id = await openFlow(page, { copyOf: "tidewrack-nine" });
  await select(page, "Lead voice, track");
  await inspector(page).getByRole("button", { name: "Move the send to Plate to another channel" }).press("Enter");
  await expect(dialogInput(page)).toBeFocused();
  await page.keyboard.type("Cimbalom");
  await page.keyboard.press("Enter");
  await page.getByRole("dialog").getByRole("button", { name: "Move the send" }).press("Enter");
  await expect(inspector(page).getByRole("region", { name: "Sends" })).toHaveCount(0);
  await page.keyboard.press("Alt+v");
  await expect(dialogInput(page)).toBeFocused();
  await page.keyboard.type("Drum machine");
  await page.keyboard.press("Tab");
  await page.keyboard.type("4");
  await page.keyboard.press("Tab");
  await page.keyboard.type("1-2, 4");
  await page.keyboard.press("Enter");
  await expect(node(page, "Drum machine, instrument")).toBeVisible();
  await expect(node(page, "Drum machine 4, track")).toBeVisible();
  await select(page, "Drum machine 4, track");
  const way = inspector(page).getByRole("region", { name: "Down: where it goes" }).getByRole("listitem");
  await expect(way).toHaveText([
    /^MIDI in 1/,
    "Drum machine output 4",
    "Drum machine 4 records output 4 here",
    /^Main/,
    /^Outputs 1–2/,
  ]);
  const made = await doc(page, id);
  const moved = Object.values(made.sends).find(({ fromId }) => fromId === named(made, "Cimbalom").id);
  expect(moved).toMatchObject({ levelDb: -12, tap: "before", toId: named(made, "Plate").id });
});

test("Harp & Lullaby from empty by keyboard, in no more than sixty acts", async ({ page }) => {
  const id = await makeTemplate(page, { rigId: "whole-mill" });
  await openInputs(page, id);
  const grid = page.getByRole("grid", { name: "Input list" });
  const row = (name: string): Locator =>
    grid
      .getByRole("row")
      .filter({ has: page.getByText(name, { exact: true }) })
      .first();
  const add = async (phrase: string): Promise<void> => {
    await page.keyboard.press("Alt+a");
    await expect(page.locator("#add-tracks-field")).toBeFocused();
    await page.keyboard.type(phrase);
    await page.keyboard.press("Enter");
    await saved(page);
    await page.keyboard.press("Escape");
  };
  /** Types over the name of the row that has the cursor. */
  const call = async (was: string, name: string): Promise<void> => {
    await expect
      .poll(() =>
        page.evaluate(
          () =>
            document.getElementById(document.activeElement?.getAttribute("aria-activedescendant") ?? "")?.textContent,
        ),
      )
      .toBe(was);
    await page.keyboard.press("F2");
    await page.keyboard.press("Control+a");
    await page.keyboard.type(name);
    await page.keyboard.press("Enter");
    await expect(row(name)).toBeVisible();
    await saved(page);
  };
  await add("1 stereo from 1");
  await grid.focus();
  await page.keyboard.press("Control+Home");
  for (let n = 0; n < 2; n++) await page.keyboard.press("ArrowRight");
  await call("Input 1–2", "Backing");
  await add("1 mono from 13");
  await grid.focus();
  await page.keyboard.press("Control+Home");
  for (let n = 0; n < 2; n++) await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowDown");
  await call("Input 13", "Voice 1");
  // One, two, four, eight, and six of them once more: fourteen parts on one microphone.
  for (const [from, count] of [
    [1, 1],
    [1, 2],
    [1, 4],
    [1, 6],
  ] as const) {
    await page.keyboard.press("Control+Home");
    for (let n = 0; n < from; n++) await page.keyboard.press("ArrowDown");
    for (let n = 1; n < count; n++) await page.keyboard.press("Shift+ArrowDown");
    await page.keyboard.press("Alt+c");
    const dialog = page.getByRole("dialog");
    await expect(dialog).toBeVisible();
    await dialog.getByRole("radio").first().focus();
    await dialog.getByRole("radio", { name: /by turns/ }).press("Space");
    await dialog.getByRole("button", { name: "Duplicate" }).press("Enter");
    await expect(dialog).toHaveCount(0);
    await saved(page);
    await grid.focus();
  }
  const laid = await doc(page, id);
  const voices = Object.values(laid.channels).filter(
    (channel) => channel.kind === "track" && channel.name !== "Backing",
  );
  expect([
    voices.length,
    Object.keys(laid.lines).length,
    voices.every((track) => track.kind === "track" && track.sharing === "by-turns"),
  ]).toEqual([14, 3, true]);
  const inFolder = async (first: number, count: number, folder: string): Promise<void> => {
    await page.keyboard.press("Control+Home");
    for (let n = 0; n < first; n++) await page.keyboard.press("ArrowDown");
    for (let n = 1; n < count; n++) await page.keyboard.press("Shift+ArrowDown");
    await page.keyboard.press("Alt+g");
    await expect(dialogInput(page)).toBeFocused();
    await page.keyboard.type(folder);
    await page.keyboard.press("Enter");
    await expect(page.getByRole("dialog")).toHaveCount(0);
    await saved(page);
    await grid.focus();
  };
  // What is put in a folder goes below what lies in none, so the first of those left are always on top.
  await inFolder(0, 1, "Backing");
  await inFolder(0, 4, "Lead");
  await inFolder(0, 10, "Choir");
  await go(page, `/templates/${id}/flow`);
  const families = Object.values((await doc(page, id)).folders).map(({ name }) => name);
  expect(families.sort()).toEqual(["Backing", "Choir", "Lead"]);
  for (const name of ["Backing", "Voice 1", "Voice 14"]) {
    await select(page, `${name}, track`);
    await page.keyboard.press("Alt+g");
    await saved(page);
  }
  await select(page, "Backing, bus");
  await inspector(page).getByLabel("Trim in dB").fill("−6");
  await page.keyboard.press("Enter");
  await saved(page);
  for (const [bus, to] of [
    ["Lead, bus", "Plate"],
    ["Choir, bus", "Echo"],
  ] as const) {
    await select(page, bus);
    await page.keyboard.press("Alt+s");
    await expect(dialogInput(page)).toBeFocused();
    await page.keyboard.type(to);
    await page.keyboard.press("Enter");
    await expect(node(page, `${to}, return`)).toBeVisible();
    await saved(page);
  }
  const made = await doc(page, id);
  expect(
    ["Backing", "Lead", "Choir"].map((name) =>
      Object.values(made.channels).find((one) => one.kind === "bus" && one.name === name),
    ),
  ).toMatchObject([
    { trimDb: -6, output: { kind: "channel", channelId: "main" } },
    { output: { kind: "channel", channelId: "main" } },
    { output: { kind: "channel", channelId: "main" } },
  ]);
  expect(Object.values(made.channels).filter(({ kind }) => kind === "return")).toHaveLength(2);
  expect((await readTemplate(page, id)).revision - 1).toBeLessThanOrEqual(60);
});
