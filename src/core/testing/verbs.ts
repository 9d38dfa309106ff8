import { type Command, HEADER } from "../commands/command";

/** Commands by hand, for tests of what takes them. */
export const set = (table: string, id: string, fields: Readonly<Record<string, unknown>>): Command => ({
  kind: "set",
  table,
  values: { [id]: fields },
});
export const setHeader = (id: string, fields: Readonly<Record<string, unknown>>): Command => set(HEADER, id, fields);
export const add = (table: string, ...entries: readonly { readonly id: string }[]): Command => ({
  kind: "add",
  table,
  entries,
});
export const remove = (table: string, ...ids: readonly string[]): Command => ({ kind: "remove", table, ids });
