import { expect, type Page } from "@playwright/test";
import { DEMO_RIGS } from "../../src/core/demo/rigs";
import { writeDocument } from "../../src/core/formats/document-json";
import type { ChannelId, CueId, CueLevelId } from "../../src/core/model/ids";
import type { Rig } from "../../src/core/model/rig";
import { newCueLevel } from "../../src/core/model/tables/cue-levels";
import type { Template } from "../../src/core/model/template";
import { workedMix } from "../../src/core/testing/worked";
import { dB } from "../../src/core/units/decibels";
import { go, uniqueName } from "./helpers";
import { test } from "./warm";

const samples = (figure: number) => ({ single: figure, double: figure, quadruple: figure });

/** The interface of the calculations: ADC 0.35, DAC 0.45 ms, margins 24 and 24, one buffer each way. */
const workedRig = (): Rig => {
  const cart = DEMO_RIGS.find((rig) => rig.id === "wheelhouse-cart");
  if (!cart) throw new Error("expected the cart");
  const timing = Object.fromEntries(
    Object.entries(cart.timing).map(([device, one]) => [
      device,
      {
        ...one,
        adc: { unit: "ms", ...samples(0.35) },
        dac: { unit: "ms", ...samples(0.45) },
        marginInSamples: samples(24),
        marginOutSamples: samples(24),
      },
    ]),
  );
  return { ...cart, name: uniqueName("Worked"), timing } as Rig;
};

/** The worked template, with a cue in which Lead hears herself before the fader. */
const workedTemplate = (): Template =>
  workedMix({
    kind: "entries.add",
    entries: {
      cues: [
        {
          id: "ilse" as CueId,
          name: "Ilse",
          people: ["Ilse Varga"],
          portIds: ["brindle:out:3", "brindle:out:4"] as never,
        },
      ],
      cueLevels: [
        newCueLevel({
          id: "own" as CueLevelId,
          cueId: "ilse" as CueId,
          sourceId: "track-1" as ChannelId,
          levelDb: dB(0),
        }),
      ],
    },
  });

const send = async (
  page: Page,
  path: string,
  name: string,
  doc: Rig | Template,
  more: Readonly<Record<string, string>> = {},
) => {
  const answer = await page.request.post(path, {
    multipart: {
      file: { name: `${name}.json`, mimeType: "application/json", buffer: Buffer.from(writeDocument(doc)) },
      ...more,
    },
  });
  expect(answer.status(), await answer.text()).toBe(201);
  return answer.json();
};

const opened = async (page: Page, id: string, view: string): Promise<void> => {
  await go(page, `/templates/${id}/${view}`);
};

test("the figures that are worked through in the calculations stand on the screens", async ({ page }) => {
  const rig = await send(page, "/api/rigs/import", "worked-rig", workedRig());
  const { template } = await send(page, "/api/templates/import", "worked", workedTemplate(), {
    rigId: rig.document.id,
    name: uniqueName("Worked"),
  });

  await opened(page, template.id, "delay");
  await page.getByRole("option", { name: /^Ilse, Lead, computer, dry/ }).click();
  const parts = page.getByRole("region", { name: "How late each hears their own sound" }).getByRole("status");
  await expect(parts).toContainText("5.4667 ms in all, 1.875 m in air");
  const whatIf = page.getByRole("complementary", { name: "What if" });
  await whatIf.getByRole("checkbox", { name: /^Other/ }).check();
  await expect(parts).toContainText("4.4667 ms in all");

  await opened(page, template.id, "cues/levels");
  for (const [row, words] of [
    [
      /^Main/,
      "−15.96 dBFS if all of it is alike, −21.59 dBFS if it is not; peaks at worst −4.97 dBFS: 4.97 dB of headroom.",
    ],
    [
      /^Voices/,
      "−18.09 dBFS if all of it is alike, −22.4 dBFS if it is not; peaks at worst −7.1 dBFS: 7.1 dB of headroom.",
    ],
  ] as const) {
    await page.getByRole("option", { name: row }).click();
    await expect(page.getByRole("region", { name: /^What contributes most to/ })).toContainText(words);
  }
  const levels = (await (await page.request.get(`/api/templates/${template.id}/levels`)).json()).levels;
  const into = (name: string) => levels.channels.find((channel: { name: string }) => channel.name === name).into;
  expect(into("Plate")).toMatchObject({
    left: { alikeDb: -28.36, unlikeDb: -31.25 },
    right: { alikeDb: -28.36, unlikeDb: -31.25 },
    worstPeakDb: -17.37,
  });
  expect(into("Main")).toMatchObject({
    left: { alikeDb: -15.96, unlikeDb: -21.59 },
    right: { alikeDb: -16.7, unlikeDb: -22.07 },
    worstPeakDb: -4.97,
  });

  await opened(page, template.id, "flow");
  await page.getByRole("button", { name: /^Main, main bus/ }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("complementary", { name: "Inspector" })).toContainText("if not; peaks at worst −5 dBFS");
});

test("a loop-back that was measured corrects the model of the rig, for every template on it", async ({ page }) => {
  const rig = await send(page, "/api/rigs/import", "measured", workedRig());
  const { template } = await send(page, "/api/templates/import", "measured", workedTemplate(), {
    rigId: rig.document.id,
    name: uniqueName("Measured"),
  });
  await go(page, `/rigs/${rig.document.id}`);
  await page
    .getByRole("navigation", { name: "Devices of the rig" })
    .getByRole("button", { name: /^Brindle 16/ })
    .click();
  const measured = page.getByRole("textbox", { name: /Loop-back measured/ });
  await measured.fill("a bit more");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/Type what the loop-back said/)).toBeVisible();
  await measured.fill("4.9667 ms at 48 kHz, 64");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: /^Undo: / })).toBeVisible();
  await expect(async () => {
    const { delay } = await (await page.request.get(`/api/templates/${template.id}/delay`)).json();
    // Half a millisecond more than the model says: 24 samples, on every way through the computer.
    expect(delay.paths[0].ms).toBeCloseTo(5.9667, 4);
  }).toPass();
});
