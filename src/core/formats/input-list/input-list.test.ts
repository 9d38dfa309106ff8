import { readFileSync } from "node:fs";
import fc from "fast-check";
import iconv from "iconv-lite";
import { describe, expect, it } from "vitest";
import { evaluate } from "../../checks";
import { DEMO_RIGS, wheelhouseCart, wholeMill } from "../../demo/rigs";
import { COLOUR_NAMES } from "../../model/colours";
import { ICONS, type Icon } from "../../model/families";
import { sequentialIds, type TemplateId } from "../../model/ids";
import { monitorOutputs } from "../../model/read-rig";
import { colourOf, linesOfTrack, tracksOf } from "../../model/read-template";
import type { Rig } from "../../model/rig";
import { entriesOf } from "../../model/table";
import { emptyTemplate, type Template } from "../../model/template";
import { applyAll } from "../../planning/edits/template-editing";
import { aTemplate } from "../../testing/a-template";
import { runs } from "../../testing/how-many";
import { tally } from "../../testing/tally";
import { dB } from "../../units/decibels";
import type { InputList } from "./list-types";
import { guessedIcon, planImport } from "./plan-import";
import { readInputList } from "./read-input-list";
import { inputsInList, writeInputList } from "./write-input-list";

const sample = (name: string, encoding = "utf-8") =>
  iconv.decode(readFileSync(new URL(`../../../../tests/fixtures/input-lists/${name}`, import.meta.url)), encoding, {
    stripBOM: false,
  });

const read = (text: string, ...rest: [Parameters<typeof readInputList>[1]?]): InputList => {
  const answer = readInputList(text, ...rest);
  if (!answer.ok) throw new Error(answer.message);
  return answer.list;
};

const template = (text: string, rig: Rig = wheelhouseCart): Template => {
  const made = applyAll(
    emptyTemplate({ id: "t" as TemplateId, name: "T", kind: "band", rigId: rig.id, mainOutputs: monitorOutputs(rig) }),
    planImport(read(text), rig, sequentialIds()).edits,
  );
  if (!made.ok) throw new Error(made.refusal.message);
  return made.doc;
};

const refusal = (text: string): string => {
  const answer = readInputList(text);
  return answer.ok ? "" : answer.message;
};

describe("01: The Tidewrack Nine on the Wheelhouse cart", () => {
  const doc = template(sample("01-tidewrack-nine.csv"));

  it("becomes 18 lines on 15 tracks", () => {
    expect([entriesOf(doc.lines).length, tracksOf(doc).length]).toEqual([18, 15]);
  });

  it("makes the three L/R pairs stereo", () => {
    expect(tracksOf(doc).flatMap((track) => (track.input.kind === "pair" ? [track.name] : []))).toEqual(
      ["Cimbalom", "Accordion", "Above"].sort(
        (a, b) => tracksOf(doc).findIndex((t) => t.name === a) - tracksOf(doc).findIndex((t) => t.name === b),
      ),
    );
  });

  it("puts six folders in their dyes, which the tracks inherit", () => {
    expect(entriesOf(doc.folders).map((folder) => [folder.name, folder.colour])).toEqual([
      ["Percussion", "madder"],
      ["Low strings", "walnut"],
      ["Strings", "weld"],
      ["Winds", "ochre"],
      ["Keys", "verdigris"],
      ["Voices", "cochineal"],
    ]);
    expect(tracksOf(doc).every((track) => track.colour === null)).toBe(true);
  });

  it("leaves the ribbons without phantom, and takes them from the shelf", () => {
    const cimbalom = entriesOf(doc.lines).filter((line) => line.source === "Cimbalom");
    expect(cimbalom).toMatchObject([
      { phantom: false, microphone: { kind: "shelf", microphoneId: "ribbon-pair" } },
      { phantom: false, microphone: { kind: "shelf", microphoneId: "ribbon-pair" } },
    ]);
  });

  it("keeps what each side of a pair has of its own", () => {
    const accordion = entriesOf(doc.lines).filter((line) => line.source === "Accordion");
    expect(accordion.map((line) => line.microphone?.name)).toEqual(["Moving-coil 4", "Moving-coil 5"]);
  });

  it("tells the lines on 15–16 and those beyond 16, each with a fix, and nothing else", () => {
    const findings = evaluate({
      doc,
      rig: wheelhouseCart,
      otherRigs: DEMO_RIGS.filter((rig) => rig !== wheelhouseCart),
    });
    expect(findings.map((finding) => finding.message)).toEqual([
      "Lead voice asks for input 17, and Wheelhouse cart has no such input.",
      "Second voice asks for input 18, and Wheelhouse cart has no such input.",
      "Clarinet (Active ribbon) is on input 15, which takes line level only and carries the Stair.",
      "Sousaphone (Clip-on condenser 2) is on input 16, which takes line level only and carries the Stair.",
    ]);
    expect(findings.every((finding) => finding.fixes.length > 0)).toBe(true);
  });

  it("is clear on the Whole mill once the offered fixes are taken, and nothing else has moved", () => {
    let fixed = doc;
    let rig: Rig = wheelhouseCart;
    for (let n = 0; n < 8; n++) {
      const [finding] = evaluate({ doc: fixed, rig, otherRigs: DEMO_RIGS.filter((other) => other !== rig) });
      if (!finding) break;
      const done = applyAll(fixed, finding.fixes[0]?.edits ?? []);
      if (!done.ok) throw new Error(done.refusal.message);
      fixed = done.doc;
      rig = DEMO_RIGS.find((candidate) => candidate.id === fixed.rigId) ?? rig;
    }
    expect(rig).toBe(wholeMill);
    expect(evaluate({ doc: fixed, rig, otherRigs: [] })).toEqual([]);
    const moved = entriesOf(fixed.lines).filter((line) => JSON.stringify(line) !== JSON.stringify(doc.lines[line.id]));
    expect(moved.map((line) => [line.source, line.portId])).toEqual([
      ["Clarinet", "eight:in:3"],
      ["Sousaphone", "eight:in:4"],
      ["Lead voice", "eight:in:1"],
      ["Second voice", "eight:in:2"],
    ]);
  });
});

describe("02: a choir, semicolons, German headings, byte order mark", () => {
  const list = read(sample("02-choir-evening.csv"));
  const doc = template(sample("02-choir-evening.csv"));

  it("is understood without help", () => {
    expect(list.columns.map((column) => column.meaning)).toEqual([
      "input",
      "source",
      "microphone",
      "phantom",
      "position",
      "note",
    ]);
    expect([list.report.guessed, list.report.leftOut]).toEqual([[], []]);
  });

  it("joins links and rechts, L and R", () => {
    expect(list.rows.map((row) => [row.name, row.sides.length])).toEqual([
      ["Sopran", 2],
      ["Alt", 1],
      ["Tenor", 1],
      ["Bass", 1],
      ["Orgelpositiv", 2],
      ["Solistin", 1],
      ["Ansage", 1],
    ]);
  });

  it("knows the microphones by their German kinds", () => {
    expect(
      Object.fromEntries(
        entriesOf(doc.lines).map((line) => [
          line.source,
          line.microphone?.kind === "named" ? line.microphone.type : null,
        ]),
      ),
    ).toEqual({
      Sopran: "condenser",
      Alt: "condenser",
      Tenor: "condenser",
      Bass: "condenser",
      Orgelpositiv: "ribbon-passive",
      Solistin: "condenser",
      Ansage: "moving-coil",
    });
  });

  it("keeps quoted semicolons and decimal commas in the notes", () => {
    expect(list.rows.map((row) => row.note)).toEqual(["", "", "", "", "Abstand 2,5 m", "Notenpult; leise", ""]);
    expect(list.rows[0]?.sides[0].values.position).toBe("hoch");
  });

  it("dyes by family where the list has no colours", () => {
    expect(tracksOf(doc).map((track) => colourOf(doc, track))).toEqual([
      "cochineal",
      "cochineal",
      "cochineal",
      "cochineal",
      "verdigris",
      "cochineal",
      "saffron",
    ]);
  });
});

describe("the other samples are read, too", () => {
  it("03: tabs, no heading row", () => {
    const list = read(sample("03-radio-play.tsv"));
    expect(list.rows).toHaveLength(6);
    expect(list.report.guessed[0]?.message).toContain("no heading row");
  });

  it("04: title lines left out and told, sections as folders, pairs as stereo", () => {
    const list = read(sample("04-brass-evening.csv"));
    expect(list.rows.reduce((sum, row) => sum + row.sides.length, 0)).toBe(31);
    expect([...new Set(list.rows.map((row) => row.folder[0]))]).toEqual(["PERCUSSION", "BRASS", "ROOM", "SPEECH"]);
    expect(list.report.leftOut.map((remark) => remark.row)).toEqual([1, 2]);
  });

  it("05: everything kept, the double input and the ports beyond the rig told", () => {
    const doc = template(sample("05-messy.csv", "windows-1252"));
    expect(tracksOf(doc).map((track) => track.name)).toEqual([
      "Voice – Zoë",
      "Guitarra de Iñigo",
      "Guitarra (spare)",
      "Tambourine",
      "Harmonium",
      "Cajón",
    ]);
    expect(entriesOf(doc.lines).map((line) => line.requestedInput)).toEqual([null, null, null, null, "A5", "17"]);
    const rules = evaluate({ doc, rig: wheelhouseCart, otherRigs: [] }).map((finding) => finding.rule);
    expect(rules).toEqual(["port-not-on-rig", "port-not-on-rig", "shared-port", "line-without-port"]);
  });
});

describe("columns", () => {
  it("a corrected meaning is taken instead of the one found", () => {
    const text = "Ch,Name,Extra\n1,Snare,Pell\n";
    expect(read(text).report.leftOut[0]?.message).toBe(
      "The column “Extra” has no known meaning and is left out. Choose one if it matters.",
    );
    expect(read(text, { meanings: ["input", "source", "player"] }).rows[0]?.sides[0].values.player).toBe("Pell");
  });

  it("a meaning is given once", () => {
    expect(read("Input,Channel,Name\n1,2,Snare\n").columns.map((column) => column.meaning)).toEqual([
      "input",
      "ignore",
      "source",
    ]);
  });

  it("French headings and words", () => {
    const list = read("Entrée;Source;Micro;Fantôme;Remarque\n1;Violon;statique;oui;près\n2;Voix;dynamique;non;\n");
    expect(list.columns.map((column) => column.meaning)).toEqual(["input", "source", "microphone", "phantom", "note"]);
    expect(list.rows.map((row) => row.sides[0].values.phantom)).toEqual([true, false]);
  });

  it("a track column goes before the source as the name", () => {
    expect(read("Input,Track,Source\n1,BD in,Bass drum\n").rows[0]).toMatchObject({
      name: "BD in",
      sides: [{ values: { source: "Bass drum" } }],
    });
  });

  it("without a phantom column condensers are given it, and it is said", () => {
    const plan = planImport(
      read("In,Name,Mic\n1,Voice,condenser\n2,Snare,moving coil\n"),
      wheelhouseCart,
      sequentialIds(),
    );
    expect(plan.tracks.map((track) => track.lines[0]?.phantom)).toEqual([true, false]);
    expect(plan.guessed[0]?.message).toContain("says nothing of phantom");
  });
});

describe("what could not be placed is told with its row", () => {
  it("an unreadable input, phantom and colour", () => {
    const list = read("Input,Name,48V,Colour\nthree,Snare,perhaps,mauve\n");
    expect(list.report.leftOut.map((remark) => remark.message)).toEqual([
      "Row 2: the input “three” can't be read; the line is kept without an input.",
      "Row 2: phantom “perhaps” says neither yes nor no; it is left off.",
      "Row 2: the colour “mauve” is no dye, no colour by name and no hex value; the family decides instead.",
    ]);
  });

  it("a hex colour near a dye is that dye, a far one the nearest, and said", () => {
    const list = read("Input,Name,Colour\n1,Snare,#ca4137\n2,Voice,#ff00aa\n");
    expect(list.rows.map((row) => row.colour)).toEqual(["madder", "cochineal"]);
    expect(list.report.guessed.map((remark) => remark.row)).toEqual([3]);
  });

  it("stereo with one input takes the next, and says so", () => {
    const list = read("Input,Name,Format\n7,Harp,stereo\n");
    expect(list.rows[0]?.sides.map((side) => side.input)).toEqual(["7", "8"]);
    expect(list.report.guessed[0]?.message).toBe("Row 2: stereo with one input; the right side is put on 8.");
  });
});

describe("what is no list", () => {
  it.each([
    ["", "The file is empty"],
    [" \n\n", "The file is empty"],
    ["Channel,Source,Microphone\n", "nothing below it"],
    ["Input,Colour\n1,madder\n", "No column says what is recorded"],
    [`Input,Name\n${"1,Snare\n".repeat(5000)}`, "up to 4096 are read"],
  ])("%#: is answered with what to do", (text, message) => expect(refusal(text)).toContain(message));
});

describe("pairs", () => {
  it("R before L is put the right way round", () => {
    expect(read("Input,Name\n6,Above R\n5,Above L\n").rows[0]?.sides.map((side) => side.input)).toEqual(["5", "6"]);
  });

  it("sides of different sources, or apart from each other, stay mono", () => {
    expect(read("Input,Name\n1,Harp L\n2,Organ R\n").rows).toHaveLength(2);
    expect(read("Input,Name\n1,Harp L\n2,Snare\n3,Harp R\n").rows).toHaveLength(3);
  });
});

describe("written lists", () => {
  it("have the columns of the house, one row a track", () => {
    const doc = aTemplate(wholeMill)
      .folder("Strings", "weld")
      .track("Harp", {
        input: ["E5", "E6"],
        folder: "Strings",
        microphone: "Small condenser pair",
        phantom: true,
        player: "Juno Ashby",
        note: "near",
      })
      .build();
    const plain = applyAll(doc, [
      {
        kind: "entries.set",
        table: "channels",
        ids: ["track-1" as never],
        set: { icon: guessedIcon({ name: "Harp", folder: ["Strings"] }) },
      },
    ]);
    expect(
      plain.ok && writeInputList(plain.doc, wholeMill),
    ).toBe(`Input,Track,Source,Microphone,Phantom,Format,Player,Folder,Colour,Note
E5-6,Harp,Harp,Small condenser pair,yes,stereo,Juno Ashby,Strings,weld,near
`);
  });

  it("say gain, pad, polarity, room and place of each side, and are read back side by side", () => {
    const set = (lineId: string, change: object) =>
      ({ kind: "entries.set", table: "lines", ids: [lineId as never], set: change }) as const;
    const doc = aTemplate()
      .track("Harp", { input: ["3", "4"] })
      .does(
        set("line-1", {
          gainDb: dB(32.5),
          pad: true,
          polarityInverted: true,
          room: "Loft",
          position: "over the player's head",
        }),
      )
      .does(set("line-2", { position: "at the sound board" }))
      .does({ kind: "entries.set", table: "channels", ids: ["track-1" as never], set: { icon: "keys" } })
      .build();
    const csv = writeInputList(doc, wheelhouseCart);
    expect(csv).toContain(
      ",keys,yes + no,inverted + normal,32.5 + ,Loft + ,over the player's head + at the sound board",
    );
    const [row] = read(csv).rows;
    expect(row).toMatchObject({
      icon: "keys",
      sides: [
        {
          values: { gainDb: 32.5, pad: true, polarityInverted: true, room: "Loft", position: "over the player's head" },
        },
        { values: { gainDb: null, pad: false, polarityInverted: false, room: "", position: "at the sound board" } },
      ],
    });
  });

  it("write pairs that are no neighbours so that they read back", () => {
    const doc = aTemplate()
      .track("Harp", { input: ["3", "9"] })
      .build();
    expect(inputsInList(wheelhouseCart, entriesOf(doc.lines))).toBe("3+9");
  });

  it("keep an input that the rig lacks", () => {
    expect(writeInputList(aTemplate().track("Voice", { input: "17" }).build(), wheelhouseCart)).toContain("17,Voice,");
  });

  it("can't carry a formula, and read back without the guard", () => {
    const doc = aTemplate().track("=SUM(A1)", { input: "1", note: "+48 on request", player: "@nadia" }).build();
    const csv = writeInputList(doc, wheelhouseCart);
    expect(csv).toContain("1,'=SUM(A1),'=SUM(A1),");
    expect(csv.split(/[,\n]/).some((cell) => /^[=+\-@]/.test(cell))).toBe(false);
    expect(read(csv).rows[0]).toMatchObject({ name: "=SUM(A1)", note: "+48 on request" });
  });

  it("read back to the same tracks, whatever is in them", () => {
    const word = fc
      .string({ minLength: 1, maxLength: 12 })
      .filter(
        (text) =>
          text.trim() === text &&
          !/^'|\r|\n|(?:^| )\+(?: |$)| › |\uFEFF/.test(text) &&
          !/(\bl|\br|left|right|links|rechts|gauche|droite)[)\].]*$/i.test(text) &&
          /[a-z]/i.test(text),
      );
    const side = fc.record({
      gainDb: fc.option(fc.integer({ min: -60, max: 120 }).map((value) => dB(value))),
      pad: fc.boolean(),
      polarityInverted: fc.boolean(),
      room: fc.constantFrom("", "Loft", "Wheelhouse"),
      position: fc.constantFrom("", "left of the fiddle", "on the floor"),
    });
    const row = fc.record({
      name: word,
      player: word,
      note: word,
      input: fc.integer({ min: 1, max: 14 }),
      colour: fc.constantFrom(...COLOUR_NAMES),
      phantom: fc.boolean(),
      microphone: fc.constantFrom("Large condenser A", "Moving-coil 1", ""),
      stereo: fc.boolean(),
      icon: fc.constantFrom<Icon | null>(null, ...ICONS),
      sides: fc.tuple(side, side),
    });
    fc.assert(
      fc.property(fc.array(row, { minLength: 1, maxLength: 8 }), (rows) => {
        const builder = aTemplate().folder("Strings", "weld");
        let lines = 0;
        for (const [at, { name, icon, sides, stereo, input, ...options }] of rows.entries()) {
          builder.track(name, {
            ...options,
            input: stereo ? [String(input), String(input + 1)] : String(input),
            folder: options.phantom ? "Strings" : undefined,
          } as never);
          builder.does({ kind: "entries.set", table: "channels", ids: [`track-${at + 1}` as never], set: { icon } });
          for (const set of stereo ? sides : sides.slice(1))
            builder.does({ kind: "entries.set", table: "lines", ids: [`line-${++lines}` as never], set });
        }
        const doc = builder.build();
        const back = template(writeInputList(doc, wheelhouseCart));
        const tell = (of: Template) =>
          tracksOf(of)
            .map((track) =>
              JSON.stringify([
                track.name,
                track.note,
                track.icon,
                colourOf(of, track),
                track.folderId && of.folders[track.folderId]?.name,
                linesOfTrack(of, track).map(({ id: _id, ...line }) => line),
              ]),
            )
            .sort();
        expect(tell(back)).toEqual(tell(doc));
      }),
      { numRuns: runs(150, 1500), seed: 20261125 },
    );
  });
});

describe("random and mangled lists", () => {
  const cell = fc.oneof(
    fc.string({ maxLength: 10 }),
    fc.constantFrom(
      "1",
      "7-8",
      "E5",
      "Snare",
      "Above L",
      "Above R",
      "yes",
      "madder",
      "#fff",
      '"',
      "=1",
      "Input",
      "Mikrofon",
      "\u0000",
      "’",
      "Gain",
      "32 + ",
      "Pad",
      "Polarity",
      "inverted",
      "Room",
      "Icon",
    ),
  );
  const table = fc.array(fc.array(cell, { maxLength: 7 }), { maxLength: 12 });

  it("never throw, and what is read can be applied", () => {
    const drawn = tally();
    fc.assert(
      fc.property(table, fc.constantFrom(",", ";", "\t"), (rows, delimiter) => {
        const answer = readInputList(rows.map((row) => row.join(delimiter)).join("\n"));
        drawn.took(answer.ok);
        if (!answer.ok) {
          expect(answer.message.length).toBeGreaterThan(10);
          return;
        }
        const plan = planImport(answer.list, wheelhouseCart, sequentialIds());
        expect(
          applyAll(
            emptyTemplate({ id: "t" as TemplateId, name: "T", kind: "band", rigId: wheelhouseCart.id }),
            plan.edits,
          ),
        ).toMatchObject({ ok: true });
      }),
      { numRuns: runs(150, 1500), seed: 20261125 },
    );
    expect(drawn.share()).toBeGreaterThan(0.2);
  });
});
