import { describe, expect, it } from "vitest";
import { brokenInvariants } from "../../commands/template-engine";
import { wheelhouseCart } from "../../demo/rigs";
import { sequentialIds, type TemplateId } from "../../model/ids";
import { MOST } from "../../model/limits";
import { tracksOf } from "../../model/read-template";
import { entriesOf } from "../../model/table";
import { emptyTemplate } from "../../model/template";
import { templateFaults } from "../../model/template-schema";
import { applyAll } from "../../planning/edits/template-editing";
import { planImport } from "./plan-import";
import { readInputList } from "./read-input-list";

const refusal = (text: string): string => {
  const read = readInputList(text);
  return read.ok ? "" : read.message;
};
const made = (text: string) => {
  const read = readInputList(text);
  if (!read.ok) throw new Error(read.message);
  const plan = planImport(read.list, wheelhouseCart, sequentialIds());
  const done = applyAll(
    emptyTemplate({ id: "t" as TemplateId, name: "T", kind: "band", rigId: wheelhouseCart.id }),
    plan.edits,
  );
  if (!done.ok) throw new Error(done.refusal.message);
  return {
    doc: done.doc,
    report: [...read.list.report.leftOut, ...plan.leftOut].map((remark) => remark.message),
    edits: plan.edits,
  };
};

describe("what a list may be is looked at before any of it is taken apart", () => {
  it.each([
    ["a million cells in a row", `Input,Source\n${"1,".repeat(1_000_000)}`, /^Row 2 has more than 256 cells/],
    [
      "a cell as long as a book",
      `Input,Source\n1,${")".repeat(2_000_000)}`,
      /^Row 2 has a cell of more than 4000 characters/,
    ],
    ["a quotation mark that is not closed", `Input,Source\n1,"${"x".repeat(10_000)}`, /quotation mark is not closed/],
    ["a hundred thousand rows", "1,x\n".repeat(100_000), /more than 4096 rows/],
  ])("%s", (_what, text, says) => expect(refusal(text)).toMatch(says));

  it("an inch mark in a name is no quotation mark", () => {
    expect(
      made('Input,Source\n1,Tom 12" low\n2,Snare 14"\n').doc &&
        tracksOf(made('Input,Source\n1,Tom 12" low\n2,Snare 14"\n').doc).map((track) => track.name),
    ).toEqual(['Tom 12" low', 'Snare 14"']);
  });

  it("rows of different machines end in their own way, and are counted alike", () => {
    for (const end of ["\n", "\r\n", "\r"])
      expect(tracksOf(made(["Input,Source", "1,A", '2,"B, C"', "3,D"].join(end)).doc)).toHaveLength(3);
  });
});

describe("texts longer than a template keeps", () => {
  it("are cut where they are read, and it is told", () => {
    const { doc, report } = made(`Input,Source,Note\n1,${"s".repeat(300)},${"n".repeat(3999)}\n`);
    expect([tracksOf(doc)[0]?.name.length, tracksOf(doc)[0]?.note.length]).toEqual([200, 3999]);
    expect(report).toContainEqual("Row 2: Source has 300 characters, and up to 200 are kept; the rest is left out.");
    expect(templateFaults(doc)).toEqual([]);
  });

  it("folders deeper than may be end where they may, and it is told", () => {
    const path = Array.from({ length: 100 }, (_, at) => `F${at}`).join(" › ");
    const { doc, report } = made(`Input,Source,Folder\n1,A,${path}\n`);
    expect([entriesOf(doc.folders).length, brokenInvariants(doc)]).toEqual([MOST.depth, []]);
    expect(report.some((message) => message.includes("100 deep in one another"))).toBe(true);
  });
});

describe("loop-backs", () => {
  it("are taken by their own name only; their number is told, and the line is kept as asked for", () => {
    const { doc, report } = made("Input,Source\n33,Guest\n34,Other\nLB1,Meant\n");
    expect(entriesOf(doc.lines).map((line) => [line.source, line.portId, line.requestedInput])).toEqual([
      ["Guest", null, "33"],
      ["Other", null, "34"],
      ["Meant", "brindle:loop:1", null],
    ]);
    expect(report.join("\n")).toMatch(
      /Guest: 33 is Brindle 16 loop-back 1 of Wheelhouse cart, and is not taken for an input; call it LB1 to mean it/,
    );
  });
});

describe("a large list", () => {
  it("of a thousand folders is made in a handful of acts, each thing in its place", () => {
    const rows = Array.from({ length: 4000 }, (_, at) => `${at + 1},Source ${at},Folder ${at % 1000} › Inner`);
    const { doc, edits } = made(`Input,Source,Folder\n${rows.join("\n")}`);
    expect(edits.length).toBeLessThan(1010);
    expect([tracksOf(doc).length, brokenInvariants(doc)]).toEqual([4000, []]);
    const first = tracksOf(doc).find((track) => track.name === "Source 1001");
    const folder = first?.folderId ? doc.folders[first.folderId] : undefined;
    expect([folder?.name, folder?.parentId && doc.folders[folder.parentId]?.name]).toEqual(["Inner", "Folder 1"]);
  });

  it("the most rows are read with a heading and a title above them, and one more is told with how many there are", () => {
    const list = (count: number) =>
      `Spring evening\nInput,Source\n${Array.from({ length: count }, (_, at) => `${at + 1},S ${at}`).join("\n")}\n`;
    const read = readInputList(list(4096));
    expect(read.ok && read.list.rows).toHaveLength(4096);
    expect(readInputList(list(4097))).toEqual({
      ok: false,
      message: "The list has 4097 rows; up to 4096 are read. Split it, or send only the rows that are recorded.",
    });
  });
});
