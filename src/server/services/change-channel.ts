import type { What } from "@/contracts/kinds";

/** The channel of the database on which every saved revision is told. */
export const CHANGES = "wandel_changes";

/** What is told of it. */
export interface Change {
  readonly kind: What;
  readonly id: string;
  readonly revision: number;
  /** The rig that a template stands on from now on; absent where it was not looked at. */
  readonly on?: string | undefined;
  /** True when it was deleted, false when it was brought back. */
  readonly gone?: boolean | undefined;
}

export const changeOf = (change: Change): string => JSON.stringify(change);
