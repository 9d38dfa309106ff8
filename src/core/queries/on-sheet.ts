import type { Field, Fields, OnSheet } from "../model/describe/fields";
import type { Decibels } from "../units/decibels";
import { formatDb } from "../units/decibels";

/** What of a value stands on the patching sheet: what is off or not said leaves no words there. */
const wordsOf = ({ kind, switched }: Field, value: unknown): string => {
  if (kind === "flag") return value ? (switched?.noted ?? switched?.said?.on ?? switched?.on ?? "") : "";
  if (kind === "decibels") return value === null ? "" : formatDb(value as Decibels);
  return String(value ?? "");
};

/**
 * What stands of an entry in one part of the patching sheet, in the order in which an inspector has the fields.
 * @example onSheet(LINES.fields, line, "settings") // ["32 dB", "pad", "polarity inverted"]
 */
export const onSheet = (fields: Fields, entry: object, part: OnSheet): readonly string[] =>
  Object.entries(fields)
    .filter(([, { sheet }]) => sheet === part)
    .sort(([, a], [, b]) => (a.column?.inspected ?? 1000) - (b.column?.inspected ?? 1000))
    .flatMap(([key, field]) => {
      const words = wordsOf(field, (entry as Readonly<Record<string, unknown>>)[key]);
      return words ? [field.calledOnSheet ? `${field.calledOnSheet} ${words}` : words] : [];
    });
