import "reflect-metadata";
import { type Schema, Validator } from "@cfworker/json-schema";
import { IsIn, IsOptional, IsString, Length, registerDecorator, type ValidationOptions } from "class-validator";
import { JSONSchema } from "class-validator-jsonschema";
import { compileSchema } from "@/core/model/compile-schema";
import { id, inWords } from "@/core/model/schema-parts";

export type Decorate = (target: object, key: string) => void;

const all =
  (...decorators: readonly Decorate[]) =>
  (target: object, key: string): void => {
    for (const decorate of decorators) decorate(target, key);
  };

/** The most things one command may name. */
const MOST = 8192;
/** More than fit into the bytes of a gesture. */
const MOST_PATCHES = 1_000_000;

/** An id of ours: a short string, and no name that every object has. */
export const Id = () => Fits(id);
export const Text = (max: number) => all(IsString(), Length(0, max));
export const OneOf = (values: readonly unknown[]) =>
  all(IsIn([...values]), JSONSchema({ enum: [...values] as string[] }));
export const Optional = () => IsOptional();

/**
 * A value that fits a JSON Schema: the parts of a document that a command carries are held to the schema of the
 * document itself, so that the two can't drift apart.
 */
export const Fits = (schema: object, options?: ValidationOptions) => {
  const fits = compileSchema(schema as Readonly<Record<string, unknown>>);
  const validator = new Validator(schema as Schema, "2020-12", true);
  return all(JSONSchema(schema as Parameters<typeof JSONSchema>[0]), (target, key) =>
    registerDecorator({
      name: "fits",
      target: target.constructor,
      propertyName: key,
      options,
      validator: {
        validate: (value: unknown) => value !== undefined && fits(value),
        defaultMessage: (args) => {
          if (args?.value === undefined) return `${key} is required`;
          const fault = validator.validate(args.value).errors.at(-1);
          return fault ? inWords(fault) : `${key} does not fit`;
        },
      },
    }),
  );
};

/** A value that fits the schema of the table that the same object names. */
export const FitsTable = (schemas: Readonly<Record<string, object>>) => {
  const compiled = new Map(
    Object.entries(schemas).map(([table, schema]) => [
      table,
      compileSchema(schema as Readonly<Record<string, unknown>>),
    ]),
  );
  const tableOf = (of: object | undefined): string => String((of as { readonly table?: unknown } | undefined)?.table);
  return all(JSONSchema({ oneOf: Object.values(schemas) } as Parameters<typeof JSONSchema>[0]), (target, key) =>
    registerDecorator({
      name: "fitsTable",
      target: target.constructor,
      propertyName: key,
      validator: {
        // A table that is not there is told by its own field.
        validate: (value: unknown, args) =>
          value !== undefined && (compiled.get(tableOf(args?.object))?.(value) ?? true),
        defaultMessage: (args) => {
          if (args?.value === undefined) return `${key} is required`;
          const schema = schemas[tableOf(args.object)];
          const fault = schema && new Validator(schema as Schema, "2020-12", true).validate(args.value).errors.at(-1);
          return fault ? `${fault.instanceLocation.replace(/^#/, "")}: ${inWords(fault)}` : `${key} does not fit`;
        },
      },
    }),
  );
};

export const OrNull = (schema: object) => Fits({ anyOf: [schema, { type: "null" }] });
export const ListOf = (
  schema: object,
  { min = 1, most = MOST }: { readonly min?: number; readonly most?: number } = {},
) => Fits({ type: "array", items: schema, minItems: min, maxItems: most });
const PATCH = {
  type: "object",
  properties: {
    op: { enum: ["add", "replace", "remove"] },
    path: { type: "array", items: { type: "string", maxLength: 400 }, minItems: 1, maxItems: 4 },
    value: {},
  },
  required: ["op", "path"],
  additionalProperties: false,
};
/** Patches that take a gesture back: as many as it changed things, held only by the size of the whole. */
export const Patches = () => ListOf(PATCH, { most: MOST_PATCHES });
