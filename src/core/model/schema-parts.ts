import { type Schema, Validator } from "@cfworker/json-schema";
import { compileSchema } from "./compile-schema";
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
export const isReserved = (name: string): boolean => RESERVED.includes(name);
export const idOf = (maxLength: number) => ({ type: "string", minLength: 1, maxLength, not: { enum: RESERVED } });
export const id = idOf(64);
export const text = (maxLength: number) => ({ type: "string", maxLength });
export const named = (maxLength = 200) => ({ type: "string", minLength: 1, maxLength });
export const orNull = (schema: unknown) => ({ anyOf: [schema, { type: "null" }] });
/** One of several kinds of object, told apart by `kind`: what does not fit is told of the kind that it says it is. */
export const byKind = (kinds: Readonly<Record<string, Readonly<Record<string, unknown>>>>) => ({
  type: "object",
  properties: { kind: { enum: Object.keys(kinds) } },
  required: ["kind"],
  allOf: Object.entries(kinds).map(([kind, fields]) => ({
    if: { properties: { kind: { const: kind } } },
    // biome-ignore lint/suspicious/noThenProperty: a word of JSON Schema
    then: object({ kind: { const: kind }, ...fields }),
  })),
});
export const list = (items: unknown, maxItems = 256) => ({ type: "array", items, maxItems });
export const number = (minimum: number, maximum: number) => ({ type: "number", minimum, maximum });
export const whole = (minimum: number, maximum: number) => ({ type: "integer", minimum, maximum });

export interface Fault {
  readonly pointer: string;
  readonly message: string;
}

const depthOf = ({ pointer }: Fault): number => pointer.split("/").length;

/**
 * What a validator says of a value, for a person: of a field that is none it says only that its schema is false, of too
 * many entries that they are too few.
 */
export const inWords = ({ keyword, error }: { readonly keyword: string; readonly error: string }): string => {
  if (keyword === "false") return "There is no such field here that could be given.";
  if (keyword === "maxProperties")
    return `It holds more than the ${/\d+/.exec(error)?.[0] ?? ""} entries that are the most.`;
  return keyword === "anyOf" ? "It is none of what can stand here." : error;
};

type Loose = Readonly<Record<string, unknown>>;

/**
 * So many entries of one table are told of: whoever sends thousands that are wrong is not kept waiting for all of them.
 */
const MOST_TOLD = 200;

interface TableOf {
  readonly name: string;
  readonly most: number;
  readonly fits: (entry: unknown) => boolean;
}

const tablesIn = ({ properties = {} }: Loose): readonly TableOf[] =>
  Object.entries(properties as Readonly<Record<string, Loose>>).flatMap(
    ([name, { additionalProperties, maxProperties, properties: own }]) =>
      typeof additionalProperties === "object" && typeof maxProperties === "number" && !own
        ? [{ name, most: maxProperties, fits: compileSchema(additionalProperties as Loose) }]
        : [],
  );

const isRecord = (value: unknown): value is Loose =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/**
 * A document without the entries that fit, of which there is nothing to say, and what is to be said of how many there
 * are.
 */
const withoutWhatFits = (
  value: Loose,
  tables: readonly TableOf[],
): { readonly left: Loose; readonly tooMany: readonly Fault[] } => {
  const left: Record<string, unknown> = { ...value };
  const tooMany: Fault[] = [];
  for (const { name, most, fits } of tables) {
    const entries = value[name];
    if (!isRecord(entries)) continue;
    const all = Object.entries(entries);
    if (all.length > most)
      tooMany.push({ pointer: `/${name}`, message: inWords({ keyword: "maxProperties", error: String(most) }) });
    left[name] = Object.fromEntries(all.filter(([, entry]) => !fits(entry)).slice(0, MOST_TOLD));
  }
  return { left, tooMany };
};

/**
 * Where values depart from a schema: deepest places first, as JSON pointers. Empty when they fit. The validator, which
 * interprets the schema for every value, is asked only of the first of the entries that don't fit.
 */
export const faultsOf = (schema: object): ((value: unknown) => readonly Fault[]) => {
  const fits = compileSchema(schema as Loose);
  const tables = tablesIn(schema as Loose);
  const validator = new Validator(schema as Schema, "2020-12", false);
  return (value) => {
    if (fits(value)) return [];
    const { left, tooMany } = isRecord(value) ? withoutWhatFits(value, tables) : { left: value, tooMany: [] };
    const told = validator
      .validate(left)
      .errors.filter(
        (error) =>
          !["properties", "additionalProperties", "$ref", "items", "allOf", "anyOf", "if"].includes(error.keyword) ||
          error.instanceLocation.split("/").length > 2,
      )
      .map((error) => ({ pointer: error.instanceLocation.replace(/^#/, ""), message: inWords(error) }));
    return [...tooMany, ...told].sort((a, b) => depthOf(b) - depthOf(a));
  };
};
