import { notifications } from "@mantine/notifications";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { wholeMill } from "@/core/demo/rigs";
import { layoutRows } from "@/core/layout/rows";
import type { ChannelId, FolderId } from "@/core/model/ids";
import { linesOfTrack, trackOf } from "@/core/model/read-template";
import { newStudio } from "@/core/model/studio";
import type { CellColumn } from "@/core/queries/columns";
import { aTemplate } from "@/core/testing/a-template";
import { focusGrid } from "../grid/grid-focus";
import { createDesk, type DeskStore, doGesture, doPlanned, undoLast } from "../state/desk-store";
import type { ActId, ActTools, GridAct } from "./act";
import { canBeDone, chordOf } from "./act-model";
import { gatherActs, runAct } from "./use-acts";

vi.mock("../grid/grid-focus", async (load) => ({
  ...(await load<typeof import("../grid/grid-focus")>()),
  focusGrid: vi.fn(),
}));

const document = aTemplate(wholeMill)
  .folder("Drums")
  .folder("Strings")
  .track("Snare", { input: "3", folder: "Drums" })
  .track("Above L", { input: "5", folder: "Drums" })
  .track("Above R", { input: "6", folder: "Drums" })
  .track("Fiddle", { input: "2", folder: "Strings" })
  .build();

let desk: DeskStore;
let refusals: string[];

const idOf = (name: string): ChannelId =>
  Object.values(desk.getState().doc.channels).find((channel) => channel.name === name)?.id as ChannelId;
const folderOf = (name: string): FolderId =>
  Object.values(desk.getState().doc.folders).find((folder) => folder.name === name)?.id as FolderId;
const names = () =>
  layoutRows(desk.getState().doc, { unfold: true }).map((row) =>
    row.kind === "track" ? row.track.name : row.folder.name,
  );
const inputsOf = (name: string) =>
  linesOfTrack(desk.getState().doc, trackOf(desk.getState().doc, idOf(name)) ?? expect.unreachable()).map(
    (line) => line.portId,
  );

const told = (refusal: string | null): boolean => {
  if (refusal) refusals.push(refusal);
  return refusal === null;
};

const tools = (): ActTools => ({
  desk,
  rows: "usual",
  setRows: vi.fn(),
  act: (gesture) => told(doGesture(desk, gesture)),
  actPlanned: (plan) => told(doPlanned(desk, plan)),
  actBlock: ({ planned }) => told(doPlanned(desk, planned)),
  undo: () => void undoLast(desk),
  redo: () => {},
});

const acts = (): readonly GridAct[] => gatherActs(desk.getState(), tools());
const actWith = (id: ActId): GridAct =>
  acts().find((act) => act.id === id) ?? expect.unreachable(`there is no act ${id}`);
const run = (id: ActId): void => runAct(acts, id);
const possible = (): readonly ActId[] => acts().flatMap((act) => (canBeDone(act) ? [act.id] : []));

const select = (...tracks: readonly string[]): void => {
  const selected = tracks.map(idOf);
  desk.setState({ selected, cursor: selected[0] ? { rowId: selected[0], column: "name" } : null, anchorColumn: null });
};

beforeEach(() => {
  desk = createDesk({
    document,
    revision: 1,
    savedAt: new Date(0).toISOString(),
    rigs: [wholeMill],
    studio: newStudio("Test"),
  });
  refusals = [];
  vi.mocked(focusGrid).mockClear();
});

describe("acts", () => {
  it("with nothing selected, only what is done to the whole list can be done", () => {
    const scopes = new Set(acts().flatMap((act) => (canBeDone(act) ? [act.scope] : [])));
    expect([...scopes]).toEqual(["list"]);
  });

  it("no key does two things at once, whatever is selected", () => {
    const selections: readonly (() => void)[] = [
      () => select(),
      () => select("Snare"),
      () => select("Above L", "Above R"),
      () => select("Snare", "Above L", "Above R", "Fiddle"),
      () => desk.setState({ selected: [], cursor: { rowId: folderOf("Strings"), column: "name" } }),
    ];
    for (const make of selections) {
      make();
      const keys = acts().flatMap((act) => (canBeDone(act) ? [act.key] : []));
      expect(new Set(keys).size).toBe(keys.length);
    }
  });

  it("each key is one that is listened for", () => {
    select("Snare");
    const listened = (key: string): boolean => {
      const [last = ""] = key.split(" ").slice(-1);
      const code = { "↑": "ArrowUp", "↓": "ArrowDown" }[last] ?? `Key${last}`;
      const held = { altKey: key.includes("Alt"), shiftKey: key.includes("Shift"), ctrlKey: false, metaKey: false };
      return chordOf({ ...held, code, key: last }) === key;
    };
    expect([...new Set(acts().flatMap(({ key }) => (listened(key) ? [] : [key])))]).toEqual([]);
  });

  it("two mono tracks become one stereo track and back, and the grid has the keys again", () => {
    select("Above L", "Above R");
    expect(actWith("pair").whyNot).toBeUndefined();
    expect(actWith("split").whyNot).toBe("Select one stereo track first.");
    run("pair");
    expect(names()).toEqual(["Drums", "Snare", "Above", "Strings", "Fiddle"]);
    expect(focusGrid).toHaveBeenCalledOnce();
    select("Above");
    run("split");
    expect(names()).toEqual(["Drums", "Snare", "Above L", "Above R", "Strings", "Fiddle"]);
    expect(refusals).toEqual([]);
  });

  it("an act that can't be done is not done when it is asked for, and says why", () => {
    const told = vi.spyOn(notifications, "show");
    select("Snare", "Above L", "Above R");
    run("pair");
    expect(desk.getState().pending).toEqual([]);
    expect(focusGrid).not.toHaveBeenCalled();
    expect(told).toHaveBeenCalledExactlyOnceWith(
      expect.objectContaining({ title: "Make one stereo track", message: "Select two mono tracks first." }),
    );
  });

  it("rows are moved in their folder, under a name that undo shows", () => {
    select("Above R");
    run("up");
    expect(names()).toEqual(["Drums", "Snare", "Above R", "Above L", "Strings", "Fiddle"]);
    expect(desk.getState().history.past.at(-1)?.name).toBe("Move the track up");
    undoLast(desk);
    expect(names()).toEqual(["Drums", "Snare", "Above L", "Above R", "Strings", "Fiddle"]);
  });

  it("crossings are undone either way: rows go in input order, or inputs in row order", () => {
    run("rows-in-input-order");
    expect(names()).toEqual(["Strings", "Fiddle", "Drums", "Snare", "Above L", "Above R"]);
    undoLast(desk);
    const before = inputsOf("Fiddle");
    run("inputs-in-row-order");
    expect(inputsOf("Fiddle")).not.toEqual(before);
    expect(names()).toEqual(["Drums", "Snare", "Above L", "Above R", "Strings", "Fiddle"]);
  });

  it("a fill takes the row above when but one is selected", () => {
    desk.setState({
      selected: [idOf("Above L")],
      cursor: { rowId: idOf("Above L"), column: "gain" },
      anchorColumn: null,
    });
    const line = linesOfTrack(
      desk.getState().doc,
      trackOf(desk.getState().doc, idOf("Snare")) ?? expect.unreachable(),
    )[0];
    doGesture(desk, {
      edits: [
        { kind: "entries.set", table: "lines", ids: [line?.id ?? expect.unreachable()], set: { gainDb: 31 as never } },
      ],
    });
    run("fill-down");
    const filled = linesOfTrack(
      desk.getState().doc,
      trackOf(desk.getState().doc, idOf("Above L")) ?? expect.unreachable(),
    )[0];
    expect(filled?.gainDb).toBe(31);
    select("Snare");
    expect(possible()).not.toContain("fill-down");
  });

  it("what takes a track off its input is offered only where there is one", () => {
    select("Fiddle");
    run("unplug");
    expect(inputsOf("Fiddle")).toEqual([null]);
    expect(possible()).not.toContain("unplug");
    expect(actWith("rename-input").whyNot).toContain("on an input");
  });

  it("on a folder, folder acts are offered and those of tracks are not", () => {
    desk.setState({ selected: [], cursor: { rowId: folderOf("Strings"), column: "name" } });
    expect(possible()).toEqual(expect.arrayContaining(["folder-up", "nest", "folder-family", "dissolve"]));
    expect(possible()).not.toEqual(expect.arrayContaining(["remove"]));
    expect(possible()).not.toContain("folder-down");
    expect(possible()).not.toContain("unnest");
    run("folder-up");
    expect(names()).toEqual(["Strings", "Fiddle", "Drums", "Snare", "Above L", "Above R"]);
    run("dissolve");
    expect(names().filter((name) => name === "Strings")).toEqual([]);
    expect(names()).toContain("Fiddle");
  });

  it("a folder in a folder is taken out again", () => {
    doGesture(desk, {
      edits: [
        { kind: "entries.move", table: "folders", ids: [folderOf("Strings")], parent: folderOf("Drums"), before: null },
      ],
    });
    desk.setState({ selected: [], cursor: { rowId: folderOf("Strings"), column: "name" } });
    run("unnest");
    expect(desk.getState().doc.folders[folderOf("Strings")]?.parentId).toBeNull();
  });

  it("all folders are folded in one act, and unfolded in the next", () => {
    run("fold-all");
    expect(Object.values(desk.getState().doc.folders).map((folder) => folder.open)).toEqual([false, false]);
    expect(actWith("fold-all").label).toBe("Unfold all folders");
    run("fold-all");
    expect(Object.values(desk.getState().doc.folders).map((folder) => folder.open)).toEqual([true, true]);
  });

  it("labels say how many tracks are meant", () => {
    select("Snare", "Fiddle");
    expect(actWith("remove").label).toBe("Remove 2 tracks");
    select("Snare");
    expect(actWith("remove").label).toBe("Remove the track");
  });

  it("what the filter hides is not touched", () => {
    select("Snare", "Fiddle");
    desk.setState({ filter: "fiddle" });
    expect(actWith("remove").label).toBe("Remove the track");
    run("remove");
    expect(Object.values(desk.getState().doc.channels).map((channel) => channel.name)).toContain("Snare");
  });

  it("a range spans the columns between where it began and where the cursor is", () => {
    const from: CellColumn = "gain";
    desk.setState({
      selected: [idOf("Snare"), idOf("Above L")],
      cursor: { rowId: idOf("Above L"), column: "input" },
      anchorColumn: from,
      columns: ["name", "input", "gain", "note"],
    });
    run("fill-ascending");
    expect(refusals).toEqual([]);
    expect(inputsOf("Above L")).not.toEqual(inputsOf("Snare"));
    expect(desk.getState().history.past).toHaveLength(1);
  });
});
