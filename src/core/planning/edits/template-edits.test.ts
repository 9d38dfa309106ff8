import { describe, expect, it } from "vitest";
import { brokenInvariants } from "../../commands/template-engine";
import { tracksOf } from "../../model/read-template";
import { inOrder } from "../../model/table";
import { MAIN_ID } from "../../model/tables/channel-fields";
import type { Template } from "../../model/template";
import { aTemplate } from "../../testing/a-template";
import type { Edit } from "./edit";
import { apply, applyAll, canDo } from "./template-editing";

const band = () =>
  aTemplate()
    .folder("Strings", "weld")
    .track("Snare", { input: "1" })
    .track("Fiddle", { input: "9", folder: "Strings" })
    .track("Above L", { input: "5" })
    .track("Above R", { input: "6" })
    .build();

const done = (doc: Template, command: Edit): Template => {
  const applied = apply(doc, command);
  if (!applied.ok) throw new Error(applied.refusal.message);
  expect(brokenInvariants(applied.doc)).toEqual([]);
  return applied.doc;
};

const refused = (doc: Template, command: unknown): string => {
  const applied = apply(doc, command as Edit);
  expect(applied.ok).toBe(false);
  return applied.ok ? "" : applied.refusal.message;
};

const names = (doc: Template, folderId: string | null = null) =>
  tracksOf(doc)
    .filter((track) => track.folderId === folderId)
    .map((track) => track.name);

describe("adding tracks", () => {
  it("routes a new track to the main bus", () => {
    expect(band().channels["track-1" as never]).toMatchObject({
      name: "Snare",
      output: { kind: "channel", channelId: MAIN_ID },
    });
  });

  it("keeps the order in which they were added", () => {
    expect(names(band())).toEqual(["Snare", "Above L", "Above R"]);
  });

  it("puts them before a named track", () => {
    const track = {
      id: "new",
      name: "Tambourine",
      note: "",
      colour: null,
      icon: null,
      input: { kind: "none" },
      sharing: null,
    } as const;
    const doc = done(band(), {
      kind: "tracks.add",
      tracks: [track],
      lines: [],
      folderId: null,
      before: "track-3",
    } as never);
    expect(names(doc)).toEqual(["Snare", "Tambourine", "Above L", "Above R"]);
  });

  it("refuses an id that is taken, a line that is not there and a folder that is not there", () => {
    const track = {
      id: "track-1",
      name: "X",
      note: "",
      colour: null,
      icon: null,
      input: { kind: "none" },
      sharing: null,
    };
    expect(refused(band(), { kind: "tracks.add", tracks: [track], lines: [], folderId: null, before: null })).toContain(
      "already in this template",
    );
    expect(
      refused(band(), {
        kind: "tracks.add",
        tracks: [{ ...track, id: "t9", input: { kind: "line", lineId: "nope" } }],
        lines: [],
        folderId: null,
        before: null,
      }),
    ).toContain("not there");
    expect(
      refused(band(), {
        kind: "tracks.add",
        tracks: [{ ...track, id: "t9" }],
        lines: [],
        folderId: "nope",
        before: null,
      }),
    ).toContain("no longer there");
  });

  it("refuses nothing to add", () => {
    expect(refused(band(), { kind: "tracks.add", tracks: [], lines: [], folderId: null, before: null })).toContain(
      "how many",
    );
  });
});

describe("making stereo and mono", () => {
  it("two mono tracks become one stereo track that takes both lines, under the name they share", () => {
    const doc = done(band(), { kind: "tracks.pair", leftTrackId: "track-3", rightTrackId: "track-4" } as never);
    expect(doc.channels["track-3" as never]).toMatchObject({
      name: "Above",
      input: { kind: "pair", leftId: "line-3", rightId: "line-4" },
    });
    expect(doc.channels).not.toHaveProperty("track-4");
    expect(Object.keys(doc.lines)).toHaveLength(4);
  });

  it("a stereo track becomes two mono tracks one below the other", () => {
    const stereo = done(band(), { kind: "tracks.pair", leftTrackId: "track-3", rightTrackId: "track-4" } as never);
    const doc = done(stereo, { kind: "tracks.split", trackId: "track-3", newTrackId: "track-9" } as never);
    expect(names(doc)).toEqual(["Snare", "Above L", "Above R"]);
    expect(doc.channels["track-9" as never]).toMatchObject({ input: { kind: "line", lineId: "line-4" } });
  });

  it("refuses to pair a stereo track, a track with itself, or tracks on one line", () => {
    const stereo = done(band(), { kind: "tracks.pair", leftTrackId: "track-3", rightTrackId: "track-4" } as never);
    expect(refused(stereo, { kind: "tracks.pair", leftTrackId: "track-3", rightTrackId: "track-1" })).toContain(
      "stereo already",
    );
    expect(refused(band(), { kind: "tracks.pair", leftTrackId: "track-3", rightTrackId: "track-3" })).toContain(
      "same line",
    );
    const shared = aTemplate().track("Dry", { input: "1" }).trackOnLine("Wet", "line-1").build();
    expect(refused(shared, { kind: "tracks.pair", leftTrackId: "track-1", rightTrackId: "track-2" })).toContain(
      "same line",
    );
  });

  it("refuses to split what is mono", () => {
    expect(refused(band(), { kind: "tracks.split", trackId: "track-1", newTrackId: "x" })).toContain("not stereo");
  });
});

describe("removing", () => {
  it("a line goes with the last track that takes it", () => {
    const doc = done(band(), { kind: "entries.remove", table: "channels", ids: ["track-1"] } as never);
    expect(doc.lines).not.toHaveProperty("line-1");
  });

  it("a line stays for as long as another track takes it", () => {
    const shared = aTemplate().track("Dry", { input: "1" }).trackOnLine("Wet", "line-1").build();
    expect(done(shared, { kind: "entries.remove", table: "channels", ids: ["track-1"] } as never).lines).toHaveProperty(
      "line-1",
    );
  });

  it("dissolving a folder leaves its tracks outside", () => {
    const doc = done(band(), { kind: "folders.remove", folderId: "folder-1" } as never);
    expect(names(doc)).toEqual(["Snare", "Above L", "Above R", "Fiddle"]);
    expect(doc.folders).toEqual({});
  });

  it("dissolving a folder in a folder hands its members up", () => {
    const nested = done(band(), {
      kind: "entries.add",
      entries: { folders: [{ id: "inner", name: "Bowed", colour: null, parentId: "folder-1" }] },
    } as never);
    const filled = done(nested, {
      kind: "entries.move",
      table: "channels",
      ids: ["track-2"],
      parent: "inner",
      before: null,
    } as never);
    const doc = done(filled, { kind: "folders.remove", folderId: "inner" } as never);
    expect(names(doc, "folder-1")).toEqual(["Fiddle"]);
  });

  it("the main bus can't be removed or edited as a track", () => {
    expect(refused(band(), { kind: "entries.remove", table: "channels", ids: ["main"] })).toContain("main bus");
  });
});

describe("moving", () => {
  it("keeps the order in which the tracks are named", () => {
    const doc = done(band(), {
      kind: "entries.move",
      table: "channels",
      ids: ["track-4", "track-1"],
      parent: "folder-1",
      before: "track-2",
    } as never);
    expect(names(doc, "folder-1")).toEqual(["Above R", "Snare", "Fiddle"]);
  });

  it("folders change places", () => {
    const two = done(band(), {
      kind: "entries.add",
      entries: { folders: [{ id: "folder-2", name: "Winds", colour: null }] },
    } as never);
    const doc = done(two, {
      kind: "entries.move",
      table: "folders",
      ids: ["folder-2"],
      parent: null,
      before: "folder-1",
    } as never);
    expect(inOrder(doc.folders).map((folder) => folder.id)).toEqual(["folder-2", "folder-1"]);
  });
});

describe("lines", () => {
  it("a line with a port no longer asks for another", () => {
    const asking = aTemplate().track("Voice", { input: "17" }).build();
    expect(asking.lines["line-1" as never]).toMatchObject({ portId: null, requestedInput: "17" });
    const doc = done(asking, {
      kind: "lines.patch",
      inputs: [{ lineId: "line-1", portId: "brindle:in:3", requestedInput: "17" }],
    } as never);
    expect(doc.lines["line-1" as never]).toMatchObject({ portId: "brindle:in:3", requestedInput: null });
  });

  it("joined lines leave one, and both tracks say how they share it", () => {
    const doubled = aTemplate().track("Guitar", { input: "2" }).track("Spare", { input: "2" }).build();
    const doc = done(doubled, { kind: "lines.join", keepId: "line-1", dropId: "line-2", sharing: "by-turns" } as never);
    expect(Object.keys(doc.lines)).toEqual(["line-1"]);
    expect(tracksOf(doc).map((track) => track.sharing)).toEqual(["by-turns", "by-turns"]);
  });

  it("the sides of one track can't be joined", () => {
    const stereo = aTemplate()
      .track("Above", { input: ["5", "6"] })
      .build();
    expect(refused(stereo, { kind: "lines.join", keepId: "line-1", dropId: "line-2", sharing: "at-once" })).toContain(
      "left and right",
    );
  });
});

describe("what a command is called", () => {
  const nameOf = (command: unknown) => {
    const applied = apply(band(), command as Edit);
    return applied.ok ? applied.name : applied.refusal.message;
  };

  it.each([
    [{ kind: "entries.set", table: "channels", ids: ["track-2"], set: { colour: "lichen" } }, "Dye Fiddle lichen"],
    [
      { kind: "entries.set", table: "channels", ids: ["track-1", "track-2"], set: { colour: "lichen" } },
      "Dye 2 tracks lichen",
    ],
    [
      { kind: "entries.set", table: "channels", ids: ["track-1"], set: { name: "Side drum" } },
      "Rename Snare to Side drum",
    ],
    [
      { kind: "entries.set", table: "channels", ids: ["track-1"], set: { output: { kind: "nowhere" } } },
      "Route Snare to nowhere",
    ],
    [
      { kind: "entries.move", table: "channels", ids: ["track-1"], parent: "folder-1", before: null },
      "Put Snare in Strings",
    ],
    [
      { kind: "entries.move", table: "channels", ids: ["track-2"], parent: null, before: null },
      "Put Fiddle outside the folders",
    ],
    [
      { kind: "tracks.pair", leftTrackId: "track-3", rightTrackId: "track-4" },
      "Make Above L and Above R one stereo track",
    ],
    [{ kind: "entries.set", table: "lines", ids: ["line-2"], set: { phantom: true } }, "Phantom on for Fiddle"],
    [
      { kind: "lines.patch", inputs: [{ lineId: "line-2", portId: null, requestedInput: null }] },
      "Take Fiddle off its input",
    ],
    [{ kind: "entries.set", table: "folders", ids: ["folder-1"], set: { open: false } }, "Fold Strings"],
    [{ kind: "settings.set", set: { format: { sampleRateHz: 96000 } } }, "Set the rate to 96 kHz"],
    [{ kind: "document.rename", name: " Late evening " }, "Rename the template to Late evening"],
  ])("%j", (command, name) => expect(nameOf(command)).toBe(name));
});

describe("apply", () => {
  it("answers the very same document when nothing changes", () => {
    const doc = band();
    const applied = apply(doc, {
      kind: "entries.set",
      table: "channels",
      ids: ["track-1"],
      set: { name: "Snare" },
    } as never);
    expect(applied.ok && applied.doc).toBe(doc);
    expect(applied.ok && applied.patches).toEqual([]);
  });

  it("asks and does by the same code", () => {
    const command = { kind: "document.rename", name: "  " } as const;
    const applied = apply(band(), command);
    expect(canDo(band(), command)).toEqual(applied.ok ? null : applied.refusal);
  });

  it("several commands are all done or none", () => {
    const doc = band();
    const applied = applyAll(doc, [
      { kind: "entries.set", table: "channels", ids: ["track-1"], set: { name: "X" } } as never,
      { kind: "entries.remove", table: "channels", ids: ["nope"] } as never,
    ]);
    expect(applied).toMatchObject({ ok: false, refusal: { code: "missing", at: "nope" } });
    expect(names(doc)).toContain("Snare");
  });

  it.each(["__proto__", "constructor", "toString"])("takes no %s for an id: it would reach into every object", (id) => {
    const track = { id, name: "X", note: "", colour: null, icon: null, input: { kind: "none" }, sharing: null };
    const commands = [
      { kind: "entries.add", entries: { folders: [{ id, name: "X", colour: null }] } },
      { kind: "tracks.add", tracks: [track], lines: [], folderId: null, before: null },
      { kind: "tracks.split", trackId: "track-3", newTrackId: id },
      { kind: "entries.set", table: "channels", ids: [id], set: { name: "X" } },
      { kind: "entries.set", table: "folders", ids: [id], set: { name: "X" } },
      { kind: "entries.move", table: "channels", ids: ["track-1"], parent: id, before: null },
    ];
    for (const command of commands) expect(apply(band(), command as never).ok, command.kind).toBe(false);
    expect(Object.keys(Object.getPrototypeOf({}))).toEqual([]);
  });

  it("refuses a route to another track with the reason", () => {
    expect(
      refused(band(), {
        kind: "entries.set",
        table: "channels",
        ids: ["track-1"],
        set: { output: { kind: "channel", channelId: "track-2" } },
      }),
    ).toContain("can't take the sound of another");
  });
});
