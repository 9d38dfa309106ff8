import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { tracksOf } from "@/core/model/read-template";
import { COLUMN } from "../testing/columns";
import {
  button,
  cell,
  dialog,
  grid,
  hasKeys,
  inspector,
  openDemo,
  reads,
  row,
  rowOrNone,
  says,
  undoOf,
} from "../testing/open";

const open = (id: string) => openDemo("inputs", id);
const nine = () => open("tidewrack-nine");
const gone = (name: string) => waitFor(() => expect(rowOrNone(name) === undefined).toBe(true));
const there = (name: string) => waitFor(() => row(name));

describe("cells", () => {
  it("are edited as in a spreadsheet: typing, F2, Enter, Tab, Esc, Backspace, Space", async () => {
    const { press, type } = await nine();
    grid().focus();
    await waitFor(() => expect(row("Percussion").getAttribute("aria-selected")).toBe("true"));
    await press("ArrowDown", "F2", "End");
    await type(" in");
    await press("Escape");
    await there("Bass drum");
    await type("Kick-drum");
    await press("Enter");
    await waitFor(() => expect(row("Frame drum").getAttribute("aria-selected")).toBe("true"));
    await type("Bodhran");
    await press("Tab", "Tab");
    await type("DI box passive 1");
    await press("Tab");
    await reads("Bodhran", COLUMN.microphone, "DI box passive 1");
    await press("ArrowRight", " ");
    await reads("Bodhran", COLUMN.phantom, /48 V/);
    await press("ArrowLeft", "Backspace");
    await reads("Bodhran", COLUMN.input, /–/);
    await press("End");
    await type("by the door");
    await press("Enter");
    await reads("Bodhran", COLUMN.note, "by the door");
    await undoOf("Note on Bodhran");
  });

  it("of colour and icon are chosen by typing names", async () => {
    const { press, type } = await open("pocket-sketch");
    grid().focus();
    await press("ArrowLeft");
    await type("ver");
    await screen.findByRole("option", { name: "verdigris" });
    await press("Enter");
    await reads("Guitar", COLUMN.colour, "verdigris");
    await press("ArrowLeft", "Enter");
    await type("keys");
    await press("Enter");
    await reads("Guitar", COLUMN.icon, "Keys");
  });

  it("refuse an input that the rig lacks, with what there is", async () => {
    const { user, press, type, service } = await open("pocket-sketch");
    await user.click(cell("Guitar", COLUMN.input));
    await type("9");
    await press("Enter");
    await says("Duo has no input 9. It has 1 to 2.");
    await press("Escape");
    await reads("Guitar", COLUMN.input, "1");
    expect(service.head).toBe(1);
  });

  it("are opened by a double press, and keep what was typed when something beside them is pressed", async () => {
    const { user, type } = await nine();
    await user.dblClick(cell("Snare", COLUMN.name));
    await user.keyboard("{Control>}a{/Control}");
    await type("Side drum");
    await user.click(cell("Fiddle", COLUMN.note));
    await there("Side drum");
    hasKeys(grid());
    await user.dblClick(cell("Trumpet", COLUMN.name));
    await user.keyboard("{Control>}a{/Control}");
    await type("Cornet");
    await user.click(screen.getByLabelText("Filter the rows"));
    await type("cor");
    expect(screen.getByLabelText<HTMLInputElement>("Filter the rows").value).toBe("cor");
    await there("Cornet");
  });

  it("of sends and chain take what is typed, for a range at once; a bus is recorded by its name as the input", async () => {
    const { user, saved, press, type } = await nine();
    await user.click(button("Columns and rows"));
    for (const name of ["Sends", "Chain"]) await user.click(await screen.findByRole("checkbox", { name }));
    await press("Escape");
    const at = (name: string): number =>
      Number(screen.getByRole("columnheader", { name: new RegExp(`^${name}`) }).getAttribute("aria-colindex"));
    const [sends, chain] = [at("Sends"), at("Chain")];
    await reads("Fiddle", sends, "Stair chamber −15");
    await reads("Fiddle", chain, "Equaliser, compressor");
    await user.click(cell("Clarinet", sends));
    await type("Plate -9 before");
    await press("Enter");
    await reads("Clarinet", sends, "Plate −9 before");
    await user.click(cell("Clarinet", sends));
    await press("Shift+ArrowDown", "Shift+ArrowDown", "Alt+j");
    await reads("Sousaphone", sends, "Plate −9 before");
    await user.click(cell("Trumpet", chain));
    await type("Any voice");
    await press("ArrowDown", "Enter");
    await reads("Trumpet", chain, "High-pass, compressor");
    await user.click(cell("Trumpet", sends));
    await type("Hall -3");
    await press("Enter");
    await says(/There is no return and no bus Hall/);
    await press("Escape");
    await user.click(cell("Second voice", COLUMN.input));
    await type("Keys");
    await press("Enter");
    await reads("Second voice", COLUMN.input, "Keys");
    const doc = await saved();
    const voice = tracksOf(doc).find(({ name }) => name === "Second voice");
    expect(voice?.input.kind === "bus" && doc.channels[voice.input.busId]?.name).toBe("Keys");
  });

  it("of the output take the name of a bus, for all that are selected", async () => {
    const { user, press, type } = await nine();
    await user.click(button("Columns and rows"));
    await user.click(await screen.findByRole("checkbox", { name: "Output" }));
    await press("Escape");
    const at = Number(screen.getByRole("columnheader", { name: /^Output/ }).getAttribute("aria-colindex"));
    await reads("Accordion", at, "Keys");
    await user.dblClick(cell("Accordion", at));
    await press("Control+a");
    await type("win");
    await press("Enter");
    await reads("Accordion", at, "Winds");
    await undoOf("Route Accordion to Winds");
    await user.click(cell("Clarinet", at));
    await press("Shift+ArrowDown");
    await type("voi");
    await press("Enter");
    for (const name of ["Clarinet", "Trumpet"]) await reads(name, at, "Voices");
    await press("Control+z");
    for (const name of ["Clarinet", "Trumpet"]) await reads(name, at, "Winds");
  });
});

describe("what reaches further than is seen", () => {
  it("Delete with all selected means the tracks, also where the cursor stands on a folder", async () => {
    const { user, press, saved } = await nine();
    await user.click(cell("Bass drum", COLUMN.name));
    await press("ArrowUp");
    await screen.findByRole("heading", { name: "Percussion" });
    await press("Control+a", "Delete");
    await gone("Snare");
    await there("Percussion");
    await press("Control+z");
    await there("Snare");
    expect(tracksOf(await saved())).toHaveLength(16);
  });

  it("naming by pattern shows the first and the last names", async () => {
    const { user, press, fill } = await nine();
    await user.click(cell("Bass drum", COLUMN.name));
    await press("Control+a", "Alt+t");
    expect((await dialog()).textContent).toMatch(/Bass drum → Bass drum.*more …/s);
    await fill(screen.getByRole("textbox", { name: "Pattern" }), "{input} {source}");
    await waitFor(async () => expect((await dialog()).textContent).toContain("Bass drum → 1 Bass drum"));
  });

  it("a choice offered is taken whole by Enter, and a new folder is made only by saying so", async () => {
    const { user, press, type } = await nine();
    await user.click(cell("Fiddle", COLUMN.folder));
    await type("perc");
    await screen.findByRole("option", { name: "New folder “perc”" });
    await press("Enter");
    await reads("Fiddle", COLUMN.folder, "Percussion");
    await user.click(cell("Fiddle", COLUMN.folder));
    await type("wi");
    await user.click(within(await inspector()).getByRole("heading", { level: 2 }));
    await says(/“wi”, typed as Folder of Fiddle: there is no such folder/);
    await user.click(cell("Fiddle", COLUMN.folder));
    await type("win");
    await press("ArrowDown", "Enter");
    await reads("Fiddle", COLUMN.folder, "win");
  });
});

describe("Ctrl Z", () => {
  it("in a field of the inspector takes back the edit it kept; one too many is told quietly", async () => {
    const { user, press, fill, saved } = await nine();
    await user.click(cell("Fiddle", COLUMN.name));
    await within(await inspector()).findByRole("heading", { name: "Fiddle" });
    const note = () => screen.getByRole<HTMLInputElement>("textbox", { name: "Note" });
    await fill(note(), "near the wall");
    await press("Enter");
    await undoOf(/^Undo: /);
    await press("Control+z");
    await waitFor(() => expect(note().value).toBe(""));
    for (let n = 0; n < 4; n++) await press("Control+z");
    await says("There is nothing to undo.");
    expect(screen.getAllByText("There is nothing to undo.")).toHaveLength(1);
    expect(tracksOf(await saved()).find(({ name }) => name === "Fiddle")?.note).toBe("");
  });

  it("right after a drop-down, a switch or a dialog takes back what they did", async () => {
    const { user, press, fill, saved, choose, service } = await nine();
    const before = service.doc;
    await user.click(cell("Fiddle", COLUMN.name));
    await within(await inspector()).findByRole("heading", { name: "Fiddle" });
    const icon = () => screen.getByRole<HTMLInputElement>("combobox", { name: "Icon" });
    const was = icon().value;
    await choose("Icon", "no icon");
    await waitFor(() => expect(icon().value).toBe("no icon"));
    await press("Control+z");
    await waitFor(() => expect(icon().value).toBe(was));
    const pad = () => screen.getByRole<HTMLInputElement>("switch", { name: "Pad" });
    await user.click(pad());
    await waitFor(() => expect(pad().checked).toBe(true));
    await press("Control+z");
    await waitFor(() => expect(pad().checked).toBe(false));
    await user.click(button(/Format and rig$/));
    const rate = () => screen.getByRole<HTMLInputElement>("combobox", { name: "Sample rate" });
    await choose("Sample rate", "96 kHz");
    await waitFor(() => expect(rate().value).toBe("96 kHz"));
    await press("Control+z");
    await waitFor(() => expect(rate().value).toBe("48 kHz"));
    await press("Escape");
    await user.click(cell("Fiddle", COLUMN.name));
    await press("Alt+t");
    await fill(await screen.findByRole("textbox", { name: "Pattern" }), "{input} bow");
    await press("Enter");
    await there("9 bow");
    await press("Control+z");
    await gone("9 bow");
    expect(await saved()).toEqual(before);
  });
});
