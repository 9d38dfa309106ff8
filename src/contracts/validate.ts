import "reflect-metadata";
import { validateSync } from "class-validator";
import type { Command } from "@/core/commands/command";
import { type Checker, checkerOf } from "@/core/model/checker";
import { isReserved } from "@/core/model/schema-parts";
import type { What } from "./kinds";
import { VERB_SCHEMAS } from "./verb-schemas";

export interface FieldError {
  readonly pointer: string;
  readonly detail: string;
}

export type Parsed<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly errors: readonly FieldError[] };

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** So many faults are told of one request: whoever sends thousands that are wrong is not kept waiting for all of them. */
const MOST_TOLD = 200;

/** Whether a field that all objects of JavaScript have is anywhere in it: asked of every request, without noting where. */
const hasReserved = (value: unknown): boolean => {
  if (typeof value !== "object" || value === null) return false;
  if (Array.isArray(value)) return value.some(hasReserved);
  for (const key of Object.keys(value))
    if (isReserved(key) || hasReserved((value as Record<string, unknown>)[key])) return true;
  return false;
};

/** Fields that every object of JavaScript has: set, they would reach into all of them. */
const reservedIn = (value: unknown, at: string, found: FieldError[] = []): readonly FieldError[] => {
  if (typeof value !== "object" || value === null) return found;
  for (const [key, inner] of Object.entries(value)) {
    if (found.length >= MOST_TOLD) break;
    if (isReserved(key)) found.push({ pointer: `${at}/${key}`, detail: "There is no field of this name." });
    else reservedIn(inner, `${at}/${key}`, found);
  }
  return found;
};

/**
 * Holds a value to a request class, whose fields are plain ones; unknown fields are refused. Answers every fault with a
 * JSON pointer.
 */
export const parse = <T extends object>(type: new () => T, plain: unknown): Parsed<T> => {
  if (!isRecord(plain)) return { ok: false, errors: [{ pointer: "", detail: "An object is expected here." }] };
  if (hasReserved(plain)) return { ok: false, errors: reservedIn(plain, "") };
  const value = Object.assign(new type(), plain);
  const errors = validateSync(value, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true });
  return errors.length
    ? {
        ok: false,
        errors: errors.flatMap(({ property, constraints = {} }) =>
          Object.values(constraints).map((detail) => ({ pointer: `/${property}`, detail })),
        ),
      }
    : { ok: true, value };
};

const CHECKERS = Object.fromEntries(
  Object.entries(VERB_SCHEMAS).map(([what, schemas]) => [
    what,
    Object.fromEntries(Object.entries(schemas).map(([verb, schema]) => [verb, checkerOf(schema)])),
  ]),
) as Readonly<Record<What, Readonly<Record<Command["kind"], Checker>>>>;

const faultsOfCommand = (what: What, value: object, at: string): readonly FieldError[] => {
  const checkers = CHECKERS[what];
  const kind = "kind" in value ? value.kind : undefined;
  return typeof kind === "string" && Object.hasOwn(checkers, kind)
    ? checkers[kind as Command["kind"]]
        .faults(value)
        .map(({ pointer, message }) => ({ pointer: `${at}${pointer}`, detail: message }))
    : [
        {
          pointer: `${at}/kind`,
          detail: `There is no command of this kind. The verbs are ${Object.keys(checkers).join(", ")}.`,
        },
      ];
};

/**
 * Holds each command to the schema of its verb for a kind of document. A value that fits it is a command: unknown
 * fields were refused, so nothing needs to be copied out. Of all faults the first two hundred are told.
 */
export const parseCommands = (what: What, values: readonly object[]): Parsed<readonly Command[]> => {
  const errors: FieldError[] = [];
  for (const [index, value] of values.entries()) {
    errors.push(...faultsOfCommand(what, value, `/commands/${index}`));
    if (errors.length >= MOST_TOLD) break;
  }
  return errors.length
    ? { ok: false, errors: errors.slice(0, MOST_TOLD) }
    : { ok: true, value: values as unknown as readonly Command[] };
};
