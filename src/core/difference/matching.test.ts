import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { brokenInvariants, templateEngine } from "../commands/template-engine";
import { demoTemplates } from "../demo/templates";
import { TEMPLATE, type Template } from "../model/template";
import { templateFaults } from "../model/template-schema";
import { apply } from "../planning/edits/template-editing";
import { runs } from "../testing/how-many";
import { chanceRuns, randomEdit } from "../testing/random-edits";
import { allPatches } from "./carry";
import { changesBetween } from "./changes-between";
import { matchedByMeaning } from "./matching";

const nine = demoTemplates().find(({ name }) => name === "The Tidewrack Nine") ?? expect.unreachable();

/** The same document with other ids in it, as somebody else would have made it. */
const strange = (doc: Template): Template => {
  const text = JSON.stringify(doc);
  const ids = Object.keys(TEMPLATE.tables)
    .filter((table) => table !== "accepted")
    .flatMap((table) => Object.keys((doc as never)[table] as object))
    .filter((id) => id !== "main");
  const other = new Map([...new Set(ids)].map((id, at) => [id, `other-${at}`]));
  return JSON.parse(text, (_key, value: unknown) => {
    if (typeof value === "string") return other.get(value) ?? value;
    if (typeof value !== "object" || value === null || Array.isArray(value)) return value;
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [other.get(key) ?? key, inner]));
  }) as Template;
};

describe("two documents that do not come from one another", () => {
  it("that say the same under other ids do not differ", () => {
    const { there, alike } = matchedByMeaning(nine, strange(nine));
    expect(changesBetween(TEMPLATE, { here: nine, there })).toEqual([]);
    expect(alike).toBeGreaterThan(100);
  });

  it("are whole after what is alike was given one id, and the difference leads there", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        let other = strange(nine);
        for (let n = 0; n < 25; n++) {
          const done = apply(other, randomEdit(other, chance));
          if (done.ok) other = done.doc;
        }
        const { there } = matchedByMeaning(nine, other);
        expect([templateFaults(there), brokenInvariants(there)]).toEqual([[], []]);
        const changes = changesBetween(TEMPLATE, { here: nine, there });
        const patches = allPatches(changes);
        const done = templateEngine.apply(nine, { kind: "restore", undoes: "x", carries: true, patches });
        const left = done.ok ? changesBetween(TEMPLATE, { here: done.doc, there }) : done.refusal.message;
        expect(left).toEqual([]);
      }),
      { numRuns: runs(30, 500), seed: 20261205 },
    );
  });
});
