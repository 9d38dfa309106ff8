import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { brokenInvariants } from "../../commands/template-engine";
import { wholeMill } from "../../demo/rigs";
import { sequentialIds, type TemplateId } from "../../model/ids";
import { emptyTemplate } from "../../model/template";
import { applyAll } from "../../planning/edits/template-editing";
import { runs } from "../../testing/how-many";
import { planImport } from "./plan-import";
import { readInputList } from "./read-input-list";

const folder = new URL("../../../../tests/fixtures/input-lists/", import.meta.url);
const fixtures = readdirSync(folder).map((name) => readFileSync(new URL(name, folder), "utf8"));

const WORDS = [
  "Input",
  "Eingang",
  "Source",
  "Quelle",
  "Instrument",
  "Mic",
  "48V",
  "Colour",
  "Gain",
  "Vordämpfung",
  "Polarity",
  "Room",
  "Icon",
  "32 +",
  "Stereo",
  "1",
  "1-2",
  "E5/6",
  "99",
  "LB1",
  "=1+1",
  "Tuba L",
  "Tuba R",
  "x",
  "",
  " ",
  '"',
  "#ff0000",
  "ja",
  "\u0000",
  "Ü",
  "🎺",
  "__proto__",
  "constructor",
  "CON",
  "a/b",
];
const SEPARATORS = [",", ";", "\t", "|", "\n", "\r\n", '"', "\uFEFF"];

/**
 * A list made of anything, or one of ours with pieces cut out, doubled, swapped and sprinkled with what does not
 * belong.
 */
const anyList = fc.oneof(
  fc
    .array(fc.oneof(fc.constantFrom(...WORDS), fc.constantFrom(...SEPARATORS), fc.string({ maxLength: 6 })), {
      maxLength: 60,
    })
    .map((parts) => parts.join("")),
  fc.string({ maxLength: 200 }),
  fc
    .record({
      of: fc.constantFrom(...fixtures),
      cuts: fc.array(
        fc.record({
          at: fc.double({ min: 0, max: 1, noNaN: true }),
          drop: fc.nat(12),
          add: fc.oneof(fc.constantFrom(...WORDS), fc.constantFrom(...SEPARATORS)),
        }),
        {
          maxLength: 8,
        },
      ),
    })
    .map(({ of, cuts }) =>
      cuts.reduce((text, { at, drop, add }) => {
        const place = Math.floor(at * text.length);
        return text.slice(0, place) + add + text.slice(place + drop);
      }, of),
    ),
);

describe("random and mangled lists", () => {
  it("are read or answered, never thrown at", () => {
    let [read, told] = [0, 0];
    fc.assert(
      fc.property(anyList, (text) => {
        const list = readInputList(text);
        if (list.ok) read += 1;
        else {
          told += 1;
          expect(list.message.length).toBeGreaterThan(20);
        }
      }),
      { numRuns: runs(1000, 10_000), seed: 20261125 },
    );
    // Neither side may be empty, or the lists would prove nothing.
    const least = runs(50, 500);
    expect([read > least, told > least]).toEqual([true, true]);
  });

  it("what is read becomes a template that keeps the rules", () => {
    fc.assert(
      fc.property(anyList, (text) => {
        const list = readInputList(text);
        if (!list.ok) return;
        const made = applyAll(
          emptyTemplate({ id: "t" as TemplateId, name: "T", kind: "band", rigId: wholeMill.id }),
          planImport(list.list, wholeMill, sequentialIds()).edits,
        );
        if (!made.ok) throw new Error(made.refusal.message);
        expect(brokenInvariants(made.doc)).toEqual([]);
      }),
      { numRuns: runs(150, 1500), seed: 7 },
    );
  });
});
