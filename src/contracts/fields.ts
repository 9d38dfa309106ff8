import "reflect-metadata";
import { IsIn, IsOptional, IsString, Length, registerDecorator } from "class-validator";
import { JSONSchema } from "class-validator-jsonschema";
import { checkerOf } from "@/core/model/checker";
import { id } from "@/core/model/schema-parts";

type Decorate = (target: object, key: string) => void;

const all =
  (...decorators: readonly Decorate[]) =>
  (target: object, key: string): void => {
    for (const decorate of decorators) decorate(target, key);
  };

/** An id of ours: a short string, and no name that every object has. */
export const Id = () => Fits(id);
export const Text = (max: number) => all(IsString(), Length(0, max));
export const OneOf = (values: readonly unknown[]) =>
  all(IsIn([...values]), JSONSchema({ enum: [...values] as string[] }));
export const Optional = () => IsOptional();

/** A value that fits a JSON Schema of the core. */
export const Fits = (schema: object) => {
  const { fits, faults } = checkerOf(schema as Readonly<Record<string, unknown>>);
  return all(JSONSchema(schema as Parameters<typeof JSONSchema>[0]), (target, key) =>
    registerDecorator({
      name: "fits",
      target: target.constructor,
      propertyName: key,
      validator: {
        validate: (value: unknown) => value !== undefined && fits(value),
        defaultMessage: (args) => faults(args?.value)[0]?.message ?? `${key} is required`,
      },
    }),
  );
};
