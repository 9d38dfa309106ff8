import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { wholeMill } from "../../demo/rigs";
import { sequentialIds } from "../../model/ids";
import { pasteColumns } from "./paste-columns";
import { planImport } from "./plan-import";
import { readInputList } from "./read-input-list";

const FOLDER = new URL("../../../../tests/fixtures/lists-by-hand/", import.meta.url);
const lists = readdirSync(FOLDER).filter((name) => !name.endsWith(".truth"));
const textOf = (name: string): string => readFileSync(new URL(name, FOLDER), "utf8");

const readOf = (name: string) => {
  const read = readInputList(textOf(name));
  return read.ok ? read.list : expect.unreachable(read.message);
};

/** Each track as the truth beside a list has it: inputs, name, microphone, 48 V, polarity, folder, player, note. */
const tracksOf = (name: string): readonly string[] => {
  const list = readOf(name);
  const plan = planImport(list, wholeMill, sequentialIds());
  return list.rows.map((row, at) => {
    const { values, microphone } = row.sides[0];
    const cells = [
      row.sides.map(({ input }) => input ?? "").join("–"),
      row.name,
      microphone,
      plan.tracks[at]?.lines[0]?.phantom ? "48 V" : "",
      values.polarityInverted ? "Ø" : "",
      row.folder.join("/"),
      values.player ?? "",
      row.note,
    ];
    return cells.join(" | ").replace(/(?: \| )+$/, "");
  });
};

describe("lists as people write them, with what they mean written by hand", () => {
  it("are fifteen at least", () => expect(lists.length).toBeGreaterThanOrEqual(15));

  it.each(lists)("%s", (name) =>
    expect(tracksOf(name)).toEqual(
      textOf(`${name}.truth`)
        .split("\n")
        .filter((line) => line.trim()),
    ),
  );
});

describe("what a list leaves open", () => {
  it("which of two numbers is the input is asked once, with an example of each, and the answer is taken", () => {
    const [question] = readOf("two-languages.csv").questions;
    expect(question).toMatchObject({
      asks: "Which number is the input?",
      because: "“CH #” says 1 to 11, “Patch” says A1 to B3",
      answer: "0",
      answered: false,
    });
    const other = readInputList(textOf("two-languages.csv"), { answers: { "input-column": "4" } });
    expect(other.ok && other.list.rows.map(({ sides }) => sides[0].input).slice(0, 3)).toEqual(["A1", "A2", "A3"]);
  });

  it("a mark that is the same through a column is asked once; answered no, it is off", () => {
    const question = readOf("two-languages.csv").questions.find(({ id }) => id.startsWith("sign"));
    expect(question).toMatchObject({ asks: "● means 48 V?", because: "3 rows", answer: "yes" });
    const off = readInputList(textOf("two-languages.csv"), { answers: { [question?.id ?? ""]: "no" } });
    expect(off.ok && off.list.rows.filter(({ sides }) => sides[0].values.phantom)).toEqual([]);
  });

  it("outputs are offered apart, counted, and switched off", () => {
    const list = readOf("printed-sheet.txt");
    expect(list.outside).toMatchObject([
      { kind: "outputs", names: ["Wedge SL", "Wedge SR", "IEM Ilse (L)", "IEM Ilse (R)"] },
    ]);
    expect(list.questions.at(-1)).toMatchObject({
      asks: "4 outputs left out: make listening places of them?",
      answer: "no",
    });
    const plan = planImport(list, wholeMill, sequentialIds(), { places: list.outside.flatMap(({ names }) => names) });
    expect(plan.edits.at(-1)).toMatchObject({
      kind: "entries.add",
      entries: { cues: [{ name: "Wedge SL", hearing: "loudspeaker" }, {}, { hearing: "headphones" }, {}] },
    });
  });

  it("a list without any input says so first, and takes free ones that fit when asked to", () => {
    const read = readInputList("Kick\tdyn\nSnare\tdyn\nOH L\tSDC\nOH R\tSDC\nVox\tLDC\n");
    const list = read.ok ? read.list : expect.unreachable();
    expect(list.questions[0]).toMatchObject({
      fatal: true,
      asks: "No line has an input. Put them on free inputs that fit?",
    });
    const plan = planImport(list, wholeMill, sequentialIds(), { propose: true });
    expect(plan.tracks.map(({ lines }) => lines.map(({ portId }) => portId))).toEqual([
      ["brindle:in:1"],
      ["brindle:in:2"],
      ["brindle:in:3", "brindle:in:4"],
      ["brindle:in:5"],
    ]);
  });

  it("columns that nobody knows leave a list with its columns, for their meaning to be chosen", () => {
    const read = readInputList("Colour;Amount\nred;3\nblue;4\n");
    expect(read).toMatchObject({
      ok: false,
      list: { columns: [{ heading: "Colour" }, { heading: "Amount" }], rows: [] },
    });
    const chosen = readInputList("Colour;Amount\nred;3\nblue;4\n", { meanings: ["source", "input"] });
    expect(chosen.ok && chosen.list.rows.map(({ name, sides }) => `${name} ${sides[0].input}`)).toEqual([
      "red 3",
      "blue 4",
    ]);
  });
});

describe("the books balance", () => {
  it.each(lists)("%s: every row with something in it became a track, a part of one, or is told as left out", (name) => {
    const { source, rows, balance } = readOf(name);
    const filled = textOf(name)
      .split("\n")
      .filter((line) => line.replace(/[,;|\s]/g, "")).length;
    if (!/^"/m.test(textOf(name))) expect(source).toHaveLength(filled);
    const of = (...became: readonly string[]) => source.filter((row) => became.includes(row.became)).length;
    expect(new Set(rows.flatMap(({ from }) => from)).size).toBe(of("track", "joined"));
    expect(balance).toMatchObject({ tracks: rows.length, leftOut: of("left out", "outside", "off") });
  });

  it("gaps and doubles among the numbers are named", () => {
    const read = readInputList("Ch,Name\n1,Kick\n2,Snare\n2,Snare 2\n5,Vox\n9,BV\n");
    expect(read.ok && read.list.balance).toMatchObject({ gaps: ["3–4", "6–8"], doubles: ["2"], lines: 5 });
  });

  it("a row that is switched off is none, and said to be off", () => {
    const read = readInputList("Ch,Name\n1,Kick\n2,Snare\n", { off: [3] });
    expect(read.ok && [read.list.rows.length, read.list.source.map(({ became }) => became)]).toEqual([
      1,
      ["heading", "track", "off"],
    ]);
  });
});

describe("rows that are pasted", () => {
  const paste = (text: string) => pasteColumns(text.split("\n").map((row) => row.split("\t")));

  it("without headings are read by what is in them, wherever the cursor stands", () =>
    expect(paste("1\tKick\tdyn\n2\tSnare\tdyn\n3\tVox\tLDC")).toMatchObject({
      columns: ["input", "source", "microphone", "name"],
      cells: [["1", "Kick", "dyn", "Kick"], {}, {}],
    }));

  it("of which nothing tells that they are a list go where the cursor stands", () => {
    expect(paste("plum\tred\npear\tblue").columns).toBeNull();
    expect(paste("12\n14\n20").columns).toBeNull();
  });
});
