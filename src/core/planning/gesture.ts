import type { Edit } from "./edits/edit";

/** What one act of a person does: edits that are done, named and undone together. No name: that of the first edit. */
export interface Gesture {
  readonly name?: string;
  readonly edits: readonly Edit[];
}

/** A gesture made of what was typed, or why it can't be made. */
export type Planned =
  | { readonly ok: true; readonly gesture: Gesture }
  | { readonly ok: false; readonly message: string };

export const planned = (edits: readonly Edit[], name?: string): Planned => ({
  ok: true,
  gesture: name ? { name, edits } : { edits },
});
export const unplanned = (message: string): Planned => ({ ok: false, message });
