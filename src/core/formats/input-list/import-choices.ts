import { FAMILIES } from "../../model/families";
import { RESULT_FIELDS, type ResultChange } from "./changes";

/** All that a person has said of a list in its preview, sent with it each time. */
export interface ImportChoices {
  /** By the id of a question. */
  readonly answers?: Readonly<Record<string, string>>;
  /** Rows of the file that are switched off. */
  readonly off?: readonly number[];
  /** By the key of a row of the result: cells that were set there. */
  readonly changes?: Readonly<Record<string, ResultChange>>;
  /** Which sheet of a spreadsheet, from 0; the likeliest where nothing is said. */
  readonly sheet?: number;
  /** Short forms of names are written in full. */
  readonly inFull?: boolean;
  /** What was corrected in lists of the same headings is not taken. */
  readonly forgetful?: boolean;
}

const MOST_CHANGES = 4096;

/** The shape of these choices as JSON Schema, for the edge. */
export const IMPORT_CHOICES = {
  type: "object",
  additionalProperties: false,
  properties: {
    answers: { type: "object", maxProperties: 200, additionalProperties: { type: "string", maxLength: 200 } },
    off: { type: "array", maxItems: MOST_CHANGES, items: { type: "integer", minimum: 1, maximum: 100_000 } },
    changes: {
      type: "object",
      maxProperties: MOST_CHANGES,
      additionalProperties: {
        type: "object",
        additionalProperties: false,
        properties: Object.fromEntries(
          RESULT_FIELDS.map((field) => [
            field,
            field === "family" ? { enum: ["", ...FAMILIES] } : { type: "string", maxLength: 4000 },
          ]),
        ),
      },
    },
    sheet: { type: "integer", minimum: 0, maximum: 1000 },
    inFull: { type: "boolean" },
    forgetful: { type: "boolean" },
  },
} as const;
