import { MOST } from "./limits";

/** Pieces of JSON Schema (draft 2020-12) that the schemas of all documents are made of. */
export const object = (properties: Readonly<Record<string, unknown>>) => ({
  type: "object",
  properties,
  required: Object.keys(properties),
  additionalProperties: false,
});
export const table = (entry: unknown, most: number = MOST.parts) => ({
  type: "object",
  additionalProperties: entry,
  maxProperties: most,
});
/**
 * What every object of JavaScript answers to. As the id of an entry or the name of a field, it would reach into all
 * objects instead of the one that is meant.
 */
const RESERVED: readonly string[] = Object.getOwnPropertyNames(Object.prototype);
const RESERVED_NAMES = new Set(RESERVED);
export const isReserved = (name: string): boolean => RESERVED_NAMES.has(name);
export const idOf = (maxLength: number) => ({ type: "string", minLength: 1, maxLength, not: { enum: RESERVED } });
export const id = idOf(64);
export const text = (maxLength: number) => ({ type: "string", maxLength });
export const named = (maxLength = 200) => ({ type: "string", minLength: 1, maxLength });
export const orNull = (schema: unknown) => ({ anyOf: [schema, { type: "null" }] });
/** One of several kinds of object, told apart by one of its fields. */
export const byOne = (field: string, kinds: Readonly<Record<string, Readonly<Record<string, unknown>>>>) => ({
  type: "object",
  properties: { [field]: { enum: Object.keys(kinds) } },
  required: [field],
  allOf: Object.entries(kinds).map(([kind, schema]) => ({
    if: { properties: { [field]: { const: kind } } },
    // biome-ignore lint/suspicious/noThenProperty: a word of JSON Schema
    then: schema,
  })),
});
/** One of several kinds of object, told apart by `kind`: what does not fit is told of the kind that it says it is. */
export const byKind = (kinds: Readonly<Record<string, Readonly<Record<string, unknown>>>>) =>
  byOne(
    "kind",
    Object.fromEntries(
      Object.entries(kinds).map(([kind, fields]) => [kind, object({ kind: { const: kind }, ...fields })]),
    ),
  );
export const list = (items: unknown, maxItems = 256) => ({ type: "array", items, maxItems });
export const number = (minimum: number, maximum: number) => ({ type: "number", minimum, maximum });
export const whole = (minimum: number, maximum: number) => ({ type: "integer", minimum, maximum });
