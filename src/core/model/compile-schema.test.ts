import { type Schema, Validator } from "@cfworker/json-schema";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { aTemplate } from "../testing/a-template";
import { compileSchema } from "./compile-schema";
import { RIG_JSON_SCHEMA } from "./rig-schema";
import { STUDIO_JSON_SCHEMA } from "./studio-schema";
import { TEMPLATE_JSON_SCHEMA } from "./template-schema";

const doc = aTemplate()
  .folder("Strings", "madder")
  .track("Fiddle", { input: "9", folder: "Strings", microphone: "Moving-coil 1" })
  .track("Above", { input: ["5", "6"] })
  .build();

/** A document with a few entries of each table that are unlike each other: a schema asks nothing more of the hundredth than of the first. */
const few = <D extends object>(whole: D): D =>
  Object.fromEntries(
    Object.entries(whole).map(([name, table]) => {
      if (typeof table !== "object" || table === null) return [name, table];
      const shapes = new Map(
        Object.entries(table).map((entry) => [JSON.stringify(entry[1], (key, value) => (typeof value === "object" || key === "kind" ? value : typeof value)), entry]),
      );
      return [name, Object.fromEntries(shapes.values())];
    }),
  ) as D;

const KINDS = [
  ["template", TEMPLATE_JSON_SCHEMA, doc],
  ["rig", RIG_JSON_SCHEMA, few(wheelhouseCart)],
  ["studio", STUDIO_JSON_SCHEMA, few(demoStudio)],
] as const;

/** Every place of a document, as paths. */
const places = (value: unknown, path: readonly string[] = []): readonly (readonly string[])[] =>
  typeof value === "object" && value !== null ? [path, ...Object.entries(value).flatMap(([key, inner]) => places(inner, [...path, key]))] : [path];

const withAt = (value: unknown, [step, ...rest]: readonly string[], put: (at: unknown) => unknown): unknown => {
  if (step === undefined) return put(value);
  const copy: Record<string, unknown> | unknown[] = Array.isArray(value) ? [...value] : { ...(value as object) };
  (copy as Record<string, unknown>)[step] = withAt((copy as Record<string, unknown>)[step], rest, put);
  return copy;
};

const strange = fc.oneof(
  fc.constantFrom<unknown>(
    null,
    "",
    "x".repeat(201),
    "x".repeat(4001),
    "😀".repeat(200),
    -1,
    0.5,
    1e9,
    true,
    [],
    {},
    { kind: "none" },
    { kind: "pair" },
    "madder",
    "own-heather",
    "__proto__",
  ),
  fc.jsonValue(),
);

describe.each(KINDS)("a compiled schema of a %s", (_what, schema, whole) => {
  const fits = compileSchema(schema);
  const validator = new Validator(schema as Schema, "2020-12", true);

  it("takes the document", () => expect([fits(whole), validator.validate(whole).valid]).toEqual([true, true]));

  it("takes and refuses what the validator does, with anything put anywhere, taken away or added", () => {
    const paths = places(whole);
    const edits = fc.record({ path: fc.constantFrom(...paths), put: strange, how: fc.constantFrom("put", "drop", "add") });
    fc.assert(
      fc.property(edits, ({ path, put, how }) => {
        const edited = withAt(whole, how === "drop" ? path.slice(0, -1) : path, (at) => {
          if (how === "put" || typeof at !== "object" || at === null) return put;
          if (how === "add") return Array.isArray(at) ? [...at, put] : { ...at, more: put };
          return Object.fromEntries(Object.entries(at).filter(([key]) => key !== path.at(-1)));
        });
        expect(fits(edited)).toBe(validator.validate(edited).valid);
      }),
      { numRuns: 700, seed: 20261126 },
    );
  });
});

it("a keyword that it does not know is no schema", () => {
  expect(() => compileSchema({ type: "string", format: "date" })).toThrow("format");
  expect(() => compileSchema({ type: "string", pattern: "(a+)+$" })).toThrow("written down");
  expect(() => compileSchema({ allOf: [{ type: "string" }] })).toThrow("kinds");
});
