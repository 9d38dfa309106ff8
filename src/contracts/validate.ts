import "reflect-metadata";
import { plainToInstance } from "class-transformer";
import { type ValidationError, validateSync } from "class-validator";
import type { Command } from "@/core/commands/command";
import { COMMAND_CLASSES, toCommand } from "./commands";

export interface FieldError {
  readonly pointer: string;
  readonly detail: string;
}

export type Parsed<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly errors: readonly FieldError[] };

const flatten = (errors: readonly ValidationError[], at: string): FieldError[] =>
  errors.flatMap((error) => {
    const pointer = `${at}/${error.property}`;
    return [...Object.values(error.constraints ?? {}).map((detail) => ({ pointer, detail })), ...flatten(error.children ?? [], pointer)];
  });

const isRecord = (value: unknown): value is Record<string, unknown> => typeof value === "object" && value !== null && !Array.isArray(value);

/** Holds a value to a request class; unknown fields are refused. Answers every fault with a JSON pointer. */
export const parse = <T extends object>(type: new () => T, plain: unknown, at = ""): Parsed<T> => {
  if (!isRecord(plain)) return { ok: false, errors: [{ pointer: at, detail: "An object is expected here." }] };
  const value = plainToInstance(type, plain, { exposeDefaultValues: true });
  const errors = flatten(validateSync(value, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true }), at);
  return errors.length ? { ok: false, errors } : { ok: true, value };
};

/** Holds each command to the class of its kind. */
export const parseCommands = (values: readonly object[]): Parsed<readonly Command[]> => {
  const errors: FieldError[] = [];
  for (const [index, value] of values.entries()) {
    const kind = "kind" in value ? value.kind : undefined;
    const pointer = `/commands/${index}`;
    if (typeof kind !== "string" || !Object.hasOwn(COMMAND_CLASSES, kind)) {
      errors.push({ pointer: `${pointer}/kind`, detail: "There is no command of this kind." });
      continue;
    }
    const type: new () => object = COMMAND_CLASSES[kind as Command["kind"]];
    const parsed = parse(type, value, pointer);
    if (!parsed.ok) errors.push(...parsed.errors);
  }
  return errors.length ? { ok: false, errors } : { ok: true, value: values.map(toCommand) };
};
