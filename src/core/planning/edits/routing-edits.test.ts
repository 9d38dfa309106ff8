import { describe, expect, it } from "vitest";
import { brokenInvariants } from "../../commands/template-engine";
import { EMPTY_HISTORY } from "../../history/history";
import type { ChannelId, FolderId, SendId } from "../../model/ids";
import { entriesOf } from "../../model/table";
import type { Template } from "../../model/template";
import { aTemplate } from "../../testing/a-template";
import { perform, undo } from "../../testing/undoing";
import type { Edit } from "./edit";
import { apply, applyAll } from "./template-editing";

const id = (name: string) => name as ChannelId;
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  if (!made.ok) throw new Error(made.refusal.message);
  expect(brokenInvariants(made.doc)).toEqual([]);
  return made.doc;
};
const refused = (doc: Template, edit: Edit): string => {
  const made = apply(doc, edit);
  return made.ok ? "" : made.refusal.message;
};
const nameOf = (doc: Template, edit: Edit): string => {
  const made = apply(doc, edit);
  return made.ok ? made.name : made.refusal.message;
};
/** Where each channel goes, by name. */
const routes = (doc: Template) =>
  Object.fromEntries(
    entriesOf(doc.channels).map(({ name, output }) => [
      name,
      output.kind === "channel" ? doc.channels[output.channelId]?.name : output.kind,
    ]),
  );

/** Two folders, one in the other; tracks in both and outside. */
const band = () =>
  done(
    aTemplate()
      .folder("Winds", "ochre")
      .folder("Brass", "woad")
      .track("Clarinet", { input: "1", folder: "Winds" })
      .track("Trumpet", { input: "2", folder: "Brass" })
      .track("Voice", { input: "3" })
      .build(),
    {
      kind: "entries.move",
      table: "folders",
      ids: ["folder-2" as FolderId],
      parent: "folder-1" as FolderId,
      before: null,
    },
  );
const sum = (folder: string, busId: string): Edit => ({
  kind: "folders.sum",
  sums: [{ folderId: folder as FolderId, busId: id(busId) }],
});
const summed = () => done(band(), sum("folder-1", "winds"));

describe("a folder that sums", () => {
  it("gets a bus with its name and dye, and what lies in it is routed there, in inner folders too", () => {
    const doc = summed();
    expect(routes(doc)).toEqual({
      Clarinet: "Winds",
      Trumpet: "Winds",
      Voice: "Main",
      Winds: "Main",
      Main: "hardware",
    });
    expect([doc.folders["folder-1" as FolderId]?.busId, doc.channels[id("winds")]]).toMatchObject([
      "winds",
      { kind: "bus", colour: "ochre", faderDb: 0, layout: "stereo" },
    ]);
  });

  it("in another one goes into the bus of that, whichever of the two is switched on first", () => {
    const inner = done(band(), sum("folder-2", "brass"));
    const both = {
      Clarinet: "Winds",
      Trumpet: "Brass",
      Brass: "Winds",
      Winds: "Main",
      Voice: "Main",
      Main: "hardware",
    };
    expect(routes(done(inner, sum("folder-1", "winds")))).toEqual(both);
    expect(routes(done(summed(), sum("folder-2", "brass")))).toEqual(both);
    const at = (folderId: string, busId: string) => ({ folderId: folderId as FolderId, busId: id(busId) });
    expect(
      routes(done(band(), { kind: "folders.sum", sums: [at("folder-2", "brass"), at("folder-1", "winds")] })),
    ).toEqual(both);
  });

  it("leaves alone what somebody routed elsewhere", () => {
    const away = done(band(), {
      kind: "entries.set",
      table: "channels",
      ids: [id("track-1")],
      set: { output: { kind: "nowhere" } },
    });
    expect(routes(done(away, sum("folder-1", "winds")))).toMatchObject({ Clarinet: "nowhere", Trumpet: "Winds" });
  });

  it("takes in what comes later, lets go what leaves, and keeps what was routed by hand", () => {
    const doc = summed();
    const move = (folderId: string | null): Edit => ({
      kind: "entries.move",
      table: "channels",
      ids: [id("track-3")],
      parent: folderId as FolderId | null,
      before: null,
    });
    const moved = done(doc, move("folder-2"));
    expect(routes(moved).Voice).toBe("Winds");
    expect(routes(done(moved, move(null))).Voice).toBe("Main");
    const fresh = {
      id: id("new"),
      name: "Flute",
      note: "",
      colour: null,
      icon: null,
      input: { kind: "none" },
      sharing: null,
    } as const;
    expect(
      routes(
        done(doc, { kind: "tracks.add", tracks: [fresh], lines: [], folderId: "folder-1" as FolderId, before: null }),
      ).Flute,
    ).toBe("Winds");
    const away = done(doc, {
      kind: "entries.set",
      table: "channels",
      ids: [id("track-3")],
      set: { output: { kind: "nowhere" } },
    });
    expect(routes(done(away, move("folder-1"))).Voice).toBe("nowhere");
  });

  it("that is moved into another takes its bus along", () => {
    const outside = done(
      band(),
      { kind: "entries.move", table: "folders", ids: ["folder-2" as FolderId], parent: null, before: null },
      sum("folder-1", "winds"),
    );
    const into: Edit = {
      kind: "entries.move",
      table: "folders",
      ids: ["folder-2" as FolderId],
      parent: "folder-1" as FolderId,
      before: null,
    };
    expect(routes(done(outside, into)).Trumpet).toBe("Winds");
    expect(routes(done(outside, sum("folder-2", "brass"), into))).toMatchObject({ Trumpet: "Brass", Brass: "Winds" });
  });

  it("gives its new name and dye to its bus, for as long as the bus has no other", () => {
    const rename: Edit = {
      kind: "entries.set",
      table: "folders",
      ids: ["folder-1" as FolderId],
      set: { name: "Blown" },
    };
    expect(done(summed(), rename).channels[id("winds")]?.name).toBe("Blown");
    const own = done(summed(), {
      kind: "entries.set",
      table: "channels",
      ids: [id("winds")],
      set: { name: "Wind bus" },
    });
    expect(done(own, rename).channels[id("winds")]?.name).toBe("Wind bus");
    expect(
      done(summed(), {
        kind: "entries.set",
        table: "folders",
        ids: ["folder-1" as FolderId],
        set: { colour: "madder" },
      }).channels[id("winds")],
    ).toMatchObject({
      colour: "madder",
    });
  });

  it("no longer sums: what lay in its bus goes where it is said, and the bus is gone", () => {
    const off = (output: Extract<Edit, { kind: "folders.unsum" }>["output"]): Edit => ({
      kind: "folders.unsum",
      folderId: "folder-1" as FolderId,
      output,
    });
    const doc = done(summed(), off({ kind: "nowhere" }));
    expect([routes(doc), doc.folders["folder-1" as FolderId]?.busId]).toEqual([
      { Clarinet: "nowhere", Trumpet: "nowhere", Voice: "Main", Main: "hardware" },
      null,
    ]);
    expect(routes(done(summed(), off({ kind: "channel", channelId: id("main") })))).toMatchObject({ Clarinet: "Main" });
    expect(refused(band(), off({ kind: "nowhere" }))).toContain("does not sum");
    expect(refused(summed(), sum("folder-1", "again"))).toContain("already");
  });

  it("is dissolved with its bus, and undone to the very same document", () => {
    const doc = summed();
    const made = perform(doc, EMPTY_HISTORY, { edits: [{ kind: "folders.remove", folderId: "folder-1" as FolderId }] });
    if (!made.ok) throw new Error("expected it to be dissolved");
    expect(routes(made.doc)).toEqual({ Clarinet: "Main", Trumpet: "Main", Voice: "Main", Main: "hardware" });
    const back = undo(made.doc, made.history);
    expect(back.ok && back.doc).toEqual(doc);
  });
});

describe("buses and returns", () => {
  const plate: Edit = {
    kind: "channels.add",
    channels: [{ kind: "return", id: id("plate"), name: " Plate ", colour: "logwood" }],
    feedIds: [],
  };

  it("are made with what they are fed by, in one act", () => {
    const parallel: Edit = {
      kind: "channels.add",
      channels: [{ kind: "bus", id: id("p"), name: "Parallel" }],
      feedIds: [id("track-1"), id("track-2")],
    };
    expect(routes(done(band(), parallel))).toMatchObject({
      Clarinet: "Parallel",
      Trumpet: "Parallel",
      Parallel: "Main",
    });
    expect([nameOf(band(), parallel), nameOf(band(), plate)]).toEqual([
      "Add the bus Parallel for 2 channels",
      "Add the return Plate",
    ]);
    expect(
      refused(band(), { kind: "channels.add", channels: [{ kind: "bus", id: id("p"), name: " " }], feedIds: [] }),
    ).toContain("needs a name");
  });

  it("that are taken away leave what fed them where they went themselves, past others that go too, and take their sends along", () => {
    const chain = done(
      band(),
      {
        kind: "channels.add",
        channels: [{ kind: "bus", id: id("outer"), name: "Outer", output: { kind: "nowhere" } }],
        feedIds: [],
      },
      {
        kind: "channels.add",
        channels: [
          { kind: "bus", id: id("inner"), name: "Inner", output: { kind: "channel", channelId: id("outer") } },
        ],
        feedIds: [id("track-1")],
      },
      { kind: "sends.add", sends: [{ id: "s" as SendId, fromId: id("track-3"), toId: id("inner") }] },
    );
    const one = done(chain, { kind: "entries.remove", table: "channels", ids: [id("inner")] });
    expect([routes(one).Clarinet, entriesOf(one.sends)]).toEqual(["Outer", []]);
    expect(
      routes(done(chain, { kind: "entries.remove", table: "channels", ids: [id("inner"), id("outer")] })).Clarinet,
    ).toBe("nowhere");
  });

  it("are not the main bus and not tracks", () => {
    expect(refused(band(), { kind: "entries.remove", table: "channels", ids: [id("main")] })).toContain(
      "main bus stays",
    );
    expect(
      refused(band(), { kind: "entries.set", table: "channels", ids: [id("main")], set: { muted: true } }),
    ).toContain("neither muted nor parked");
    expect(
      refused(band(), {
        kind: "entries.set",
        table: "channels",
        ids: [id("main")],
        set: { output: { kind: "channel", channelId: id("main") } },
      }),
    ).toContain("is last");
    expect(
      refused(band(), { kind: "entries.set", table: "channels", ids: [id("track-1")], set: { layout: "mono" } }),
    ).toContain("as many as its lines");
    expect(
      refused(band(), {
        kind: "entries.set",
        table: "channels",
        ids: [id("track-1")],
        set: { output: { kind: "channel", channelId: id("track-2") } },
      }),
    ).toContain("is a track");
  });

  it.each([
    [{ faderDb: null }, "Set the fader of Plate to −∞ dB"],
    [{ faderDb: -6 }, "Set the fader of Plate to −6 dB"],
    [{ trimDb: -3 }, "Trim Plate by −3 dB"],
    [{ pan: -30 }, "Pan Plate 30 % left"],
    [{ pan: 0 }, "Pan Plate to the centre"],
    [{ muted: true }, "Mute Plate"],
    [{ parked: true }, "Park Plate"],
    [{ parked: false }, "Take Plate into use again"],
    [{ layout: "mono" }, "Make Plate mono"],
    [{ colour: "slate" }, "Dye Plate slate"],
    [{ name: "Hall" }, "Rename Plate to Hall"],
    [{ output: { kind: "nowhere" } }, "Route Plate to nowhere"],
    [{ note: "dark" }, "Note on Plate"],
  ])("%j is called %s", (set, name) =>
    expect(
      nameOf(done(band(), plate), { kind: "entries.set", table: "channels", ids: [id("plate")], set: set as never }),
    ).toBe(name),
  );

  it("are shifted by dB with their differences kept; silence stays, and the end of the fader is told", () => {
    const set = (channel: string, faderDb: number | null): Edit => ({
      kind: "entries.set",
      table: "channels",
      ids: [id(channel)],
      set: { faderDb: faderDb as never },
    });
    const doc = done(band(), set("track-1", -6), set("track-2", 3), set("track-3", null));
    const shift = (byDb: number): Edit => ({
      kind: "channels.shift",
      channelIds: [id("track-1"), id("track-2"), id("track-3")],
      byDb: byDb as never,
    });
    const after = done(doc, shift(4.5));
    expect(["track-1", "track-2", "track-3"].map((track) => after.channels[id(track)]?.faderDb)).toEqual([
      -1.5,
      7.5,
      null,
    ]);
    expect(nameOf(doc, shift(-2))).toBe("Turn 3 channels down by 2 dB");
    expect(refused(doc, shift(10))).toBe("Trumpet would stand at 13 dB. Faders go from −120 to +12 dB; shift by less.");
  });
});

describe("sends", () => {
  const ready = () =>
    done(band(), { kind: "channels.add", channels: [{ kind: "return", id: id("plate"), name: "Plate" }], feedIds: [] });
  const to = (levelDb: number, ...from: readonly string[]): Edit => ({
    kind: "sends.add",
    sends: from.map((one) => ({
      id: `s-${one}` as SendId,
      fromId: id(one),
      toId: id("plate"),
      levelDb: levelDb as never,
    })),
  });

  it("are put on a range at once, and what is sent there already gets the level that is asked for now", () => {
    const doc = done(ready(), to(-12, "track-1"));
    const more = done(
      doc,
      {
        kind: "sends.add",
        sends: [{ id: "x" as SendId, fromId: id("track-1"), toId: id("plate"), levelDb: -6 as never }],
      },
      to(-6, "track-2"),
    );
    expect(entriesOf(more.sends).map(({ id: send, levelDb, tap, on }) => [send, levelDb, tap, on])).toEqual([
      ["s-track-1", -6, "after", true],
      ["s-track-2", -6, "after", true],
    ]);
    expect(nameOf(ready(), to(-12, "track-1", "track-2"))).toBe("Send 2 channels to Plate");
  });

  it("are set, moved to another channel and taken off", () => {
    const doc = done(ready(), to(-12, "track-1", "track-2"));
    const set: Edit = {
      kind: "entries.set",
      table: "sends",
      ids: ["s-track-1" as SendId],
      set: { tap: "before", levelDb: null },
    };
    expect(done(doc, set).sends["s-track-1" as SendId]).toMatchObject({ tap: "before", levelDb: null });
    expect(nameOf(doc, set)).toBe("Send Clarinet to Plate at −∞ dB");
    const move = (fromId: string): Edit => ({
      kind: "entries.set",
      table: "sends",
      ids: ["s-track-1" as SendId],
      set: { fromId: id(fromId) },
    });
    expect(done(doc, move("track-3")).sends["s-track-1" as SendId]?.fromId).toBe("track-3");
    expect(refused(doc, move("track-2"))).toContain("is sent to Plate already");
    expect(
      entriesOf(done(doc, { kind: "entries.remove", table: "sends", ids: ["s-track-1" as SendId] }).sends),
    ).toHaveLength(1);
  });

  it("go along with the channel they leave or lead to", () => {
    const doc = done(ready(), to(-12, "track-1", "track-2"));
    expect(
      entriesOf(done(doc, { kind: "entries.remove", table: "channels", ids: [id("track-1")] }).sends),
    ).toHaveLength(1);
    expect(entriesOf(done(doc, { kind: "entries.remove", table: "channels", ids: [id("plate")] }).sends)).toEqual([]);
  });

  it.each([
    [{ fromId: "track-1", toId: "track-2" }, "takes no sends"],
    [{ fromId: "main", toId: "plate" }, "nothing is sent from it"],
    [{ fromId: "plate", toId: "plate" }, "can't be sent to itself"],
    [{ fromId: "gone", toId: "plate" }, "no longer there"],
  ])("%j is refused: %s", (ends, says) =>
    expect(
      refused(ready(), {
        kind: "sends.add",
        sends: [{ id: "s" as SendId, ...(ends as never as { fromId: ChannelId; toId: ChannelId }) }],
      }),
    ).toContain(says),
  );
});
