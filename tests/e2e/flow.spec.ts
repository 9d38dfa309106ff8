import { readFileSync } from "node:fs";
import { expect, type Locator, type Page } from "@playwright/test";
import { go, makeTemplate, readTemplate, saved } from "./helpers";
import { test } from "./warm";

const picture = (page: Page): Locator => page.getByRole("group", { name: /^Signal flow of / });
/** Something in the picture, by its name and what it is. */
const node = (page: Page, name: string): Locator => picture(page).getByRole("button", { name: new RegExp(`^${name}`) });
const inspector = (page: Page): Locator => page.getByRole("complementary", { name: "Inspector" });

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

test.describe("by keyboard only", () => {
  test("along a thread by arrows, with its way told in words; routed by typing a name, to a new bus by saying so, and taken back", async ({
    page,
  }) => {
    const id = await openCopy(page);
    await node(page, "Fiddle").focus();
    await page.keyboard.press("Enter");
    const way = inspector(page).getByRole("region", { name: "Down: where it goes" });
    await expect(way.getByRole("listitem")).toHaveText([
      "Input 9 Clip-on condenser 1, line ← Thistle 1, 48 V",
      "Fiddle records here",
      "Equaliser 2 bands",
      "Compressor 2 : 1, −16 dB",
      "Stair chamber by a send −15 dB, after the fader",
      "Strings sums 2",
      "Main trimmed by −12.5 dB, sums 8, reached after 190 samples, 4 ms; held back by 190 samples, 4 ms",
      "Outputs 1–2 out of the interface",
    ]);
    await page.keyboard.press("ArrowRight");
    await expect(node(page, "Strings, bus")).toBeFocused();
    await expect(inspector(page).getByRole("region", { name: "Up: what feeds it" }).getByRole("listitem")).toHaveText([
      /^Cimbalom/,
      /^Fiddle/,
    ]);
    await page.keyboard.press("ArrowRight");
    await expect(node(page, "Main, main bus")).toBeFocused();
    await node(page, "Fiddle").focus();
    await page.keyboard.press("Enter");
    await ask(page, "Alt+r", "Wood");
    await expect(page.getByRole("button", { name: "Make the bus “Wood” and route Fiddle" })).toBeVisible();
    await page.keyboard.press("Enter");
    await expect(node(page, "Wood, bus")).toBeVisible();
    await saved(page);
    expect([await outputOf(page, id, "Fiddle"), await outputOf(page, id, "Wood")]).toEqual(["Wood", "Strings"]);
    await page.keyboard.press("Control+z");
    await expect(node(page, "Wood, bus")).toHaveCount(0);
    await saved(page);
    expect(await outputOf(page, id, "Fiddle")).toBe("Strings");
  });

  test("a range is sent to a new return in one act, at a level, and the send is set in the inspector", async ({
    page,
  }) => {
    const id = await openCopy(page);
    await node(page, "Clarinet").focus();
    await page.keyboard.press("Enter");
    await page.keyboard.press("Shift+ArrowDown");
    await page.keyboard.press("Shift+ArrowDown");
    await expect(inspector(page).getByRole("heading", { level: 2 })).toHaveText("3 channels");
    await ask(page, "Alt+s", "Mill race");
    await page.keyboard.press("Tab");
    await page.keyboard.type("−20");
    await page.keyboard.press("Enter");
    await expect(node(page, "Mill race, return, 3 sends")).toBeVisible();
    await saved(page);
    const { document } = await readTemplate(page, id);
    const hall = Object.values(document.channels).find(({ name }) => name === "Mill race");
    expect(Object.values(document.sends).filter(({ toId }) => toId === hall?.id)).toMatchObject([
      { levelDb: -20, tap: "after", on: true },
      { levelDb: -20 },
      { levelDb: -20 },
    ]);
    // What they all go to is where the return goes as well.
    expect(await outputOf(page, id, "Mill race")).toBe("Winds");
    await node(page, "Trumpet").focus();
    await page.keyboard.press("Enter");
    const level = inspector(page).getByRole("region", { name: "Sends" }).getByRole("textbox", { name: "Level in dB" });
    await level.fill("-inf");
    await level.press("Enter");
    await expect(level).toHaveValue("−∞");
    await saved(page);
  });

  test("faders are typed and shifted, nonsense is told, and what is removed says first what goes with it", async ({
    page,
  }) => {
    const id = await openCopy(page);
    await node(page, "Percussion, bus").focus();
    await page.keyboard.press("Enter");
    const fader = inspector(page).getByRole("textbox", { name: "Fader in dB" });
    await fader.fill("loud");
    await fader.press("Enter");
    await expect(page.getByRole("alert").filter({ hasText: "“loud” is no number of dB" })).toBeVisible();
    await fader.fill("-4.5");
    await fader.press("Enter");
    await expect(node(page, "Percussion, bus, −4.5 dB")).toBeVisible();
    await node(page, "Percussion, bus").focus();
    await page.keyboard.press("Delete");
    await expect(page.getByRole("dialog")).toContainText("5 channels go where it went; Percussion no longer sums.");
    await page.getByRole("dialog").getByRole("button", { name: "Remove Percussion" }).click();
    await expect(node(page, "Percussion, bus")).toHaveCount(0);
    await saved(page);
    expect([await outputOf(page, id, "Snare"), await outputOf(page, id, "Percussion")]).toEqual(["Main", "not there"]);
  });

  test("a folder no longer sums, and sums again", async ({ page }) => {
    const id = await openCopy(page);
    await node(page, "Lead voice").focus();
    await page.keyboard.press("Enter");
    await ask(page, "Alt+u", "Main");
    await page.keyboard.press("Enter");
    await expect(node(page, "Voices, bus")).toHaveCount(0);
    await node(page, "Lead voice").focus();
    await page.keyboard.press("Alt+g");
    await expect(node(page, "Voices, bus")).toBeVisible();
    await saved(page);
    expect([await outputOf(page, id, "Second voice"), await outputOf(page, id, "Lead voice")]).toEqual([
      "Voices",
      "Voices",
    ]);
  });
});

test("a loop is refused with its whole way in words, typed and dragged, and nothing changes", async ({ page }) => {
  const id = await openCopy(page, "ferrymans-ghost");
  await node(page, "Speech, bus").click();
  await ask(page, "Alt+r", "Actors");
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
  await drag(page, node(page, "Accordion"), node(page, "Plate, return"));
  await expect(node(page, "Plate, return, 3 sends")).toBeVisible();
  await saved(page);
  expect(await outputOf(page, id, "Accordion")).toBe("Winds");
});

test("many tracks begin folded by family and fit; unfolding one leaves the others; the picture is saved as it is seen", async ({
  page,
}) => {
  await openCopy(page, "flood-cantata");
  await expect(picture(page).getByRole("button", { name: /family, folded/ })).toHaveCount(6);
  await node(page, "Tenors, family").click();
  await page.keyboard.press("Enter");
  await expect(picture(page).getByRole("button", { name: /^Tenor \d+, track/ })).toHaveCount(20);
  await expect(picture(page).getByRole("button", { name: /family, folded/ })).toHaveCount(5);
  await expect(node(page, "Winds, family")).toBeInViewport({ ratio: 0.99 });
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
  await page.getByText("Sent only").click();
  await lit("Stair chamber");
  await dimmed("Strings, bus");
});

test("a finding of the routing leads to the signal flow, and its fix clears it", async ({ page }) => {
  const id = await openCopy(page);
  await node(page, "Fiddle").click();
  await ask(page, "Alt+r", "Main");
  await page.keyboard.press("Enter");
  await saved(page);
  await go(page, `/templates/${id}/inputs`);
  await page.getByRole("button", { name: /problem/ }).click();
  await page.getByRole("button", { name: /Fiddle goes to Main past the bus Strings/ }).click();
  await expect(page).toHaveURL(/\/flow$/);
  await expect(inspector(page).or(page.getByRole("complementary", { name: "Findings" }))).toBeVisible();
  await page.getByRole("button", { name: "Route Fiddle to Strings" }).click();
  await saved(page);
  expect(await outputOf(page, id, "Fiddle")).toBe("Strings");
});

test("by keyboard: a template begun by its buses; a family dropped says what goes with it, and comes back by one undo", async ({
  page,
}) => {
  const id = await makeTemplate(page);
  await openFlow(page, id);
  await ask(page, "Alt+n", "Brass");
  await page.keyboard.press("Tab");
  await page.keyboard.type("3");
  await page.keyboard.press("Enter");
  await expect(picture(page).getByRole("button", { name: /^Brass \d, track/ })).toHaveCount(3);
  await node(page, "Brass 2").focus();
  await page.keyboard.press("Enter");
  await ask(page, "Alt+s", "Hall");
  await page.keyboard.press("Enter");
  await expect(node(page, "Hall, return")).toBeVisible();
  await saved(page);
  const before = (await readTemplate(page, id)).document;
  await node(page, "Brass 1").focus();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Alt+x");
  await expect(page.getByRole("dialog")).toContainText(
    "Goes with it: 3 tracks, the bus Brass, the return Hall, 1 send.",
  );
  await page.getByRole("button", { name: "Drop Brass" }).focus();
  await page.keyboard.press("Enter");
  await expect(picture(page).getByRole("button")).toHaveCount(2);
  await saved(page);
  await page.keyboard.press("Control+z");
  await expect(node(page, "Brass, bus")).toBeVisible();
  await saved(page);
  expect((await readTemplate(page, id)).document).toEqual(before);
});

test("Ctrl Z after each kind of editor in the inspector takes back what it did", async ({ page }) => {
  await openCopy(page);
  await node(page, "Plate, return").click();
  const field = (label: string) => inspector(page).getByLabel(label, { exact: true }).first();
  const typed = (label: string, text: string) => async () => {
    await field(label).fill(text);
    await field(label).press("Enter");
  };
  const chosen = (label: string, option: string) => async () => {
    await field(label).click();
    await page.getByRole("option", { name: option }).click();
  };
  const switched = (label: string) => () => inspector(page).getByRole("switch", { name: label }).click({ force: true });
  const undone = async (act: () => Promise<void>, name: string) => {
    await act();
    await expect(page.getByRole("button", { name: `Undo: ${name}` })).toBeVisible();
    await page.keyboard.press("Control+z");
    await expect(page.getByRole("button", { name: "Nothing to undo" })).toBeVisible();
  };
  await undone(typed("Name", "Big plate"), "Rename Plate to Big plate");
  await undone(typed("Fader in dB", "-3"), "Set the fader of Plate to −3 dB");
  await undone(typed("Balance", "L 20"), "Pan Plate 20 % left");
  await undone(typed("Output", "Voices"), "Route Plate to Voices");
  await undone(chosen("Layout", "mono"), "Make Plate mono");
  await undone(switched("Muted"), "Mute Plate");
  await undone(switched("Parked"), "Park Plate");
  await node(page, "Fiddle").click();
  await undone(chosen("Tapped", "before the fader"), "Send Fiddle to Stair chamber before the fader");
  await undone(switched("Send to Stair chamber"), "Send Fiddle to Stair chamber switched off");
  await undone(
    () => inspector(page).getByRole("button", { name: "Take off the send to Stair chamber" }).click(),
    "Take off the send of Fiddle to Stair chamber",
  );
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
    await page.keyboard.press("Alt+t");
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

test("a new bus typed as the output of a track is made once by Enter", async ({ page }) => {
  const id = await openCopy(page);
  await node(page, "Fiddle").click();
  const output = inspector(page).getByLabel("Output").first();
  await expect(output).toHaveValue("Strings");
  await output.fill("Odd bus");
  await output.press("Enter");
  await saved(page);
  const { document } = await readTemplate(page, id);
  expect(Object.values(document.channels).filter(({ name }) => name === "Odd bus")).toHaveLength(1);
});
