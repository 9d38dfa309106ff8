import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type BrowserContext, chromium, test as cold, type Page } from "@playwright/test";

/** Takes away what a test left in the profile: its windows and what they stored. What the browser compiled and fetched stays. */
const tidy = async (profile: BrowserContext, origin: string): Promise<void> => {
  const [first = await profile.newPage(), ...others] = profile.pages();
  for (const page of others) await page.close();
  await first.goto("about:blank");
  const devtools = await profile.newCDPSession(first);
  await devtools.send("Storage.clearDataForOrigin", { origin, storageTypes: "cookies,local_storage,indexeddb,cache_storage,service_workers" });
  await devtools.detach();
};

/**
 * Tests whose windows share one profile a worker. A fresh one knows none of the compiled scripts, and nearly half of each page's loading went by on compiling
 * the same ones again. Each test begins without windows and stored values of others.
 */
export const test = cold.extend<object, { readonly profile: BrowserContext }>({
  profile: [
    async ({ launchOptions }, use, { project }) => {
      const folder = mkdtempSync(join(tmpdir(), "wandel-profile-"));
      const { baseURL, viewport } = project.use;
      const profile = await chromium.launchPersistentContext(folder, { ...launchOptions, ...(baseURL ? { baseURL } : {}), viewport: viewport ?? null });
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
  page: async ({ context, viewport, colorScheme }, use) => {
    const page: Page = await context.newPage();
    if (viewport) await page.setViewportSize(viewport);
    // What moves is there at once: nothing is waited for until it stands still.
    await page.emulateMedia({ colorScheme: colorScheme ?? null, reducedMotion: "reduce" });
    await use(page);
  },
});
