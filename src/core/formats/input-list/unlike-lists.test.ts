import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { evaluate } from "../../checks";
import { wheelhouseCart, wholeMill } from "../../demo/rigs";
import { layoutRows } from "../../layout/rows";
import { sequentialIds, type TemplateId } from "../../model/ids";
import { rigInputOf } from "../../model/read-rig";
import { colourOf, tracksOf } from "../../model/read-template";
import type { Rig } from "../../model/rig";
import { emptyTemplate, type Template } from "../../model/template";
import { applyAll } from "../../planning/edits/template-editing";
import { planImport } from "./plan-import";
import { readInputList } from "./read-input-list";
import { writeInputList } from "./write-input-list";

const templateOf = (text: string, rig: Rig = wholeMill) => {
  const read = readInputList(text);
  if (!read.ok) throw new Error(read.message);
  const plan = planImport(read.list, rig, sequentialIds());
  const made = applyAll(emptyTemplate({ id: "t" as TemplateId, name: "T", kind: "band", rigId: rig.id }), plan.edits);
  if (!made.ok) throw new Error(made.refusal.message);
  const remarks = (kind: "guessed" | "leftOut") =>
    [...read.list.report[kind], ...plan[kind]].map((remark) => remark.message);
  return {
    doc: made.doc,
    guessed: remarks("guessed"),
    leftOut: remarks("leftOut"),
    understood: read.list.report.understood.map((remark) => remark.message),
  };
};

/** Each track with the inputs it came to, as "Fiddle 9", pairs as "Above 5+6", what is not there as "Harp ?99". */
const patched = (doc: Template, rig: Rig = wholeMill): readonly string[] =>
  layoutRows(doc, { unfold: true }).flatMap((row) =>
    row.kind === "folder"
      ? []
      : [
          `${row.track.name} ${row.lines.map((line) => rigInputOf(rig, line.portId)?.label ?? `?${line.requestedInput ?? ""}`).join("+")}`,
        ],
  );

const fixture = (name: string) =>
  readFileSync(new URL(`../../../../tests/fixtures/input-lists/${name}`, import.meta.url), "utf8");

describe("lists of all sorts", () => {
  it.each([
    [
      "German, with a title",
      "Eingangsliste\nStand: Freitag\n\nNr;Stimme;Mikrofon;48V\n1;Geige;Kondensator;ja\n3/4;Klavier;Kleinmembran;x\n",
      ["Geige 1", "Klavier 3+4"],
    ],
    [
      "French",
      "Entrée,Instrument,Micro,Alim. fantôme\n1,Violon,statique,oui\n2,Voix gauche,statique,oui\n3,Voix droite,statique,oui\n",
      ["Violon 1", "Voix 2+3"],
    ],
    [
      "cells parted by bars",
      "Input | Source | Mic\n1 | Kick | moving coil\n2 | Snare | moving coil\n",
      ["Kick 1", "Snare 2"],
    ],
    [
      "no heading",
      "1\tBass drum\tmoving coil\n2\tAbove L\tcondenser\n3\tAbove R\tcondenser\n",
      ["Bass drum 1", "Above 2+3"],
    ],
    ["one column", "Fiddle\nViola\n", ["Fiddle ?", "Viola ?"]],
    [
      "pairs in six notations",
      "In,What\n1+2,A\n3&4,B\n5 / 6,C\n7–8,D\n9 und 10,E\n",
      ["A 1+2", "B 3+4", "C 5+6", "D 7+8", "E 9+10"],
    ],
    [
      "pairs by the names of their sides",
      "In,What\n1,Piano (L)\n2,Piano (R)\n3,Organ Left\n4,Organ Right\n5,Synth_L\n6,Synth_R\n7,Pad/L\n8,Pad/R\n9,Gitarre links\n10,Gitarre rechts\n",
      ["Piano 1+2", "Organ 3+4", "Synth 5+6", "Pad 7+8", "Gitarre 9+10"],
    ],
    [
      "inputs with words before them",
      "Channel,Name\nCh 1,Kick\nInput 2,Snare\nIn. 3,Hat\nMic 4,Tom\n#5,Ride\n",
      ["Kick 1", "Snare 2", "Hat 3", "Tom 4", "Ride 5"],
    ],
    [
      "expander and preamps by name",
      "In,What\nE1,A\nE 2,B\ne3-4,C\nBrindle Eight 5,D\nT1,F\nThistle 2,G\n",
      ["A E1", "B E2", "C E3+E4", "D E5", "F 9", "G 10"],
    ],
    ["channels of a digital socket", "In,What\nA5,Harmonium\nOptical A 6,Celesta\n", ["Harmonium E5", "Celesta E6"]],
    ["the running numbers of the computer", "In,What\n17,A\n24,B\nLB1,C\n", ["A E1", "B E8", "C LB1"]],
    ["in another order than the inputs", "What;In\nTuba;8\nHorn;3\nTrompete;1\n", ["Tuba 8", "Horn 3", "Trompete 1"]],
    ["leading noughts", "In,What\n01,Kick\n002,Snare\n", ["Kick 1", "Snare 2"]],
    [
      "stereo said in a column",
      "In,What,Format\n1,Kick,mono\n3,Synth,stereo\n5,Pad,ST\n",
      ["Kick 1", "Synth 3+4", "Pad 5+6"],
    ],
    ["a heading that is repeated", "In,What\n1,Kick\nIn,What\n2,Snare\n", ["Kick 1", "Snare 2"]],
    ["a last row that adds up", "In,What\n1,Kick\nTotal,1 input\n", ["Kick 1"]],
    ["inputs beyond the rig", "In,What\n1,Kick\n99,Far\nZ9,Further\n", ["Kick 1", "Far ?99", "Further ?Z9"]],
  ])("%s", (_what, text, expected) => expect(patched(templateOf(text).doc)).toEqual(expected));

  it("section rows become folders, in either case, and blank rows change nothing", () => {
    const { doc } = templateOf("Ch,Instrument,Mic\nDRUMS,,\n1,Kick,moving coil\n\nSTRINGS,,\n,,\n3,Violin,condenser\n");
    expect(layoutRows(doc).map((row) => (row.kind === "folder" ? row.folder.name : row.track.name))).toEqual([
      "DRUMS",
      "Kick",
      "STRINGS",
      "Violin",
    ]);
  });

  it("line breaks and quotes in cells stay what they are", () => {
    const { doc } = templateOf('Input,Source,Note\n1,"Snare\ntop","he said ""loud"""\n');
    expect(tracksOf(doc)[0]).toMatchObject({ name: "Snare\ntop", note: 'he said "loud"' });
  });

  it("colours by dye, hex and name in three languages; the nearest is said to be a guess", () => {
    const { doc, guessed } = templateOf("Input,Source,Colour\n1,A,madder\n2,B,#2f9074\n3,C,Rot\n4,D,bleu\n5,E,grün\n");
    expect(tracksOf(doc).map((track) => colourOf(doc, track))).toEqual([
      "madder",
      "verdigris",
      "madder",
      "indigo",
      "lichen",
    ]);
    expect(guessed).toEqual(expect.arrayContaining(["Row 4: the colour Rot is taken as madder, the nearest dye."]));
  });

  it("phantom in its usual signs, and what says neither is told", () => {
    const { doc, leftOut } = templateOf("Input,Source,+48V\n1,A,✓\n2,B,✗\n3,C,+48\n4,D,-\n5,E,maybe\n");
    expect(tracksOf(doc).map((track) => track.input.kind === "line" && doc.lines[track.input.lineId]?.phantom)).toEqual(
      [true, false, true, false, false],
    );
    expect(leftOut).toEqual(["Row 6: phantom “maybe” says neither yes nor no; it is left off."]);
  });

  it("columns that mean nothing here are named, not lost in silence", () => {
    expect(templateOf("Input,Source,Cable length\n1,Kick,5 m\n").leftOut).toEqual([
      "The column “Cable length” has no known meaning and is left out. Choose one if it matters.",
    ]);
  });

  it.each([
    ["", "empty"],
    ["\n\n\n", "empty"],
    ["Input,Source,Mic\n", "nothing below it"],
    ["1\n2\n3\n", "No column says what is recorded"],
    [`Input,Source\n${"1,x\n".repeat(5000)}`, "up to 4096 are read"],
  ])("%# what is no list is answered with what to do", (text, words) => {
    const read = readInputList(text);
    expect(read.ok ? "" : read.message).toContain(words);
  });
});

describe("the brass evening", () => {
  const { doc, leftOut, understood } = templateOf(fixture("04-brass-evening.csv"), wholeMill);

  it("has 31 inputs, its sections as folders, its pairs as stereo, and its title lines told as left out", () => {
    expect(Object.keys(doc.lines)).toHaveLength(31);
    expect(Object.values(doc.folders).length).toBeGreaterThanOrEqual(3);
    expect(tracksOf(doc).filter((track) => track.input.kind === "pair").length).toBeGreaterThan(0);
    expect(leftOut.filter((message) => message.includes("stands before the heading")).length).toBeGreaterThan(0);
    expect(understood[0]).toContain("31 lines");
  });
});

describe("the messy list", () => {
  const { doc } = templateOf(fixture("05-messy.csv"), wheelhouseCart);

  it("keeps everything, and the checks tell the double input and the one beyond the rig", () => {
    const rows = fixture("05-messy.csv")
      .split(/\r?\n/)
      .slice(1)
      .filter((line) => line.replace(/[;,\s]/g, "")).length;
    expect(tracksOf(doc).length).toBeGreaterThanOrEqual(rows - 2);
    const rules = evaluate({ doc, rig: wheelhouseCart, otherRigs: [] }).map((finding) => finding.rule);
    expect(rules).toEqual(expect.arrayContaining(["shared-port", "port-not-on-rig"]));
  });
});

describe("CSV written by us", () => {
  it("carries no formula, and reads back to the same tracks on the same inputs", () => {
    const start = templateOf(
      'Input,Source,Note\n1,=1+1,+cmd\n2,@sum,-2\n"5-6",Above,\nE3,"Tab\there","say ""hi"""\n',
    ).doc;
    const csv = writeInputList(start, wholeMill);
    for (const cell of csv.split(/[,\n]/)) expect(cell.replace(/^"/, "")).not.toMatch(/^[=+@-]/);
    const again = templateOf(csv).doc;
    expect(patched(again)).toEqual(patched(start));
    expect(tracksOf(again).map((track) => [track.name, track.note])).toEqual(
      tracksOf(start).map((track) => [track.name, track.note]),
    );
  });
});
