import { describe, expect, it } from "vitest";
import type { Template } from "../model/template";
import { templateFaults } from "../model/template-schema";
import { aTemplate } from "../testing/a-template";
import { brokenInvariants } from "./template-engine";

type Loose = { [key: string]: Loose } & { [key: string]: unknown };

/** A sound template with one thing changed that no command would change. */
const broken = (change: (doc: Loose) => void): Template => {
  const doc = structuredClone(
    aTemplate()
      .folder("Strings")
      .folder("Bowed")
      .track("Fiddle", { input: "9", folder: "Strings" })
      .track("Above", { input: ["5", "6"] })
      .build(),
  );
  change(doc as unknown as Loose);
  return doc;
};

const inside = (doc: Loose, ...path: readonly string[]): Loose =>
  path.reduce<Loose>((at, step) => at[step] as Loose, doc);

describe("what must hold in every revision", () => {
  it("holds in what commands make", () => expect(brokenInvariants(broken(() => {}))).toEqual([]));

  it.each<[string, (doc: Loose) => void, string]>([
    [
      "a track on a line that is not there",
      (doc) => delete inside(doc, "lines")["line-1"],
      "Fiddle takes a line that is not there",
    ],
    ["a line without a track", (doc) => delete inside(doc, "channels")["track-1"], "line Fiddle has no track"],
    [
      "a track in a folder that is not there",
      (doc) => delete inside(doc, "folders")["folder-1"],
      "Fiddle lies in a folder that is not there",
    ],
    [
      "a folder in one that is not there",
      (doc) => Object.assign(inside(doc, "folders", "folder-2"), { parentId: "gone" }),
      "Bowed lies in a folder that is not there",
    ],
    [
      "a folder in itself",
      (doc) => Object.assign(inside(doc, "folders", "folder-2"), { parentId: "folder-2" }),
      "folder Bowed lies in itself",
    ],
    [
      "two folders in each other",
      (doc) => {
        Object.assign(inside(doc, "folders", "folder-1"), { parentId: "folder-2" });
        Object.assign(inside(doc, "folders", "folder-2"), { parentId: "folder-1" });
      },
      "folder Strings lies in itself",
    ],
    [
      "a track routed to a track",
      (doc) => Object.assign(inside(doc, "channels", "track-1"), { output: { kind: "channel", channelId: "track-2" } }),
      "Fiddle is routed to something that can take no sound",
    ],
    [
      "the main bus routed to a channel",
      (doc) => Object.assign(inside(doc, "channels", "main"), { output: { kind: "channel", channelId: "main" } }),
      "the main bus is routed to a channel",
    ],
    ["no main bus", (doc) => delete inside(doc, "channels").main, "there is not exactly one main bus"],
    [
      "one line as left and right",
      (doc) =>
        Object.assign(inside(doc, "channels", "track-2"), {
          input: { kind: "pair", leftId: "line-2", rightId: "line-2" },
        }),
      "Above takes one line as left and right",
    ],
    [
      "an entry under another's key",
      (doc) => Object.assign(inside(doc, "lines", "line-1"), { id: "line-9" }),
      "line-1 holds line-9",
    ],
    [
      "a line that has a port and asks for another",
      (doc) => Object.assign(inside(doc, "lines", "line-1"), { requestedInput: "17" }),
      "line Fiddle has a port and asks for another",
    ],
    [
      "an id used twice",
      (doc) =>
        Object.assign(inside(doc, "folders"), { "line-1": { ...inside(doc, "folders", "folder-1"), id: "line-1" } }),
      "an id is used twice",
    ],
  ])("%s is told", (_name, change, message) => expect(brokenInvariants(broken(change))).toContain(message));
});

describe("the schema of a template", () => {
  it.each<[string, (doc: Loose) => void, string]>([
    [
      "a rate that is none",
      (doc) => Object.assign(inside(doc, "format"), { sampleRateHz: 22050 }),
      "/format/sampleRateHz",
    ],
    [
      "a dye that is none",
      (doc) => Object.assign(inside(doc, "channels", "track-1"), { colour: "beige" }),
      "/channels/track-1/colour",
    ],
    [
      "a place that is no key",
      (doc) => Object.assign(inside(doc, "folders", "folder-1"), { order: 0.5 }),
      "/folders/folder-1/order",
    ],
    ["a name that is too long", (doc) => Object.assign(doc, { name: "x".repeat(201) }), "/name"],
    ["a field too many", (doc) => Object.assign(inside(doc, "lines", "line-1"), { volume: 3 }), "/lines/line-1"],
    ["a field too few", (doc) => delete inside(doc, "lines", "line-1").player, "/lines/line-1"],
    [
      "a microphone of no kind",
      (doc) => Object.assign(inside(doc, "lines", "line-1"), { microphone: { kind: "borrowed", name: "x" } }),
      "/lines/line-1/microphone",
    ],
  ])("%s is told with its place", (_name, change, pointer) => {
    const pointers = templateFaults(broken(change)).map((fault) => fault.pointer);
    expect(pointers.some((place) => place.startsWith(pointer))).toBe(true);
  });

  it("takes what commands make", () => expect(templateFaults(broken(() => {}))).toEqual([]));
});
