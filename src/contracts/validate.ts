import "reflect-metadata";
import { plainToInstance } from "class-transformer";
import { type ValidationError, validateSync } from "class-validator";
import type { Command } from "@/core/commands/command";
import { isReserved } from "@/core/model/schema-parts";
import { fitsClass } from "./fits-class";
import { VERB_CLASSES } from "./verb-classes";

export interface FieldError {
  readonly pointer: string;
  readonly detail: string;
}

export type Parsed<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly errors: readonly FieldError[] };

const flatten = (errors: readonly ValidationError[], at: string): FieldError[] =>
  errors.flatMap((error) => {
    const pointer = `${at}/${error.property}`;
    return [
      ...Object.values(error.constraints ?? {}).map((detail) => ({ pointer, detail })),
      ...flatten(error.children ?? [], pointer),
    ];
  });

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** Fields that no class of ours has, and that what turns plain values into classes trips over. */
const reservedIn = (value: unknown, at: string): FieldError[] => {
  if (typeof value !== "object" || value === null) return [];
  return Object.entries(value).flatMap(([key, inner]) =>
    isReserved(key)
      ? [{ pointer: `${at}/${key}`, detail: "There is no field of this name." }]
      : reservedIn(inner, `${at}/${key}`),
  );
};

/** Holds a value to a request class; unknown fields are refused. Answers every fault with a JSON pointer. */
export const parse = <T extends object>(type: new () => T, plain: unknown, at = ""): Parsed<T> => {
  if (!isRecord(plain)) return { ok: false, errors: [{ pointer: at, detail: "An object is expected here." }] };
  const reserved = reservedIn(plain, at);
  if (reserved.length) return { ok: false, errors: reserved };
  if (fitsClass(type, plain)) return { ok: true, value: Object.assign(new type(), plain) };
  const value = plainToInstance(type, plain, { exposeDefaultValues: true });
  const errors = flatten(
    validateSync(value, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true }),
    at,
  );
  return errors.length ? { ok: false, errors } : { ok: true, value };
};

/**
 * Holds each command to the class of its verb for a kind of document. A value that passed its class is a command:
 * unknown fields were refused, so nothing needs to be copied out.
 */
export const parseCommands = (
  what: keyof typeof VERB_CLASSES,
  values: readonly object[],
): Parsed<readonly Command[]> => {
  const classes = VERB_CLASSES[what];
  const errors: FieldError[] = [];
  for (const [index, value] of values.entries()) {
    const kind = "kind" in value ? value.kind : undefined;
    const pointer = `/commands/${index}`;
    if (typeof kind !== "string" || !Object.hasOwn(classes, kind)) {
      errors.push({
        pointer: `${pointer}/kind`,
        detail: `There is no command of this kind. The verbs are ${Object.keys(classes).join(", ")}.`,
      });
      continue;
    }
    const parsed = parse(classes[kind as Command["kind"]], value, pointer);
    if (!parsed.ok) errors.push(...parsed.errors);
  }
  return errors.length ? { ok: false, errors } : { ok: true, value: values as unknown as readonly Command[] };
};
