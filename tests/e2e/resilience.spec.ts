import { connect, createServer, type Server, type Socket } from "node:net";
import { expect, type Page } from "@playwright/test";
import { COLUMN, cell, grid, makeTemplate, openInputs, readTemplate, row, saved, tracksOf } from "./helpers";
import { freePort, startServer } from "./own-server";
import { test } from "./warm";

const rename = async (page: Page, from: string, to: string): Promise<void> => {
  await cell(page, from, COLUMN.name).click();
  await page.keyboard.type(to);
  await page.keyboard.press("Enter");
  await expect(row(page, to)).toBeVisible();
};

test("two windows on one template, both editing: nothing is lost", async ({ page, context }) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  const other = await context.newPage();
  await Promise.all([openInputs(page, id), openInputs(other, id)]);
  for (let n = 0; n < 4; n++) {
    await rename(page, n ? `Snare ${n - 1}` : "Snare", `Snare ${n}`);
    await rename(other, n ? `Fiddle ${n - 1}` : "Fiddle", `Fiddle ${n}`);
  }
  await Promise.all([saved(page), saved(other)]);
  const { document, revision } = await readTemplate(page, id);
  expect(revision).toBe(9);
  expect(tracksOf(document).map((track) => track.name)).toEqual(expect.arrayContaining(["Snare 3", "Fiddle 3"]));
  await rename(page, "Bass drum", "Kick-drum");
  await expect(row(page, "Fiddle 3")).toBeVisible();
});

test("an edit of a track that another window removed is told with its reason", async ({ page, context }) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  const other = await context.newPage();
  await Promise.all([openInputs(page, id), openInputs(other, id)]);
  // The other window is cut off for a while, so that it does not hear of the removal.
  await other.route("**/api/**", (route) => route.abort());
  await cell(other, "Snare", COLUMN.name).click();
  await other.keyboard.type("Side drum");
  await other.keyboard.press("Enter");
  await expect(other.getByText("Not saved: 1 edit kept in this window")).toBeVisible();
  await cell(page, "Snare", COLUMN.name).click();
  await page.keyboard.press("Delete");
  await saved(page);
  await other.unroute("**/api/**");
  await expect(other.getByRole("alert").filter({ hasText: "could not be kept" })).toContainText(
    "Rename Snare to Side drum: The track this was meant for is no longer there",
  );
  await other.getByRole("button", { name: "Dismiss this notice" }).click();
  await expect(row(other, "Side drum")).toHaveCount(0);
});

test("a server killed while one edits: what was shown as saved is there, the rest is kept in the window and saved when it is back", async ({
  browser,
}) => {
  const port = await freePort();
  let server = await startServer(port);
  const context = await browser.newContext({ baseURL: `http://127.0.0.1:${port}` });
  const page = await context.newPage();
  try {
    const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
    await openInputs(page, id);
    await rename(page, "Snare", "Side drum");
    await saved(page);
    server.kill("SIGKILL");
    await rename(page, "Fiddle", "Viola");
    await cell(page, "Viola", COLUMN.name).click();
    await page.keyboard.press("Delete");
    await page.keyboard.press("Control+z");
    await expect(page.getByText("Not saved: 3 edits kept in this window")).toBeVisible();
    await expect(row(page, "Viola")).toBeVisible();

    server = await startServer(port);
    expect(tracksOf((await readTemplate(page, id)).document).map((track) => track.name)).toContain("Side drum");
    await saved(page);
    const { document } = await readTemplate(page, id);
    expect(tracksOf(document).map((track) => track.name)).toEqual(expect.arrayContaining(["Side drum", "Viola"]));
    await page.reload();
    await expect(row(page, "Viola")).toBeVisible();
    await expect(grid(page).getByRole("row").first()).toBeVisible();
  } finally {
    server.kill("SIGKILL");
    await context.close();
  }
});

test("what another window does appears here within a second, under its name", async ({ page, context }) => {
  const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
  const other = await context.newPage();
  await Promise.all([openInputs(page, id), openInputs(other, id)]);
  await rename(other, "Snare", "Side drum");
  await saved(other);
  const started = Date.now();
  await expect(row(page, "Side drum")).toBeVisible({ timeout: 5000 });
  expect(Date.now() - started).toBeLessThan(1000);
  await page.getByRole("button", { name: "What was done" }).click();
  await expect(page.getByRole("list", { name: "Edits, newest first" })).toContainText(
    "Rename Snare to Side drumanother window",
  );
});

/** A way to the database that can be cut, as when it is stopped. */
class CuttableWay {
  private server: Server | null = null;
  private readonly sockets = new Set<Socket>();

  constructor(
    private readonly target: URL,
    readonly port: number,
  ) {}

  open(): Promise<void> {
    const server = createServer((inward) => {
      const outward = connect(Number(this.target.port), this.target.hostname);
      for (const socket of [inward, outward]) {
        this.sockets.add(socket);
        socket.on("error", () => {});
        socket.on("close", () => {
          this.sockets.delete(socket);
          inward.destroy();
          outward.destroy();
        });
      }
      inward.pipe(outward);
      outward.pipe(inward);
    });
    this.server = server;
    return new Promise((resolve) => server.listen(this.port, "127.0.0.1", resolve));
  }

  cut(): Promise<void> {
    const { server } = this;
    return new Promise((resolve) => {
      if (!server) return resolve();
      server.close(() => resolve());
      for (const socket of this.sockets) socket.destroy();
    });
  }
}

test("a database stopped while one types in two windows, one of them reloaded meanwhile: both end with the same document, and nothing is lost", async ({
  browser,
}) => {
  const target = new URL(process.env.WANDEL_E2E_SPARE_DATABASE_URL ?? "");
  const way = new CuttableWay(target, await freePort());
  await way.open();
  const through = new URL(target);
  through.port = String(way.port);
  const port = await freePort();
  const server = await startServer(port, through.toString());
  const context = await browser.newContext({ baseURL: `http://127.0.0.1:${port}` });
  const [page, other] = [await context.newPage(), await context.newPage()];
  try {
    const id = await makeTemplate(page, { copyOf: "tidewrack-nine" });
    await Promise.all([openInputs(page, id), openInputs(other, id)]);
    await rename(page, "Snare", "Side drum");
    await saved(page);
    await way.cut();
    await expect(page.getByText("Server away: edits are kept in this window")).toBeVisible();
    await rename(page, "Fiddle", "Viola");
    await rename(other, "Trumpet", "Cornet");
    await rename(other, "Clarinet", "Oboe");
    await expect(page.getByText("Not saved: 1 edit kept in this window")).toBeVisible();
    await expect(other.getByText("Not saved: 2 edits kept in this window")).toBeVisible();
    await page.reload();
    await expect(page.getByText("The server or its database did not answer.")).toBeVisible();
    await expect(page.getByText(/edits? of this browser (is|are) kept here/)).toBeVisible();

    await way.open();
    await expect(row(page, "Cornet")).toBeVisible({ timeout: 30_000 });
    for (const window of [page, other]) {
      for (const name of ["Side drum", "Viola", "Cornet", "Oboe"]) await expect(row(window, name)).toBeVisible();
      await saved(window);
    }
    const { document, revision } = await readTemplate(page, id);
    expect(tracksOf(document).map((track) => track.name)).toEqual(
      expect.arrayContaining(["Side drum", "Viola", "Cornet", "Oboe"]),
    );
    expect(revision).toBe(5);
  } finally {
    server.kill("SIGKILL");
    await context.close();
    await way.cut();
  }
});

test("a server started while its database is away answers 503 and is there by itself when the database is", async () => {
  const target = new URL(process.env.WANDEL_E2E_SPARE_DATABASE_URL ?? "");
  const way = new CuttableWay(target, await freePort());
  const through = new URL(target);
  through.port = String(way.port);
  const port = await freePort();
  const server = await startServer(port, through.toString(), 503);
  try {
    const away = await fetch(`http://127.0.0.1:${port}/api/templates`);
    expect([away.status, (await away.json()).title]).toEqual([503, "The database can't do it now"]);
    await way.open();
    await expect
      .poll(async () => (await fetch(`http://127.0.0.1:${port}/api/templates`)).status, { timeout: 20_000 })
      .toBe(200);
  } finally {
    server.kill("SIGKILL");
    await way.cut();
  }
});
