import fc from "fast-check";

/**
 * A document with a few entries of each table that are unlike each other: a schema asks nothing more of the hundredth
 * than of the first.
 */
export const few = <D extends object>(whole: D): D =>
  Object.fromEntries(
    Object.entries(whole).map(([name, table]) => {
      if (typeof table !== "object" || table === null) return [name, table];
      const shapes = new Map(
        Object.entries(table).map((entry) => [
          JSON.stringify(entry[1], (key, value) =>
            typeof value === "object" || key === "kind" ? value : typeof value,
          ),
          entry,
        ]),
      );
      return [name, Object.fromEntries(shapes.values())];
    }),
  ) as D;

/** Every place of a document, as paths. */
const places = (value: unknown, path: readonly string[] = []): readonly (readonly string[])[] =>
  typeof value === "object" && value !== null
    ? [path, ...Object.entries(value).flatMap(([key, inner]) => places(inner, [...path, key]))]
    : [path];

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

/** A document with anything put anywhere, taken away or added. */
export const crookedOf = (whole: object): fc.Arbitrary<unknown> =>
  fc
    .record({ path: fc.constantFrom(...places(whole)), put: strange, how: fc.constantFrom("put", "drop", "add") })
    .map(({ path, put, how }) =>
      withAt(whole, how === "drop" ? path.slice(0, -1) : path, (at) => {
        if (how === "put" || typeof at !== "object" || at === null) return put;
        if (how === "add") return Array.isArray(at) ? [...at, put] : { ...at, more: put };
        return Object.fromEntries(Object.entries(at).filter(([key]) => key !== path.at(-1)));
      }),
    );
