import { plainToInstance } from "class-transformer";
import { IsString, ValidateNested, validateSync } from "class-validator";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { templateEngine } from "@/core/commands/template-engine";
import { aTemplate } from "@/core/testing/a-template";
import { runs } from "@/core/testing/how-many";
import { chanceRuns } from "@/core/testing/random-edits";
import { randomVerb } from "@/core/testing/random-verbs";
import { fitsClass } from "./fits-class";
import {
  ChainsQuery,
  CommandsRequest,
  CreateTemplateRequest,
  DelayQuery,
  ExportQuery,
  ImportRequest,
  NewerQuery,
} from "./requests";
import { VERB_CLASSES } from "./verb-classes";

type Loose = Readonly<Record<string, unknown>>;

const byClassValidator = (type: new () => object, value: Loose): boolean =>
  validateSync(plainToInstance(type, value, { exposeDefaultValues: true }), {
    whitelist: true,
    forbidNonWhitelisted: true,
    forbidUnknownValues: true,
  }).length === 0;

const GOOD: readonly (readonly [new () => object, Loose])[] = [
  [
    CommandsRequest,
    { base: 1, batch: "b", baseSavedAt: "2026", name: "Named", made: 4, commands: [{}, { kind: "set" }] },
  ],
  [CreateTemplateRequest, { key: "k", name: "Evening", kind: "band", rigId: "duo" }],
  [ImportRequest, { columns: ["input", "source", "ignore"], name: "Evening" }],
  [ExportQuery, { format: "pdf" }],
  [NewerQuery, { since: 0 }],
  [DelayQuery, { rateHz: 48_000, buffer: 128 }],
  [ChainsQuery, {}],
];

const strange = fc.oneof(
  fc.constantFrom<unknown>(
    null,
    undefined,
    "",
    "x".repeat(201),
    "😀".repeat(30),
    "e\ufe0f".repeat(30),
    -1,
    0.5,
    1e12,
    Number.NaN,
    true,
    [],
    {},
    [{}],
    [null],
    ["input", 3],
  ),
  fc.jsonValue(),
);
const edits = fc.array(
  fc.record({
    key: fc.constantFrom(
      "base",
      "batch",
      "baseSavedAt",
      "name",
      "made",
      "commands",
      "key",
      "kind",
      "rigId",
      "columns",
      "format",
      "since",
      "surplus",
    ),
    put: strange,
  }),
  {
    maxLength: 2,
  },
);

describe("whether a value fits a class", () => {
  it.each(GOOD)("%#: a good one does, and is not left to the slower way", (type, value) =>
    expect([fitsClass(type, value), byClassValidator(type, value)]).toEqual([true, true]),
  );

  it.each(GOOD)("%#: whatever is put into it, the answer is that of class-validator", (type, value) => {
    fc.assert(
      fc.property(edits, (changes) => {
        const changed = Object.fromEntries([...Object.entries(value), ...changes.map(({ key, put }) => [key, put])]);
        expect(fitsClass(type, changed), JSON.stringify(changed)).toBe(byClassValidator(type, changed));
      }),
      { numRuns: runs(150, 1500), seed: 20261127 },
    );
  });

  it("the same of every verb, good, crooked and of other tables", () => {
    const start = aTemplate()
      .folder("Strings")
      .track("Fiddle", { input: "9", folder: "Strings" })
      .track("Above", { input: ["5", "6"] })
      .build();
    const seen = { yes: 0, no: 0 };
    const fields = fc.record({
      field: fc.constantFrom("table", "ids", "entries", "values", "before", "parent", "patches", "undoes", "more"),
      put: strange,
    });
    fc.assert(
      fc.property(chanceRuns, fc.option(fields), (chance, change) => {
        const command = randomVerb(templateEngine.description, start, chance);
        const type = VERB_CLASSES.template[command.kind];
        const value: Loose = { ...command, ...(change ? { [change.field]: change.put } : {}) };
        const fits = fitsClass(type, value);
        seen[fits ? "yes" : "no"] += 1;
        expect(fits, JSON.stringify(value)).toBe(byClassValidator(type, value));
      }),
      { numRuns: runs(500, 5000), seed: 20261127 },
    );
    expect(Math.min(seen.yes, seen.no)).toBeGreaterThan(60);
  });

  it("what a class does not say here is left to class-validator", () => {
    class Inner {
      @IsString() name!: string;
    }
    class Outer {
      @ValidateNested() inner!: Inner;
    }
    class Silent {}
    expect([fitsClass(Outer, { inner: { name: "x" } }), fitsClass(Silent, {})]).toEqual([false, false]);
  });
});
