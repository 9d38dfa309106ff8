import { type Loose, targetsOf } from "../commands/references";
import type { Field, ToldAround } from "../model/describe/fields";
import { type Decibels, formatGain, formatLevel } from "../units/decibels";

/** What a unit at the end of a field's name is called: the units of numbers are in their names. */
const UNITS: readonly (readonly [RegExp, string])[] = [
  [/Db$/, " dB"],
  [/Hz$/, " Hz"],
  [/Ms$/, " ms"],
  [/Us$/, " µs"],
  [/Ns$/, " ns"],
  [/Percent$/, " %"],
  [/Samples$/, " samples"],
  [/Semitones$/, " semitones"],
  [/Bpm$/, " a minute"],
  [/Gb$/, " GB"],
  [/M$/, " m"],
  [/S$/, " s"],
  [/^bitDepth$/, " bit"],
];

const unitOf = (key: string): string => UNITS.find(([ending]) => ending.test(key))?.[1] ?? "";
const plainWords = (value: string): string => value.replaceAll("-", " ");
/** Of a long text so much is told. */
const MOST_TEXT = 60;
const quoted = (value: string): string =>
  value ? `“${value.length > MOST_TEXT ? `${value.slice(0, MOST_TEXT)}…` : value}”` : "none";

const closedWords = (value: unknown): string => {
  if (value === null) return "none";
  if (typeof value === "string") return value.startsWith("own-") ? "a colour of the studio" : value;
  if (Array.isArray(value)) return value.map(String).join(", ") || "none";
  return typeof value === "object" && "name" in value ? String(value.name) : "something else";
};

/** How a difference looks at a document: what its references lead to, by name. */
export interface WordsAround extends ToldAround {
  readonly called: (table: string, id: string) => string;
}

const referenceWords = (field: Field, value: unknown, around: WordsAround): string => {
  const found = (field.references ?? []).flatMap((reference) =>
    targetsOf({ field: "", reference }, { "": value } as Loose).map((id) => around.called(reference.to, id)),
  );
  return found.join(", ") || "none";
};

/**
 * A value of a field in words, by its description: with its unit, by the name of what it refers to, as a switch says
 * it.
 * @example valueWords({ key: "gainDb", field: GAIN, value: 34 }, around) // "34 dB"
 */
export const valueWords = (
  { key, field, value }: { readonly key: string; readonly field: Field; readonly value: unknown },
  around: WordsAround,
): string => {
  if (field.tells) return (field.tells as (value: unknown, around: ToldAround) => string)(value, around);
  switch (field.kind) {
    case "flag": {
      const { said, on, off } = field.switched ?? { on: "yes", off: "no" };
      return value ? (said?.on ?? on) : (said?.off ?? off);
    }
    case "decibels":
      return field.silent
        ? formatLevel(value as Decibels | null)
        : value === null
          ? "none"
          : `${formatGain(value as Decibels)} dB`;
    case "number":
      return value === null ? "none" : `${formatGain(value as Decibels)}${unitOf(key)}`;
    case "choice":
      if (value === null) return "none";
      return typeof value === "number" ? `${formatGain(value as Decibels)}${unitOf(key)}` : plainWords(String(value));
    case "reference":
      return referenceWords(field, value, around);
    case "text":
      return quoted(String(value ?? ""));
    default:
      return closedWords(value);
  }
};

/** What a field is called in a difference: "input", "gain". */
export const fieldWord = ({ word }: Pick<Field, "word">): string => word.replace(/^(?:the|whether) /, "");
