import type { Colour } from "../../model/colours";
import type { Icon } from "../../model/families";
import type { Line } from "../../model/tables/lines";
import type { Meaning } from "./meanings";
import type { Outside } from "./outside-words";

/** One remark of a report. Rows count from 1 as in the file, columns from 0; null when it concerns the whole. */
export interface Remark {
  readonly message: string;
  readonly row: number | null;
  readonly column: number | null;
}

export interface Report {
  readonly understood: readonly Remark[];
  readonly guessed: readonly Remark[];
  readonly leftOut: readonly Remark[];
}

export interface Notes {
  understood: Remark[];
  guessed: Remark[];
  leftOut: Remark[];
}

/** One side of what a row tells: a mono row has one, a stereo row two. */
export interface Side {
  readonly input: string | null;
  readonly microphone: string;
  /** Whether the list has a column for phantom; without one, the microphone decides. */
  readonly saysPhantom: boolean;
  /** What it says of the line besides. */
  readonly values: Partial<Line>;
}

/** What is not sure of a cell, and how: it was guessed, it can't be read, it is at odds with another, or is asked. */
export interface Mark {
  readonly field: Meaning;
  readonly outcome: "guessed" | "unread" | "conflict" | "asked";
  readonly says: string;
}

export interface ListRow {
  /** Row in the file, from 1. */
  readonly row: number;
  /** All rows of the file that it was made of. */
  readonly from: readonly number[];
  readonly name: string;
  readonly sides: readonly [Side] | readonly [Side, Side];
  /** Names of folders, outermost first. */
  readonly folder: readonly string[];
  readonly colour: Colour | null;
  /** Null: the list says that there is none; undefined: it has no column for it. */
  readonly icon: Icon | null | undefined;
  readonly note: string;
  readonly marks: readonly Mark[];
}

export interface Column {
  readonly heading: string;
  readonly meaning: Meaning;
  /** A filled cell, for a person to see what is in it. */
  readonly example: string;
  /** Its meaning was taken from what stands below the heading. */
  readonly guessed: boolean;
}

export interface Option {
  readonly value: string;
  readonly says: string;
}

/** What a list leaves open, with the answer that is taken until a person gives one. */
export interface Question {
  readonly id: string;
  readonly asks: string;
  /** What speaks for the answer, or what it touches. */
  readonly because: string;
  readonly options: readonly Option[];
  readonly answer: string;
  /** A person has answered it. */
  readonly answered: boolean;
  /** What it is about can't be done as it stands. */
  readonly fatal: boolean;
  /** Rows that it concerns. */
  readonly rows: readonly number[];
}

/** A block of the list that holds no inputs, left out unless a person wants it. */
export interface OutsideBlock {
  readonly kind: Outside;
  readonly title: string;
  readonly names: readonly string[];
  readonly rows: readonly number[];
}

/** A row of the file as it stands, and what became of it. */
export interface SourceRow {
  readonly row: number;
  readonly cells: readonly string[];
  /** Columns whose cell holds what stands above. */
  readonly held: readonly number[];
  readonly became: "track" | "joined" | "heading" | "group" | "outside" | "left out" | "off";
  readonly says: string;
}

/** What went in and what came of it: the sums of a list must agree. */
export interface Balance {
  /** Rows that name something to record. */
  readonly rows: number;
  readonly tracks: number;
  readonly lines: number;
  readonly pairs: number;
  /** Rows that became part of another's track. */
  readonly joined: number;
  /** Rows with something in them that became no track. */
  readonly leftOut: number;
  readonly phantom: number;
  readonly withoutInput: number;
  /** Numbers that are missing between the first and the last, and numbers that two lines have. */
  readonly gaps: readonly string[];
  readonly doubles: readonly string[];
}

export interface InputList {
  readonly columns: readonly Column[];
  /** How its cells stand apart, in words. */
  readonly by: string;
  readonly rows: readonly ListRow[];
  readonly report: Report;
  readonly questions: readonly Question[];
  readonly outside: readonly OutsideBlock[];
  readonly source: readonly SourceRow[];
  readonly balance: Balance;
}

export type ReadList =
  | { readonly ok: true; readonly list: InputList }
  /** With the list where only the meaning of its columns is missing. */
  | { readonly ok: false; readonly message: string; readonly list?: InputList };

/** What a person has said of a list already, for its reading. */
export interface ListChoices {
  readonly meanings?: readonly Meaning[] | undefined;
  /** By the id of a question. */
  readonly answers?: Readonly<Record<string, string>> | undefined;
  /** Rows of the file that are switched off. */
  readonly off?: readonly number[] | undefined;
  /** People that the studio knows. */
  readonly people?: readonly string[] | undefined;
  /** Whether two inputs of a plural are a pair, as in lists, or a line each, as where names are typed. */
  readonly plural?: "pair" | "each" | undefined;
}

export const FOLDER_SEPARATOR = " › ";
/** Between what differs on the two sides of a stereo row. */
export const PAIR_SEPARATOR = " + ";

export const remark = (message: string, row: number | null = null, column: number | null = null): Remark => ({
  message,
  row,
  column,
});
