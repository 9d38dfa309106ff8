import { type Schema, Validator } from "@cfworker/json-schema";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { aTemplate } from "../testing/a-template";
import { crookedOf, few } from "../testing/crooked";
import { runs } from "../testing/how-many";
import { MOST } from "./limits";
import { RIG_JSON_SCHEMA, rigFaults } from "./rig-schema";
import { STUDIO_JSON_SCHEMA, studioFaults } from "./studio-schema";
import { newLine } from "./tables/lines";
import { TEMPLATE_JSON_SCHEMA, templateFaults } from "./template-schema";

const template = aTemplate()
  .folder("Strings", "madder")
  .track("Fiddle", { input: "9", folder: "Strings" })
  .track("Above", { input: ["5", "6"] })
  .build();
const sorted = (places: readonly string[]): readonly string[] => [...new Set(places)].sort();

describe.each([
  ["template", TEMPLATE_JSON_SCHEMA, templateFaults, template],
  ["rig", RIG_JSON_SCHEMA, rigFaults, few(wheelhouseCart)],
  ["studio", STUDIO_JSON_SCHEMA, studioFaults, few(demoStudio)],
] as const)("where a %s departs from its schema", (_what, schema, faults, whole) => {
  const validator = new Validator(schema as Schema, "2020-12", false);

  it("is told as the validator tells it that is asked of the whole, whatever is in it", () => {
    let wrong = 0;
    fc.assert(
      fc.property(crookedOf(whole), (document) => {
        const { valid, errors } = validator.validate(document);
        const found = faults(document);
        expect(found.length > 0).toBe(!valid);
        if (!valid) wrong += 1;
        // Of keywords that only hold others the place inside is told.
        const places = errors.map(({ instanceLocation }) => instanceLocation.replace(/^#/, ""));
        expect(places).toEqual(expect.arrayContaining([...sorted(found.map(({ pointer }) => pointer))]));
        const deepest = Math.max(0, ...places.map((place) => place.split("/").length));
        if (deepest > 2) expect(found[0]?.pointer.split("/").length).toBe(deepest);
      }),
      { numRuns: runs(200, 2000), seed: 20261127 },
    );
    expect(wrong).toBeGreaterThan(50);
  });
});

describe("a document of more than may be", () => {
  const lines = (count: number, change: object) =>
    Object.fromEntries(
      Array.from({ length: count }, (_, at) => [`l${at}`, { ...newLine({ id: `l${at}` as never }), ...change }]),
    );

  it("is told of how many may be, and of what else is wrong", () => {
    const faults = templateFaults({
      ...template,
      name: 3,
      lines: { ...lines(MOST.lines, {}), crooked: { ...newLine({ id: "crooked" as never }), gainDb: "much" } },
    });
    expect(faults.map(({ pointer }) => pointer)).toEqual(
      expect.arrayContaining(["/lines", "/lines/crooked/gainDb", "/name"]),
    );
    expect(faults.find(({ pointer }) => pointer === "/lines")?.message).toBe(
      "It holds more than the 8192 entries that are the most.",
    );
  });

  it("is told of the first two hundred of thousands that are wrong", () => {
    const faults = templateFaults({ ...template, lines: lines(MOST.lines, { gainDb: "much" }) });
    expect(new Set(faults.map(({ pointer }) => pointer.split("/")[2])).size).toBe(200);
    expect(faults[0]?.pointer).toBe("/lines/l0/gainDb");
  });
});
