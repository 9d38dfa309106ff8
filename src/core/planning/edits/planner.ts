import type { Command, Refusal } from "../../commands/command";

/** How one kind of edit is done: the commands it comes to or why it can't be, and what a person would call it. */
export interface PlannerOf<D, E> {
  plan(doc: D, edit: E): readonly Command[] | Refusal;
  name(doc: D, edit: E): string;
}

/** The same fields for several entries. */
export const toAll = (
  ids: readonly string[],
  fields: object,
): Readonly<Record<string, Readonly<Record<string, unknown>>>> =>
  Object.fromEntries(ids.map((id) => [id, fields as Readonly<Record<string, unknown>>]));
