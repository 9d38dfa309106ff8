import { expect, type Page } from "@playwright/test";
import { COLUMN, cell, go, importList, makeTemplate, openInputs, readTemplate, saved, uniqueName } from "./helpers";
import { test } from "./warm";

const copyRig = async (page: Page, copyOf: string): Promise<string> =>
  (await (await page.request.post("/api/rigs", { data: { copyOf, name: uniqueName("Rig") } })).json()).document.id;
const openRig = (page: Page, id: string): Promise<void> => go(page, `/rigs/${id}`);
const device = (page: Page, name: string) =>
  page.getByRole("navigation", { name: "Devices of the rig" }).getByRole("button", { name: new RegExp(`^${name}`) });
const readRig = async (page: Page, id: string) => (await (await page.request.get(`/api/rigs/${id}`)).json()).document;

test("the Wheelhouse cart: a Brindle Eight added to a copy of the rig takes the four lines that did not fit, and nothing else changes", async ({
  page,
}) => {
  const rigId = await copyRig(page, "wheelhouse-cart");
  const id = await importList(page, "01-tidewrack-nine.csv", rigId);
  const before = (await readTemplate(page, id)).document;
  await openInputs(page, id);
  await expect(page.getByRole("button", { name: "4 problems" })).toBeVisible();
  await page.getByRole("navigation", { name: "Stages" }).getByRole("link", { name: "Rig" }).click();
  await expect(page.getByText(/A change to this rig reaches/)).toContainText("4 problems");
  await page.getByRole("button", { name: "Add a device" }).click();
  await page.keyboard.type("Brindle Eight");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await expect(device(page, "Brindle Eight")).toContainText("follows through Optical A");
  await saved(page);

  await openInputs(page, id);
  await page.getByRole("button", { name: /problems?$/ }).click();
  const panel = page.getByRole("complementary", { name: "Findings" });
  for (let left = 4; left > 0; left--) {
    await expect(page.getByRole("button", { name: left === 1 ? "1 problem" : `${left} problems` })).toBeVisible();
    await panel
      .getByRole("button", { name: /^Move .* to (Brindle Eight )?input|^Move .* to Brindle Eight/ })
      .first()
      .click();
  }
  await expect(panel).toContainText("Nothing to complain of");
  await saved(page);
  const after = (await readTemplate(page, id)).document;
  const moved = Object.values(after.lines).filter((line) => line.portId !== before.lines[line.id]?.portId);
  expect(moved.map((line) => String(line.portId).split(":")[0])).toEqual(["eight", "eight", "eight", "eight"]);
  const back = {
    ...after,
    lines: Object.fromEntries(
      Object.entries(after.lines).map(([key, line]) => [key, moved.includes(line) ? before.lines[line.id] : line]),
    ),
  };
  expect(back).toEqual(before);
});

test("ports are named in one run: Enter goes down, a pasted list goes down as well, and one undo takes it back", async ({
  page,
}) => {
  const id = await copyRig(page, "wheelhouse-cart");
  await openRig(page, id);
  await device(page, "Brindle 16").click();
  const name = (number: number) => page.getByRole("textbox", { name: `Name of input ${number}`, exact: true });
  await name(1).focus();
  await page.keyboard.type("Wall 1");
  await page.keyboard.press("Enter");
  await page.keyboard.type("Wall 2");
  await page.keyboard.press("Enter");
  await expect(name(2)).toHaveValue("Wall 2");
  await name(3).focus();
  await page.evaluate(() => {
    const clipboardData = new DataTransfer();
    clipboardData.setData("text/plain", "Floor 1\nFloor 2\nFloor 3\n");
    document.activeElement?.dispatchEvent(
      new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }),
    );
  });
  await expect(name(5)).toHaveValue("Floor 3");
  await page.getByRole("button", { name: "Undo: Name 3 ports" }).click();
  await expect(name(5)).toHaveValue("");
  await saved(page);
  expect((await readRig(page, id)).ports["brindle:in:2"].name).toBe("Wall 2");
});

test("what is edited of one chosen port goes to all that are chosen; nonsense is told and changes nothing", async ({
  page,
}) => {
  const id = await copyRig(page, "wheelhouse-cart");
  await openRig(page, id);
  await device(page, "Brindle 16").click();
  for (const number of [1, 2, 3])
    await page.getByRole("checkbox", { name: `Choose input ${number}`, exact: true }).check();
  await page.getByRole("textbox", { name: "Gain dB of input 2", exact: true }).fill("10 to 70");
  await page.keyboard.press("Tab");
  await expect(page.getByRole("textbox", { name: "Gain dB of input 3", exact: true })).toHaveValue("10 to 70");
  await page.getByRole("textbox", { name: "Gain dB of input 4", exact: true }).fill("loud");
  await page.keyboard.press("Tab");
  await expect(page.getByText("“loud” is no range of gain. Type it as 0 to 62.")).toBeVisible();
  await expect(page.getByRole("textbox", { name: "Gain dB of input 4", exact: true })).toHaveValue("0 to 62");
  await page.getByRole("textbox", { name: "Buffer sizes offered of Brindle 16" }).fill("48, 96 192");
  await page.keyboard.press("Tab");
  await saved(page);
  const rig = await readRig(page, id);
  expect([
    rig.ports["brindle:in:1"].gainDb,
    rig.ports["brindle:in:4"].gainDb,
    rig.timing.brindle.bufferSizesSamples,
  ]).toEqual([{ min: 10, max: 70 }, { min: 0, max: 62 }, [48, 96, 192]]);
});

test("two leaders, no leader and a follower without a link are told, each with what puts it right", async ({
  page,
}) => {
  const id = await copyRig(page, "whole-mill");
  await openRig(page, id);
  await device(page, "Brindle Eight").click();
  const clock = page.getByRole("combobox", { name: "Clock of Brindle Eight" });
  await clock.selectOption("leads");
  const findings = page.getByRole("list", { name: "Findings of the rig" });
  await expect(findings).toContainText("Brindle 16 and Brindle Eight both lead the clock.");
  await findings.getByRole("button", { name: "Let Brindle 16 lead alone" }).click();
  await expect(findings).toHaveCount(0);
  await clock.selectOption("follows, through nothing yet");
  await findings.getByRole("button", { name: "Follow through Optical A" }).click();
  await device(page, "Brindle 16").click();
  await page.getByRole("combobox", { name: "Clock of Brindle 16" }).selectOption({ label: "none: it is analogue" });
  await expect(findings).toContainText("No device leads the clock");
  await findings.getByRole("button", { name: "Let Brindle 16 lead" }).click();
  await expect(findings).toHaveCount(0);
});

test("a device is retired: what used it is told first, and it can be undone", async ({ page }) => {
  const id = await copyRig(page, "whole-mill");
  const name = uniqueName("On the copy");
  const templateId = await makeTemplate(page, { rigId: id, name });
  await openInputs(page, templateId);
  await page.keyboard.press("Alt+a");
  await page.keyboard.type("3 mono from 9");
  await page.keyboard.press("Control+Enter");
  await saved(page);
  await openRig(page, id);
  await device(page, "Thistle Four").click();
  await expect(page.getByRole("region", { name: "Templates that use it" })).toContainText(`${name} 3 lines`);
  await page.getByRole("button", { name: "Retire Thistle Four…" }).click();
  const dialog = page.getByRole("dialog", { name: "Retire Thistle Four" });
  await expect(dialog).toContainText(`${name}: 3 lines`);
  await expect(dialog).toContainText("4 wires are taken out.");
  await dialog.getByRole("button", { name: "Retire Thistle Four" }).click();
  await expect(device(page, "Thistle Four")).toHaveCount(0);
  await page.getByRole("button", { name: "Undo: Retire Thistle Four" }).click();
  await expect(device(page, "Thistle Four")).toBeVisible();
});

test("a rig is emptied to its bare devices, wired again, and given places to listen", async ({ page }) => {
  const id = await copyRig(page, "wheelhouse-cart");
  await openRig(page, id);
  await page.getByRole("button", { name: "Empty to bare devices…" }).click();
  await page.getByRole("button", { name: "Empty the rig" }).click();
  await expect(page.getByText("Nothing is wired yet.")).toBeVisible();
  await expect(page.getByText("The shelf is empty.")).toBeVisible();
  const form = page.getByRole("form", { name: "Wire a run" });
  const chosen = (name: string) =>
    form
      .getByRole("combobox", { name, exact: true })
      .evaluate((select: HTMLSelectElement) => select.selectedOptions[0]?.textContent);
  expect([await chosen("From"), await chosen("to")]).toEqual(["Thistle Four", "Brindle 16"]);
  await form.getByRole("combobox", { name: "From" }).selectOption("Thistle Four");
  await form.getByRole("combobox", { name: "input", exact: true }).selectOption("9");
  await form.getByRole("textbox", { name: "how many" }).fill("5");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Thistle Four has no output 5.")).toBeVisible();
  await form.getByRole("textbox", { name: "how many" }).fill("4");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("table", { name: "Wires" }).getByRole("row")).toHaveCount(5);
  await page.getByRole("button", { name: "Add a listening place" }).click();
  await page.getByRole("textbox", { name: "Outputs of Headphones 1" }).fill("3-4");
  await page.keyboard.press("Tab");
  await page.getByRole("button", { name: "Add to the shelf" }).click();
  await expect(page.getByRole("textbox", { name: "Microphone or box of Microphone 1" })).toBeVisible();
  await saved(page);
  const rig = await readRig(page, id);
  expect([
    Object.keys(rig.devices).length,
    Object.keys(rig.wires).length,
    Object.values(rig.feeds as Record<string, { portIds: string[] }>)[0]?.portIds,
  ]).toEqual([4, 4, ["brindle:out:3", "brindle:out:4"]]);
});

test("a device from scratch, a second interface that serves with the first, and the way out as JSON and back", async ({
  page,
}) => {
  const id = await copyRig(page, "duo");
  await openRig(page, id);
  await page.keyboard.press("Alt+a");
  await page.keyboard.type("scratch");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await page.getByRole("textbox", { name: "Name" }).fill("Second box");
  await page.keyboard.press("Enter");
  await expect(device(page, "Second box")).toBeVisible();
  await expect(page.getByRole("row", { name: /Choose input S1/ })).toContainText("3");
  await saved(page);
  const file = await page.request.get(`/api/rigs/${id}/export`);
  const name = uniqueName("Read again");
  const text = JSON.stringify({ ...(await file.json()), name });
  await go(page, "/");
  await page
    .locator('input[aria-label="Rig to import"]')
    .setInputFiles({ name: "rig.json", mimeType: "application/json", buffer: Buffer.from(text) });
  await expect(page.getByRole("heading", { level: 1, name: `Rig ${name}` })).toBeAttached();
  await go(page, "/");
  await page
    .locator('input[aria-label="Rig to import"]')
    .setInputFiles({ name: "rig.json", mimeType: "application/json", buffer: Buffer.from("{}") });
  await expect(page.getByText("This is not a Wandel rig")).toBeVisible();
});

test("a rig that templates stand on stays, and says which", async ({ page }) => {
  await go(page, "/");
  await page.getByRole("button", { name: "More for Duo" }).click();
  await page.getByRole("menuitem", { name: "Take out of the studio" }).click();
  await expect(page.getByText(/Pocket sketch.* stands? on this rig/)).toBeVisible();
});

test("a change of the rig in one window shows in a template open in another", async ({ page, context }) => {
  const rigId = await copyRig(page, "wheelhouse-cart");
  const id = await makeTemplate(page, { rigId });
  await openInputs(page, id);
  const other = await context.newPage();
  await openRig(other, rigId);
  await device(other, "Brindle 16").click();
  await other.getByRole("textbox", { name: "Name of input 1", exact: true }).fill("Wall box");
  await other.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: /^Input 1, 1 Wall box/ })).toBeVisible({ timeout: 3000 });
  await page.keyboard.press("Alt+a");
  await page.keyboard.type("1 mono from 1");
  await page.keyboard.press("Control+Enter");
  await expect(cell(page, "Input 1", COLUMN.input)).toHaveText("1");
});

test("by keyboard only: a device added, its ports named, moved in the rack and retired", async ({ page }) => {
  const id = await copyRig(page, "wheelhouse-cart");
  await openRig(page, id);
  await page.keyboard.press("Alt+a");
  await expect(
    page.getByRole("dialog", { name: "Add a device" }).getByRole("combobox", { name: "Device" }),
  ).toBeFocused();
  // A wrong word does nothing but say so; a part of a name is enough.
  await page.keyboard.type("xyzzy");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog")).toContainText("No match for “xyzzy”");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("eight");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await expect(device(page, "Brindle Eight")).toHaveAttribute("aria-current", "true");
  await page.getByRole("textbox", { name: "Name of input E1", exact: true }).focus();
  for (const name of ["Gallery 1", "Gallery 2"]) {
    await page.keyboard.type(name);
    await page.keyboard.press("Enter");
  }
  await page.getByRole("button", { name: "Move up" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Undo: Move up: Brindle Eight" })).toBeVisible();
  await page.getByRole("button", { name: "Add an input" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText("has 9 inputs, and Optical A carries 8").first()).toBeVisible();
  await page.keyboard.press("Control+z");
  await page.getByRole("button", { name: "Retire Brindle Eight…" }).focus();
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Retire Brindle Eight", exact: true }).focus();
  await page.keyboard.press("Enter");
  await expect(device(page, "Brindle Eight")).toHaveCount(0);
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("navigation", { name: "Devices of the rig" })).toContainText("Brindle Eight");
  await saved(page);
  expect((await readRig(page, id)).ports["eight:in:2"].name).toBe("Gallery 2");
});

for (const path of ["/rigs/whole-mill", "/studio"])
  test(`at 1024 wide nothing runs out of ${path}`, async ({ page }) => {
    await page.setViewportSize({ width: 1024, height: 700 });
    await go(page, path);
    expect(
      await page.evaluate(
        () =>
          document.documentElement.scrollWidth <= window.innerWidth &&
          document.documentElement.scrollHeight <= window.innerHeight,
      ),
    ).toBe(true);
  });
