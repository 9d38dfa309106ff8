/**
 * One change of one place in a document; `path` leads from the root: a table, an id and a field, or a field of the
 * document itself.
 */
export interface Patch {
  readonly op: "add" | "replace" | "remove";
  readonly path: readonly string[];
  readonly value?: unknown;
}

type Fields = Readonly<Record<string, unknown>>;
interface Entry {
  readonly id: string;
}

/**
 * Fields of the document itself are set like those of an entry: in a table of this name, under the id of the document.
 */
export const HEADER = "document";

/** Adds entries of one table. Those that stand in an order come before `before`, else at the end of their parent. */
export interface AddCommand {
  readonly kind: "add";
  readonly table: string;
  readonly entries: readonly Entry[];
  readonly before?: string | null;
}

/** Sets fields of entries, to each its own. */
export interface SetCommand {
  readonly kind: "set";
  readonly table: string;
  readonly values: Readonly<Record<string, Fields>>;
}

/**
 * Puts entries, in the order in which they are named, before another one of a parent, or at its end. Without a parent
 * they stay in theirs.
 */
export interface MoveCommand {
  readonly kind: "move";
  readonly table: string;
  readonly ids: readonly string[];
  readonly parent?: string | null;
  readonly before: string | null;
}

export interface RemoveCommand {
  readonly kind: "remove";
  readonly table: string;
  readonly ids: readonly string[];
}

/**
 * Takes back what a gesture did, by its inverse patches; or carries differences of another document over, and then what
 * referred to something that goes is mended, as after any removal.
 */
export interface RestoreCommand {
  readonly kind: "restore";
  readonly undoes: string;
  readonly carries?: true;
  readonly patches: readonly Patch[];
}

/** Every edit of every document. Plain JSON; ids come with the command, so that a replay is exact. */
export type Command = AddCommand | SetCommand | MoveCommand | RemoveCommand | RestoreCommand;

export const VERBS = ["add", "set", "move", "remove", "restore"] as const satisfies readonly Command["kind"][];

export interface Refusal {
  readonly code: "missing" | "clash" | "empty" | "unfit";
  /** Id of the thing it is about. */
  readonly at: string;
  readonly message: string;
  /** Which command of several it was; none when it is about what all of them leave. */
  readonly index?: number;
}

export const refuse = (code: Refusal["code"], at: string, message: string): Refusal => ({ code, at, message });
