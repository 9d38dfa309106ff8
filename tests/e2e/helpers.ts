import { readFileSync } from "node:fs";
import AxeBuilder from "@axe-core/playwright";
import { expect, type Locator, type Page } from "@playwright/test";
import type { TemplateState } from "../../src/contracts/answers";
import type { Track } from "../../src/core/model/tables/channels";
import type { Template } from "../../src/core/model/template";

export { COLUMN } from "../../src/ui/testing/columns";

export const fixturePath = (name: string): string =>
  new URL(`../fixtures/input-lists/${name}`, import.meta.url).pathname;

/** Names that no other test has, since all share one library. */
let serial = 0;
export const uniqueName = (base: string): string => `${base} ${Date.now().toString(36)}${serial++}`;

export const makeTemplate = async (
  page: Page,
  fields: { readonly name?: string; readonly rigId?: string; readonly copyOf?: string } = {},
): Promise<string> => {
  const { name = uniqueName("Evening"), rigId = "wheelhouse-cart", copyOf } = fields;
  const answer = await page.request.post("/api/templates", {
    data: copyOf ? { copyOf, name } : { name, kind: "band", rigId },
  });
  return ((await answer.json()) as TemplateState).document.id;
};

export const importList = async (page: Page, file: string, rigId = "wheelhouse-cart"): Promise<string> => {
  const answer = await page.request.post("/api/templates/import", {
    multipart: {
      file: { name: file, mimeType: "text/csv", buffer: readFileSync(fixturePath(file)) },
      rigId,
      name: uniqueName(file),
    },
  });
  return (await answer.json()).template.id;
};

export const readTemplate = async (page: Page, id: string): Promise<TemplateState> =>
  (await page.request.get(`/api/templates/${id}`)).json();

export const tracksOf = (doc: Template): Track[] =>
  Object.values(doc.channels).filter((channel): channel is Track => channel.kind === "track");

/**
 * Waits until this is there. For what is waited for most often: an expectation writes the page down as a screen reader
 * has it each time that it does not hold yet, while the page is at work.
 */
const there = (locator: Locator, state: "attached" | "visible" = "visible"): Promise<void> =>
  locator.waitFor({ state, timeout: 15_000 });

/**
 * Waits until a page that was loaded answers keys: what is pressed before its scripts run is lost, and the browser
 * throws away what comes before it first draws.
 */
export const awake = async (page: Page): Promise<void> => {
  await there(page.locator("html[data-awake]"), "attached");
  await page.evaluate(
    () =>
      new Promise<void>((done) => {
        new PerformanceObserver(() => done()).observe({ type: "paint", buffered: true });
        // Nothing is drawn of a window that nobody sees.
        setTimeout(done, 2000);
      }),
  );
};

/** What Next gives to whoever debugs a page: here to go to another screen within the application, as its links do. */
declare global {
  interface Window {
    readonly next?: { readonly router?: { push(path: string): void } };
  }
}

/** True when this window shows a screen other than that one, and can go there from it. */
const canWalk = (page: Page, path: string): Promise<boolean> =>
  page.evaluate(
    (to) =>
      document.documentElement.dataset.awake !== undefined &&
      window.next?.router !== undefined &&
      new URL(to, location.href).pathname !== location.pathname,
    path,
  );

/**
 * Goes to a screen and waits until it answers keys. A window that shows another one goes there as people do, without
 * loading anew: what a screen leaves behind is met here and not only at somebody's desk. The first way of each window,
 * and every reload, loads.
 */
export const go = async (page: Page, path: string): Promise<void> => {
  if (await canWalk(page, path)) await page.evaluate((to) => window.next?.router?.push(to), path);
  else {
    await page.goto(path);
    await awake(page);
  }
  await there(page.locator(`html[data-awake="${path.replace(/[?#].*/, "")}"]:has(h1)`), "attached");
};

export const openInputs = (page: Page, id: string): Promise<void> => go(page, `/templates/${id}/inputs`);

export const grid = (page: Page): Locator => page.getByRole("grid", { name: "Input list" });
export const row = (page: Page, name: string): Locator =>
  grid(page)
    .getByRole("row")
    .filter({ has: page.getByText(name, { exact: true }) })
    .first();
export const cell = (page: Page, name: string, column: number): Locator =>
  row(page, name).locator(`[aria-colindex="${column}"]`);

export const saved = (page: Page): Promise<void> => there(page.getByText(/^Saved · revision \d+$/));

export const dropFile = async (page: Page, file: string, target = "body main"): Promise<void> => {
  const bytes = readFileSync(fixturePath(file)).toString("base64");
  const transfer = await page.evaluateHandle(
    ({ bytes: data, name }) => {
      const transfer = new DataTransfer();
      const binary = Uint8Array.from(atob(data), (character) => character.charCodeAt(0));
      transfer.items.add(new File([binary], name, { type: "text/csv" }));
      return transfer;
    },
    { bytes, name: file },
  );
  for (const type of ["dragenter", "dragover", "drop"])
    await page.dispatchEvent(target, type, { dataTransfer: transfer });
};

/**
 * On night only the colours are others than on cloth, and all pairs of them are tried without a browser
 * (src/ui/theme/tokens.test.ts). There are no frames in our pages: without the way through a second page, an analysis
 * takes a fifth of the time. What opened over a page that was looked at already is looked at by itself.
 */
export const noViolations = async (page: Page, where: string, within?: string): Promise<void> => {
  const night = await page.evaluate(() => document.documentElement.dataset.mantineColorScheme === "dark");
  const whole = new AxeBuilder({ page }).options({ resultTypes: ["violations"] }).setLegacyMode(true);
  const builder = within ? whole.include(within) : whole;
  const { violations } = await (night ? builder.withRules(["color-contrast"]) : builder).analyze();
  expect(
    violations.map((violation) => `${where}: ${violation.id} ${violation.nodes.map((node) => node.target).join(" ")}`),
  ).toEqual([]);
};

/** Axe has nothing to say of a page on cloth, nor of its colours on night. */
export const cleanOnBoth = async (page: Page, where: string): Promise<void> => {
  for (const colorScheme of ["light", "dark"] as const) {
    await page.emulateMedia({ colorScheme });
    await expect(page.locator("html")).toHaveAttribute("data-mantine-color-scheme", colorScheme);
    await noViolations(page, `${where}, ${colorScheme}`);
  }
};

/** Pastes a text as the browser would hand it over. */
export const paste = (page: Page, text: string): Promise<void> =>
  page.evaluate((plain) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData("text/plain", plain);
    (document.activeElement ?? document.body).dispatchEvent(
      new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }),
    );
  }, text);

/** What a copy would put on the clipboard. */
export const copied = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const clipboardData = new DataTransfer();
    (document.activeElement ?? document.body).dispatchEvent(
      new ClipboardEvent("copy", { clipboardData, bubbles: true, cancelable: true }),
    );
    return clipboardData.getData("text/plain");
  });
