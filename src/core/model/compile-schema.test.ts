import { type Schema, Validator } from "@cfworker/json-schema";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { aTemplate } from "../testing/a-template";
import { crookedOf, few } from "../testing/crooked";
import { runs } from "../testing/how-many";
import { compileSchema } from "./compile-schema";
import { RIG_JSON_SCHEMA } from "./rig-schema";
import { STUDIO_JSON_SCHEMA } from "./studio-schema";
import { TEMPLATE_JSON_SCHEMA } from "./template-schema";

const doc = aTemplate()
  .folder("Strings", "madder")
  .track("Fiddle", { input: "9", folder: "Strings", microphone: "Moving-coil 1" })
  .track("Above", { input: ["5", "6"] })
  .build();

const KINDS = [
  ["template", TEMPLATE_JSON_SCHEMA, doc],
  ["rig", RIG_JSON_SCHEMA, few(wheelhouseCart)],
  ["studio", STUDIO_JSON_SCHEMA, few(demoStudio)],
] as const;

describe.each(KINDS)("a compiled schema of a %s", (_what, schema, whole) => {
  const fits = compileSchema(schema);
  const validator = new Validator(schema as Schema, "2020-12", true);

  it("takes the document", () => expect([fits(whole), validator.validate(whole).valid]).toEqual([true, true]));

  it("takes and refuses what the validator does, with anything put anywhere, taken away or added", () => {
    fc.assert(
      fc.property(crookedOf(whole), (edited) => {
        expect(fits(edited)).toBe(validator.validate(edited).valid);
      }),
      { numRuns: runs(700, 7000), seed: 20261126 },
    );
  });
});

it("a keyword that it does not know is no schema", () => {
  expect(() => compileSchema({ type: "string", format: "date" })).toThrow("format");
  expect(() => compileSchema({ type: "string", pattern: "(a+)+$" })).toThrow("written down");
  expect(() => compileSchema({ allOf: [{ type: "string" }] })).toThrow("kinds");
});
