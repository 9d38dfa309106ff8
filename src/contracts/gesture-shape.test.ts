import { createHash } from "node:crypto";
import { describe, expect, it } from "vitest";
import { VERBS } from "@/core/commands/command";
import { GESTURE_SHAPES, GESTURE_VERSION } from "@/core/commands/gesture-version";
import { number } from "@/core/model/describe/fields";
import {
  changeSchema,
  type DocumentDescription,
  documentSchema,
  headerChangeSchema,
  newEntrySchema,
} from "@/core/model/describe/table";
import { RIG } from "@/core/model/rig";
import { STUDIO } from "@/core/model/studio";
import { TEMPLATE } from "@/core/model/template";

/** The same for the same schemas, whatever the order in which they were put together. */
const sorted = (value: unknown): unknown =>
  Array.isArray(value)
    ? value.map(sorted)
    : typeof value === "object" && value !== null
      ? Object.fromEntries(
          Object.entries(value)
            .sort(([a], [b]) => (a < b ? -1 : 1))
            .map(([key, inner]) => [key, sorted(inner)]),
        )
      : value;

const sayable = (description: DocumentDescription) => [
  documentSchema(description),
  headerChangeSchema(description),
  ...Object.values(description.tables).flatMap((table) => [newEntrySchema(table), changeSchema(table)]),
];

const shapeOf = (documents: readonly DocumentDescription[]): string =>
  createHash("sha256")
    .update(JSON.stringify(sorted([VERBS, documents.map(sayable)])))
    .digest("hex")
    .slice(0, 16);

const DOCUMENTS: readonly DocumentDescription[] = [TEMPLATE, RIG, STUDIO];

describe("the version of gestures", () => {
  it("is raised when what they can say has changed", () => {
    const shape = shapeOf(DOCUMENTS);
    expect(
      GESTURE_SHAPES[GESTURE_VERSION],
      `The descriptions say something else than gestures of version ${GESTURE_VERSION} could. Raise GESTURE_VERSION, put ${GESTURE_VERSION + 1}: "${shape}" beside it, and have older gestures completed.`,
    ).toBe(shape);
    expect(Math.max(...Object.keys(GESTURE_SHAPES).map(Number))).toBe(GESTURE_VERSION);
    expect(new Set(Object.values(GESTURE_SHAPES)).size).toBe(Object.keys(GESTURE_SHAPES).length);
  });

  it("is told of a field that is added, and of one that may be more than it was; not of what things are called", () => {
    const { lines } = TEMPLATE.tables;
    const withLines = (fields: object): DocumentDescription => ({
      ...TEMPLATE,
      tables: { ...TEMPLATE.tables, lines: { ...lines, fields: { ...lines.fields, ...fields } } as never },
    });
    const now = shapeOf([TEMPLATE]);
    expect(shapeOf([withLines({ stand: number({ min: 0, max: 9 }, { word: "the stand" }) })])).not.toBe(now);
    expect(
      shapeOf([withLines({ gainDb: { ...lines.fields.gainDb, schema: { type: "number", maximum: 999 } } })]),
    ).not.toBe(now);
    expect(shapeOf([withLines({ gainDb: { ...lines.fields.gainDb, word: "how far it is turned up" } })])).toBe(now);
  });
});
