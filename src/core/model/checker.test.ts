import { type Schema, Validator } from "@cfworker/json-schema";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { aTemplate } from "../testing/a-template";
import { crookedOf, few } from "../testing/crooked";
import { runs } from "../testing/how-many";
import { checkerOf } from "./checker";
import { MOST } from "./limits";
import { RIG_JSON_SCHEMA } from "./rig-schema";
import { STUDIO_JSON_SCHEMA } from "./studio-schema";
import { newLine } from "./tables/lines";
import { TEMPLATE_JSON_SCHEMA, templateFaults } from "./template-schema";

const template = aTemplate()
  .folder("Strings", "madder")
  .track("Fiddle", { input: "9", folder: "Strings", microphone: "Moving-coil 1" })
  .track("Above", { input: ["5", "6"] })
  .build();

const parentOf = (pointer: string): string => pointer.slice(0, pointer.lastIndexOf("/"));
const within = (place: string, around: string): boolean => place === around || place.startsWith(`${around}/`);
const isOneOf = (...texts: readonly string[]) => expect.toSatisfy((place: string) => texts.includes(place));

describe.each([
  ["template", TEMPLATE_JSON_SCHEMA, template],
  ["rig", RIG_JSON_SCHEMA, few(wheelhouseCart)],
  ["studio", STUDIO_JSON_SCHEMA, few(demoStudio)],
] as const)("a %s held to its schema", (_what, schema, whole) => {
  const checker = checkerOf(schema);
  // Knows nothing of us, and reads the schema anew for every value.
  const validator = new Validator(schema as Schema, "2020-12", false);

  it("fits", () => expect([checker.faults(whole), validator.validate(whole).valid]).toEqual([[], true]));

  it("fits or not as an independent validator says, at places that it tells too, whatever is put, taken or added", () => {
    let wrong = 0;
    fc.assert(
      fc.property(crookedOf(whole), (edited) => {
        const { valid, errors } = validator.validate(edited);
        expect(checker.fits(edited)).toBe(valid);
        const told = checker.faults(edited);
        expect(told.length > 0).toBe(!valid);
        if (!valid) wrong += 1;
        const places = [
          ...new Set(errors.map(({ instanceLocation }) => decodeURIComponent(instanceLocation.slice(1)))),
        ];
        // What is missing, and a name that can't be one, it tells of the object around it.
        for (const { pointer } of told) expect(places, pointer).toContainEqual(isOneOf(pointer, parentOf(pointer)));
        // Nothing that it tells is passed over: it, what is in it or what holds it is told.
        for (const place of places)
          expect(
            told.some(({ pointer, message }) => {
              const at = message === "This is missing." ? parentOf(pointer) : pointer;
              return within(at, place) || within(place, at);
            }),
            place,
          ).toBe(true);
      }),
      { numRuns: runs(350, 7000), seed: 20261126 },
    );
    expect(wrong).toBeGreaterThan(100);
  });
});

describe("what is told", () => {
  it.each([
    [{ type: "number", minimum: 0 }, -1, "", "It is less than 0."],
    [{ type: "number", maximum: 12 }, 12.5, "", "It is more than 12."],
    [{ type: "integer" }, "3", "", "There must be a whole number here, and it is a text."],
    [{ type: ["string", "null"] }, [], "", "There must be a text or null here, and it is a list."],
    [
      { type: "boolean" },
      Number.NaN,
      "",
      "There must be true or false here, and it is something that JSON does not have.",
    ],
    [{ enum: ["mono", "stereo"] }, "5.1", "", "It must be one of mono, stereo."],
    [{ const: 3 }, 4, "", "It must be 3."],
    [{ type: "string", minLength: 1 }, "", "", "It must not be empty."],
    [{ type: "string", maxLength: 2 }, "e\ufe0f\ud83d\ude00", "", "It is longer than 2 characters."],
    [{ type: "object", properties: { a: {} }, additionalProperties: false }, { "b/c": 1 }, "/b~1c", "no such field"],
    [{ type: "object", required: ["a"] }, {}, "/a", "This is missing."],
    [{ type: "array", items: { type: "null" } }, [null, 0], "/1", "There must be null here, and it is a whole number."],
    [{ type: "array", maxItems: 1 }, [1, 2], "", "It holds more than the 1 items that are the most."],
    [{ type: "object", minProperties: 1 }, {}, "", "It holds fewer than the 1 entries that are needed."],
    [{ anyOf: [{ type: "number", maximum: 1 }, { type: "null" }] }, 2, "", "It is more than 1."],
    [{ anyOf: [{ type: "number" }, { type: "boolean" }] }, "x", "", "It is none of what can stand here."],
    [{ not: { enum: ["valueOf"] } }, "valueOf", "", "can't stand here"],
  ])("%j takes no %j", (schema, value, pointer, message) => {
    const [fault, ...more] = checkerOf(schema).faults(value);
    expect([fault?.pointer, more]).toEqual([pointer, []]);
    expect(fault?.message).toContain(message);
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

it("a keyword, a type or a pattern that it does not know makes no schema", () => {
  expect(() => checkerOf({ type: "string", format: "date" })).toThrow("format");
  expect(() => checkerOf({ type: "date" })).toThrow("date");
  expect(() => checkerOf({ type: "string", pattern: "(a+)+$" })).toThrow("written down");
  expect(() => checkerOf({ allOf: [{ type: "string" }] })).toThrow("kinds");
});
