import { describe, expect, it } from "vitest";
import type { ChannelId } from "../model/ids";
import { tracksOf } from "../model/read-template";
import { aTemplate } from "../testing/a-template";
import { pairCommand, stepCommand } from "./arrange";
import type { Edit } from "./edits/edit";
import { apply } from "./edits/template-editing";

const doc = aTemplate()
  .folder("Strings")
  .track("A", { input: "1" })
  .track("B", { input: "2" })
  .track("C", { input: "3" })
  .track("D", { input: "4" })
  .track("Fiddle", { input: "9", folder: "Strings" })
  .build();
const ids = (...names: readonly string[]) =>
  names.map((name) => tracksOf(doc).find((track) => track.name === name)?.id ?? ("none" as ChannelId));
const order = (command: Edit | null) => {
  const done = command && apply(doc, command);
  return done?.ok
    ? tracksOf(done.doc)
        .filter((track) => track.folderId === null)
        .map((track) => track.name)
        .join("")
    : null;
};

describe("stepping", () => {
  it.each([
    [["B"], -1, "BACD"],
    [["B"], 1, "ACBD"],
    [["C"], 1, "ABDC"],
    [["A", "B"], 1, "CABD"],
    [["C", "D"], -1, "ACDB"],
    [["D", "C"], -1, "ACDB"],
  ] as const)("%j by %d gives %s", (names, step, result) =>
    expect(order(stepCommand(doc, ids(...names), step))).toBe(result),
  );

  it.each([
    [["A"], -1],
    [["D"], 1],
    [["D", "Fiddle"], -1],
    [[], 1],
  ] as const)("%j by %d can't be done", (names, step) => expect(stepCommand(doc, ids(...names), step)).toBeNull());
});

describe("pairing", () => {
  const pair = (...names: readonly string[]) => {
    const command = pairCommand(doc, ids(...names));
    return command?.kind === "tracks.pair" ? [command.leftTrackId, command.rightTrackId] : null;
  };

  it("takes two as they are selected, or one and the next below", () => {
    expect(pair("B", "C")).toEqual(ids("B", "C"));
    expect(pair("B")).toEqual(ids("B", "C"));
  });

  it("needs a second one, and no third", () => {
    expect(pair("D")).toBeNull();
    expect(pair("A", "B", "C")).toBeNull();
    expect(pair()).toBeNull();
  });
});
