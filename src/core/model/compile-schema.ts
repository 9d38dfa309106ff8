type Schema = Readonly<Record<string, unknown>>;

/** Whether a value fits. */
export type Fits = (value: unknown) => boolean;

const ANYTHING: Fits = () => true;

const TYPES: Readonly<Record<string, Fits>> = {
  string: (value) => typeof value === "string",
  number: (value) => typeof value === "number" && Number.isFinite(value),
  integer: (value) => Number.isInteger(value),
  boolean: (value) => typeof value === "boolean",
  null: (value) => value === null,
  array: Array.isArray,
  object: (value) => typeof value === "object" && value !== null && !Array.isArray(value),
};

/** Length as JSON Schema counts it, in characters: counted one by one only where the halves of pairs could matter. */
const longer = (text: string, than: number): boolean => text.length > than && [...text].length > than;

const typeOf = ({ type }: Schema): Fits => {
  const fits = (Array.isArray(type) ? type : [type]).map((name: string) => TYPES[name] ?? ANYTHING);
  const [only] = fits;
  return fits.length === 1 && only ? only : (value) => fits.some((is) => is(value));
};

const oneOf = (values: readonly unknown[]): Fits => {
  const set = new Set(values);
  return (value) => set.has(value);
};

const object = ({
  properties = {},
  required = [],
  additionalProperties,
  propertyNames,
  maxProperties,
  minProperties,
}: Schema): Fits => {
  const named: Fits = propertyNames ? compileSchema(propertyNames as Schema) : ANYTHING;
  const known = new Map(
    Object.entries(properties as Record<string, Schema>).map(([name, schema]) => [name, compileSchema(schema)]),
  );
  const needed = required as readonly string[];
  const more: Fits =
    additionalProperties === false
      ? () => false
      : typeof additionalProperties === "object"
        ? compileSchema(additionalProperties as Schema)
        : ANYTHING;
  return (value) => {
    if (typeof value !== "object" || value === null || Array.isArray(value)) return true;
    const names = Object.keys(value);
    if (
      names.length > ((maxProperties as number) ?? Number.POSITIVE_INFINITY) ||
      names.length < ((minProperties as number) ?? 0)
    )
      return false;
    for (const name of needed) if (!Object.hasOwn(value, name)) return false;
    for (const name of names)
      if (!named(name) || !(known.get(name) ?? more)((value as Record<string, unknown>)[name])) return false;
    return true;
  };
};

const array = ({ items, minItems, maxItems }: Schema): Fits => {
  const each = items ? compileSchema(items as Schema) : ANYTHING;
  return (value) =>
    !Array.isArray(value) ||
    (value.length >= ((minItems as number) ?? 0) &&
      value.length <= ((maxItems as number) ?? Number.POSITIVE_INFINITY) &&
      value.every(each));
};

/** The patterns of our schemas, written down so that they can be looked at for how long they may take. */
const FORMS = [/^own-[a-z0-9-]{1,40}$/u, /^#[0-9a-f]{6}$/u, /^[A-Za-z][0-9A-Za-z]{1,199}$/u] as const;

const formOf = (pattern: unknown): RegExp | null => {
  if (pattern === undefined) return null;
  const form = FORMS.find(({ source }) => source === pattern);
  if (!form) throw new Error(`expected a pattern that is written down here, got ${pattern}`);
  return form;
};

const text = ({ minLength, maxLength, pattern }: Schema): Fits => {
  const form = formOf(pattern);
  return (value) =>
    typeof value !== "string" ||
    (!(typeof minLength === "number" && value.length < minLength) &&
      !(typeof maxLength === "number" && longer(value, maxLength)) &&
      (form?.test(value) ?? true));
};

const number =
  ({ minimum, maximum }: Schema): Fits =>
  (value) =>
    typeof value !== "number" ||
    (value >= ((minimum as number) ?? Number.NEGATIVE_INFINITY) &&
      value <= ((maximum as number) ?? Number.POSITIVE_INFINITY));

const none = ({ not }: Schema): Fits => {
  const fits = compileSchema(not as Schema);
  return (value) => !fits(value);
};

const any = ({ anyOf }: Schema): Fits => {
  const all = (anyOf as readonly Schema[]).map(compileSchema);
  return (value) => all.some((fits) => fits(value));
};

/** `if` and `then` as `byKind` writes them: the kind says at once which of them all is meant. */
const kinds = (all: readonly Schema[]): Fits | null => {
  const by = new Map<unknown, Fits>();
  for (const { if: condition, then } of all) {
    const kind = ((condition as Schema | undefined)?.properties as Record<string, Schema> | undefined)?.kind;
    if (!kind || !("const" in kind) || !then) return null;
    by.set(kind.const, compileSchema(then as Schema));
  }
  return (value) => by.get((value as { readonly kind?: unknown } | null)?.kind)?.(value) ?? true;
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

const BY_KEYWORD: readonly (readonly [readonly string[], (schema: Schema) => Fits])[] = [
  [["type"], typeOf],
  [["enum"], ({ enum: values }) => oneOf(values as readonly unknown[])],
  [["const"], ({ const: value }) => oneOf([value])],
  [["minLength", "maxLength", "pattern"], text],
  [["minimum", "maximum"], number],
  [["not"], none],
  [["anyOf"], any],
  [["properties", "required", "additionalProperties", "propertyNames", "maxProperties", "minProperties"], object],
  [["items", "minItems", "maxItems"], array],
];

/**
 * A JSON Schema (draft 2020-12, as far as our descriptions use it) as one function: read once, where a validator that
 * interprets reads it again for every value. It only tells whether a value fits; why not is for the validator to say.
 * Throws for a keyword that it does not know.
 */
export const compileSchema = (schema: Schema): Fits => {
  const strange = Object.keys(schema).find((keyword) => !KNOWN.includes(keyword));
  if (strange) throw new Error(`expected a schema of known keywords, got ${strange}`);
  const parts = BY_KEYWORD.flatMap(([keywords, compile]) =>
    keywords.some((keyword) => keyword in schema) ? [compile(schema)] : [],
  );
  if (Array.isArray(schema.allOf)) {
    const of = kinds(schema.allOf as readonly Schema[]);
    if (!of) throw new Error("expected allOf to tell kinds apart, got something else");
    parts.push(of);
  }
  const [first = ANYTHING, second, ...rest] = parts;
  if (!second) return first;
  return rest.length
    ? (value) => first(value) && second(value) && rest.every((fits) => fits(value))
    : (value) => first(value) && second(value);
};
