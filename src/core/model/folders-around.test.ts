import { describe, expect, it } from "vitest";
import { aTemplate } from "../testing/a-template";
import type { ChannelId, FolderId } from "./ids";
import { foldersAround, outermostFolder } from "./read-template";

const FLAT = aTemplate().folder("Drums").folder("Snares").track("Snare", { folder: "Snares" }).track("Talk").build();
const doc = {
  ...FLAT,
  folders: {
    ...FLAT.folders,
    ["folder-2" as FolderId]: { ...FLAT.folders["folder-2" as FolderId], parentId: "folder-1" as FolderId },
  },
} as typeof FLAT;

describe("the folders that something lies in", () => {
  it("stand the outermost first, the one it lies in last", () => {
    expect(foldersAround(doc, "folder-2" as FolderId).map(({ name }) => name)).toEqual(["Drums", "Snares"]);
    expect(foldersAround(doc, null)).toEqual([]);
    expect(foldersAround(doc, "none-such" as FolderId)).toEqual([]);
  });

  it("a track belongs to the outermost; one in none, and what is no track, to none", () => {
    const [snare, talk] = Object.values(doc.channels).filter(({ kind }) => kind === "track");
    expect(outermostFolder(doc, snare?.id as ChannelId)).toBe("folder-1");
    expect(outermostFolder(doc, talk?.id as ChannelId)).toBeNull();
    expect(outermostFolder(doc, "main" as ChannelId)).toBeNull();
  });
});
