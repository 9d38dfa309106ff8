import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { ensureBuild } from "./lib/build.mjs";
import { chromiumPath, ensurePackages } from "./lib/packages.mjs";
import { dropTestDatabases, testDatabaseUrl } from "./lib/postgres.mjs";
import { isHealthy, serveArgs, serverEnv } from "./lib/server.mjs";
import { freePort, main, pause, ROOT, say } from "./lib/shell.mjs";

const SHOTS = [
  { name: "library", path: "/" },
  {
    name: "input-list",
    path: "/templates/tidewrack-nine/inputs",
    act: (page) => page.getByText("Lead voice", { exact: true }).click(),
  },
  {
    name: "rig-device",
    path: "/rigs/whole-mill?template=tidewrack-nine",
    act: (page) =>
      page
        .getByRole("navigation", { name: "Devices of the rig" })
        .getByRole("button", { name: /^Brindle 16/ })
        .click(),
  },
  { name: "studio", path: "/studio" },
  {
    name: "findings",
    path: "/templates/tidewrack-nine/inputs",
    act: (page) => page.getByRole("button", { name: "2 problems" }).click(),
  },
  {
    name: "reading-a-list",
    path: "/",
    act: async (page) => {
      const [chooser] = await Promise.all([
        page.waitForEvent("filechooser"),
        page.getByRole("button", { name: "From an input list" }).click(),
      ]);
      await chooser.setFiles(join(ROOT, "tests/fixtures/lists-by-hand/two-languages.csv"));
      await page.getByRole("button", { name: /^Make template of 9 tracks/ }).waitFor();
    },
  },
  {
    name: "adding-tracks",
    path: "/templates/tidewrack-nine/inputs",
    act: async (page) => {
      await page.keyboard.press("Alt+a");
      await page.getByRole("textbox", { name: "Tracks to add" }).waitFor();
      await page.keyboard.insertText("Gtr DI\nLead vox LDC, BV\nTpt ribbon");
      await page.getByText(/which ribbon/).waitFor();
    },
  },
  {
    name: "signal-flow",
    path: "/templates/tidewrack-nine/flow",
    act: (page) => page.getByRole("button", { name: "Lead voice, track" }).click(),
  },
  {
    name: "signal-flow-night",
    path: "/templates/ferrymans-ghost/flow",
    night: true,
    act: (page) => page.getByRole("button", { name: "Boy, track" }).click(),
  },
  {
    name: "signal-flow-128",
    path: "/templates/flood-cantata/flow",
    act: async (page) => {
      await page.getByRole("button", { name: /^Tenors, .*family/ }).click();
      await page.keyboard.press("Enter");
      await page.getByRole("button", { name: "Tenor 12, track" }).click();
    },
  },
  {
    name: "chain",
    path: "/templates/tidewrack-nine/flow/track-14",
    act: (page) => page.getByRole("button", { name: /^Equaliser/ }).click(),
  },
  {
    name: "cues",
    path: "/templates/tidewrack-nine/cues",
    act: (page) => page.getByRole("columnheader", { name: /^Juno,/ }).click(),
  },
  { name: "passes", path: "/templates/harp-and-lullaby/cues/passes", act: (page) => page.keyboard.press("n") },
  {
    name: "levels",
    path: "/templates/tidewrack-nine/cues/levels",
    act: (page) => page.getByRole("gridcell", { name: "Trumpet", exact: true }).click(),
  },
  {
    name: "delay",
    path: "/templates/tidewrack-nine/delay",
    act: async (page) => {
      await page.getByRole("option", { name: /^Ilse, Lead voice, direct/ }).click();
      await page.getByRole("radiogroup", { name: "How it is monitored" }).getByText("computer").click();
      await page.getByRole("radiogroup", { name: "Buffer" }).getByText("32").click();
    },
  },
  {
    name: "life",
    path: "/templates/tidewrack-nine/life",
    act: (page) => page.getByText("What 8 sessions taught").waitFor(),
  },
  {
    name: "compare",
    path: "/templates/tidewrack-nine/compare?right=nine-2026-11-08",
    act: (page) => page.getByRole("button", { name: /^Carry \d+ onto this template/ }).waitFor(),
  },
  { name: "hand-off", path: "/templates/tidewrack-nine/hand-off" },
];

/** Pictures of the main views for the README, from the demo data in a database of their own. */
main(async () => {
  await ensurePackages(["postgresql", "chromium-headless-shell"]);
  await ensureBuild();
  const { spawn } = await import("node:child_process");
  const { chromium } = await import("@playwright/test");
  const port = await freePort(0);
  const url = `http://127.0.0.1:${port}`;
  const server = spawn(process.execPath, serveArgs("start", port, "127.0.0.1"), {
    cwd: ROOT,
    stdio: "ignore",
    env: serverEnv(await testDatabaseUrl("shots"), { WANDEL_DEMO: "1" }),
  });
  try {
    while (!(await isHealthy(url))) await pause(100);
    mkdirSync(join(ROOT, "docs/screenshots"), { recursive: true });
    const browser = await chromium.launch({
      executablePath: chromiumPath(),
      args: ["--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage"],
    });
    for (const { name, path, night, act } of SHOTS) {
      const page = await browser.newPage({
        baseURL: url,
        viewport: { width: 1280, height: 800 },
        colorScheme: night ? "dark" : "light",
      });
      await page.goto(path);
      await page.waitForFunction(() => document.documentElement.dataset.awake !== undefined);
      await page.waitForTimeout(500);
      await act?.(page);
      await pause(400);
      await page.screenshot({ path: join(ROOT, "docs/screenshots", `${name}.png`) });
      await page.close();
      say(name);
    }
    await browser.close();
  } finally {
    server.kill("SIGTERM");
    await dropTestDatabases();
  }
});
