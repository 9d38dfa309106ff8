type Schema = Readonly<Record<string, unknown>>;

/** Where a value departs from its schema: a JSON pointer, and what a person should read. */
export interface Fault {
  readonly pointer: string;
  readonly message: string;
}

/** Holds values to one schema. */
export interface Checker {
  readonly fits: (value: unknown) => boolean;
  /** Where it departs from it, in the order of the schema; empty when it fits. */
  readonly faults: (value: unknown) => readonly Fault[];
}

/** One keyword, or several that belong together. */
interface Part {
  readonly fits: (value: unknown) => boolean;
  readonly tell: (value: unknown, at: string) => readonly Fault[];
}

/** So many entries or items of one place are told of: whoever sends thousands that are wrong is not kept waiting. */
const MOST_TOLD = 200;
/** So many values are named of those that may stand at a place. */
const MOST_NAMED = 12;

const below = (at: string, name: string | number): string =>
  `${at}/${String(name).replaceAll("~", "~0").replaceAll("/", "~1")}`;

const leaf = (fits: Part["fits"], says: (value: unknown) => string): Part => ({
  fits,
  tell: (value, at) => (fits(value) ? [] : [{ pointer: at, message: says(value) }]),
});

const isRecord = (value: unknown): value is Schema =>
  typeof value === "object" && value !== null && !Array.isArray(value);

const TYPES: Readonly<Record<string, { readonly fits: Part["fits"]; readonly word: string }>> = {
  string: { fits: (value) => typeof value === "string", word: "a text" },
  integer: { fits: Number.isInteger, word: "a whole number" },
  number: { fits: (value) => typeof value === "number" && Number.isFinite(value), word: "a number" },
  boolean: { fits: (value) => typeof value === "boolean", word: "true or false" },
  null: { fits: (value) => value === null, word: "null" },
  array: { fits: Array.isArray, word: "a list" },
  object: { fits: isRecord, word: "an object" },
};

const wordOf = (value: unknown): string =>
  Object.values(TYPES).find(({ fits }) => fits(value))?.word ?? "something that JSON does not have";

const typeOf = ({ type }: Schema): Part => {
  const types = (Array.isArray(type) ? type : [type]).map((name: string) => {
    const known = TYPES[name];
    if (!known) throw new Error(`expected a type of JSON, got ${name}`);
    return known;
  });
  const [only] = types;
  const fits = types.length === 1 && only ? only.fits : (value: unknown) => types.some((one) => one.fits(value));
  return leaf(
    fits,
    (value) => `There must be ${types.map(({ word }) => word).join(" or ")} here, and it is ${wordOf(value)}.`,
  );
};

const oneOf = (values: readonly unknown[]): Part => {
  const set = new Set(values);
  const more = values.length - MOST_NAMED;
  const named = `${values.slice(0, MOST_NAMED).map(String).join(", ")}${more > 0 ? ` and ${more} more` : ""}`;
  return leaf(
    (value) => set.has(value),
    () => (values.length === 1 ? `It must be ${named}.` : `It must be one of ${named}.`),
  );
};

/** How many there may be of something: the fault is that of the place that holds them. */
const howMany = (least: unknown, most: unknown, word: string): ((count: number) => string | null) => {
  const [min, max] = [(least as number) ?? 0, (most as number) ?? Number.POSITIVE_INFINITY];
  return (count) =>
    count > max
      ? `It holds more than the ${max} ${word} that are the most.`
      : count < min
        ? `It holds fewer than the ${min} ${word} that are needed.`
        : null;
};

const UNKNOWN = "There is no such field here that could be given.";

/** What is held to nothing. */
const anything: Part = { fits: () => true, tell: () => [] };
/** What can't be there at all. */
const nothing: Part = { fits: () => false, tell: (_value, pointer) => [{ pointer, message: UNKNOWN }] };

/** All of these fields and no others, as most of our objects are: each is looked at once, by its name. */
const allOf = (known: ReadonlyMap<string, Part>) => {
  const fields = [...known];
  return (value: Schema): boolean => {
    for (const [name, part] of fields) if (!part.fits(value[name])) return false;
    const names = Object.keys(value);
    return names.length === fields.length && names.every((name) => known.has(name));
  };
};

const object = ({
  properties = {},
  required = [],
  additionalProperties,
  propertyNames,
  maxProperties,
  minProperties,
}: Schema): Part => {
  const named = propertyNames ? partOf(propertyNames as Schema) : anything;
  const known = new Map(
    Object.entries(properties as Record<string, Schema>).map(([name, schema]) => [name, partOf(schema)]),
  );
  const needed = required as readonly string[];
  const more =
    additionalProperties === false
      ? nothing
      : typeof additionalProperties === "object"
        ? partOf(additionalProperties as Schema)
        : anything;
  const count = howMany(minProperties, maxProperties, "entries");
  const [least, most] = [(minProperties as number) ?? 0, (maxProperties as number) ?? Number.POSITIVE_INFINITY];
  const each = (value: Schema): boolean => {
    const names = Object.keys(value);
    if (names.length > most || names.length < least) return false;
    for (const name of needed) if (!Object.hasOwn(value, name)) return false;
    for (const name of names) if (!named.fits(name) || !(known.get(name) ?? more).fits(value[name])) return false;
    return true;
  };
  const closed = additionalProperties === false && needed.length === known.size && !propertyNames && most >= known.size;
  const holds = closed ? allOf(known) : each;
  return {
    fits: (value) => !isRecord(value) || holds(value),
    tell: (value, at) => {
      if (!isRecord(value)) return [];
      const names = Object.keys(value);
      const tooMany = count(names.length);
      const missing = needed.filter((name) => !Object.hasOwn(value, name));
      const wrong = names
        .filter((name) => !named.fits(name) || !(known.get(name) ?? more).fits(value[name]))
        .slice(0, MOST_TOLD);
      return [
        ...(tooMany ? [{ pointer: at, message: tooMany }] : []),
        ...missing.map((name) => ({ pointer: below(at, name), message: "This is missing." })),
        ...wrong.flatMap((name) => [
          ...named.tell(name, below(at, name)),
          ...(known.get(name) ?? more).tell(value[name], below(at, name)),
        ]),
      ];
    },
  };
};

const array = ({ items, minItems, maxItems }: Schema): Part => {
  const each = items ? partOf(items as Schema) : anything;
  const count = howMany(minItems, maxItems, "items");
  return {
    fits: (value) => !Array.isArray(value) || (count(value.length) === null && value.every(each.fits)),
    tell: (value, at) => {
      if (!Array.isArray(value)) return [];
      const number = count(value.length);
      const wrong = [...value.keys()].filter((index) => !each.fits(value[index])).slice(0, MOST_TOLD);
      return [
        ...(number ? [{ pointer: at, message: number }] : []),
        ...wrong.flatMap((index) => each.tell(value[index], below(at, index))),
      ];
    },
  };
};

/** The patterns of our schemas, written down so that they can be looked at for how long they may take. */
const FORMS = [
  /^own-[a-z0-9-]{1,40}$/u,
  /^#[0-9a-f]{6}$/u,
  /^[A-Za-z][0-9A-Za-z]{1,199}$/u,
  /^[0-9]{4}-[0-9]{2}-[0-9]{2}$/u,
  /^[0-9]{4}-[0-9]{2}-[0-9]{2}T[0-9]{2}:[0-9]{2}:[0-9]{2}\.[0-9]{3}Z$/u,
] as const;

const formOf = (pattern: unknown): RegExp | null => {
  if (pattern === undefined) return null;
  const form = FORMS.find(({ source }) => source === pattern);
  if (!form) throw new Error(`expected a pattern that is written down here, got ${pattern}`);
  return form;
};

/** Length as JSON Schema counts it, in characters: counted one by one only where the halves of pairs could matter. */
const longer = (value: string, than: number): boolean => value.length > than && [...value].length > than;

const text = ({ minLength = 0, maxLength = Number.POSITIVE_INFINITY, pattern }: Schema): Part => {
  const form = formOf(pattern);
  const [least, most] = [minLength as number, maxLength as number];
  return leaf(
    (value) =>
      typeof value !== "string" || (value.length >= least && !longer(value, most) && (form?.test(value) ?? true)),
    (value) =>
      (value as string).length < least
        ? "It must not be empty."
        : longer(value as string, most)
          ? `It is longer than ${most} characters.`
          : "It is not written as it has to be here.",
  );
};

const number = ({ minimum = Number.NEGATIVE_INFINITY, maximum = Number.POSITIVE_INFINITY }: Schema): Part => {
  const [least, most] = [minimum as number, maximum as number];
  return leaf(
    (value) => typeof value !== "number" || (value >= least && value <= most),
    (value) => ((value as number) < least ? `It is less than ${least}.` : `It is more than ${most}.`),
  );
};

const none = ({ not }: Schema): Part => {
  const { fits } = partOf(not as Schema);
  return leaf(
    (value) => !fits(value),
    () => "This is the one thing that can't stand here.",
  );
};

/** Several that a value may be. Of one besides null, what is wrong with it is told, and else only that it is none. */
const any = ({ anyOf }: Schema): Part => {
  const schemas = anyOf as readonly Schema[];
  const parts = schemas.map(partOf);
  const others = parts.filter((_part, at) => schemas[at]?.type !== "null");
  const [only] = others;
  const fits = (value: unknown) => parts.some((part) => part.fits(value));
  return others.length === 1 && only
    ? { fits, tell: (value, at) => (fits(value) ? [] : only.tell(value, at)) }
    : leaf(fits, () => "It is none of what can stand here.");
};

/** `if` and `then` as `byKind` writes them: one field of the value says at once which of them all is meant. */
const kinds = (all: readonly Schema[]): Part => {
  const by = new Map<unknown, Part>();
  const fields = new Set<string>();
  for (const { if: condition, then } of all) {
    const asked = Object.entries((condition as { readonly properties?: Record<string, Schema> })?.properties ?? {});
    const [[field, schema] = ["", undefined]] = asked;
    if (asked.length !== 1 || !schema || !("const" in schema) || !then)
      throw new Error("expected allOf to tell kinds apart, got something else");
    fields.add(field);
    by.set(schema.const, partOf(then as Schema));
  }
  const [field] = fields;
  if (field === undefined || fields.size > 1) throw new Error("expected allOf to tell kinds apart by one field");
  const of = (value: unknown): Part => (isRecord(value) ? by.get(value[field]) : undefined) ?? anything;
  return { fits: (value) => of(value).fits(value), tell: (value, at) => of(value).tell(value, at) };
};

/**
 * Keywords that are known here; one that is not would be passed over in silence, and is refused when a schema is read
 * instead.
 */
const KNOWN: readonly string[] = [
  ...["$schema", "$id", "title", "description", "type", "enum", "const", "not", "anyOf", "allOf"],
  ...["properties", "required", "additionalProperties", "propertyNames", "maxProperties", "minProperties"],
  ...["items", "minItems", "maxItems", "minLength", "maxLength", "pattern", "minimum", "maximum"],
];

const BY_KEYWORD: readonly (readonly [readonly string[], (schema: Schema) => Part])[] = [
  [["type"], typeOf],
  [["enum"], ({ enum: values }) => oneOf(values as readonly unknown[])],
  [["const"], ({ const: value }) => oneOf([value])],
  [["minLength", "maxLength", "pattern"], text],
  [["minimum", "maximum"], number],
  [["not"], none],
  [["anyOf"], any],
  [["properties", "required", "additionalProperties", "propertyNames", "maxProperties", "minProperties"], object],
  [["items", "minItems", "maxItems"], array],
  [["allOf"], ({ allOf }) => kinds(allOf as readonly Schema[])],
];

const together = (parts: readonly Part[]): Part => {
  const [first = anything, second, ...rest] = parts;
  if (!second) return first;
  return {
    fits: rest.length
      ? (value) => first.fits(value) && second.fits(value) && rest.every((part) => part.fits(value))
      : (value) => first.fits(value) && second.fits(value),
    tell: (value, at) => {
      // Of a text that should be a number there is nothing more to say.
      for (const part of parts) {
        const faults = part.tell(value, at);
        if (faults.length) return faults;
      }
      return [];
    },
  };
};

const made = new WeakMap<Schema, Part>();

const partOf = (schema: Schema): Part => {
  const known = made.get(schema);
  if (known) return known;
  const strange = Object.keys(schema).find((keyword) => !KNOWN.includes(keyword));
  if (strange) throw new Error(`expected a schema of known keywords, got ${strange}`);
  const part = together(
    BY_KEYWORD.flatMap(([keywords, read]) => (keywords.some((keyword) => keyword in schema) ? [read(schema)] : [])),
  );
  made.set(schema, part);
  return part;
};

/**
 * Reads a JSON Schema (draft 2020-12, as far as our descriptions use it) once and holds values to it: the one checker
 * of window, service and tests. Time is linear in what a value holds. Of the entries of one place at most 200 that are
 * wrong are told. Throws for a keyword, a type or a pattern that is not known here.
 * @example checkerOf({ type: "number", minimum: 0 }).faults(-1) // [{ pointer: "", message: "It is less than 0." }]
 */
export const checkerOf = (schema: Schema): Checker => {
  const { fits, tell } = partOf(schema);
  return { fits, faults: (value) => (fits(value) ? [] : tell(value, "")) };
};
