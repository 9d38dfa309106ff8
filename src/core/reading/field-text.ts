import type { Field } from "../model/describe/fields";
import { plain } from "../model/families";
import { type Decibels, formatGain } from "../units/decibels";
import { readDecibels, readPhantom } from "./read-cells";

/** How silence is shown, and what else can be typed for it. */
const SILENCE = "−∞";
const SILENT_WORDS = new Set([SILENCE, "-∞", "∞", "−inf", "-inf", "inf", "off", "silent"]);

/** A value of a field as a cell shows it, and as it can be typed again. A microphone is called by its name. */
export const fieldText = ({ kind, switched, silent }: Field, value: unknown): string => {
  if (silent && value === null) return SILENCE;
  if (value === null || value === undefined) return "";
  if (kind === "flag") return (value ? switched?.on : switched?.off) ?? "";
  if (kind === "decibels" || kind === "number") return formatGain(value as Decibels);
  return typeof value === "object" && "name" in value ? String(value.name) : String(value);
};

/**
 * Whether a switch is on, by its own words and the usual ones for yes and no; an empty cell is off. Null when the word
 * says neither.
 */
export const readFlag = ({ switched }: Field, cell: string): boolean | null => {
  const word = plain(cell);
  if (word && switched && (word === switched.on || switched.words.split(", ").includes(word))) return true;
  return word === switched?.off ? false : readPhantom(cell);
};

/** What some units are of those that fields have: kHz of Hz. */
const FACTORS: Readonly<Record<string, number>> = { khz: 1000, k: 1000 };
const UNITS = /^([+-]?\d+(?:\.\d+)?) ?(db|ms|s|hz|khz|k|%|samples?|: ?1|)$/;

/** A number typed for a field, with its unit or without: whole where the field has whole ones. */
const readNumber = ({ range, schema, initial }: Field, cell: string): ReadField => {
  // Where nobody need say anything, nothing typed says nothing.
  if (initial === null && !cell.trim()) return { ok: true, value: null };
  const found = UNITS.exec(cell.trim().toLowerCase().replace("−", "-").replace(",", ".").slice(0, 40));
  const value = found ? Number(found[1]) * (FACTORS[found[2] ?? ""] ?? 1) : Number.NaN;
  const whole = schema.type === "integer";
  const fits =
    Number.isFinite(value) && range && value >= range.min && value <= range.max && (!whole || Number.isInteger(value));
  const plain = (end: number | undefined) => String(end ?? 0).replace("-", "−");
  return fits
    ? { ok: true, value: Math.round(value * 1000) / 1000 }
    : { ok: false, says: `is no ${whole ? "whole " : ""}number from ${plain(range?.min)} to ${plain(range?.max)}` };
};

export type ReadField = { readonly ok: true; readonly value: unknown } | { readonly ok: false; readonly says: string };

/**
 * What a text typed for a field means: text without blanks around it, a switch by its words, a number of dB in its
 * range, one of several.
 */
export const readField = (field: Field, cell: string): ReadField => {
  const no = (says: string): ReadField => ({ ok: false, says });
  const ok = (value: unknown): ReadField => ({ ok: true, value });
  if (field.kind === "text") return ok(cell.trim());
  if (field.kind === "flag") {
    const on = readFlag(field, cell);
    return on === null
      ? no(
          field.switched?.off === "no"
            ? "says neither yes nor no"
            : `says neither ${field.switched?.off} nor ${field.switched?.on}`,
        )
      : ok(on);
  }
  if (field.kind === "decibels" && field.silent && SILENT_WORDS.has(cell.trim().toLowerCase())) return ok(null);
  if (field.kind === "decibels" && field.silent && !cell.trim()) return ok(field.initial);
  if (field.kind === "decibels") {
    const read = readDecibels(cell, field.range);
    return read
      ? ok(read.db)
      : no(`is no number of dB from ${formatGain((field.range?.min ?? 0) as Decibels)} to ${field.range?.max}`);
  }
  if (field.kind === "number") return readNumber(field, cell);
  const option = field.options?.find((one) => plain(String(one ?? "")) === plain(cell));
  return option === undefined ? no("is none of those that can be chosen") : ok(option);
};
