import { chromium } from "@playwright/test";
import { chromiumPath, ensurePackages } from "../lib/packages.mjs";
import { say } from "../lib/shell.mjs";
import { quantile } from "./own-service.mjs";
import { happened, send } from "./sending.mjs";
import { shapesAtLimits } from "./shapes.mjs";

const KEYS = 40;

/** From a key to the frame in which it is painted, so many times one after the other. */
const painted = async (page, key) => {
  const all = [];
  for (let n = 0; n < KEYS; n++) {
    await page.evaluate(() => {
      globalThis.painted = new Promise((resolve) => {
        addEventListener(
          "keydown",
          () => {
            const began = performance.now();
            requestAnimationFrame(() => {
              const after = new MessageChannel();
              after.port1.onmessage = () => resolve(performance.now() - began);
              after.port2.postMessage(0);
            });
          },
          { once: true, capture: true },
        );
      });
    });
    await page.keyboard.press(key);
    all.push(await page.evaluate(() => globalThis.painted));
    await page.waitForTimeout(60);
  }
  return all;
};

const told = (all) => `median ${quantile(all, 0.5).toFixed(0)} ms, p95 ${quantile(all, 0.95).toFixed(0)} ms`;

/** Opens every folder that is folded in the picture. */
const unfold = async (page) => {
  await page.getByRole("button", { name: "Unfold all" }).click();
  await page.waitForTimeout(2000);
};

/** Scripts and styles that a screen sends at its first look, in kB as they are packed. */
const sentBy = async (browser, url) => {
  const context = await browser.newContext();
  const page = await context.newPage();
  const session = await context.newCDPSession(page);
  await session.send("Network.enable");
  const types = new Map();
  const sent = { script: 0, style: 0 };
  session.on("Network.responseReceived", ({ requestId, response }) => types.set(requestId, response.mimeType));
  session.on("Network.loadingFinished", ({ requestId, encodedDataLength }) => {
    const type = types.get(requestId) ?? "";
    if (type.includes("javascript")) sent.script += encodedDataLength / 1000;
    if (type.includes("css")) sent.style += encodedDataLength / 1000;
  });
  await page.goto(url);
  await page.waitForTimeout(2500);
  await context.close();
  return sent;
};

/**
 * How fast the screens of a large evening answer to keys, the input list beside the signal flow and the cues in one
 * run; and what each screen sends.
 */
export const screens = async (service) => {
  await ensurePackages(["chromium-headless-shell"]);
  const [{ name, text }] = (await shapesAtLimits({ small: process.argv.includes("small") })).filter(
    (shape) => shape.name === "a large evening",
  );
  const { status, body } = await send(service, { name: `${name}.json`, text }, false);
  if (!happened("screens: the import", status, [200, 201])) return false;
  const count = Object.values(JSON.parse(text).channels).filter(({ kind }) => kind === "track").length;
  const at = (screen) => `${service.url}/templates/${body.template.id}/${screen}`;
  const browser = await chromium.launch({
    executablePath: chromiumPath(),
    args: ["--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage"],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const open = async (screen) => {
      await page.goto(at(screen));
      await page.waitForTimeout(4000);
    };
    await open("inputs");
    await page.getByRole("gridcell").nth(4).click();
    say(`screens: an arrow key in the input list: ${told(await painted(page, "ArrowDown"))}`);
    await open("flow");
    await unfold(page);
    await page.locator("g[id^=flow-track]").first().focus();
    await page.keyboard.press(" ");
    await page.waitForTimeout(2000);
    say(
      `screens: an arrow key in the signal flow, ${count} tracks unfolded: ${told(await painted(page, "ArrowDown"))}`,
    );
    await open("cues");
    await page.getByRole("gridcell").nth(2).click();
    say(`screens: an arrow key in the cues: ${told(await painted(page, "ArrowDown"))}`);
    for (const screen of ["inputs", "flow", "cues", "delay", "hand-off"]) {
      const { script, style } = await sentBy(browser, at(screen));
      say(`screens: ${screen} sends ${script.toFixed(0)} kB of script and ${style.toFixed(0)} kB of style, packed`);
    }
  } finally {
    await browser.close();
  }
  await service.call("DELETE", `/api/templates/${body.template.id}`);
  return true;
};
