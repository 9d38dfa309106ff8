import { describe, expect, it } from "vitest";
import { wheelhouseCart, wholeMill } from "../demo/rigs";
import type { ChainProcessorId, ChannelId, FolderId } from "../model/ids";
import { trackOf, tracksOf } from "../model/read-template";
import { newProcessor } from "../model/tables/chain-processors";
import { apply, applyAll } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { inputField, inputHeights } from "./input-field";
import { loomThreads, threadPath } from "./loom";
import { patchingSheet } from "./patching-sheet";
import { layoutRows, selvedge } from "./rows";
import { searchText } from "./search-text";
import { feedsOf, wayOf } from "./signal-path";

const doc = aTemplate()
  .folder("Strings", "weld")
  .track("Talkback", { input: "1" })
  .track("Fiddle", {
    input: "9",
    folder: "Strings",
    microphone: "Clip-on condenser 1",
    phantom: true,
    player: "Wynn Solari",
  })
  .track("Cimbalom", { input: ["11", "12"], folder: "Strings", microphone: "Passive ribbon pair", note: "no phantom" })
  .track("Voice", { input: "17" })
  .build();

const words = (rows: ReturnType<typeof layoutRows>) =>
  rows.map((row) => (row.kind === "folder" ? `[${row.folder.name} ${row.trackCount}]` : row.track.name));

describe("rows", () => {
  it("show tracks outside folders first, then each folder with its own", () => {
    expect(words(layoutRows(doc))).toEqual(["Talkback", "Voice", "[Strings 2]", "Fiddle", "Cimbalom"]);
  });

  it("hide what is in a folded folder, but not on paper", () => {
    const folded = apply(doc, {
      kind: "entries.set",
      table: "folders",
      ids: ["folder-1" as never],
      set: { open: false },
    });
    if (!folded.ok) throw new Error("expected to fold");
    expect(words(layoutRows(folded.doc))).toEqual(["Talkback", "Voice", "[Strings 2]"]);
    expect(words(layoutRows(folded.doc, { unfold: true }))).toHaveLength(5);
  });

  it("count tracks of inner folders and carry the dye down", () => {
    const nested = apply(doc, {
      kind: "entries.add",
      entries: { folders: [{ id: "inner" as never, name: "Bowed", colour: null, parentId: "folder-1" as never }] },
    });
    const moved = nested.ok
      ? apply(nested.doc, {
          kind: "entries.move",
          table: "channels",
          ids: ["track-2" as never],
          parent: "inner" as never,
          before: null,
        })
      : nested;
    if (!moved.ok) throw new Error("expected to move");
    const rows = layoutRows(moved.doc);
    expect(words(rows)).toEqual(["Talkback", "Voice", "[Strings 2]", "Cimbalom", "[Bowed 1]", "Fiddle"]);
    expect(rows.at(-1)).toMatchObject({ depth: 2, colour: "weld" });
  });

  it("make the selvedge, one thread a track", () => {
    expect(selvedge(doc)).toEqual(["slate", "slate", "weld", "weld"]);
  });
});

describe("the jack field", () => {
  const rigInputs = inputField(doc, wheelhouseCart).flatMap((group) => group.rigInputs);
  const at = (label: string) => rigInputs.find((view) => view.rigInput.label === label);

  it("shows every input as it sits", () => {
    expect(inputField(doc, wholeMill).map((group) => [group.device.name, group.rigInputs.length])).toEqual([
      ["Brindle 16", 18],
      ["Brindle Eight", 8],
    ]);
  });

  it("says what is on an input, and what is wired to it", () => {
    expect(at("9")).toMatchObject({ state: "used", colour: "weld", says: "Fiddle", caption: "line ← Thistle 1" });
    expect(at("8")).toMatchObject({ state: "free", says: "free", caption: "mic/line/inst" });
    expect(at("15")).toMatchObject({ state: "blocked", says: "carries the Stair", caption: "line ← Stair" });
  });

  it("puts jacks one below the other, under the title of their device", () => {
    const heights = inputHeights(inputField(doc, wholeMill), { top: 10, title: 30, rigInput: 20 });
    expect(["brindle:in:1", "brindle:in:2", "eight:in:1"].map((id) => heights.get(id as never))).toEqual([
      50,
      70,
      10 + 30 + 18 * 20 + 30 + 10,
    ]);
  });

  it("says that a port is not there at this rate", () => {
    const fast = apply(aTemplate(wholeMill).build(), {
      kind: "settings.set",
      set: { format: { sampleRateHz: 192000 } },
    });
    if (!fast.ok) throw new Error("expected the rate to change");
    const eight = inputField(fast.doc, wholeMill)[1]?.rigInputs.map((view) => view.state);
    expect(eight).toEqual(["free", "free", "blocked", "blocked", "blocked", "blocked", "blocked", "blocked"]);
  });
});

describe("the loom", () => {
  const heights = {
    inputY: new Map([
      ["brindle:in:9", 100],
      ["brindle:in:11", 140],
      ["brindle:in:12", 160],
    ] as never),
    rowY: (index: number) => index * 30,
  };

  it("draws a thread from each jack that is shown to its row, two for stereo", () => {
    expect(
      loomThreads(layoutRows(doc), heights as never).map(({ fromY, toY, colour }) => [fromY, toY, colour]),
    ).toEqual([
      [100, 90, "weld"],
      [140, 117, "weld"],
      [160, 123, "weld"],
    ]);
  });

  it("leaves the jack and meets the row level", () => {
    expect(threadPath({ fromY: 10, toY: 70 }, 100)).toBe("M0 10C50 10 50 70 100 70");
  });
});

describe("the patching sheet", () => {
  const sheet = patchingSheet(doc, wheelhouseCart);

  it("goes device by device, input by input, and puts last what can't be plugged in", () => {
    expect(sheet.sections.map((section) => [section.title, section.rows.map((row) => row.input)])).toEqual([
      ["Brindle 16", ["1", "9", "11", "12"]],
      ["Without an input", ["17"]],
    ]);
  });

  it("says through which preamp, which side, with phantom or not", () => {
    expect(sheet.sections[0]?.rows.slice(1, 3)).toMatchObject([
      {
        through: "Thistle Four 1",
        source: "Fiddle",
        microphone: "Clip-on condenser 1",
        phantom: "own",
        player: "Wynn Solari",
      },
      {
        through: "Thistle Four 3",
        source: "Cimbalom L",
        microphone: "Passive ribbon pair",
        phantom: null,
        note: "no phantom",
      },
    ]);
  });

  it("counts lines and those with 48 V", () => {
    expect([sheet.lineCount, sheet.phantomCount, sheet.subtitle]).toEqual([
      5,
      1,
      "Band · Wheelhouse cart · 48 kHz · 24 bit",
    ]);
  });
});

describe("what is parked", () => {
  it("is left out of the sheet, which says how much that is", () => {
    const parked = apply(doc, {
      kind: "entries.set",
      table: "channels",
      ids: ["track-2" as never],
      set: { parked: true },
    });
    const left = parked.ok ? patchingSheet(parked.doc, wheelhouseCart) : expect.unreachable();
    expect([left.lineCount, left.phantomCount, left.sections[0]?.rows.map((row) => row.input)]).toEqual([
      4,
      0,
      ["1", "11", "12"],
    ]);
    expect(left.subtitle).toBe("Band · Wheelhouse cart · 48 kHz · 24 bit · 1 parked line left out");
  });
});

describe("the way of a signal", () => {
  it("leads from the plug to the loudspeaker", () => {
    const fiddle = tracksOf(doc).find((track) => track.name === "Fiddle");
    expect(fiddle && wayOf(doc, wheelhouseCart, fiddle)).toEqual([
      { title: "Input 9", detail: "Clip-on condenser 1, line ← Thistle 1, 48 V" },
      { title: "Fiddle", detail: "records here", channelId: "track-2" },
      { title: "Main", detail: "sums 4", channelId: "main" },
      { title: "Outputs 1–2", detail: "out of the interface" },
    ]);
  });

  it("says where it ends before that", () => {
    const routed = apply(doc, {
      kind: "entries.set",
      table: "channels",
      ids: ["track-4" as never],
      set: { output: { kind: "nowhere" } },
    });
    if (!routed.ok) throw new Error("expected to route");
    const voice = tracksOf(routed.doc).find((track) => track.name === "Voice");
    expect(voice && wayOf(routed.doc, wheelhouseCart, voice).map((step) => step.title)).toEqual([
      "Input 17",
      "Voice",
      "Nowhere",
    ]);
  });
});

describe("what a template is found by", () => {
  it("is everything in it that has a name", () => {
    const text = searchText(doc);
    for (const word of ["evening", "fiddle", "wynn solari", "passive ribbon pair", "strings", "no phantom"])
      expect(text).toContain(word);
  });
});

describe("what a way is held back by", () => {
  it("is said on the way down and by what feeds a bus, for all but the latest", () => {
    const doc = aTemplate()
      .folder("Voices")
      .track("Lead", { input: "1", folder: "Voices" })
      .track("Second", { input: "2", folder: "Voices" })
      .build();
    const limiter = newProcessor("limiter", {
      id: "p" as ChainProcessorId,
      channelId: "track-1" as ChannelId,
      lookaheadMs: 2,
      delaySamples: 96,
    });
    const done = applyAll(doc, [
      { kind: "folders.sum", sums: [{ folderId: "folder-1" as FolderId, busId: "bus-1" as ChannelId }] },
      { kind: "entries.add", entries: { processors: [limiter as never] } },
    ]);
    const held = done.ok ? done.doc : expect.unreachable(done.refusal.message);
    const [lead, second] = ["track-1", "track-2"].map((id) => trackOf(held, id as ChannelId) ?? expect.unreachable(id));
    const down = (track: typeof lead) =>
      wayOf(held, wheelhouseCart, track as never).find(({ title }) => title === "Voices")?.detail;
    expect(down(second)).toContain("held back by 96 samples, 2 ms");
    expect(down(lead)).not.toContain("held back");
    expect(feedsOf(held, wheelhouseCart, "bus-1" as ChannelId).map(({ title, detail }) => [title, detail])).toEqual([
      ["Lead", ""],
      ["Second", "held back by 96 samples, 2 ms"],
    ]);
  });
});
