import "reflect-metadata";
import { type Schema, Validator } from "@cfworker/json-schema";
import { IsIn, IsOptional, IsString, Length, registerDecorator, type ValidationOptions } from "class-validator";
import { JSONSchema } from "class-validator-jsonschema";
import { compileSchema } from "@/core/model/compile-schema";
import { id } from "@/core/model/schema-parts";
import { TEMPLATE_PARTS } from "@/core/model/template-schema";

type Decorate = (target: object, key: string) => void;

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
export const IdOrNull = () => OrNull(id);
export const Ids = () => ListOf(id);
export const Text = (max: number) => all(IsString(), Length(0, max));
export const OneOf = (values: readonly unknown[]) => all(IsIn([...values]), JSONSchema({ enum: [...values] as string[] }));
export const Optional = () => IsOptional();

/**
 * A value that fits a JSON Schema: the parts of a document that a command carries are held to the schema of the document itself,
 * so that the two can't drift apart.
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
        defaultMessage: (args) => (args?.value === undefined ? `${key} is required` : (validator.validate(args.value).errors.at(-1)?.error ?? `${key} does not fit`)),
      },
    }),
  );
};

export const OrNull = (schema: object) => Fits({ anyOf: [schema, { type: "null" }] });
export const ListOf = (schema: object, { min = 1, most = MOST }: { readonly min?: number; readonly most?: number } = {}) =>
  Fits({ type: "array", items: schema, minItems: min, maxItems: most });
/** Patches that take a gesture back: as many as it changed things, held only by the size of the whole. */
export const Patches = () => ListOf(TEMPLATE_PARTS.patch, { most: MOST_PATCHES });
