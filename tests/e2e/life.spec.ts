import { expect, type Page } from "@playwright/test";
import type { Life, SessionList } from "../../src/contracts/answers";
import { GESTURE_VERSION } from "../../src/core/commands/gesture-version";
import {
  awake,
  cleanOnBoth,
  go,
  makeTemplate,
  openInputs,
  readTemplate,
  row,
  saved,
  tracksOf,
  uniqueName,
} from "./helpers";
import { test } from "./warm";

const NINE = "tidewrack-nine";

const lifeOf = async (page: Page, id: string): Promise<Life> =>
  (await page.request.get(`/api/templates/${id}/life`)).json();

/** A copy of the Nine of its own, so that no other test sees what is done to it. */
const aNine = (page: Page): Promise<string> => makeTemplate(page, { copyOf: NINE, name: uniqueName("Nine") });

const press = async (page: Page, ...keys: readonly string[]): Promise<void> => {
  for (const key of keys) await page.keyboard.press(key);
};

/** Renames a track in the grid, by keyboard. */
const rename = async (page: Page, from: string, to: string): Promise<void> => {
  await row(page, from).getByText(from, { exact: true }).click();
  await press(page, "F2");
  await page.keyboard.press("Control+a");
  await page.keyboard.type(to);
  await press(page, "Enter");
  await expect(row(page, to)).toBeVisible();
};

test("a version is kept under a name, read as it was where nothing can be changed, and brought back; one undo takes that back", async ({
  page,
}) => {
  const id = await aNine(page);
  await go(page, `/templates/${id}/life`);
  await page.getByRole("button", { name: "Keep this version…" }).click();
  await press(page, "Enter");
  await expect(page.getByText("A version needs a name")).toBeVisible();
  await page.keyboard.type("Before the tour");
  await press(page, "Enter");
  await expect(page.getByRole("button", { name: /^Before the tour, revision 1/ })).toBeVisible();
  await openInputs(page, id);
  await rename(page, "Fiddle", "Violin");
  await saved(page);

  await go(page, `/templates/${id}/life`);
  await page.getByRole("button", { name: /^Before the tour/ }).click();
  await page.getByRole("menuitem", { name: "Open for reading" }).click();
  await expect(page.getByText("Only read: nothing can be changed here")).toBeVisible();
  await expect(row(page, "Fiddle")).toBeVisible();
  await expect(page.getByRole("button", { name: "Add tracks" })).toHaveCount(0);
  await row(page, "Fiddle").getByText("Fiddle", { exact: true }).click();
  await press(page, "F2");
  await expect(page.getByText("This is an older state, and only read.").first()).toBeVisible();
  await expect(row(page, "Fiddle")).toBeVisible();
  for (const [link, heading] of [
    ["Signal flow", "Signal flow"],
    ["Cues", "Cues"],
  ] as const) {
    await page
      .getByRole("navigation", { name: "Stages" })
      .getByRole("link", { name: new RegExp(`^${link}`) })
      .click();
    await expect(page).toHaveURL(/\/revisions\//);
    await expect(page.locator("h1").first()).toContainText(heading);
  }

  await go(page, `/templates/${id}/life`);
  await page.getByRole("button", { name: /^Before the tour/ }).click();
  await page.getByRole("menuitem", { name: "Bring it back" }).click();
  await expect
    .poll(async () => tracksOf((await readTemplate(page, id)).document).map(({ name }) => name))
    .toContain("Fiddle");
  await press(page, "Control+z");
  await expect
    .poll(async () => tracksOf((await readTemplate(page, id)).document).map(({ name }) => name))
    .toContain("Violin");
});

test("what was done is told with all gestures, found by words, and each state can be read", async ({ page }) => {
  const id = await aNine(page);
  await openInputs(page, id);
  await rename(page, "Fiddle", "Violin");
  await rename(page, "Snare", "Side drum");
  await saved(page);
  await go(page, `/templates/${id}/life`);
  const list = page.getByRole("list", { name: "What was done, newest first" });
  await expect(list.getByRole("listitem")).toHaveCount(3);
  await page.getByRole("textbox", { name: "Search what was done" }).fill("violin");
  await expect(list.getByRole("listitem")).toHaveCount(1);
  await list.getByRole("link").click();
  await expect(row(page, "Violin")).toBeVisible();
  await expect(row(page, "Snare")).toBeVisible();
});

test("a session is started by keyboard without two families; its template stays byte for byte what it was", async ({
  page,
}) => {
  const id = await aNine(page);
  const before = await (await page.request.get(`/api/templates/${id}`)).text();
  await openInputs(page, id);
  await press(page, "Alt+Shift+Enter");
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("button", { name: "Start session" })).toBeFocused();
  await press(page, "4", "5");
  await expect(dialog.getByRole("checkbox", { name: "Keys" })).toBeChecked();
  await expect(dialog.getByText(/Goes with it: 3 tracks, 3 lines, the bus Winds/)).toBeVisible();
  await press(page, "Enter");
  await expect(page).not.toHaveURL(new RegExp(id));
  await expect(page.getByText(/^session of /)).toBeVisible();
  await expect(row(page, "Fiddle")).toBeVisible();
  await expect(row(page, "Clarinet")).toHaveCount(0);
  const { sessions } = await lifeOf(page, id);
  expect(sessions).toHaveLength(1);
  const session = await readTemplate(page, sessions[0]?.id ?? "");
  expect(session.document.session.people).not.toContain("Odile Farr");
  expect(session.document.session.people).toContain("Wynn Solari");
  expect(await (await page.request.get(`/api/templates/${id}`)).text()).toBe(before);
  const listed = (await (await page.request.get("/api/sessions")).json()) as SessionList;
  expect(listed.sessions.some(({ id: its }) => its === sessions[0]?.id)).toBe(true);
});

test("from the library to a session that is ready to patch, two families dropped and one input moved: seven acts, by keyboard", async ({
  page,
}) => {
  const id = await aNine(page);
  const before = await (await page.request.get(`/api/templates/${id}`)).text();
  await go(page, "/");
  const { name } = (await readTemplate(page, id)).document;
  await expect(page.getByRole("link", { name, exact: true })).toBeVisible();
  let acts = 0;
  const act = async (does: () => Promise<void>): Promise<void> => {
    acts++;
    await does();
  };
  // The one that was used last is meant; other tests use theirs meanwhile, so that the keys are put on it first.
  await page.getByRole("link", { name, exact: true }).focus();
  await act(() => page.keyboard.press("Alt+Shift+Enter"));
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("button", { name: "Start session" })).toBeFocused();
  await act(() => page.keyboard.press("4"));
  await act(() => page.keyboard.press("5"));
  await act(() => page.keyboard.press("Enter"));
  await expect(row(page, "Fiddle")).toBeVisible();
  await act(() => page.keyboard.press("Control+k"));
  await act(() => page.keyboard.type("Fiddle E5"));
  await expect(page.getByText("Put Fiddle on input E5")).toBeVisible();
  await act(() => page.keyboard.press("Enter"));
  await expect(row(page, "Fiddle")).toContainText("E5");
  expect(acts).toBeLessThanOrEqual(8);
  await saved(page);
  expect(await (await page.request.get(`/api/templates/${id}`)).text()).toBe(before);
});

test("what a session changed is carried back line by line, and what it left is not; one undo takes it back", async ({
  page,
}) => {
  const id = await aNine(page);
  const place = uniqueName("Harbour");
  const made = await page.request.post("/api/sessions", {
    data: { templateId: id, name: "Harbour hall", date: "2026-11-08", place },
  });
  const session = ((await made.json()) as { document: { id: string } }).document.id;
  await openInputs(page, session);
  await rename(page, "Fiddle", "Violin");
  await rename(page, "Snare", "Side drum");
  await saved(page);
  await go(page, `/templates/${id}/life`);
  await page.getByRole("link", { name: "2 differences to carry back…" }).click();
  await expect(page.getByRole("checkbox", { name: /^Carry Violin: name “Fiddle” → “Violin”/ })).toBeChecked();
  await page.getByRole("checkbox", { name: /^Carry Side drum/ }).uncheck();
  await page.getByRole("button", { name: "Carry 1 onto this template" }).click();
  const names = async () => tracksOf((await readTemplate(page, id)).document).map(({ name }) => name);
  await expect.poll(names).toContain("Violin");
  expect(await names()).toContain("Snare");
  await press(page, "Control+z");
  await expect.poll(names).toContain("Fiddle");
  await go(page, "/");
  await page.getByRole("textbox", { name: "Search the library" }).fill(place);
  await expect(page.getByRole("list", { name: "Sessions" }).getByRole("listitem")).toHaveText([/Harbour hall/]);
});

test("what sessions taught is counted, and taken over as one gesture", async ({ page }) => {
  await go(page, `/templates/${NINE}/life`);
  const panel = page.getByRole("complementary", { name: "What sessions taught" });
  await expect(panel.getByRole("listitem")).toHaveCount(5);
  await expect(panel).toContainText("What 8 sessions taught");
  await expect(panel).toContainText("parked or not recorded in 7 of 8 sessions");
  // Taken over on a template of its own: others look at the Nine meanwhile.
  const id = await aNine(page);
  const { document } = await readTemplate(page, id);
  const shaker = tracksOf(document).find(({ name }) => name === "Shaker table")?.id ?? "";
  for (const day of ["01", "02", "03"]) {
    const made = await page.request.post("/api/sessions", {
      data: { templateId: id, name: `Evening ${day}`, date: `2026-11-${day}` },
    });
    const session = ((await made.json()) as { document: { id: string } }).document.id;
    const done = await page.request.post(`/api/templates/${session}/commands`, {
      data: {
        base: 1,
        batch: `evening-${day}`,
        made: GESTURE_VERSION,
        commands: [
          { kind: "set", table: "channels", values: { [shaker]: { parked: true, name: "Shaker" } } },
          { kind: "set", table: "document", values: { [session]: { session: { state: "done" } } } },
        ],
      },
    });
    expect(done.status()).toBe(200);
  }
  await go(page, `/templates/${id}/life`);
  await expect(panel).toContainText("parked or not recorded in 3 of 3 sessions");
  await page.getByRole("button", { name: "Take over all 2" }).click();
  const shakers = async () =>
    tracksOf((await readTemplate(page, id)).document).find((track) => track.id === shaker)?.name;
  await expect.poll(shakers).toBe("Shaker");
  await expect(panel.getByRole("listitem")).toHaveCount(0);
  await press(page, "Control+z");
  await expect.poll(shakers).toBe("Shaker table");
});

test("what needs another is chosen with it and told; a template that does not come from this one is matched by meaning", async ({
  page,
}) => {
  await go(page, `/templates/${NINE}/compare?left=3`);
  await page.getByRole("checkbox", { name: /^Leave Bass: new/ }).check();
  await expect(page.getByText(/Chosen with it, as it needs them: .*Bass blend/)).toBeVisible();
  await expect(page.getByRole("checkbox", { name: /^Carry Bass blend: new/ })).toBeChecked();
  await page.getByRole("checkbox", { name: /^Carry Bass blend: new/ }).uncheck();
  await expect(page.getByRole("checkbox", { name: /^Leave Bass: new/ })).not.toBeChecked();
  await page.getByRole("textbox", { name: "Filter the differences" }).fill("percussion");
  await expect(page.getByRole("checkbox", { name: /Percussion: fader −2 → −3 dB/ })).toBeVisible();
  await expect(page.getByRole("checkbox", { name: /Bass/ })).toHaveCount(0);
  await go(page, `/templates/${NINE}/compare?right=pocket-sketch`);
  await expect(page.getByText(/do not come from one another/)).toBeVisible();
});

test("undo goes on after a reload, and on a screen that was come to anew", async ({ page }) => {
  const id = await aNine(page);
  await openInputs(page, id);
  await rename(page, "Fiddle", "Violin");
  await rename(page, "Snare", "Side drum");
  await saved(page);
  await page.reload();
  await awake(page);
  await expect(row(page, "Side drum")).toBeVisible();
  await press(page, "Control+z");
  await expect(row(page, "Snare")).toBeVisible();
  await page.goto(`/templates/${id}/cues`);
  await awake(page);
  await press(page, "Control+z");
  await openInputs(page, id);
  await expect(row(page, "Fiddle")).toBeVisible();
  await press(page, "Control+Shift+z");
  await expect(row(page, "Violin")).toBeVisible();
});

test("who works in this browser is told of what they did; what they deleted lies in the bin under their name, and comes back", async ({
  page,
}) => {
  const id = await aNine(page);
  await go(page, `/templates/${id}/life`);
  await page.getByRole("textbox", { name: "Your name in this browser" }).fill("Tom Hallgarth");
  await openInputs(page, id);
  await rename(page, "Fiddle", "Violin");
  await saved(page);
  await go(page, `/templates/${id}/life`);
  await expect(
    page.getByRole("list", { name: "What was done, newest first" }).getByRole("listitem").first(),
  ).toContainText("Tom Hallgarth");
  const name = (await readTemplate(page, id)).document.name;
  await go(page, "/");
  await page.getByRole("textbox", { name: "Search the library" }).fill(name);
  await page.getByRole("button", { name: `More for ${name}` }).click();
  await page.getByRole("menuitem", { name: "Delete" }).click();
  await page.getByRole("button", { name: "Look into the bin" }).click();
  const binned = page.getByRole("list", { name: "In the bin" }).getByRole("listitem").filter({ hasText: name });
  await expect(binned).toContainText("by Tom Hallgarth");
  await binned.getByRole("button", { name: `Bring ${name} back` }).click();
  await expect(page.getByRole("link", { name, exact: true })).toBeVisible();
});

test("axe has nothing to say of the life and the comparison, and no page is wider than a phone or than 640 px", async ({
  page,
}) => {
  test.slow();
  for (const path of [`/templates/${NINE}/life`, `/templates/${NINE}/compare?left=3`, `/revisions/${NINE}/3/inputs`]) {
    await go(page, path);
    await expect(page.getByText(/Being (?:compared|looked up|counted)…/)).toHaveCount(0);
    await cleanOnBoth(page, path);
  }
  for (const width of [390, 640])
    for (const path of [
      `/templates/${NINE}/life`,
      `/templates/${NINE}/compare?left=3`,
      `/revisions/${NINE}/3/inputs`,
    ]) {
      await page.setViewportSize({ width, height: 800 });
      await go(page, path);
      expect(
        await page.evaluate(() => document.documentElement.scrollWidth),
        `${path} at ${width}`,
      ).toBeLessThanOrEqual(width);
    }
});
