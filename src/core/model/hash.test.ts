import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { searchText } from "../layout/search-text";
import { apply } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { runs } from "../testing/how-many";
import { chanceRuns, randomEdit } from "../testing/random-edits";
import { hashOf } from "./hash";
import { RIG } from "./rig";
import { TEMPLATE } from "./template";

const doc = aTemplate()
  .folder("Strings")
  .track("Fiddle", { input: "9", folder: "Strings" })
  .track("Above", { input: ["5", "6"] })
  .build();
const turned = (value: unknown): unknown =>
  typeof value === "object" && value !== null && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).reverse())
    : value;

describe("the hash of a document", () => {
  it("is 32 digits, and the same for a document that was read from JSON", () => {
    expect(hashOf(TEMPLATE, doc)).toMatch(/^[0-9a-f]{32}$/);
    expect(hashOf(TEMPLATE, JSON.parse(JSON.stringify(doc)))).toBe(hashOf(TEMPLATE, doc));
    expect(hashOf(RIG, structuredClone(wholeMill))).toBe(hashOf(RIG, wholeMill));
  });

  it("does not depend on the order in which entries and their fields were put", () => {
    const lines = Object.fromEntries(
      Object.entries(doc.lines)
        .reverse()
        .map(([id, line]) => [id, turned(line)]),
    );
    expect(hashOf(TEMPLATE, { ...doc, lines })).toBe(hashOf(TEMPLATE, doc));
  });

  it("is another one after every edit that changes something, and what is kept by entry says what a look at the whole says", () => {
    const seen = new Set<string>();
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        let now = doc;
        const stepped: { readonly state: typeof doc; readonly hash: string; readonly text: string }[] = [];
        for (let n = 0; n < 20; n++) {
          const done = apply(now, randomEdit(now, chance));
          if (!done.ok || !done.patches.length) continue;
          expect(hashOf(TEMPLATE, done.doc)).not.toBe(hashOf(TEMPLATE, now));
          now = done.doc;
          stepped.push({ state: now, hash: hashOf(TEMPLATE, now), text: searchText(now) });
          seen.add(hashOf(TEMPLATE, now));
        }
        // Only after all steps: what is looked at from nothing would be the last one for the next step.
        for (const { state, hash, text } of stepped)
          expect([hashOf(TEMPLATE, structuredClone(state)), searchText(structuredClone(state))]).toEqual([hash, text]);
      }),
      { numRuns: runs(60, 600), seed: 20261126 },
    );
    expect(seen.size).toBeGreaterThan(500);
  });

  it.each([
    [
      "two lines that change places",
      {
        lines: {
          "line-1": { ...doc.lines["line-2" as never], id: "line-1" },
          "line-2": { ...doc.lines["line-1" as never], id: "line-2" },
        },
      },
    ],
    ["a field of its own", { note: "x" }],
    ["a part of the format", { format: { ...doc.format, meetsPicture: true } }],
    ["its id", { id: "another" }],
  ])("%s makes another", (_what, change) =>
    expect(hashOf(TEMPLATE, { ...doc, ...change })).not.toBe(hashOf(TEMPLATE, doc)),
  );
});
