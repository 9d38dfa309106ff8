import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { tracksOf } from "@/core/model/read-template";
import { COLUMN } from "../testing/columns";
import {
  button,
  cell,
  copied,
  dialog,
  dialogHasKeys,
  grid,
  hasKeys,
  inspector,
  openDemo,
  openEmpty,
  paste,
  reads,
  row,
  rowOrNone,
  says,
  undoOf,
} from "../testing/open";

const open = (id: string) => openDemo("inputs", id);
const nine = () => open("tidewrack-nine");
const empty = (rigId?: string) => openEmpty("inputs", rigId);
/** The one cell of a folder's row: its name stands on its tracks as well. */
const folderCell = (name: string): HTMLElement => {
  const found = within(grid())
    .getAllByRole("row")
    .map((one) => within(one).queryAllByRole("gridcell"))
    .find(([first, ...more]) => first?.textContent?.startsWith(name) && more.length === 0);
  return found?.[0] ?? expect.unreachable();
};
const findings = () => screen.findByRole("complementary", { name: "Findings" });
const order = () =>
  within(grid())
    .getAllByRole("row")
    .map(({ textContent }) => textContent ?? "");
const isBefore = (one: string, other: string): void => {
  const rows = order();
  expect(rows.findIndex((text) => text.includes(one))).toBeLessThan(rows.findIndex((text) => text.includes(other)));
};
const gone = (name: string) => waitFor(() => expect(rowOrNone(name) === undefined).toBe(true));
const there = (name: string) => waitFor(() => row(name));

describe("rows that are pasted", () => {
  it("forty from a spreadsheet land in one paste and are gone in one undo", async () => {
    const { user, saved, press, service } = await empty("whole-mill");
    const rows = Array.from(
      { length: 40 },
      (_, n) => `${n + 1}\tVoice ${n + 1}\tcondenser\t${n % 2 ? "Altos" : "Sopranos"}`,
    );
    grid().focus();
    await paste(`Input\tSource\tMicrophone\tFolder\n${rows.join("\n")}\n`);
    await waitFor(() => expect(grid().getAttribute("aria-rowcount")).toBe("44"));
    await press("Control+Home");
    await reads("Voice 1", COLUMN.input, "1");
    const doc = await saved();
    expect([tracksOf(doc).length, Object.keys(doc.folders).length, service.head]).toEqual([40, 2, 2]);
    await user.click(await undoOf("Add 40 tracks"));
    await waitFor(() => expect(grid().getAttribute("aria-rowcount")).toBe("2"));
    expect(tracksOf(await saved())).toEqual([]);
  });

  it("land without what can't be kept, which is told", async () => {
    const { saved } = await empty("whole-mill");
    grid().focus();
    await paste("Track\tInput\tGain\nSna\u0000re\u0007\t3\tloud\nTom\ud800\t999\t20\n");
    await says(/“loud” is no gain/);
    const doc = await saved();
    expect(tracksOf(doc).map((track) => track.name)).toEqual(["Snare", "Tom\ufffd"]);
    expect(Object.values(doc.lines).map((line) => [line.requestedInput, line.gainDb])).toEqual([
      [null, null],
      ["999", 20],
    ]);
    await screen.findAllByRole("button", { name: /problem/ });
  });

  it("two become two tracks in no cue, come in together by one press, and one undo takes that back", async () => {
    const { user, saved, press } = await nine();
    const heard = async (name: string) => {
      const { cueLevels, channels } = await saved();
      return Object.values(cueLevels).filter(({ sourceId }) => channels[sourceId]?.name === name).length;
    };
    grid().focus();
    await press("Control+End", "ArrowDown");
    await paste("Bassoon\nOboe\n");
    await says("2 new tracks in no cue yet.");
    expect(await heard("Oboe")).toBe(0);
    await user.click(button(/^Bring in as .+ is, in 4 cues$/));
    expect([await heard("Bassoon"), await heard("Oboe")]).toEqual([4, 4]);
    await user.click(await undoOf(/^Undo: Bring 2 new tracks into the cues/));
    expect(await heard("Oboe")).toBe(0);
  });
});

describe("a range", () => {
  it("is copied, pasted, filled and emptied by keyboard", async () => {
    const { user, saved, press } = await nine();
    await user.click(cell("Frame drum", COLUMN.name));
    await press("Shift+ArrowDown", "Shift+ArrowDown", "Shift+ArrowRight", "Shift+ArrowRight");
    expect(await copied()).toBe(
      "Frame drum\tmono\tMoving-coil 1\nSnare\tmono\tMoving-coil 2\nShaker table\tmono\tMoving-coil 3",
    );
    await user.click(cell("Frame drum", COLUMN.player));
    await press("Shift+ArrowDown");
    await paste("Tom Hallgarth");
    await reads("Snare", COLUMN.player, "Tom Hallgarth");
    await reads("Bass drum", COLUMN.player, "Pell Marrow");
    await user.click(cell("Bass drum", COLUMN.note));
    await press("Shift+ArrowDown", "Alt+j");
    await reads("Frame drum", COLUMN.note, "inside the shell");
    await press("Backspace");
    await reads("Frame drum", COLUMN.note, "");
    await undoOf("Clear 2 cells");
    await user.click(cell("Frame drum", COLUMN.microphone));
    await press("Shift+ArrowDown", "Shift+ArrowDown", "Alt+k");
    await reads("Shaker table", COLUMN.microphone, "Moving-coil 3");
    expect(tracksOf(await saved())).toHaveLength(16);
  });

  it("gets a gain, which is shifted; inputs are shifted, and what can't be is told", async () => {
    const { user, saved, press, fill } = await nine();
    await user.click(cell("Bass drum", COLUMN.name));
    await press("Shift+ArrowDown");
    const change = async (text: string, how?: string) => {
      await press("Alt+Shift+g");
      const asked = await dialog("Gain of 2 tracks");
      if (how) await user.click(within(asked).getByRole("radio", { name: how }));
      await fill(within(asked).getByRole("textbox", { name: "Gain in dB" }), text);
      await press("Enter");
    };
    await change("32");
    await undoOf("Set the gain of 2 tracks to 32 dB");
    await change("-4", "Shift each by");
    await undoOf("Shift the gain of 2 lines by −4 dB");
    await press("Alt+Shift+j");
    await fill(await screen.findByRole("textbox", { name: "By how many inputs" }), "99");
    await press("Enter");
    await says("Bass drum is on input 1, and Whole mill has none 99 further on.");
    await press("Escape");
    expect(Object.values((await saved()).lines).filter(({ gainDb }) => gainDb === 28)).toHaveLength(2);
  });

  it("of several rows is changed in one act, and in one undo", async () => {
    const { user, press, fill } = await nine();
    await user.click(cell("Bass drum", COLUMN.name));
    await user.keyboard("{Shift>}");
    await user.click(cell("Shaker table", COLUMN.name));
    await user.keyboard("{/Shift}");
    await within(await inspector()).findByRole("heading", { name: "4 tracks" });
    await fill(within(await inspector()).getByRole("combobox", { name: "Player" }), "Nadia Okonjo-Reyes");
    await press("Enter");
    for (const name of ["Bass drum", "Snare", "Shaker table"]) await reads(name, COLUMN.player, "Nadia Okonjo-Reyes");
    await user.click(await undoOf(/^Undo: Set the player of 4 lines/));
    await reads("Snare", COLUMN.player, "Pell Marrow");
  });
});

describe("tracks", () => {
  it("are made by typing below the last row, one after the other", async () => {
    const { saved, type, press } = await empty();
    grid().focus();
    for (const name of ["Fiddle", "Harp"]) {
      await type(name);
      await press("Enter");
      await there(name);
    }
    expect(tracksOf(await saved()).map((track) => track.name)).toEqual(["Fiddle", "Harp"]);
  });

  it("are duplicated: it is asked what the copy records, which takes the next free input", async () => {
    const { user, press } = await nine();
    await user.click(cell("Snare", COLUMN.name));
    await press("Alt+Shift+d");
    const asked = await dialog("Duplicate the track");
    await user.click(within(asked).getByRole("radio", { name: "The next free input that suits it" }));
    await user.click(within(asked).getByRole("button", { name: "Duplicate" }));
    await reads("Snare 2", COLUMN.input, "E5");
    await reads(
      "Snare 2",
      COLUMN.microphone,
      /Moving-coil 2 is asked for twice, by Snare and Snare 2, and the shelf has one\./,
    );
    await undoOf("Duplicate Snare");
  });

  it("get name, colour and icon together by their family; a pattern names from source and microphone", async () => {
    const { user, press, type, fill } = await empty();
    await press("Alt+a");
    await screen.findByRole("textbox", { name: "Tracks to add" });
    await type("2 mono from 1");
    await press("Control+Enter");
    await there("Input 1");
    await press("Shift+ArrowDown", "Alt+m");
    await dialogHasKeys();
    await type("horns");
    await press("Enter", "Enter");
    await reads("Brass 2", COLUMN.colour, "ochre");
    await reads("Brass 2", COLUMN.icon, /Brass/);
    await user.click(cell("Brass 1", COLUMN.microphone));
    await type("Moving-coil 1");
    await press("Enter");
    await user.click(cell("Brass 1", COLUMN.name));
    await press("Alt+t");
    await fill(await screen.findByRole("textbox", { name: "Pattern" }), "Horn {microphone}");
    await press("Enter");
    await there("Horn Moving-coil 1");
  });

  it("go in the order of their inputs", async () => {
    const { press } = await nine();
    grid().focus();
    await press("Alt+Shift+r");
    await undoOf("Put rows in input order");
    isBefore("Fiddle", "Cimbalom");
  });

  it("of two on one input are told, and become two passes of one line", async () => {
    const { user, saved, type, press } = await open("pocket-sketch");
    await user.click(cell("Voice", COLUMN.input));
    await type("1");
    await press("Enter");
    await user.click(await screen.findByRole("button", { name: "1 problem" }));
    await says("Guitar and Voice are both on input 1. Only one of them can be plugged in.");
    await user.click(
      within(await findings()).getByRole("button", { name: "It is one source: record both tracks by turns" }),
    );
    await says(/Nothing to complain of/);
    await user.click(within(await findings()).getByRole("button", { name: "Close the findings" }));
    await user.click(cell("Guitar", COLUMN.name));
    expect((await screen.findByRole<HTMLInputElement>("combobox", { name: "Line shared with Voice" })).value).toBe(
      "recorded by turns",
    );
    expect(Object.keys((await saved()).lines)).toHaveLength(1);
  });

  it("of two sides become two mono rows, and one again", async () => {
    const { user } = await nine();
    await user.dblClick(cell("Accordion", COLUMN.layout));
    await reads("Accordion R", COLUMN.input, "14");
    await reads("Accordion L", COLUMN.microphone, "Moving-coil 4");
    await user.dblClick(cell("Accordion L", COLUMN.layout));
    await reads("Accordion", COLUMN.input, "13–14");
    await reads("Accordion", COLUMN.microphone, "Moving-coil 4 + Moving-coil 5");
  });

  it("are never given a microphone by the first match: its whole name, or chosen, the free ones first", async () => {
    const { user, saved, type, press } = await nine();
    await user.click(cell("Snare", COLUMN.microphone));
    await type("moving");
    await press("Enter");
    await says(/“moving”: it is not on the shelf/);
    await press("ArrowDown", "Enter");
    const track = tracksOf(await saved()).find(({ name }) => name === "Snare");
    const lineId = track?.input.kind === "line" ? track.input.lineId : "";
    expect((await saved()).lines[lineId as never]?.microphone).toMatchObject({ kind: "shelf" });
    await user.click(cell("Snare", COLUMN.name));
    await type("Lead alto voice");
    await press("Enter");
    expect(tracksOf(await saved()).find(({ name }) => name === "Lead alto voice")).toMatchObject({ icon: "voice" });
  });

  it("that are new come into the cues as their neighbour is, or into none, as is answered once", async () => {
    const { user, saved, press, fill } = await nine();
    const heard = async (name: string) => {
      const { cueLevels, channels } = await saved();
      return Object.values(cueLevels).filter(({ sourceId }) => channels[sourceId]?.name === name).length;
    };
    const write = async (text: string) => {
      await press("Alt+a");
      await fill(await screen.findByRole("textbox", { name: "Tracks to add" }), text);
    };
    await write("Shawm, Rebec");
    await user.click(await screen.findByRole("switch", { name: /^Into the cues that are there \(4\)/ }));
    await press("Control+Enter");
    await there("Rebec");
    expect([await heard("Shawm"), await heard("Rebec")]).toEqual([0, 0]);
    await write("Gamba");
    await user.click(await screen.findByRole("switch", { name: /^Into the cues/ }));
    await user.click(await screen.findByRole("button", { name: /^Add 1 track/ }));
    await there("Gamba");
    expect(await heard("Gamba")).toBe(4);
    await user.click(await undoOf(/^Undo: Add/));
    await gone("Gamba");
  });

  it("that are being written are kept meanwhile, and a cell of theirs can be set before they are made", async () => {
    const { user, saved, press, fill } = await nine();
    await press("Alt+a");
    await fill(await screen.findByRole("textbox", { name: "Tracks to add" }), "Tpt ribbon");
    await screen.findByText("1 track on 1 input");
    await screen.findByText(/which ribbon\? phantom stays off/);
    await press("Escape");
    await there("Fiddle");
    await user.click(button("Add tracks"));
    const field = await screen.findByRole<HTMLTextAreaElement>("textbox", { name: "Tracks to add" });
    expect(field.value).toBe("Tpt ribbon");
    await fill(await screen.findByRole("combobox", { name: "Microphone of Trumpet" }), "Active ribbon");
    await press("Enter");
    await waitFor(() => expect(screen.queryByText(/which ribbon/)).toBeNull());
    await press("Control+Enter");
    await there("Clarinet");
    const { lines } = await saved();
    const made = Object.values(lines).filter(({ microphone }) => microphone?.name === "Active ribbon");
    expect(made.map(({ phantom, portId }) => [phantom, portId === null])).toContainEqual([true, false]);
  });
});

describe("folders", () => {
  it("fold and unfold; rows move and go", async () => {
    const { press } = await nine();
    grid().focus();
    await press("ArrowLeft");
    await gone("Snare");
    await press("ArrowRight");
    await there("Snare");
    await press("ArrowDown", "Alt+ArrowDown");
    await waitFor(() => expect(order()[3]).toContain("Bass drum"));
    await press("Delete");
    await gone("Bass drum");
    await undoOf("Remove Bass drum");
    await press("Control+z");
    await there("Bass drum");
  });

  it("are renamed, dyed and dissolved", async () => {
    const { user, press, type } = await nine();
    await user.dblClick(folderCell("Winds"));
    await press("Control+a");
    await type("Blown");
    await press("Enter");
    await there("Blown");
    await user.click(folderCell("Blown"));
    await within(await inspector()).findByRole("heading", { name: "Blown" });
    await user.click(within(await inspector()).getByRole("combobox", { name: "Colour" }));
    await user.click(await screen.findByRole("option", { name: "woad" }));
    await reads("Clarinet", COLUMN.colour, "woad");
    await user.click(await screen.findByRole("button", { name: /^Dissolve the folder Blown/ }));
    await waitFor(() => expect(order().filter((text) => /^Blown/.test(text))).toEqual([]));
    await reads("Clarinet", COLUMN.folder, "");
    await user.click(await undoOf("Dissolve the folder Blown"));
    await reads("Clarinet", COLUMN.folder, "Blown");
  });

  it("sum and no longer do by their switch, and ask where their tracks go", async () => {
    const { user, saved, press, type } = await nine();
    const output = async () => tracksOf(await saved()).find(({ name }) => name === "Trumpet")?.output.kind;
    await user.click(folderCell("Winds"));
    const sums = () => screen.findByRole<HTMLInputElement>("switch", { name: /^Sums/ });
    expect((await sums()).checked).toBe(true);
    await user.click(await sums());
    await dialogHasKeys();
    await type("Nowhere");
    await press("Enter", "Enter");
    await waitFor(async () => expect((await sums()).checked).toBe(false));
    expect(await output()).toBe("nowhere");
    await press("Control+z");
    await waitFor(async () => expect((await sums()).checked).toBe(true));
    expect(await output()).toBe("channel");
  });
});

describe("what stands beside the rows", () => {
  it("headings are read by their words, without their widths", async () => {
    await nine();
    expect(screen.getByRole("columnheader", { name: "Track" })).toBeDefined();
    expect(screen.queryByRole("columnheader", { name: /pixels/ })).toBeNull();
  });

  it("a filter shows what is sought as one types, and Escape ends it", async () => {
    const { press, type } = await nine();
    await press("Alt+Shift+f");
    await type("pell moving");
    await says("4 tracks");
    await there("Snare");
    await gone("Fiddle");
    await press("Escape");
    await there("Fiddle");
  });

  it("a menu of the row and the list of keys offer what can be done", async () => {
    const { user, press } = await nine();
    await user.pointer({ keys: "[MouseRight]", target: cell("Cimbalom", COLUMN.name) });
    await user.click(await screen.findByRole("menuitem", { name: /Make two mono tracks/ }));
    await there("Cimbalom L");
    grid().focus();
    await press("Shift+?");
    const sheet = await dialog("All keys of the input list");
    expect(sheet.textContent).toContain("Fill ascending");
    expect(sheet.textContent).toContain("Put rows in input order");
  });

  it("a jack takes the selected track, and leads to the one that is on it", async () => {
    const { user } = await nine();
    await user.click(cell("Fiddle", COLUMN.name));
    await user.click(button("Input E5, 5 mic: free"));
    await reads("Fiddle", COLUMN.input, "E5");
    await user.click(button("Input E3, 3 mic: Lead voice"));
    await waitFor(() => expect(row("Lead voice").getAttribute("aria-selected")).toBe("true"));
    expect(button("Input 15, 15 carries the Stair")).toHaveProperty("disabled", true);
  });

  it("an inspector edits everything and shows the way of the signal", async () => {
    const { user, saved, press, fill } = await nine();
    await user.click(cell("Fiddle", COLUMN.name));
    const way = within(await inspector()).getByRole("region", { name: "The path of this signal" });
    expect(
      within(way)
        .getAllByRole("listitem")
        .map(({ textContent }) => textContent),
    ).toEqual([
      "Input 9 Clip-on condenser 1, line ← Thistle 1, 48 V",
      "Fiddle records here",
      "Equaliser 2 bands",
      "Compressor 2 : 1, −16 dB",
      "Stair chamber by a send −15 dB, after the fader",
      "Strings sums 2",
      "Main trimmed by −12.5 dB, sums 8, reached after 190 samples, 4 ms; held back by 190 samples, 4 ms",
      "Outputs 1–2 out of the interface",
    ]);
    await user.click(within(await inspector()).getByRole("switch", { name: "Phantom" }));
    await screen.findByRole("button", { name: "3 problems" });
    await user.click(within(await inspector()).getByRole("combobox", { name: "Output" }));
    await user.click(await screen.findByRole("option", { name: "Outputs 3–4" }));
    await waitFor(async () => expect((await inspector()).textContent).toContain("Outputs 3–4"));
    await fill(within(await inspector()).getByRole("textbox", { name: "Position" }), "by the window");
    await press("Enter");
    expect(Object.values((await saved()).lines).find((line) => line.source === "Fiddle")).toMatchObject({
      phantom: false,
      position: "by the window",
    });
  });

  it("a finding leads to its place, and its fix clears it", async () => {
    const { user } = await nine();
    await user.click(await screen.findByRole("button", { name: "2 problems" }));
    await user.click(within(await findings()).getByRole("button", { name: /Clarinet is an active ribbon/ }));
    await waitFor(() => expect(grid().getAttribute("aria-activedescendant")).toMatch(/-phantom$/));
    for (const fix of ["Switch phantom on for Clarinet", "Silence the computer's copy", "Ask for 1.2"])
      await user.click(await within(await findings()).findByRole("button", { name: fix }));
    await says(/Nothing to complain of/);
    await screen.findByRole("button", { name: "No findings" });
  });

  it("a finding is accepted with a reason, and comes back when its cause changes", async () => {
    const { user, press, type, fill } = await nine();
    await user.click(await screen.findByRole("button", { name: "2 problems" }));
    const [accept] = within(await findings()).getAllByRole("button", { name: "Accept with a reason…" });
    await user.click(accept as HTMLElement);
    await fill(
      within(await findings()).getByRole("textbox", { name: "Why this is all right" }),
      "the preamp on the floor feeds it",
    );
    await press("Enter");
    await screen.findByRole("button", { name: "1 problem" });
    expect(within(await findings()).getByRole("region", { name: "Accepted" }).textContent).toContain(
      "the preamp on the floor feeds it",
    );
    await user.click(within(await findings()).getByRole("button", { name: "Close the findings" }));
    await user.click(cell("Clarinet", COLUMN.input));
    await type("E5");
    await press("Enter");
    await screen.findByRole("button", { name: "2 problems" });
  });

  it("106 findings are one, opened to see each, fixed in one act and brought back by one undo", async () => {
    const { user, press } = await open("flood-cantata");
    await user.click(await screen.findByRole("button", { name: "1 problem" }));
    await says("106 lines ask for inputs this rig has not.");
    await user.click(within(await findings()).getByRole("button", { name: "Show each" }));
    await within(await findings()).findAllByText(/asks for input/);
    await user.click(within(await findings()).getByRole("button", { name: /^Fix all 106 alike/ }));
    await screen.findByRole("button", { name: "1 hint" });
    await says("106 lines have no input yet.");
    await press("Control+z");
    await screen.findByRole("button", { name: "1 problem" });
  });

  it("Escape gives the selection up, and Tab then leaves the grid", async () => {
    const { press } = await open("pocket-sketch");
    grid().focus();
    await inspector();
    await press("Escape");
    await waitFor(() => expect(screen.queryByRole("complementary", { name: "Inspector" })).toBeNull());
    await press("Tab");
    hasKeys(button("Add tracks"));
  });
});
