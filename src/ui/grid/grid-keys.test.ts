import type { KeyboardEvent } from "react";
import { describe, expect, it, vi } from "vitest";
import { layoutRows } from "@/core/layout/rows";
import { aTemplate } from "@/core/testing/a-template";
import { gridKeys } from "./grid-keys";
import type { GridEditing } from "./use-grid-editing";
import type { GridSelection } from "./use-grid-selection";

const rows = layoutRows(
  aTemplate()
    .folder("Strings")
    .track("Talkback", { input: "1" })
    .track("Fiddle", { input: "9", folder: "Strings" })
    .build(),
);
const [talkback, strings] = rows;

const press = (
  key: string,
  { row = talkback, column = "name", editing = null, selected = [], ...event }: Record<string, unknown> = {},
) => {
  const selection = {
    row,
    column,
    columns: ["icon", "name", "note"],
    cursor: row ? { rowId: (row as { id: string }).id, column } : null,
    at: 0,
    selected,
    select: vi.fn(),
    stepRow: vi.fn(),
    stepColumn: vi.fn(),
    stepCell: vi.fn(() => true),
    selectAll: vi.fn(),
    selectRows: vi.fn(),
    clear: vi.fn(),
  };
  const editor = {
    editing,
    begin: vi.fn(),
    commit: vi.fn(),
    cancel: vi.fn(),
    clearRange: vi.fn(),
    toggle: vi.fn(),
    setFolderOpen: vi.fn(),
    runAct: vi.fn(),
  };
  const preventDefault = vi.fn();
  gridKeys(
    selection as unknown as GridSelection,
    editor as unknown as GridEditing,
    rows.length,
  )({
    key,
    preventDefault,
    altKey: false,
    ctrlKey: false,
    metaKey: false,
    shiftKey: false,
    ...event,
  } as unknown as KeyboardEvent);
  return { ...selection, ...editor, preventDefault };
};

describe("keys of the grid", () => {
  it("arrows step, with Shift they take rows along", () => {
    expect(press("ArrowDown").stepRow).toHaveBeenCalledWith(1, false);
    expect(press("ArrowUp", { shiftKey: true }).stepRow).toHaveBeenCalledWith(-1, true);
    expect(press("ArrowRight").stepColumn).toHaveBeenCalledWith(1, false);
    expect(press("ArrowLeft", { shiftKey: true }).stepColumn).toHaveBeenCalledWith(-1, true);
    expect(press("PageDown").stepRow).toHaveBeenCalledWith(15, false);
  });

  it("on a folder the arrows fold and unfold it, and Space does either", () => {
    const id = strings?.id;
    expect(press("ArrowLeft", { row: strings }).setFolderOpen).toHaveBeenCalledWith(id, false);
    expect(press("ArrowRight", { row: strings }).setFolderOpen).toHaveBeenCalledWith(id, true);
    expect(press(" ", { row: strings }).setFolderOpen).toHaveBeenCalledWith(id, false);
  });

  it("Home and End go along the row, with Ctrl through the list", () => {
    expect(press("Home").stepColumn).toHaveBeenCalledWith(Number.NEGATIVE_INFINITY, false);
    expect(press("End", { shiftKey: true }).stepColumn).toHaveBeenCalledWith(Number.POSITIVE_INFINITY, true);
    expect(press("Home", { ctrlKey: true }).select).toHaveBeenCalledWith(0);
    expect(press("End", { ctrlKey: true }).select).toHaveBeenCalledWith(rows.length - 1);
  });

  it("Enter and F2 edit what is there, a letter begins anew", () => {
    expect(press("Enter").begin).toHaveBeenCalledWith(talkback, "name", null);
    expect(press("F2").begin).toHaveBeenCalledWith(talkback, "name", null);
    expect(press("v").begin).toHaveBeenCalledWith(talkback, "name", "v");
  });

  it("a letter does nothing where nothing can be typed, and with Ctrl it belongs to the browser", () => {
    expect(press("v", { column: "phantom" }).begin).not.toHaveBeenCalled();
    expect(press("v", { column: "layout" }).begin).not.toHaveBeenCalled();
    const copied = press("c", { ctrlKey: true });
    expect(copied.begin).not.toHaveBeenCalled();
    expect(copied.preventDefault).not.toHaveBeenCalled();
  });

  it("Space turns the switch where one is shown, with Shift it takes the whole row", () => {
    expect(press(" ", { column: "phantom" }).toggle).toHaveBeenCalledWith(talkback?.id, "phantom");
    expect(press(" ", { column: "pad" }).toggle).toHaveBeenCalledWith(talkback?.id, "pad");
    expect(press(" ").toggle).not.toHaveBeenCalled();
    expect(press(" ", { shiftKey: true }).selectRows).toHaveBeenCalled();
  });

  it("Tab goes on from cell to cell, and out of the grid where there is no cursor", () => {
    expect(press("Tab").stepCell).toHaveBeenCalledWith(1);
    expect(press("Tab", { shiftKey: true }).stepCell).toHaveBeenCalledWith(-1);
    const out = press("Tab", { row: undefined, column: undefined });
    expect(out.preventDefault).toHaveBeenCalledTimes(out.cursor ? 1 : 0);
  });

  it("Ctrl A takes all, Delete removes, Backspace empties, Escape gives up", () => {
    expect(press("a", { ctrlKey: true }).selectAll).toHaveBeenCalled();
    expect(press("Delete").runAct).toHaveBeenCalledWith("remove");
    expect(press("Delete", { row: strings }).runAct).toHaveBeenCalledWith("dissolve");
    expect(press("Delete", { row: strings, selected: ["track-1"] }).runAct).toHaveBeenCalledWith("remove");
    expect(press("Backspace").clearRange).toHaveBeenCalled();
    expect(press("Escape").clear).toHaveBeenCalled();
  });

  it("while a cell is edited, and with Alt, the grid keeps out of it", () => {
    expect(press("ArrowDown", { editing: {} }).stepRow).not.toHaveBeenCalled();
    expect(press("ArrowDown", { altKey: true }).stepRow).not.toHaveBeenCalled();
  });
});
