import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type BrowserContext, chromium, test as cold, type Page } from "@playwright/test";

/** Answers with next to nothing, and from where the pages come: what a test stored is taken away while this is open. */
const NEUTRAL = "/api/health";

/** How wide columns and how high rows are: written down by every list, also as they are at first. */
const OF_LISTS = ["wandel:row-height", "wandel:columns"];

/**
 * A screen that nothing lies over, and of which the browser keeps nothing that others would meet: the next test goes on
 * from it as from any screen.
 */
const nothingLeft = (page: Page): Promise<boolean> =>
  page.evaluate((lists) => {
    for (const key of lists) localStorage.removeItem(key);
    return (
      document.documentElement.dataset.awake !== undefined &&
      localStorage.length + sessionStorage.length === 0 &&
      document.querySelector('[role="dialog"], [role="alert"], [role="menu"], [role="listbox"]') === null
    );
  }, OF_LISTS);

/**
 * Takes away what a test left: its other windows, what it listened to, what it put in the way of requests, and what the
 * pages stored. What the browser compiled and fetched stays, and so does the window that is looked through, with the
 * process behind it.
 */
const tidy = async (profile: BrowserContext, origin: string): Promise<void> => {
  const [first = await profile.newPage(), ...others] = profile.pages();
  for (const page of others) await page.close();
  for (const kind of ["console", "pageerror", "response", "request", "dialog", "download"] as const)
    await first.removeAllListeners(kind, { behavior: "ignoreErrors" });
  await first.unrouteAll({ behavior: "ignoreErrors" });
  await first.mouse.move(-1, -1);
  if (first.url().startsWith(origin) && (await nothingLeft(first))) return;
  await first.goto(`${origin}${NEUTRAL}`);
  await first.evaluate(() => sessionStorage.clear());
  const devtools = await profile.newCDPSession(first);
  await devtools.send("Storage.clearDataForOrigin", {
    origin,
    storageTypes: "cookies,local_storage,indexeddb,cache_storage,service_workers",
  });
  await devtools.detach();
};

/**
 * What stands in the windows of a test that failed, as a screen reader has it: the machine may be gone before anybody
 * can look at its pictures.
 */
const tellWindows = async (profile: BrowserContext): Promise<void> => {
  for (const page of profile.pages()) {
    const lines = (await page.locator("body").ariaSnapshot({ timeout: 5000 }).catch(String)).split("\n");
    const beyond = lines.length - TOLD_LINES;
    console.log(
      `\n— what stands at ${page.url()}\n${lines.slice(0, TOLD_LINES).join("\n")}${beyond > 0 ? `\n… and ${beyond} lines more` : ""}`,
    );
  }
};
const TOLD_LINES = 150;

/**
 * Tests whose windows share one profile a worker. A fresh one knows none of the compiled scripts, and nearly half of
 * each page's loading went by on compiling the same ones again. Each test begins without windows and stored values of
 * others.
 */
export const test = cold.extend<object, { readonly profile: BrowserContext }>({
  profile: [
    async ({ launchOptions }, use, { project }) => {
      const folder = mkdtempSync(join(tmpdir(), "wandel-profile-"));
      const { baseURL, viewport } = project.use;
      const profile = await chromium.launchPersistentContext(folder, {
        ...launchOptions,
        ...(baseURL ? { baseURL } : {}),
        viewport: viewport ?? null,
      });
      await use(profile);
      await profile.close();
      rmSync(folder, { recursive: true, force: true });
    },
    { scope: "worker" },
  ],
  context: async ({ profile, baseURL }, use) => {
    await tidy(profile, baseURL ?? "");
    await use(profile);
  },
  page: async ({ context, viewport, colorScheme }, use, info) => {
    const [page = await context.newPage()] = context.pages();
    if (viewport) await page.setViewportSize(viewport);
    // What moves is there at once: nothing is waited for until it stands still.
    await page.emulateMedia({ media: null, colorScheme: colorScheme ?? null, reducedMotion: "reduce" });
    await use(page);
    if (info.status !== info.expectedStatus) await tellWindows(context);
  },
});
