import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../demo/rigs";
import { pasteColumns } from "../formats/input-list/paste-columns";
import { EMPTY_HISTORY } from "../history/history";
import { type ChannelId, sequentialIds } from "../model/ids";
import { tracksOf } from "../model/read-template";
import type { Template } from "../model/template";
import { CELL_COLUMNS, type CellColumn } from "../queries/columns";
import { aTemplate } from "../testing/a-template";
import { perform, undo } from "../testing/undoing";
import {
  type BlockPlan,
  blockTexts,
  clearCells,
  countOn,
  fillAscending,
  fillDown,
  pasteBlock,
  writeCells,
} from "./block";
import { applyAll } from "./edits/template-editing";

const rig = wheelhouseCart;
const ids = () => {
  const next = sequentialIds();
  return <T extends string>(kind: string) => `new-${next<T>(kind)}` as T;
};
const band = () =>
  aTemplate()
    .folder("Strings", "weld")
    .track("Tom 1", { input: "1", microphone: "Moving-coil 1", player: "Pell Marrow" })
    .track("Snare", { input: "2" })
    .track("Ride", { input: "3" })
    .track("Fiddle", { input: "9", folder: "Strings", phantom: true })
    .build();
const trackIds = ["track-1", "track-2", "track-3"] as ChannelId[];

const done = (doc: Template, { planned }: BlockPlan): Template => {
  if (!planned.ok) throw new Error(planned.message);
  const applied = applyAll(doc, planned.gesture.edits);
  if (!applied.ok) throw new Error(applied.refusal.message);
  return applied.doc;
};
const texts = (doc: Template, columns: readonly CellColumn[], of: readonly ChannelId[] = trackIds) =>
  blockTexts(doc, rig, { trackIds: of, columns });
const names = (doc: Template) => tracksOf(doc).map((track) => track.name);

describe("filling", () => {
  it("down gives every row what the first has", () => {
    const doc = done(
      band(),
      fillDown(band(), rig, { block: { trackIds, columns: ["microphone", "input", "player"] }, ids: ids() }),
    );
    expect(texts(doc, ["microphone", "player", "input"])).toEqual([
      ["Moving-coil 1", "Pell Marrow", "1"],
      ["Moving-coil 1", "Pell Marrow", "2"],
      ["Moving-coil 1", "Pell Marrow", "3"],
    ]);
  });

  it("ascending counts names on, and inputs as they sit on the rig", () => {
    const doc = done(
      band(),
      fillAscending(band(), rig, { block: { trackIds, columns: ["name", "microphone", "input"] }, ids: ids() }),
    );
    expect(texts(doc, ["name", "microphone", "input"])).toEqual([
      ["Tom 1", "Moving-coil 1", "1"],
      ["Tom 2", "Moving-coil 2", "2"],
      ["Tom 3", "Moving-coil 3", "3"],
    ]);
  });

  it("inputs from the preamp on pass over those that carry a return", () => {
    const start = aTemplate().track("A", { input: "13" }).track("B").track("C").build();
    const plan = fillAscending(start, rig, { block: { trackIds, columns: ["input"] }, ids: ids() });
    expect(plan.planned).toMatchObject({
      ok: false,
      message: "From input 13 on there are only 2 inputs, and 3 are needed.",
    });
  });

  it("needs two rows, and something that can be given to several", () => {
    expect(
      fillDown(band(), rig, { block: { trackIds: trackIds.slice(0, 1), columns: ["player"] }, ids: ids() }).planned,
    ).toMatchObject({ ok: false });
    expect(fillDown(band(), rig, { block: { trackIds, columns: ["input"] }, ids: ids() }).planned).toMatchObject({
      ok: false,
      message: expect.stringContaining("one input"),
    });
  });

  it.each([
    ["Tom 1", 2, "Tom 3"],
    ["E09 low", 1, "E10 low"],
    ["Chair", 1, "Chair 2"],
    ["", 4, ""],
  ])("%j counted on by %i is %j", (text, by, expected) => expect(countOn(text, by)).toBe(expected));
});

describe("pasting", () => {
  const paste = (doc: Template, cells: string[][], columns: readonly CellColumn[], from: readonly ChannelId[] = []) =>
    pasteBlock(doc, rig, { cells, columns, trackIds: from, folderId: null, ids: ids() });

  it("forty rows land in one gesture, and are gone in one undo", () => {
    const cells = Array.from({ length: 40 }, (_, n) => [
      `Voice ${n + 1}`,
      "Large condenser A",
      String(n + 1),
      "yes",
      "Choir",
    ]);
    const plan = paste(band(), cells, ["name", "microphone", "input", "phantom", "folder"]);
    if (!plan.planned.ok) throw new Error(plan.planned.message);
    const step = perform(band(), EMPTY_HISTORY, plan.planned.gesture);
    if (!step.ok) throw new Error(step.refusal.message);
    expect([step.name, tracksOf(step.doc).length, step.history.past.length, plan.leftOut]).toEqual([
      "Add 40 tracks",
      44,
      1,
      [],
    ]);
    const choir = tracksOf(step.doc).filter((track) => track.folderId === tracksOf(step.doc).at(-1)?.folderId);
    expect(choir.map((track) => track.name).slice(0, 2)).toEqual(["Voice 1", "Voice 2"]);
    const back = undo(step.doc, step.history);
    expect(back.ok && back.doc).toEqual(band());
  });

  it("over rows that are there changes them, and adds what goes beyond the last", () => {
    const doc = done(
      band(),
      paste(
        band(),
        [
          ["Kick", "7"],
          ["Side", "8"],
        ],
        ["name", "input"],
        ["track-4" as ChannelId],
      ),
    );
    expect(names(doc)).toEqual(expect.arrayContaining(["Kick", "Side"]));
    expect(texts(doc, ["name", "input"], ["track-4" as ChannelId])).toEqual([["Kick", "7"]]);
  });

  it("an input the rig lacks is kept as asked for, two inputs make a stereo track", () => {
    const doc = done(
      band(),
      paste(
        band(),
        [
          ["Far guest", "99"],
          ["Above", "5-6"],
        ],
        ["name", "input"],
      ),
    );
    const [guest, above] = tracksOf(doc).slice(-2);
    expect(Object.values(doc.lines).find((line) => line.requestedInput === "99")).toBeDefined();
    expect([guest?.input.kind, above?.input.kind]).toEqual(["line", "pair"]);
    expect(texts(doc, ["input"], [above?.id as ChannelId])).toEqual([["5-6"]]);
  });

  it("a cell that can't be read is left as it was and told, the rest goes in", () => {
    const plan = paste(
      band(),
      [["Kick", "perhaps", "purplish"]],
      ["name", "phantom", "colour"],
      ["track-1" as ChannelId],
    );
    expect(plan.leftOut).toEqual([
      "Kick: “perhaps” says neither yes nor no.",
      "Kick: “purplish” is no dye. Choose one from the list, or type a hex value such as #2f9074.",
    ]);
    expect(names(done(band(), plan))).toContain("Kick");
  });

  it("what was copied can be pasted again and changes nothing", () => {
    const all = { trackIds: [...trackIds, "track-4" as ChannelId], columns: CELL_COLUMNS };
    const plan = pasteBlock(band(), rig, { ...all, cells: blockTexts(band(), rig, all), folderId: null, ids: ids() });
    expect(plan).toMatchObject({ planned: { ok: false }, leftOut: [] });
  });

  it("a block with a heading row says itself what its columns are", () => {
    expect(
      pasteColumns([
        ["Kanal", "Quelle", "Mikrofon", "Preis"],
        ["3", "Geige", "Kondensator", "9"],
      ]),
    ).toEqual({
      cells: [["3", "Geige", "Kondensator", "Geige"]],
      columns: ["input", "source", "microphone", "name"],
      leftOut: ["The column “Preis” has no known meaning."],
    });
    expect(pasteColumns([["Fiddle", "9"]])).toEqual({ cells: [["Fiddle", "9"]], columns: null, leftOut: [] });
  });

  it("a heading row may name any column of the grid", () => {
    const headings = ["Track", "Gain dB", "Pad", "Polarity", "Room", "Icon", "Stand"];
    expect(pasteColumns([headings, ["Fiddle", "32", "yes", "normal", "Loft", "bowed", "near"]])).toMatchObject({
      columns: ["name", "gain", "pad", "polarity", "room", "icon", "position"],
      leftOut: [],
    });
  });

  it("nothing, or far too much, is told", () => {
    expect(paste(band(), [], ["name"]).planned.ok).toBe(false);
    expect(
      paste(
        band(),
        Array.from({ length: 5000 }, () => ["x"]),
        ["name"],
      ).planned,
    ).toMatchObject({ ok: false, message: expect.stringContaining("4096") });
  });
});

describe("a range", () => {
  it("is emptied where cells have an empty state", () => {
    const doc = done(
      band(),
      clearCells(band(), rig, { block: { trackIds, columns: ["name", "microphone", "input", "player"] }, ids: ids() }),
    );
    expect(texts(doc, ["name", "microphone", "input", "player"])[0]).toEqual(["Tom 1", "", "", ""]);
  });

  it("is written as one gesture with a name of its own", () => {
    const writes = trackIds.map((trackId) => ({ trackId, column: "room" as const, text: "Booth" }));
    const { planned } = writeCells(band(), rig, { writes, ids: ids(), name: "Put three in the Booth" });
    expect(planned).toMatchObject({ ok: true, gesture: { name: "Put three in the Booth" } });
  });

  it("a source typed for a track that takes nothing gives it a line", () => {
    const empty = aTemplate()
      .does({
        kind: "tracks.add",
        tracks: [
          {
            id: "track-9" as ChannelId,
            name: "Spare",
            note: "",
            colour: null,
            icon: null,
            input: { kind: "none" },
            sharing: null,
          },
        ],
        lines: [],
        folderId: null,
        before: null,
      })
      .build();
    const doc = done(
      empty,
      writeCells(empty, rig, {
        writes: [{ trackId: "track-9" as ChannelId, column: "source", text: "Harp" }],
        ids: ids(),
        name: "x",
      }),
    );
    expect(Object.values(doc.lines).map((line) => line.source)).toEqual(["Harp"]);
  });

  it("made stereo takes the neighbour with it, made mono lets it go", () => {
    const set = (doc: Template, text: string) =>
      done(
        doc,
        writeCells(doc, rig, {
          writes: [{ trackId: "track-3" as ChannelId, column: "layout", text }],
          ids: ids(),
          name: "x",
        }),
      );
    const stereo = set(band(), "stereo");
    expect(texts(stereo, ["layout", "input"], ["track-3" as ChannelId])).toEqual([["stereo", "3-4"]]);
    expect(texts(set(stereo, "mono"), ["layout", "input"], ["track-3" as ChannelId])).toEqual([["mono", "3"]]);
  });
});
