import { type Decibels, dB } from "../../units/decibels";
import { id, list, object, orNull, text as textSchema } from "../schema-parts";

/** How a value of a field is typed, shown and drawn by chance. */
export type FieldKind = "text" | "flag" | "choice" | "number" | "decibels" | "reference" | "closed" | "group";

/** A column of the grid that shows a field, and what can be done in it. */
export interface Column<Id extends string = string> {
  readonly id: Id;
  readonly heading: string;
  /** Where it stands: columns go from the smallest to the largest. */
  readonly seat: number;
  /** Pixels. */
  readonly width: number;
  /**
   * What the field is called in the inspector, if not as in lists; where it stands there; and what an empty one means.
   */
  readonly label?: string;
  readonly inspected?: number;
  readonly empty?: string;
  /** The heading is for screen readers only. */
  readonly quiet?: true;
  /** Not shown until it is asked for. */
  readonly hidden?: true;
  /**
   * Each row has one of its own: what is typed in one of several selected rows is for that row, and not for all of
   * them.
   */
  readonly own?: true;
  /** What a block of cells can be filled with: copied down, counted on, emptied. */
  readonly fills?: readonly ("copied" | "counted" | "emptied")[];
}

/** A column of input lists: what ours is headed by, and what others call it. */
export interface ListColumn<Meaning extends string = string> {
  readonly meaning: Meaning;
  readonly heading: string;
  /** With commas between, in lower case, without accents; our own heading is among them. */
  readonly words: string;
  /** What it is called where its meaning is chosen, if not by its heading. */
  readonly says?: string;
  /**
   * Where it stands among the columns that every list has; the others are written where a template says something in
   * them.
   */
  readonly always?: number;
}

/**
 * Where the patching sheet has a field: among what is set at the preamp, in the note, in a column that tells more than
 * the field, or nowhere.
 */
export type OnSheet = "settings" | "note" | "column" | "nowhere";

/** A column of the tables of rig and studio, in the order of the fields. */
export interface TableCell {
  readonly heading: string;
  /** Pixels; one without takes what is left. */
  readonly width?: number;
  /** What an empty text means. */
  readonly empty?: string;
  /** Of numbers: what is asked for where something else was typed, as "how many there are, from 1 on". */
  readonly ask?: string;
  /** Of choices: what each is called. */
  readonly names?: (value: never) => string;
}

/** What a field takes part in. */
export interface Parts {
  /** What a person calls it, in the name of an edit: "the gain". */
  readonly word: string;
  /**
   * What setting it is called, where "Set the gain of …" won't do. `who` are the entries in words: "Fiddle", "4
   * tracks".
   */
  readonly says?: (who: string, value: never, around: NamedAround) => string;
  /** A value of it in words, where its kind does not tell: what a difference says of it. */
  readonly tells?: (value: never, around: ToldAround) => string;
  /** Of texts: what is said to somebody who leaves it empty, where it must say something. */
  readonly needed?: string;
  /** It is set by acts of its own, which see to what hangs on it, and not as one field among others. */
  readonly apart?: true;
  readonly column?: Column;
  readonly cell?: TableCell;
  readonly list?: ListColumn;
  /** Of lines and tracks: where the patching sheet has it. */
  readonly sheet?: OnSheet;
  /** What it is called there, where the value alone could be another field's. */
  readonly calledOnSheet?: string;
  /** Templates are found by it. */
  readonly searched?: true;
  /**
   * An accepted finding on the thing comes back when it changes. The number is its place in the stamp of a cause, and
   * stays what it is.
   */
  readonly inCause?: number;
}

/** How the name of an edit looks up what it speaks of. */
export interface NamedAround {
  readonly entry: (table: string, id: string) => Readonly<Record<string, unknown>> | undefined;
}

/** The same with what other documents have: inputs and outputs of the rig, and rigs. */
export interface ToldAround extends NamedAround {
  readonly port: (id: string) => string;
  readonly rig: (id: string) => string;
}

/** What a value of a field refers to, and what becomes of it when that goes. */
export interface Reference {
  readonly to: string;
  /** Kinds of entries it may refer to; any where there is none. */
  readonly kinds?: readonly string[];
  /** What is said of an entry that refers to something that is not there: "takes a line that is not there". */
  readonly dangling?: string;
  /** What refers so is a part of what it refers to: it is copied with it. */
  readonly brings?: true;
  readonly ids: (value: never) => readonly string[];
  /**
   * The value without some of its targets; null when the entry goes along. Without this, what is referred to can't go.
   */
  readonly without?: (value: never, gone: ReadonlySet<string>) => { readonly value: unknown } | null;
}

export interface Switched {
  /** What it is called on and off, and what else means on, with commas between. */
  readonly on: string;
  readonly off: string;
  readonly words?: string;
  /** What a cell shows of it when it is on, and how on and off are said aloud. */
  readonly mark?: string;
  readonly said?: { readonly on: string; readonly off: string };
  /** How it is noted on the patching sheet when it is on, if not as it is said. */
  readonly noted?: string;
}

export interface Field<T = unknown> extends Parts {
  readonly kind: FieldKind;
  readonly schema: Readonly<Record<string, unknown>>;
  /** The value where nothing is known; fields without one must be given. */
  readonly initial?: T;
  readonly references?: readonly Reference[];
  /** Of flags. */
  readonly switched?: Switched & { readonly words: string };
  /** Of numbers. */
  readonly range?: { readonly min: number; readonly max: number };
  /** Of decibels: null is silence, −∞, and not that nobody has said. */
  readonly silent?: true;
  /** Of choices. */
  readonly options?: readonly unknown[];
  /** Of groups: fields that are set one by one. */
  readonly fields?: Fields;
  /** Of closed values: some to draw from in tests. */
  readonly samples?: readonly T[];
  /** Only for the type: no value has it. */
  readonly type?: T;
}

export type Fields = Readonly<Record<string, Field>>;
export type ValueOf<F> = F extends Field<infer T> ? T : never;
export type EntryOf<F extends Fields> = { readonly [K in keyof F]: ValueOf<F[K]> };

type With<P> = P & Parts;

/** Text of up to so many characters. */
export const text = <const P extends Parts>(most: number, parts: With<P>): Field<string> & P => ({
  kind: "text",
  schema: textSchema(most),
  initial: "",
  ...parts,
});
/** Text that says something. */
export const name = <const P extends Parts>(most: number, parts: With<P>): Field<string> & P => ({
  kind: "text",
  schema: { type: "string", minLength: 1, maxLength: most },
  ...parts,
});
export const textOrNull = <const P extends Parts>(most: number, parts: With<P>): Field<string | null> & P => ({
  kind: "text",
  schema: orNull(textSchema(most)),
  initial: null,
  ...parts,
});

/** On or off; off where nothing is known. */
export const flag = <const P extends Parts>(switched: Switched, parts: With<P>): Field<boolean> & P => ({
  kind: "flag",
  schema: { type: "boolean" },
  initial: false,
  switched: { words: "", ...switched },
  ...parts,
});
/** The same, but on where nothing is known. */
export const flagOn = <const P extends Parts>(switched: Switched, parts: With<P>): Field<boolean> & P => ({
  ...flag(switched, parts),
  initial: true,
});
export const YES_NO = { on: "yes", off: "no" } as const satisfies Switched;

/** One of several values. The schema may know more of them than are offered. */
export const choice = <T, const P extends Parts = Parts>(options: readonly T[], parts: With<P>): Field<T> & P => ({
  kind: "choice",
  schema: { enum: options },
  options,
  ...parts,
});
/** The same where nothing being said means the first. */
export const choiceFrom = <T, const P extends Parts = Parts>(options: readonly T[], parts: With<P>): Field<T> & P => {
  const [initial] = options;
  return { ...choice(options, parts), ...(initial === undefined ? {} : { initial }) };
};

interface NumberSpec {
  readonly min: number;
  readonly max: number;
  readonly whole?: true;
}

const numeric = ({ min, max, whole }: NumberSpec) => ({
  type: whole ? "integer" : "number",
  minimum: min,
  maximum: max,
});

export const number = <T extends number = number, const P extends Parts = Parts>(
  spec: NumberSpec,
  parts: With<P>,
): Field<T> & P => ({
  kind: "number",
  schema: numeric(spec),
  range: spec,
  ...parts,
});
/** A number, or null while nobody has said. */
export const numberOrNull = <T extends number = number, const P extends Parts = Parts>(
  spec: NumberSpec,
  parts: With<P>,
): Field<T | null> & P => ({
  kind: "number",
  schema: orNull(numeric(spec)),
  range: spec,
  initial: null,
  ...parts,
});
/** Decibels from `min` to `max`, or null while nobody has said. */
export const decibelsOrNull = <T extends number, const P extends Parts = Parts>(
  spec: NumberSpec,
  parts: With<P>,
): Field<T | null> & P => ({
  ...numberOrNull<T, P>(spec, parts),
  kind: "decibels",
});

/** A level in decibels; null is silence, −∞. */
export const level = <const P extends Parts>(
  spec: NumberSpec & { readonly initial: number },
  parts: With<P>,
): Field<Decibels | null> & P => ({
  ...numberOrNull<Decibels, P>({ min: spec.min, max: spec.max }, parts),
  kind: "decibels",
  initial: dB(spec.initial),
  silent: true,
});
/** A number that begins with a value. */
export const numberFrom = <T extends number = number, const P extends Parts = Parts>(
  { initial, ...spec }: NumberSpec & { readonly initial: T },
  parts: With<P>,
): Field<T> & P => ({
  ...number<T, P>(spec, parts),
  initial,
});

type Target = Pick<Reference, "to" | "kinds" | "dangling" | "brings">;

/** The id of an entry of another table; the entry goes along with it. */
export const partOf = <T extends string, const P extends Parts = Parts>(
  target: Target,
  parts: With<P>,
): Field<T> & P => ({
  kind: "reference",
  schema: id,
  references: [{ ...target, ids: (value: string) => [value], without: () => null }],
  ...parts,
});
/** The id of an entry of another table, or null; null when that goes. */
export const referenceOrNull = <T extends string, const P extends Parts = Parts>(
  target: Target,
  parts: With<P>,
): Field<T | null> & P => ({
  kind: "reference",
  schema: orNull(id),
  initial: null,
  references: [
    { ...target, ids: (value: string | null) => (value === null ? [] : [value]), without: () => ({ value: null }) },
  ],
  ...parts,
});
/**
 * Ids of entries of another table; those that go are left out, and with the last of them the entry goes along where one
 * is needed.
 */
export const references = <T extends string, const P extends Parts = Parts>(
  { most, least = 0, ...target }: Target & { readonly most: number; readonly least?: number },
  parts: With<P>,
): Field<readonly T[]> & P => ({
  kind: "reference",
  schema: { ...list(id, most), ...(least ? { minItems: least } : {}) },
  initial: [],
  references: [
    {
      ...target,
      ids: (value: readonly string[]) => value,
      without: (value: readonly string[], gone) => {
        const left = value.filter((one) => !gone.has(one));
        return left.length < least ? null : { value: left };
      },
    },
  ],
  ...parts,
});
/**
 * The id of something in another document: a rig's port, a microphone on its shelf. Whether it is there is a check's to
 * tell.
 */
export const elsewhereOrNull = <T extends string, const P extends Parts = Parts>(
  parts: With<P>,
): Field<T | null> & P => ({
  kind: "closed",
  schema: orNull(id),
  initial: null,
  ...parts,
});

/** The same where there must be one. */
export const idElsewhere = <T extends string, const P extends Parts = Parts>(parts: With<P>): Field<T> & P => ({
  kind: "closed",
  schema: id,
  ...parts,
});

interface Closed<T> {
  readonly schema: Readonly<Record<string, unknown>>;
  readonly initial?: T;
  readonly references?: readonly Reference[];
  readonly samples: readonly T[];
}

/** A small structure that is set as a whole. */
export const closed = <T, const P extends Parts = Parts>(spec: Closed<T>, parts: With<P>): Field<T> & P => ({
  kind: "closed",
  ...spec,
  ...parts,
});

/** A few fields that belong together and are set one by one. */
export const group = <F extends Fields, const P extends Parts = Parts>(
  fields: F,
  parts: With<P>,
): Field<EntryOf<F>> & P & { readonly fields: F } => ({
  kind: "group",
  schema: object(schemasOf(fields)),
  fields,
  ...parts,
});

export const schemasOf = (fields: Fields): Readonly<Record<string, unknown>> =>
  Object.fromEntries(Object.entries(fields).map(([key, field]) => [key, field.schema]));
