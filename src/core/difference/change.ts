import type { Patch } from "../commands/command";

/**
 * Whose difference it is, seen from the ancestor of both: only the other one changed it, only this one did, or both and
 * not alike.
 */
export type Side = "theirs" | "ours" | "both";

export type ChangeKind = "new" | "gone" | "changed" | "moved";

/** One difference that can be carried by itself, or left: of one entry, with what comes and goes with it. */
export interface Change {
  /** The same for the same two documents: table, id and which part of the entry. */
  readonly id: string;
  readonly kind: ChangeKind;
  /** A table, or HEADER. */
  readonly table: string;
  readonly entryId: string;
  /** Of a changed one: what differs. */
  readonly fields: readonly string[];
  /** What leads from the one to the other. */
  readonly patches: readonly Patch[];
  /** What must be carried as well, or this would refer to nothing. */
  readonly needs: readonly string[];
  /** What comes or goes with it, by table: the sends and processors of a track. */
  readonly along: readonly { readonly table: string; readonly entryId: string }[];
  readonly side: Side;
  /**
   * Not shown and not chosen: carried with everything it needs ("with"), when something carried needs it ("asked"), or
   * with all the others ("all").
   */
  readonly quiet: "with" | "asked" | "all" | null;
}
