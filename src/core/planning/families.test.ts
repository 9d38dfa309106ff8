import { describe, expect, it } from "vitest";
import { brokenInvariants } from "../commands/template-engine";
import { demoTemplates } from "../demo/templates";
import { EMPTY_HISTORY } from "../history/history";
import { hashOf } from "../model/hash";
import { type ChannelId, type FolderId, type SendId, sequentialIds } from "../model/ids";
import { entriesOf } from "../model/table";
import { newProcessor } from "../model/tables/chain-processors";
import { newSideChain } from "../model/tables/side-chains";
import { TEMPLATE, type Template } from "../model/template";
import { aTemplate } from "../testing/a-template";
import { perform, undo } from "../testing/undoing";
import { addFamily } from "./add-family";
import { droppedInWords, droppedWith } from "./edits/drop-family";
import type { Edit } from "./edits/edit";
import { applyAll } from "./edits/template-editing";

const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const nine = demoTemplates().find(({ id }) => id === "tidewrack-nine") ?? expect.unreachable();
const folderNamed = (doc: Template, name: string): FolderId =>
  entriesOf(doc.folders).find((folder) => folder.name === name)?.id ?? expect.unreachable(name);
const names = (doc: Template): string[] => entriesOf(doc.channels).map(({ name }) => name);
const drop = (doc: Template, name: string): Template =>
  done(doc, { kind: "folders.drop", folderId: folderNamed(doc, name) });

describe("dropping a family", () => {
  it("takes what only it used, says so before, and leaves the rest untouched", () => {
    const words = droppedInWords(nine, droppedWith(nine, folderNamed(nine, "Voices")));
    expect(words).toBe("Goes with it: 2 tracks, 2 lines, the bus Voices, the return Plate, 2 sends.");
    const after = drop(nine, "Voices");
    expect(
      names(nine)
        .filter((name) => !names(after).includes(name))
        .sort(),
    ).toEqual(["Lead voice", "Plate", "Second voice", "Voices"]);
    expect(Object.keys(nine.lines).length - Object.keys(after.lines).length).toBe(2);
    for (const channel of entriesOf(after.channels)) expect(channel).toBe(nine.channels[channel.id]);
    expect(brokenInvariants(after)).toEqual([]);
  });

  it("leaves a return that others are sent to as well", () => {
    const after = drop(nine, "Keys");
    expect(names(after)).toContain("Stair chamber");
    expect(entriesOf(after.sends)).toHaveLength(4);
    const both = drop(drop(after, "Strings"), "Winds");
    expect(names(both)).not.toContain("Stair chamber");
  });

  it("is undone in one, to the very same document", () => {
    const made = perform(nine, EMPTY_HISTORY, {
      edits: [{ kind: "folders.drop", folderId: folderNamed(nine, "Percussion") }],
    });
    if (!made.ok) throw new Error("expected it to be dropped");
    expect(made.name).toBe("Drop the family Percussion");
    const back = undo(made.doc, made.history);
    expect(back.ok && back.doc).toEqual(nine);
    expect(back.ok && hashOf(TEMPLATE, back.doc)).toBe(hashOf(TEMPLATE, nine));
  });

  it("goes along chains of buses that only it feeds, takes inner folders, and lets others go on past it", () => {
    const id = (name: string) => name as ChannelId;
    const base = aTemplate()
      .folder("Winds")
      .folder("Brass")
      .track("Flute", { folder: "Winds" })
      .track("Horn", { folder: "Brass" })
      .track("Voice")
      .build();
    const doc = done(
      base,
      {
        kind: "entries.move",
        table: "folders",
        ids: ["folder-2" as FolderId],
        parent: "folder-1" as FolderId,
        before: null,
      },
      {
        kind: "folders.sum",
        sums: [
          { folderId: "folder-1" as FolderId, busId: id("winds") },
          { folderId: "folder-2" as FolderId, busId: id("brass") },
        ],
      },
      { kind: "channels.add", channels: [{ kind: "return", id: id("room"), name: "Room" }], feedIds: [] },
      { kind: "channels.add", channels: [{ kind: "return", id: id("far"), name: "Far room" }], feedIds: [] },
      {
        kind: "sends.add",
        sends: [
          { id: "a" as SendId, fromId: id("winds"), toId: id("room") },
          { id: "b" as SendId, fromId: id("room"), toId: id("far") },
        ],
      },
      {
        kind: "entries.set",
        table: "channels",
        ids: [id("track-3")],
        set: { output: { kind: "channel", channelId: id("winds") } },
      },
    );
    expect(droppedInWords(doc, droppedWith(doc, "folder-1" as FolderId))).toBe(
      "Goes with it: 2 tracks, 2 lines, the buses Brass, Winds, the returns Room, Far room, 2 sends, 1 folder in it. 1 channel from outside goes on past it.",
    );
    const after = drop(doc, "Winds");
    expect(names(after).sort()).toEqual(["Main", "Voice"]);
    expect(after.channels[id("track-3")]?.output).toEqual({ kind: "channel", channelId: "main" });
    expect([Object.keys(after.folders), brokenInvariants(after)]).toEqual([[], []]);
  });

  it("takes the side-chains that steered by it or in it, and what it steered elsewhere stays", () => {
    const id = (name: string) => name as ChannelId;
    const compressor = (processorId: string, channelId: string) =>
      newProcessor("compressor", { id: processorId as never, channelId: id(channelId) }) as never;
    const side = (sideId: string, from: string, processorId: string) =>
      newSideChain({ id: sideId as never, fromId: id(from), processorId: processorId as never });
    const doc = done(
      aTemplate().folder("Actors").track("Boy", { folder: "Actors" }).track("Music").track("Narrator").build(),
      {
        kind: "entries.add",
        entries: { processors: [compressor("on-music", "track-2"), compressor("on-boy", "track-1")] },
      },
      {
        kind: "sideChains.add",
        sideChains: [
          side("a", "track-1", "on-music"),
          side("b", "track-3", "on-music"),
          side("c", "track-3", "on-boy"),
        ],
      },
    );
    expect(droppedInWords(doc, droppedWith(doc, "folder-1" as FolderId))).toBe(
      "Goes with it: 1 track, 1 line, 2 side-chains.",
    );
    const after = drop(doc, "Actors");
    expect([Object.keys(after.sideChains), Object.keys(after.processors), brokenInvariants(after)]).toEqual([
      ["b"],
      ["on-music"],
      [],
    ]);
  });

  it("with nothing in it leaves only the folder", () => {
    const doc = aTemplate().folder("Empty").track("Voice").build();
    expect([names(drop(doc, "Empty")), Object.keys(drop(doc, "Empty").folders)]).toEqual([names(doc), []]);
  });
});

describe("adding a family", () => {
  const add = (name: string, countText: string) => addFamily({ name, countText, ids: sequentialIds() });

  it("makes its folder, its bus and its tracks, dyed and routed, in one act", () => {
    const plan = add(" Brass ", "3");
    const { edits, name } = plan.ok ? plan.gesture : expect.unreachable();
    const doc = done(aTemplate().build(), ...edits);
    expect(name).toBe("Add the family Brass with 3 tracks");
    const bus = entriesOf(doc.channels).find(({ kind }) => kind === "bus");
    expect(bus).toMatchObject({ name: "Brass", colour: "ochre" });
    expect(
      entriesOf(doc.channels).flatMap((channel) =>
        channel.kind === "track" ? [[channel.name, channel.icon, channel.output]] : [],
      ),
    ).toEqual([1, 2, 3].map((at) => [`Brass ${at}`, "brass", { kind: "channel", channelId: bus?.id }]));
  });

  it("can begin with its bus alone, and tells what is no number", () => {
    const bare = add("Effects", "0");
    expect(bare.ok && bare.gesture.edits.map(({ kind }) => kind)).toEqual(["entries.add", "folders.sum"]);
    for (const text of ["many", "-1", "65", "2.5"])
      expect(add("Brass", text)).toEqual({ ok: false, message: `“${text}” is no number of tracks from 0 to 64.` });
    expect(add(" ", "3")).toMatchObject({ ok: false });
  });
});
